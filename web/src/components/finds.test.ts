import { expect, test } from "vitest";
import { answers, type Find, MOST_OF_GROUP, ranked } from "./finds";

const find = (group: string, words: string, hint = ""): Find => ({ group, words, hint, run: () => {} });
const all = [
  find("Pieces", "P-101 hopper stand", "S235"),
  find("Pieces", "P-102 trough"),
  find("Lines", "countersunk hole", "drills a hole: tapped, countersunk"),
  find("Lines", "hole", "cuts a shape out"),
  find("Jobs", "J-7 the hopper of the mill"),
];
const found = (text: string) => ranked(all, text).map((g) => [g.group, g.finds.map((f) => f.words)]);

test("own words come before hints, beginnings before middles, and every word must be there", () => {
  expect(found("hole")).toEqual([["Lines", ["hole", "countersunk hole"]]]);
  expect(found("hopper")).toEqual([
    ["Pieces", ["P-101 hopper stand"]],
    ["Jobs", ["J-7 the hopper of the mill"]],
  ]);
  expect(found("s235 hop")).toEqual([["Pieces", ["P-101 hopper stand"]]]);
  expect(found("hopper trough")).toEqual([]);
  expect(answers(find("", "a", "b"), ["c"])).toBe(0);
});

test("nothing asked shows the first of each; no heading crowds the others out", () => {
  expect(found("").map((g) => g[0])).toEqual(["Pieces", "Lines", "Jobs"]);
  const many = Array.from({ length: 60 }, (_, k) => find("Sections", `SHS ${k}`));
  expect(ranked([...many, ...all], "")[0]!.finds).toHaveLength(MOST_OF_GROUP);
});
