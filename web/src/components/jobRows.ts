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
export type Grouping = "none" | "sheet" | "findings";

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
  doc: { id: string; mark: string; name: string; quantity?: string },
  state: Evaluated["piece_states"][number] | undefined,
) {
  return {
    kind,
    id: doc.id,
    mark: doc.mark,
    name: doc.name,
    quantity: doc.quantity ?? "1",
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
    const text = `${r.mark} ${r.name} ${r.material} ${r.thickness} ${r.size} ${r.kind}`.toLowerCase();
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

const HEADINGS: Record<Exclude<Grouping, "none">, (r: JobRow) => string> = {
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
  const groups = new Map<string, JobRow[]>();
  for (const r of rows) {
    const heading = HEADINGS[by](r);
    groups.set(heading, [...(groups.get(heading) ?? []), r]);
  }
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
