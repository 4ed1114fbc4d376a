import type * as THREE from 'three';
import type { Eye } from './eye.ts';

/** Triangles of a drawn surface, and the element each belongs to. */
export interface IdSurface {
  positions: ArrayLike<number>;
  /** three points a triangle; missing: points 3t to 3t + 2 */
  index?: ArrayLike<number>;
  triangles: number;
  /** id of the face that a triangle belongs to; negative for what only hides others */
  faceOf(triangle: number): number;
}

/** No face is seen there. */
const NOTHING = -1;
/** Something is seen there that has no id. */
const OTHER = -2;

/** A point of clip space, and how far it lies on the kept side of the section. */
type ClipPoint = [x: number, y: number, z: number, w: number, section: number];

/**
 * Which face is seen at each pixel of the stand: triangles are drawn by their ids into a buffer with depth, as the graphics card
 * draws them (Catmull 1974), so that what a person sees of a face is known exactly.
 */
export class IdBuffer {
  readonly width: number;
  readonly height: number;
  private readonly ids: Int32Array;
  private readonly depths: Float32Array;
  /** faces seen at a pixel at least, or that are smaller than one and not hidden */
  readonly seen = new Set<number>();
  private readonly matrix: ArrayLike<number>;

  constructor(eye: Eye, surfaces: readonly IdSurface[]) {
    const { clientWidth, clientHeight } = eye.host;
    [this.width, this.height] = [Math.max(1, clientWidth), Math.max(1, clientHeight)];
    this.ids = new Int32Array(this.width * this.height).fill(NOTHING);
    this.depths = new Float32Array(this.width * this.height).fill(Infinity);
    eye.camera.updateMatrixWorld();
    this.matrix = eye.camera.projectionMatrix.clone().multiply(eye.camera.matrixWorldInverse).elements;
    const small: { face: number; at: ClipPoint }[] = [];
    for (const surface of surfaces) this.draw(surface, eye.section, small);
    for (const id of this.ids) if (id >= 0) this.seen.add(id);
    for (const { face, at } of small) if (!this.seen.has(face) && this.isInFront(...this.toPixel(at))) this.seen.add(face);
  }

  /** The face seen at a pixel; nothing where there is none. */
  faceAt(x: number, y: number): number | undefined {
    const [i, j] = [Math.floor(x), Math.floor(y)];
    if (i < 0 || j < 0 || i >= this.width || j >= this.height) return undefined;
    const id = this.ids[j * this.width + i];
    return id >= 0 ? id : undefined;
  }

  /** Faces seen in an area. */
  facesIn(area: (x: number, y: number) => boolean): Set<number> {
    const found = new Set<number>();
    for (let j = 0, k = 0; j < this.height; j++)
      for (let i = 0; i < this.width; i++, k++) if (this.ids[k] >= 0 && !found.has(this.ids[k]) && area(i + 0.5, j + 0.5)) found.add(this.ids[k]);
    return found;
  }

  /** Whether a point is seen: one of its own faces is, at its pixel or beside it, or nothing lies before it. */
  sees(p: readonly [number, number, number], own: ReadonlySet<number>): boolean {
    const at = this.toPixel(this.toClip(p[0], p[1], p[2], 0));
    const [x, y] = [Math.floor(at[0]), Math.floor(at[1])];
    for (let j = y - 1; j <= y + 1; j++)
      for (let i = x - 1; i <= x + 1; i++) {
        if (i < 0 || j < 0 || i >= this.width || j >= this.height) continue;
        if (own.has(this.ids[j * this.width + i])) return true;
      }
    return this.isInFront(...at);
  }

  private isInFront(x: number, y: number, z: number): boolean {
    const [i, j] = [Math.floor(x), Math.floor(y)];
    if (i < 0 || j < 0 || i >= this.width || j >= this.height) return false;
    return z <= this.depths[j * this.width + i] + 1e-6;
  }

  private toClip(x: number, y: number, z: number, section: number): ClipPoint {
    const m = this.matrix;
    return [
      m[0] * x + m[4] * y + m[8] * z + m[12],
      m[1] * x + m[5] * y + m[9] * z + m[13],
      m[2] * x + m[6] * y + m[10] * z + m[14],
      m[3] * x + m[7] * y + m[11] * z + m[15],
      section
    ];
  }

  private toPixel([x, y, z, w]: ClipPoint): [number, number, number] {
    return [((x / w + 1) / 2) * this.width, ((1 - y / w) / 2) * this.height, z / w];
  }

