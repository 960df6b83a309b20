import { expect, test } from "vitest";
import { evaluated } from "./decode";

/** Seven bits a byte, steps from the number before, negative ones odd: written here apart from the server. */
function packed(numbers: number[]): string {
  let last = 0;
  const out: number[] = [];
  for (const v of numbers) {
    let rest = v >= last ? 2 * (v - last) : 2 * (last - v) - 1;
    last = v;
    while (rest > 127) {
      out.push((rest % 128) + 128);
      rest = Math.floor(rest / 128);
    }
    out.push(rest);
  }
  return btoa(String.fromCharCode(...out));
}

const floats = (v: number[]) => btoa(String.fromCharCode(...new Uint8Array(new Float32Array(v).buffer)));

test("holes, tags and features come out with the names and lines that were packed", () => {
  const mesh = {
    points: "",
    zones: "",
    triangles: "",
    triangle_zones: "",
    walls: "",
    creases: "",
    light: false,
  };
  const far = 300;
  const names = Array.from({ length: far + 1 }, (_, i) => `name ${i}`);
  const flat = {
    holes: {
      made_by: packed([2, 0, 1]),
      shape: packed([0, 1, 0]),
      at: floats([1.5, -2, 3000.25, 4, 5, 6]),
    },
    shapes: [
      [
        [0, 0, 1],
        [2, 0, 1],
      ],
      [
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0],
      ],
    ],
  };
  const got = {
    piece: {
      mesh,
      raised: {
        points: floats([1, 2, 3.5]),
        zones: packed([4]),
        triangles: "",
        shapes: packed([1, 0]),
        lines: "",
      },
      flat,
      names,
      tags: packed([0, far, 1]),
      features: { name: packed([far, 3]), line: packed([5, 200]) },
    },
  };
  const { piece } = evaluated(got as unknown as Parameters<typeof evaluated>[0]);
  expect(Array.from(piece?.raised.points ?? [])).toEqual([1, 2, 3.5]);
  expect(Array.from(piece?.raised.shapes ?? [])).toEqual([1, 0]);
  expect(piece?.tags).toEqual(["name 0", `name ${far}`, "name 1"]);
  expect(piece?.features).toEqual([
    { name: `name ${far}`, line: "name 5" },
    { name: "name 3", line: "name 200" },
  ]);
  expect(piece?.flat.holes).toEqual([
    { name: "name 3", line: "name 200", shape: 0, at: [1.5, -2] },
    { name: "", line: "", shape: 1, at: [3000.25, 4] },
    { name: `name ${far}`, line: "name 5", shape: 0, at: [5, 6] },
  ]);
  expect(piece?.flat.paths).toHaveLength(2);
});

test("an answer without a piece stays one", () => {
  expect(evaluated({ piece: null } as unknown as Parameters<typeof evaluated>[0]).piece).toBeNull();
});
