import fc from "fast-check";
import { expect, test } from "vitest";
import type { PieceView, ZoneView } from "../api/types";
import { edgeAt, lengthField, lineOf, regionPath, zoneAt, zoneBeside } from "./zones";

const zone = (name: string, line: string, region: number[][], tip?: string) =>
  ({ name, line, region, tip }) as unknown as ZoneView;

const box = (x: number, y: number, w: number, h: number) => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];

const zones = [
  zone("start-1.panel", "start-1", box(0, 0, 100, 60)),
  zone("fold-1.north.bend", "fold-1", box(0, 60, 100, 4)),
  zone("fold-1.north", "fold-1", box(0, 64, 100, 20), "/lines/1/say/reach/length"),
];
const view = {
  zones,
  features: [{ name: "repeat-1.punch-1#2", line: "repeat-1" }],
} as unknown as PieceView;

test("a point lies in the zone whose region holds it; where two share ground, in the further one", () => {
  expect(zoneAt(zones, [50, 30])?.name).toBe("start-1.panel");
  expect(zoneAt(zones, [50, 62])?.name).toBe("fold-1.north.bend");
  expect(zoneAt(zones, [50, 90])).toBeUndefined();
  const over = [...zones, zone("fold-2.east", "fold-2", box(90, 0, 40, 60))];
  expect(zoneAt(over, [95, 30])?.name).toBe("fold-2.east");
});

test("a side belongs to the zone on its left, whatever its ends lie on", () => {
  // The flange's east side runs from the bend's end to its tip, both shared with others.
  expect(zoneBeside(zones, [100, 64], [100, 84])?.name).toBe("fold-1.north");
  expect(zoneBeside(zones, [100, 60], [100, 64])?.name).toBe("fold-1.north.bend");
  expect(zoneBeside(zones, [0, 60], [0, 0])?.name).toBe("start-1.panel");
  expect(zoneBeside(zones, [0, 0], [0, 60])).toBeUndefined();
  // The edge between two panels, each way.
  expect(zoneBeside(zones, [100, 64], [0, 64])?.name).toBe("fold-1.north.bend");
  expect(zoneBeside(zones, [0, 64], [100, 64])?.name).toBe("fold-1.north");
});

test("inside a turned rectangle is inside, wherever it lies and however its corners run", () => {
  const span = { noNaN: true, min: -200, max: 200 };
  const share = fc.double({ noNaN: true, min: 0.02, max: 0.98 });
  fc.assert(
    fc.property(
      ...([fc.double(span), fc.double(span), fc.double({ noNaN: true, min: 0, max: 6.28 })] as const),
      ...([share, share, fc.boolean()] as const),
      (x, y, turn, u, v, back) => {
        const [c, s] = [Math.cos(turn), Math.sin(turn)];
        const at = (a: number, b: number) => [x + a * c - b * s, y + a * s + b * c] as [number, number];
        const corners = [at(0, 0), at(80, 0), at(80, 30), at(0, 30)];
        const all = [zone("z", "l", back ? corners.reverse() : corners)];
        expect(zoneAt(all, at(80 * u, 30 * v))?.name).toBe("z");
        expect(zoneAt(all, at(80 * u, 30 + 30 * v))).toBeUndefined();
        expect(zoneAt(all, at(-80 * u, 30 * v))).toBeUndefined();
      },
    ),
  );
});

test("a part is of the line that made it; a copy of the line that copied it", () => {
  expect(lineOf(view, "repeat-1.punch-1#2")).toBe("repeat-1");
  expect(lineOf(view, "fold-1.north.tip")).toBe("fold-1");
  expect(lineOf(view, "start-1.south")).toBe("start-1");
  expect(lineOf(view, "fold-10.north")).toBeUndefined();
});

test("a tip is pulled where a length tells it, another edge is not", () => {
  expect(lengthField(view, "fold-1.north.tip")).toBe("/lines/1/say/reach/length");
  expect(lengthField(view, "fold-1.north.left")).toBeUndefined();
  expect(lengthField(view, "start-1.panel.tip")).toBeUndefined();
});

test("a region is drawn closed, corner by corner", () => {
  expect(regionPath(zones[1]!)).toBe("M0 60L100 60L100 64L0 64Z");
});

test("a side that runs over bends is called by the panel that it was pointed at on", () => {
  const legs = (["a", "b", "c"] as const).map((id, i) => ({
    ...zone(`start-1.${id}`, "start-1", box(i * 60, 0, 50, 30)),
    edges: [`start-1.${id}.north`, `start-1.${id}.south`, ...(i === 0 ? ["start-1.west"] : [])],
  }));
  const bends = [0, 1].map((i) => ({
    ...zone(`start-1.${i + 1}`, "start-1", box(50 + i * 60, 0, 10, 30)),
    edges: [] as string[],
  }));
  const all = [...legs, ...bends];
  expect(edgeAt(all, "start-1.north", [25, 31])).toBe("start-1.a.north");
  expect(edgeAt(all, "start-1.north", [140, 29])).toBe("start-1.c.north");
  // On a bend: the nearer panel. What has a name of its own keeps it, what nobody knows as well.
  expect(edgeAt(all, "start-1.south", [107, 0])).toBe("start-1.b.south");
  expect(edgeAt(all, "start-1.south", [118, 0])).toBe("start-1.c.south");
  expect(edgeAt(all, "start-1.west", [140, 29])).toBe("start-1.west");
  expect(edgeAt(all, "punch-1", [0, 0])).toBe("punch-1");
});
