/** The piece, frame or brief on the bench: what they have in common, and what is done to any of them. */

import type { Job, Mend, Piece } from "../api/types";
import { type Documents, draft } from "./draft";
import { type Issued, issue, retire } from "./ids";
import { type BenchName, LISTS } from "./lists";
import { set as put } from "./pointer";

export type { BenchName };
export { LISTS };

/** A line as it is put into a piece or a frame. */
export interface NewLine {
  id: string;
  off?: boolean;
  note?: string;
  /** The name of a group that begins with it. */
  group?: string;
  say: unknown;
}

/** What pieces, frames and briefs have in common. */
export interface Doc {
  id: string;
  mark: string;
  name: string;
  issued?: Issued;
  display?: Piece["display"];
  lines?: NewLine[];
}

export function docOf(bench: BenchName, of: Documents = draft.getState()): Doc | undefined {
  const all = of.job?.[LISTS[bench]] as Doc[] | undefined;
  return all?.find((d) => d.id === of[bench]);
}

/** Changes what is on the bench; steps with one key that follow one another are one. */
export function editDoc(bench: BenchName, key: string, change: (doc: Doc) => Doc): void {
  const state = draft.getState();
  const id = state[bench];
  const list = LISTS[bench];
  state.edit(key && `${id}:${key}`, (job) => {
    const docs = job[list] as Doc[] | undefined;
    const before = docs?.find((d) => d.id === id);
    const after = before && change(before);
    const next = { ...job, [list]: docs?.map((d) => (d.id === id && after ? after : d)) };
    return before && after && bench !== "brief" ? remarked(next, before.mark, after.mark) : next;
  });
}

/** A brief goes with the mark of what it is of, as long as no other has the mark that it names. */
function remarked(job: Job, from: string, to: string): Job {
  const same = (mark: string) => mark.trim().toLowerCase() === from.trim().toLowerCase();
  const held = [...(job.pieces ?? []), ...(job.frames ?? [])].some((d) => same(d.mark));
  if (from === to || held || !job.briefs?.some((b) => same(b.of))) return job;
  return { ...job, briefs: job.briefs.map((b) => (same(b.of) ? { ...b, of: to } : b)) };
}

/** Writes one value at a JSON pointer; `typed` while somebody types it, so that the typing is one step. */
export function writeDoc(bench: BenchName, path: string, value: unknown, typed = false): void {
  editDoc(bench, typed ? path : "", (doc) => put(doc, path, value));
}

/** Writes one value of the job. */
export function writeJob(path: string, value: unknown, typed = false): void {
  draft.getState().edit(typed ? `job:${path}` : "", (j) => put(j, path, value));
}

/** Carries out a mend, or a choice of the server's, as one step. */
export function applyMend(bench: BenchName, mend: Mend): void {
  editDoc(bench, "", (doc) => mend.patch.reduce((d, step) => put(d, step.path, step.value), doc));
}

/** Carries out changes of the job as one step. */
export function applyJob(patch: Mend["patch"]): void {
  draft.getState().edit("", (j) => patch.reduce((job, step) => put(job, step.path, step.value), j));
}

/**
 * Lines with ids of their own, put below the picked one (or first, or last) in one step; the last stays
 * picked.
 */
export function addRead(
  bench: BenchName,
  lines: NewLine[],
  at: "picked" | "first" | "last" = "picked",
): void {
  const { picked, pick } = draft.getState();
  editDoc(bench, "", (doc) => {
    const now = doc.lines ?? [];
    const issued = lines.reduce((all, l) => retire(l.id, all), doc.issued ?? {});
    const i = now.findIndex((l) => l.id === picked);
    const where = at === "first" ? 0 : at === "picked" && i >= 0 ? i + 1 : now.length;
    return { ...doc, issued, lines: [...now.slice(0, where), ...lines, ...now.slice(where)] };
  });
  pick(lines.at(-1)?.id ?? picked);
}

/** Puts one line in, with a fresh id of its stem. Returns the id. */
export function addSay(
  bench: BenchName,
  say: unknown,
  stem: string,
  at: "picked" | "first" | "last" = "picked",
): string {
  const doc = docOf(bench);
  const { id } = issue(
    stem,
    (doc?.lines ?? []).map((l) => l.id),
    doc?.issued,
  );
  addRead(bench, [{ id, say }], at);
  return id;
}

/** The job with one more piece or frame that begins like `from`; its mark is the next number. */
export function withDoc(job: Job, bench: BenchName, from: object): { job: Job; id: string } {
  const list = LISTS[bench];
  const all = (job[list] ?? []) as Doc[];
  const fresh = issue(
    bench,
    all.map((d) => d.id),
    job.issued,
  );
  const numbers = all.map((d) => Number(d.mark.match(/(\d+)$/)?.[1] ?? 0));
  const [, stem, first] = (from as Doc).mark.match(/^(.*?)(\d+)$/) ?? ["", `${(from as Doc).mark}-`, "1"];
  const mark = `${stem}${Math.max(Number(first) - 1, ...numbers) + 1}`;
  // What was measured belongs to the pieces of the one that is copied.
  const made = { ...from, measured: undefined, id: fresh.id, mark };
  return { job: { ...job, issued: fresh.issued, [list]: [...all, made] }, id: fresh.id };
}

/** Adds a piece or frame that begins like `from`. Returns its id. */
export function addDoc(bench: BenchName, from: object): string {
  let id = "";
  draft.getState().edit("", (j) => {
    const more = withDoc(j, bench, from);
    id = more.id;
    return more.job;
  });
  return id;
}

/** Takes what is on the bench out of the job. */
export function dropDoc(bench: BenchName): void {
  const { edit } = draft.getState();
  const id = docOf(bench)?.id ?? "";
  const list = LISTS[bench];
  edit("", (j) => ({
    ...j,
    issued: retire(id, j.issued),
    [list]: (j[list] as Doc[] | undefined)?.filter((d) => d.id !== id),
  }));
}
