/** Asks the server beside the page: sending, hearing and reading take no time of a key. */

import type { Asked, Heard } from "./wire";

const running = new Map<number, AbortController>();

async function ask({ id, path, headers, body }: Asked & { path: string }): Promise<Heard> {
  const control = new AbortController();
  running.set(id, control);
  try {
    const got = await fetch(path, { method: "POST", headers, body, signal: control.signal });
    return { id, status: got.status, text: await got.text() };
  } catch (e) {
    return { id, lost: String(e) };
  } finally {
    running.delete(id);
  }
}

self.onmessage = async ({ data }: MessageEvent<Asked>) => {
  const { path } = data;
  if (path === undefined) running.get(data.id)?.abort();
  else self.postMessage(await ask({ ...data, path }));
};
