import { pickedPoints, uniformMesh, usedVertices, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { type Mirror } from './mirror.ts';

/**
 * A triangle mesh that can be cut and collapsed quickly. Half-edge h belongs to triangle floor(h / 3) and runs from
 * `corner[h]` to `corner[after(h)]`; `opposite[h]` is the half-edge on the other side, -1 on a border. Removed triangles
 * have -1 in `corner`, removed vertices -1 in `outgoing`.
 */
export class WorkingMesh {
  positions: Float64Array;
  corner: Int32Array;
  opposite: Int32Array;
  /** 1 on half-edges that lie on a feature line or border; both sides agree */
  feature: Uint8Array;
  /** wanted edge length by vertex */
  size: Float64Array;
  /** an outgoing half-edge by vertex, the first one counter-clockwise from the border if there is one */
  outgoing: Int32Array;
  vertices: number;
  triangles: number;
  /** planes the surface goes on beyond, mirrored */
  mirrors: readonly Mirror[] = [];

  constructor(positions: Float64Array, triangles: ArrayLike<number>) {
    this.positions = positions.slice();
    this.vertices = positions.length / 3;
    this.triangles = triangles.length / 3;
    this.corner = new Int32Array(triangles);
    this.size = new Float64Array(this.vertices);
    this.feature = new Uint8Array(triangles.length);
    this.opposite = new Int32Array(triangles.length).fill(-1);
    this.outgoing = new Int32Array(this.vertices).fill(-1);
    this.pairUp();
    for (let h = 0; h < this.corner.length; h++) if (this.outgoing[this.corner[h]] < 0) this.outgoing[this.corner[h]] = h;
    for (let v = 0; v < this.vertices; v++) this.settle(v);
  }

  /** Finds opposite half-edges by bucketing them at their smaller end. */
  private pairUp(): void {
    const { corner, opposite } = this;
    const start = new Int32Array(this.vertices + 1);
    const low = (h: number) => Math.min(corner[h], corner[after(h)]);
    for (let h = 0; h < corner.length; h++) start[low(h) + 1]++;
    for (let v = 0; v < this.vertices; v++) start[v + 1] += start[v];
    const bucket = new Int32Array(corner.length);
    const cursor = start.slice();
    for (let h = 0; h < corner.length; h++) {
      const v = low(h);
      for (let k = start[v]; k < cursor[v]; k++) {
        const g = bucket[k];
        if (corner[g] === corner[after(h)] && corner[after(g)] === corner[h] && opposite[g] < 0) {
          opposite[g] = h;
          opposite[h] = g;
          break;
        }
      }
      bucket[cursor[v]++] = h;
    }
  }

  /** The same mesh once more, to be changed on its own. */
  copy(): WorkingMesh {
    const copy: WorkingMesh = Object.create(WorkingMesh.prototype);
    Object.assign(copy, this);
    for (const key of ['positions', 'size'] as const) copy[key] = this[key].slice();
    for (const key of ['corner', 'opposite', 'outgoing'] as const) copy[key] = this[key].slice();
    copy.feature = this.feature.slice();
    return copy;
  }

  /** The same mesh with other marks; everything else is shared, and not to be changed. @param feature by half-edge, both sides agreeing */
  marked(feature: Uint8Array): WorkingMesh {
    const other: WorkingMesh = Object.create(WorkingMesh.prototype);
    return Object.assign(other, this, { feature });
  }

  isAlive(t: number): boolean {
    return this.corner[3 * t] >= 0;
  }

  /** Turns `outgoing[v]` back to where counter-clockwise turning starts at a border. */
  settle(v: number): void {
    const first = this.outgoing[v];
    if (first < 0) return;
    let h = first;
    for (let g = this.opposite[h]; g >= 0; g = this.opposite[h]) {
      h = after(g);
      if (h === first) return;
    }
    this.outgoing[v] = h;
  }

  /** Outgoing half-edges counter-clockwise; a border vertex has one neighbour more than this list is long. */
  spokes(v: number, into: number[]): number[] {
    into.length = 0;
    const first = this.outgoing[v];
    let h = first;
    do {
      into.push(h);
      h = this.opposite[before(h)];
    } while (h >= 0 && h !== first);
    return into;
  }

  isBorder(v: number): boolean {
    return this.opposite[this.outgoing[v]] < 0;
  }

  /** Neighbour vertices, in turn. */
  neighbours(v: number, into: number[]): number[] {
    into.length = 0;
    const first = this.outgoing[v];
    let h = first;
    for (;;) {
      into.push(this.corner[after(h)]);
      const b = before(h);
      h = this.opposite[b];
      if (h < 0) into.push(this.corner[b]);
      if (h < 0 || h === first) return into;
    }
  }

  /** One half-edge of each edge. */
  edges(): Int32Array {
    const found = new Int32Array(3 * this.triangles);
    let count = 0;
    for (let h = 0; h < found.length; h++) if (this.corner[h] >= 0 && this.opposite[h] < h) found[count++] = h;
    return found.subarray(0, count);
  }

  /** Makes an edge that is no border part of a feature line, or takes it out. */
  markEdge(h: number, feature: 0 | 1): void {
    this.feature[h] = this.feature[this.opposite[h]] = feature;
  }

  /** Half-edges of feature lines and borders, one of each edge. */
  featureEdges(): number[] {
    const found: number[] = [];
    for (let h = 0; h < 3 * this.triangles; h++)
      if (this.corner[h] >= 0 && this.feature[h] && (this.opposite[h] < 0 || h < this.opposite[h])) found.push(h);
    return found;
  }

  /** 1 by vertex that lies on a feature line or a border. */
  onFeatures(): Uint8Array {
    const marks = new Uint8Array(this.vertices);
    for (const h of this.featureEdges()) marks[this.corner[h]] = marks[this.corner[after(h)]] = 1;
    return marks;
  }

  area(t: number): number {
    const { positions: p, corner } = this;
    const a = 3 * corner[3 * t];
    const b = 3 * corner[3 * t + 1];
    const c = 3 * corner[3 * t + 2];
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const wx = p[c] - p[b];
    const wy = p[c + 1] - p[b + 1];
    const wz = p[c + 2] - p[b + 2];
    const x = uy * wz - uz * wy;
    const y = uz * wx - ux * wz;
    const z = ux * wy - uy * wx;
    return (Math.sqrt(x * x + y * y + z * z) || 1e-300) / 2;
  }

  /** Middle of a triangle's corners. */
  centre(t: number): Triple {
    const { positions: p, corner } = this;
    const at = (k: number) => p[3 * corner[3 * t] + k] / 3 + p[3 * corner[3 * t + 1] + k] / 3 + p[3 * corner[3 * t + 2] + k] / 3;
    return [at(0), at(1), at(2)];
  }

  point(v: number): Triple {
    return [this.positions[3 * v], this.positions[3 * v + 1], this.positions[3 * v + 2]];
  }

  /** Both ends of an edge. */
  ends(h: number): [Triple, Triple] {
    return [this.point(this.corner[h]), this.point(this.corner[after(h)])];
  }

  edgeLength2(h: number): number {
    const p = this.positions;
    const a = 3 * this.corner[h];
    const b = 3 * this.corner[after(h)];
    return (p[a] - p[b]) ** 2 + (p[a + 1] - p[b + 1]) ** 2 + (p[a + 2] - p[b + 2]) ** 2;
  }

  private newVertex(x: number, y: number, z: number): number {
    if (3 * this.vertices + 3 > this.positions.length) {
      this.positions = widened(this.positions);
      this.outgoing = widened(this.outgoing);
      this.size = widened(this.size);
    }
    this.positions.set([x, y, z], 3 * this.vertices);
    return this.vertices++;
  }

  private newTriangle(a: number, b: number, c: number): number {
    if (3 * this.triangles + 3 > this.corner.length) {
      this.corner = widened(this.corner);
      this.opposite = widened(this.opposite);
      this.feature = widened(this.feature);
    }
    const t = this.triangles++;
    this.corner[3 * t] = a;
    this.corner[3 * t + 1] = b;
    this.corner[3 * t + 2] = c;
    return t;
  }

  private link(h: number, g: number): void {
    this.opposite[h] = g;
    if (g >= 0) this.opposite[g] = h;
  }

  /** Puts a vertex in the middle of an edge. @returns the vertex */
  split(h: number): number {
    const { corner } = this;
    const a = corner[h];
    const b = corner[after(h)];
    const p = this.positions;
    const m = this.newVertex((p[3 * a] + p[3 * b]) / 2, (p[3 * a + 1] + p[3 * b + 1]) / 2, (p[3 * a + 2] + p[3 * b + 2]) / 2);
    this.size[m] = (this.size[a] + this.size[b]) / 2;
    const g = this.opposite[h];
    const k = this.splitSide(h, m);
    const isFeature = this.feature[h];
    this.feature[k] = isFeature;
    if (g >= 0) {
      // h: a -> m, k: m -> b; on the other side g: b -> m, l: m -> a
      const l = this.splitSide(g, m);
      this.feature[l] = isFeature;
      this.link(h, l);
      this.link(g, k);
    } else this.opposite[h] = this.opposite[k] = -1;
    this.outgoing[m] = k;
    this.settle(m);
    this.settle(a);
    this.settle(b);
    return m;
  }

  /** Cuts the triangle of h at m on h; h keeps the first part. @returns the half-edge of the second part */
  private splitSide(h: number, m: number): number {
    const n = after(h);
    const b = this.corner[n];
    const c = this.corner[before(h)];
    const across = this.opposite[n];
    const t = this.newTriangle(m, b, c);
    const k = 3 * t;
    this.feature[k + 1] = this.feature[n];
    this.feature[k + 2] = 0;
    this.link(k + 1, across);
    this.corner[n] = m;
    this.feature[n] = 0;
    this.link(n, k + 2);
    if (this.outgoing[b] === n) this.outgoing[b] = k + 1;
    return k;
  }

  /** Turns the edge between two triangles to their other diagonal. */
  flip(h: number): void {
    const { corner, opposite, feature } = this;
    const g = opposite[h];
    const hn = after(h);
    const hp = before(h);
    const gn = after(g);
    const gp = before(g);
    const a = corner[h];
    const b = corner[g];
    const c = corner[hp];
    const d = corner[gp];
    // triangles (a, b, c) and (b, a, d) become (c, d, b) at h and (d, c, a) at g
    const across = [opposite[hn], opposite[hp], opposite[gn], opposite[gp]];
    const marked = [feature[hn], feature[hp], feature[gn], feature[gp]];
    corner[h] = c;
    corner[hn] = d;
    corner[hp] = b;
    corner[g] = d;
    corner[gn] = c;
    corner[gp] = a;
    this.link(hn, across[3]);
    this.link(hp, across[0]);
    this.link(gn, across[1]);
    this.link(gp, across[2]);
    feature[hn] = marked[3];
    feature[hp] = marked[0];
    feature[gn] = marked[1];
    feature[gp] = marked[2];
    this.outgoing[a] = gp;
    this.outgoing[b] = hp;
    this.outgoing[c] = h;
    this.outgoing[d] = g;
    for (const v of [a, b, c, d]) this.settle(v);
  }

  /** Whether the start of h can be moved into its end without pinching the surface (link condition). */
  canCollapse(h: number, ring: number[], other: number[]): boolean {
    const a = this.corner[h];
    const b = this.corner[after(h)];
    const g = this.opposite[h];
    if (g >= 0 && this.isBorder(a) && this.isBorder(b)) return false;
    for (const side of g >= 0 ? [h, g] : [h]) if (this.opposite[after(side)] < 0 && this.opposite[before(side)] < 0) return false;
    this.neighbours(a, ring);
    this.neighbours(b, other);
    let shared = 0;
    for (const v of ring) if (other.includes(v)) shared++;
    if (shared !== (g >= 0 ? 2 : 1)) return false;
    if (ring.length < 4 && g >= 0 && !this.isBorder(a)) return false;
    return true;
  }

  /** Moves the start of h into its end; the caller asked `canCollapse`. */
  collapse(h: number, spokes: number[]): void {
    const { corner, opposite } = this;
    const a = corner[h];
    const b = corner[after(h)];
    const g = opposite[h];
    this.spokes(a, spokes);
    for (const s of spokes) corner[s] = b;
    const touched = [b];
    for (const side of g >= 0 ? [h, g] : [h]) {
      const x = opposite[after(side)];
      const y = opposite[before(side)];
      const c = corner[before(side)];
      const mark = this.feature[after(side)] | this.feature[before(side)];
      if (x >= 0) {
        opposite[x] = y;
        this.feature[x] = mark;
      }
      if (y >= 0) {
        opposite[y] = x;
        this.feature[y] = mark;
      }
      // the edge c-b is left with x: b -> c or c -> b; find outgoing half-edges again
      this.outgoing[c] = x >= 0 ? (corner[x] === c ? x : after(x)) : corner[y] === c ? y : after(y);
      this.outgoing[b] = x >= 0 ? (corner[x] === b ? x : after(x)) : corner[y] === b ? y : after(y);
      touched.push(c);
      const t = Math.floor(side / 3);
      corner[3 * t] = corner[3 * t + 1] = corner[3 * t + 2] = -1;
    }
    this.outgoing[a] = -1;
    for (const v of touched) this.settle(v);
  }

  /** Some triangles alone. @returns them, and their vertices by those here */
  alone(triangles: readonly number[]): { mesh: PolygonMesh; placeOf: Map<number, number> } {
    const { corner } = this;
    const { used, indices } = usedVertices(
      triangles.flatMap((t) => [corner[3 * t], corner[3 * t + 1], corner[3 * t + 2]]),
      this.vertices
    );
    return { mesh: uniformMesh(pickedPoints(this.positions, used), indices, 3), placeOf: new Map(used.map((v, i) => [v, i])) };
  }

  /** Removed elements left out. */
  packed(): WorkingMesh {
    const halves: number[] = [];
    for (let t = 0; t < this.triangles; t++) if (this.isAlive(t)) halves.push(3 * t, 3 * t + 1, 3 * t + 2);
    const { used, indices } = usedVertices(
      halves.map((h) => this.corner[h]),
      this.vertices
    );
    const mesh = new WorkingMesh(pickedPoints(this.positions, used), indices);
    used.forEach((v, i) => (mesh.size[i] = this.size[v]));
    halves.forEach((h, i) => (mesh.feature[i] = this.feature[h]));
    mesh.mirrors = this.mirrors;
    return mesh;
  }
}

/** next half-edge in the triangle */
export const after = (h: number): number => (h % 3 === 2 ? h - 2 : h + 1);
/** previous half-edge in the triangle */
export const before = (h: number): number => (h % 3 === 0 ? h + 2 : h - 1);

function widened<T extends Float64Array | Int32Array | Uint8Array>(array: T): T {
  const bigger = new (array.constructor as new (n: number) => T)(Math.ceil(array.length * 1.5) + 30);
  if (bigger instanceof Int32Array) bigger.fill(-1);
  bigger.set(array as never);
  return bigger;
}
