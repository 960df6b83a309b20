import { beforeEach, expect, test } from "vitest";
import type { Job } from "../api/types";
import { draft } from "./draft";
import { archived, archiveMany, bringBack, copyMany, dropMany, setMany } from "./many";

const doc = (id: string, mark: string) => ({ id, mark, name: id, material: "s235", lines: [] });
const piece = (id: string) => ({ kind: "piece", id }) as const;
const frame = (id: string) => ({ kind: "frame", id }) as const;
const marks = () => {
  const { job } = draft.getState();
  return [...(job?.pieces ?? []), ...(job?.frames ?? [])].map((d) => d.mark);
};

beforeEach(() => {
  const job = {
    format: 1,
    title: "t",
    pieces: [doc("piece-1", "P-1"), doc("piece-2", "P-2"), doc("piece-3", "P-3")],
    frames: [doc("frame-1", "F-1")],
  } as unknown as Job;
  draft.setState({ job, piece: "piece-1", frame: "", past: [], future: [], word: "" });
});

test("several are copied as one step, each under the next mark and an id of its own", () => {
  copyMany([piece("piece-1"), piece("piece-3"), frame("frame-1")]);
  expect(marks()).toEqual(["P-1", "P-2", "P-3", "P-4", "P-5", "F-1", "F-2"]);
  expect(
    draft
      .getState()
      .job?.pieces?.map((p) => p.id)
      .slice(3),
  ).toEqual(["piece-4", "piece-5"]);
  draft.getState().undo();
  expect(marks()).toEqual(["P-1", "P-2", "P-3", "F-1"]);
});

test("what is taken out gives its number to nobody", () => {
  dropMany([piece("piece-3"), frame("frame-1")]);
  expect(marks()).toEqual(["P-1", "P-2"]);
  expect(draft.getState().job?.issued).toMatchObject({ piece: 3, frame: 1 });
  copyMany([piece("piece-1")]);
  expect(draft.getState().job?.pieces?.at(-1)?.id).toBe("piece-4");
});

test("one value of several is one step while it is typed, and touches no other", () => {
  const of = [piece("piece-1"), frame("frame-1")];
  setMany(of, "quantity", "1", true);
  setMany(of, "quantity", "12", true);
  setMany(of, "material", "oak");
  const { job } = draft.getState();
  expect(job?.pieces?.map((p) => [p.quantity, p.material])).toEqual([
    ["12", "oak"],
    [undefined, "s235"],
    [undefined, "s235"],
  ]);
  expect(job?.frames?.[0]).toMatchObject({ quantity: "12", material: "oak" });
  expect(draft.getState().past).toHaveLength(2);
});

test("what is archived is kept with the job, out of its lists, and comes back as it was", () => {
  const before = draft.getState().job;
  archiveMany([piece("piece-2"), frame("frame-1")]);
  expect(marks()).toEqual(["P-1", "P-3"]);
  expect(archived(draft.getState().job).map((d) => `${d.kind} ${d.mark}`)).toEqual([
    "piece P-2",
    "frame F-1",
  ]);
  copyMany([piece("piece-1")]);
  // Its id is nobody else's.
  expect(draft.getState().job?.pieces?.map((p) => p.id)).toEqual(["piece-1", "piece-3", "piece-4"]);
  draft.getState().undo();
  bringBack(piece("piece-2"));
  bringBack(piece("piece-2"));
  bringBack(frame("frame-1"));
  expect(marks()).toEqual(["P-1", "P-3", "P-2", "F-1"]);
  expect(draft.getState().job).not.toHaveProperty("archive");
  for (let i = 0; i < 3; i++) draft.getState().undo();
  expect(draft.getState().job).toEqual(before);
});
