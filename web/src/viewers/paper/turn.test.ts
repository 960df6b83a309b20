import fc from "fast-check";
import { expect, test } from "vitest";
import { straight, turned } from "./turn";

const share = fc.double({ min: 0, max: 1, noNaN: true });

test("a quarter turn with the clock brings the upper left corner to the upper right", () => {
  expect(turned([0, 0], 1)).toEqual([1, 0]);
  expect(turned([0, 0], 2)).toEqual([1, 1]);
  expect(turned([0, 0], 3)).toEqual([0, 1]);
});

test("what is turned and turned back lies where it lay; four quarters are none", () => {
  fc.assert(
    fc.property(share, share, fc.integer({ min: -9, max: 9 }), (x, y, q) => {
      const [a, b] = straight(turned([x, y], q), q);
      expect(a).toBeCloseTo(x, 12);
      expect(b).toBeCloseTo(y, 12);
      let p: [number, number] = [x, y];
      for (let k = 0; k < 4; k++) p = turned(p, 1);
      expect(p[0]).toBeCloseTo(x, 12);
      expect(p[1]).toBeCloseTo(y, 12);
      let by: [number, number] = [x, y];
      for (let k = 0; k < ((q % 4) + 4) % 4; k++) by = turned(by, 1);
      expect(turned([x, y], q)[0]).toBeCloseTo(by[0], 12);
    }),
  );
});
