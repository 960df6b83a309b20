import { expect, test } from "vitest";
import { added, freshId, type Item, type List, without } from "./listItems";

const list = (over: Partial<List>): List =>
  ({
    part: "list",
    path: "/profile",
    label: "element",
    item: [],
    lead: "",
    least: 1,
    adds: [],
    ids: {
      lettered: "leg",
      letters: [..."abcdefghijklmnopqrstuvwxyz", "a1"],
      usual: ["1", "2", "3", "4"],
    },
    chain: true,
    ...over,
  }) as List;

const leg = (id: string): Item => ({ kind: "leg", id, length: "10" });
const bend = (id: string): Item => ({ kind: "bend", id, angle: "90" });
const strip = [leg("a"), bend("1"), leg("b"), bend("2"), leg("c")];
const ids = (items: Item[]) => items.map((i) => i.id).join("");

test("legs are called by letters, bends by numbers; a gap is filled, and z is followed by a1", () => {
  const by = list({}).ids!;
  expect(freshId(by, strip, leg(""))).toBe("d");
  expect(freshId(by, strip, bend(""))).toBe("3");
  expect(freshId(by, [leg("a"), leg("c")], leg(""))).toBe("b");
  const all = Array.from({ length: 26 }, (_, i) => leg(String.fromCharCode(97 + i)));
  expect(freshId(by, all, leg(""))).toBe("a1");
});

test("words first, then numbers of the stem", () => {
  const by = { lettered: "", letters: [], usual: ["fold2", "fold3", "fold4"] };
  expect(freshId(by as never, [], {})).toBe("fold2");
  expect(freshId(by as never, [{ id: "fold2" }], {})).toBe("fold3");
  expect(freshId(by as never, [{ id: "fold2" }, { id: "fold3" }], {})).toBe("fold4");
});

test("a bend is added with the leg behind it, where it was asked for, in the piece's unit", () => {
  const add = {
    name: "bend and leg",
    mm: [
      { kind: "bend", angle: "90" },
      { kind: "leg", length: "20" },
    ],
    inch: [
      { kind: "bend", angle: "90" },
      { kind: "leg", length: "1" },
    ],
  } as unknown as List["adds"][number];
  const next = added(list({}), strip, add, 3, false);
  expect(ids(next)).toBe("a1b3d2c");
  expect(next[4]).toMatchObject({ kind: "leg", length: "20" });
  expect(added(list({}), strip, add, 5, true).at(-1)).toMatchObject({ length: "1" });
  expect(ids(strip)).toBe("a1b2c");
});

test("a leg goes with a bend beside it, so that the chain stays one", () => {
  expect(ids(without(list({}), strip, 0))).toBe("b2c");
  expect(ids(without(list({}), strip, 2))).toBe("a2c");
  expect(ids(without(list({}), strip, 4))).toBe("a1b");
  expect(ids(without(list({}), strip, 1))).toBe("a2c");
  const free = list({ chain: false, ids: null });
  expect(without(free, [{ x: 1 }, { x: 2 }, { x: 3 }], 1)).toEqual([{ x: 1 }, { x: 3 }]);
});
