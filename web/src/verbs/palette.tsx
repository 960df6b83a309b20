import { Button } from "@mui/material";
import { memo, useMemo } from "react";
import { flushSync } from "react-dom";
import type { Frame } from "../api/types";
import { addSay, type BenchName, docOf } from "../document/bench";
import { draft, inInches, type Made } from "../document/draft";
import { useSteady } from "../hooks/useDraft";
import { cutIds, edgesOf, namesOf, viewOf } from "./names";
import { nextNode, nodeNames } from "./nodes";
import { type Fill, filled, type Said, stemOfSay, useVerbs, type VerbView } from "./useVerbs";

/** A line that can be added by its name or its key. */
export interface Choice {
  key: string;
  name: string;
  say: Said;
  stem: string;
}

/** What stands for `$node`, `$edge` and the like, as the piece or frame stands. */
function fillOf(bench: BenchName, d: Made, verbs: VerbView[]): Fill {
  const doc = docOf(bench, d);
  const lines = doc?.lines ?? [];
  if (bench === "frame") {
    const nodes = nodeNames(doc as Frame | undefined);
    // The last down to the picked line, where the new one goes; else the last of all.
    const above = lines.slice(0, lines.findIndex((l) => l.id === d.picked) + 1);
    const lastOf = (tags: Set<string>) => {
      const fits = (l: (typeof lines)[number]) => tags.has((l.say as Said).verb);
      return (above.findLast(fits) ?? lines.findLast(fits))?.id;
    };
    const latest = (role: VerbView["role"]) =>
      lastOf(new Set(verbs.filter((v) => v.role === role).map((v) => v.tag)));
    // The last line of each verb by its tag: `$ribs`.
    const last = verbs.map((v) => [v.tag, lastOf(new Set([v.tag]))]);
    return {
      ...Object.fromEntries(last),
      profile: d.job?.pieces?.at(-1)?.mark,
      node: nodes.at(-1),
      "node-2": nodes.at(-2),
      nodes: nodes.slice(-4),
      "new-node": nextNode(nodes),
      member: latest("member"),
      openings: latest("openings"),
    };
  }
  if (bench === "brief") return {};
  const view = viewOf(d);
  return {
    edge: edgesOf(view)[0],
    bend: namesOf("bend", view)[0]?.[0],
    cut: cutIds(lines, verbs).at(-1),
  };
}

/** What a palette depends on. */
interface Stands {
  empty: boolean;
  inch: boolean;
  fill: Fill;
}

function standsOf(bench: BenchName, d: Made, verbs: VerbView[] | undefined): Stands | undefined {
  const doc = docOf(bench, d);
  if (!verbs || !doc) return undefined;
  const empty = (doc.lines ?? []).length === 0;
  return { empty, inch: inInches(doc, d), fill: fillOf(bench, d, verbs) };
}

const NONE: Choice[] = [];

/** The lines that can be added now; an empty piece or frame is begun from a picture, or with a node. */
export function useChoices(bench: BenchName): Choice[] {
  const verbs = useVerbs()?.[bench];
  const stands = useSteady((d) => standsOf(bench, d, verbs));
  return useMemo(() => {
    if (!verbs || !stands) return NONE;
    const { empty, inch, fill } = stands;
    const open = empty && bench !== "brief" ? verbs.filter((v) => v.role === "node").slice(0, 1) : verbs;
    return open.flatMap((v) =>
      v.starts.map((s) => {
        const say = filled(inch ? s.inch : s.mm, fill);
        return { key: s.key, name: s.name, say, stem: stemOfSay(verbs, say) };
      }),
    );
  }, [bench, verbs, stands]);
}

/** Adds a line and puts the keyboard into its first value. */
export function addFocused(bench: BenchName, choice: Pick<Choice, "say" | "stem">): void {
  // Drawn at once: a later focus would steal what is being typed by then.
  flushSync(() => addSay(bench, choice.say, choice.stem));
  const { picked } = draft.getState();
  document.querySelector<HTMLElement>(`[data-line="${picked}"] .val`)?.focus();
}

/** Every verb that can follow, with its key. */
export const Palette = memo(function Palette({ bench }: { bench: BenchName }) {
  const choices = useChoices(bench);
  return (
    <div className="verbs">
      {choices.map((c) => (
        <Button key={c.key} variant="text" onClick={() => addFocused(bench, c)}>
          {c.name} <kbd>{c.key.toUpperCase()}</kbd>
        </Button>
      ))}
    </div>
  );
});
