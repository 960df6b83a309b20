/** Answers unpacked: lists of numbers come as base64, equal holes as one outline. */

import { relativePath } from "../drawing/paths";
import type { components } from "./schema";
import type { Evaluated, Mesh, PieceView } from "./types";

type S = components["schemas"];

function bytes(text: string): ArrayBuffer {
  const raw = atob(text);
  const out = new Uint8Array(raw.length);
  for (let i = 0; i < raw.length; i++) out[i] = raw.charCodeAt(i);
  return out.buffer;
}

export function mesh(m: S["MeshView"]): Mesh {
  const whole = (t: string) => new Uint32Array(bytes(t));
  return {
    points: new Float32Array(bytes(m.points)),
    zones: whole(m.zones),
    triangles: whole(m.triangles),
    triangle_zones: whole(m.triangle_zones),
    walls: whole(m.walls),
    creases: whole(m.creases),
    light: m.light,
  };
}

export function evaluated(got: S["Evaluated"]): Evaluated {
  if (!got.piece) return { ...got, piece: null };
  const piece: PieceView = {
    ...got.piece,
    mesh: mesh(got.piece.mesh),
    flat: { ...got.piece.flat, paths: got.piece.flat.shapes.map(relativePath) },
  };
  return { ...got, piece };
}
