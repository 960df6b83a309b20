import { describe, expect, it } from "vitest";
import { held, pinched, type View } from "./usePanZoom";

const view: View = { k: 2, tx: 100, ty: 300 };
/** Where a place of the flat stands. */
const px = (v: View, [x, y]: [number, number]) => [x * v.k + v.tx, -y * v.k + v.ty];
const hold = (...at: [number, number][]) => held(new Map(at.map((p, i) => [i, p])));

describe("fingers on a view", () => {
  it("move it by one, and leave its size alone", () => {
    const to = pinched(view, hold([50, 60]), hold([80, 20]), [10, 20]);
    expect(to).toEqual({ k: 2, tx: 130, ty: 260 });
  });

  it("bring it nearer by two, and keep what lies under each of them there", () => {
    const [a, b]: [number, number][] = [
      [120, 220],
      [220, 220],
    ];
    // What lies under both, on the flat; the view's corner is at 10, 20.
    const place = ([x, y]: [number, number]): [number, number] => [
      (x - 10 - view.tx) / view.k,
      -(y - 20 - view.ty) / view.k,
    ];
    const [c, d]: [number, number][] = [
      [90, 260],
      [290, 260],
    ];
    const to = pinched(view, hold(a!, b!), hold(c!, d!), [10, 20]);
    expect(to.k).toBeCloseTo(4);
    for (const [was, is] of [
      [a!, c!],
      [b!, d!],
    ]) {
      const [x, y] = px(to, place(was!));
      expect(x).toBeCloseTo(is![0] - 10);
      expect(y).toBeCloseTo(is![1] - 20);
    }
  });

  it("stop where nothing is seen any more", () => {
    const far = pinched(view, hold([0, 0], [1000, 0]), hold([499, 0], [501, 0]), [0, 0]);
    expect(far.k).toBeGreaterThan(0);
    const near = pinched({ ...view, k: 300 }, hold([0, 0], [10, 0]), hold([0, 0], [900, 0]), [0, 0]);
    expect(near.k).toBe(400);
    // Two fingers on one spot tell no size.
    expect(pinched(view, hold([5, 5], [5, 5]), hold([5, 5], [90, 5]), [0, 0]).k).toBe(2);
  });
});
