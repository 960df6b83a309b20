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

/** So far into the metal it is looked which zone a side belongs to, mm. */
const INTO = 0.01;

/** The zone that lies on the left of a side, where its metal is. */
export function zoneBeside(
  zones: ZoneView[],
  [ax, ay]: [number, number],
  [bx, by]: [number, number],
): ZoneView | undefined {
  const [dx, dy] = [bx - ax, by - ay];
  const into = INTO / Math.max(Math.hypot(dx, dy), INTO);
  return zoneAt(zones, [(ax + bx) / 2 - dy * into, (ay + by) / 2 + dx * into]);
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

/** How far a point lies from a region's border. */
function gap(region: number[][], [x, y]: [number, number]): number {
  const off = region.map(([ax = 0, ay = 0], i) => {
    const [bx = 0, by = 0] = region[(i + 1) % region.length]!;
    const [dx, dy] = [bx - ax, by - ay];
    const share = ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1);
    const k = Math.min(Math.max(share, 0), 1);
    return Math.hypot(x - ax - k * dx, y - ay - k * dy);
  });
  return Math.min(...off);
}

/**
 * What a side of the outline is called where it was pointed at: one that runs over bends has a name on each
 * panel, `start-1.b.north` of `start-1.north`.
 */
export function edgeAt(zones: ZoneView[], name: string, at: [number, number]): string {
  if (zones.some((z) => z.edges.includes(name))) return name;
  const last = name.slice(name.lastIndexOf(".") + 1);
  const parts = zones.filter((z) => z.edges.includes(`${z.name}.${last}`));
  const near = parts.sort((a, b) => gap(a.region, at) - gap(b.region, at))[0];
  return near ? `${near.name}.${last}` : name;
}
