import * as THREE from "three";
import { LineMaterial } from "three/examples/jsm/lines/LineMaterial.js";
import { LineSegments2 } from "three/examples/jsm/lines/LineSegments2.js";
import { LineSegmentsGeometry } from "three/examples/jsm/lines/LineSegmentsGeometry.js";
import type { PieceView } from "../../api/types";
import { Metal } from "../metal";
import { Stage } from "../Stage";
import { zoneBeside } from "../zones";
import { foldShares, formed, frames, placeAll } from "./fold";

export interface Colours {
  panel: string;
  up: string;
  down: string;
  wall: string;
  edge: string;
  lit: string;
}

/** How wide what is pointed at is drawn. */
const LIT_PIXELS = 2;

/** Materials of the mesh, in turn. */
const PAINTS = ["panel", "up", "down", "wall"] as const;

/** What a ray met: a panel or bend by its zone, a hole or edge by its name; and where on the flat. */
export interface Met {
  zone?: string;
  name: string;
  flat: [number, number];
}

/** Whether a point lies on the border of a region. */
function onBorder(region: number[][], x: number, y: number): boolean {
  return region.some((a, i) => {
    const b = region[(i + 1) % region.length]!;
    const [dx, dy] = [b[0]! - a[0]!, b[1]! - a[1]!];
    const length = Math.hypot(dx, dy);
    const [px, py] = [x - a[0]!, y - a[1]!];
    const along = (px * dx + py * dy) / length;
    return Math.abs(px * dy - py * dx) / length < 1e-3 && along > -1e-3 && along < length + 1e-3;
  });
}

/** What the raised surfaces are of: pressed shapes, then drilled holes. */
const raisedOf = (piece: PieceView) => [...piece.flat.pressed, ...piece.flat.bores];

/** The formed piece on the screen: built from the flat's triangles, moved by the fold. */
export class FormedScene extends Stage {
  private mesh: THREE.Mesh<THREE.BufferGeometry, Metal[]>;
  private edges = new THREE.LineSegments<THREE.BufferGeometry, THREE.LineBasicMaterial>();
  private lit: LineSegments2;
  private piece: PieceView | null = null;
  /**
   * Space coordinates of every flat point on the top face, then on the bottom, then of pressed shapes and
   * drilled holes: what is drawn.
   */
  private placed = new Float32Array();
  private corners: Uint32Array = new Uint32Array();
  /** Which face of the piece a drawn one is: both sides of its triangles, its walls, what is on it. */
  private faces: Uint32Array = new Uint32Array();

  constructor(host: HTMLElement, colours: Colours) {
    super(host);
    const metal = PAINTS.map((paint) => new Metal(colours[paint]));
    this.mesh = new THREE.Mesh(new THREE.BufferGeometry(), metal);
    this.edges.material = new THREE.LineBasicMaterial({ color: colours.edge });
    // As wide on a fine screen as on a coarse one.
    const wide = new LineMaterial({ color: colours.lit, linewidth: LIT_PIXELS, depthTest: false });
    this.lit = new LineSegments2(new LineSegmentsGeometry(), wide);
    this.lit.visible = false;
    this.lit.renderOrder = 2;
    for (const part of [this.mesh, this.edges, this.lit]) part.frustumCulled = false;
    this.scene.add(this.mesh, this.edges, this.lit);
    this.look("at an angle");
    this.resize();
  }

  protected seenPoints(): Float32Array {
    return this.placed;
  }

  override dispose(): void {
    this.mesh.geometry.dispose();
    this.edges.geometry.dispose();
    this.lit.geometry.dispose();
    super.dispose();
  }

  /** Shows a piece at a fold. The view is fitted anew when another piece comes, or the size changes much. */
  show(piece: PieceView, progress: number, refit: boolean): void {
    this.piece = piece;
    this.build(piece);
    this.fold(progress);
    if (refit) this.fit();
    this.ask();
  }

