import { useState } from "react";
import type { Check, Measured } from "../api/types";
import { writeDoc } from "../document/bench";
import { type Draft, draft } from "../document/draft";
import { useDraft } from "../hooks/useDraft";

const HAND = "steelk.hand";

/** Who measures here, as the browser remembers it. */
const hand = () => localStorage.getItem(HAND) ?? "";

/** Today as it is written beside a value. */
const today = () => {
  const d = new Date();
  const two = (n: number) => String(n).padStart(2, "0");
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}`;
};

const NONE: Measured[] = [];

/** All that was measured of the brief on the bench. */
const listed = (d: Draft): Measured[] => d.job?.briefs?.find((b) => b.id === d.brief)?.measured ?? NONE;

type Piece = "first" | "last";

const isOf = (m: Measured, check: Check, piece: Piece) =>
  m.line === check.line && (m.what ?? "") === check.what && (m.piece ?? "first") === piece;

/** What was measured of a figure on one piece: typed here, with its departure beside it. */
export function Taken({ check, piece }: { check: Check; piece: Piece }) {
  const index = useDraft((d) => listed(d).findIndex((m) => isOf(m, check, piece)));
  const typed = useDraft((d) => listed(d)[index]?.value ?? "");
  const fault = useDraft((d) =>
    index < 0 ? undefined : d.result?.brief?.faults.find((f) => f.path === `/measured/${index}/value`),
  );
  const taken = check.taken.find((t) => t.piece === piece);
  const write = (value: string) => {
    const all = listed(draft.getState());
    const now: Measured = {
      line: check.line,
      ...(check.what && { what: check.what }),
      ...(piece === "last" && { piece }),
      value,
      ...(hand() && { who: hand() }),
      on: today(),
    };
    const told = value.trim() ? [now] : [];
    const next = index < 0 ? [...all, ...told] : all.flatMap((m, k) => (k === index ? told : [m]));
    writeDoc("brief", "/measured", next.length > 0 ? next : undefined, true);
  };
  const called = [check.figure, check.what].filter(Boolean).join(" ");
  const said = taken && [taken.who && `by ${taken.who}`, taken.on].filter(Boolean).join(", ");
  return (
    <td
      className="num taken"
      title={fault ? `${fault.message}. To mend it: ${fault.mend}` : said || undefined}
    >
      <input
        className="val"
        aria-label={`measured on the ${piece} piece: ${called}`}
        aria-invalid={fault ? true : undefined}
        value={typed}
        size={1}
        style={{ width: `${Math.max(typed.length, 4) + 1.4}ch` }}
        spellCheck={false}
        autoComplete="off"
        onFocus={(e) => e.currentTarget.select()}
        data-piece={piece}
        onChange={(e) => write(e.target.value)}
        onKeyDown={(e) => {
          // Down the list, as one measures.
          if (e.key !== "Enter" || e.nativeEvent.isComposing) return;
          const all = [...document.querySelectorAll<HTMLElement>(`.taken [data-piece=${piece}]`)];
          all[all.indexOf(e.currentTarget) + 1]?.focus();
        }}
      />
      {taken && typed && <span className={taken.within ? "within" : "out"}>{taken.off}</span>}
    </td>
  );
}

/** By whom: written beside every value that is typed from now on. */
export function Hand() {
  const [name, setName] = useState(hand);
  return (
    <label className="hand">
      measured by{" "}
      <input
        className="val words"
        aria-label="measured by"
        placeholder="nobody named"
        value={name}
        style={{ width: `${Math.max(name.length, 12) + 1.4}ch` }}
        onChange={(e) => {
          setName(e.target.value);
          localStorage.setItem(HAND, e.target.value);
        }}
      />
    </label>
  );
}
