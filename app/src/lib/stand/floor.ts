import * as THREE from 'three';
import type { StandColours } from '$lib/settings/theme.svelte.ts';

/** Pixels that the finest lines of the floor are apart at least. */
const LEAST_APART = 26;
/** Cells of the shadow, a side. */
const CELLS = 96;
/** Share of the size of what stands on it, at which height nothing throws a shadow any more. */
const HIGH = 0.22;

/** How many mm lines are apart: 1, 2 or 5 times a power of ten, and some pixels at least; and the stronger ones among them. @param scale mm a pixel */
export function floorSteps(scale: number): { pitch: number; strong: number } {
  const least = Math.max(scale, 1e-12) * LEAST_APART;
  const ten = 10 ** Math.floor(Math.log10(least));
  const digit = [1, 2, 5, 10].find((n) => n * ten >= least * (1 - 1e-9))!;
  return { pitch: digit * ten, strong: digit * ten * (digit === 2 ? 5 : 10) };
}

/** Places that stand on the floor, and where that is. */
export interface Standing {
  /** x, y, z, one after the other, in mm */
  points: readonly ArrayLike<number>[];
  min: readonly [number, number, number];
  max: readonly [number, number, number];
}

/**
 * Darkness by cell of a square of the floor: how much lies over it, and how low.
 * @returns 0 to 1, row by row along Z, and where the square is
 */
export function shadowOn({ points, min, max }: Standing): { cells: Float32Array; x: number; z: number; size: number } {
  const extent = Math.max(max[0] - min[0], max[2] - min[2], 0.35 * (max[1] - min[1]), 1e-9);
  const size = 1.6 * extent;
  const [x, z] = [(min[0] + max[0] - size) / 2, (min[2] + max[2] - size) / 2];
  const high = HIGH * Math.max(extent, max[1] - min[1]);
  const over = new Float32Array(CELLS * CELLS);
  for (const places of points)
    for (let i = 0; i + 2 < places.length; i += 3) {
      const low = 1 - (places[i + 1] - min[1]) / high;
      const [a, b] = [Math.floor((CELLS * (places[i] - x)) / size), Math.floor((CELLS * (places[i + 2] - z)) / size)];
      const cell = b * CELLS + a;
      if (low > 0 && a >= 0 && b >= 0 && a < CELLS && b < CELLS && low > over[cell]) over[cell] = low;
    }
  // few places stand for whole faces: spread widely, then evenly
  let cells: Float32Array = over;
  for (const reach of [3, 4, 4]) cells = blurred(cells, reach);
  let most = 0;
  for (const c of cells) most = Math.max(most, c);
  if (most > 0) cells = cells.map((c) => Math.min(1, (1.25 * c) / most));
  return { cells, x, z, size };
}

/** The mean of the cells round each, first along rows and then across them. */
function blurred(cells: Float32Array, reach: number): Float32Array {
  let from = cells;
  for (const [along, across] of [
    [1, CELLS],
    [CELLS, 1]
  ]) {
    const to = new Float32Array(CELLS * CELLS);
    for (let row = 0; row < CELLS; row++)
      for (let i = 0; i < CELLS; i++) {
        let sum = 0;
        for (let d = -reach; d <= reach; d++) if (i + d >= 0 && i + d < CELLS) sum += from[row * across + (i + d) * along];
        to[row * across + i * along] = sum / (2 * reach + 1);
      }
    from = to;
  }
  return from;
}

const VERTEX = `
  varying vec3 place;
  void main() {
    vec4 world = modelMatrix * vec4(position, 1.0);
    place = world.xyz;
    gl_Position = projectionMatrix * viewMatrix * world;
  }`;

