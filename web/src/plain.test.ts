// The plain-data parts of the web, without a browser.
import { expect, test } from "vitest";
import { get, set } from "./document/pointer";
import { loopPath } from "./evaluation/paths";
import { foldShares } from "./viewers/formed/fold";

const piece = { mark: "P-1", lines: [{ id: "a", say: { size: "3" } }, { id: "b" }] };

test("pointers read what is there and nothing else", () => {
  expect(get(piece, "/lines/0/say/size")).toBe("3");
  expect(get(piece, "")).toBe(piece);
  for (const path of ["/lines/9/say", "/mark/x/y", "/none"]) expect(get(piece, path)).toBeUndefined();
  expect(get({ "a/b": { "~": 1 } }, "/a~1b/~0")).toBe(1);
});

test("pointers write copies, append and take out", () => {
  const next = set(piece, "/lines/0/say/size", "5");
  expect(next.lines[0]!.say!.size).toBe("5");
  expect(piece.lines[0]!.say!.size).toBe("3");
  expect(next.lines[1]).toBe(piece.lines[1]);
  expect(set(piece, "/lines/-", { id: "c" }).lines.map((l) => l.id)).toEqual(["a", "b", "c"]);
  expect("say" in set(piece, "/lines/0/say", undefined).lines[0]!).toBe(false);
  expect(set(piece, "/display/length", "in")).toMatchObject({ display: { length: "in" } });
  expect(set({}, "/rows/-", { a: 1 })).toEqual({ rows: [{ a: 1 }] });
});

test("arcs are drawn as arcs, on the right side and of the right size", () => {
  // A circle of radius 5 told as two half circles.
  const d = loopPath([
    [5, 0, 1],
    [-5, 0, 1],
  ]);
  expect(d).toBe("M5 0A5 5 0 0 1 -5 0A5 5 0 0 1 5 0Z");
  expect(
    loopPath([
      [0, 0, 0],
      [4, 0, 0],
      [4, 3, 0],
    ]),
  ).toBe("M0 0L4 0L4 3L0 0Z");
  const quarter = loopPath([
    [10, 0, Math.tan(Math.PI / 8)],
    [0, 10, 0],
    [0, 0, 0],
  ]);
  expect(Number(quarter.match(/A([\d.]+) /)![1])).toBeCloseTo(10, 9);
  expect(loopPath([])).toBe("");
});

test("bends fold one after the other, in the order of the brake", () => {
  const zone = (bend: boolean, i: number) => ({
    name: `z${i}`,
    bend: bend ? { angle: 1, up: true, allowance: 1, k: 0.4 } : null,
  });
  const zones = [false, true, false, true, false].map(zone) as unknown as Parameters<
    typeof foldShares
  >[0];
  expect(foldShares(zones, 0, [])).toEqual([1, 0, 1, 0, 1]);
  expect(foldShares(zones, 0.5, [])).toEqual([1, 0.5, 1, 0, 1]);
  expect(foldShares(zones, 1.25, ["z1", "z3"])).toEqual([1, 1, 1, 0.25, 1]);
  expect(foldShares(zones, 1.25, ["z3", "z1"])).toEqual([1, 0.25, 1, 1, 1]);
  expect(foldShares(zones, 2, [])).toEqual([1, 1, 1, 1, 1]);
});
