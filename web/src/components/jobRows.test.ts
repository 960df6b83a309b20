import { expect, test } from "vitest";
import type { Evaluated, Job } from "../api/types";
import { assembliesOf, found, grouped, rowsOf, sorted } from "./jobRows";

const piece = (id: string, mark: string, material: string, thickness: string) => ({
  id,
  mark,
  name: `piece ${id}`,
  material,
  thickness,
  quantity: "2",
});
const job = {
  pieces: [
    piece("a", "P-10", "s235", "3"),
    piece("b", "P-9", "oak", "1/2in"),
    piece("c", "P-2", "s235", "3"),
  ],
  frames: [{ id: "f", mark: "F-1", name: "stand", material: "s235" }],
} as unknown as Job;
const state = (id: string, thickness: number, longest: number, mass: number, stops = 0) => ({
  id,
  made: true,
  stops,
  warns: 0,
  notes: 1,
  thickness,
  longest,
  mass,
  mass_said: mass.toFixed(2),
});
const result = {
  piece_states: [state("a", 3, 900, 2), state("b", 12.7, 1000, 0.3), state("c", 3, 90, 10, 2)],
  frame_states: [state("f", 0, 2000, 40)],
  cut_list: {
    rows: [
      {
        piece: "a",
        of: "",
        material: "S235 steel",
        thickness: "3",
        blank: "900 × 20",
        unit_mass: "2.00",
      },
      { piece: "a/B1", of: "a", material: "Oak", thickness: "18", blank: "1 × 1", unit_mass: "9" },
    ],
    frames: [{ frame: "f", mass: "40.0", bars: [{ members: ["x", "y"] }, { members: ["z"] }] }],
  },
} as unknown as Evaluated;
const rows = rowsOf(job, result);
const marks = (of: typeof rows) => of.map((r) => r.mark);

test("each piece and frame is a row of its own figures, not of what lies on it", () => {
  expect(rows.map((r) => [r.mark, r.material, r.size, r.mass])).toEqual([
    ["P-10", "S235 steel", "900 × 20", "2.00"],
    ["P-9", "oak", "", "0.30"],
    ["P-2", "s235", "", "10.00"],
    ["F-1", "s235", "3 members", "40.00"],
  ]);
});

test("a frame's material goes by its name where the book knows it", () => {
  expect(rowsOf(job, result, [["s235", "S235 steel"]])[3]!.material).toBe("S235 steel");
});

test("marks sort as they are counted, sizes by what they measure, and equal ones as they stood", () => {
  expect(marks(sorted(rows, "mark", false))).toEqual(["F-1", "P-2", "P-9", "P-10"]);
  expect(marks(sorted(rows, "size", false))).toEqual(["P-2", "P-10", "P-9", "F-1"]);
  expect(marks(sorted(rows, "thickness", true))).toEqual(["P-9", "P-10", "P-2", "F-1"]);
  expect(marks(sorted(rows, "findings", false))[0]).toBe("P-2");
  expect(sorted(rows, null, false)).toBe(rows);
});

test("every word must be found somewhere; groups keep the order of their rows", () => {
  expect(marks(found(rows, "s235 STEEL"))).toEqual(["P-10"]);
  expect(marks(found(rows, "  "))).toHaveLength(4);
  expect(grouped(sorted(rows, "mark", false), "findings").map((g) => [g.heading, marks(g.rows)])).toEqual(
    [
      ["Notes", ["F-1", "P-9", "P-10"]],
      ["To stop for", ["P-2"]],
    ],
  );
  expect(grouped(rows, "sheet").map((g) => g.heading)).toEqual([
    "S235 steel, 3",
    "oak, 1/2in",
    "s235, 3",
    "Frames",
  ]);
});

test("groups by assembly: a frame heads what goes into it, whatever the letters; the rest is last", () => {
  const told = {
    ...job,
    pieces: job.pieces!.map((p, i) => ({ ...p, assembly: ["f-1 ", "", "Rim"][i] })),
  } as unknown as Job;
  const groups = grouped(rowsOf(told, result), "assembly");
  expect(groups.map((g) => [g.heading, marks(g.rows)])).toEqual([
    ["F-1 stand", ["F-1", "P-10"]],
    ["Rim", ["P-2"]],
    ["On their own", ["P-9"]],
  ]);
  expect(assembliesOf(told)).toEqual(["F-1", "Rim"]);
  expect(marks(found(rowsOf(told, result), "rim"))).toEqual(["P-2"]);
});
