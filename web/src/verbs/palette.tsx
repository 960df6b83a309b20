import { Button } from "@mui/material";
import { memo, useMemo } from "react";
import { flushSync } from "react-dom";
import type { Frame } from "../api/types";
import { addSay, type BenchName, docOf } from "../document/bench";
import { type Draft, draft, inInches } from "../document/draft";
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
  start: boolean;
}

/** What stands for `$node`, `$edge` and the like, as the piece or frame stands. */
function fillOf(bench: BenchName, d: Draft, verbs: VerbView[]): Fill {
  const doc = docOf(bench, d);
  const lines = doc?.lines ?? [];
  if (bench === "frame") {
    const nodes = nodeNames(doc as Frame | undefined);
    const makes = new Set(verbs.filter((v) => v.role === "member").map((v) => v.tag));
    return {
      node: nodes.at(-1),
      "node-2": nodes.at(-2),
      nodes: nodes.slice(-4),
      "new-node": nextNode(nodes),
      member: lines.findLast((l) => makes.has((l.say as Said).verb))?.id,
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
  starting: boolean;
  inch: boolean;
  fill: Fill;
}

function standsOf(bench: BenchName, d: Draft, verbs: VerbView[] | undefined): Stands | undefined {
  const doc = docOf(bench, d);
  if (!verbs || !doc) return undefined;
  const starting = bench === "piece" && (doc.lines ?? []).length === 0;
  return { starting, inch: inInches(doc, d), fill: fillOf(bench, d, verbs) };
}

const NONE: Choice[] = [];

/** The lines that can be added now: what a piece starts with while it is empty, everything else after. */
export function useChoices(bench: BenchName): Choice[] {
  const verbs = useVerbs()?.[bench];
  const stands = useSteady((d) => standsOf(bench, d, verbs));
  return useMemo(() => {
    if (!verbs || !stands) return NONE;
    const { starting, inch, fill } = stands;
    return verbs
      .filter((v) => bench !== "piece" || (v.role === "start") === starting)
      .flatMap((v) =>
        v.starts.map((s) => {
          const say = filled(inch ? s.inch : s.mm, fill);
          return {
            key: s.key,
            name: s.name,
            say,
            stem: stemOfSay(verbs, say),
            start: v.role === "start",
          };
        }),
      );
  }, [bench, verbs, stands]);
}

/** Adds a line and puts the keyboard into its first value. */
export function addFocused(bench: BenchName, choice: Pick<Choice, "say" | "stem" | "start">): void {
  // Drawn at once: a later focus would steal what is being typed by then.
  flushSync(() => addSay(bench, choice.say, choice.stem, choice.start ? "first" : "picked"));
  const { picked } = draft.getState();
  document.querySelector<HTMLElement>(`[data-line="${picked}"] .val`)?.focus();
}

/** Every verb that can follow, with its key. */
export const Palette = memo(function Palette({ bench }: { bench: BenchName }) {
  const choices = useChoices(bench);
  const starting = choices.some((c) => c.start);
  return (
    <div className={starting ? "starts" : "verbs"}>
      {choices.map((c) => (
        <Button key={c.key} variant={starting ? "outlined" : "text"} onClick={() => addFocused(bench, c)}>
          {starting ? `Start with a ${c.name}` : c.name} <kbd>{c.key.toUpperCase()}</kbd>
        </Button>
      ))}
    </div>
  );
});
