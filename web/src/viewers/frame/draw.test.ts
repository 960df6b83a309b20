import { beforeEach, expect, test, vi } from "vitest";
import type { FrameView, Job } from "../../api/types";
import { docOf } from "../../document/bench";
import { draft } from "../../document/draft";
import { putLeg, snap } from "./draw";

vi.mock("../../verbs/useVerbs", () => ({
  knownVerbs: () => ({
    frame: [
      { role: "node", tag: "node" },
      { role: "member", tag: "members" },
    ],
  }),
}));

const frame = {
  nodes: [
    { name: "A", at: [0, 0, 0] },
    { name: "mirror-1.A", at: [300, 0, 0] },
  ],
};
const lines = () => docOf("frame")?.lines?.map((l) => [l.id, l.say]);

beforeEach(() => {
  const job = { format: 1, title: "t", frames: [{ id: "f", mark: "F-1", name: "", lines: [] }] };
  draft.setState({ job: job as unknown as Job, frame: "f", piece: "", past: [], future: [] });
});

test("the pencil snaps to a node nearby, else to the step; never to the node of a copy", () => {
  const view = frame as unknown as FrameView;
  expect(snap(view, [30, 0, 0], 50)).toEqual({ node: "A", at: [0, 0, 0] });
  expect(snap(view, [40, 0, 0], 50)).toEqual({ at: [50, 0, 0] });
  expect(snap(view, [310, 0, 0], 50)).toEqual({ at: [300, 0, 0] });
  expect(snap(undefined, [-26, 74, 1], 50)).toEqual({ at: [-50, 50, 0] });
});

test("legs go on in one line of members; nodes stand before what uses them", () => {
  const a = putLeg(null, null, { at: [0, 0, 0] }, false);
  const b = putLeg(a.node, a.line, { at: [500, 0, 0] }, false);
  const c = putLeg(b.node, b.line, { at: [500, 0, 400.5] }, false);
  expect(c).toEqual({ node: "C", line: "rail-1" });
  expect(lines()).toEqual([
    ["node-1", { verb: "node", name: "A", x: "0", y: "0", z: "0" }],
    ["node-2", { verb: "node", name: "B", x: "500", y: "0", z: "0" }],
    ["node-3", { verb: "node", name: "C", x: "500", y: "0", z: "400.5" }],
    ["rail-1", { verb: "members", name: "rail", path: ["A", "B", "C"] }],
  ]);
  // Each leg is a step of its own.
  expect(draft.getState().past).toHaveLength(3);
});

test("a leg to a node that stands makes none; from elsewhere it begins another line", () => {
  const a = putLeg(null, null, { at: [0, 0, 0] }, false);
  const b = putLeg(a.node, a.line, { at: [500, 0, 0] }, false);
  const back = putLeg(b.node, b.line, { node: "A", at: [0, 0, 0] }, false);
  expect(back).toEqual({ node: "A", line: "rail-1" });
  const d = putLeg("B", "rail-1", { at: [500, 0, 100] }, false);
  expect(d).toEqual({ node: "C", line: "rail-2" });
  expect(lines()?.slice(-2)).toEqual([
    ["rail-1", { verb: "members", name: "rail", path: ["A", "B", "A"] }],
    ["rail-2", { verb: "members", name: "rail", path: ["B", "C"] }],
  ]);
});

test("inches are typed as inches", () => {
  putLeg(null, null, { at: [25.4 * 12.5, 0, 1] }, true);
  expect(lines()?.[0]?.[1]).toMatchObject({ x: "12.5", z: "0.0394" });
});
