import { type TriangleBvh } from '../reference/triangle-bvh.ts';
import { type Ramp } from '../select/falloff.ts';
import { BrushTouch } from './brush-touch.ts';
import { type Dab } from './dabs.ts';
import { HELD } from './held-lines.ts';
import { EvenPasses, facesAt, type MovingSurface, type Touched } from './passes.ts';
import { putBack, surfaceTree } from './surface-tree.ts';
import { normalAt } from './vertex-net.ts';
import { sixfoldVolume, withVolumeKept } from './volume.ts';

/** The brushes: along the surface with the volume kept; plain smoothing; pull; along the normals; slide on the surface; towards the stroke; onto a plane. */
export const brushKinds = ['relax', 'smooth', 'drag', 'raise', 'glide', 'gather', 'level'] as const;
export type BrushKind = (typeof brushKinds)[number];

/** How a brush works. */
export interface BrushSettings {
  kind: BrushKind;
  /** mm */
  radius: number;
  /** 0 to 1 */
  strength: number;
  /** all vertices in the direction of the touch, those of other sides among them; otherwise what hangs together and looks the same way */
  through: boolean;
  /** how much a vertex may follow, 0 to 1, beside what is held */
  freedom(v: number): number;
  /** how vertices follow with their distance from a touch; left out: eased */
  ramp?: Ramp;
  /** images of vertices in a mirror across an axis (0, 1 or 2) at 0, that follow them */
  mirrored?: { axis: number; imageOf: ReadonlyMap<number, number> };
}

/** Share of the radius that the strongest touch raises the surface by. */
const RAISED = 0.06;
/** Share of the way to the middle that the strongest touch gathers by. */
const GATHERED = 0.25;

/** A stroke of a brush over a surface: touches come one after the other, and each changes the places of what lies under it. */
export class BrushStroke {
  /** volume that has come in under the surface, mm3 */
  gained = 0;
  private readonly normal = new Float64Array(3);
  private readonly touch: BrushTouch;
  /** what the first touch took hold of */
  private grabbed?: Touched;
  /** the surface as it was, where brushes slide on it */
  private sliding?: TriangleBvh;

  constructor(
    private readonly surface: MovingSurface,
    private readonly settings: BrushSettings
  ) {
    const { kind } = surface.lines;
    const { radius, through, ramp } = settings;
    this.touch = new BrushTouch(surface, { radius, through, ramp, follows: (v) => (kind[v] === HELD ? 0 : settings.freedom(v)) });
    if (settings.kind === 'glide') this.sliding = surfaceTree(surface.net, surface.positions);
  }

  /** Works at a place. @returns vertices that may lie elsewhere */
  dab(dab: Dab): Int32Array {
    const { kind } = this.settings;
    const pulls = kind === 'drag' || kind === 'glide';
    const touched = pulls && this.grabbed ? this.grabbed : this.touch.at(dab);
    if (pulls) this.grabbed ??= touched;
    if (touched.vertices.length === 0) return touched.vertices;
    const { net, positions: p } = this.surface;
    const all = this.withImages(touched.vertices);
    const faces = facesAt(net, all);
    const before = sixfoldVolume(net, p, faces);
    this.work(touched, dab);
    this.placeImages(touched.vertices, dab.at);
    this.gained += (sixfoldVolume(net, p, faces) - before) / 6;
    return all;
  }

  private work(touched: Touched, { at, by, pressure }: Dab): void {
    const { surface, settings } = this;
    const { kind, radius, strength } = settings;
    const amount = strength * Math.min(1, Math.abs(pressure));
    const passes = () => new EvenPasses(surface, touched);
    if (kind === 'relax') {
      const work = passes();
      withVolumeKept(surface, touched, work.faces, () => work.relax(amount, true));
    } else if (kind === 'smooth') passes().smooth(amount);
    else if (kind === 'drag') this.move(touched, (i) => [by[0], by[1], by[2], strength * touched.weights[i]]);
    else if (kind === 'glide') passes().guarded(() => this.slide(touched, by, strength));
    else if (kind === 'raise') this.raise(touched, Math.sign(pressure) * amount * RAISED * radius);
    else if (kind === 'gather') passes().guarded(() => this.gather(touched, at, Math.sign(pressure) * amount * GATHERED));
    else this.level(touched, amount);
  }

