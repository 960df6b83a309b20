import type { PieceView } from "../../api/types";

type Pressed = PieceView["flat"]["pressed"][number];

/** A point of a pressed shape: where over the flat it stands, and in which zone. */
export interface Stand {
  zone: number;
  x: number;
  y: number;
  z: number;
}

/** The pressed shapes of a piece as surfaces that stand on its flat and fold with it. */
export interface Bumps {
  points: Stand[];
  triangles: number[];
  lines: number[];
  /** Name by triangle. */
  names: string[];
}

/**
 * Heights over a grid of the footprint: `u` along and `v` across run from −1 to 1, the answer is a share of
 * the height.
 */
const RISE: Record<string, (u: number, v: number) => number> = {
  // Full along the opening on the south side, down to nothing at the north and the ends.
  louvre: (u, v) => ((1 - v) / 2) * Math.sqrt(Math.max(1 - u ** 8, 0)),
  bead: (_, v) => Math.sqrt(Math.max(1 - v * v, 0)),
};

export function bumps(piece: PieceView): Bumps {
  const out: Bumps = { points: [], triangles: [], lines: [], names: [] };
  for (const f of piece.flat.pressed) {
    if (f.zone === null || f.zone === undefined) continue;
    if (f.kind !== "rib") footprint(piece, f, out);
    if (f.kind === "rib") rib(piece, f, out);
    else if (f.kind === "dimple") round(piece, f, out, (s) => Math.sqrt(Math.max(1 - s * s, 0)), 4);
    else if (f.kind === "collar") collar(piece, f, out);
    else grid(piece, f, out, RISE[f.kind] ?? (() => 1));
  }
  return out;
}

function place(f: Pressed, u: number, v: number): [number, number] {
  const [s, c] = [Math.sin(f.turn), Math.cos(f.turn)];
  return [f.at[0]! + u * c - v * s, f.at[1]! + u * s + v * c];
}

const height = (piece: PieceView, f: Pressed, share: number) =>
  f.up === false ? -f.height * share : piece.thickness + f.height * share;

function add(out: Bumps, zone: number, x: number, y: number, z: number): number {
  return out.points.push({ zone, x, y, z }) - 1;
}

function face(out: Bumps, f: Pressed, a: number, b: number, c: number): void {
  // Standing out below, the other side is seen.
  out.triangles.push(...(f.up === false ? [a, c, b] : [a, b, c]));
  out.names.push(f.name);
}

function grid(piece: PieceView, f: Pressed, out: Bumps, rise: (u: number, v: number) => number): void {
  const [nu, nv] = [16, 6];
  const at: number[][] = [];
  for (let i = 0; i <= nu; i++) {
    at.push([]);
    for (let k = 0; k <= nv; k++) {
      const [u, v] = [(2 * i) / nu - 1, (2 * k) / nv - 1];
      // A bead ends round: its width shrinks over the last half width.
      const end = f.kind === "bead" ? beadWidth(f, u) : 1;
      const [x, y] = place(f, (u * f.size[0]!) / 2, (v * end * f.size[1]!) / 2);
      at[i]!.push(add(out, f.zone!, x, y, height(piece, f, rise(u, v) * end)));
    }
  }
  for (let i = 0; i < nu; i++)
    for (let k = 0; k < nv; k++) {
      const [a, b, c, d] = [at[i]![k]!, at[i + 1]![k]!, at[i + 1]![k + 1]!, at[i]![k + 1]!];
      face(out, f, a, b, c);
      face(out, f, a, c, d);
    }
  // The open edge of a louvre, the ridge of a bead: lines on the sheet itself would flicker.
  const ridge = f.kind === "louvre" ? 0 : nv / 2;
  for (let i = 0; i < nu; i++) out.lines.push(at[i]![ridge]!, at[i + 1]![ridge]!);
}

function beadWidth(f: Pressed, u: number): number {
  const half = f.size[1]! / 2;
  const into = f.size[0]! / 2 - Math.abs((u * f.size[0]!) / 2);
  return into >= half ? 1 : Math.sqrt(Math.max(1 - ((half - into) / half) ** 2, 0));
}

function ring(piece: PieceView, f: Pressed, out: Bumps, radius: number, share: number): number[] {
  return Array.from({ length: 24 }, (_, k) => {
    const a = (2 * Math.PI * k) / 24;
    return add(
      out,
      f.zone!,
      f.at[0]! + radius * Math.cos(a),
      f.at[1]! + radius * Math.sin(a),
      height(piece, f, share),
    );
  });
}

