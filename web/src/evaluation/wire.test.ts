import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Asked, Heard } from "./wire";

/** A worker that does what the test tells it to. */
class Hands {
  static last: Hands;
  told: Asked[] = [];
  onmessage?: (e: { data: Heard }) => void;
  onerror?: () => void;
  constructor() {
    Hands.last = this;
  }
  postMessage(asked: Asked) {
    this.told.push(asked);
  }
  say(data: Heard) {
    this.onmessage?.({ data });
  }
}

const json = { "content-type": "application/json" };

beforeEach(() => vi.resetModules());
afterEach(() => vi.unstubAllGlobals());

async function withWorker() {
  vi.stubGlobal("Worker", Hands);
  const { post } = await import("./wire");
  return { post, hands: Hands.last };
}

test("answers find who asked, in whatever order they come", async () => {
  const { post, hands } = await withWorker();
  const { signal } = new AbortController();
  const one = post("/a", { n: 1 }, { x: "y" }, signal);
  const two = post("/b", { n: 2 }, {}, signal);
  const [a, b] = hands.told;
  expect(a).toMatchObject({ path: "/a", body: '{"n":1}', headers: { ...json, x: "y" } });
  hands.say({ id: b!.id, status: 200, text: "second" });
  hands.say({ id: a!.id, status: 422, text: "first" });
  expect(await one).toMatchObject({ status: 422, text: "first" });
  expect(await two).toMatchObject({ status: 200, text: "second" });
});

test("what nobody waits for any more is told, and its answer is passed over", async () => {
  const { post, hands } = await withWorker();
  const control = new AbortController();
  const one = post("/a", {}, {}, control.signal);
  control.abort("newer");
  await expect(one).rejects.toBe("newer");
  const { id } = hands.told[0]!;
  expect(hands.told[1]).toEqual({ id });
  hands.say({ id, status: 200, text: "late" });
  // Over before it began: told all the same, for it was sent.
  await expect(post("/a", {}, {}, control.signal)).rejects.toBe("newer");
});

test("no answer fails as a network does; a worker that ends hands over to the page", async () => {
  const { post, hands } = await withWorker();
  const { signal } = new AbortController();
  const lost = post("/a", {}, {}, signal);
  hands.say({ id: hands.told[0]!.id, lost: "TypeError: Failed to fetch" });
  await expect(lost).rejects.toThrow(TypeError);
  const cut = post("/a", {}, {}, signal);
  hands.onerror?.();
  await expect(cut).rejects.toThrow("the worker has ended");
  const asked = vi.fn(async () => new Response("by the page", { status: 200 }));
  vi.stubGlobal("fetch", asked);
  expect(await post("/c", { n: 3 }, {}, signal)).toEqual({ status: 200, text: "by the page" });
  expect(asked).toHaveBeenCalledWith("/c", { method: "POST", headers: json, body: '{"n":3}', signal });
  expect(hands.told).toHaveLength(2);
});
