import { Fragment, memo, type ReactNode, useState } from "react";
import { flushSync } from "react-dom";
import type { BenchName } from "../document/bench";
import { get } from "../document/pointer";
import { useDraft } from "../hooks/useDraft";
import { Act } from "./Act";
import { Choice, useAt, useCalled, useFaulty, useInches, useOwner, useValue, Val } from "./Field";
import { ListPart } from "./ListPart";
import { Pick } from "./Pick";
import { NamesPart, SlotPart } from "./slots";
import { type Of, type PartView, useVerbs } from "./useVerbs";

/**
 * A line read out as a fabricator would say it, from its verb's own description, its values open to change.
 */
export function Sentence({ bench, verb }: { bench: BenchName; verb: string }) {
  const described = useVerbs()?.[bench].find((v) => v.tag === verb);
  if (!described) return null;
  return <Parts parts={described.sentence} pre="/say" tail="." />;
}

/** Clauses that a line does not have yet and that were asked for. */
export type Asking = [number[], (next: number[]) => void];

interface PartsProps {
  /** Kept elsewhere, where the asking is done by a menu. */
  asking?: Asking;
  parts: PartView[];
  /** Where their paths begin, below the line. */
  pre: string;
  /** What stands behind the last of them without a blank. */
  tail?: string;
  /** Stands for `{id}` and `{n}` in labels. */
  item?: { id?: string; n: number };
  /** Words of the same sentence stand before them. */
  follows?: boolean;
}

const isVerb = (p: PartView | undefined) => p?.part === "word" && (p.verb || p.opening);

/** Words and fields one after another. */
export function Parts({ parts, pre, tail, item, asking, follows = false }: PartsProps) {
  const at = useAt();
  const own = useState<number[]>([]);
  const [asked, setAsked] = asking ?? own;
  const value = useValue(at + pre);
  const seen = parts.map((p, i) => p.part !== "clause" || asked.includes(i) || isShown(p, value));
  const last = seen.lastIndexOf(true);
  const more = asking ? [] : parts.flatMap((p, i) => (!seen[i] && isOwn(p) ? [i] : []));
  const end = more.length === 0 ? (tail ?? "") : "";
  const isFirst = (i: number) => !follows && !seen.slice(0, i).includes(true);
  const comma = (i: number) => {
    const p = parts[i];
    return (
      p?.part === "clause" &&
      !p.close &&
      !isFirst(i) &&
      !isVerb(parts[i - 1]) &&
      !startsWithSign(p.parts[0])
    );
  };
  /** A comma stands close behind what is before it, so that none begins a row. */
  const closes = (i: number) => {
    const next = seen.indexOf(true, i + 1);
    return next > 0 && comma(next) && takesTail(parts[i]!);
  };
  return (
    <>
      {parts.map((p, i) => {
        if (!seen[i]) return null;
        const before = seen.lastIndexOf(true, i - 1);
        const opened = parts[i - 1]?.part === "word" && (parts[i - 1] as Of<"word">).opening;
        const told = i > 0 && before >= 0 && closes(before);
        const lead = comma(i)
          ? told
            ? " "
            : ", "
          : isFirst(i) || startsWithSign(p) || opened
            ? ""
            : " ";
        return (
          <Fragment key={i}>
            {lead}
            <Part part={p} pre={pre} tail={i === last ? end : closes(i) ? "," : ""} item={item} />
            {isOwn(p) && (
              <TakeOut
                clause={p as Of<"clause">}
                pre={pre}
                done={() => setAsked(asked.filter((k) => k !== i))}
              />
            )}
          </Fragment>
        );
      })}
      {more.map((i) => (
        <Fragment key={`more ${i}`}>
          {" "}
          <Act
            onClick={(e) =>
              begun(e.currentTarget, pre, parts[i] as Of<"clause">, () => setAsked([...asked, i]))
            }
          >
            {`+ ${clauseName(parts[i] as Of<"clause">)}`}
          </Act>
        </Fragment>
      ))}
      {more.length > 0 && tail}
    </>
  );
}

/**
 * What was asked for is written at once: its first value takes the keyboard before another key can come.
 */
function begun(chip: HTMLElement, pre: string, clause: Of<"clause">, ask: () => void): void {
  const line = chip.closest("[data-line], .setting, .figures-of-job > li");
  flushSync(ask);
  line?.querySelector<HTMLElement>(`[data-path="${pre}${paths(clause.parts)[0]}"]`)?.focus();
}

