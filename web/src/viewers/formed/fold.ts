import type { ZoneView } from "../../api/types";

/**
 * Moves points of the flat into space for any state of folding: the picture of the zones that the core
 * describes.
 * A rigid motion is kept as an origin and three axes.
 */
export interface Frame {
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
function bent(
  bend: NonNullable<ZoneView["bend"]>,
  fold: number,
  t: number,
  u: number,
  z: number,
): [number, number] {
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
  const [ux, uz] = bent(bend, fold, t, w, 0);
  const angle = bend.angle * fold;
  const [s, c] = [Math.sin(angle) * (bend.up ? 1 : -1), Math.cos(angle)];
  const local: Frame = { o: [ux - c * w, 0, uz - s * w], x: [c, 0, s], y: [0, 1, 0], z: [-s, 0, c] };
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
    const made =
      parent === null || parent === undefined
        ? STILL
        : chain(solve(parent), motion(zones[parent]!, folds[parent] ?? 1, t));
    out[i] = made;
    return made;
  };
  return zones.map((_, i) => solve(i));
}

/** A point of a cone at height `z`: the middle generator stays tangent to the flat. */
function rolled(
  cone: NonNullable<ZoneView["cone"]>,
  fold: number,
  t: number,
  x: number,
  y: number,
  z: number,
): Vec {
  const [ax, ay] = two(cone.apex);
  const [vx, vy] = [x - ax, y - ay];
  const [rho, theta] = [Math.hypot(vx, vy), Math.atan2(vy, vx)];
  const sin = Math.min(cone.sweep / (cone.sweep + (cone.turn - cone.sweep) * fold), 1);
  const cos = Math.sqrt(1 - sin * sin);
  const side = cone.up ? 1 : -1;
  const [s, c] = [Math.sin(theta / sin), Math.cos(theta / sin)];
  const lift = -side * (z - t / 2);
  const axis: Vec = [cos, 0, side * sin];
  if (rho < 1e-9) return [ax - (axis[0] * lift) / sin, ay, t / 2 - (axis[2] * lift) / sin];
  const out: Vec = [sin, 0, -side * cos];
  const generator: Vec = [axis[0] * cos + out[0] * sin * c, sin * s, axis[2] * cos + out[2] * sin * c];
  const normal: Vec = [out[0] * c * cos - axis[0] * sin, s * cos, out[2] * c * cos - axis[2] * sin];
  return [
    ax + generator[0] * rho + normal[0] * lift,
    ay + generator[1] * rho + normal[1] * lift,
    t / 2 + generator[2] * rho + normal[2] * lift,
  ];
}

/** A point of the flat at height `z`, in space. */
export function formed(
  zone: ZoneView,
  frame: Frame,
  fold: number,
  t: number,
  x: number,
  y: number,
  z: number,
): Vec {
  if (zone.cone) return at(frame, rolled(zone.cone, fold, t, x, y, z));
  if (!zone.bend) return at(frame, [x, y, z]);
  const [nx, ny] = two(zone.along);
  const [ox, oy] = two(zone.origin);
  const [u, v] = [(x - ox) * nx + (y - oy) * ny, -(x - ox) * ny + (y - oy) * nx];
  const [along, h] = bent(zone.bend, fold, t, u, z);
  return at(frame, [ox + nx * along - ny * v, oy + ny * along + nx * v, h]);
}

/**
 * Zones that move when the piece is folded, in the order they are made: rolled ones first, then as the brake
 * makes them.
 */
export function movers(zones: ZoneView[], order: string[], rolledLast = false): number[] {
  const moving = zones.flatMap((z, i) => (z.bend || z.cone ? [i] : []));
  const rank = (i: number) => {
    const at = order.indexOf(zones[i]!.name);
    return at < 0 && rolledLast ? order.length : at;
  };
  return moving.sort((a, b) => rank(a) - rank(b) || a - b);
}

