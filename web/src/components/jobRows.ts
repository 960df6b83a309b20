/** The list of a job as rows: found by words, sorted, in groups. */

import type { Evaluated, Job } from "../api/types";
import type { Kind, Named } from "../document/many";

export interface JobRow extends Named {
  mark: string;
  name: string;
  quantity: string;
  material: string;
  thickness: string;
  size: string;
  mass: string;
  /** What it goes into; empty where nothing is told. */
  assembly: string;
  stops: number;
  warns: number;
  notes: number;
  made: boolean;
  /** To sort by. */
  by: { thickness: number; longest: number; mass: number };
}

export type Column =
  | "mark"
  | "name"
  | "quantity"
  | "material"
  | "thickness"
  | "size"
  | "mass"
  | "findings";
export type Grouping = "none" | "sheet" | "assembly" | "findings";

/** Every piece, then every frame, as they stand in the job; figures once they are there. */
export function rowsOf(
  job: Job | null,
  result: Evaluated | null,
  materials: [string, string][] = [],
): JobRow[] {
  // Looked up, not looked for: a job may have hundreds of them.
  const lists = result?.cut_list;
  const states = new Map(result?.piece_states.map((s) => [s.id, s]));
  const cuts = new Map(lists?.rows.filter((r) => r.of === "").map((r) => [r.piece, r]));
  const pieces = (job?.pieces ?? []).map((p): JobRow => {
    const state = states.get(p.id);
    const cut = cuts.get(p.id);
    return {
      ...base("piece", p, state),
      material: cut?.material ?? p.material ?? "",
      thickness: cut?.thickness ?? p.thickness ?? "",
      size: cut?.blank ?? "",
      mass: state?.mass_said ?? "",
    };
  });
  const frames = (job?.frames ?? []).map((f): JobRow => {
    const state = result?.frame_states.find((s) => s.id === f.id);
    const list = lists?.frames.find((x) => x.frame === f.id);
    const bars = (list?.bars ?? []).reduce((n, b) => n + b.members.length, 0);
    return {
      ...base("frame", f, state),
      material: materials.find(([id]) => id === f.material)?.[1] ?? f.material ?? "",
      thickness: "",
      size: list ? counted(bars, "member") : "",
      mass: state?.mass_said ?? "",
    };
  });
  return [...pieces, ...frames];
}

function base(
  kind: Kind,
  doc: { id: string; mark: string; name: string; quantity?: string; assembly?: string },
  state: Evaluated["piece_states"][number] | undefined,
) {
  return {
    kind,
    id: doc.id,
    mark: doc.mark,
    name: doc.name,
    quantity: doc.quantity ?? "1",
    assembly: (doc.assembly ?? "").trim(),
    stops: state?.stops ?? 0,
    warns: state?.warns ?? 0,
    notes: state?.notes ?? 0,
    made: state?.made ?? false,
    by: {
      thickness: state?.thickness ?? 0,
      longest: state?.longest ?? 0,
      mass: state?.mass ?? 0,
    },
  };
}

/** Rows that have every word somewhere. */
export function found(rows: JobRow[], words: string): JobRow[] {
  const all = words.toLowerCase().split(/\s+/).filter(Boolean);
  return rows.filter((r) => {
    const text =
      `${r.mark} ${r.name} ${r.material} ${r.thickness} ${r.size} ${r.kind} ${r.assembly}`.toLowerCase();
    return all.every((w) => text.includes(w));
  });
}

const natural = new Intl.Collator(undefined, { numeric: true, sensitivity: "base" });

const COMPARED: Record<Column, (a: JobRow, b: JobRow) => number> = {
  mark: (a, b) => natural.compare(a.mark, b.mark),
  name: (a, b) => natural.compare(a.name, b.name),
  quantity: (a, b) => natural.compare(a.quantity, b.quantity),
  material: (a, b) => natural.compare(a.material, b.material),
  thickness: (a, b) => a.by.thickness - b.by.thickness,
  size: (a, b) => a.by.longest - b.by.longest,
  mass: (a, b) => a.by.mass - b.by.mass,
  findings: (a, b) => b.stops - a.stops || b.warns - a.warns || b.notes - a.notes,
};