const startsWithSign = (p: PartView | undefined): boolean =>
  p?.part === "word" && (p.sign || p.text.startsWith(","));

/**
 * Whether what stands close behind a part is written by it: a chain of items and what can be taken out end
 * otherwise.
 */
const takesTail = (p: PartView): boolean =>
  p.part === "list" ? !p.chain : !isOwn(p) && (!("parts" in p) || p.parts.every(takesTail));

/** A clause that stands only where it is asked for. */
export const isOwn = (p: PartView): boolean => {
  if (p.part !== "clause" || p.shown.when !== "told") return false;
  const path = p.shown.path;
  return paths(p.parts).some(
    (own) => own === path || path.startsWith(`${own}/`) || own.startsWith(`${path}/`),
  );
};

/** What a clause that is not said yet is called. */
export function clauseName(clause: Of<"clause">): string {
  const first = clause.parts[0];
  const word = first?.part === "word" ? first.text.replace(/:$/, "") : "";
  const labelled = clause.parts.find((p) => "label" in p) as { label: string } | undefined;
  return word || labelled?.label || "more";
}

/** Every path that a clause writes. */
function paths(parts: PartView[]): string[] {
  return parts.flatMap((p) =>
    p.part === "clause" ? paths(p.parts) : p.part === "within" ? [p.path] : "path" in p ? [p.path] : [],
  );
}

function TakeOut({ clause, pre, done }: { clause: Of<"clause">; pre: string; done(): void }) {
  const { write } = useOwner();
  const at = useAt();
  return (
    <Act
      aria-label={`take out ${clauseName(clause)}`}
      onClick={() => {
        // A bend rule goes as a whole: its parts mean nothing alone.
        const all = [...new Set(paths(clause.parts).map((p) => `/${p.split("/")[1]}`))];
        for (const p of all) write(`${at}${pre}${p}`, undefined);
        done();
      }}
    >
      ×
    </Act>
  );
}

/** Whether a clause is a part of the sentence as the line stands. */
function isShown(clause: Of<"clause">, value: unknown): boolean {
  const w = clause.shown;
  const text = (path: string) => String(get(value, path) ?? "");
  switch (w.when) {
    case "always":
      return true;
    case "is":
      return w.of.includes(text(w.path));
    case "is_not":
      return !w.of.includes(text(w.path));
    case "told":
      return text(w.path) !== "";
    case "not_told":
      return text(w.path) === "";
    case "at_least":
      return ((get(value, w.path) as unknown[] | undefined) ?? []).length >= w.count;
    default:
      return false;
  }
}

interface PartProps {
  part: PartView;
  pre: string;
  tail: string;
  item?: PartsProps["item"];
}

const Part = memo(function Part({ part, pre, tail, item }: PartProps): ReactNode {
  switch (part.part) {
    case "word":
      return (
        <>
          {part.verb ? <b>{part.text}</b> : part.text}
          {tail}
        </>
      );
    case "slot":
      return (
        <Ended
          tail={part.after + tail}
          of={<SlotPart slot={part} pre={pre} label={labelled(part.label, item)} />}
        />
      );
    case "names":
      return <Ended tail={tail} of={<NamesPart names={part} pre={pre} />} />;
    case "pick":
      return (
        <Ended tail={tail} of={<PickPart pick={part} pre={pre} label={labelled(part.label, item)} />} />
      );
    case "union":
      return <UnionPart union={part} pre={pre} tail={tail} item={item} />;
    case "clause":
      return <Parts parts={part.parts} pre={pre} tail={tail} item={item} />;
    case "within":
      return <Parts parts={part.parts} pre={pre + part.path} tail={tail} item={item} follows />;
    case "list":
      return <ListPart list={part} pre={pre} tail={tail} />;
  }
});

/**
 * A field with what stands close behind it, so that no full stop begins a row. Always in a span: a field
 * whose tail came and went would lose the keyboard.
 */
function Ended({ of, tail }: { of: ReactNode; tail: string }) {
  return (
    <span className="end">
      {of}
      {/^[a-z]/.test(tail) ? ` ${tail}` : tail}
    </span>
  );
}

export const labelled = (label: string, item: PartsProps["item"]): string =>
  label.replace("{id}", item?.id ?? "").replace("{n}", String(item?.n ?? ""));

