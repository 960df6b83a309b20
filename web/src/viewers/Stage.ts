import * as THREE from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";

export const DIRECTIONS = {
  "at an angle": [-0.55, -0.75, 0.6],
  "from above": [0, -0.0001, 1],
  "from the south": [0, -1, 0],
  "from the west": [-1, 0, 0],
} as const;

/** Kept free at each side of the view, in pixels. */
const ROOM = 36;

export type DirectionName = keyof typeof DIRECTIONS;

/** The one drawing context of the page: browsers give only a few, and take the oldest away for a new one. */
let shared: THREE.WebGLRenderer | null = null;
/** The stage whose picture it shows. */
let showing: Stage | null = null;

/** Names of what draws by computing, where a machine has no graphics chip. */
const COMPUTED = /swiftshader|llvmpipe|software|basic render/i;

function isComputed(): boolean {
  const gl = document.createElement("canvas").getContext("webgl2");
  const told = gl?.getExtension("WEBGL_debug_renderer_info");
  const name = gl && told ? String(gl.getParameter(told.UNMASKED_RENDERER_WEBGL)) : "";
  gl?.getExtension("WEBGL_lose_context")?.loseContext();
  return COMPUTED.test(name);
}

let computed = false;
const screen = () => Math.min(window.devicePixelRatio, 2);
/** Pixels that are drawn for one of the page. Without a graphics chip smooth edges come from smaller ones. */
const fine = () => (computed ? 2 : screen());

function renderer(): THREE.WebGLRenderer {
  if (!shared) {
    computed = isComputed();
    shared = new THREE.WebGLRenderer({ antialias: !computed, alpha: true });
  }
  return shared;
}

/** What moved is at rest when it has not for so long, ms. */
const RESTS = 300;

/**
 * A room with a camera that is turned by hand and fitted to what stands in it. Draws only when something
 * changed.
 */
export abstract class Stage {
  protected renderer: THREE.WebGLRenderer;
  protected scene = new THREE.Scene();
  protected camera = new THREE.OrthographicCamera(-1, 1, 1, -1, -10000, 10000);
  protected controls: OrbitControls;
  private asked = 0;
  private half = 100;
  private watch: ResizeObserver;
  private rest: ReturnType<typeof setTimeout> | undefined;
  /** Of the screen's pixels, how many are drawn while something moves. */
  private share = 1;
  /** Called after each drawing. */
  drawn: () => void = () => {};

  constructor(protected host: HTMLElement) {
    this.renderer = renderer();
    this.grain(fine());
    showing = this;
    host.append(this.renderer.domElement);
    this.renderer.domElement.addEventListener("webglcontextrestored", this.restored);
    this.camera.up.set(0, 0, 1);
    this.controls = new OrbitControls(this.camera, this.renderer.domElement);
    this.controls.enableDamping = false;
    this.controls.addEventListener("change", () => {
      this.moves();
      this.ask();
    });
    this.watch = new ResizeObserver(() => this.resize());
    this.watch.observe(host);
  }

  /** Points in space of what is to be seen, x, y, z in turn. */
  protected abstract seenPoints(): Float32Array;

  dispose(): void {
    cancelAnimationFrame(this.asked);
    clearTimeout(this.rest);
    this.watch.disconnect();
    this.controls.dispose();
    this.renderer.domElement.removeEventListener("webglcontextrestored", this.restored);
    this.renderer.renderLists.dispose();
    // Another stage may have it by now.
    if (showing === this) {
      showing = null;
      this.renderer.domElement.remove();
    }
  }

  private restored = (): void => this.ask();

  protected ask(): void {
    if (!this.asked) this.asked = requestAnimationFrame(() => this.drawNow());
  }

  private grain(ratio: number): void {
    if (this.renderer.getPixelRatio() !== ratio) this.renderer.setPixelRatio(ratio);
  }

  /** What is to be drawn moves. Without a graphics chip it is drawn plain, and smooth once it rests. */
  protected moves(): void {
    if (!computed) return;
    this.grain(this.share * screen());
    clearTimeout(this.rest);
    this.rest = setTimeout(() => {
      this.grain(fine());
      this.ask();
    }, RESTS);
  }

  /** Draws now: what draws for the screen works on it while the page goes on. */
  drawNow(): void {
    cancelAnimationFrame(this.asked);
    this.asked = 0;
    if (showing !== this) return;
    this.renderer.render(this.scene, this.camera);
    this.begin();
    this.drawn();
  }