/** Sorted by a column; equal ones keep the order of the job. */
export function sorted(rows: JobRow[], by: Column | null, down: boolean): JobRow[] {
  if (!by) return rows;
  const sign = down ? -1 : 1;
  return [...rows].sort((a, b) => sign * COMPARED[by](a, b));
}

/** What the row of an assembly goes by: marks are the same in large letters and small. */
const called = (name: string) => name.toLowerCase();

const headingOfFrame = (f: JobRow) => `${f.mark} ${f.name}`.trim();
const isHead = (r: JobRow, heading: string) => r.kind === "frame" && headingOfFrame(r) === heading;

/** The assembly that each row stands under: a frame that others go into heads its own. */
function assemblies(rows: JobRow[]): (r: JobRow) => string {
  const names = new Map<string, string>();
  for (const r of rows)
    if (r.assembly) names.set(called(r.assembly), names.get(called(r.assembly)) ?? r.assembly);
  const frames = rows.filter((r) => r.kind === "frame" && names.has(called(r.mark)));
  for (const f of frames) names.set(called(f.mark), headingOfFrame(f));
  const heads = new Set(frames.map((f) => f.id));
  return (r) => names.get(called(heads.has(r.id) && r.kind === "frame" ? r.mark : r.assembly)) ?? ALONE;
}

/** Names that may be meant: those that are told, and the frames' marks. */
export function assembliesOf(job: Job | null): string[] {
  const frames = job?.frames ?? [];
  const told = [...(job?.pieces ?? []), ...frames].map((d) => (d.assembly ?? "").trim());
  const names = new Map<string, string>();
  for (const name of [...frames.map((f) => f.mark), ...told])
    if (name && !names.has(called(name))) names.set(called(name), name);
  return [...names.values()];
}

/** Stands last. */
const ALONE = "On their own";

const HEADINGS: Record<Exclude<Grouping, "none" | "assembly">, (r: JobRow) => string> = {
  sheet: (r) => (r.kind === "frame" ? "Frames" : `${r.material}, ${r.thickness}`),
  findings: (r) =>
    r.stops > 0
      ? "To stop for"
      : !r.made
        ? "Not made yet"
        : r.warns > 0
          ? "Warnings"
          : r.notes > 0
            ? "Notes"
            : "Nothing found",
};

/** In groups, each in the order of its rows; one without a heading where none are asked for. */
export function grouped(rows: JobRow[], by: Grouping): { heading: string; rows: JobRow[] }[] {
  if (by === "none") return [{ heading: "", rows }];
  const headingOf = by === "assembly" ? assemblies(rows) : HEADINGS[by];
  const groups = new Map<string, JobRow[]>();
  for (const r of rows) {
    const heading = headingOf(r);
    const of = groups.get(heading) ?? [];
    // A frame stands before what goes into it.
    groups.set(heading, by === "assembly" && isHead(r, heading) ? [r, ...of] : [...of, r]);
  }
  const alone = groups.get(ALONE);
  if (alone && groups.delete(ALONE)) groups.set(ALONE, alone);
  return [...groups].map(([heading, of]) => ({ heading, rows: of }));
}

/** `1 note`, `2 notes`. */
export const counted = (n: number, one: string) => `${n} ${one}${n === 1 ? "" : "s"}`;

/** What stands at a row's sign. */
export function signOf(r: Pick<JobRow, "stops" | "warns" | "made">): {
  sign: string;
  said: string;
  tone: string;
} {
  if (r.stops > 0) return { sign: "■", said: `${r.stops} to stop for`, tone: "stop" };
  if (r.warns > 0) return { sign: "▲", said: counted(r.warns, "warning"), tone: "warn" };
  return { sign: "", said: "", tone: "" };
}
