import * as THREE from "three";
import type { PieceView } from "../api/types";
import { Stage } from "../stage/Stage";
import { type Bumps, bumps } from "./bumps";
import { foldShares, formed, frames } from "./fold";

export interface Colours {
  panel: string;
  up: string;
  down: string;
  wall: string;
  edge: string;
  lit: string;
}

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

/** The formed piece on the screen: built from the flat's triangles, moved by the fold. */
export class FormedScene extends Stage {
  private mesh = new THREE.Mesh<THREE.BufferGeometry, THREE.MeshStandardMaterial>();
  private edges = new THREE.LineSegments<THREE.BufferGeometry, THREE.LineBasicMaterial>();
  private lit = new THREE.LineSegments<THREE.BufferGeometry, THREE.LineBasicMaterial>();
  private piece: PieceView | null = null;
  /** Space coordinates of every flat point: on the top face, then on the bottom. */
  private placed = new Float32Array();
  private corners: Uint32Array = new Uint32Array();
  private pressed: Bumps = { points: [], triangles: [], lines: [], names: [] };

  constructor(
    host: HTMLElement,
    private colours: Colours,
  ) {
    super(host);
    this.mesh.material = new THREE.MeshStandardMaterial({
      vertexColors: true,
      flatShading: true,
      metalness: 0.15,
      roughness: 0.65,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    });
    this.edges.material = new THREE.LineBasicMaterial({ color: colours.edge });
    this.lit.material = new THREE.LineBasicMaterial({ color: colours.lit, depthTest: false });
    this.lit.renderOrder = 2;
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

  /** Triangles of top, bottom and walls, coloured by what they belong to. */
  private build(piece: PieceView): void {
    const m = piece.mesh;
    const n = m.points.length / 2;
    const corners: number[] = [];
    const colours: number[] = [];
    const paint = (c: string) => {
      const { r, g, b } = new THREE.Color(c);
      return [r, g, b, r, g, b, r, g, b];
    };
    const zoneColour = piece.zones.map((z) => paint(!z.bend ? this.colours.panel : z.bend.up ? this.colours.up : this.colours.down));
    const wall = paint(this.colours.wall);
    for (let i = 0; i < m.triangles.length; i += 3) {
      const [a, b, c] = [m.triangles[i]!, m.triangles[i + 1]!, m.triangles[i + 2]!];
      corners.push(a, b, c, a + n, c + n, b + n);
      const colour = zoneColour[m.triangle_zones[i / 3]!] ?? wall;
      colours.push(...colour, ...colour);
    }
    for (let i = 0; i < m.walls.length; i += 3) {
      const [a, b] = [m.walls[i]!, m.walls[i + 1]!];
      corners.push(a + n, b + n, b, a + n, b, a);
      colours.push(...wall, ...wall);
    }
    // Pressed shapes come after both faces and the walls.
    this.pressed = bumps(piece);
    const metal = paint(this.colours.panel);
    for (let i = 0; i < this.pressed.triangles.length; i += 3) {
      corners.push(...this.pressed.triangles.slice(i, i + 3).map((k) => k + 2 * n));
      colours.push(...metal);
    }
    this.corners = Uint32Array.from(corners);
    this.placed = new Float32Array((n * 2 + this.pressed.points.length) * 3);
    const g = new THREE.BufferGeometry();
    g.setAttribute("position", new THREE.BufferAttribute(new Float32Array(corners.length * 3), 3));
    g.setAttribute("color", new THREE.BufferAttribute(new Float32Array(colours), 3));
    this.mesh.geometry.dispose();
    this.mesh.geometry = g;
  }

  /** Moves every point to where it is with `progress` bends folded. */
  fold(progress: number): void {
    const piece = this.piece;
    if (!piece) return;
    const { points, zones } = piece.mesh;
    const n = points.length / 2;
    const shares = foldShares(
      piece.zones,
      progress,
      piece.bend_rows.map((r) => r.name),
    );
    const at = frames(piece.zones, shares, piece.thickness);
    for (let i = 0; i < n; i++) {
      const z = zones[i]!;
      const zone = piece.zones[z]!;
      for (const [k, height] of [piece.thickness, 0].entries()) {
        const p = formed(zone, at[z]!, shares[z] ?? 1, piece.thickness, points[i * 2]!, points[i * 2 + 1]!, height);
        this.placed.set(p, (i + k * n) * 3);
      }
    }
    this.pressed.points.forEach((s, i) => {
      const p = formed(piece.zones[s.zone]!, at[s.zone]!, shares[s.zone] ?? 1, piece.thickness, s.x, s.y, s.z);
      this.placed.set(p, (2 * n + i) * 3);
    });
    const g = this.mesh.geometry;
    const position = g.getAttribute("position") as THREE.BufferAttribute;
    const out = position.array as Float32Array;
    for (let i = 0; i < this.corners.length; i++) {
      const from = this.corners[i]! * 3;
      out[i * 3] = this.placed[from]!;
      out[i * 3 + 1] = this.placed[from + 1]!;
      out[i * 3 + 2] = this.placed[from + 2]!;
    }
    position.needsUpdate = true;
    g.computeBoundingSphere();
    this.drawEdges();
    this.ask();
  }

  private lines(pairs: number[]): THREE.BufferGeometry {
    const g = new THREE.BufferGeometry();
    const out = new Float32Array(pairs.length * 3);
    pairs.forEach((v, i) => out.set(this.placed.subarray(v * 3, v * 3 + 3), i * 3));
    g.setAttribute("position", new THREE.BufferAttribute(out, 3));
    return g;
  }

  private drawEdges(): void {
    const m = this.piece!.mesh;
    const n = m.points.length / 2;
    const pairs: number[] = [];
    for (let i = 0; i < m.walls.length; i += 3) pairs.push(m.walls[i]!, m.walls[i + 1]!, m.walls[i]! + n, m.walls[i + 1]! + n);
    for (let i = 0; i < m.creases.length; i += 2) pairs.push(m.creases[i]!, m.creases[i + 1]!, m.creases[i]! + n, m.creases[i + 1]! + n);
    pairs.push(...this.pressed.lines.map((k) => k + 2 * n));
    this.edges.geometry.dispose();
    this.edges.geometry = this.lines(pairs);
  }

  /** Draws what is named, or what the line made, in the light colour over everything. */
  highlight(names: string[], line: string | undefined): void {
    const piece = this.piece;
    if (!piece) return;
    const m = piece.mesh;
    const n = m.points.length / 2;
    const made = new Set(line && names.length === 0 ? piece.features.filter((f) => f.line === line).map((f) => f.name) : names);
    const byTag = piece.tags.map((t) => made.has(t));
    const byZone = piece.zones.map((z) => made.has(z.name));
    const pairs: number[] = [];
    for (let i = 0; i < m.walls.length; i += 3) {
      const [a, b, tag] = [m.walls[i]!, m.walls[i + 1]!, m.walls[i + 2]!];
      if (byTag[tag] || (byZone[m.zones[a]!] && byZone[m.zones[b]!])) pairs.push(a, b, a + n, b + n);
    }
    const bumped = new Set(piece.flat.pressed.filter((p) => made.has(p.name)).map((p) => p.name));
    this.pressed.names.forEach((name, i) => {
      if (bumped.has(name))
        for (let k = 0; k < 3; k++) pairs.push(this.pressed.triangles[i * 3 + k]! + 2 * n, this.pressed.triangles[i * 3 + ((k + 1) % 3)]! + 2 * n);
    });
    const zones = piece.zones.filter((_, i) => byZone[i]);
    for (let i = 0; i < m.creases.length; i += 2) {
      const [a, b] = [m.creases[i]!, m.creases[i + 1]!];
      const [x, y] = [(m.points[a * 2]! + m.points[b * 2]!) / 2, (m.points[a * 2 + 1]! + m.points[b * 2 + 1]!) / 2];
      if (zones.some((z) => onBorder(z.region, x, y))) pairs.push(a, b, a + n, b + n);
    }
    this.lit.geometry.dispose();
    this.lit.geometry = this.lines(pairs);
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
    const faces = (m.triangles.length / 3) * 2;
    const plain = faces + m.walls.length / 3;
    if (hit.faceIndex >= plain) {
      const name = this.pressed.names[hit.faceIndex - plain] ?? "";
      const at = piece.flat.pressed.find((p) => p.name === name)?.at ?? [0, 0];
      return { name, flat: [at[0]!, at[1]!] };
    }
    const trio = [0, 1, 2].map((k) => this.corners[hit.faceIndex! * 3 + k]!);
    // The same share of each corner, in the flat.
    const [a, b, c] = trio.map((v) => new THREE.Vector3(...this.placed.subarray(v * 3, v * 3 + 3)));
    const share = new THREE.Vector3();
    THREE.Triangle.getBarycoord(hit.point, a!, b!, c!, share);
    const weights = [share.x, share.y, share.z];
    const coordinate = (axis: number) => trio.reduce((sum, v, k) => sum + m.points[(v % n) * 2 + axis]! * weights[k]!, 0);
    const flat: [number, number] = [coordinate(0), coordinate(1)];
    if (hit.faceIndex < faces) {
      const zone = piece.zones[m.triangle_zones[Math.floor(hit.faceIndex / 2)]!]?.name ?? "";
      return { zone, name: zone, flat };
    }
    const tag = m.walls[Math.floor((hit.faceIndex - faces) / 2) * 3 + 2]!;
    return { name: piece.tags[tag] ?? "", flat };
  }
}
