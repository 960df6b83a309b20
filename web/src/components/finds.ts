/** What the search finds: named things, each of which does something. */

export interface Find {
  /** Under which heading it stands. */
  group: string;
  words: string;
  /** Beside the words, fainter: looked through as well. */
  hint: string;
  run(): void;
}

/** So many of one heading: more of them are found by another word. */
export const MOST_OF_GROUP = 7;

/** How well a thing answers: 0 not at all; its own words count more than its hint, a beginning most. */
export function answers(find: Pick<Find, "words" | "hint">, asked: string[]): number {
  const [words, hint] = [find.words.toLowerCase(), find.hint.toLowerCase()];
  let sum = 0;
  for (const word of asked) {
    if (words.startsWith(word)) sum += 8;
    else if (words.split(/[\s-]+/).some((w) => w.startsWith(word))) sum += 5;
    else if (words.includes(word)) sum += 3;
    else if (hint.includes(word)) sum += 1;
    else return 0;
  }
  return sum;
}

/** The best of each heading; headings in the order of their best. Nothing asked: the first of each. */
export function ranked(all: Find[], text: string): { group: string; finds: Find[] }[] {
  const asked = text.toLowerCase().split(/\s+/).filter(Boolean);
  const scored = all
    .map((find, i) => ({ find, i, score: asked.length === 0 ? 1 : answers(find, asked) }))
    .filter((s) => s.score > 0)
    .sort((a, b) => b.score - a.score || a.i - b.i);
  const groups = new Map<string, Find[]>();
  for (const { find } of scored) {
    const of = groups.get(find.group) ?? [];
    if (of.length < MOST_OF_GROUP) of.push(find);
    groups.set(find.group, of);
  }
  return [...groups].map(([group, finds]) => ({ group, finds }));
}
