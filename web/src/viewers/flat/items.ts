import type { PieceView } from "../../api/types";
import { loopPath, segmentPath } from "../../evaluation/paths";
import { readOut } from "../../verbs/names";
import type { Asked } from "../../verbs/Offers";
import { lineOf } from "../zones";

/** Something of the flat that is pointed at, clicked, or walked to by the arrows. */
export interface Item {
  what: Asked["what"];
  name: string;
  line?: string;
  /** All that lights up with it. */
  names: string[];
  /** A point of it, in the flat. */
  at: [number, number];
  /** As a reader of the screen says it. */
  said: string;
  /** Drawn as this, where it is drawn by itself. */
  d?: string;
  /** Drilled beside what is cut: circles and a thread, and whether from the back. */
  bore?: { d: string; back: boolean };
  kind: "zone" | "side" | "corner" | "hole" | "up" | "down";
}

/** Holes of one line are one element above so many: ten thousand of them pan as smoothly as one. */
const MOST_ALONE = 400;

/** What can be walked to, in this order; and the outline with everything that is cut out of it. */
export function itemsOf(piece: PieceView): { items: Item[]; outer: string; body: string } {
  const { flat } = piece;
  const outer = loopPath(flat.outer);
  const body: string[] = [outer];
  const middle = (z: PieceView["zones"][number]): [number, number] => [
    (z.min[0]! + z.max[0]!) / 2,
    (z.min[1]! + z.max[1]!) / 2,
  ];
  const zones = piece.zones.map(
    (z): Item => ({
      what: z.bend ? "bend" : "panel",
      kind: "zone",
      name: z.name,
      line: z.line,
      names: [z.name],
      at: middle(z),
      said: `${z.bend ? "bend" : "panel"} ${readOut(piece, z.name)}`,
    }),
  );
  const n = flat.outer.length;
  const sides = flat.outer.map((p, i): Item => {
    const q = flat.outer[(i + 1) % n]!;
    const name = flat.sides[i] ?? "";
    return {
      what: "edge",
      kind: "side",
      name,
      line: lineOf(piece, name),
      names: [name],
      at: [(p[0]! + q[0]!) / 2, (p[1]! + q[1]!) / 2],
      said: `edge ${readOut(piece, name)}`,
      d: `M${p[0]} ${p[1]}${segmentPath(p, q)}`,
    };
  });
  const corners = piece.corners.map(
    (c): Item => ({
      what: "corner",
      kind: "corner",
      name: c.name,
      names: [c.name],
      at: [c.at[0]!, c.at[1]!],
      said: `corner ${c.name}`,
    }),
  );
  const alone = flat.holes.length <= MOST_ALONE;
  const holes = new Map<string, Item>();
  for (const h of flat.holes) {
    const d = `M${h.at[0]} ${h.at[1]}${flat.paths[h.shape]}`;
    body.push(d);
    const key = alone ? h.name : h.line;
    const item = holes.get(key);
    if (item) {
      item.d += d;
      item.names.push(h.name);
    } else {
      const said = alone ? `hole ${h.name}` : `holes of ${h.line}`;
      holes.set(key, {
        what: "hole",
        kind: "hole",
        name: h.name,
        line: h.line,
        names: [h.name],
        at: h.at,
        said,
        d,
      });
    }
  }
  const pressed = flat.pressed.map(
    (f): Item => ({
      what: "hole",
      kind: f.up === false ? "down" : "up",
      name: f.name,
      line: f.line,
      names: [f.name],
      at: [f.at[0]!, f.at[1]!],
      said: `${f.text}, ${f.name}`,
      d: loopPath(f.points),
    }),
  );
  // A drilled hole is the hole that it cuts, and what is drilled round it; a blind one cuts none.
  const blind: Item[] = [];
  for (const b of flat.bores) {
    const thread = b.thread.map(([x, y], i) => `${i === 0 ? "M" : "L"}${x} ${y}`).join("");
    const bore = { d: b.rings.map(loopPath).join("") + thread, back: b.back };
    const hole = holes.get(b.name);
    const said = `${b.text}, ${b.name}`;
    if (hole) Object.assign(hole, { said, bore });
    else if (bore.d !== "" && alone)
      blind.push({
        what: "hole",
        kind: b.back ? "down" : "up",
        name: b.name,
        line: b.line,
        names: [b.name],
        at: [b.at[0]!, b.at[1]!],
        said,
        d: loopPath(b.points),
        bore,
      });
  }
  return {
    // Panels before bends: up and down lead from kind to kind.
    items: [
      ...zones.filter((z) => z.what === "panel"),
      ...zones.filter((z) => z.what === "bend"),
      ...sides,
      ...corners,
      ...holes.values(),
      ...blind,
      ...pressed,
    ],
    outer,
    body: body.join(""),
  };
}

/** Where an arrow leads from here: to the next of all, or of the next kind. */
export function walked(items: Item[], from: number, key: string): number | undefined {
  const n = items.length;
  if (n === 0) return undefined;
  const kinds = items.flatMap((it, i) => (i === 0 || items[i - 1]!.what !== it.what ? [i] : []));
  switch (key) {
    case "ArrowRight":
      return (from + 1) % n;
    case "ArrowLeft":
      return (Math.max(from, 0) + n - 1) % n;
    case "ArrowDown":
      return kinds.find((i) => i > from) ?? 0;
    case "ArrowUp":
      return kinds.findLast((i) => i < from) ?? kinds.at(-1);
    case "Home":
      return 0;
    case "End":
      return n - 1;
    default:
      return undefined;
  }
}

/** Labels keep clear of so many holes; of more they would find no place. */
const MOST_RIMS = 150;
/** Places of an arc that tell how far it reaches. */
const ARC_PLACES = 8;

/** The boxes round holes and pressed shapes, from their least to their greatest corner. */
export function rimsOf(flat: PieceView["flat"]): [number, number, number, number][] {
  if (flat.holes.length > MOST_RIMS) return [];
  const box = (loop: number[][], [x, y]: number[]): [number, number, number, number] => {
    const at = loop.flatMap((p, i) => along(p, loop[(i + 1) % loop.length]!));
    const [xs, ys] = [at.map((p) => p[0] + x!), at.map((p) => p[1] + y!)];
    return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
  };
  return [
    ...flat.holes.map((h) => box(flat.shapes[h.shape] ?? [[0, 0, 0]], h.at)),
    ...flat.pressed.map((f) => box(f.points, [0, 0])),
  ];
}

/** Places of a side: its start, and those of its arc. */
function along(p: number[], q: number[]): [number, number][] {
  const [a, b, bulge] = [p[0]!, p[1]!, p[2] ?? 0];
  const [dx, dy] = [q[0]! - a, q[1]! - b];
  if (bulge === 0) return [[a, b]];
  const sweep = 4 * Math.atan(bulge);
  return Array.from({ length: ARC_PLACES }, (_, k) => {
    // Its chord turned by half of what is still to come, and shortened as that chord is.
    const turn = (sweep * k) / ARC_PLACES;
    const part = Math.sin(turn / 2) / Math.sin(sweep / 2);
    const way = (turn - sweep) / 2;
    const [sin, cos] = [Math.sin(way), Math.cos(way)];
    return [a + part * (dx * cos - dy * sin), b + part * (dx * sin + dy * cos)];
  });
}
