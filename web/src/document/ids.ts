/**
 * Ids of lines, pieces and frames: never used twice in the life of what they belong to, so that no old
 * mention means a new thing.
 */

/** The highest number that was given out, by stem. */
export type Issued = Record<string, number>;

const numbered = /^(.*)-(\d+)$/;

/** The next id with this stem: `punch-3`. Numbers of what was taken out are not given out again. */
export function issue(
  stem: string,
  taken: string[],
  issued: Issued = {},
): { id: string; issued: Issued } {
  let n = issued[stem] ?? 0;
  for (const id of taken) {
    const m = id.match(numbered);
    if (m && m[1] === stem) n = Math.max(n, Math.min(Number(m[2]), 1e9));
  }
  return { id: `${stem}-${n + 1}`, issued: { ...issued, [stem]: n + 1 } };
}

/** What an id is numbered from: `punch` for `punch-3`. */
export function stemOf(id: string): string {
  return id.match(numbered)?.[1] || id;
}

/** What must be known before a line goes: the highest number of its stem. */
export function retire(id: string, issued: Issued = {}): Issued {
  const m = id.match(numbered);
  if (!m) return issued;
  const n = Math.min(Number(m[2]), 1e9);
  return n > (issued[m[1]!] ?? 0) ? { ...issued, [m[1]!]: n } : issued;
}

/** Who mentions an id: other lines that name it, or a part of it. */
export function mentions(id: string, lines: { id: string; say: unknown }[]): string[] {
  const of = (s: string) =>
    s === id || ((s.startsWith(id) && ".#/".includes(s[id.length] ?? "?")) as boolean);
  const has = (v: unknown): boolean =>
    typeof v === "string" ? of(v) : typeof v === "object" && v !== null && Object.values(v).some(has);
  return lines.filter((l) => l.id !== id && has(l.say)).map((l) => l.id);
}
