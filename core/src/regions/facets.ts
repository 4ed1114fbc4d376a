import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { type Triple } from '../numeric/vectors.ts';

/** Degrees within which triangles beside each other lie in one plane. */
const COPLANAR = 0.05;

/** The triangles of a mesh, and the flat facets that they make up: a facet is a set of triangles that lie in one plane beside each other. */
export class Facets {
  readonly positions: Float64Array;
  /** three vertices a triangle */
  readonly triangles: Uint32Array;
  /** polygon of the mesh that each triangle lies in */
  readonly polygonOf: Uint32Array;
  /** by corner of a triangle, the corner of the next triangle whose edge runs back along the edge that begins there; -1 at borders */
  readonly across: Int32Array;
  /** unit normal and area (mm2) of each triangle */
  readonly normals: Float64Array;
  readonly areas: Float64Array;
  /** facet of each triangle */
  readonly facetOf: Int32Array;
  /** triangles of facet f: `order[start[f] .. start[f + 1]]` */
  readonly order: Int32Array;
  readonly start: Int32Array;
  /** area of each facet, mm2 */
  readonly facetArea: Float64Array;

  constructor(mesh: PolygonMesh) {
    this.positions = mesh.positions;
    const { triangles, faceOf } = triangulate(mesh);
    this.triangles = triangles;
    this.polygonOf = faceOf;
    this.across = oppositeCorners(triangles, mesh.positions.length / 3);
    const many = triangles.length / 3;
    this.normals = new Float64Array(3 * many);
    this.areas = new Float64Array(many);
    for (let t = 0; t < many; t++) this.measure(t);
    this.facetOf = this.grouped(Math.cos((COPLANAR * Math.PI) / 180));
    const facets = this.facetOf.reduce((most, f) => Math.max(most, f), -1) + 1;
    this.start = new Int32Array(facets + 1);
    for (const f of this.facetOf) this.start[f + 1]++;
    for (let f = 0; f < facets; f++) this.start[f + 1] += this.start[f];
    const cursor = this.start.slice();
    this.order = new Int32Array(many);
    this.facetArea = new Float64Array(facets);
    this.facetOf.forEach((f, t) => {
      this.order[cursor[f]++] = t;
      this.facetArea[f] += this.areas[t];
    });
  }

  get count(): number {
    return this.facetArea.length;
  }

  /** Triangles of a facet. */
  of(facet: number): Int32Array {
    return this.order.subarray(this.start[facet], this.start[facet + 1]);
  }

  normalOf(facet: number): Triple {
    const t = 3 * this.order[this.start[facet]];
    return [this.normals[t], this.normals[t + 1], this.normals[t + 2]];
  }

  at(vertex: number): Triple {
    return [this.positions[3 * vertex], this.positions[3 * vertex + 1], this.positions[3 * vertex + 2]];
  }

  /** Vertices of a facet, each once. */
  verticesOf(facet: number): Set<number> {
    const found = new Set<number>();
    for (const t of this.of(facet)) for (let c = 3 * t; c < 3 * t + 3; c++) found.add(this.triangles[c]);
    return found;
  }

  /** Facets beside one, with the cosine of the angle between their normals. */
  beside(facet: number): Map<number, number> {
    const found = new Map<number, number>();
    for (const t of this.of(facet))
      for (let c = 3 * t; c < 3 * t + 3; c++) {
        if (this.across[c] < 0) continue;
        const other = this.facetOf[Math.floor(this.across[c] / 3)];
        if (other !== facet) found.set(other, this.cosineAt(c));
      }
    return found;
  }

  /** Cosine of the angle between the triangles at the edge that begins at a corner; 1 at borders. */
  cosineAt(corner: number): number {
    const other = this.across[corner];
    if (other < 0) return 1;
    const [a, b] = [3 * Math.floor(corner / 3), 3 * Math.floor(other / 3)];
    const n = this.normals;
    return n[a] * n[b] + n[a + 1] * n[b + 1] + n[a + 2] * n[b + 2];
  }

  private measure(t: number): void {
    const [p, v] = [this.positions, this.triangles];
    const [a, b, c] = [3 * v[3 * t], 3 * v[3 * t + 1], 3 * v[3 * t + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [wx, wy, wz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const [x, y, z] = [uy * wz - uz * wy, uz * wx - ux * wz, ux * wy - uy * wx];
    const long = Math.hypot(x, y, z);
    this.areas[t] = 0.5 * long;
    this.normals.set(long > 0 ? [x / long, y / long, z / long] : [0, 0, 0], 3 * t);
  }

  /** Facet of each triangle: over edges that do not bend; triangles without an area go with a neighbour. */
  private grouped(flat: number): Int32Array {
    const many = this.areas.length;
    const facet = new Int32Array(many).fill(-1);
    const stack: number[] = [];
    let count = 0;
    for (let seed = 0; seed < many; seed++) {
      if (facet[seed] >= 0 || this.areas[seed] === 0) continue;
      facet[seed] = count;
      stack.push(seed);
      while (stack.length > 0) {
        const t = stack.pop()!;
        for (let c = 3 * t; c < 3 * t + 3; c++) {
          const other = this.across[c] < 0 ? -1 : Math.floor(this.across[c] / 3);
          if (other < 0 || facet[other] >= 0) continue;
          // what has no area has no normal, and lies in the edge
          if (this.areas[other] > 0 && !(this.cosineAt(c) >= flat && this.isLike(seed, other, flat))) continue;
          facet[other] = count;
          stack.push(other);
        }
      }
      count++;
    }
    for (let t = 0; t < many; t++) if (facet[t] < 0) facet[t] = count === 0 ? 0 : facet.find((f) => f >= 0)!;
    return facet;
  }

  /** Whether two triangles look the same way: what bends a little from each to the next is no plane. */
  private isLike(a: number, b: number, flat: number): boolean {
    const n = this.normals;
    return n[3 * a] * n[3 * b] + n[3 * a + 1] * n[3 * b + 1] + n[3 * a + 2] * n[3 * b + 2] >= flat;
  }
}

/** By corner the corner whose edge runs back along its own; -1 at borders, and where more than two triangles meet. */
function oppositeCorners(triangles: Uint32Array, vertices: number): Int32Array {
  const next = (c: number) => (c % 3 === 2 ? c - 2 : c + 1);
  const start = new Int32Array(vertices + 1);
  for (const v of triangles) start[v + 1]++;
  for (let v = 0; v < vertices; v++) start[v + 1] += start[v];
  const cursor = start.slice();
  const at = new Int32Array(triangles.length);
  for (let c = 0; c < triangles.length; c++) at[cursor[triangles[c]]++] = c;
  const across = new Int32Array(triangles.length).fill(-1);
  for (let c = 0; c < triangles.length; c++) {
    const [a, b] = [triangles[c], triangles[next(c)]];
    let [found, many] = [-1, 0];
    for (let i = start[b]; i < start[b + 1]; i++) if (triangles[next(at[i])] === a) [found, many] = [at[i], many + 1];
    let own = 0;
    for (let i = start[a]; i < start[a + 1]; i++) if (triangles[next(at[i])] === b) own++;
    across[c] = many === 1 && own === 1 ? found : -1;
  }
  return across;
}
