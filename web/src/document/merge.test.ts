import fc from "fast-check";
import { expect, test } from "vitest";
import type { Job } from "../api/types";
import { issue, mentions, retire } from "./ids";
import { depart, taken } from "./leftover";
import { adopt, changes, compare, differences, same } from "./merge";

const piece = (id: string, size: string) => ({
  id,
  mark: id.toUpperCase(),
  name: "",
  lines: [{ id: "punch-1", say: { verb: "punch", shape: { diameter: size } } }],
});
const job = (sizes: Record<string, string>, title = "line") =>
  ({
    format: 1,
    title,
    pieces: Object.entries(sizes).map(([id, size]) => piece(id, size)),
    frames: [],
  }) as unknown as Job;
const sizes = (j: Job) =>
  Object.fromEntries(
    (j.pieces ?? []).map((p) => [
      p.id,
      (p.lines![0] as unknown as { say: { shape: { diameter: string } } }).say.shape.diameter,
    ]),
  );

test("different pieces are brought together, the same piece is shown from both sides", () => {
  const base = job({ a: "1", b: "1", c: "1" });
  const mine = job({ a: "2", b: "1", c: "1" });
  const theirs = job({ a: "1", b: "3", c: "1", d: "4" }, "their title");
  const apart = compare(base, mine, theirs);
  expect(apart.clashes).toEqual([]);
  expect(apart.taken.map((p) => p.id).sort()).toEqual(["b", "d", "title"]);
  const merged = adopt(mine, theirs, apart.taken);
  expect(sizes(merged)).toEqual({ a: "2", b: "3", c: "1", d: "4" });
  expect(merged.title).toBe("their title");
  const clash = compare(base, mine, job({ a: "9", b: "1", c: "1" }));
  expect(clash.clashes).toHaveLength(1);
  expect(clash.clashes[0]).toMatchObject({
    part: { kind: "piece", id: "a" },
    mine: [{ at: "punch-1 · shape · diameter", before: "1", after: "2" }],
    theirs: [{ after: "9" }],
  });
  // The same change on both sides is none.
  expect(compare(base, mine, mine)).toEqual({ clashes: [], taken: [] });
  // Taken out there, changed here.
  expect(compare(base, mine, job({ b: "1", c: "1" })).clashes[0]!.theirs).toEqual([
    { at: "all of it", before: "A", after: "–" },
  ]);
});

test("numbers given out on both sides are no clash: the higher of each stands", () => {
  const told = (issued: object, sizes: Record<string, string>) => ({ ...job(sizes), issued }) as Job;
  const base = told({ piece: 1, frame: 2 }, { a: "1" });
  const mine = told({ piece: 3, frame: 2 }, { a: "1", b: "1" });
  const theirs = told({ piece: 1, frame: 4, brief: 1 }, { a: "1", c: "1" });
  const apart = compare(base, mine, theirs);
  expect(apart.clashes).toEqual([]);
  const want = { piece: 3, frame: 4, brief: 1 };
  expect(adopt(mine, theirs, apart.taken).issued).toEqual(want);
  expect(adopt(mine, theirs, apart.taken, base).issued).toEqual(want);
  expect(adopt(mine, told({}, { a: "1" }), apart.taken).issued).toEqual(mine.issued);
});

test("pieces that share an id are one part", () => {
  const twice = { ...job({}), pieces: [piece("a", "1"), piece("a", "2")] } as unknown as Job;
  const c = compare(twice, { ...twice, pieces: [] } as Job, twice);
  expect(c).toEqual({ clashes: [], taken: [] });
  expect(differences(twice, { ...twice, pieces: [] } as Job)[0]!.part.id).toBe("pieces");
});

const anyJob = fc
  .dictionary(fc.constantFrom("a", "b", "c", "d", "e"), fc.constantFrom("1", "2", "3"))
  .map((d) => job(d));

