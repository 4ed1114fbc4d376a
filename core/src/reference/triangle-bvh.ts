const LEAF = 6;

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

/**
 * A tree of boxes over triangles for closest points, in flat arrays. Node i has its box in `box[6i ..]`; an inner node's
 * children are i + 1 and `right[i]`; a leaf has `count[i]` triangles from `order[first[i]]`.
 */
export class TriangleBvh {
  readonly order: Int32Array;
  private box: Float64Array;
  private right: Int32Array;
  private first: Int32Array;
  private count: Int32Array;
  private nodes = 0;
  private centre: Float64Array;
  private stack = new Int32Array(128);
  private stackDistance = new Float64Array(128);
  private readonly own = surfacePoint();

  constructor(
    readonly positions: Float64Array,
    readonly triangles: Uint32Array | Int32Array
  ) {
    const total = triangles.length / 3;
    this.order = new Int32Array(total);
    this.centre = new Float64Array(3 * total);
    for (let t = 0; t < total; t++) {
      this.order[t] = t;
      for (let k = 0; k < 3; k++)
        this.centre[3 * t + k] =
          positions[3 * triangles[3 * t] + k] + positions[3 * triangles[3 * t + 1] + k] + positions[3 * triangles[3 * t + 2] + k];
    }
    const most = Math.max(1, 2 * Math.ceil((2 * total) / LEAF) + 8);
    this.box = new Float64Array(6 * most);
    this.right = new Int32Array(most);
    this.first = new Int32Array(most);
    this.count = new Int32Array(most);
    if (total > 0) this.build(0, total);
    this.centre = new Float64Array(0);
  }

  /** Distance of each point (x, y, z) to the triangles. */
  distances(points: Float64Array): Float64Array {
    const found = surfacePoint();
    const out = new Float64Array(points.length / 3);
    for (let i = 0; i < out.length; i++)
      out[i] = Math.sqrt(this.closest(points[3 * i], points[3 * i + 1], points[3 * i + 2], found, Infinity, undefined, found.triangle).distance2);
    return out;
  }

  private build(from: number, to: number): number {
    const node = this.nodes++;
    if (6 * node + 6 > this.box.length) this.grow();
    const low = [Infinity, Infinity, Infinity];
    const high = [-Infinity, -Infinity, -Infinity];
    for (let i = from; i < to; i++) {
      const t = 3 * this.order[i];
      for (let k = 0; k < 3; k++) {
        const x = this.centre[t + k];
        if (x < low[k]) low[k] = x;
        if (x > high[k]) high[k] = x;
      }
    }
    if (to - from <= LEAF) {
      this.first[node] = from;
      this.count[node] = to - from;
      this.boundTriangles(node, from, to);
      return node;
    }
    let axis = 0;
    for (let k = 1; k < 3; k++) if (high[k] - low[k] > high[axis] - low[axis]) axis = k;
    const middle = this.partition(from, to, axis, (low[axis] + high[axis]) / 2);
    const left = this.build(from, middle);
    const right = this.build(middle, to);
    this.right[node] = right;
    this.count[node] = 0;
    for (let k = 0; k < 3; k++) {
      this.box[6 * node + k] = Math.min(this.box[6 * left + k], this.box[6 * right + k]);
      this.box[6 * node + 3 + k] = Math.max(this.box[6 * left + 3 + k], this.box[6 * right + 3 + k]);
    }
    return node;
  }

  private grow(): void {
    const wider = <T extends Float64Array | Int32Array>(a: T): T => {
      const b = new (a.constructor as new (n: number) => T)(2 * a.length);
      b.set(a as never);
      return b;
    };
    this.box = wider(this.box);
    this.right = wider(this.right);
    this.first = wider(this.first);
    this.count = wider(this.count);
  }

  /** Splits at a coordinate, or at half the number where that leaves one side nearly empty. */
  private partition(from: number, to: number, axis: number, at: number): number {
    const { order, centre } = this;
    let i = from;
    for (let j = from; j < to; j++)
      if (centre[3 * order[j] + axis] < at) {
        const t = order[i];
        order[i++] = order[j];
        order[j] = t;
      }
    const few = (to - from) >> 4;
    if (i - from > few && to - i > few) return i;
    const half = order.slice(from, to).sort((s, t) => centre[3 * s + axis] - centre[3 * t + axis]);
    order.set(half, from);
    return (from + to) >> 1;
  }

  private boundTriangles(node: number, from: number, to: number): void {
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
      box[6 * node + k] = low;
      box[6 * node + 3 + k] = high;
    }
  }

  private boxDistance2(node: number, x: number, y: number, z: number): number {
    const b = this.box;
    const i = 6 * node;
    const dx = x < b[i] ? b[i] - x : x > b[i + 3] ? x - b[i + 3] : 0;
    const dy = y < b[i + 1] ? b[i + 1] - y : y > b[i + 4] ? y - b[i + 4] : 0;
    const dz = z < b[i + 2] ? b[i + 2] - z : z > b[i + 5] ? z - b[i + 5] : 0;
    return dx * dx + dy * dy + dz * dz;
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
    const { stack, stackDistance } = this;
    into.triangle = -1;
    into.distance2 = within2;
    if (this.order.length === 0) return into;
    if (guess >= 0) this.tryTriangle(guess, x, y, z, into, accepts);
    let top = 0;
    stack[0] = 0;
    stackDistance[0] = this.boxDistance2(0, x, y, z);
    while (top >= 0) {
      const node = stack[top];
      if (stackDistance[top--] >= into.distance2) continue;
      if (this.count[node] > 0) {
        for (let i = this.first[node], end = i + this.count[node]; i < end; i++) this.tryTriangle(this.order[i], x, y, z, into, accepts);
        continue;
      }
      const left = node + 1;
      const right = this.right[node];
      const dl = this.boxDistance2(left, x, y, z);
      const dr = this.boxDistance2(right, x, y, z);
      const [near, far, dn, df] = dl <= dr ? [left, right, dl, dr] : [right, left, dr, dl];
      if (df < into.distance2) {
        stack[++top] = far;
        stackDistance[top] = df;
      }
      if (dn < into.distance2) {
        stack[++top] = near;
        stackDistance[top] = dn;
      }
    }
    return into;
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
