import { describe, expect, it } from "vitest";
import { askOf, type Spots, spotOf, type Tag } from "./spots";

const tag = (key: string, over: Partial<Tag> = {}): Tag => ({
  key,
  at: [100, 50],
  wide: 40,
  high: 14,
  clear: 3,
  weight: 1,
  ...over,
});

describe("where a label stands", () => {
  it("is above what it speaks of until the engine has answered", () => {
    const spot = spotOf(tag("a"), new Map())!;
    expect(spot.x).toBe(100);
    expect(spot.y).toBeLessThan(50 - 3 - 14 / 2);
    expect(spot.leader).toBeUndefined();
  });

  it("goes along with what it speaks of while the view moves", () => {
    const spots: Spots = new Map([["a", { off: [30, -20], leader: [20, -14, 2, -2] }]]);
    expect(spotOf(tag("a"), spots)).toEqual({ x: 130, y: 30, leader: [120, 36, 102, 48] });
    expect(spotOf(tag("a", { at: [110, 55] }), spots)).toEqual({
      x: 140,
      y: 35,
      leader: [130, 41, 112, 53],
    });
  });

  it("is nowhere where it has no room", () => {
    expect(spotOf(tag("a"), new Map([["a", null]]))).toBeNull();
    expect(spotOf(tag("b"), new Map([["a", null]]))).not.toBeNull();
  });
});

describe("what the engine is asked", () => {
  it("tells where each stood before, and nothing of one that has no place yet", () => {
    const spots: Spots = new Map([
      ["a", { off: [0, -12] }],
      ["b", null],
    ]);
    const ask = askOf([tag("a"), tag("b"), tag("c")], { boxes: [], lines: [] }, [800, 600], spots);
    expect(ask.labels.map((l) => l.before)).toEqual([[0, -12], null, null]);
  });

  it("comes in tenths of a pixel, and in lines that can be looked through", () => {
    const lines = Array.from({ length: 4000 }, (_, i) => [i / 3, 0, i, 1]);
    const ask = askOf(
      [tag("a", { at: [1 / 3, 2 / 3] })],
      { boxes: [[0.123, 0.456, 9.99, 1]], lines },
      [800, 600],
      new Map(),
    );
    expect(ask.labels[0]!.at).toEqual([0.3, 0.7]);
    expect(ask.boxes).toEqual([[0.1, 0.5, 10, 1]]);
    expect(ask.lines!.length).toBeLessThan(2000);
    expect(ask.lines![1]![0]).toBe(0.3);
  });
});
