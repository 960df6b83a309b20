import type { PieceView, ZoneView } from "../api/types";

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

/** JSON pointer of the length that an edge stands at, where it is the tip of a folded panel. */
export function lengthField(view: PieceView, edge: string): string | undefined {
  const tip = view.zones.find((z) => edge === `${z.name}.tip`)?.tip;
  return tip ?? undefined;
}