  /** Triangles of top, bottom and walls, together by colour; points and edges once for all of them. */
  private build(piece: PieceView): void {
    const m = piece.mesh;
    const n = m.points.length / 2;
    const { raised } = piece;
    const triangles = m.triangles.length / 3;
    const walls = m.walls.length / 3;
    const pressed = raised.shapes.length;
    const zonePaint = piece.zones.map((z) => (!z.bend ? 0 : z.bend.up ? 1 : 2));
    const paintOf = (triangle: number) => zonePaint[m.triangle_zones[triangle]!] ?? 3;
    const counts = [pressed, 0, 0, walls * 2];
    for (let i = 0; i < triangles; i++) counts[paintOf(i)]! += 2;
    const g = new THREE.BufferGeometry();
    const next = [0, 0, 0, 0];
    let begun = 0;
    counts.forEach((count, paint) => {
      next[paint] = begun;
      if (count > 0) g.addGroup(begun * 3, count * 3, paint);
      begun += count;
    });
    this.corners = new Uint32Array(begun * 3);
    this.faces = new Uint32Array(begun);
    let face = 0;
    const put = (paint: number, a: number, b: number, c: number) => {
      const at = next[paint]!++;
      this.faces[at] = face++;
      this.corners[at * 3] = a;
      this.corners[at * 3 + 1] = b;
      this.corners[at * 3 + 2] = c;
    };
    for (let i = 0; i < triangles; i++) {
      const a = m.triangles[i * 3]!;
      const b = m.triangles[i * 3 + 1]!;
      const c = m.triangles[i * 3 + 2]!;
      const paint = paintOf(i);
      put(paint, a, b, c);
      put(paint, a + n, c + n, b + n);
    }
    for (let i = 0; i < walls; i++) {
      const a = m.walls[i * 3]!;
      const b = m.walls[i * 3 + 1]!;
      put(3, a + n, b + n, b);
      put(3, a + n, b, a);
    }
    for (let i = 0; i < pressed; i++) {
      const [a, b, c] = [0, 1, 2].map((k) => raised.triangles[i * 3 + k]! + 2 * n);
      put(0, a!, b!, c!);
    }
    this.placed = new Float32Array(n * 6 + raised.points.length);
    const position = new THREE.BufferAttribute(this.placed, 3);
    g.setAttribute("position", position);
    g.setIndex(new THREE.BufferAttribute(this.corners, 1));
    this.mesh.geometry.dispose();
    this.mesh.geometry = g;

    const lines = new Uint32Array(walls * 4 + m.creases.length * 2 + raised.lines.length);
    let k = 0;
    const both = (a: number, b: number) => {
      lines[k++] = a;
      lines[k++] = b;
      lines[k++] = a + n;
      lines[k++] = b + n;
    };
    for (let i = 0; i < m.walls.length; i += 3) both(m.walls[i]!, m.walls[i + 1]!);
    for (let i = 0; i < m.creases.length; i += 2) both(m.creases[i]!, m.creases[i + 1]!);
    for (const v of raised.lines) lines[k++] = v + 2 * n;
    const e = new THREE.BufferGeometry();
    e.setAttribute("position", position);
    e.setIndex(new THREE.BufferAttribute(lines, 1));
    this.edges.geometry.dispose();
    this.edges.geometry = e;
  }

  /** Moves every point to where it is with `progress` bends folded. */
  fold(progress: number): void {
    const piece = this.piece;
    if (!piece) return;
    this.moves();
    const { points, zones } = piece.mesh;
    const n = points.length / 2;
    const shares = foldShares(
      piece.zones,
      progress,
      piece.bend_rows.map((r) => r.name),
      piece.rolled_last,
    );
    const at = frames(piece.zones, shares, piece.thickness);
    placeAll(piece.zones, at, shares, piece.thickness, points, zones, this.placed);
    const r = piece.raised;
    r.zones.forEach((zone, i) => {
      const [x, y, z] = [r.points[i * 3]!, r.points[i * 3 + 1]!, r.points[i * 3 + 2]!];
      const p = formed(piece.zones[zone]!, at[zone]!, shares[zone] ?? 1, piece.thickness, x, y, z);
      this.placed.set(p, (2 * n + i) * 3);
    });
    (this.mesh.geometry.getAttribute("position") as THREE.BufferAttribute).needsUpdate = true;
    // Found again when a ray asks for it.
    this.mesh.geometry.boundingSphere = null;
    this.ask();
  }

  private lines(pairs: number[]): LineSegmentsGeometry {
    const out = new Float32Array(pairs.length * 3);
    pairs.forEach((v, i) => out.set(this.placed.subarray(v * 3, v * 3 + 3), i * 3));
    return new LineSegmentsGeometry().setPositions(out);
  }

