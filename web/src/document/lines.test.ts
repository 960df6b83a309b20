import { beforeEach, expect, test } from "vitest";
import type { Job } from "../api/types";
import { addDoc, addSay, docOf, dropDoc, writeDoc } from "./bench";
import { draft } from "./draft";
import { copyLine, moveLine, nameGroup, removeLine, switchLine } from "./lines";

const job = (): Job =>
  ({
    format: 1,
    title: "t",
    pieces: [
      {
        id: "a",
        mark: "P-7",
        name: "plate",
        lines: [
          { id: "start-1", say: { verb: "start_plate" } },
          { id: "punch-1", say: { verb: "punch" } },
          { id: "repeat-1", say: { verb: "repeat", of: ["punch-1"] } },
        ],
      },
    ],
    frames: [],
  }) as unknown as Job;

const ids = () => docOf("piece")?.lines?.map((l) => l.id);
const steps = () => draft.getState().past.length;

beforeEach(() => {
  draft.setState({ job: job(), piece: "a", frame: "", past: [], future: [], word: "", picked: "" });
});

test("lines are moved within their list, one step each; past its ends nothing is done", () => {
  moveLine("piece", "punch-1", -1);
  expect(ids()).toEqual(["punch-1", "start-1", "repeat-1"]);
  moveLine("piece", "punch-1", -1);
  moveLine("piece", "none", 1);
  expect(ids()).toEqual(["punch-1", "start-1", "repeat-1"]);
  draft.getState().undo();
  draft.getState().undo();
  draft.getState().undo();
  expect(ids()).toEqual(["start-1", "punch-1", "repeat-1"]);
});

test("a line is switched off and on, and then is as it was", () => {
  const before = docOf("piece")?.lines?.[1];
  switchLine("piece", "punch-1");
  expect(docOf("piece")?.lines?.[1]).toEqual({ ...before, off: true });
  switchLine("piece", "punch-1");
  expect(docOf("piece")?.lines?.[1]).toEqual(before);
});

test("who names a line that is taken out is told, and its id is not given again", () => {
  removeLine("piece", "punch-1");
  expect(draft.getState().word).toBe("punch-1 is taken out; repeat-1 still names it");
  expect(ids()).toEqual(["start-1", "repeat-1"]);
  expect(addSay("piece", { verb: "punch" }, "punch")).toBe("punch-2");
  removeLine("piece", "punch-2");
  copyLine("piece", "repeat-1");
  expect(addSay("piece", { verb: "punch" }, "punch")).toBe("punch-3");
});

test("a copy stands below its line; of one that is not there nothing is made", () => {
  copyLine("piece", "punch-1");
  expect(ids()).toEqual(["start-1", "punch-1", "punch-2", "repeat-1"]);
  copyLine("piece", "none");
  expect(ids()).toHaveLength(4);
});

test("pieces are added with the next mark and taken out; frames beside them", () => {
  const first = { mark: "P-101", name: "New piece", lines: [] };
  expect(addDoc("piece", first)).toBe("piece-1");
  expect(draft.getState().job?.pieces?.at(-1)?.mark).toBe("P-101");
  expect(addDoc("piece", first)).toBe("piece-2");
  expect(draft.getState().job?.pieces?.at(-1)?.mark).toBe("P-102");
  expect(addDoc("frame", { mark: "F-1", name: "New frame" })).toBe("frame-1");
  draft.setState({ piece: "piece-2" });
  const before = steps();
  dropDoc("piece");
  expect(steps()).toBe(before + 1);
  expect(draft.getState().job?.pieces?.map((p) => p.id)).toEqual(["a", "piece-1"]);
  expect(addDoc("piece", first)).toBe("piece-3");
});

test("a brief goes with the mark of its piece, letter by letter; a copy that has it keeps it", () => {
  const brief = { id: "b", mark: "D-1", name: "", of: "P-7", lines: [] };
  draft.setState({ job: { ...job(), briefs: [brief] } as unknown as Job });
  const of = () => draft.getState().job?.briefs?.[0]?.of;
  for (const mark of ["P-", "P", "", "Q", "Q-1"]) {
    writeDoc("piece", "/mark", mark, true);
    expect(of()).toBe(mark);
  }
  // A copy takes the mark on: the brief stays with it, whatever the other is called.
  const [piece] = draft.getState().job!.pieces!;
  const both = [piece!, { ...piece!, id: "a2" }];
  draft.setState({ job: { ...draft.getState().job!, pieces: both } });
  writeDoc("piece", "/mark", "P-9", true);
  expect(of()).toBe("Q-1");
});

test("what was measured of a figure goes with its line, comes back with undo, and is not copied", () => {
  const measured = [
    { line: "size-1", value: "9" },
    { line: "size-2", value: "8" },
  ];
  const lines = [
    { id: "size-1", say: { verb: "overall" } },
    { id: "size-2", say: { verb: "overall" } },
  ];
  const brief = { id: "b", mark: "D-1", name: "", of: "P-7", lines, measured };
  draft.setState({ job: { ...job(), briefs: [brief] } as unknown as Job, brief: "b" });
  const now = () => draft.getState().job?.briefs?.map((b) => b.measured?.map((m) => m.line));
  removeLine("brief", "size-1");
  expect(draft.getState().word).toBe("size-1 is taken out with 1 measured value");
  expect(now()).toEqual([["size-2"]]);
  draft.getState().undo();
  expect(now()).toEqual([["size-1", "size-2"]]);
  addDoc("brief", brief);
  expect(now()).toEqual([["size-1", "size-2"], undefined]);
});

const told = () =>
  docOf("piece")
    ?.lines?.map((l) => (l.group ? `${l.group}: ${l.id}` : l.id))
    .join(", ");

test("a line moves over the edge of its group, and the group keeps its name and its other lines", () => {
  nameGroup("piece", "punch-1", "Holes");
  expect(told()).toBe("start-1, Holes: punch-1, repeat-1");
  moveLine("piece", "repeat-1", -1);
  expect(told()).toBe("start-1, Holes: repeat-1, punch-1");
  moveLine("piece", "repeat-1", 1);
  expect(told()).toBe("start-1, Holes: punch-1, repeat-1");
  // Out of its group at the top, and into it again.
  moveLine("piece", "punch-1", -1);
  expect(told()).toBe("start-1, punch-1, Holes: repeat-1");
  moveLine("piece", "punch-1", 1);
  expect(told()).toBe("start-1, Holes: punch-1, repeat-1");
  // One that is a group by itself goes with its name.
  nameGroup("piece", "repeat-1", "Rows");
  moveLine("piece", "repeat-1", -1);
  expect(told()).toBe("start-1, Rows: repeat-1, Holes: punch-1");
});

test("a group whose first line goes begins with the next; a copy begins none", () => {
  nameGroup("piece", "punch-1", "Holes");
  copyLine("piece", "punch-1");
  expect(told()).toBe("start-1, Holes: punch-1, punch-2, repeat-1");
  removeLine("piece", "punch-1");
  expect(told()).toBe("start-1, Holes: punch-2, repeat-1");
  nameGroup("piece", "punch-2", "");
  expect(docOf("piece")?.lines?.some((l) => "group" in l)).toBe(false);
});
