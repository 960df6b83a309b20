import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Evaluated, Job } from "../api/types";
import { applyMend, writeDoc, writeJob } from "./bench";
import { draft, inInches } from "./draft";
import { get } from "./pointer";

const job = (): Job =>
  ({
    format: 1,
    title: "t",
    pieces: [
      { id: "a", mark: "P-1", name: "one", lines: [{ id: "start-1", say: { width: "10" } }] },
      { id: "b", mark: "P-2", name: "two", lines: [] },
    ],
    frames: [{ id: "f", mark: "F-1", name: "three", lines: [] }],
  }) as unknown as Job;

const d = () => draft.getState();
const at = (path: string) => get(d().job, path);
const width = "/lines/0/say/width";

beforeEach(() => {
  vi.useFakeTimers({ now: 1_000_000 });
  draft.setState({ job: job(), piece: "a", frame: "", past: [], future: [], goTo: null, result: null });
});
afterEach(() => vi.useRealTimers());

test("typing in one field in one go is one step; a pause, another field, an act begin another", () => {
  for (const text of ["1", "12", "123"]) {
    writeDoc("piece", width, text, true);
    vi.advanceTimersByTime(300);
  }
  expect(d().past).toHaveLength(1);
  vi.advanceTimersByTime(2000);
  writeDoc("piece", width, "1234", true);
  expect(d().past).toHaveLength(2);
  writeDoc("piece", "/name", "o", true);
  writeDoc("piece", width, "5", true);
  expect(d().past).toHaveLength(4);
  writeDoc("piece", width, "6");
  writeDoc("piece", width, "7");
  expect(d().past).toHaveLength(6);
  for (let i = 0; i < 6; i++) d().undo();
  expect(d().job).toEqual(job());
  expect(d().past).toHaveLength(0);
});

test("letters that a slow page comes to late are one step, as they were pressed", () => {
  const press = (text: string, timeStamp: number) => {
    vi.stubGlobal("event", { isTrusted: true, timeStamp });
    writeDoc("piece", width, text, true);
    vi.advanceTimersByTime(5000);
  };
  ["1", "16", "160"].forEach((text, i) => {
    press(text, 100 + 150 * i);
  });
  expect(d().past).toHaveLength(1);
  press("1600", 400 + 1300);
  expect(d().past).toHaveLength(2);
  vi.unstubAllGlobals();
});

test("the same field of another piece is another step; of the job as well", () => {
  writeDoc("piece", "/name", "x", true);
  draft.setState({ piece: "b" });
  writeDoc("piece", "/name", "y", true);
  writeJob("/title", "z", true);
  writeJob("/title", "zz", true);
  expect(d().past).toHaveLength(3);
  expect([at("/pieces/0/name"), at("/pieces/1/name"), at("/title")]).toEqual(["x", "y", "zz"]);
});

test("what is done again can be undone again, and is no typing to be gone on with", () => {
  writeDoc("piece", width, "1", true);
  d().undo();
  d().redo();
  expect(at("/pieces/0/lines/0/say/width")).toBe("1");
  writeDoc("piece", width, "12", true);
  expect(d().past).toHaveLength(2);
  expect(d().future).toHaveLength(0);
});

test("an undo goes to what it changes", () => {
  draft.setState({ piece: "", frame: "f" });
  writeDoc("frame", "/name", "x");
  draft.setState({ piece: "a", frame: "" });
  writeDoc("piece", "/name", "y");
  d().undo();
  expect(d().goTo).toEqual({ kind: "pieces", id: "a" });
  d().undo();
  expect(d().goTo).toEqual({ kind: "frames", id: "f" });
  expect(at("/frames/0/name")).toBe("three");
});

test("what belongs to the step before goes with it; nothing changed is no step", () => {
  writeJob("/title", "x", true);
  d().amend((j) => ({ ...j, number: "7" }));
  expect(d().past).toHaveLength(1);
  // No letter goes on with it.
  writeJob("/title", "xy", true);
  expect(d().past).toHaveLength(2);
  d().edit("", (j) => j);
  d().amend((j) => j);
  expect(d().past).toHaveLength(2);
  d().undo();
  d().undo();
  expect(d().job).toEqual(job());
});

test("a mend is one step, however many fields it writes", () => {
  applyMend("piece", {
    label: "so",
    patch: [
      { op: "replace", path: width, value: "20" },
      { op: "add", path: "/lines/-", value: { id: "round-1", say: {} } },
    ],
  } as never);
  expect(d().past).toHaveLength(1);
  expect(at("/pieces/0/lines")).toHaveLength(2);
  d().undo();
  expect(d().job).toEqual(job());
});

test("only so many steps are kept", () => {
  for (let i = 0; i < 320; i++) writeJob("/title", String(i));
  expect(d().past).toHaveLength(300);
});

test("the last picture stays while a start cannot be read", () => {
  const made = { piece: { id: "a", made: true, drawn: true } } as unknown as Evaluated;
  const not = { piece: { id: "a", made: false, drawn: true } } as unknown as Evaluated;
  const now = d().job!;
  d().show(now, made);
  d().show(now, not);
  expect(d().lastGood).toBe(made.piece);
  expect(d().result).toBe(not);
  expect(d().resultOf).toBe(now);
});

test("inches are the job's, or the piece's own", () => {
  expect(inInches(undefined)).toBe(false);
  expect(inInches({ display: { length: "in" } })).toBe(true);
  writeJob("/display/length", "in");
  expect(inInches(undefined)).toBe(true);
  expect(inInches({ display: { length: "mm" } })).toBe(false);
});
