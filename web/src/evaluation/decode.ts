/** Answers unpacked: lists of numbers come as base64, equal holes as one outline, names told once. */

import type { components } from "../api/schema";
import type { Evaluated, Feature, Hole, Mesh, PieceView, Raised } from "../api/types";
import { relativePath } from "./paths";

type S = components["schemas"];

function bytes(text: string): ArrayBuffer {
  const raw = atob(text);
  const out = new Uint8Array(raw.length);
  for (let i = 0; i < raw.length; i++) out[i] = raw.charCodeAt(i);
  return out.buffer;
}

/** Numbers told as steps from the one a group before, 7 bits a byte. */
function steps(text: string, group: number): Uint32Array {
  const raw = new Uint8Array(bytes(text));
  const out = new Uint32Array(raw.length);
  let n = 0;
  let at = 0;
  while (at < raw.length) {
    let value = 0;
    let shift = 1;
    let byte = 0;
    do {
      byte = raw[at++] ?? 0;
      value += (byte & 0x7f) * shift;
      shift *= 128;
    } while (byte & 0x80);
    const step = value % 2 === 0 ? value / 2 : -(value + 1) / 2;
    out[n] = (n >= group ? out[n - group]! : 0) + step;
    n++;
  }
  return out.slice(0, n);
}

export function mesh(m: S["MeshView"]): Mesh {
  return {
    points: new Float32Array(bytes(m.points)),
    zones: steps(m.zones, 1),
    triangles: steps(m.triangles, 3),
    triangle_zones: steps(m.triangle_zones, 1),
    walls: steps(m.walls, 3),
    creases: steps(m.creases, 2),
    light: m.light,
  };
}

export function raised(r: S["RaisedView"]): Raised {
  return {
    points: new Float32Array(bytes(r.points)),
    zones: steps(r.zones, 1),
    triangles: steps(r.triangles, 3),
    shapes: steps(r.shapes, 1),
    lines: steps(r.lines, 2),
  };
}

/** Holes with what made them, from lists of numbers. */
function holes(h: S["HolesView"], features: Feature[]): Hole[] {
  const at = new Float32Array(bytes(h.at));
  const shape = steps(h.shape, 1);
  return Array.from(steps(h.made_by, 1), (made, i) => {
    const by = features[made - 1];
    return {
      name: by?.name ?? "",
      line: by?.line ?? "",
      shape: shape[i]!,
      at: [at[2 * i]!, at[2 * i + 1]!],
    };
  });
}

export function evaluated(got: S["Evaluated"]): Evaluated {
  // A brief has nothing but its checks to tell.
  const brief = got.brief ? { ...got.brief, figures: [], findings: [] } : null;
  if (!got.piece) return { ...got, brief, piece: null };
  const { names, features: packed, tags, flat } = got.piece;
  const named = (text: string) => Array.from(steps(text, 1), (k) => names[k]!);
  const lines = named(packed.line);
  const features = named(packed.name).map((name, i) => ({ name, line: lines[i]! }));
  const piece: PieceView = {
    ...got.piece,
    mesh: mesh(got.piece.mesh),
    raised: raised(got.piece.raised),
    tags: named(tags),
    features,
    flat: { ...flat, holes: holes(flat.holes, features), paths: flat.shapes.map(relativePath) },
  };
  return { ...got, brief, piece };
}
