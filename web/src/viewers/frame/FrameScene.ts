import * as THREE from "three";
import type { FrameView } from "../../api/types";
import { Metal } from "../metal";
import { Stage } from "../Stage";

export interface FrameColours {
  bar: string;
  plate: string;
  edge: string;
  lit: string;
  line: string;
  grid: string;
  back: string;
}

/** The planes that nodes are placed on. */
export const PLANES = {
  floor: { axis: 2, words: "level" },
  front: { axis: 1, words: "upright, facing south" },
  side: { axis: 0, words: "upright, facing west" },
} as const;

export type PlaneName = keyof typeof PLANES;

/** What a ray met. */
export interface MetMember {
  name: string;
  line: string;
}

interface Shown {
  name: string;
  line: string;
  solid: THREE.Mesh<THREE.BufferGeometry, Metal>;
  edges: THREE.LineSegments;
  /** Where it stands, and the middle of its body: what it moves away by when the frame is pulled apart. */
  home: THREE.Matrix4;
  middle: THREE.Vector3;
}

/** The frame on the screen: bodies, the skeleton over them, and the working plane. */
export class FrameScene extends Stage {
  private shown: Shown[] = [];
  private skeleton = new THREE.LineSegments<THREE.BufferGeometry, THREE.LineBasicMaterial>();
  private nodes = new THREE.Points<THREE.BufferGeometry, THREE.PointsMaterial>();
  private axes = new THREE.LineSegments<THREE.BufferGeometry, THREE.LineBasicMaterial>();
  private pencil = new THREE.Line<THREE.BufferGeometry, THREE.LineBasicMaterial>();
  private balance = new THREE.Group();
  private grid: THREE.GridHelper | null = null;
  private materials: Record<"bar" | "plate" | "lit", Metal>;
  private edgeMaterial: THREE.LineBasicMaterial;
  private points = new Float32Array();
  private centre = new THREE.Vector3();
  private apart = 0;

  constructor(
    host: HTMLElement,
    private colours: FrameColours,
  ) {
    super(host);
    const metal = (color: string, glow = 0) => new Metal(color, glow, THREE.DoubleSide);
    this.materials = {
      bar: metal(colours.bar),
      plate: metal(colours.plate),
      lit: metal(colours.lit, 0.6),
    };
    this.edgeMaterial = new THREE.LineBasicMaterial({ color: colours.edge });
    this.skeleton.material = new THREE.LineBasicMaterial({ color: colours.line, depthTest: false });
    this.skeleton.renderOrder = 2;
    this.nodes.material = new THREE.PointsMaterial({
      color: colours.line,
      size: 6,
      sizeAttenuation: false,
      depthTest: false,
    });
    this.nodes.renderOrder = 3;
    this.pencil.material = new THREE.LineBasicMaterial({ color: colours.lit, depthTest: false });
    this.pencil.renderOrder = 4;
    this.pencil.visible = false;
    this.scene.add(this.skeleton, this.nodes, this.pencil, this.balance);
    this.look("at an angle");
    this.resize();
  }

  protected seenPoints(): Float32Array {
    if (this.apart === 0) return this.points;
    const centre = this.centre.toArray();
    return this.points.map((v, i) => v + (v - centre[i % 3]!) * this.apart);
  }

  override dispose(): void {
    this.clear();
    super.dispose();
  }

  private clear(): void {
    const geometries = new Set<THREE.BufferGeometry>();
    for (const s of this.shown) {
      this.scene.remove(s.solid, s.edges);
      geometries.add(s.solid.geometry).add(s.edges.geometry);
    }
    for (const g of geometries) g.dispose();
    this.shown = [];
  }

  show(frame: FrameView, refit: boolean): void {
    this.clear();
    const seen: number[] = frame.nodes.flatMap((n) => n.at);
    for (const body of frame.bodies) {
      const at = new THREE.BufferAttribute(Float32Array.from(body.points), 3);
      const solid = new THREE.BufferGeometry();
      solid.setAttribute("position", at);
      solid.setIndex(body.triangles);
      const lines = new THREE.BufferGeometry();
      lines.setAttribute("position", at);
      lines.setIndex(body.edges);
      solid.computeBoundingBox();
      const box = solid.boundingBox ?? new THREE.Box3();
      for (const place of body.places) {
        const m = place.matrix;
        const home = new THREE.Matrix4().set(
          m[0]!,
          m[3]!,
          m[6]!,
          m[9]!,
          m[1]!,
          m[4]!,
          m[7]!,
          m[10]!,
          m[2]!,
          m[5]!,
          m[8]!,
          m[11]!,
          0,
          0,
          0,
          1,
        );
        const mesh = new THREE.Mesh(solid, body.plate ? this.materials.plate : this.materials.bar);
        const edges = new THREE.LineSegments(lines, this.edgeMaterial);
        const middle = box.getCenter(new THREE.Vector3()).applyMatrix4(home);
        for (const o of [mesh, edges]) o.matrixAutoUpdate = false;
        this.scene.add(mesh, edges);
        this.shown.push({ name: place.name, line: place.line, solid: mesh, edges, home, middle });
        for (const x of [box.min.x, box.max.x])
          for (const y of [box.min.y, box.max.y])
            for (const z of [box.min.z, box.max.z])
              seen.push(...new THREE.Vector3(x, y, z).applyMatrix4(home).toArray());
      }
    }
    this.points = Float32Array.from(seen);
    this.centre.set(...(frame.centre as [number, number, number]));
    const skeleton: number[] = [];
    for (const m of frame.members)
      for (let i = 3; i < m.way.length; i += 3) skeleton.push(...m.way.slice(i - 3, i + 3));
    this.skeleton.geometry.dispose();
    this.skeleton.geometry = new THREE.BufferGeometry().setAttribute(
      "position",
      new THREE.Float32BufferAttribute(skeleton, 3),
    );
    this.nodes.geometry.dispose();
    this.nodes.geometry = new THREE.BufferGeometry().setAttribute(
      "position",
      new THREE.Float32BufferAttribute(
        frame.nodes.flatMap((n) => n.at),
        3,
      ),
    );
    this.explode(this.apart);
    if (refit) this.fit();
    // Where nobody has zoomed in, what is added stays in sight.
    else if (this.camera.zoom === 1) this.keepInView();
    this.ask();
  }

