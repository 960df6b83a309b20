/**
 * What a piece or a frame began with: while its lines are still those that a few sizes made, the sizes can
 * be told anew. The lines themselves remember nothing.
 */

import type { Job } from "../api/types";
import { type BenchName, type Doc, docOf, LISTS, type NewLine, withDoc } from "./bench";
import { draft } from "./draft";
import { type Issued, retire } from "./ids";

export interface Part {
  /** Of what stands beside the first. */
  name?: string;
  lines: NewLine[];
}

export interface Begun {
  tag: string;
  /** As typed, by letter. */
  sizes: Record<string, string>;
  /** The numbers given out before it. */
  issued: Issued;
  /** What else it made. */
  beside: { id: string; lines: NewLine[] }[];
}

/** By the lines that were made: after any other edit they are others, and undo brings both back. */
const begun = new WeakMap<NewLine[], Begun>();

export const begunOf = (lines: NewLine[] | undefined): Begun | undefined => lines && begun.get(lines);

/** The sizes are told: from now on there are only lines. */
export const settle = (lines: NewLine[]): void => void begun.delete(lines);

/** Whether these lines can stand in a document without taking a number that was given out. */
export const fits = (lines: NewLine[], issued: Issued = {}): boolean =>
  lines.every((l) => retire(l.id, issued) !== issued || !/-\d+$/.test(l.id));

/**
 * Puts the lines that the sizes made onto the bench, in place of those of `before`, as one step of undo with
 * the sizes typed before. `calls`: the name that nobody gave, which gives way to the part's own.
 */
export function putBegun(
  bench: BenchName,
  told: Pick<Begun, "tag" | "sizes">,
  parts: Part[],
  before?: Begun,
  calls?: string,
): void {
  const [first, ...others] = parts;
  const now = docOf(bench);
  if (!first || !now) return;
  const issued = before?.issued ?? now.issued ?? {};
  const own = [...first.lines];
  const beside: Begun["beside"] = [];
  draft.getState().edit(`${now.id}:begin`, (job) => {
    let out: Job = job;
    const put = (id: string, change: (d: Doc) => Doc) => {
      const docs = (out[LISTS[bench]] ?? []) as Doc[];
      out = { ...out, [LISTS[bench]]: docs.map((d) => (d.id === id ? change(d) : d)) };
    };
    put(now.id, (d) => ({
      ...d,
      ...(others.length > 0 && first.name && d.name === calls && { name: first.name }),
      lines: own,
      issued: own.reduce((all, l) => retire(l.id, all), d.issued ?? {}),
    }));
    others.forEach((part, k) => {
      const lines = [...part.lines];
      const stands = before?.beside[k];
      if (!before) {
        const more = withDoc(out, bench, { ...now, issued: {}, name: part.name ?? "", lines });
        out = more.job;
        beside.push({ id: more.id, lines });
      } else if (stands) {
        // One that a hand has changed since stays as it is.
        const as = ((out[LISTS[bench]] ?? []) as Doc[]).find((d) => d.id === stands.id);
        if (as?.lines === stands.lines) put(stands.id, (d) => ({ ...d, lines }));
        beside.push(as?.lines === stands.lines ? { id: stands.id, lines } : stands);
      }
    });
    return out;
  });
  begun.set(own, { ...told, issued, beside });
}
