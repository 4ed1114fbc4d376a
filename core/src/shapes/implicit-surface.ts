import { evenFaceStart, type PolygonMesh } from '../mesh/polygon-mesh.ts';

/** Distance to a shape, negative inside; may be off by a factor of two, not by more. */
export type Distance = (x: number, y: number, z: number) => number;

/** Blends two shapes over a width of about k (Quilez 2013, polynomial). */
export function blend(a: number, b: number, k: number): number {
  const h = Math.max(0, k - Math.abs(a - b)) / k;
  return Math.min(a, b) - (h * h * k) / 4;
}

/** Takes b out of a with a rounded edge. */
export const carve = (a: number, b: number, k: number): number => -blend(-a, b, k);

type Point = readonly [number, number, number];

export function ball(x: number, y: number, z: number, c: Point, r: number): number {
  return Math.hypot(x - c[0], y - c[1], z - c[2]) - r;
}

/** A rod from a to b whose radius goes from r to s. */
export function rod(x: number, y: number, z: number, a: Point, b: Point, r: number, s: number): number {
  const bx = b[0] - a[0],
    by = b[1] - a[1],
    bz = b[2] - a[2];
  const px = x - a[0],
    py = y - a[1],
    pz = z - a[2];
  const t = Math.min(1, Math.max(0, (px * bx + py * by + pz * bz) / (bx * bx + by * by + bz * bz)));
  return Math.sqrt((px - t * bx) ** 2 + (py - t * by) ** 2 + (pz - t * bz) ** 2) - (r + t * (s - r));
}

/** Roughly the distance to an ellipsoid. */
export function egg(x: number, y: number, z: number, c: Point, r: Point): number {
  const qx = (x - c[0]) / r[0],
    qy = (y - c[1]) / r[1],
    qz = (z - c[2]) / r[2];
  const k0 = Math.hypot(qx, qy, qz);
  const k1 = Math.hypot(qx / r[0], qy / r[1], qz / r[2]);
  return k1 === 0 ? -Math.min(...r) : (k0 * (k0 - 1)) / k1;
}

const BLOCK = 8;

/**
 * Quads of the surface where `distance` is zero: one vertex a grid cell that the surface passes, faces between cells
 * round each crossed grid edge (surface nets, Gibson 1998); then every vertex steps onto the surface along the gradient.
 * @param low lower corner of the region
 * @param cell edge of a grid cell; quads get about that size
 */
export function implicitQuads(distance: Distance, low: Point, high: Point, cell: number): PolygonMesh {
  const grid = new Grid(distance, low, high, cell);
  const { positions, quads } = grid.surface();
  for (let round = 0; round < 3; round++) stepOnto(distance, positions, cell);
  return { positions, faceVertices: quads, faceStart: evenFaceStart(quads.length / 4, 4) };
}

/** The same in triangles: quads as they were before the vertices' last steps, cut along their shorter diagonals. */
export function implicitSurface(distance: Distance, low: Point, high: Point, cell: number): PolygonMesh {
  const grid = new Grid(distance, low, high, cell);
  const { positions, quads } = grid.surface();
  const triangles = cutShort(positions, quads);
  for (let round = 0; round < 3; round++) stepOnto(distance, positions, cell);
  return { positions, faceVertices: triangles, faceStart: evenFaceStart(triangles.length / 3, 3) };
}

/** Triangles of quads, cut along their shorter diagonals. */
function cutShort(p: Float64Array, quads: Int32Array): Int32Array {
  const triangles: number[] = [];
  const apart = (a: number, b: number) => (p[3 * a] - p[3 * b]) ** 2 + (p[3 * a + 1] - p[3 * b + 1]) ** 2 + (p[3 * a + 2] - p[3 * b + 2]) ** 2;
  for (let i = 0; i < quads.length; i += 4) {
    const [a, b, d, e] = quads.subarray(i, i + 4);
    if (apart(a, d) <= apart(b, e)) triangles.push(a, b, d, a, d, e);
    else triangles.push(a, b, e, b, d, e);
  }
  return Int32Array.from(triangles);
}

function stepOnto(distance: Distance, p: Float64Array, cell: number): void {
  const e = 0.05 * cell;
  for (let i = 0; i < p.length; i += 3) {
    const [x, y, z] = [p[i], p[i + 1], p[i + 2]];
    const gx = (distance(x + e, y, z) - distance(x - e, y, z)) / (2 * e);
    const gy = (distance(x, y + e, z) - distance(x, y - e, z)) / (2 * e);
    const gz = (distance(x, y, z + e) - distance(x, y, z - e)) / (2 * e);
    const step = distance(x, y, z) / Math.max(0.25, gx * gx + gy * gy + gz * gz);
    const limited = Math.max(-0.3 * cell, Math.min(0.3 * cell, step));
    p[i] -= limited * gx;
    p[i + 1] -= limited * gy;
    p[i + 2] -= limited * gz;
  }
}

