/** What is done to several pieces and frames of a job at once, as one step. */

import type { Job } from "../api/types";
import { type Doc, LISTS, withDoc } from "./bench";
import { draft } from "./draft";
import { retire } from "./ids";

export type Kind = "piece" | "frame";

/** A piece or a frame, by its id. */
export interface Named {
  kind: Kind;
  id: string;
}

const KINDS: Kind[] = ["piece", "frame"];

/** The job with the lists changed in which some of `of` stand. */
function changed(job: Job, of: Named[], change: (docs: Doc[], meant: (d: Doc) => boolean) => Doc[]): Job {
  const lists = KINDS.map((kind) => {
    const ids = new Set(of.filter((n) => n.kind === kind).map((n) => n.id));
    const docs = job[LISTS[kind]] as Doc[] | undefined;
    return [LISTS[kind], docs && ids.size > 0 ? change(docs, (d) => ids.has(d.id)) : docs] as const;
  });
  return { ...job, ...Object.fromEntries(lists.filter(([, docs]) => docs)) };
}

/** Each once more at the end of its list, under the next mark. */
export function copyMany(of: Named[]): void {
  draft.getState().edit("", (job) => {
    let out = job;
    for (const kind of KINDS) {
      const ids = of.filter((n) => n.kind === kind).map((n) => n.id);
      for (const doc of ((job[LISTS[kind]] ?? []) as Doc[]).filter((d) => ids.includes(d.id)))
        out = withDoc(out, kind, { ...doc, name: `${doc.name} (copy)` }).job;
    }
    return out;
  });
}

/** Takes them out of the job. */
export function dropMany(of: Named[]): void {
  draft.getState().edit("", (job) => {
    let { issued } = job;
    for (const { id } of of) issued = retire(id, issued);
    return { ...changed(job, of, (docs, gone) => docs.filter((d) => !gone(d))), issued };
  });
}

/** One value of all of them; a typed one is one step while it is typed. */
export function setMany(
  of: Named[],
  field: "quantity" | "material" | "assembly",
  value: string,
  typed = false,
): void {
  const key = typed ? `many:${field}:${of.map((n) => n.id).join()}` : "";
  draft
    .getState()
    .edit(key, (job) =>
      changed(job, of, (docs, meant) => docs.map((d) => (meant(d) ? { ...d, [field]: value } : d))),
    );
}

const kept = (job: Job, kind: Kind): Doc[] => (job.archive?.[LISTS[kind] as "pieces"] ?? []) as Doc[];

/** The job with an archive of these; without one where nothing is in it. */
function archiving(job: Job, pieces: Doc[], frames: Doc[]): Job {
  const { archive: _, ...rest } = job;
  const archive = {
    ...(pieces.length > 0 && { pieces }),
    ...(frames.length > 0 && { frames }),
  };
  return (pieces.length + frames.length > 0 ? { ...rest, archive } : rest) as Job;
}

/** Puts them into the job's archive: kept with it, neither made nor counted. */
export function archiveMany(of: Named[]): void {
  draft.getState().edit("", (job) => {
    const meant = (kind: Kind) => {
      const ids = of.filter((n) => n.kind === kind).map((n) => n.id);
      return ((job[LISTS[kind]] ?? []) as Doc[]).filter((d) => ids.includes(d.id));
    };
    const [pieces, frames] = [meant("piece"), meant("frame")];
    let { issued } = job;
    // Their ids stay theirs.
    for (const { id } of of) issued = retire(id, issued);
    const rest = changed(job, of, (docs, gone) => docs.filter((d) => !gone(d)));
    return {
      ...archiving(rest, [...kept(job, "piece"), ...pieces], [...kept(job, "frame"), ...frames]),
      issued,
    };
  });
}

/** Brings one back to the end of its list. */
export function bringBack({ kind, id }: Named): void {
  draft.getState().edit("", (job) => {
    const doc = kept(job, kind).find((d) => d.id === id);
    if (!doc) return job;
    const left = (k: Kind) => kept(job, k).filter((d) => k !== kind || d.id !== id);
    const back = { ...job, [LISTS[kind]]: [...((job[LISTS[kind]] ?? []) as Doc[]), doc] };
    return archiving(back, left("piece"), left("frame"));
  });
}

/** What is in the job's archive. */
export function archived(job: Job | null): (Named & { mark: string; name: string })[] {
  if (!job) return [];
  return KINDS.flatMap((kind) => kept(job, kind).map(({ id, mark, name }) => ({ kind, id, mark, name })));
}