function band(out: Bumps, f: Pressed, inner: number[], outer: number[]): void {
  inner.forEach((a, k) => {
    const [b, c, d] = [outer[k]!, outer[(k + 1) % outer.length]!, inner[(k + 1) % inner.length]!];
    face(out, f, a, b, c);
    face(out, f, a, c, d);
  });
}

const loop = (out: Bumps, r: number[]) => {
  r.forEach((a, k) => {
    out.lines.push(a, r[(k + 1) % r.length]!);
  });
};

function round(
  piece: PieceView,
  f: Pressed,
  out: Bumps,
  rise: (s: number) => number,
  steps: number,
): void {
  const radius = f.size[0]! / 2;
  const rings = Array.from({ length: steps + 1 }, (_, k) =>
    ring(piece, f, out, (radius * k) / steps, rise(k / steps)),
  );
  for (let k = 0; k < steps; k++) band(out, f, rings[k]!, rings[k + 1]!);
  loop(out, rings[1]!);
}

function collar(piece: PieceView, f: Pressed, out: Bumps): void {
  const outer = f.size[0]! / 2;
  const inner = outer - piece.thickness;
  const share = (f.height - piece.thickness) / f.height;
  const [foot, top, lip, well] = [
    ring(piece, f, out, outer, 0),
    ring(piece, f, out, outer, share),
    ring(piece, f, out, inner, share),
    ring(piece, f, out, inner, 0),
  ];
  band(out, f, top, foot);
  band(out, f, lip, top);
  band(out, f, well, lip);
  loop(out, top);
  loop(out, lip);
}

/**
 * The footprint drawn on both faces, a hair off them: what stands out on one side is seen to be pressed from
 * the other.
 */
function footprint(piece: PieceView, f: Pressed, out: Bumps): void {
  const [a, b] = [f.size[0]! / 2, f.size[1]! / 2];
  const around = Array.from({ length: 32 }, (_, k): [number, number] => {
    const angle = (2 * Math.PI * k) / 32;
    if (f.kind === "dimple" || f.kind === "collar")
      return place(f, a * Math.cos(angle), a * Math.sin(angle));
    if (f.kind === "bead")
      return place(f, Math.sign(Math.cos(angle)) * (a - b) + b * Math.cos(angle), b * Math.sin(angle));
    const corner = [
      Math.sign(Math.cos(angle + 0.01)) * a,
      Math.sign(Math.sin(angle + 0.01)) * b,
    ] as const;
    return place(f, ...corner);
  });
  for (const z of [piece.thickness + 0.2, -0.2])
    loop(
      out,
      around.map(([x, y]) => add(out, f.zone!, x, y, z)),
    );
}

/** A straight web from leg to leg, over the inside of the bend. */
function rib(piece: PieceView, f: Pressed, out: Bumps): void {
  const bend = piece.zones[f.zone!];
  if (!bend?.bend) return;
  const inside = bend.bend.up ? piece.thickness : 0;
  const beyond = piece.zones.findIndex((z) => z.parent === f.zone && !z.bend);
  const [half, allowance] = [f.size[0]! / 2, bend.bend.allowance];
  const steps = 14;
  const side = (v: number) =>
    Array.from({ length: steps + 1 }, (_, k) => {
      const u = half * ((2 * k) / steps - 1);
      const [x, y] = place(f, u, v);
      const along = u + allowance / 2;
      const zone =
        along < 0 ? (bend.parent ?? f.zone!) : along > allowance && beyond >= 0 ? beyond : f.zone!;
      return add(out, zone, x, y, inside);
    });
  const [a, b] = [side(-f.size[1]! / 2), side(f.size[1]! / 2)];
  const both = (p: number, q: number, r: number) => {
    face(out, f, p, q, r);
    face(out, f, p, r, q);
  };
  for (const s of [a, b]) for (let k = 1; k < steps; k++) both(s[0]!, s[k]!, s[k + 1]!);
  both(a[0]!, a[steps]!, b[steps]!);
  both(a[0]!, b[steps]!, b[0]!);
  out.lines.push(a[0]!, a[steps]!, b[0]!, b[steps]!, a[0]!, b[0]!, a[steps]!, b[steps]!);
}
