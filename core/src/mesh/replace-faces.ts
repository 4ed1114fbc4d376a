import { type Cage } from './cage.ts';
import { CageError, NONE } from './half-edges.ts';

/** A face to be put in, and what it takes its values from. */
export interface NewFace {
  /** vertex ids in order round the face */
  corners: number[];
  /** old face whose region and other face values it takes */
  like?: number;
  /** per corner the old half-edge whose corner values it takes; NONE: the default */
  cornersLike?: number[];
}

export interface Replacement {
  /** faces to take out */
  gone: Iterable<number>;
  added: NewFace[];
  /** for vertices made for this: the old vertex each stands for; edges between them take the values of the old edge */
  standsFor?: ReadonlyMap<number, number>;
  /** leave vertices that end up without a face in the cage */
  keepLone?: boolean;
}

/**
 * Takes faces out and puts others in their place: the one change of topology all larger ones are made of. Values of edges
 * are kept by their ends, those of faces and corners by `like` and `cornersLike`. Vertices that end up without a face go,
 * unless they are to be kept.
 * @returns ids of the added faces, in order
 * @throws CageError where an edge would get three faces, or faces would be turned against each other; the cage is then
 * half done, so call it on a copy
 */
export function replaceFaces(cage: Cage, { gone, added, standsFor, keepLone }: Replacement): number[] {
  const taken = [...new Set(gone)];
  const values = new KeptValues(cage, taken, standsFor);
  const touched = new Set<number>();
  for (const f of taken) for (const v of cage.faceVertices(f)) touched.add(v);
  unlinkFaces(cage, taken);
  const ids = added.map((face) => {
    const f = addFace(cage, face.corners);
    for (const v of face.corners) touched.add(v);
    values.giveFace(f, face);
    return f;
  });
  for (const f of ids) for (const h of cage.loopOf(cage.faceEdge[f])) values.giveEdge(h);
  for (const v of touched) {
    if (!cage.hasVertex(v)) continue;
    if (cage.vertexEdge[v] !== NONE) splitPinched(cage, v);
    else if (!keepLone) cage.freeVertex(v);
  }
  return ids;
}

/** Edge, face and corner values of faces that are about to go. */
class KeptValues {
  private readonly edges = new Map<string, Map<string, number[]>>();
  private readonly faces = new Map<number, Map<string, number[]>>();
  private readonly corners = new Map<number, Map<string, number[]>>();

  constructor(
    private readonly cage: Cage,
    faces: number[],
    private readonly standsFor: ReadonlyMap<number, number> = new Map()
  ) {
    if (cage.layers.size === 0) return;
    for (const f of faces) {
      this.faces.set(f, this.read('face', f));
      for (const h of cage.loopOf(cage.faceEdge[f])) {
        this.corners.set(h, this.read('corner', h));
        this.edges.set(this.key(cage.origin[h], cage.target(h)), this.read('edge', h >> 1));
      }
    }
  }

  private key(a: number, b: number): string {
    const [p, q] = [this.standsFor.get(a) ?? a, this.standsFor.get(b) ?? b];
    return p < q ? `${p} ${q}` : `${q} ${p}`;
  }

  private read(domain: 'edge' | 'face' | 'corner', element: number): Map<string, number[]> {
    const found = new Map<string, number[]>();
    for (const { name, domain: d, size, data } of this.cage.layers.values())
      if (d === domain) found.set(name, [...data.subarray(element * size, (element + 1) * size)]);
    return found;
  }

  private write(values: Map<string, number[]> | undefined, element: number): void {
    values?.forEach((numbers, name) => this.cage.layers.get(name)!.data.set(numbers, element * numbers.length));
  }

  giveFace(f: number, { like, cornersLike }: NewFace): void {
    if (like !== undefined) this.write(this.faces.get(like) ?? this.read('face', like), f);
    if (!cornersLike) return;
    this.cage.loopOf(this.cage.faceEdge[f]).forEach((h, i) => {
      const from = cornersLike[i];
      if (from !== NONE) this.write(this.corners.get(from) ?? this.read('corner', from), h);
    });
  }

  giveEdge(h: number): void {
    this.write(this.edges.get(this.key(this.cage.origin[h], this.cage.target(h))), h >> 1);
  }
}

/** Takes faces out; fans that are left at a vertex stay linked one after the other, even where only corners touch. */
function unlinkFaces(cage: Cage, faces: number[]): void {
  const edges = new Set<number>();
  const vertices = new Set<number>();
  for (const f of faces) {
    for (const h of cage.loopOf(cage.faceEdge[f])) {
      edges.add(h >> 1);
      vertices.add(cage.origin[h]);
      cage.face[h] = NONE;
    }
    cage.freeFace(f);
  }
  const lone = new Set([...edges].filter((e) => cage.face[2 * e] === NONE && cage.face[2 * e + 1] === NONE));
  const spokesOf = [...vertices].map((v) => [v, cage.spokes(v).filter((h) => !lone.has(h >> 1))] as const);
  for (const [v, spokes] of spokesOf) {
    cage.vertexEdge[v] = spokes[0] ?? NONE;
    // a border half-edge that comes in goes on to the next fan's outgoing one
    spokes.forEach((h, i) => {
      if (cage.face[h ^ 1] === NONE) cage.next[h ^ 1] = spokes[(i + 1) % spokes.length];
    });
    cage.settleVertex(v);
  }
  for (const e of lone) cage.freeEdge(e);
}

