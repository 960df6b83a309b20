import type { Frame } from "../api/types";
import { knownVerbs } from "./useVerbs";

/** Node names of a frame in their order. */
export function nodeNames(frame: Frame | undefined): string[] {
  const naming = new Set(
    knownVerbs()
      ?.frame.filter((v) => v.role === "node")
      .map((v) => v.tag),
  );
  return (frame?.lines ?? []).flatMap((l) =>
    naming.has(l.say.verb) && "name" in l.say ? [l.say.name ?? ""] : [],
  );
}

/** The next free letter: A to Z, then A2. */
export function nextNode(taken: string[]): string {
  const used = new Set(taken);
  for (let round = 1; ; round++)
    for (let i = 0; i < 26; i++) {
      const name = String.fromCharCode(65 + i) + (round > 1 ? round : "");
      if (!used.has(name)) return name;
    }
}
