import { Tooltip } from "@mui/material";
import { type ReactNode, useRef, useState } from "react";
import { answer, api, said } from "../api/client";
import type { LineFault } from "../api/types";
import type { BenchName } from "../document/bench";
import { draft } from "../document/draft";
import { type Issued, issue, mentions, retire, stemOf } from "../document/ids";
import { classes } from "../hooks/classes";
import { useDraft } from "../hooks/useDraft";
import { FaultNote } from "./Fault";
import { Fields, useOwner } from "./Field";
import { takeIn, textOf } from "./lineText";
import { useVerbs, type VerbView } from "./useVerbs";

/** A spoken line of any kind. */
interface Spoken {
  id: string;
  off?: boolean;
  note?: string;
  say: unknown;
}

interface ListProps<L extends Spoken> {
  bench: BenchName;
  label: string;
  lines: L[];
  faults: LineFault[];
  /** Changes the lines, and with them which ids were given out. */
  change(f: (lines: L[], issued: Issued) => L[] | { lines: L[]; issued: Issued }): void;
  sentence(line: L, at: string): ReactNode;
}

/**
 * Spoken lines in their order: each can be moved, switched off, copied or taken out, by mouse or keyboard.
 */
export function LineList<L extends Spoken>(props: ListProps<L>) {
  const { bench, label, lines, faults, change, sentence } = props;
  const list = useRef<HTMLOListElement>(null);
  const focus = (i: number) =>
    (
      (list.current?.children[i] as HTMLElement | undefined) ??
      (i < 0 ? document.querySelector<HTMLElement>("#short-text") : undefined)
    )?.focus();
  return (
    <ol className="recipe" ref={list} aria-label={label}>
      {lines.map((line, i) => (
        <SpokenLine
          key={line.id}
          bench={bench}
          line={line}
          lines={lines}
          i={i}
          faults={faults.filter((f) => f.line === line.id)}
          focus={focus}
          change={change}
          sentence={sentence}
        />
      ))}
    </ol>
  );
}

interface LineProps<L extends Spoken> {
  bench: BenchName;
  line: L;
  lines: L[];
  i: number;
  faults: LineFault[];
  focus(i: number): void;
  change: ListProps<L>["change"];
  sentence: ListProps<L>["sentence"];
}

