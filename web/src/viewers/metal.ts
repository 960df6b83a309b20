import * as THREE from "three";

const VERTEX = `
varying vec3 at;
void main() {
  vec4 world = modelMatrix * vec4(position, 1.0);
  at = world.xyz;
  gl_Position = projectionMatrix * viewMatrix * world;
}`;

// Faces are flat: which way they look is how their place changes from one pixel to the next.
const FRAGMENT = `
uniform vec3 paint;
uniform float glow;
varying vec3 at;
const vec3 SUN = vec3(-0.3114, -0.5449, 0.7785);
const vec3 GROUND = vec3(0.266, 0.240, 0.193);
void main() {
  vec3 n = normalize(cross(dFdx(at), dFdy(at)));
  vec3 light = 0.60 * mix(GROUND, vec3(1.0), 0.5 + 0.5 * n.z) + 0.46 * max(dot(n, SUN), 0.0);
  gl_FragColor = vec4(paint * mix(sqrt(light), vec3(1.0), glow), 1.0);
}`;

/**
 * Metal in daylight: a warm ground below, the sky above, the sun from the south-west. Light is mixed as a
 * screen shows it, by roots: a machine without a graphics chip draws this twice as fast as what renders
 * materials.
 */
export class Metal extends THREE.ShaderMaterial {
  /** `glow`: the share of its colour that it has in the dark. */
  constructor(color: string, glow = 0, side: THREE.Side = THREE.FrontSide) {
    super({
      uniforms: {
        paint: { value: new THREE.Color(color).convertLinearToSRGB() },
        glow: { value: glow },
      },
      vertexShader: VERTEX,
      fragmentShader: FRAGMENT,
      side,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    });
  }
}
