import { sortInSpace } from '../numeric/space-order.ts';
import { boxDistance2, boxEntry } from './boxes.ts';

/** Triangles in a leaf at most; its number is kept in `LEAF_BITS` bits. */
const [LEAF, LEAF_BITS] = [6, 3];
/** More triangles than so many leaves' that lie in the same cell of the grid that sorts them are sorted by a grid of their own. */
const CROWDED = 8;

/**
 * Tells the triangles that look along a direction, for closest points that are not to jump to another side.
 * @param normals unit normals by triangle
 * @param least cosine between the two
 */
export const lookingAlong =
  (normals: ArrayLike<number>, direction: ArrayLike<number>, least: number) =>
  (t: number): boolean =>
    normals[3 * t] * direction[0] + normals[3 * t + 1] * direction[1] + normals[3 * t + 2] * direction[2] > least;

/** Where on a triangle mesh the closest point was found. */
export interface SurfacePoint {
  triangle: number;
  /** squared distance */
  distance2: number;
  x: number;
  y: number;
  z: number;
  /** barycentric weights of the triangle's second and third corner */
  b: number;
  c: number;
}

/** Where a ray meets a triangle mesh. */
export interface RayHit {
  triangle: number;
  /** along the ray, in lengths of its direction */
  distance: number;
  /** barycentric weights of the triangle's second and third corner */
  b: number;
  c: number;
}

/** What is built over some triangles, as plain data that can be handed to another thread. */
export interface PlainBvh {
  order: Int32Array;
  box: Float64Array;
  part: Int32Array;
}

/**
 * A tree of boxes over triangles for closest points and rays, in flat arrays: triangles are sorted by their place on a curve through space, and
 * parted where it leaves a cell (Lauterbach and others 2009). Slot 0 is the whole, 2i + 1 and 2i + 2 are both parts of inner node i; a slot
 * has its box in `box[6 slot ..]`, and in `part[slot]` the number of its inner node, or below 0 its leaf.
 */
export class TriangleBvh {
  /** triangles as the leaves have them, one after the other */
  private readonly order: Int32Array;
  private box: Float64Array;
  private part: Int32Array;
  private inner = 0;
  /** room for the parts left beside a way down: 30 bits of a cell, of a few grids within each other at most */
  private readonly stack = new Int32Array(256);
  private readonly stackDistance = new Float64Array(256);
  private readonly own = surfacePoint();

  /** @param built what `plain` told of the same triangles: nothing is built then */
  constructor(
    readonly positions: Float64Array,
    readonly triangles: Uint32Array | Int32Array,
    built?: PlainBvh
  ) {
    if (built) {
      ({ order: this.order, box: this.box, part: this.part } = built);
      return;
    }
    const total = triangles.length / 3;
    this.order = new Int32Array(total);
    for (let t = 0; t < total; t++) this.order[t] = t;
    this.box = new Float64Array(6 * (total + 1));
    this.part = new Int32Array(total + 1);
    if (total > 0) this.build(0, 0, total, this.sorted(0, total), 0);
  }

  /** What was built; shares its arrays. */
  plain(): PlainBvh {
    const { order, box, part } = this;
    return { order, box, part };
  }

  /** The same tree over other places of the vertices, with boxes round these. */
  followed(positions: Float64Array): PlainBvh {
    const { order, part, triangles } = this;
    const made = new TriangleBvh(positions, triangles, { order, part, box: new Float64Array(this.box.length) });
    made.bound(0);
    return made.plain();
  }

  /** Puts boxes round what lies below a slot. */
  private bound(slot: number): void {
    const { part, order } = this;
    if (order.length === 0) return;
    const node = part[slot];
    if (node < 0) {
      const leaf = ~node;
      const from = leaf >> LEAF_BITS;
      return this.boundTriangles(slot, from, from + (leaf & ((1 << LEAF_BITS) - 1)));
    }
    this.bound(2 * node + 1);
    this.bound(2 * node + 2);
    this.boundParts(slot, 2 * node + 1);
  }

