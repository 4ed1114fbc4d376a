/** marks a slot that is free, in `vertexEdge`, `faceEdge` and `origin` */
export const FREE = -2;
/** no face (a border half-edge), or no edge (a vertex on its own) */
export const NONE = -1;

/** Thrown when faces cannot be held: an edge with three faces, faces turned against each other, a pinched vertex. */
export class CageError extends Error {}

/**
 * A polygon mesh as half-edges in a structure of arrays.
 *
 * Half-edges 2e and 2e + 1 are the two sides of edge e, so the twin of h is `h ^ 1`. A border is a real loop of
 * half-edges without a face, so every walk is total. Elements keep their ids until the cage is packed; free slots are skipped
 * by the iterators and used again by the next insertion.
 */
export class HalfEdges {
  /** x, y, z by vertex id */
  positions: Float64Array;
  /** an outgoing half-edge by vertex id, a border one if there is one; NONE: on its own; FREE: no such vertex */
  vertexEdge: Int32Array;
  /** half-edge that follows in the face or border loop, by half-edge id */
  next: Int32Array;
  /** vertex a half-edge starts at; FREE: no such half-edge */
  origin: Int32Array;
  /** face of a half-edge, or NONE on a border */
  face: Int32Array;
  /** a half-edge by face id; FREE: no such face */
  faceEdge: Int32Array;

  /** number of slots in use or free */
  vertexSlots = 0;
  edgeSlots = 0;
  faceSlots = 0;
  protected freeVertices: number[] = [];
  protected freeEdges: number[] = [];
  protected freeFaces: number[] = [];

  constructor(vertices = 0, edges = 0, faces = 0) {
    this.positions = new Float64Array(3 * vertices);
    this.vertexEdge = new Int32Array(vertices);
    this.next = new Int32Array(2 * edges);
    this.origin = new Int32Array(2 * edges);
    this.face = new Int32Array(2 * edges);
    this.faceEdge = new Int32Array(faces);
  }

  get vertexCount(): number {
    return this.vertexSlots - this.freeVertices.length;
  }
  get edgeCount(): number {
    return this.edgeSlots - this.freeEdges.length;
  }
  get faceCount(): number {
    return this.faceSlots - this.freeFaces.length;
  }

  hasVertex(v: number): boolean {
    return v >= 0 && v < this.vertexSlots && this.vertexEdge[v] !== FREE;
  }
  hasEdge(e: number): boolean {
    return e >= 0 && e < this.edgeSlots && this.origin[2 * e] !== FREE;
  }
  hasFace(f: number): boolean {
    return f >= 0 && f < this.faceSlots && this.faceEdge[f] !== FREE;
  }

  *vertices(): Generator<number> {
    for (let v = 0; v < this.vertexSlots; v++) if (this.vertexEdge[v] !== FREE) yield v;
  }
  *edges(): Generator<number> {
    for (let e = 0; e < this.edgeSlots; e++) if (this.origin[2 * e] !== FREE) yield e;
  }
  *faces(): Generator<number> {
    for (let f = 0; f < this.faceSlots; f++) if (this.faceEdge[f] !== FREE) yield f;
  }

  /** vertex a half-edge ends at */
  target(h: number): number {
    return this.origin[h ^ 1];
  }

  /** half-edge before h in its loop; walks round the start vertex, so it costs the valence */
  previous(h: number): number {
    let p = h ^ 1;
    while (this.next[p] !== h) p = this.next[p] ^ 1;
    return p;
  }

  isBorderEdge(e: number): boolean {
    return this.face[2 * e] === NONE || this.face[2 * e + 1] === NONE;
  }
  isBorderVertex(v: number): boolean {
    const h = this.vertexEdge[v];
    return h >= 0 && this.face[h] === NONE;
  }

  /** outgoing half-edges of a vertex, in turn */
  spokes(v: number): number[] {
    const first = this.vertexEdge[v];
    const list: number[] = [];
    if (first < 0) return list;
    let h = first;
    do {
      list.push(h);
      h = this.next[h ^ 1];
    } while (h !== first);
    return list;
  }

  valence(v: number): number {
    const first = this.vertexEdge[v];
    if (first < 0) return 0;
    let count = 0;
    let h = first;
    do {
      count++;
      h = this.next[h ^ 1];
    } while (h !== first);
    return count;
  }

  /** half-edges of the loop that h lies in: a face's, or a border's */
  loopOf(h: number): number[] {
    const list: number[] = [];
    let k = h;
    do {
      list.push(k);
      k = this.next[k];
    } while (k !== h);
    return list;
  }

  faceSize(f: number): number {
    let count = 0;
    const first = this.faceEdge[f];
    let h = first;
    do {
      count++;
      h = this.next[h];
    } while (h !== first);
    return count;
  }

  faceVertices(f: number): number[] {
    return this.loopOf(this.faceEdge[f]).map((h) => this.origin[h]);
  }

  /** half-edge from a to b, or NONE */
  findHalfEdge(a: number, b: number): number {
    for (const h of this.spokes(a)) if (this.target(h) === b) return h;
    return NONE;
  }

  position(v: number): [number, number, number] {
    return [this.positions[3 * v], this.positions[3 * v + 1], this.positions[3 * v + 2]];
  }

  edgeLength(e: number): number {
    const a = 3 * this.origin[2 * e];
    const b = 3 * this.origin[2 * e + 1];
    const p = this.positions;
    return Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]);
  }
}
