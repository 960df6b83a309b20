import { beforeEach, expect, test } from "vitest";
import type { Job } from "../api/types";
import { type Begun, begunOf, fits, putBegun, settle } from "./beginning";
import { addSay, docOf } from "./bench";
import { draft } from "./draft";

const job = (): Job =>
  ({
    format: 1,
    title: "t",
    pieces: [{ id: "a", mark: "P-7", name: "New piece", thickness: "2", lines: [] }],
    frames: [],
  }) as unknown as Job;

const tray = (width: string) => ({ id: "start-1", say: { verb: "start_tray", width } });
const parts = (width: string, lid: string) => [
  { name: "Box", lines: [tray(width)] },
  { name: "Lid", lines: [tray(lid)] },
];
const put = (a: string, before?: Begun) =>
  putBegun("piece", { tag: "box", sizes: { A: a } }, parts(a, `${a} + 1`), before, "New piece");
const pieces = () => draft.getState().job?.pieces ?? [];
const widths = () => pieces().map((p) => (p.lines?.[0]?.say as { width: string } | undefined)?.width);
const now = () => begunOf(docOf("piece")?.lines);

beforeEach(() => {
  draft.setState({ job: job(), piece: "a", frame: "", past: [], future: [], word: "", picked: "" });
});

test("what was begun follows its sizes as one step of undo, with what stands beside it", () => {
  put("200");
  put("30", now());
  put("300", now());
  expect(pieces().map((p) => [p.mark, p.name, p.thickness])).toEqual([
    ["P-7", "Box", "2"],
    ["P-8", "Lid", "2"],
  ]);
  expect(widths()).toEqual(["300", "300 + 1"]);
  expect(now()?.sizes).toEqual({ A: "300" });
  draft.getState().undo();
  expect(widths()).toEqual([undefined]);
  draft.getState().redo();
  expect(widths()).toEqual(["300", "300 + 1"]);
  expect(now()?.sizes).toEqual({ A: "300" });
});

test("a hand on the lines ends it, and undo brings it back; what a hand changed beside stays", () => {
  put("200");
  const first = now();
  addSay("piece", { verb: "punch" }, "punch");
  expect(now()).toBeUndefined();
  draft.getState().undo();
  expect(now()).toBe(first);
  draft.setState({ piece: pieces()[1]!.id });
  addSay("piece", { verb: "punch" }, "punch");
  draft.setState({ piece: "a" });
  put("210", now());
  expect(widths()).toEqual(["210", "200 + 1"]);
  settle(docOf("piece")!.lines!);
  expect(now()).toBeUndefined();
});

test("no line takes a number that was given out before", () => {
  expect(fits([tray("1")], {})).toBe(true);
  expect(fits([tray("1")], { start: 1 })).toBe(false);
  expect(fits([tray("1")], { punch: 4 })).toBe(true);
  expect(fits([{ id: "top", say: {} }], { top: 4 })).toBe(true);
});