  private boundParts(slot: number, left: number): void {
    const { box } = this;
    for (let k = 0, a = 6 * left, b = a + 6; k < 3; k++, a++, b++) {
      box[6 * slot + k] = Math.min(box[a], box[b]);
      box[6 * slot + 3 + k] = Math.max(box[a + 3], box[b + 3]);
    }
  }

  /**
   * Where a ray first meets the triangles, from either side.
   * @param origin,direction x, y, z each; the direction of any length
   * @param accepts leaves out triangles
   * @returns nothing where it meets none
   */
  raycast(origin: ArrayLike<number>, direction: ArrayLike<number>, accepts?: (triangle: number) => boolean): RayHit | undefined {
    const { stack, stackDistance, box, part, order } = this;
    if (order.length === 0) return undefined;
    const inverse = [1 / direction[0], 1 / direction[1], 1 / direction[2]];
    const hit: RayHit = { triangle: -1, distance: Infinity, b: 0, c: 0 };
    let top = 0;
    stack[0] = part[0];
    stackDistance[0] = boxEntry(box, 0, origin, inverse);
    while (top >= 0) {
      const node = stack[top];
      if (stackDistance[top--] >= hit.distance) continue;
      if (node < 0) {
        const leaf = ~node;
        const from = leaf >> LEAF_BITS;
        for (let i = from, end = from + (leaf & ((1 << LEAF_BITS) - 1)); i < end; i++) this.meet(order[i], origin, direction, hit, accepts);
        continue;
      }
      const slot = 2 * node + 1;
      const [left, right] = [boxEntry(box, 6 * slot, origin, inverse), boxEntry(box, 6 * slot + 6, origin, inverse)];
      const nearer = left <= right ? slot : slot + 1;
      // both are looked at when they come off the stack, the nearer one first
      stack[++top] = part[2 * slot + 1 - nearer];
      stackDistance[top] = Math.max(left, right);
      stack[++top] = part[nearer];
      stackDistance[top] = Math.min(left, right);
    }
    return hit.triangle < 0 ? undefined : hit;
  }

