import type { ZoneView } from "../api/types";

/**
 * Moves points of the flat into space for any state of folding: the picture of the zones that the core describes.
 * A rigid motion is kept as an origin and three axes.
 */
interface Frame {
  o: Vec;
  x: Vec;
  y: Vec;
  z: Vec;
}

type Vec = [number, number, number];

const two = (v: number[]): [number, number] => [v[0] ?? 0, v[1] ?? 0];

const STILL: Frame = { o: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

function at(f: Frame, p: Vec): Vec {
  return [0, 1, 2].map((k) => f.o[k]! + f.x[k]! * p[0] + f.y[k]! * p[1] + f.z[k]! * p[2]) as Vec;
}

function turned(f: Frame, p: Vec): Vec {
  return [0, 1, 2].map((k) => f.x[k]! * p[0] + f.y[k]! * p[1] + f.z[k]! * p[2]) as Vec;
}

/** First frame, then within it the second. */
function chain(f: Frame, g: Frame): Frame {
  return { o: at(f, g.o), x: turned(f, g.x), y: turned(f, g.y), z: turned(f, g.z) };
}

/** Along and height of a point `u` into the bend at height `z`, folded by `fold`; straight on beyond it. */
function bent(bend: NonNullable<ZoneView["bend"]>, fold: number, t: number, u: number, z: number): [number, number] {
  const angle = bend.angle * fold;
  if (angle < 1e-9) return [u, z];
  const r = bend.allowance / angle - bend.k * t;
  const beyond = Math.max(u - bend.allowance, 0);
  const a = (angle * (u - beyond)) / bend.allowance;
  const [s, c] = [Math.sin(a), Math.cos(a)];
  if (bend.up) {
    const rho = r + t - z;
    return [rho * s + beyond * c, t + r - rho * c + beyond * s];
  }
  const rho = r + z;
  return [rho * s + beyond * c, -r + rho * c - beyond * s];
}

/** How the space beyond a bend has moved. */
function motion(zone: ZoneView, fold: number, t: number): Frame {
  const bend = zone.bend;
  if (!bend) return STILL;
  const [nx, ny] = two(zone.along);
  const [ox, oy] = two(zone.origin);
  const basis: Frame = { o: [ox, oy, 0], x: [nx, ny, 0], y: [-ny, nx, 0], z: [0, 0, 1] };
  const w = bend.allowance;
  const p = (u: number, z: number): Vec => {
    const [x, h] = bent(bend, fold, t, w + u, z);
    return [x, 0, h];
  };
  const o = p(0, 0);
  const [ex, ez] = [p(1, 0), p(0, 1)];
  const x: Vec = [ex[0] - o[0], 0, ex[2] - o[2]];
  const z: Vec = [ez[0] - o[0], 0, ez[2] - o[2]];
  const local: Frame = { o: [o[0] - x[0] * w, 0, o[2] - x[2] * w], x, y: [0, 1, 0], z };
  const back: Frame = {
    o: [-(ox * nx + oy * ny), -(-ox * ny + oy * nx), 0],
    x: [nx, -ny, 0],
    y: [ny, nx, 0],
    z: [0, 0, 1],
  };
  return chain(chain(basis, local), back);
}

/** Where each zone stands, each bend folded by its own share. */
export function frames(zones: ZoneView[], folds: number[], t: number): Frame[] {
  const out: (Frame | undefined)[] = zones.map(() => undefined);
  const solve = (i: number): Frame => {
    const known = out[i];
    if (known) return known;
    const zone = zones[i]!;
    const parent = zone.parent;
    const made = parent === null || parent === undefined ? STILL : chain(solve(parent), motion(zones[parent]!, folds[parent] ?? 1, t));
    out[i] = made;
    return made;
  };
  return zones.map((_, i) => solve(i));
}

/** A point of the flat at height `z`, in space. */
export function formed(zone: ZoneView, frame: Frame, fold: number, t: number, x: number, y: number, z: number): Vec {
  if (!zone.bend) return at(frame, [x, y, z]);
  const [nx, ny] = two(zone.along);
  const [ox, oy] = two(zone.origin);
  const [u, v] = [(x - ox) * nx + (y - oy) * ny, -(x - ox) * ny + (y - oy) * nx];
  const [along, h] = bent(zone.bend, fold, t, u, z);
  return at(frame, [ox + nx * along - ny * v, oy + ny * along + nx * v, h]);
}

/** Shares of each bend when `progress` bends (in the order of the flat) are folded. */
export function foldShares(zones: ZoneView[], progress: number): number[] {
  let n = 0;
  return zones.map((z) => (z.bend ? Math.min(Math.max(progress - n++, 0), 1) : 1));
}
