import { expect, test } from "vitest";
import { paceOf, placeSaid, planeMarks, reachOf } from "./planeMarks";

test("a length is parted into three to seven round steps", () => {
  for (const length of [1, 3, 7.2, 47, 99, 100, 1200, 36_000]) {
    const pace = paceOf(length);
    expect(length / pace).toBeGreaterThanOrEqual(3);
    expect(length / pace).toBeLessThan(7.6);
    expect([1, 2, 5]).toContain(Number((pace / 10 ** Math.floor(Math.log10(pace) + 1e-9)).toFixed(6)));
  }
});

test("the axes of a plane go through zero at its level, and are numbered in the frame's unit", () => {
  const floor = planeMarks(2, 500, 1200, false);
  expect(floor.filter((m) => m.axis).map((m) => [m.words, m.at])).toEqual([
    ["east, mm", [1200, 0, 500]],
    ["north, mm", [0, 1200, 500]],
  ]);
  expect(floor.filter((m) => m.at[1] === 0 && !m.axis).map((m) => [m.words, m.at[0]])).toEqual([
    ["200", 200],
    ["400", 400],
    ["600", 600],
    ["800", 800],
    ["1000", 1000],
  ]);
  const side = planeMarks(0, 0, 25.4 * 60, true).filter((m) => m.at[2] > 0);
  expect(side.map((m) => m.words)).toEqual(["20", "40", "up, in"]);
  expect(side[0]!.at[2]).toBeCloseTo(508, 9);
});

test("the axes go further than what stands there", () => {
  expect(reachOf({ nodes: [] } as never)).toBe(1200);
  expect(reachOf({ nodes: [{ name: "A", at: [0, -4000, 10] }] } as never)).toBe(4800);
});

test("a place is said as it can be typed", () => {
  expect(placeSaid([-600, 1050.04, 0], false)).toBe("600 west, 1050 north, 0 up");
  expect(placeSaid([25.4 * 1.5, -0.001, -254], true)).toBe("1.5 east, 0 north, 10 down");
});