class Grid {
  private readonly nx: number;
  private readonly ny: number;
  private readonly nz: number;
  private readonly values: Float32Array;
  private readonly vertexAt: Int32Array;
  private positions: number[] = [];

  constructor(
    private readonly distance: Distance,
    private readonly low: Point,
    high: Point,
    private readonly cell: number
  ) {
    const count = (k: number) => BLOCK * Math.ceil((high[k] - low[k]) / cell / BLOCK) + 1;
    this.nx = count(0);
    this.ny = count(1);
    this.nz = count(2);
    this.values = new Float32Array(this.nx * this.ny * this.nz).fill(NaN);
    this.vertexAt = new Int32Array(this.values.length).fill(-1);
  }

  private value(i: number, j: number, k: number): number {
    const at = (k * this.ny + j) * this.nx + i;
    let v = this.values[at];
    if (Number.isNaN(v)) {
      v = this.distance(this.low[0] + i * this.cell, this.low[1] + j * this.cell, this.low[2] + k * this.cell);
      this.values[at] = v;
    }
    return v;
  }

  surface(): { positions: Float64Array; quads: Int32Array } {
    const cells: number[] = [];
    const reach = BLOCK * this.cell * 1.75;
    for (let k = 0; k + 1 < this.nz; k += BLOCK)
      for (let j = 0; j + 1 < this.ny; j += BLOCK)
        for (let i = 0; i + 1 < this.nx; i += BLOCK)
          if (Math.abs(this.value(i + BLOCK / 2, j + BLOCK / 2, k + BLOCK / 2)) < reach) this.scanBlock(i, j, k, cells);
    return { positions: Float64Array.from(this.positions), quads: Int32Array.from(this.faces(cells)) };
  }

  private scanBlock(i0: number, j0: number, k0: number, cells: number[]): void {
    for (let k = k0; k < k0 + BLOCK; k++)
      for (let j = j0; j < j0 + BLOCK; j++) for (let i = i0; i < i0 + BLOCK; i++) if (this.placeVertex(i, j, k)) cells.push(i, j, k);
  }

  /** Puts a vertex in the mean of the crossings of a cell's edges. */
  private placeVertex(i: number, j: number, k: number): boolean {
    const v = [0, 1, 2, 3, 4, 5, 6, 7].map((c) => this.value(i + (c & 1), j + ((c >> 1) & 1), k + (c >> 2)));
    let count = 0;
    const sum = [0, 0, 0];
    for (let c = 0; c < 8; c++)
      for (const bit of [1, 2, 4]) {
        const d = c | bit;
        if (d === c || v[c] < 0 === v[d] < 0) continue;
        const t = v[c] / (v[c] - v[d]);
        sum[0] += (c & 1) + (bit === 1 ? t : 0);
        sum[1] += ((c >> 1) & 1) + (bit === 2 ? t : 0);
        sum[2] += (c >> 2) + (bit === 4 ? t : 0);
        count++;
      }
    if (count === 0) return false;
    this.vertexAt[(k * this.ny + j) * this.nx + i] = this.positions.length / 3;
    [i, j, k].forEach((at, axis) => this.positions.push(this.low[axis] + (at + sum[axis] / count) * this.cell));
    return true;
  }

  /** A quad round every grid edge that starts in one of the cells and is crossed. */
  private faces(cells: number[]): number[] {
    const quads: number[] = [];
    const step = [1, this.nx, this.nx * this.ny];
    for (let c = 0; c < cells.length; c += 3) {
      const at = [cells[c], cells[c + 1], cells[c + 2]];
      const here = (at[2] * this.ny + at[1]) * this.nx + at[0];
      for (let axis = 0; axis < 3; axis++) {
        const [u, w] = [(axis + 1) % 3, (axis + 2) % 3];
        if (at[u] === 0 || at[w] === 0) continue;
        const inside = this.values[here] < 0;
        if (inside === this.values[here + step[axis]] < 0) continue;
        const ring = [here, here - step[u], here - step[u] - step[w], here - step[w]].map((cell) => this.vertexAt[cell]);
        if (!inside) ring.reverse();
        quads.push(...ring);
      }
    }
    return quads;
  }
}
