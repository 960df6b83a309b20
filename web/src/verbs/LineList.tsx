import { Fragment, memo, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { answer, api, said } from "../api/client";
import type { LineFault } from "../api/types";
import { type BenchName, docOf, type NewLine } from "../document/bench";
import { draft } from "../document/draft";
import { copyLine, moveLine, nameGroup, removeLine, switchLine } from "../document/lines";
import { classes } from "../hooks/classes";
import { useChecked } from "../hooks/useBench";
import { useDocument, useDraft, useSteady } from "../hooks/useDraft";
import { FaultNote } from "./Fault";
import { Fields, useOwner } from "./Field";
import { LineActs } from "./LineActs";
import { GroupHead, groupsOf, useFolded } from "./LineGroup";
import { takeIn, textOf } from "./lineText";
import { foundIn, viewOf } from "./names";
import { Sentence } from "./Sentence";
import { type Said, useVerbs, type VerbView } from "./useVerbs";

const NO_FAULTS: LineFault[] = [];
/** What the arrows walk from one to the next. */
const STOPS = "[data-line], [data-group]";

/**
 * Spoken lines in their order: each can be moved, switched off, copied or taken out, by mouse or keyboard.
 */
export function LineList({ bench, label }: { bench: BenchName; label: string }) {
  const lines = useDocument((d) => docOf(bench, d)?.lines) ?? [];
  const faults = useChecked(bench)?.faults;
  const list = useRef<HTMLOListElement>(null);
  const walk = useCallback((from: HTMLElement, by: number) => {
    const all = [...(list.current?.querySelectorAll<HTMLElement>(STOPS) ?? [])];
    const to = all.indexOf(from) + by;
    (to < 0 ? document.querySelector<HTMLElement>("#short-text") : all[to])?.focus();
  }, []);
  const byLine = useMemo(() => {
    const out = new Map<string, LineFault[]>();
    for (const f of faults ?? []) out.set(f.line, [...(out.get(f.line) ?? []), f]);
    return out;
  }, [faults]);
  const groups = useMemo(() => groupsOf(lines), [lines]);
  const place = useMemo(() => new Map(lines.map((l, i) => [l.id, i])), [lines]);
  const of = useDocument((d) => docOf(bench, d)?.id) ?? "";
  const [folded, flip] = useFolded(of, groups);
  useClipboard(bench, list);
  return (
    <ol className="recipe" ref={list} aria-label={label}>
      {groups.map((g) => {
        const away = g.name !== "" && folded.has(g.first);
        return (
          <Fragment key={g.first}>
            {g.name !== "" && (
              <GroupHead
                bench={bench}
                group={g}
                folded={away}
                wrong={g.lines.filter((l) => byLine.has(l.id)).length}
                flip={() => flip(g.first)}
                walk={walk}
              />
            )}
            {!away &&
              g.lines.map((line) => (
                <SpokenLine
                  key={line.id}
                  bench={bench}
                  line={line}
                  i={place.get(line.id) ?? 0}
                  faults={byLine.get(line.id) ?? NO_FAULTS}
                  walk={walk}
                />
              ))}
          </Fragment>
        );
      })}
    </ol>
  );
}

interface LineProps {
  bench: BenchName;
  line: NewLine;
  i: number;
  faults: LineFault[];
  walk(from: HTMLElement, by: number): void;
}

/** Drawn anew only where the line itself, its place or its faults change. */
const SpokenLine = memo(function SpokenLine({ bench, line, i, faults, walk }: LineProps) {
  const lit = useDraft((d) => d.hover.line === line.id || d.hover.lines?.includes(line.id) === true);
  const picked = useDraft((d) => d.picked === line.id);
  const { setHover, pick } = draft.getState();
  // What was left open and found stands in its field, faint.
  const found = useSteady((d) => foundIn(bench === "piece" ? viewOf(d) : undefined, line.id));
  const [noting, setNoting] = useState(false);
  const [naming, setNaming] = useState(false);
  const own = useRef<HTMLLIElement>(null);
  const remove = useCallback(() => {
    const here = own.current;
    const first = here && document.querySelector(STOPS) === here;
    const next = first ? (here.nextElementSibling as HTMLElement | null) : null;
    if (here && !next) walk(here, -1);
    removeLine(bench, line.id);
    next?.focus();
  }, [bench, line.id, walk]);
  const group = useCallback(() => {
    nameGroup(bench, line.id, "New group");
    requestAnimationFrame(() =>
      document.querySelector<HTMLInputElement>(`[data-group="${line.id}"] input`)?.select(),
    );
  }, [bench, line.id]);
  const note = useCallback(() => setNoting(true), []);
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
      KeyG: group,
    };
    if (e.altKey && named[e.code]) {
      e.preventDefault();
      named[e.code]!();
      return;
    }
    const act: Record<string, () => void> = {
      ArrowUp: () => (e.altKey ? moveLine(bench, line.id, -1) : walk(e.currentTarget, -1)),
      ArrowDown: () => (e.altKey ? moveLine(bench, line.id, 1) : walk(e.currentTarget, 1)),
      Delete: remove,
      " ": () => switchLine(bench, line.id),
      Enter: () => e.currentTarget.querySelector<HTMLElement>("input, select")?.focus(),
      d: () => copyLine(bench, line.id),
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
      ref={own}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrows walk from line to line
      tabIndex={0}
      className={classes("line", { lit, picked, off: line.off, faulty: faults.length > 0 })}
      data-line={line.id}
      onFocus={() => pick(line.id)}
      onPointerEnter={() => setHover({ line: line.id, names: [] })}
      onPointerLeave={() => setHover({ names: [] })}
      onKeyDown={keys}
    >
      {/* Its name stands beside it, a letter 6.6 px wide. */}
      <div className="say" style={{ paddingRight: Math.max(58, line.id.length * 6.6 - 4) }}>
        <Fields at={`/lines/${i}`} faults={faults} of={line.id} usual={found}>
          <Sentence bench={bench} verb={(line.say as Said).verb} />
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
      <LineName bench={bench} id={line.id} naming={naming} name={setNaming} />
      <LineActs
        bench={bench}
        id={line.id}
        off={line.off ?? false}
        note={note}
        group={group}
        remove={remove}
      />
      {faults.map((f, k) => (
        <FaultNote key={k} fault={f} at={`/lines/${i}`} />
      ))}
    </li>
  );
});