/** Lines of the grid about a pixel wide, however far away; every fifth or tenth is stronger; all fade out, towards the horizon too. */
const FRAGMENT = `
  uniform float pitch; uniform float strong; uniform float reach; uniform vec3 middle; uniform vec3 lineColour; uniform vec3 shadowColour;
  uniform sampler2D shadow; uniform vec3 square; uniform float lines;
  varying vec3 place;
  float grid(float apart) {
    vec2 at = place.xz / apart;
    vec2 wide = fwidth(at);
    vec2 near = abs(fract(at - 0.5) - 0.5) / max(wide, 1e-6);
    vec2 line = (1.0 - min(near, 1.0)) * (1.0 - smoothstep(0.12, 0.4, wide));
    return max(line.x, line.y);
  }
  void main() {
    float away = length(place.xz - middle.xz) / reach;
    vec3 view = normalize(cameraPosition - place);
    float slant = isOrthographic ? 1.0 : smoothstep(0.0, 0.18, abs(view.y));
    float fade = (1.0 - smoothstep(0.25, 1.0, away)) * slant;
    float drawn = lines * fade * max(0.3 * grid(pitch), 0.62 * grid(strong));
    vec2 at = (place.xz - square.xy) / square.z;
    float dark = all(greaterThan(at, vec2(0.0))) && all(lessThan(at, vec2(1.0))) ? 0.42 * texture2D(shadow, at).r : 0.0;
    float alpha = dark + drawn * (1.0 - dark);
    if (alpha < 0.003) discard;
    gl_FragColor = vec4(mix(lineColour, shadowColour, dark / max(alpha, 1e-4)), alpha);
    #include <colorspace_fragment>
  }`;

/** The floor under what is shown: a grid in mm, and a soft shadow where it touches it. */
export class Floor {
  readonly mesh: THREE.Mesh<THREE.PlaneGeometry, THREE.ShaderMaterial>;
  private readonly shadow = new THREE.DataTexture(new Uint8Array(4 * CELLS * CELLS), CELLS, CELLS);
  private standing: readonly unknown[] = [];

  constructor() {
    this.shadow.magFilter = this.shadow.minFilter = THREE.LinearFilter;
    const uniform = <T>(value: T) => ({ value });
    const material = new THREE.ShaderMaterial({
      vertexShader: VERTEX,
      fragmentShader: FRAGMENT,
      transparent: true,
      depthWrite: false,
      side: THREE.DoubleSide,
      uniforms: {
        pitch: uniform(1),
        strong: uniform(10),
        reach: uniform(100),
        lines: uniform(1),
        middle: uniform(new THREE.Vector3()),
        lineColour: uniform(new THREE.Color()),
        shadowColour: uniform(new THREE.Color()),
        shadow: uniform(this.shadow),
        square: uniform(new THREE.Vector3(0, 0, 1))
      }
    });
    this.mesh = new THREE.Mesh(new THREE.PlaneGeometry(2, 2).rotateX(-Math.PI / 2), material);
    this.mesh.renderOrder = -1;
    this.mesh.frustumCulled = false;
  }

  set visible(on: boolean) {
    this.mesh.material.uniforms.lines.value = on ? 1 : 0;
  }

  colour({ floor, shade }: StandColours): void {
    const { lineColour, shadowColour } = this.mesh.material.uniforms;
    lineColour.value.set(floor);
    shadowColour.value.set(shade);
  }

  /** Puts it under what stands on it; a shadow is thrown again only where that is other than before. */
  under(standing: Standing | undefined): void {
    this.mesh.visible = standing !== undefined;
    if (!standing) return;
    const { points, min, max } = standing;
    const same = points.length === this.standing.length - 1 && points.every((p, i) => p === this.standing[i]) && this.standing.at(-1) === min[1];
    if (same) return;
    this.standing = [...points, min[1]];
    this.mesh.position.y = min[1];
    const { cells, x, z, size } = shadowOn(standing);
    const { data } = this.shadow.image as { data: Uint8Array };
    cells.forEach((dark, i) => (data[4 * i] = 255 * dark));
    this.shadow.needsUpdate = true;
    const { uniforms } = this.mesh.material;
    uniforms.square.value.set(x, z, size);
    uniforms.middle.value.set((min[0] + max[0]) / 2, min[1], (min[2] + max[2]) / 2);
  }

  /** Draws its lines as apart as fits. @param scale mm a pixel in the middle of the view @param away mm the eye is away from there */
  pose(scale: number, away: number): void {
    const { pitch, strong } = floorSteps(scale);
    const { uniforms } = this.mesh.material;
    uniforms.pitch.value = pitch;
    uniforms.strong.value = strong;
    uniforms.reach.value = 2.4 * away;
    this.mesh.scale.set(6 * away, 1, 6 * away);
    this.mesh.position.setX(uniforms.middle.value.x).setZ(uniforms.middle.value.z);
  }
}
