import type { Frame, FrameSay } from "../api/types";

/** Node names of a frame in their order. */
export function nodeNames(frame: Frame): string[] {
  return (frame.lines ?? []).flatMap((l) => (l.say.verb === "node" || l.say.verb === "between" || l.say.verb === "on" ? [l.say.name] : []));
}

/** The next free letter: A to Z, then A2. */
export function nextNode(frame: Frame, taken: string[] = []): string {
  const used = new Set([...nodeNames(frame), ...taken]);
  for (let round = 1; ; round++)
    for (let i = 0; i < 26; i++) {
      const name = String.fromCharCode(65 + i) + (round > 1 ? round : "");
      if (!used.has(name)) return name;
    }
}

/** Ids of lines that make members. */
export function memberLines(frame: Frame): string[] {
  return (frame.lines ?? []).filter((l) => l.say.verb === "members").map((l) => l.id);
}

interface Verb {
  key: string;
  name: string;
  say(): FrameSay;
}

/** The verbs of a frame, one key each. */
export function frameVerbs(frame: Frame): Verb[] {
  const inch = frame.display?.length === "in";
  const d = (mm: string, inches: string) => (inch ? inches : mm);
  const nodes = nodeNames(frame);
  const last = nodes.at(-1) ?? "";
  const members = memberLines(frame);
  const bar = members.at(-1) ?? "";
  return [
    {
      key: "n",
      name: "node",
      say: () => ({ verb: "node", name: nextNode(frame), ...(last ? { from: last } : {}), x: "0", y: "0", z: last ? d("500", "20") : "0" }),
    },
    {
      key: "b",
      name: "node between",
      say: () => ({ verb: "between", name: nextNode(frame), from: nodes.at(-2) ?? "", to: last, by: "share", at: "1/2" }),
    },
    { key: "i", name: "node on", say: () => ({ verb: "on", name: nextNode(frame), member: bar, by: "share", at: "1/2" }) },
    { key: "m", name: "member", say: () => ({ verb: "members", name: "rail", path: nodes.slice(-2) }) },
    { key: "j", name: "joint", say: () => ({ verb: "joint", at: last ? [last] : [], how: "butt" }) },
    { key: "t", name: "trim", say: () => ({ verb: "trim", member: bar, tip: "end", by: { by: "plane", way: "up", at: "0" } }) },
    { key: "y", name: "mirror", say: () => ({ verb: "mirror_frame", of: [], across: "east", at: "0" }) },
    { key: "r", name: "repeat", say: () => ({ verb: "repeat_frame", of: [], count: "2", x: "0", y: d("500", "20"), z: "0" }) },
    { key: "h", name: "holes", say: () => ({ verb: "hole", members: bar ? [bar] : [], face: "top", diameter: d("9", "3/8"), at: d("50", "2") }) },
    {
      key: "v",
      name: "notch",
      say: () => ({ verb: "notch_end", members: bar ? [bar] : [], tip: "end", face: "top", width: d("6", "1/4"), length: d("60", "2"), through: true }),
    },
    { key: "g", name: "gusset", say: () => ({ verb: "gusset", at: last, between: [], leg: d("100", "4"), thickness: d("6", "1/4"), place: "middle" }) },
    { key: "f", name: "foot", say: () => ({ verb: "base", at: last ? [last] : [], width: d("120", "5"), length: d("120", "5"), thickness: d("8", "5/16") }) },
    { key: "c", name: "cap", say: () => ({ verb: "cap", at: last ? [last] : [], thickness: d("3", "1/8") }) },
    { key: "p", name: "plate", say: () => ({ verb: "fit", around: nodes.slice(-4), thickness: d("6", "1/4") }) },
    {
      key: "l",
      name: "lug",
      say: () => ({
        verb: "lug",
        member: bar,
        face: "top",
        at: d("200", "8"),
        base_length: d("120", "5"),
        base_width: d("60", "2 1/2"),
        base: d("10", "3/8"),
        thickness: d("12", "1/2"),
        radius: d("30", "1 1/4"),
        eye: d("26", "1"),
        height: d("45", "1 3/4"),
      }),
    },
    {
      key: "o",
      name: "clamp ring",
      say: () => ({
        verb: "ring_clamp",
        member: bar,
        at: d("100", "4"),
        outside: d("70", "3"),
        width: d("30", "1 1/4"),
        split: d("6", "1/4"),
        ear: d("30", "1 1/4"),
        thickness: d("8", "5/16"),
        bolt: d("9", "3/8"),
      }),
    },
    {
      key: "k",
      name: "stack",
      say: () => ({
        verb: "stack",
        at: last,
        blocks: [{ name: "block", length: d("100", "4"), width: d("100", "4"), height: d("20", "3/4") }],
      }),
    },
    { key: "w", name: "weld", say: () => ({ verb: "weld", at: [], kind: "fillet" }) },
    { key: "a", name: "weld first", say: () => ({ verb: "assembly", mark: "", name: "side", of: bar ? [bar] : [] }) },
  ];
}

/** A frame to begin with. */
export function newFrame(id: string, mark: string, inch: boolean): Frame {
  return { id, mark, name: "New frame", quantity: "1", material: "s235", section: inch ? "HSS 2x2x1/8" : "SHS 60x60x3", joint: "mitre", lines: [] };
}