/**
 * Copying and pasting while a line has the keyboard. Listened for on the whole page: browsers send it to
 * where the last selection was, which may be a field that is gone.
 */
function useClipboard(bench: BenchName, list: React.RefObject<HTMLOListElement | null>): void {
  const verbs = useVerbs()?.[bench];
  useEffect(() => {
    const lineAt = () => {
      const at = document.activeElement;
      return at instanceof HTMLElement && list.current?.contains(at) ? at.dataset.line : undefined;
    };
    const copy = (e: ClipboardEvent) => {
      const id = lineAt();
      const line = docOf(bench)?.lines?.find((l) => l.id === id);
      if (!line || !getSelection()?.isCollapsed) return;
      e.preventDefault();
      void copyAsText(bench, line);
    };
    const paste = (e: ClipboardEvent) => {
      if (!lineAt()) return;
      e.preventDefault();
      void pasteLines(bench, e.clipboardData?.getData("text") ?? "", verbs);
    };
    document.addEventListener("copy", copy);
    document.addEventListener("paste", paste);
    return () => {
      document.removeEventListener("copy", copy);
      document.removeEventListener("paste", paste);
    };
  }, [bench, list, verbs]);
}

async function copyAsText(bench: BenchName, line: NewLine): Promise<void> {
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
interface NameProps {
  bench: BenchName;
  id: string;
  naming: boolean;
  name(on: boolean): void;
}

function LineName({ bench, id, naming, name }: NameProps) {
  const [text, setText] = useState(id);
  const done = async () => {
    const to = text.trim();
    name(false);
    setText(id);
    const { job } = draft.getState();
    const of = docOf(bench)?.id ?? "";
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