function PickPart({ pick, pre, label }: { pick: Of<"pick">; pre: string; label: string }) {
  const at = useAt();
  // Only a folded panel has ends, a fold and a tip of its own.
  const on = useValue(`${at}${pre}/on`);
  const parent = useDraft((d) => d.result?.piece?.zones.find((z) => z.name === on)?.parent);
  const folded = parent !== null && parent !== undefined;
  const now = String(useValue(`${at}${pre}${pick.path}`) ?? pick.usual);
  if (pick.free)
    return <Val path={pre + pick.path} label={label} options={pick.options.map((o) => o.value)} />;
  if (pick.beside) return <BesidePick pick={pick} pre={pre} label={label} folded={folded} />;
  const options = pick.options
    .filter((o) => !o.folded || folded || o.value === now)
    .map((o): [string, string] => [o.value, o.words]);
  const named = options.some(([v]) => v === "");
  const absent: [string, string][] = pick.usual === "" && !named ? [["", "—"]] : [];
  return (
    <Choice
      path={pre + pick.path}
      label={label}
      options={[...absent, ...options]}
      usual={pick.usual}
      flag={pick.flag}
      leads={pick.leads}
      optional={pick.usual === ""}
      bold={pick.begins}
    />
  );
}

/** Words that tell two fields. */
function BesidePick({
  pick,
  pre,
  label,
  folded,
}: {
  pick: Of<"pick">;
  pre: string;
  label: string;
  folded: boolean;
}) {
  const { write } = useOwner();
  const at = useAt();
  const faulty = useFaulty(`${pre}${pick.path}`);
  const called = useCalled(label);
  const group = pick.path.slice(0, pick.path.lastIndexOf("/"));
  const own = useValue(`${at}${pre}${group}`) as Record<string, unknown> | undefined;
  const [usual, usualBeside] = pick.usual.split("|");
  const [name, besideName] = [pick.path, pick.beside].map((p) => p.slice(group.length + 1)) as [
    string,
    string,
  ];
  const first = String(own?.[name] ?? usual);
  const both = `${first}|${own?.[besideName] ?? usualBeside}`;
  const value =
    pick.options.find((o) => o.value === both)?.value ??
    pick.options.find((o) => o.value.startsWith(`${first}|`))?.value ??
    both;
  return (
    <Pick
      label={called}
      path={pre + pick.path}
      faulty={faulty}
      value={value}
      options={pick.options
        .filter((o) => !o.folded || folded || o.value === value)
        .map((o) => [o.value, o.words] as const)}
      choose={(v) => {
        const [a, b] = v.split("|");
        // Both in one step.
        write(`${at}${pre}${group}`, {
          ...own,
          [name]: a,
          [besideName]: b === usualBeside ? undefined : b,
        });
      }}
    />
  );
}

/** A choice that brings values of its own. */
function UnionPart({
  union,
  pre,
  tail,
  item,
}: {
  union: Of<"union">;
  pre: string;
  tail: string;
  item?: PartsProps["item"];
}) {
  const { write } = useOwner();
  const at = useAt();
  const path = pre + union.path;
  const called = useCalled(union.label);
  const inch = useInches();
  const value = useValue(at + path) as Record<string, unknown> | undefined;
  const tag = value?.[union.tag] === undefined ? undefined : String(value[union.tag]);
  // An item of a list says by its values what it is.
  const silent = union.path === "";
  const told = union.cases.find((c) => c.tag === tag);
  const case_ = told ?? (union.optional ? undefined : union.cases[0]);
  const choose = (next: string) => {
    const c = union.cases.find((x) => x.tag === next);
    if (c) write(at + path, inch ? c.inch : c.mm);
    else if (union.optional) write(at + path, undefined);
  };
  const words = union.cases.map((c): [string, string] => [c.tag, c.words]);
  return (
    <>
      {!silent && (
        <Pick
          label={called}
          path={`${path}/${union.tag}`}
          bold={union.begins}
          value={case_?.tag ?? ""}
          options={union.optional ? [["", union.empty], ...words] : words}
          choose={choose}
        />
      )}
      {case_ && case_.parts.length > 0 ? (
        <>
          {!silent && " "}
          <Parts parts={case_.parts} pre={path} tail={tail} item={item} />
        </>
      ) : (
        tail
      )}
    </>
  );
}
