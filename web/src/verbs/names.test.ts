import { expect, test } from "vitest";
import type { PieceView } from "../api/types";
import { cutIds, edgesOf, namesOf, readOut } from "./names";
import { filled, stemOfSay, type VerbView } from "./useVerbs";

const view = {
  zones: [
    { name: "start-1.a", bend: null, carries: true, edges: ["start-1.west", "start-1.a.north"] },
    { name: "start-1.1", bend: { up: true }, carries: false, edges: [] },
    { name: "fold-1.north", bend: null, carries: true, edges: ["fold-1.north.tip", "start-1.west"] },
  ],
  corners: [{ name: "start-1.north/east" }],
  said: { "start-1.a": "leg a" },
} as unknown as PieceView;

test("names are read as the core says them, others as they are written", () => {
  expect(readOut(view, "start-1.a")).toBe("leg a");
  expect(readOut(view, "start-9.b")).toBe("start-9.b");
  expect(namesOf("panel", view)[0]).toEqual(["start-1.a", "leg a"]);
});

test("each kind of slot is offered what it can name", () => {
  const names = (kind: Parameters<typeof namesOf>[0]) => namesOf(kind, view).map(([n]) => n);
  expect(names("panel")).toEqual(["start-1.a", "fold-1.north"]);
  expect(names("bend")).toEqual(["start-1.1"]);
  expect(names("zone")).toHaveLength(3);
  expect(names("surface")).toEqual(["flat", "start-1.a", "fold-1.north"]);
  expect(names("edge")).toEqual(edgesOf(view));
  expect(names("corner")).toEqual(["start-1.north/east"]);
  expect(names("about")).toEqual([
    ...["flat", "start-1.a", "fold-1.north", "start-1.1"],
    ...["start-1.west", "start-1.a.north", "fold-1.north.tip"],
  ]);
  expect(names("length")).toEqual([]);
  expect(namesOf("edge", undefined)).toEqual([]);
});

test("what repeat and mirror may name are the lines that make cuts", () => {
  const verbs = [
    { tag: "punch", role: "cut" },
    { tag: "fold", role: "bend" },
  ] as unknown as VerbView[];
  const lines = [
    { id: "start-1", say: { verb: "start_plate" } },
    { id: "punch-1", say: { verb: "punch" } },
    { id: "fold-1", say: { verb: "fold" } },
  ];
  expect(cutIds(lines, verbs)).toEqual(["punch-1"]);
  expect(cutIds(lines, undefined)).toEqual([]);
});

test("what is offered takes in what there is; what nothing has is left out", () => {
  const said = { verb: "fold", edges: ["$edge"], of: ["$cut", "x"], on: "$panel", place: "$place", n: 3 };
  const place = { x: "1" };
  expect(filled(said, { edge: "start-1.north", place })).toEqual({
    verb: "fold",
    edges: ["start-1.north"],
    of: ["x"],
    on: "",
    place: { x: "1" },
    n: 3,
  });
  expect(filled({ path: ["$nodes"] }, { nodes: ["A", "B"] })).toEqual({ path: ["A", "B"] });
  const verbs = [
    { tag: "fold", stem: "fold" },
    { tag: "members", stem: "" },
  ] as unknown as VerbView[];
  expect(stemOfSay(verbs, { verb: "fold" })).toBe("fold");
  expect(stemOfSay(verbs, { verb: "members", name: "rail" })).toBe("rail");
});
