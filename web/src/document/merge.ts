/**
 * Two states of a job against the one that both began from: what differs, and the one brought onto the other.
 */

import type { Job } from "../api/types";
import type { Issued } from "./ids";
import { type BenchName, LIST_OF, type List } from "./lists";

/** A part of a job that is taken or left as a whole: a piece, a frame, a brief, or a setting of the job. */
export interface Part {
  kind: BenchName | "job";
  /** Id of the piece or frame, name of the setting. */
  id: string;
  /** As a person calls it: `P-101 trough`. */
  label: string;
}

/** A value that differs, with the place where it stands. */
export interface Change {
  /** `punch-1 · shape · diameter`. */
  at: string;
  before: string;
  after: string;
}

export interface Clash {
  part: Part;
  mine: Change[];
  theirs: Change[];
}

export interface Compared {
  /** Parts that both changed, differently. */
  clashes: Clash[];
  /** Parts that only they changed. */
  taken: Part[];
}

export function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (
    typeof a !== "object" ||
    typeof b !== "object" ||
    a === null ||
    b === null ||
    Array.isArray(a) !== Array.isArray(b)
  )
    return false;
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((v, i) => same(v, b[i]));
  const [x, y] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = new Set([...Object.keys(x), ...Object.keys(y)]);
  return [...keys].every((k) => same(x[k], y[k]));
}

type Item = { id: string; mark?: string; name?: string };
const list = (job: Job, key: List): Item[] => (job[key] ?? []) as Item[];
const unique = (items: Item[]) => new Set(items.map((i) => i.id)).size === items.length;
const labelled = (kind: Part["kind"], item: Item): Part => ({
  kind,
  id: item.id,
  label: [item.mark, item.name].filter(Boolean).join(" ") || item.id,
});

const SETTING: Record<string, string> = {
  title: "title of the job",
  number: "number of the job",
  display: "units",
  bend_rule: "how bends are reckoned",
  bend_table: "bend table",
  test_bends: "test bends",
  figures: "figures of the job",
  stock: "sheets on the rack",
  bars: "bars on the rack",
  pieces: "pieces",
  frames: "frames",
  briefs: "briefs",
  issued: "numbers given out",
};

/** The parts of a job by key; a list whose ids are not its own is one part. */
function parts(jobs: Job[]): { key: string; part: Part; of(job: Job): unknown }[] {
  const out: { key: string; part: Part; of(job: Job): unknown }[] = [];
  const whole = new Set<string>();
  for (const [kind, key] of LIST_OF) {
    if (!jobs.every((j) => unique(list(j, key)))) {
      whole.add(key);
      continue;
    }
    const seen = new Set<string>();
    for (const job of jobs)
      for (const item of list(job, key)) {
        if (seen.has(item.id)) continue;
        seen.add(item.id);
        out.push({
          key: `${key}/${item.id}`,
          part: labelled(kind, item),
          of: (j) => list(j, key).find((i) => i.id === item.id),
        });
      }
  }
  const names = new Set(jobs.flatMap((j) => Object.keys(j)));
  for (const name of names) {
    if (LIST_OF.some(([, k]) => k === name) && !whole.has(name)) continue;
    out.push({
      key: name,
      part: { kind: "job", id: name, label: SETTING[name] ?? name },
      of: (j) => (j as unknown as Record<string, unknown>)[name],
    });
  }
  return out;
}

/** The order of a list: mine, with what only they have behind what it follows there. */
function ordered(mine: string[], theirs: string[], kept: Set<string>): string[] {
  const out = mine.filter((id) => kept.has(id));
  theirs.forEach((id, i) => {
    if (!kept.has(id) || out.includes(id)) return;
    const before = theirs
      .slice(0, i)
      .reverse()
      .find((b) => out.includes(b));
    out.splice(before === undefined ? 0 : out.indexOf(before) + 1, 0, id);
  });
  return out;
}

/** The numbers that were given out: both sides may have gone on counting. */
const isIssued = (part: Part) => part.kind === "job" && part.id === "issued";

/** Of either, the higher number of each stem. */
function higher(a: Issued, b: Issued): Issued {
  const stems = new Set([...Object.keys(a), ...Object.keys(b)]);
  return Object.fromEntries([...stems].map((s) => [s, Math.max(a[s] ?? 0, b[s] ?? 0)]));
}

/** Who changed what. All three as the server keeps them: a field that a file may leave out is no change. */
export function compare(base: Job, mine: Job, theirs: Job): Compared {
  const out: Compared = { clashes: [], taken: [] };
  for (const { part, of } of parts([base, mine, theirs])) {
    const [b, m, t] = [of(base), of(mine), of(theirs)];
    if (same(m, t) || same(b, t)) continue;
    if (same(b, m) || isIssued(part)) out.taken.push(part);
    else out.clashes.push({ part, mine: changes(b, m), theirs: changes(b, t) });
  }
  return out;
}

