import type { Frame, FrameLine, JointView } from "../api/types";
import { editFrame } from "./draft";
import { issue } from "./ids";

/** A way to close a node, and how it reads. */
export interface Choice {
  how: "mitre" | "butt";
  first: string[];
  words: string;
}

/** The ways a node can be closed, the present one first. */
export function choices(j: JointView): Choice[] {
  const ends = j.arrivals.filter((a) => a.role !== "passes");
  if (ends.length < 2) return [];
  const passing = j.arrivals.length > ends.length;
  const butts = ends.map(
    (a): Choice => ({
      how: "butt",
      first: [a.root],
      words: passing ? `${a.member} before the others` : `${a.member} runs through`,
    }),
  );
  const all: Choice[] = passing ? butts : [{ how: "mitre", first: [], words: "mitre" }, ...butts];
  const mitred = ends.some((a) => a.role === "mitred");
  const now = mitred
    ? 0
    : Math.max(
        all.findIndex((c) => c.how === "butt" && c.first[0] === ends[0]!.root),
        0,
      );
  return [...all.slice(now), ...all.slice(0, now)];
}

/** Tells the frame how a node closes: in its own joint line, which is made when there is none. */
export function setJoint(node: string, choice: Choice): void {
  editFrame("", (frame: Frame) => {
    const lines = frame.lines ?? [];
    const told = (l: FrameLine) => l.say.verb === "joint" && (l.say.at ?? []).includes(node);
    const say = {
      verb: "joint" as const,
      at: [node],
      how: choice.how,
      ...(choice.first.length ? { first: choice.first } : {}),
    };
    const last = lines.findLast(told);
    if (last && last.say.verb === "joint" && last.say.at?.length === 1) {
      const gap = last.say.gap;
      return {
        ...frame,
        lines: lines.map((l) => (l === last ? { ...l, say: { ...say, ...(gap ? { gap } : {}) } } : l)),
      };
    }
    // A line for several nodes lets this one go.
    const rest = lines.map((l) =>
      told(l) && l.say.verb === "joint"
        ? { ...l, say: { ...l.say, at: (l.say.at ?? []).filter((n) => n !== node) } }
        : l,
    );
    const { id, issued } = issue(
      "joint",
      lines.map((l) => l.id),
      frame.issued,
    );
    return { ...frame, issued, lines: [...rest, { id, say }] };
  });
}