/** Shares of each bend when `progress` of them are folded, in that order. */
export function foldShares(
  zones: ZoneView[],
  progress: number,
  order: string[],
  rolledLast = false,
): number[] {
  const out = zones.map(() => 1);
  movers(zones, order, rolledLast).forEach((i, n) => {
    out[i] = Math.min(Math.max(progress - n, 0), 1);
  });
  return out;
}

/**
 * Every point of the flat on the top face, then every one on the bottom, in space: x, y, z in turn into
 * `out`.
 * The same as `formed`, without a small list for each of a hundred thousand points.
 */
export function placeAll(
  zones: ZoneView[],
  at: Frame[],
  folds: number[],
  t: number,
  points: Float32Array,
  pointZones: Uint32Array,
  out: Float32Array,
): void {
  const n = points.length / 2;
  const plans = zones.map((zone, i) => {
    const f = at[i]!;
    const fold = folds[i] ?? 1;
    const bend = zone.bend;
    const angle = bend ? bend.angle * fold : 0;
    const [nx, ny] = two(zone.along);
    const [ox, oy] = two(zone.origin);
    const flat = !bend || angle < 1e-9;
    const r = flat ? 0 : bend.allowance / angle - bend.k * t;
    const turn = flat ? 0 : angle / bend.allowance;
    return {
      zone,
      f,
      fold,
      flat,
      nx,
      ny,
      ox,
      oy,
      r,
      turn,
      allowance: bend?.allowance ?? 0,
      // On a crease the faces of both panels meet; of a very sharp one not so far out.
      half: bend?.creased ? angle / 2 : null,
      up: bend?.up ?? true,
      m: [...f.o, ...f.x, ...f.y, ...f.z],
    };
  });
  const put = (m: number[], x: number, y: number, z: number, to: number) => {
    out[to] = m[0]! + m[3]! * x + m[6]! * y + m[9]! * z;
    out[to + 1] = m[1]! + m[4]! * x + m[7]! * y + m[10]! * z;
    out[to + 2] = m[2]! + m[5]! * x + m[8]! * y + m[11]! * z;
  };
  for (let i = 0; i < n; i++) {
    const p = plans[pointZones[i]!]!;
    const x = points[i * 2]!;
    const y = points[i * 2 + 1]!;
    const top = i * 3;
    const bottom = (i + n) * 3;
    if (p.zone.cone) {
      out.set(formed(p.zone, p.f, p.fold, t, x, y, t), top);
      out.set(formed(p.zone, p.f, p.fold, t, x, y, 0), bottom);
      continue;
    }
    if (p.flat) {
      put(p.m, x, y, t, top);
      put(p.m, x, y, 0, bottom);
      continue;
    }
    if (p.half !== null) {
      const across = -(x - p.ox) * p.ny + (y - p.oy) * p.nx;
      const [s, c] = [Math.sin(p.half), Math.cos(p.half)];
      for (const [z, to] of [
        [t, top],
        [0, bottom],
      ] as const) {
        const off = (z - t / 2) * Math.min(1 / c, 2);
        const along = (p.up ? -off : off) * s;
        const [ex, ey] = [p.ox + p.nx * along, p.oy + p.ny * along];
        put(p.m, ex - p.ny * across, ey + p.nx * across, t / 2 + off * c, to);
      }
      continue;
    }
    const u = (x - p.ox) * p.nx + (y - p.oy) * p.ny;
    const v = -(x - p.ox) * p.ny + (y - p.oy) * p.nx;
    const beyond = Math.max(u - p.allowance, 0);
    const a = (u - beyond) * p.turn;
    const s = Math.sin(a);
    const c = Math.cos(a);
    for (let k = 0; k < 2; k++) {
      const z = k === 0 ? t : 0;
      const rho = p.up ? p.r + t - z : p.r + z;
      const along = rho * s + beyond * c;
      const h = p.up ? t + p.r - rho * c + beyond * s : -p.r + rho * c - beyond * s;
      put(p.m, p.ox + p.nx * along - p.ny * v, p.oy + p.ny * along + p.nx * v, h, k === 0 ? top : bottom);
    }
  }
}