/**
 * Adds a face over existing vertices, along border half-edges where there are some and along new edges elsewhere.
 * Fans that meet in a vertex stay linked in one turn (compare Botsch, Kobbelt and others, Polygon Mesh Processing, 2010).
 * @throws CageError where an edge has two faces already, or no gap at a vertex is left
 */
function addFace(cage: Cage, corners: number[]): number {
  const n = corners.length;
  if (n < 3 || new Set(corners).size < n)
    throw new CageError(`A face of the vertices ${corners.join(', ')} would have fewer than three corners or touch itself.`);
  const fresh: boolean[] = [];
  const halves = corners.map((v, i) => {
    const w = corners[(i + 1) % n];
    const h = cage.findHalfEdge(v, w);
    if (h !== NONE && cage.face[h] !== NONE) throw new CageError(`The edge between vertices ${v} and ${w} has a face on this side already.`);
    fresh[i] = h === NONE;
    return h;
  });
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    if (!fresh[i] && !fresh[j] && cage.next[halves[i]] !== halves[j]) openGap(cage, halves[i], halves[j]);
  }
  for (let i = 0; i < n; i++) if (fresh[i]) halves[i] = cage.addEdgeSlot(corners[i], corners[(i + 1) % n]);
  const f = cage.addFaceSlot(halves[0]);
  const links: [number, number][] = [];
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    linkCorner(cage, halves[i], halves[j], fresh[i], fresh[j], links);
    cage.face[halves[i]] = f;
  }
  for (const [a, b] of links) cage.next[a] = b;
  for (const v of corners) cage.settleVertex(v);
  return f;
}

/** Makes b follow a, both border half-edges at one vertex, by moving the fan between them into another gap. */
function openGap(cage: Cage, a: number, b: number): void {
  let gap = b ^ 1;
  // turn on from b to another border half-edge that comes in
  do gap = cage.next[gap] ^ 1;
  while (cage.face[gap] !== NONE);
  if (gap === a) throw new CageError(`At vertex ${cage.origin[b]} there is no room for another face.`);
  const afterGap = cage.next[gap];
  const patchStart = cage.next[a];
  const patchEnd = beforeOnBorder(cage, b);
  cage.next[gap] = patchStart;
  cage.next[patchEnd] = afterGap;
  cage.next[a] = b;
}

function beforeOnBorder(cage: Cage, h: number): number {
  let p = h ^ 1;
  while (cage.next[p] !== h) p = cage.next[p] ^ 1;
  return p;
}

/** Collects what must follow what at the vertex between two half-edges of a new face. */
function linkCorner(cage: Cage, a: number, b: number, aNew: boolean, bNew: boolean, links: [number, number][]): void {
  const v = cage.origin[b];
  const outIn = b ^ 1;
  const outOut = a ^ 1;
  if (aNew && bNew) {
    const out = cage.vertexEdge[v];
    if (out === NONE) {
      cage.vertexEdge[v] = b;
      links.push([outIn, outOut]);
    } else {
      // `settleVertex` keeps a border half-edge there wherever there is one
      if (cage.face[out] !== NONE) throw new CageError(`Vertex ${v} has faces all round: no other can be added there.`);
      links.push([beforeOnBorder(cage, out), outOut], [outIn, out]);
    }
  } else if (aNew) links.push([beforeOnBorder(cage, b), outOut]);
  else if (bNew) links.push([outIn, cage.next[a]]);
  links.push([a, b]);
}

/** Gives all fans but the first that only touch in v a vertex of their own. */
function splitPinched(cage: Cage, v: number): void {
  const spokes = cage.spokes(v);
  const starts = spokes.flatMap((h, i) => (cage.face[h] === NONE ? [i] : []));
  if (starts.length < 2) return;
  starts.forEach((start, k) => {
    const count = ((starts[(k + 1) % starts.length] - start + spokes.length - 1) % spokes.length) + 1;
    const fan = Array.from({ length: count }, (_, i) => spokes[(start + i) % spokes.length]);
    const at = k === 0 ? v : cage.addVertex(...cage.position(v));
    if (k > 0) cage.copyValues('vertex', v, at);
    for (const h of fan) cage.origin[h] = at;
    cage.vertexEdge[at] = fan[0];
    cage.next[fan[fan.length - 1] ^ 1] = fan[0];
  });
}
