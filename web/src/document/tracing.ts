import type { Line, Piece, TracedElement, Tracing } from "../api/types";
import { docOf, editDoc } from "./bench";
import { issue, retire } from "./ids";

/** How many places an element, a reading, an axis or a square needs. */
export const PLACES = { line: 2, arc: 3, circle: 3, measure: 2, axis: 2, straighten: 4 } as const;
export type Laid = keyof typeof PLACES;
export type Spot = [number, number];

/** The tracing of the piece on the bench. */
export const tracingOf = (): Tracing | undefined =>
  (docOf("piece") as Piece | undefined)?.tracing ?? undefined;

/** One step of undo; those with one key that follow one another are one. */
export function editTracing(change: (t: Tracing) => Tracing, key = ""): void {
  editDoc("piece", key && `tracing:${key}`, (doc) => {
    const { tracing } = doc as unknown as Piece;
    return tracing ? ({ ...doc, tracing: change(tracing) } as typeof doc) : doc;
  });
}

/** What was pointed at is put where it belongs. `reach` in pixels of the picture. */
export function lay(what: Laid, at: Spot[], reach: number): void {
  editTracing((t) => {
    const [a, b] = at as [Spot, Spot];
    if (what === "measure")
      return { ...t, readings: [...(t.readings ?? []), { from: a, to: b, length: "", reach }] };
    if (what === "axis") return { ...t, axis: [a, b] };
    if (what === "straighten") {
      const corners = at as [Spot, Spot, Spot, Spot];
      return { ...t, square: { corners, wide: "", high: "", reach } };
    }
    const ids = (t.elements ?? []).map((e) => Number(e.id.slice(1)) || 0);
    const made: TracedElement = { id: `e${Math.max(0, ...ids) + 1}`, shape: what, points: at, reach };
    return { ...t, elements: [...(t.elements ?? []), made] };
  });
}

/** Names of the outline's sides follow the line that it stands in. */
const renamed = (say: unknown, to: string) =>
  JSON.parse(JSON.stringify(say).replaceAll('"start-1.', `"${to}.`)) as Line["say"];

/**
 * A piece that says what was traced: lines that said it before are said anew in their places, those that are
 * new stand behind them, those that it no longer has are gone. All else of the recipe stays.
 */
export function saidBy(piece: Piece, traced: Line[]): Piece {
  const { tracing } = piece;
  if (!tracing || traced.length === 0) return piece;
  const before = tracing.said ?? [];
  let lines = [...(piece.lines ?? [])];
  let issued = piece.issued ?? {};
  const starts = (l: Line) => l.say.verb.startsWith("start_");
  // An outline that stood without a tracing gives way to the one that is traced.
  const outline =
    before.find((id) => lines.some((l) => l.id === id && starts(l))) ?? lines.find(starts)?.id;
  const holes = before.filter((id) => id !== outline && lines.some((l) => l.id === id));
  const fresh = (stem: string) => {
    const got = issue(
      stem,
      lines.map((l) => l.id),
      issued,
    );
    issued = got.issued;
    return got.id;
  };
  const start = outline ?? fresh("start");
  const said: string[] = [];
  let last = -1;
  traced.forEach((l, i) => {
    const known = i === 0 ? outline : holes[i - 1];
    const id = i === 0 ? start : (known ?? fresh("punch"));
    const say = renamed(l.say, start);
    const at = lines.findIndex((x) => x.id === id);
    if (at >= 0) lines[at] = { ...lines[at]!, say };
    else lines.splice(i === 0 ? 0 : last + 1, 0, { ...l, id, say });
    last = lines.findIndex((x) => x.id === id);
    said.push(id);
  });
  for (const gone of holes.slice(traced.length - 1)) {
    lines = lines.filter((l) => l.id !== gone);
    issued = retire(gone, issued);
  }
  for (const id of said) issued = retire(id, issued);
  return { ...piece, lines, issued, tracing: { ...tracing, said } };
}
