/** Lines as text, in and out: the way that copies go between pieces, frames and jobs. */

import { answer, api } from "../api/client";
import { addRead, type BenchName, type Doc, docOf, type NewLine } from "../document/bench";
import { draft } from "../document/draft";
import type { Said, VerbView } from "./useVerbs";

/** Rows of a text that could not be read, each with why and with the mend. */
export interface Untaken {
  row: string;
  message: string;
  mend: string;
}

/** Only what lines are and what they name is looked at. */
export const standing = (doc: Doc | undefined) =>
  (doc?.lines ?? []).map((l) => {
    const { verb, name } = l.say as Said;
    return { id: l.id, say: { verb, name } as never };
  });

/** Reads lines beside those that stand, and puts them below the picked one in one step. */
export async function takeIn(
  bench: BenchName,
  text: string,
  verbs: VerbView[] | undefined,
): Promise<{ taken: number; untaken: Untaken[] }> {
  const doc = docOf(bench);
  const lines = doc?.lines ?? [];
  const { picked } = draft.getState();
  const above = lines.findIndex((l) => l.id === picked) + 1 || lines.length;
  const read = answer(
    await api.POST("/api/lines", {
      body: { bench, text, lines: standing(doc), above, issued: doc?.issued ?? {} },
    }),
  );
  const alone = read.lines.length === 1 ? (read.lines[0]!.say as Said).verb : "";
  const start = verbs?.some((v) => v.role === "start" && v.tag === alone);
  if (read.lines.length > 0) addRead(bench, read.lines, start ? "first" : "picked");
  const rows = text.split("\n");
  return {
    taken: read.lines.length,
    untaken: read.faults.map((f) => ({
      row: rows[f.line - 1] ?? "",
      message: f.fault.message,
      mend: f.fault.mend,
    })),
  };
}

/** A line as it is typed, with its name before it. */
export async function textOf(bench: BenchName, line: NewLine): Promise<string> {
  const doc = { ...docOf(bench), lines: [line], rows: undefined, columns: undefined };
  const { text } = answer(await api.POST("/api/text", { body: { [bench]: doc as never } }));
  // Below its head; a remark may take rows of its own.
  const rows = text.trimEnd().split("\n").slice(1);
  return rows.map((r) => r.trim()).join("\n");
}
