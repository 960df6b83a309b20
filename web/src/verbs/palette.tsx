import { Button } from "@mui/material";
import { flushSync } from "react-dom";
import type { Frame } from "../api/types";
import type { BenchName } from "../document/bench";
import { addSay } from "../document/bench";
import { draft } from "../document/draft";
import { useFrame, usePiece } from "../hooks/useDraft";
import { cutIds, edgesOf, namesOf, useView } from "./names";
import { nextNode, nodeNames } from "./nodes";
import { type Fill, filled, inInches, type Said, stemOfSay, useVerbs, type VerbView } from "./useVerbs";

/** A line that can be added by its name or its key. */
export interface Choice {
  key: string;
  name: string;
  say: Said;
  stem: string;
  start: boolean;
}

/** What stands for `$node` and the like in a frame. */
function fillOfFrame(frame: Frame, verbs: VerbView[]): Fill {
  const nodes = nodeNames(frame);
  const makes = new Set(verbs.filter((v) => v.role === "member").map((v) => v.tag));
  const members = (frame.lines ?? []).filter((l) => makes.has(l.say.verb)).map((l) => l.id);
  return {
    node: nodes.at(-1),
    "node-2": nodes.at(-2),
    nodes: nodes.slice(-4),
    "new-node": nextNode(frame),
    member: members.at(-1),
  };
}

/** The lines that can be added now: what a piece starts with while it is empty, everything else after. */
export function useChoices(bench: BenchName): Choice[] {
  const verbs = useVerbs()?.[bench];
  const { piece } = usePiece();
  const { frame } = useFrame();
  const view = useView();
  const doc = bench === "piece" ? piece : frame;
  if (!verbs || !doc) return [];
  const lines = (doc.lines ?? []) as { id: string; say: Said }[];
  const starting = bench === "piece" && lines.length === 0;
  const fill: Fill =
    bench === "frame"
      ? fillOfFrame(doc as Frame, verbs)
      : { edge: edgesOf(view)[0], bend: namesOf("bend", view)[0]?.[0], cut: cutIds(lines, verbs).at(-1) };
  const inch = inInches(doc);
  return verbs
    .filter((v) => bench === "frame" || (v.role === "start") === starting)
    .flatMap((v) =>
      v.starts.map((s) => {
        const say = filled(inch ? s.inch : s.mm, fill);
        return { key: s.key, name: s.name, say, stem: stemOfSay(verbs, say), start: v.role === "start" };
      }),
    );
}

/** Adds a line and puts the keyboard into its first value. */
export function addFocused(bench: BenchName, choice: Pick<Choice, "say" | "stem" | "start">): void {
  // Drawn at once: a later focus would steal what is being typed by then.
  flushSync(() => addSay(bench, choice.say, choice.stem, choice.start ? "first" : "picked"));
  const { picked } = draft.getState();
  document.querySelector<HTMLElement>(`[data-line="${picked}"] .val`)?.focus();
}

/** Every verb that can follow, with its key. */
export function Palette({ bench }: { bench: BenchName }) {
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
}
