import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';

/**
 * Neighbours of the vertices of a mesh, and the corners of its faces, in flat arrays: what brushes and passes over thousands of vertices
 * walk at the rate of the pointer.
 */
export interface VertexNet {
  /** of vertices, free slots among them */
  readonly slots: number;
  /** by vertex, where its neighbours begin in `ring`; one more at the end */
  readonly start: Int32Array;
  /** neighbours over edges, in turn round each vertex; of a border vertex from border to border */
  readonly ring: Int32Array;
  /** 1 by vertex at a border */
  readonly border: Uint8Array;
  /** by face where its vertices begin in `corners`; one more at the end */
  readonly faceStart: Int32Array;
  readonly corners: Int32Array;
  /** by vertex where its faces begin in `faces`; one more at the end */
  readonly facesStart: Int32Array;
  /** faces round each vertex, as `faceStart` counts them */
  readonly faces: Int32Array;
}

/** The net of a cage; faces are counted in the order of `cage.faces()`. */
export function netOf(cage: Cage): VertexNet {
  const slots = cage.vertexSlots;
  const start = new Int32Array(slots + 1);
  const ring: number[] = [];
  const border = new Uint8Array(slots);
  for (let v = 0; v < slots; v++) {
    start[v] = ring.length;
    if (!cage.hasVertex(v) || cage.vertexEdge[v] === NONE) continue;
    const first = cage.vertexEdge[v];
    border[v] = cage.isBorderVertex(v) ? 1 : 0;
    // a border half-edge comes first, so that the way round begins and ends at the border
    let h = first;
    do {
      ring.push(cage.origin[h ^ 1]);
      h = cage.next[h ^ 1];
    } while (h !== first);
  }
  start[slots] = ring.length;
  const faceStart = [0];
  const corners: number[] = [];
  for (const f of cage.faces()) {
    const first = cage.faceEdge[f];
    let h = first;
    do {
      corners.push(cage.origin[h]);
      h = cage.next[h];
    } while (h !== first);
    faceStart.push(corners.length);
  }
  return { slots, start, ring: Int32Array.from(ring), border, ...withFaces(slots, Int32Array.from(faceStart), Int32Array.from(corners)) };
}

/** What faces lie round each vertex. */
function withFaces(slots: number, faceStart: Int32Array, corners: Int32Array): Pick<VertexNet, 'faceStart' | 'corners' | 'facesStart' | 'faces'> {
  const facesStart = new Int32Array(slots + 1);
  for (const v of corners) facesStart[v + 1]++;
  for (let v = 0; v < slots; v++) facesStart[v + 1] += facesStart[v];
  const faces = new Int32Array(corners.length);
  const filled = facesStart.slice(0, slots);
  for (let f = 0; f + 1 < faceStart.length; f++) for (let i = faceStart[f]; i < faceStart[f + 1]; i++) faces[filled[corners[i]]++] = f;
  return { faceStart, corners, facesStart, faces };
}

/**
 * Unit normal of a vertex: that of the areas between its neighbours, so that it does not depend on where the vertex itself lies between them.
 * @param into gets x, y and z; 0, 0, 0 where it has none
 */
export function normalAt({ start, ring, border }: VertexNet, p: Float64Array, v: number, into: Float64Array): void {
  const [from, to] = [start[v], start[v + 1]];
  let [x, y, z] = [0, 0, 0];
  const [vx, vy, vz] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  const last = border[v] ? to - 1 : to;
  for (let i = from; i < last; i++) {
    const a = 3 * ring[i];
    const b = 3 * ring[i + 1 < to ? i + 1 : from];
    const ax = p[a] - vx;
    const ay = p[a + 1] - vy;
    const az = p[a + 2] - vz;
    const bx = p[b] - vx;
    const by = p[b + 1] - vy;
    const bz = p[b + 2] - vz;
    // neighbours come clockwise, as the next spoke lies across the twin
    x += by * az - bz * ay;
    y += bz * ax - bx * az;
    z += bx * ay - by * ax;
  }
  const long = Math.sqrt(x * x + y * y + z * z);
  const over = long > 1e-150 ? 1 / long : 0;
  into[0] = x * over;
  into[1] = y * over;
  into[2] = z * over;
}