  /** Moeller and Trumbore 1997: where a ray meets a triangle, if that is nearer than what it has met. */
  private meet(t: number, origin: ArrayLike<number>, d: ArrayLike<number>, hit: RayHit, accepts?: (triangle: number) => boolean): void {
    const { positions: p, triangles } = this;
    const [a, b, c] = [3 * triangles[3 * t], 3 * triangles[3 * t + 1], 3 * triangles[3 * t + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const [px, py, pz] = [d[1] * vz - d[2] * vy, d[2] * vx - d[0] * vz, d[0] * vy - d[1] * vx];
    const det = ux * px + uy * py + uz * pz;
    if (det === 0) return;
    const [sx, sy, sz] = [origin[0] - p[a], origin[1] - p[a + 1], origin[2] - p[a + 2]];
    const second = (sx * px + sy * py + sz * pz) / det;
    if (second < 0 || second > 1) return;
    const [qx, qy, qz] = [sy * uz - sz * uy, sz * ux - sx * uz, sx * uy - sy * ux];
    const third = (d[0] * qx + d[1] * qy + d[2] * qz) / det;
    if (third < 0 || second + third > 1) return;
    const distance = (vx * qx + vy * qy + vz * qz) / det;
    if (distance < 0 || distance >= hit.distance || (accepts && !accepts(t))) return;
    Object.assign(hit, { triangle: t, distance, b: second, c: third });
  }

  /** Distance of each point (x, y, z) to the triangles. */
  distances(points: Float64Array): Float64Array {
    return this.eachClosest(points, ({ distance2 }) => Math.sqrt(distance2));
  }

  /** A number for each point (x, y, z), of the point on the triangles that is closest to it; neighbours are looked for near each other. */
  eachClosest(points: Float64Array, numberOf: (found: SurfacePoint, i: number) => number): Float64Array {
    const found = surfacePoint();
    const out = new Float64Array(points.length / 3);
    for (let i = 0; i < out.length; i++) {
      this.closest(points[3 * i], points[3 * i + 1], points[3 * i + 2], found, Infinity, undefined, found.triangle);
      out[i] = numberOf(found, i);
    }
    return out;
  }

  /** Sorts triangles from one place of the order to another by where their middles are. @returns their cells */
  private sorted(from: number, to: number): Uint32Array {
    const { order, positions: p, triangles } = this;
    const own = order.subarray(from, to);
    const middle = (k: number) => (t: number) => p[3 * triangles[3 * t] + k] + p[3 * triangles[3 * t + 1] + k] + p[3 * triangles[3 * t + 2] + k];
    return sortInSpace(own, [middle(0), middle(1), middle(2)]);
  }

  /** @param cells of triangles of the order from `first` on */
  private build(slot: number, from: number, to: number, cells: Uint32Array, first: number): void {
    if (to - from <= LEAF) {
      this.part[slot] = ~((from << LEAF_BITS) | (to - from));
      this.boundTriangles(slot, from, to);
      return;
    }
    const [low, high] = [cells[from - first], cells[to - 1 - first]];
    if (low === high && to - from > CROWDED * LEAF && to - from < cells.length) {
      this.build(slot, from, to, this.sorted(from, to), from);
      return;
    }
    const middle = low === high ? (from + to) >> 1 : first + firstBeyond(cells, from - first, to - first);
    const node = this.inner++;
    const left = 2 * node + 1;
    if (left + 2 > this.part.length) this.grow();
    this.part[slot] = node;
    this.build(left, from, middle, cells, first);
    this.build(left + 1, middle, to, cells, first);
    this.boundParts(slot, left);
  }

  private grow(): void {
    const [box, part] = [new Float64Array(2 * this.box.length), new Int32Array(2 * this.part.length)];
    box.set(this.box);
    part.set(this.part);
    [this.box, this.part] = [box, part];
  }

  private boundTriangles(slot: number, from: number, to: number): void {
    const { box, positions, triangles, order } = this;
    for (let k = 0; k < 3; k++) {
      let low = Infinity;
      let high = -Infinity;
      for (let i = from; i < to; i++)
        for (let c = 0; c < 3; c++) {
          const x = positions[3 * triangles[3 * order[i] + c] + k];
          if (x < low) low = x;
          if (x > high) high = x;
        }
      box[6 * slot + k] = low;
      box[6 * slot + 3 + k] = high;
    }
  }

  /**
   * The closest point on the triangles.
   * @param within2 squared distance beyond which nothing is looked for
   * @param accepts leaves out triangles (for those whose normal looks the wrong way)
   * @param guess a triangle that may be near, as it was found for a point close by: what is farther is not looked at then
   * @returns `into`, with triangle -1 where nothing was found
   */
  closest(
    x: number,
    y: number,
    z: number,
    into: SurfacePoint,
    within2 = Infinity,
    accepts?: (triangle: number) => boolean,
    guess = -1
  ): SurfacePoint {
    const { stack, stackDistance, box, part, order } = this;
    into.triangle = -1;
    into.distance2 = within2;
    if (order.length === 0) return into;
    if (guess >= 0) this.tryTriangle(guess, x, y, z, into, accepts);
    let top = -1;
    let node = part[0];
    for (;;) {
      if (node < 0) {
        const leaf = ~node;
        const from = leaf >> LEAF_BITS;
        for (let i = from, end = from + (leaf & ((1 << LEAF_BITS) - 1)); i < end; i++) this.tryTriangle(order[i], x, y, z, into, accepts);
      } else {
        const slot = 2 * node + 1;
        const left = boxDistance2(box, 6 * slot, x, y, z);
        const right = boxDistance2(box, 6 * slot + 6, x, y, z);
        const nearer = left <= right ? slot : slot + 1;
        const far = left <= right ? right : left;
        if (far < into.distance2) {
          stack[++top] = part[2 * slot + 1 - nearer];
          stackDistance[top] = far;
        }
        if (left < into.distance2 || right < into.distance2) {
          node = part[nearer];
          continue;
        }
      }
      while (top >= 0 && stackDistance[top] >= into.distance2) top--;
      if (top < 0) return into;
      node = stack[top--];
    }
  }

  /** Squared distance to one of the triangles. */
  distance2To(t: number, x: number, y: number, z: number): number {
    this.own.distance2 = Infinity;
    this.tryTriangle(t, x, y, z, this.own);
    return this.own.distance2;
  }

  /** Ericson 2005: the closest point by Voronoi regions of the triangle. */
  private tryTriangle(t: number, x: number, y: number, z: number, into: SurfacePoint, accepts?: (triangle: number) => boolean): void {
    const p = this.positions;
    const ia = 3 * this.triangles[3 * t];
    const ib = 3 * this.triangles[3 * t + 1];
    const ic = 3 * this.triangles[3 * t + 2];
    const ax = p[ia],
      ay = p[ia + 1],
      az = p[ia + 2];
    const abx = p[ib] - ax,
      aby = p[ib + 1] - ay,
      abz = p[ib + 2] - az;
    const acx = p[ic] - ax,
      acy = p[ic + 1] - ay,
      acz = p[ic + 2] - az;
    const apx = x - ax,
      apy = y - ay,
      apz = z - az;
    const d1 = abx * apx + aby * apy + abz * apz;
    const d2 = acx * apx + acy * apy + acz * apz;
    const d3 = d1 - (abx * abx + aby * aby + abz * abz);
    const d4 = d2 - (abx * acx + aby * acy + abz * acz);
    const d5 = d1 - (abx * acx + aby * acy + abz * acz);
    const d6 = d2 - (acx * acx + acy * acy + acz * acz);
    const va = d3 * d6 - d5 * d4;
    const vb = d5 * d2 - d1 * d6;
    const vc = d1 * d4 - d3 * d2;
    let b: number;
    let c: number;
    if (d1 <= 0 && d2 <= 0) {
      b = 0;
      c = 0;
    } else if (d3 >= 0 && d4 <= d3) {
      b = 1;
      c = 0;
    } else if (d6 >= 0 && d5 <= d6) {
      b = 0;
      c = 1;
    } else if (vc <= 0 && d1 >= 0 && d3 <= 0) {
      b = d1 / (d1 - d3);
      c = 0;
    } else if (vb <= 0 && d2 >= 0 && d6 <= 0) {
      b = 0;
      c = d2 / (d2 - d6);
    } else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
      c = (d4 - d3) / (d4 - d3 + (d5 - d6));
      b = 1 - c;
    } else {
      const sum = va + vb + vc;
      b = sum === 0 ? 0 : vb / sum;
      c = sum === 0 ? 0 : vc / sum;
    }
    const qx = ax + b * abx + c * acx;
    const qy = ay + b * aby + c * acy;
    const qz = az + b * abz + c * acz;
    const d = (qx - x) ** 2 + (qy - y) ** 2 + (qz - z) ** 2;
    if (d < into.distance2 && (!accepts || accepts(t))) {
      into.distance2 = d;
      into.triangle = t;
      into.x = qx;
      into.y = qy;
      into.z = qz;
      into.b = b;
      into.c = c;
    }
  }
}

export const surfacePoint = (): SurfacePoint => ({ triangle: -1, distance2: Infinity, x: 0, y: 0, z: 0, b: 0, c: 0 });

/** The first of some sorted cells that has the highest bit in which the first and the last of them differ. */
function firstBeyond(cells: Uint32Array, from: number, to: number): number {
  const bit = 1 << (31 - Math.clz32(cells[from] ^ cells[to - 1]));
  let [low, high] = [from, to - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (cells[middle] & bit) high = middle;
    else low = middle + 1;
  }
  return low;
}
