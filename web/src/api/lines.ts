import { text } from "./client";

/** Asks for long work and hears of it line by line. Aborting the signal stops the work at the server. */
export async function heardFrom<Line>(
  path: string,
  body: unknown,
  signal: AbortSignal,
  heard: (line: Line) => void,
): Promise<void> {
  const r = await fetch(path, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body),
    signal,
  });
  if (!r.ok || !r.body) throw new Error(await text(r));
  const reader = r.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { value, done } = await reader.read();
    if (done) return;
    const lines = (rest + value).split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines.filter(Boolean)) heard(JSON.parse(line) as Line);
  }
}