  private draw(surface: IdSurface, section: THREE.Plane | undefined, small: { face: number; at: ClipPoint }[]): void {
    const { positions, index } = surface;
    for (let t = 0; t < surface.triangles; t++) {
      let polygon: ClipPoint[] = [];
      for (let k = 0; k < 3; k++) {
        const i = 3 * (index ? index[3 * t + k] : 3 * t + k);
        const [x, y, z] = [positions[i], positions[i + 1], positions[i + 2]];
        polygon.push(this.toClip(x, y, z, section ? section.normal.x * x + section.normal.y * y + section.normal.z * z + section.constant : 0));
      }
      if (polygon.some((p) => p[2] + p[3] < 0)) polygon = clipped(polygon, (p) => p[2] + p[3]);
      if (polygon.some((p) => p[4] < 0)) polygon = clipped(polygon, (p) => p[4]);
      const face = surface.faceOf(t);
      const points = polygon.map((p) => this.toPixel(p));
      let drawn = false;
      for (let k = 2; k < points.length; k++) drawn = this.drawTriangle(points[0], points[k - 1], points[k], face < 0 ? OTHER : face) || drawn;
      if (!drawn && face >= 0 && isSmall(points)) small.push({ face, at: middle(polygon) });
    }
  }

  /** @returns whether it covers the middle of a pixel */
  private drawTriangle(
    [ax, ay, az]: [number, number, number],
    [bx, by, bz]: [number, number, number],
    [cx, cy, cz]: [number, number, number],
    id: number
  ): boolean {
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (Math.abs(area) < 1e-9) return false;
    const { width, height, ids, depths } = this;
    const fromY = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
    const toY = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
    const fromX = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
    const toX = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
    let drawn = false;
    for (let j = fromY; j <= toY; j++)
      for (let i = fromX; i <= toX; i++) {
        const [x, y] = [i + 0.5, j + 0.5];
        // barycentric coordinates; outside one of them is below 0
        const b = ((x - ax) * (cy - ay) - (y - ay) * (cx - ax)) / area;
        const c = ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / area;
        if (b < 0 || c < 0 || b + c > 1) continue;
        drawn = true;
        const z = az + b * (bz - az) + c * (cz - az);
        const k = j * width + i;
        if (z < depths[k]) {
          depths[k] = z;
          ids[k] = id;
        }
      }
    return drawn;
  }
}

/** The part of a polygon where a linear function is not below 0 (Sutherland, Hodgman 1974). */
function clipped(polygon: ClipPoint[], side: (p: ClipPoint) => number): ClipPoint[] {
  return polygon.flatMap((p, i) => {
    const q = polygon[(i + 1) % polygon.length];
    const [a, b] = [side(p), side(q)];
    const kept = a >= 0 ? [p] : [];
    if (a >= 0 === b >= 0) return kept;
    const t = a / (a - b);
    return [...kept, p.map((c, k) => c + t * (q[k] - c)) as ClipPoint];
  });
}

/** Whether a polygon is so small that it may cover no middle of a pixel, and is seen from the front, not edge-on. */
function isSmall(points: [number, number, number][]): boolean {
  if (points.length < 3) return false;
  const [xs, ys] = [0, 1].map((k) => points.map((p) => p[k]));
  const [w, h] = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
  if (w > 1.5 || h > 1.5) return false;
  const [[ax, ay], [bx, by], [cx, cy]] = points;
  return Math.abs((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) > 0.05 * Math.max(w, h) ** 2;
}

const middle = (polygon: ClipPoint[]): ClipPoint =>
  [0, 1, 2, 3, 4].map((k) => polygon.reduce((sum, p) => sum + p[k] / polygon.length, 0)) as ClipPoint;

/** What was seen last: drawn anew only where the view or what is drawn is another one. */
export class LastSeen {
  private key = '';
  private buffer: IdBuffer | undefined;

  /** @param drawn tells what is drawn from what was before @param surfaces what is drawn */
  of(eye: Eye, drawn: number, surfaces: () => readonly IdSurface[]): IdBuffer {
    const { camera, section, host } = eye;
    const view = [camera.matrixWorld.elements, camera.projectionMatrix.elements, section?.normal.toArray(), section?.constant];
    const key = [drawn, host.clientWidth, host.clientHeight, ...view].join(' ');
    if (key !== this.key) [this.key, this.buffer] = [key, new IdBuffer(eye, surfaces())];
    return this.buffer!;
  }
}