/** The job with these parts as they have them. With `base`, only where a part is still what it was there. */
export function adopt(job: Job, theirs: Job, wanted: Part[], base?: Job): Job {
  const out = { ...job } as unknown as Record<string, unknown>;
  const from = theirs as unknown as Record<string, unknown>;
  for (const part of wanted.filter((p) => p.kind === "job")) {
    if (isIssued(part)) {
      out.issued = higher(job.issued ?? {}, theirs.issued ?? {});
      continue;
    }
    if (base && out[part.id] !== (base as unknown as Record<string, unknown>)[part.id]) continue;
    if (from[part.id] === undefined) delete out[part.id];
    else out[part.id] = from[part.id];
  }
  for (const [kind, key] of LIST_OF) {
    const ids = new Set(wanted.filter((p) => p.kind === kind).map((p) => p.id));
    if (ids.size === 0) continue;
    const find = (j: Job, id: string) => list(j, key).find((i) => i.id === id);
    const items = new Map(list(job, key).map((i) => [i.id, i]));
    for (const id of ids) {
      if (base && find(job, id) !== find(base, id)) continue;
      const theirItem = find(theirs, id);
      if (theirItem) items.set(id, theirItem);
      else items.delete(id);
    }
    const order = (j: Job) => list(j, key).map((i) => i.id);
    out[key] = ordered(order(job), order(theirs), new Set(items.keys())).map((id) => items.get(id));
  }
  return out as unknown as Job;
}

/** What makes one job another, part by part. */
export function differences(before: Job, after: Job): { part: Part; changes: Change[] }[] {
  return parts([before, after])
    .filter(({ of }) => !same(of(before), of(after)))
    .map(({ part, of }) => ({ part, changes: changes(of(before), of(after)) }));
}

const MOST_CHANGES = 12;

function said(v: unknown): string {
  if (v === undefined) return "–";
  if (typeof v === "string") return v === "" ? "empty" : v;
  if (v !== null && typeof v === "object") {
    const item = v as { say?: { verb?: string }; mark?: string; name?: string };
    return (
      item.say?.verb?.replaceAll("_", " ") ?? ([item.mark, item.name].filter(Boolean).join(" ") || "…")
    );
  }
  return String(v);
}

/** The values that differ, lines by their ids. */
export function changes(before: unknown, after: unknown): Change[] {
  const out: Change[] = [];
  walk(before, after, [], out);
  return out.length > MOST_CHANGES
    ? [
        ...out.slice(0, MOST_CHANGES),
        { at: `and ${out.length - MOST_CHANGES} more`, before: "", after: "" },
      ]
    : out;
}

function walk(a: unknown, b: unknown, at: string[], out: Change[]): void {
  if (same(a, b)) return;
  const both =
    typeof a === "object" &&
    typeof b === "object" &&
    a !== null &&
    b !== null &&
    Array.isArray(a) === Array.isArray(b);
  if (!both) {
    const place = at.filter((s) => s !== "lines" && s !== "say").map((s) => s.replaceAll("_", " "));
    out.push({ at: place.join(" · ") || "all of it", before: said(a), after: said(b) });
    return;
  }
  if (Array.isArray(a) && Array.isArray(b)) {
    const named = (v: unknown): v is Item =>
      typeof v === "object" && v !== null && typeof (v as Item).id === "string";
    const [x, y] = [a as unknown[], b as unknown[]];
    if ([...x, ...y].every(named) && unique(x as Item[]) && unique(y as Item[])) {
      const ids = new Set([...x, ...y].map((v) => (v as Item).id));
      for (const id of ids)
        walk(
          x.find((v) => (v as Item).id === id),
          y.find((v) => (v as Item).id === id),
          [...at, id],
          out,
        );
      const order = (v: unknown[]) => v.map((i) => (i as Item).id).join(", ");
      if (x.length === y.length && order(x) !== order(y) && ids.size === x.length)
        out.push({ at: [...at, "order"].join(" · "), before: order(x), after: order(y) });
      return;
    }
    for (let i = 0; i < Math.max(x.length, y.length); i++) walk(x[i], y[i], [...at, String(i + 1)], out);
    return;
  }
  const [x, y] = [a as Record<string, unknown>, b as Record<string, unknown>];
  for (const k of new Set([...Object.keys(x), ...Object.keys(y)])) walk(x[k], y[k], [...at, k], out);
}
