import { type Cage } from './cage.ts';
import { NONE } from './half-edges.ts';

/** Border loops, each as its half-edges without a face, in order. */
export function borderLoops(cage: Cage): number[][] {
  const seen = new Uint8Array(2 * cage.edgeSlots);
  const loops: number[][] = [];
  for (const e of cage.edges())
    for (const h of [2 * e, 2 * e + 1]) {
      if (cage.face[h] !== NONE || seen[h]) continue;
      const loop = cage.loopOf(h);
      for (const k of loop) seen[k] = 1;
      loops.push(loop);
    }
  return loops;
}

/** Faces grouped by connection over edges. @returns island number by face id (-1 for free slots), and the count */
export function islands(cage: Cage): { islandOf: Int32Array; count: number } {
  const islandOf = new Int32Array(cage.faceSlots).fill(-1);
  let count = 0;
  for (const seed of cage.faces()) {
    if (islandOf[seed] >= 0) continue;
    const stack = [seed];
    islandOf[seed] = count;
    while (stack.length > 0) {
      const first = cage.faceEdge[stack.pop()!];
      let h = first;
      do {
        const g = cage.face[h ^ 1];
        if (g !== NONE && islandOf[g] < 0) {
          islandOf[g] = count;
          stack.push(g);
        }
        h = cage.next[h];
      } while (h !== first);
    }
    count++;
  }
  return { islandOf, count };
}

/** Faces of each island. */
export function facesByIsland(cage: Cage): number[][] {
  const { islandOf, count } = islands(cage);
  const members: number[][] = Array.from({ length: count }, () => []);
  for (const f of cage.faces()) members[islandOf[f]].push(f);
  return members;
}

/** Whether two cages have the same elements in the same places of their structure; positions and marks may differ. */
export function sameTopology(a: Cage, b: Cage): boolean {
  const same = (x: Int32Array, y: Int32Array) => x.length === y.length && x.every((n, i) => n === y[i]);
  return same(a.origin, b.origin) && same(a.next, b.next) && same(a.face, b.face) && same(a.vertexEdge, b.vertexEdge);
}

/** Vertices - edges + faces, without vertices that no edge uses. */
export function eulerCharacteristic(cage: Cage): number {
  let used = 0;
  for (const v of cage.vertices()) if (cage.vertexEdge[v] !== NONE) used++;
  return used - cage.edgeCount + cage.faceCount;
}

/** Handles of all islands together: (2 islands - borders - Euler characteristic) / 2. */
export function genus(cage: Cage): number {
  return (2 * islands(cage).count - borderLoops(cage).length - eulerCharacteristic(cage)) / 2;
}

/**
 * Whether a vertex is a pole: inside, any valence but four; on a border, any but three edges
 * (and two, which is a plain corner of one quad).
 */
export function isPole(cage: Cage, v: number): boolean {
  const valence = cage.valence(v);
  if (valence === 0) return false;
  return cage.isBorderVertex(v) ? valence > 3 : valence !== 4;
}

/** The volume a closed cage encloses, in mm3, below 0 where it is turned inside out (signed tetrahedra over fans); of an open one, the volume of the cone over it. @param faces some of them alone */
export function enclosedVolume(cage: Cage, faces: Iterable<number> = cage.faces()): number {
  const p = cage.positions;
  let six = 0;
  for (const f of faces) {
    const corners = cage.faceVertices(f);
    const a = 3 * corners[0];
    for (let i = 1; i + 1 < corners.length; i++) {
      const b = 3 * corners[i];
      const c = 3 * corners[i + 1];
      six +=
        p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
        p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
        p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
    }
  }
  return six / 6;
}

/** Faces by their number of corners. */
export function faceSizes(cage: Cage): { triangles: number; quads: number; ngons: number } {
  let triangles = 0;
  let quads = 0;
  for (const f of cage.faces()) {
    const size = cage.faceSize(f);
    if (size === 3) triangles++;
    else if (size === 4) quads++;
  }
  return { triangles, quads, ngons: cage.faceCount - triangles - quads };
}

/** Faces within some rings of vertices. */
export function facesRound(cage: Cage, vertices: Iterable<number>, rings: number): number[] {
  const faces = new Set<number>();
  const reached = new Set(vertices);
  let front = [...reached];
  for (let r = 0; r < rings; r++) {
    const added: number[] = [];
    for (const v of front)
      for (const h of cage.spokes(v)) {
        const f = cage.face[h];
        if (f === NONE || faces.has(f)) continue;
        faces.add(f);
        added.push(f);
      }
    front = [];
    for (const f of added)
      for (const v of cage.faceVertices(f)) {
        if (reached.has(v)) continue;
        reached.add(v);
        front.push(v);
      }
  }
  return [...faces];
}

/** Half-edges of one face that start at a and at b, where the two are no neighbours in it. */
export function cornersInOneFace(cage: Cage, a: number, b: number): [number, number] | undefined {
  for (const h of cage.spokes(a)) {
    if (cage.face[h] === NONE) continue;
    const k = cage.loopOf(h).find((x) => cage.origin[x] === b);
    if (k !== undefined && cage.next[h] !== k && cage.next[k] !== h) return [h, k];
  }
  return undefined;
}

/** Whether texture coordinates differ on both sides of an edge. */
export function isSeam(cage: Cage, e: number): boolean {
  const uv = cage.layers.get('uv')?.data;
  if (!uv || cage.isBorderEdge(e)) return false;
  const differ = (a: number, b: number) => [0, 1].some((k) => !Object.is(uv[2 * a + k], uv[2 * b + k]));
  const [h, t] = [2 * e, 2 * e + 1];
  return differ(h, cage.next[t]) || differ(cage.next[h], t);
}
