/** The way to the server for what is asked at every key: by a worker, where the browser gives one. */

/** What the worker is told; without a path, that nobody waits for it any more. */
export interface Asked {
  id: number;
  path?: string;
  headers?: Record<string, string>;
  body?: string;
}

/** What it says. */
export type Heard = { id: number } & (Told | { lost: string });

/** An answer, whatever its status. */
export interface Told {
  status: number;
  text: string;
}

interface Waiting {
  go(told: Told): void;
  fail(e: unknown): void;
}

const waiting = new Map<number, Waiting>();
let last = 0;

/** None where there are no workers, or once one could not be begun: then the page asks by itself. */
let worker = begun();

function begun(): Worker | null {
  if (typeof Worker === "undefined") return null;
  const own = new Worker(new URL("./wire.worker.ts", import.meta.url), { type: "module" });
  own.onmessage = ({ data }: MessageEvent<Heard>) => {
    const one = waiting.get(data.id);
    waiting.delete(data.id);
    if ("lost" in data) one?.fail(new TypeError(data.lost));
    else one?.go(data);
  };
  own.onerror = () => {
    worker = null;
    for (const one of waiting.values()) one.fail(new TypeError("the worker has ended"));
    waiting.clear();
  };
  return own;
}

/** Posts JSON. Fails as `fetch` does where there is no answer. */
export async function post(
  path: string,
  body: unknown,
  more: Record<string, string>,
  signal: AbortSignal,
): Promise<Told> {
  const headers = { ...more, "content-type": "application/json" };
  const text = JSON.stringify(body);
  const by = worker;
  if (!by) {
    const got = await fetch(path, { method: "POST", headers, body: text, signal });
    return { status: got.status, text: await got.text() };
  }
  const id = ++last;
  return new Promise((go, fail) => {
    waiting.set(id, { go, fail });
    by.postMessage({ id, path, headers, body: text } satisfies Asked);
    const stop = () => {
      if (!waiting.delete(id)) return;
      by.postMessage({ id } satisfies Asked);
      fail(signal.reason);
    };
    if (signal.aborted) stop();
    else signal.addEventListener("abort", stop, { once: true });
  });
}
