import { describe, expect, it } from "vitest";
import type { ZoneView } from "../../api/types";
import { foldShares, formed, frames, placeAll } from "./fold";

const zone = (
  name: string,
  parent: number | null,
  from: number,
  to: number,
  more: Partial<ZoneView> = {},
): ZoneView =>
  ({
    name,
    parent,
    along: [1, 0],
    origin: [from, 0],
    region: [
      [from, 0],
      [to, 0],
      [to, 50],
      [from, 50],
    ],
    ...more,
  }) as unknown as ZoneView;

const K = 0.42;
const T = 2;
const R = 3;
const allowance = (Math.PI / 2) * (R + K * T);
const bend = (up: boolean) =>
  ({ bend: { angle: Math.PI / 2, allowance, k: K, up } }) as Partial<ZoneView>;
// Base, up, a wall, down, a lip: a Z that folds to known places.
const at = [0, 40, 40 + allowance, 70 + allowance, 70 + 2 * allowance, 90 + 2 * allowance];
const zones = [
  zone("base", null, at[0]!, at[1]!),
  zone("one", 0, at[1]!, at[2]!, bend(true)),
  zone("wall", 1, at[2]!, at[3]!),
  zone("two", 2, at[3]!, at[4]!, bend(false)),
  zone("lip", 3, at[4]!, at[5]!),
];

describe("points of the flat in space", () => {
  it.each([0, 0.3, 1, 1.5, 2])(
    "all together stand where each alone stands, %d bends folded",
    (progress) => {
      const shares = foldShares(zones, progress, ["one", "two"]);
      const where = frames(zones, shares, T);
      const flat = zones.flatMap((_, z) =>
        [0, 0.25, 0.5, 0.9, 1].map((s) => [z, at[z]! + s * (at[z + 1]! - at[z]!), 50 * s * s] as const),
      );
      const points = Float32Array.from(flat.flatMap((p) => [p[1], p[2]]));
      const out = new Float32Array(points.length * 3);
      placeAll(zones, where, shares, T, points, Uint32Array.from(flat.map((p) => p[0])), out);
      flat.forEach(([z, x, y], i) => {
        for (const [k, height] of [T, 0].entries()) {
          const one = formed(zones[z]!, where[z]!, shares[z] ?? 1, T, x, y, height);
          const all = out.subarray((i + k * flat.length) * 3, (i + k * flat.length) * 3 + 3);
          one.forEach((v, axis) => expect(all[axis]).toBeCloseTo(v, 3));
        }
      });
    },
  );

  it("what is rolled moves first, or last where only that keeps clear of the tools", () => {
    // "two" is rolled: the brake's order does not name it.
    expect(foldShares(zones, 1, ["one"])).toEqual([1, 0, 1, 1, 1]);
    expect(foldShares(zones, 1, ["one"], true)).toEqual([1, 1, 1, 0, 1]);
    expect(foldShares(zones, 1.5, ["one"], true)).toEqual([1, 1, 1, 0.5, 1]);
  });

  it("a folded Z measures what a rule would find", () => {
    const shares = [1, 1, 1, 1, 1];
    const where = frames(zones, shares, T);
    const out = new Float32Array(6);
    // The tip of the lip: base 40, r + t, r, 20 on; 30 of wall between two bends.
    placeAll(zones, where, shares, T, Float32Array.from([at[5]!, 0]), Uint32Array.from([4]), out);
    expect(out[0]).toBeCloseTo(40 + R + T + R + 20, 3);
    expect(out[2]).toBeCloseTo(T + R + 30 + R + T, 3);
    expect(out[5]).toBeCloseTo(T + R + 30 + R, 3);
  });
});
