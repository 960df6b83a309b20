/** What was pointed at, put into the figure that is picked. */

import { docOf, writeDoc } from "../document/bench";
import { draft } from "../document/draft";
import { get } from "../document/pointer";
import type { Kind, PartView, Said, VerbView } from "./useVerbs";

/** Fields of a sentence that name things of the model, in their order: one each, or a list. */
export function thingFields(parts: PartView[], kind: Kind = "thing"): { path: string; list: boolean }[] {
  return parts.flatMap((p) => {
    if (p.part === "slot" && p.kind === kind) return [{ path: p.path, list: false }];
    if (p.part === "names" && p.kind === kind) return [{ path: p.path, list: true }];
    if (p.part === "clause") return thingFields(p.parts, kind);
    return [];
  });
}

/** Ties the picked figure to a thing: into its first empty field, or behind what a list has. */
export function tie(name: string, verbs: VerbView[] | undefined): void {
  const word = tied(name, verbs);
  if (word) draft.setState({ word });
}

/** The same; why it was not done, where it was not. */
function tied(name: string, verbs: VerbView[] | undefined): string {
  const { picked } = draft.getState();
  const lines = docOf("brief")?.lines ?? [];
  const i = lines.findIndex((l) => l.id === picked);
  const line = lines[i];
  if (!line) return "pick a figure on the left first, then point at what it is of";
  const verb = verbs?.find((v) => v.tag === (line.say as Said).verb);
  const fields = thingFields(verb?.sentence ?? []);
  if (fields.length === 0) return `${line.id} is measured of the whole: nothing to point at`;
  const at = (path: string) => `/lines/${i}/say${path}`;
  const list = fields.find((f) => f.list);
  if (list) {
    const now = (get(line.say, list.path) as string[] | undefined) ?? [];
    if (now.includes(name)) return `${line.id} is tied to ${name} already`;
    writeDoc("brief", at(list.path), [...now, name]);
    return "";
  }
  const empty = fields.find((f) => !get(line.say, f.path));
  if (!empty) return `${line.id} is tied already: empty one of its fields first`;
  writeDoc("brief", at(empty.path), name);
  return "";
}