  /**
   * What draws by computing puts off what it is told until somebody waits for the picture. Asked to say when
   * it is done, it begins: it draws while the page writes the rest.
   */
  private begin(): void {
    const gl = this.renderer.getContext() as WebGL2RenderingContext;
    gl.deleteSync(gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0));
    gl.flush();
  }

  protected resize(): void {
    const [w, h] = [Math.max(this.host.clientWidth, 1), Math.max(this.host.clientHeight, 1)];
    this.renderer.setSize(w, h);
    const aspect = w / h;
    const [x, y] = aspect >= 1 ? [this.half * aspect, this.half] : [this.half, this.half / aspect];
    Object.assign(this.camera, { left: -x, right: x, top: y, bottom: -y });
    this.camera.updateProjectionMatrix();
    this.ask();
  }

  /** What the camera sees, across and up from a point. */
  private seen(from: THREE.Vector3): {
    right: THREE.Vector3;
    up: THREE.Vector3;
    low: THREE.Vector2;
    high: THREE.Vector2;
  } {
    const [right, up] = [new THREE.Vector3(), new THREE.Vector3()];
    this.camera.updateMatrix();
    this.camera.matrix.extractBasis(right, up, new THREE.Vector3());
    const [low, high] = [new THREE.Vector2(1e9, 1e9), new THREE.Vector2(-1e9, -1e9)];
    const points = this.seenPoints();
    const p = new THREE.Vector3();
    for (let i = 0; i < points.length; i += 3) {
      p.set(points[i]!, points[i + 1]!, points[i + 2]!).sub(from);
      const spot = new THREE.Vector2(p.dot(right), p.dot(up));
      low.min(spot);
      high.max(spot);
    }
    return { right, up, low, high };
  }

  private aspect(): number {
    return Math.max(this.host.clientWidth, 1) / Math.max(this.host.clientHeight, 1);
  }

  /** How much more than what it shows a side of the view holds: room for what is written about it. */
  private air(pixels: number): number {
    return Math.max(1.14, pixels / Math.max(pixels - 2 * ROOM, 1));
  }

  /** Fits what stands here into the view: the camera looks at the middle of what it sees. */
  fit(): void {
    const points = this.seenPoints();
    if (points.length < 3) return;
    const box = new THREE.Box3().setFromArray(points);
    const sphere = box.getBoundingSphere(new THREE.Sphere());
    if (!(sphere.radius > 0)) return;
    const away = this.camera.position.clone().sub(this.controls.target).normalize();
    this.camera.position.copy(this.controls.target).add(away);
    this.camera.lookAt(this.controls.target);
    const { right, up, low, high } = this.seen(sphere.center);
    const middle = low.clone().add(high).multiplyScalar(0.5);
    const size = high.clone().sub(low);
    this.controls.target
      .copy(sphere.center)
      .addScaledVector(right, middle.x)
      .addScaledVector(up, middle.y);
    this.camera.position.copy(this.controls.target).addScaledVector(away, sphere.radius * 4);
    const reach = Math.max(sphere.radius * 40, 10000);
    Object.assign(this.camera, { near: -reach, far: reach });
    const aspect = this.aspect();
    const half = Math.max(
      (size.y / 2) * this.air(this.host.clientHeight),
      (size.x / 2 / aspect) * this.air(this.host.clientWidth),
    );
    this.half = aspect >= 1 ? half : half * aspect;
    this.camera.zoom = 1;
    this.controls.update();
    this.resize();
  }

  /** Coarser pictures, for a machine that cannot draw fine ones as fast as they move. */
  swift(on: boolean): void {
    this.share = on ? 0.5 : 1;
    this.grain(on ? 0.5 * screen() : fine());
    this.ask();
  }

  /** Fits again when a change has carried a part out of the view. */
  keepInView(): void {
    const { low, high } = this.seen(this.controls.target);
    const [x, y] = [this.camera.right / this.camera.zoom, this.camera.top / this.camera.zoom];
    if (low.x < -x || low.y < -y || high.x > x || high.y > y) this.fit();
  }

  look(direction: DirectionName): void {
    const away = new THREE.Vector3(...DIRECTIONS[direction]).normalize();
    const r = this.camera.position.distanceTo(this.controls.target) || 1000;
    this.camera.position.copy(this.controls.target).addScaledVector(away, r);
    this.controls.update();
    this.fit();
  }

  /** The ray under a point of the screen. */
  protected ray(clientX: number, clientY: number): THREE.Raycaster {
    const r = this.renderer.domElement.getBoundingClientRect();
    const ray = new THREE.Raycaster();
    ray.setFromCamera(
      new THREE.Vector2(((clientX - r.left) / r.width) * 2 - 1, 1 - ((clientY - r.top) / r.height) * 2),
      this.camera,
    );
    return ray;
  }

  /** Where a point of space is drawn, in pixels of the host. */
  project(at: readonly number[]): [number, number] {
    const p = new THREE.Vector3(at[0], at[1], at[2]).project(this.camera);
    return [((p.x + 1) / 2) * this.host.clientWidth, ((1 - p.y) / 2) * this.host.clientHeight];
  }
}