  /** Pulls the bodies away from the centre of gravity, 0 to 1. */
  explode(apart: number): void {
    this.apart = apart;
    this.moves();
    for (const s of this.shown) {
      const by = s.middle.clone().sub(this.centre).multiplyScalar(apart);
      s.solid.matrix.makeTranslation(by).multiply(s.home);
      s.edges.matrix.copy(s.solid.matrix);
      s.solid.matrixWorldNeedsUpdate = true;
      s.edges.matrixWorldNeedsUpdate = true;
    }
    this.skeleton.visible = apart === 0;
    this.nodes.visible = apart === 0;
    this.ask();
  }

  /** The cross at the centre of gravity. */
  markBalance(size: number): void {
    this.balance.clear();
    const line = new THREE.LineBasicMaterial({ color: this.colours.lit, depthTest: false });
    for (const axis of [0, 1, 2]) {
      const [a, b] = [new THREE.Vector3(), new THREE.Vector3()];
      a.setComponent(axis, -size);
      b.setComponent(axis, size);
      const l = new THREE.Line(
        new THREE.BufferGeometry().setFromPoints([a.add(this.centre), b.add(this.centre)]),
        line,
      );
      l.renderOrder = 5;
      this.balance.add(l);
    }
    this.ask();
  }

  /** Lights what is named, or what the line made. */
  highlight(names: string[], line: string | undefined): void {
    const named = new Set(names);
    for (const s of this.shown) {
      const byLine = line !== undefined && names.length === 0 && s.line === line;
      // A line of several members may be named whole.
      const on = named.has(s.name) || named.has(s.line) || byLine;
      const plate = s.solid.material === this.materials.plate || s.solid.userData.plate === true;
      s.solid.userData.plate = plate;
      s.solid.material = on ? this.materials.lit : plate ? this.materials.plate : this.materials.bar;
    }
    this.ask();
  }

  meet(clientX: number, clientY: number): MetMember | null {
    const hit = this.ray(clientX, clientY).intersectObjects(
      this.shown.map((s) => s.solid),
      false,
    )[0];
    const s = hit && this.shown.find((x) => x.solid === hit.object);
    return s ? { name: s.name, line: s.line } : null;
  }

  /** Shows the working plane through a point, with its axes as far as told, or takes it away. */
  plane(name: PlaneName | null, at: readonly number[], step: number, far: number): void {
    if (this.grid) {
      this.scene.remove(this.grid, this.axes);
      this.grid.geometry.dispose();
      this.axes.geometry.dispose();
      this.grid = null;
    }
    if (name) {
      const box = new THREE.Box3().setFromArray(this.points.length ? this.points : [0, 0, 0]);
      const reach = Math.max(box.getSize(new THREE.Vector3()).length(), 1000) * 1.2;
      // A line each ten steps where single ones would be too many.
      const pace = reach / step > 120 ? step * 10 : step;
      const n = Math.min(Math.ceil(reach / pace), 200);
      const grid = new THREE.GridHelper(n * pace, n, this.colours.lit, this.colours.grid);
      if (name === "floor") grid.rotation.x = Math.PI / 2;
      if (name === "side") grid.rotation.z = Math.PI / 2;
      const snapped = at.map((v) => Math.round(v / pace) * pace);
      const axis = PLANES[name].axis;
      grid.position.set(snapped[0]!, snapped[1]!, snapped[2]!).setComponent(axis, at[axis]!);
      this.grid = grid;
      const ends = [0, 1, 2]
        .filter((k) => k !== axis)
        .flatMap((k) => {
          const zero = new THREE.Vector3().setComponent(axis, at[axis]!);
          return [zero, zero.clone().setComponent(k, far)];
        });
      this.axes.geometry = new THREE.BufferGeometry().setFromPoints(ends);
      this.axes.material = this.pencil.material;
      this.scene.add(grid, this.axes);
    }
    this.ask();
  }

  /** Where the working plane lies under the pointer. */
  onPlane(
    name: PlaneName,
    through: readonly number[],
    clientX: number,
    clientY: number,
  ): [number, number, number] | null {
    const axis = PLANES[name].axis;
    const normal = new THREE.Vector3().setComponent(axis, 1);
    const plane = new THREE.Plane(normal, -through[axis]!);
    const hit = this.ray(clientX, clientY).ray.intersectPlane(plane, new THREE.Vector3());
    if (!hit) {
      // The camera looks from the other side: the line goes both ways.
      const ray = this.ray(clientX, clientY).ray;
      ray.direction.negate();
      const back = ray.intersectPlane(plane, new THREE.Vector3());
      return back ? [back.x, back.y, back.z] : null;
    }
    return [hit.x, hit.y, hit.z];
  }

  /** The leg being drawn. */
  draw(from: readonly number[] | null, to: readonly number[] | null): void {
    this.pencil.visible = Boolean(from && to);
    if (from && to) {
      this.pencil.geometry.dispose();
      this.pencil.geometry = new THREE.BufferGeometry().setFromPoints([
        new THREE.Vector3(...(from as [number, number, number])),
        new THREE.Vector3(...(to as [number, number, number])),
      ]);
    }
    this.ask();
  }
}