test("what comes together has every change of either side, and a choice of theirs is theirs", () => {
  fc.assert(
    fc.property(anyJob, anyJob, anyJob, (base, mine, theirs) => {
      const c = compare(base, mine, theirs);
      const both = sizes(adopt(mine, theirs, c.taken));
      const clashing = new Set(c.clashes.map((x) => x.part.id));
      const [b, m, t] = [base, mine, theirs].map(sizes);
      for (const id of ["a", "b", "c", "d", "e"]) {
        const want = m![id] !== b![id] || clashing.has(id) ? m![id] : t![id];
        expect(both[id]).toBe(want);
      }
      const all = sizes(adopt(mine, theirs, [...c.taken, ...c.clashes.map((x) => x.part)]));
      const onlyMine = ["a", "b", "c", "d", "e"].filter(
        (id) => m![id] !== b![id] && !clashing.has(id) && m![id] !== t![id],
      );
      for (const id of ["a", "b", "c", "d", "e"])
        expect(all[id]).toBe(onlyMine.includes(id) ? m![id] : t![id]);
    }),
    { seed: 7 },
  );
});

test("undo goes back to what was mine, on top of what is theirs", () => {
  const base = job({ a: "1", b: "1" });
  const old = { ...base, pieces: base.pieces } as Job;
  const theirs = job({ a: "1", b: "5" });
  const part = { kind: "piece" as const, id: "b", label: "B" };
  expect(sizes(adopt(old, theirs, [part], base))).toEqual({ a: "1", b: "5" });
  const touched = job({ a: "1", b: "2" });
  expect(sizes(adopt(touched, theirs, [part], base))).toEqual({ a: "1", b: "2" });
});

test("what is left behind comes back whole, and holds only what was touched", () => {
  fc.assert(
    fc.property(anyJob, anyJob, (base, other) => {
      // Pieces that are alike are the same objects, as they are at the bench.
      const mine = {
        ...other,
        pieces: other.pieces?.map((p) => base.pieces?.find((b) => same(b, p)) ?? p),
      } as Job;
      const left = JSON.parse(JSON.stringify(depart(base, mine)));
      expect(same(taken(base, left), mine)).toBe(true);
      expect(Object.keys(left.pieces.items).length).toBe(
        mine.pieces!.filter((p) => !base.pieces!.includes(p)).length,
      );
    }),
    { seed: 8 },
  );
  const base = { ...job({}), note: "x" } as Job;
  const { note: _, ...without } = base;
  expect("note" in taken(base, depart(base, without as Job))).toBe(false);
});

test("a long list of changes is cut with its number", () => {
  const long = (v: number) => ({ list: Array.from({ length: 40 }, () => v) });
  expect(changes(long(1), long(2)).at(-1)!.at).toBe("and 28 more");
});

test("an id is never given out twice", () => {
  let issued = {};
  const seen = new Set<string>();
  let lines: string[] = [];
  for (let n = 0; n < 30; n++) {
    const got = issue("punch", lines, issued);
    expect(seen.has(got.id)).toBe(false);
    seen.add(got.id);
    issued = got.issued;
    // The newest is taken out again and again.
    lines = n % 3 === 0 ? [] : [...lines, got.id];
  }
  expect(issue("punch", ["punch-7"], {}).id).toBe("punch-8");
  expect(issue("punch", [], retire("punch-9", {})).id).toBe("punch-10");
  expect(issue("slot", ["punch-7"], issued).id).toBe("slot-1");
});

test("who mentions a line, by its id or a part of it", () => {
  const line = (id: string, say: unknown) => ({ id, say });
  const lines = [
    line("punch-1", {}),
    line("r", { of: ["punch-1"] }),
    line("m", { on: "punch-1.north" }),
    line("x", { of: ["punch-11"], note: "near punch-1 here" }),
  ];
  expect(mentions("punch-1", lines)).toEqual(["r", "m"]);
});