function SpokenLine<L extends Spoken>(props: LineProps<L>) {
  const { bench, line, lines, i, faults, focus, change, sentence } = props;
  const verbs = useVerbs()?.[bench];
  const lit = useDraft((d) => d.hover.line === line.id);
  const picked = useDraft((d) => d.picked === line.id);
  const { setHover, pick } = draft.getState();
  const [noting, setNoting] = useState(false);
  const [naming, setNaming] = useState(false);
  const move = (by: number) =>
    change((lines) => {
      const from = lines.findIndex((l) => l.id === line.id);
      const to = from + by;
      if (from < 0 || to < 0 || to >= lines.length) return lines;
      const out = [...lines];
      [out[from], out[to]] = [out[to]!, out[from]!];
      return out;
    });
  const toggle = () =>
    change((lines) =>
      lines.map((l) => {
        if (l.id !== line.id) return l;
        const { off, ...on } = l;
        return (off ? on : { ...l, off: true }) as L;
      }),
    );
  const remove = () => {
    const by = mentions(line.id, lines);
    change((lines, issued) => ({
      lines: lines.filter((l) => l.id !== line.id),
      issued: retire(line.id, issued),
    }));
    focus(lines.length > 1 ? Math.max(i - 1, 0) : -1);
    // They stay, with their fault.
    if (by.length > 0)
      draft.setState({
        word: `${line.id} is taken out; ${by.join(", ")} still ${by.length > 1 ? "name" : "names"} it`,
      });
  };
  const copy = () =>
    change((lines, issued) => {
      const from = lines.findIndex((l) => l.id === line.id);
      const fresh = issue(
        stemOf(line.id),
        lines.map((l) => l.id),
        issued,
      );
      return {
        lines: [...lines.slice(0, from + 1), { ...line, id: fresh.id }, ...lines.slice(from + 1)],
        issued: fresh.issued,
      };
    });
  const keys = (e: React.KeyboardEvent<HTMLLIElement>) => {
    // Enter that ends a composed letter stays with the field.
    if (e.nativeEvent.isComposing || e.keyCode === 229) return;
    if (e.target !== e.currentTarget) {
      const typed = (e.target as Element).matches("input");
      if (e.key === "Escape" || (e.key === "Enter" && typed)) e.currentTarget.focus();
      return;
    }
    // By its place on the keyboard: with Alt, the letter itself may be another.
    const named: Record<string, () => void> = {
      KeyN: () => setNaming(true),
      KeyR: () => setNoting(true),
    };
    if (e.altKey && named[e.code]) {
      e.preventDefault();
      named[e.code]!();
      return;
    }
    const act: Record<string, () => void> = {
      ArrowUp: () => (e.altKey ? move(-1) : focus(i - 1)),
      ArrowDown: () => (e.altKey ? move(1) : focus(i + 1)),
      Delete: remove,
      " ": toggle,
      Enter: () => e.currentTarget.querySelector<HTMLElement>("input, select")?.focus(),
      d: copy,
    };
    const run = act[e.key];
    // Held down, only the way from line to line goes on.
    if (e.repeat && !(e.key.startsWith("Arrow") && !e.altKey)) {
      if (run) e.preventDefault();
      return;
    }
    if (run && !e.ctrlKey && !e.metaKey) {
      e.preventDefault();
      e.stopPropagation();
      run();
    }
  };
  return (
    <li
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrows walk from line to line
      tabIndex={0}
      className={classes("line", { lit, picked, off: line.off, faulty: faults.length > 0 })}
      data-line={line.id}
      onFocus={() => pick(line.id)}
      onPointerEnter={() => setHover({ line: line.id, names: [] })}
      onPointerLeave={() => setHover({ names: [] })}
      onKeyDown={keys}
      onCopy={(e) => {
        if (e.target !== e.currentTarget || !getSelection()?.isCollapsed) return;
        e.preventDefault();
        void copyLine(bench, line);
      }}
      onPaste={(e) => {
        if (e.target !== e.currentTarget) return;
        e.preventDefault();
        void pasteLines(bench, e.clipboardData.getData("text"), verbs);
      }}
    >
      <div className="say">
        <Fields at={`/lines/${i}`} faults={faults} of={line.id}>
          {sentence(line, `/lines/${i}`)}
        </Fields>
      </div>
      {(line.note || noting) && (
        <Remark
          id={line.id}
          note={line.note ?? ""}
          at={`/lines/${i}/note`}
          done={() => setNoting(false)}
          asked={noting}
        />
      )}
      <LineName id={line.id} naming={naming} name={setNaming} />
      <span className="line-acts">
        <LineAct title="move up (Alt ↑)" label={`move ${line.id} up`} run={() => move(-1)} sign="↑" />
        <LineAct title="move down (Alt ↓)" label={`move ${line.id} down`} run={() => move(1)} sign="↓" />
        <LineAct
          title={line.off ? "switch on (space)" : "switch off (space)"}
          label={`switch ${line.id} ${line.off ? "on" : "off"}`}
          run={toggle}
          sign={line.off ? "on" : "off"}
        />
        <LineAct
          title="a remark that stays with the line (Alt R)"
          label={`remark on ${line.id}`}
          run={() => setNoting(true)}
          sign="remark"
        />
        <LineAct title="copy (D)" label={`copy ${line.id}`} run={copy} sign="copy" />
        <LineAct title="take out (Delete)" label={`take out ${line.id}`} run={remove} sign="×" />
      </span>
      {faults.map((f, k) => (
        <FaultNote key={k} fault={f} at={`/lines/${i}`} />
      ))}
    </li>
  );
}