  /** Moves vertices each by a step and its share. @param stepOf x, y, z and the share of one of them, by its number */
  private move({ vertices }: Touched, stepOf: (i: number, v: number) => readonly [number, number, number, number]): void {
    const { positions: p } = this.surface;
    vertices.forEach((v, i) => {
      const [x, y, z, share] = stepOf(i, v);
      p[3 * v] += share * x;
      p[3 * v + 1] += share * y;
      p[3 * v + 2] += share * z;
    });
  }

  private raise(touched: Touched, by: number): void {
    const { net, positions: p } = this.surface;
    // all normals before anything moves
    const normals = new Float64Array(3 * touched.vertices.length);
    touched.vertices.forEach((v, i) => {
      normalAt(net, p, v, this.normal);
      normals.set(this.normal, 3 * i);
    });
    this.move(touched, (i) => [normals[3 * i], normals[3 * i + 1], normals[3 * i + 2], by * touched.weights[i]]);
  }

  private slide(touched: Touched, by: readonly number[], share: number): void {
    const { net, lines, positions: p } = this.surface;
    this.move(touched, (i, v) => {
      normalAt(net, p, v, this.normal);
      const off = by[0] * this.normal[0] + by[1] * this.normal[1] + by[2] * this.normal[2];
      return [by[0] - off * this.normal[0], by[1] - off * this.normal[1], by[2] - off * this.normal[2], share * touched.weights[i]];
    });
    putBack(p, touched.vertices, lines, this.sliding!);
  }

  private gather(touched: Touched, at: readonly number[], share: number): void {
    const { net, positions: p } = this.surface;
    this.move(touched, (i, v) => {
      const way = [0, 1, 2].map((k) => at[k] - p[3 * v + k]);
      normalAt(net, p, v, this.normal);
      const off = way[0] * this.normal[0] + way[1] * this.normal[1] + way[2] * this.normal[2];
      return [way[0] - off * this.normal[0], way[1] - off * this.normal[1], way[2] - off * this.normal[2], share * touched.weights[i]];
    });
  }

  /** Onto the plane through what is touched, as it lies and looks in the mean. */
  private level(touched: Touched, amount: number): void {
    const { net, positions: p } = this.surface;
    const [middle, looks, own] = [new Float64Array(3), new Float64Array(3), this.normal];
    let all = 0;
    touched.vertices.forEach((v, i) => {
      const w = touched.weights[i];
      normalAt(net, p, v, own);
      all += w;
      for (let k = 0; k < 3; k++) {
        middle[k] += w * p[3 * v + k];
        looks[k] += w * own[k];
      }
    });
    const long = Math.hypot(...looks);
    if (long === 0) return;
    for (let k = 0; k < 3; k++) {
      middle[k] /= all;
      looks[k] /= long;
    }
    this.move(touched, (i, v) => {
      const off = [0, 1, 2].reduce((sum, k) => sum + (middle[k] - p[3 * v + k]) * looks[k], 0);
      return [off * looks[0], off * looks[1], off * looks[2], amount * touched.weights[i]];
    });
  }

  /** Some vertices, and those that follow them as their images. */
  private withImages(vertices: Int32Array): Int32Array {
    const { mirrored } = this.settings;
    if (!mirrored) return vertices;
    const images = [...vertices].flatMap((v) => mirrored.imageOf.get(v) ?? []);
    return Int32Array.from(new Set([...vertices, ...images]));
  }

  /** Puts images in the mirror where the vertices went; where both were touched, those on the touch's side lead. */
  private placeImages(vertices: Int32Array, at: readonly number[]): void {
    const { mirrored } = this.settings;
    if (!mirrored) return;
    const { positions: p } = this.surface;
    const { axis, imageOf } = mirrored;
    const touched = new Set(vertices);
    const side = at[axis] < 0 ? -1 : 1;
    for (const v of vertices) {
      const w = imageOf.get(v);
      // of two that are both touched the one on the touch's side leads
      if (w === undefined || (w !== v && side * p[3 * v + axis] < 0 && touched.has(w))) continue;
      for (let k = 0; k < 3; k++) p[3 * w + k] = k !== axis ? p[3 * v + k] : w === v ? 0 : -p[3 * v + k];
    }
  }
}
