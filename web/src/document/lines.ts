/** What is done to a line as a whole: moved, switched, taken out, copied. */

import type { Brief, Measured } from "../api/types";
import { type BenchName, type Doc, docOf, editDoc, type NewLine } from "./bench";
import { draft } from "./draft";
import { issue, mentions, retire, stemOf } from "./ids";

const edit = (bench: BenchName, f: (lines: NewLine[], doc: Doc) => Partial<Doc>) =>
  editDoc(bench, "", (doc) => ({ ...doc, ...f(doc.lines ?? [], doc) }));

export function moveLine(bench: BenchName, id: string, by: number): void {
  edit(bench, (lines) => {
    const from = lines.findIndex((l) => l.id === id);
    const to = from + by;
    if (from < 0 || to < 0 || to >= lines.length) return { lines };
    const out = [...lines];
    [out[from], out[to]] = [out[to]!, out[from]!];
    return { lines: out };
  });
}

/** Off and on again: it is kept, and not carried out. */
export function switchLine(bench: BenchName, id: string): void {
  edit(bench, (lines) => ({
    lines: lines.map((l) => {
      if (l.id !== id) return l;
      const { off, ...on } = l;
      return off ? on : { ...l, off: true };
    }),
  }));
}

/** What was measured of the other figures; nothing where that is none. */
function left(doc: Doc, id: string): Measured[] | undefined {
  const all = ((doc as Partial<Brief>).measured ?? []).filter((m) => m.line !== id);
  return all.length > 0 ? all : undefined;
}

/** How many values were measured of a figure of the brief on the bench. */
const measuredOf = (id: string): number =>
  ((docOf("brief") as Partial<Brief> | undefined)?.measured ?? []).filter((m) => m.line === id).length;

/** Takes a line out, and says who still names it: they stay, with their fault. */
export function removeLine(bench: BenchName, id: string): void {
  const by = mentions(id, docOf(bench)?.lines ?? []);
  const measured = measuredOf(id);
  edit(bench, (lines, doc) => ({
    lines: lines.filter((l) => l.id !== id),
    issued: retire(id, doc.issued),
    // What was measured of a figure goes with it, in the same step.
    ...(bench === "brief" && measured > 0 && { measured: left(doc, id) }),
  }));
  if (bench === "brief" && measured > 0)
    draft.setState({
      word: `${id} is taken out with ${measured} measured ${measured > 1 ? "values" : "value"}`,
    });
  if (by.length > 0)
    draft.setState({
      word: `${id} is taken out; ${by.join(", ")} still ${by.length > 1 ? "name" : "names"} it`,
    });
}

/** The same line once more below it, under an id of its own. */
export function copyLine(bench: BenchName, id: string): void {
  edit(bench, (lines, doc) => {
    const from = lines.findIndex((l) => l.id === id);
    const line = lines[from];
    if (!line) return {};
    const fresh = issue(
      stemOf(id),
      lines.map((l) => l.id),
      doc.issued,
    );
    const copy = { ...line, id: fresh.id };
    return { lines: [...lines.slice(0, from + 1), copy, ...lines.slice(from + 1)], issued: fresh.issued };
  });
}