async function copyLine(bench: BenchName, line: Spoken): Promise<void> {
  try {
    // Browsers keep it from pages that are not sent over TLS.
    if (!navigator.clipboard) throw new Error("this browser lets the page copy over HTTPS only");
    const text = await textOf(bench, line);
    await navigator.clipboard.writeText(text);
    draft.setState({ word: `copied: ${text}` });
  } catch (e) {
    draft.setState({ word: `${line.id} is not copied: ${said(e)}` });
  }
}

async function pasteLines(bench: BenchName, text: string, verbs: VerbView[] | undefined): Promise<void> {
  try {
    const { taken, untaken } = await takeIn(bench, text, verbs);
    const first = untaken[0];
    const why = first ? `; “${first.row.trim().slice(0, 50)}”: ${first.message}. Try: ${first.mend}` : "";
    draft.setState({ word: `${taken} of ${taken + untaken.length} lines put in${why}` });
    const { picked } = draft.getState();
    if (taken > 0)
      requestAnimationFrame(() =>
        document.querySelector<HTMLElement>(`[data-line="${picked}"]`)?.focus(),
      );
  } catch (e) {
    draft.setState({ word: `nothing is put in: ${said(e)}` });
  }
}

/** Why the line is as it is: told to whoever reads it, and printed with the text. */
function Remark({
  id,
  note,
  at,
  done,
  asked,
}: {
  id: string;
  note: string;
  at: string;
  done(): void;
  asked: boolean;
}) {
  const { write } = useOwner();
  return (
    <input
      className="remark"
      aria-label={`remark of ${id}`}
      placeholder="a remark"
      // It was asked for by a click.
      // biome-ignore lint/a11y/noAutofocus: the keyboard goes where the click was
      autoFocus={asked && note === ""}
      value={note}
      onChange={(e) => write(at, e.target.value || undefined, true)}
      onBlur={done}
    />
  );
}

/**
 * The line's own name, under which others speak of it. A new one is taken along by all that name the line, in
 * one step.
 */
function LineName({ id, naming, name }: { id: string; naming: boolean; name(on: boolean): void }) {
  const { doc } = useOwner();
  const [text, setText] = useState(id);
  const done = async () => {
    const to = text.trim();
    name(false);
    setText(id);
    const { job } = draft.getState();
    const of = (doc as { id?: string } | undefined)?.id ?? "";
    if (!job || to === id || to === "") return;
    try {
      const renamed = answer(await api.POST("/api/rename", { body: { job, from: id, to, line_of: of } }));
      const now = draft.getState();
      if (now.job !== job) return;
      now.edit("", () => renamed);
      now.pick(to);
    } catch (e) {
      draft.setState({ word: `${id} keeps its name. ${said(e)}` });
    }
  };
  if (!naming)
    return (
      <button
        type="button"
        tabIndex={-1}
        className="line-id"
        title="give it another name (Alt N)"
        onClick={() => name(true)}
      >
        {id}
      </button>
    );
  return (
    <input
      className="line-id"
      data-own-text
      aria-label={`name of ${id}`}
      // It was asked for by a click.
      // biome-ignore lint/a11y/noAutofocus: the keyboard goes where the click was
      autoFocus
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => void done()}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter" && !e.nativeEvent.isComposing) e.currentTarget.blur();
        if (e.key === "Escape") {
          setText(id);
          name(false);
        }
      }}
    />
  );
}

function LineAct({
  title,
  label,
  run,
  sign,
}: {
  title: string;
  label: string;
  run(): void;
  sign: string;
}) {
  return (
    <Tooltip title={title}>
      <button type="button" tabIndex={-1} aria-label={label} onClick={run}>
        {sign}
      </button>
    </Tooltip>
  );
}
