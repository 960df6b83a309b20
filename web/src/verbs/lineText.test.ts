import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { api } from "../api/client";
import type { Job } from "../api/types";
import { docOf } from "../document/bench";
import { draft } from "../document/draft";
import { takeIn, textOf } from "./lineText";
import type { VerbView } from "./useVerbs";

const ok = (data: unknown) => Promise.resolve({ data, response: new Response(null, { status: 200 }) });
const post = vi.spyOn(api, "POST");
const verbs = [{ tag: "start_plate", role: "start" }] as unknown as VerbView[];
const ids = () => docOf("piece")?.lines?.map((l) => l.id);

beforeEach(() => {
  const lines = [
    { id: "start-1", say: { verb: "start_plate", width: "9" } },
    { id: "punch-1", say: { verb: "punch" } },
  ];
  const job = { format: 1, title: "t", pieces: [{ id: "a", mark: "P-1", name: "", lines }] };
  draft.setState({ job: job as unknown as Job, piece: "a", frame: "", past: [], picked: "start-1" });
});
afterEach(() => post.mockReset());

test("a line's text is what stands below the head, with remarks that take rows of their own", async () => {
  post.mockReturnValue(ok({ text: 'piece P-1 "x"\n  eye: hole ⌀9 -- first\n    -- second\n' }) as never);
  const line = docOf("piece")!.lines![1]!;
  expect(await textOf("piece", line)).toBe("eye: hole ⌀9 -- first\n-- second");
  const { piece } = (post.mock.calls[0] as unknown as [string, { body: { piece: object } }])[1].body;
  expect(piece).toMatchObject({ lines: [line], rows: undefined, columns: undefined });
});

test("lines come in below the picked one in one step; what cannot be read is given back", async () => {
  const fault = { line: 2, fault: { message: "no such line", mend: "write hole" } };
  const got = [{ id: "punch-2", say: { verb: "punch" } }];
  post.mockReturnValue(ok({ lines: got, faults: [fault] }) as never);
  expect(await takeIn("piece", "hole 9\npunhc 9", verbs)).toEqual({
    taken: 1,
    untaken: [{ row: "punhc 9", message: "no such line", mend: "write hole" }],
  });
  expect(ids()).toEqual(["start-1", "punch-2", "punch-1"]);
  expect(draft.getState().past).toHaveLength(1);
  const { body } = (post.mock.calls[0] as unknown as [string, { body: object }])[1];
  // Only what stands and what it names is sent.
  expect(body).toMatchObject({ above: 1, lines: [{ id: "start-1", say: { verb: "start_plate" } }, {}] });
});

test("a start comes first wherever it is put in", async () => {
  const got = [{ id: "start-2", say: { verb: "start_plate" } }];
  post.mockReturnValue(ok({ lines: got, faults: [] }) as never);
  await takeIn("piece", "plate 9 x 9", verbs);
  expect(ids()?.[0]).toBe("start-2");
});
