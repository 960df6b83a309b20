import type { PieceView } from "../api/types";
import type { Made } from "../document/draft";
import { useSteady } from "../hooks/useDraft";
import type { Kind, Said, VerbView } from "./useVerbs";

/** A name, and how it is read. */
export type Named = [string, string];

/** A name of the piece as it is read: `start-1.b.north` as leg b north. */
export const readOut = (view: Pick<PieceView, "said"> | undefined, name: string): string =>
  view?.said[name] ?? name;

/** The piece on the bench as it was last made. */
export function viewOf(d: Made): PieceView | undefined {
  const view = d.result?.piece;
  return view && view.id === d.piece ? view : undefined;
}

/** What fields of a line that were left open came to, by their path below it. */
export function foundIn(view: PieceView | undefined, line: string): Record<string, string> | undefined {
  const own = view?.found.filter((f) => f.line === line) ?? [];
  return own.length > 0 ? Object.fromEntries(own.map((f) => [f.path, f.text])) : undefined;
}

/** What a name of this kind can be, drawn anew only when that changes. */
export function useNames(kind: Kind): Named[] {
  return useSteady((d) => {
    if (kind === "thing") return thingsOf(d);
    if (kind === "mark") return marksOf(d);
    const view = viewOf(d);
    return view ? known(view, kind) : NONE;
  });
}

const NONE: Named[] = [];

const asked = new WeakMap<PieceView, Map<Kind, Named[]>>();

/** Worked out once a view, however many fields ask. */
function known(view: PieceView, kind: Kind): Named[] {
  const of = asked.get(view) ?? new Map<Kind, Named[]>();
  asked.set(view, of);
  const had = of.get(kind) ?? namesOf(kind, view);
  of.set(kind, had);
  return had;
}

/** What a figure of the brief on the bench can be of: its own letters, then what the model has. */
export function thingsOf(d: Made): Named[] {
  const brief = d.job?.briefs?.find((b) => b.id === d.brief);
  const letters = (brief?.lines ?? []).flatMap((l): Named[] => {
    const hole = l.say.verb === "drilled" ? (l.say.hole ?? {}) : l.say;
    return "label" in hole && hole.label ? [[hole.label, `${hole.label} of the drawing`]] : [];
  });
  const view = d.result?.brief?.id === d.brief ? d.result.brief : undefined;
  return [...letters, ...(view?.things ?? []).map((t): Named => [t.name, t.said])];
}

/** Marks of all pieces and frames. */
const marksOf = (d: Made): Named[] =>
  [...(d.job?.pieces ?? []), ...(d.job?.frames ?? [])].map((p) => [p.mark, `${p.mark} ${p.name}`]);

/** Names of the straight edges of the piece as it stands. */
export function edgesOf(view: PieceView | undefined): string[] {
  return [...new Set(view?.zones.flatMap((z) => z.edges) ?? [])];
}

/** Curved sides of the outline, each once. */
function roundSides(view: PieceView | undefined): Named[] {
  const sides = view?.flat.sides.filter((_, i) => (view.flat.outer[i]?.[2] ?? 0) !== 0) ?? [];
  return [...new Set(sides)].map((n): Named => [n, `arc ${readOut(view, n)}`]);
}

/** More are found by a click on the flat. */
const MOST_CUTS = 60;

/** Names of what is cut, drilled and pressed, the first of many. */
function cutsOf(view: PieceView | undefined): string[] {
  const { holes = [], bores = [], pressed = [] } = view?.flat ?? {};
  return [...new Set([...holes, ...bores, ...pressed].slice(0, MOST_CUTS).map((h) => h.name))];
}

/** What a name of this kind can be, as the piece stands. */
export function namesOf(kind: Kind, view: PieceView | undefined): Named[] {
  const zones = view?.zones ?? [];
  const named = (of: typeof zones): Named[] => of.map((z) => [z.name, readOut(view, z.name)]);
  const bends = named(zones.filter((z) => z.bend));
  const panels = named(zones.filter((z) => !z.bend));
  const carrying = named(zones.filter((z) => z.carries));
  const edges = edgesOf(view).map((n): Named => [n, readOut(view, n)]);
  switch (kind) {
    case "edge":
      return edges;
    case "panel":
      return panels;
    case "bend":
      return bends;
    case "zone":
      return named(zones);
    case "surface":
      return [["flat", "the flat"], ...carrying];
    case "about":
      return [
        ["flat", "the middle of the flat"],
        ...carrying.map(([n, w]): Named => [n, `the middle of ${w}`]),
        ...bends.map(([n, w]): Named => [n, `bend ${w}`]),
        ...edges.map(([n, w]): Named => [n, `edge ${w}`]),
      ];
    case "spot":
      return [
        ...edges.map(([n, w]): Named => [n, `edge ${w}`]),
        ...(view?.corners ?? []).map((c): Named => [c.name, `corner ${c.name}`]),
        ...bends.map(([n, w]): Named => [n, `bend ${w}`]),
        ...cutsOf(view).map((n): Named => [n, n]),
      ];
    case "round":
      return roundSides(view);
    case "corner":
      return (view?.corners ?? []).map((c): Named => [c.name, c.name]);
    default:
      return [];
  }
}

/** Ids of the lines that make cuts: what repeat and mirror may name. */
export function cutIds(lines: { id: string; say: unknown }[], verbs: VerbView[] | undefined): string[] {
  const cuts = new Set(verbs?.filter((v) => v.role === "cut").map((v) => v.tag));
  return lines.filter((l) => cuts.has((l.say as Said).verb)).map((l) => l.id);
}
