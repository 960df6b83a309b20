import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { api } from "../api/client";
import type { Job } from "../api/types";
import { draft } from "../document/draft";
import { evaluateNow } from "./evaluate";

vi.mock("../document/leftover", () => ({ PAGE: "page" }));
vi.mock("./decode", () => ({ evaluated: (x: unknown) => x }));

interface Asked {
  job: Job;
  geometry: boolean;
  signal: AbortSignal;
  say(data: unknown): void;
  refuse(status: number, more?: object): void;
  lose(): void;
}

let asked: Asked[] = [];
const d = () => draft.getState();
const job = (title: string) => ({ format: 1, title }) as Job;
/** Lets what is on its way arrive. */
const settle = () => vi.advanceTimersByTimeAsync(1);

beforeEach(() => {
  vi.useFakeTimers();
  asked = [];
  vi.spyOn(api, "POST").mockImplementation(
    ((_: string, o: { body: Asked; signal: AbortSignal }) =>
      new Promise((go, fail) => {
        o.signal.addEventListener("abort", () => fail(new DOMException("aborted", "AbortError")));
        asked.push({
          ...o.body,
          signal: o.signal,
          say: (data) => go({ data, response: new Response(null, { status: 200 }) }),
          refuse: (status, more = {}) =>
            go({
              error: { title: "no", detail: "mend", ...more },
              response: new Response(null, { status }),
            }),
          lose: () => fail(new TypeError("network")),
        });
      })) as never,
  );
  draft.setState({
    id: "j",
    job: job("1"),
    piece: "",
    frame: "",
    result: null,
    resultOf: null,
    waiting: "asked",
  });
});

afterEach(async () => {
  draft.setState({ job: null });
  asked.forEach((a) => a.lose());
  await vi.advanceTimersByTimeAsync(60_000);
  vi.useRealTimers();
  vi.restoreAllMocks();
});

test("the newest draft is asked for next, and drafts between are passed over", async () => {
  evaluateNow();
  for (const t of ["2", "3", "4"]) {
    draft.setState({ job: job(t) });
    evaluateNow();
  }
  expect(asked).toHaveLength(1);
  asked[0]!.say({ figures: 1 });
  await settle();
  // The older answer keeps the picture moving; it is not said to be current.
  expect(d().result).toEqual({ figures: 1 });
  expect(d().waiting).toBe("asked");
  expect(asked).toHaveLength(2);
  expect(asked[1]!.job.title).toBe("4");
  asked[1]!.say({ figures: 4 });
  await settle();
  expect(d().waiting).toBe("current");
  expect(asked).toHaveLength(2);
});

test("an older draft that takes long is given up for the newer", async () => {
  evaluateNow();
  draft.setState({ job: job("2") });
  await vi.advanceTimersByTimeAsync(900);
  expect(asked[0]!.signal.aborted).toBe(true);
  expect(asked[1]!.job.title).toBe("2");
  asked[1]!.say({});
  await settle();
  expect(d().waiting).toBe("current");
});

test("figures come first; the picture of many holes follows while nothing newer is said", async () => {
  draft.setState({ piece: "a" });
  evaluateNow();
  asked[0]!.say({ piece: { id: "a", drawn: false, made: true } });
  await settle();
  expect(asked[1]!.geometry).toBe(true);
  expect(d().waiting).not.toBe("current");
  asked[1]!.say({ piece: { id: "a", drawn: true, made: true } });
  await vi.advanceTimersByTimeAsync(20);
  expect(d().waiting).toBe("current");
  expect(d().lastGood).toMatchObject({ drawn: true });
});

test("no answer is asked for again with growing pauses, and given up at last, in words", async () => {
  evaluateNow();
  for (let i = 0; i < 6; i++) {
    asked.at(-1)!.lose();
    await settle();
    expect(d().waiting).toBe("retrying");
    expect(d().evaluating).toContain("asked again");
    await vi.advanceTimersByTimeAsync(400 * 2 ** i);
    expect(asked).toHaveLength(i + 2);
  }
  asked.at(-1)!.lose();
  await settle();
  expect(d().waiting).toBe("given up");
  expect(d().evaluating).toContain("older state");
  // A hand that asks begins anew.
  evaluateNow();
  expect(asked).toHaveLength(8);
  asked.at(-1)!.say({});
  await settle();
  expect(d().waiting).toBe("current");
});

test("a busy server says when to come again; a newer draft does not wait for that", async () => {
  evaluateNow();
  asked[0]!.refuse(503, { retry_after: 30 });
  await vi.advanceTimersByTimeAsync(20_000);
  expect(asked).toHaveLength(1);
  draft.setState({ job: job("2") });
  evaluateNow();
  await settle();
  expect(asked).toHaveLength(2);
  asked[1]!.say({});
  await settle();
  expect(d().waiting).toBe("current");
});

test("what is refused is said, and not asked for again until something changes", async () => {
  evaluateNow();
  asked[0]!.refuse(422);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(asked).toHaveLength(1);
  expect(d().waiting).toBe("given up");
  expect(d().evaluating).toContain("To mend it: mend");
});

test("an answer that never comes is given up and asked for again", async () => {
  evaluateNow();
  await vi.advanceTimersByTimeAsync(45_500);
  expect(asked[0]!.signal.aborted).toBe(true);
  expect(asked).toHaveLength(2);
  asked[1]!.refuse(409);
  await settle();
  expect(asked).toHaveLength(3);
  asked[2]!.say({});
  await settle();
  expect(d().waiting).toBe("current");
});
