import type { Piece, PieceView, ZoneView } from "../api/types";

/** Whether a point of the flat lies in a region (corners in order). */
function within(region: number[][], [x, y]: [number, number]): boolean {
  let inside = false;
  for (let i = 0, j = region.length - 1; i < region.length; j = i++) {
    const [ax, ay, bx, by] = [region[i]![0]!, region[i]![1]!, region[j]![0]!, region[j]![1]!];
    if (ay > y !== by > y && x < ax + ((bx - ax) * (y - ay)) / (by - ay)) inside = !inside;
  }
  return inside;
}

/** The zone under a point: the furthest from the start where they share ground. */
export function zoneAt(zones: ZoneView[], p: [number, number]): ZoneView | undefined {
  return zones.findLast((z) => within(z.region, p));
}

/** A region as SVG path data. */
export const regionPath = (z: ZoneView): string =>
  `M${z.region.map((p) => `${p[0]} ${p[1]}`).join("L")}Z`;

/** The recipe line that a named part stems from. */
export function lineOf(view: PieceView, name: string): string | undefined {
  return (
    view.features.find((f) => f.name === name)?.line ??
    view.zones.find((z) => name === z.line || name.startsWith(`${z.line}.`))?.line
  );
}

/** JSON pointer of the length that the tip of a folded panel stands at, when a plain number tells it. */
export function lengthField(piece: Piece | undefined, edge: string): string | undefined {
  if (!piece || !edge.endsWith(".tip")) return undefined;
  const panel = edge.slice(0, -4);
  const i = piece.lines?.findIndex((l) => panel.startsWith(`${l.id}.`)) ?? -1;
  const say = piece.lines?.[i]?.say;
  if (!say) return undefined;
  const at = `/lines/${i}/say`;
  if (say.verb === "start_tray") return panel.endsWith(".lip") ? `${at}/lip` : `${at}/height`;
  if (say.verb !== "fold") return undefined;
  const k = say.then?.findIndex((t) => panel.endsWith(`.${t.id}`)) ?? -1;
  if (k >= 0) return `${at}/then/${k}/length`;
  return say.reach?.to === "length" ? `${at}/reach/length` : undefined;
}
