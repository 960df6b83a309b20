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
export function setMany(of: Named[], field: "quantity" | "material", value: string, typed = false): void {
  const key = typed ? `many:${field}:${of.map((n) => n.id).join()}` : "";
  draft
    .getState()
    .edit(key, (job) =>
      changed(job, of, (docs, meant) => docs.map((d) => (meant(d) ? { ...d, [field]: value } : d))),
    );
}