  /** Draws what is named, or what the line made, in the light colour over everything. */
  highlight(names: string[], line: string | undefined): void {
    const piece = this.piece;
    if (!piece) return;
    const m = piece.mesh;
    const n = m.points.length / 2;
    const made = new Set(
      line && names.length === 0
        ? piece.features.filter((f) => f.line === line).map((f) => f.name)
        : names,
    );
    const byTag = piece.tags.map((t) => made.has(t));
    const zones = piece.zones.filter((z) => made.has(z.name));
    const point = (i: number): [number, number] => [m.points[i * 2]!, m.points[i * 2 + 1]!];
    const isBeside = (a: number, b: number) => {
      if (zones.length === 0) return false;
      const [own, next] = [m.zones[a]!, m.zones[b]!];
      const zone = own === next ? piece.zones[own] : zoneBeside(piece.zones, point(a), point(b));
      return zone !== undefined && zones.includes(zone);
    };
    const pairs: number[] = [];
    for (let i = 0; i < m.walls.length; i += 3) {
      const [a, b, tag] = [m.walls[i]!, m.walls[i + 1]!, m.walls[i + 2]!];
      if (byTag[tag] || isBeside(a, b)) pairs.push(a, b, a + n, b + n);
    }
    const stands = raisedOf(piece).map((p) => made.has(p.name));
    const { raised } = piece;
    raised.shapes.forEach((shape, i) => {
      if (stands[shape])
        for (let k = 0; k < 3; k++)
          pairs.push(
            raised.triangles[i * 3 + k]! + 2 * n,
            raised.triangles[i * 3 + ((k + 1) % 3)]! + 2 * n,
          );
    });
    for (let i = 0; i < m.creases.length; i += 2) {
      const [a, b] = [m.creases[i]!, m.creases[i + 1]!];
      const [[ax, ay], [bx, by]] = [point(a), point(b)];
      const [x, y] = [(ax + bx) / 2, (ay + by) / 2];
      if (zones.some((z) => onBorder(z.region, x, y))) pairs.push(a, b, a + n, b + n);
    }
    this.lit.visible = pairs.length > 0;
    if (this.lit.visible) {
      this.lit.geometry.dispose();
      this.lit.geometry = this.lines(pairs);
    }
    this.ask();
  }

  /** What lies under a point of the screen. */
  meet(clientX: number, clientY: number): Met | null {
    const piece = this.piece;
    if (!piece) return null;
    const ray = this.ray(clientX, clientY);
    const hit = ray.intersectObject(this.mesh)[0];
    if (!hit || hit.faceIndex === undefined || hit.faceIndex === null) return null;
    const m = piece.mesh;
    const n = m.points.length / 2;
    const face = this.faces[hit.faceIndex]!;
    const faces = (m.triangles.length / 3) * 2;
    const plain = faces + (m.walls.length / 3) * 2;
    if (face >= plain) {
      const met = raisedOf(piece)[piece.raised.shapes[face - plain] ?? -1];
      return { name: met?.name ?? "", flat: [met?.at[0] ?? 0, met?.at[1] ?? 0] };
    }
    const trio = [0, 1, 2].map((k) => this.corners[hit.faceIndex! * 3 + k]!);
    // The same share of each corner, in the flat.
    const [a, b, c] = trio.map((v) => new THREE.Vector3(...this.placed.subarray(v * 3, v * 3 + 3)));
    const share = new THREE.Vector3();
    THREE.Triangle.getBarycoord(hit.point, a!, b!, c!, share);
    const weights = [share.x, share.y, share.z];
    const coordinate = (axis: number) =>
      trio.reduce((sum, v, k) => sum + m.points[(v % n) * 2 + axis]! * weights[k]!, 0);
    const flat: [number, number] = [coordinate(0), coordinate(1)];
    if (face < faces) {
      const zone = piece.zones[m.triangle_zones[Math.floor(face / 2)]!]?.name ?? "";
      return { zone, name: zone, flat };
    }
    const tag = m.walls[Math.floor((face - faces) / 2) * 3 + 2]!;
    return { name: piece.tags[tag] ?? "", flat };
  }
}
