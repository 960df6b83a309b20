/** JSON pointers (RFC 6901) into plain data: reading, and writing without changing what was there. */

const known = new Map<string, string[]>();
/** Pointers that are asked for again and again are taken apart once. */
const MOST_KNOWN = 5000;

function steps(path: string): string[] {
  if (path === "") return [];
  const had = known.get(path);
  if (had) return had;
  if (known.size >= MOST_KNOWN) known.clear();
  const parts = path
    .slice(1)
    .split("/")
    .map((s) => s.replaceAll("~1", "/").replaceAll("~0", "~"));
  known.set(path, parts);
  return parts;
}

export function get(data: unknown, path: string): unknown {
  let at = data;
  for (const s of steps(path)) {
    if (at === null || typeof at !== "object") return undefined;
    at = (at as Record<string, unknown>)[s];
  }
  return at;
}

/**
 * A copy of `data` with `value` at `path`; `-` as the last step of a list appends, `undefined` takes a field
 * out.
 */
export function set<T>(data: T, path: string, value: unknown): T {
  return write(data, steps(path), value) as T;
}

function write(data: unknown, [step, ...rest]: string[], value: unknown): unknown {
  if (step === undefined) return value;
  // Appending to a list that a file leaves out begins it.
  if (data === undefined && step === "-") return [write(undefined, rest, value)];
  if (Array.isArray(data)) {
    const copy = [...data];
    if (step === "-") copy.push(write(undefined, rest, value));
    else copy[Number(step)] = write(copy[Number(step)], rest, value);
    return copy;
  }
  const from = (data ?? {}) as Record<string, unknown>;
  const next = write(from[step], rest, value);
  const { [step]: _, ...others } = from;
  return next === undefined ? others : { ...from, [step]: next };
}
