import { draft, editFrame, editPiece } from "./draft";
import { type Issued, issue, retire } from "./ids";

/** A line as it is put into a piece or a frame. */
export interface NewLine {
  id: string;
  off?: boolean;
  note?: string;
  say: unknown;
}

interface Doc {
  issued?: Issued;
  lines?: NewLine[];
}

export type BenchName = "piece" | "frame";

const editOf = (bench: BenchName) =>
  (bench === "piece" ? editPiece : editFrame) as unknown as (key: string, f: (d: Doc) => Doc) => void;

/**
 * Lines with ids of their own, put below the picked line (or first, or last) in one step; the last of them is
 * picked.
 */
export function addRead(
  bench: BenchName,
  lines: NewLine[],
  at: "picked" | "first" | "last" = "picked",
): void {
  const { picked, pick } = draft.getState();
  editOf(bench)("", (doc) => {
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
  const { job, piece, frame } = draft.getState();
  const doc = (
    bench === "piece"
      ? job?.pieces?.find((p) => p.id === piece)
      : job?.frames?.find((f) => f.id === frame)
  ) as Doc | undefined;
  const { id } = issue(
    stem,
    (doc?.lines ?? []).map((l) => l.id),
    doc?.issued,
  );
  addRead(bench, [{ id, say }], at);
  return id;
}
