import { expect, test } from "vitest";
import type { Line, Piece } from "../api/types";
import { saidBy } from "./tracing";

const line = (id: string, verb: string, more: object = {}) =>
  ({ id, say: { verb, ...more } }) as unknown as Line;
const hole = (id: string, d: string, about = "") => line(id, "punch", { d, place: { about } });
const piece = (lines: Line[], said: string[] = [], issued = {}) =>
  ({ lines, issued, tracing: { picture: "", name: "", elements: [], said } }) as unknown as Piece;
const traced = [
  line("start-1", "start_contour"),
  hole("punch-1", "8"),
  hole("punch-2", "9", "start-1.b"),
];
const ids = (p: Piece) => p.lines!.map((l) => l.id);

test("an empty piece gets the outline and its holes", () => {
  const got = saidBy(piece([]), traced);
  expect(ids(got)).toEqual(["start-1", "punch-1", "punch-2"]);
  expect(got.tracing!.said).toEqual(["start-1", "punch-1", "punch-2"]);
});

test("said anew, lines keep their places and names, and what a hand added stays", () => {
  const first = saidBy(piece([]), traced);
  const own = { ...first, lines: [...first.lines!, line("fold-1", "fold")] };
  const again = saidBy(own, [line("start-1", "start_contour", { n: 2 }), hole("punch-1", "8.5")]);
  expect(ids(again)).toEqual(["start-1", "punch-1", "fold-1"]);
  expect(again.lines![1]!.say).toMatchObject({ d: "8.5" });
  // The number of the hole that is gone is given to no other.
  const more = saidBy(again, [...traced, hole("punch-3", "3")]);
  expect(ids(more)).toEqual(["start-1", "punch-1", "punch-3", "punch-4", "fold-1"]);
});

test("an outline that stood gives way, and names of sides follow its line", () => {
  const got = saidBy(piece([line("start-4", "start_plate"), hole("punch-7", "5")]), traced);
  expect(ids(got)).toEqual(["start-4", "punch-8", "punch-9", "punch-7"]);
  expect(got.lines![2]!.say).toMatchObject({ place: { about: "start-4.b" } });
});

test("nothing is said of a tracing that says nothing", () => {
  const p = piece([hole("punch-1", "5")]);
  expect(saidBy(p, [])).toBe(p);
});
