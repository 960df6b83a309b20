/** What is done to a line as a whole: moved, switched, taken out, copied. */

import type { Brief, Measured } from "../api/types";
import { type BenchName, type Doc, docOf, editDoc, type NewLine } from "./bench";
import { draft } from "./draft";
import { issue, mentions, retire, stemOf } from "./ids";

const edit = (bench: BenchName, f: (lines: NewLine[], doc: Doc) => Partial<Doc>) =>
  editDoc(bench, "", (doc) => ({ ...doc, ...f(doc.lines ?? [], doc) }));

/** A line with this group beginning at it, or with none. */
function headed(line: NewLine, group: string | undefined): NewLine {
  const { group: _, ...plain } = line;
  return group ? { ...plain, group } : plain;
}

/** A place up or down; over the edge of its group it goes into the one beside it. */
export function moveLine(bench: BenchName, id: string, by: 1 | -1): void {
  edit(bench, (lines) => {
    const from = lines.findIndex((l) => l.id === id);
    const to = from + by;
    const [line, beside, after] = [lines[from], lines[to], lines[from + 1]];
    if (!line) return { lines };
    const out = [...lines];
    const stays = by < 0 && line.group && after && !after.group;
    if (stays && from > 0) {
      // The first of its group goes up to the end of the group before: its name stays with the rest.
      [out[from], out[from + 1]] = [headed(line, undefined), headed(after, line.group)];
      return { lines: out };
    }
    if (!beside) return { lines };
    if (by > 0 && beside.group && !line.group) {
      // The last of its group goes down to the beginning of the next.
      [out[from], out[to]] = [headed(line, beside.group), headed(beside, undefined)];
      return { lines: out };
    }
    // Within a group its name stays at the top.
    const alone = by > 0 ? Boolean(beside.group) : Boolean(line.group);
    const [upper, lower] = by > 0 ? [line, beside] : [beside, line];
    [out[Math.min(from, to)], out[Math.max(from, to)]] = alone
      ? [lower, upper]
      : [headed(lower, upper.group), headed(upper, undefined)];
    return { lines: out };
  });
}

/** A group that begins with a line gets this name; without one the line goes on in the group above. */
export function nameGroup(bench: BenchName, id: string, name: string): void {
  editDoc(bench, `group ${id}`, (doc) => ({
    ...doc,
    lines: (doc.lines ?? []).map((l) => (l.id === id ? headed(l, name) : l)),
  }));
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

/** The lines without one; a group that began with it begins with the next of its lines. */
function without(lines: NewLine[], id: string): NewLine[] {
  const at = lines.findIndex((l) => l.id === id);
  const group = lines[at]?.group;
  return lines.flatMap((l, i) =>
    i === at ? [] : i === at + 1 && group && !l.group ? [headed(l, group)] : [l],
  );
}

/** Takes a line out, and says who still names it: they stay, with their fault. */
export function removeLine(bench: BenchName, id: string): void {
  const by = mentions(id, docOf(bench)?.lines ?? []);
  const measured = measuredOf(id);
  edit(bench, (lines, doc) => ({
    lines: without(lines, id),
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
    const copy = { ...headed(line, undefined), id: fresh.id };
    return { lines: [...lines.slice(0, from + 1), copy, ...lines.slice(from + 1)], issued: fresh.issued };
  });
}
