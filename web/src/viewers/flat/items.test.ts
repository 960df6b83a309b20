import { expect, test } from "vitest";
import type { PieceView } from "../../api/types";
import { itemsOf, rimsOf, walked } from "./items";

const holes = (n: number) =>
  Array.from({ length: n }, (_, i) => ({
    name: `punch-1.${i + 1}`,
    line: "punch-1",
    shape: 0,
    at: [10 * i, 5] as [number, number],
  }));

const piece = (n: number) =>
  ({
    zones: [
      { name: "start-1", line: "start-1", bend: null, min: [0, 0], max: [40, 20] },
      { name: "fold-1.bend", line: "fold-1", bend: { up: true }, min: [40, 0], max: [44, 20] },
    ],
    features: [],
    said: { "start-1.east": "east" },
    corners: [{ name: "start-1.north/east", at: [44, 20] }],
    flat: {
      outer: [
        [0, 0, 0],
        [44, 0, 0],
        [44, 20, 0],
      ],
      sides: ["start-1.south", "start-1.east", "start-1.north"],
      holes: holes(n),
      paths: ["h1v1z"],
      pressed: [
        { name: "louvre-1", line: "louvre-1", points: [], at: [3, 4], up: false, text: "louvre 60 × 12" },
      ],
      bores: ["punch-1.1", "drill-9"].map((name, i) => ({
        ...{ name, line: name, at: [5, 5], points: [[4, 5, 1]], back: i > 0, text: `M${i + 3}` },
        ...{ rings: [[[4, 5, 1]]], thread: [[1, 2]] },
      })),
    },
  }) as unknown as PieceView;

test("everything that can be clicked can be walked to, each said once", () => {
  const { items, body } = itemsOf(piece(3));
  expect(items.map((i) => i.what)).toEqual([
    ...["panel", "bend", "edge", "edge", "edge", "corner"],
    ...["hole", "hole", "hole", "hole", "hole"],
  ]);
  expect(new Set(items.map((i) => i.said)).size).toBe(items.length);
  expect(items[3]).toMatchObject({ at: [44, 10], said: "edge east", line: "start-1" });
  expect(body.match(/h1v1z/g)).toHaveLength(3);
  // A drilled hole is one thing with the hole that it cuts; a blind one is one by itself.
  expect(items.filter((i) => i.bore).map((i) => [i.said, i.kind, i.bore?.back])).toEqual([
    ["M3, punch-1.1", "hole", false],
    ["M4, drill-9", "down", true],
  ]);
});

test("thousands of holes of one line are one thing", () => {
  const { items } = itemsOf(piece(500));
  const field = items.filter((i) => i.said === "holes of punch-1");
  expect(field).toHaveLength(1);
  expect(field[0]!.names).toHaveLength(500);
});

test("arrows go round, up and down from kind to kind", () => {
  const { items } = itemsOf(piece(3));
  const last = items.length - 1;
  expect(walked(items, -1, "ArrowRight")).toBe(0);
  expect(walked(items, last, "ArrowRight")).toBe(0);
  expect(walked(items, 0, "ArrowLeft")).toBe(last);
  expect(walked(items, -1, "ArrowLeft")).toBe(last);
  expect([0, 1, 2, 4, 5, 6].map((i) => walked(items, i, "ArrowDown"))).toEqual([1, 2, 5, 5, 6, 0]);
  expect(walked(items, 3, "ArrowUp")).toBe(2);
  expect(walked(items, 0, "ArrowUp")).toBe(6);
  expect(walked(items, 3, "x")).toBeUndefined();
  expect(walked([], 0, "Home")).toBeUndefined();
});

test("the box round a hole reaches as far as its arcs", () => {
  const circle = [
    [0, 0, 1],
    [-10, 0, 1],
  ];
  const flat = { holes: [{ shape: 0, at: [30, 20] }], shapes: [circle], pressed: [] };
  const [box] = rimsOf(flat as unknown as Parameters<typeof rimsOf>[0]);
  [20, 15, 30, 25].forEach((v, i) => expect(box![i]).toBeCloseTo(v, 6));
});
