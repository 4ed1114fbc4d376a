import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { mean, type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { type Params } from '../../operations/operation.ts';
import { type Selection, verticesOf } from '../../select/selection.ts';
import { limitPoints } from '../limit-points.ts';
import { MirrorPartners } from '../mirror-partners.ts';
import { type SurfaceSettings } from '../../subdivide/level-plan.ts';

/** A way to mend a finding: an operation on what is picked for it. */
export interface Fix {
  label: string;
  /** id of the operation */
  operation: string;
  params: Params;
  pick: Selection;
}

/** One thing the check found. */
export interface Finding {
  /** id of its kind */
  kind: string;
  place: Triple;
  where: Selection;
  size: number;
  unit: 'mm' | '°' | '×' | '';
  /** whether it shows on the smooth surface */
  visible: boolean;
  /** mm that stand for how much it shows; the more, the higher it is listed */
  rank: number;
  /** one sentence: what it is, and why it shows or does not */
  why: string;
  fixes: Fix[];
}

/** What is looked at. */
export interface CheckedPart {
  cage: Cage;
  settings: SurfaceSettings;
  reference?: PolygonMesh;
}

/** A part that was looked through before, and what of it has changed. */
export interface Before {
  ground: CheckGround;
  /** faces whose normals may be others */
  changed: readonly number[];
  /** vertices that have moved, come or gone */
  vertices: readonly number[];
}

/** What all kinds share: lengths and bends, found once, and the elements that are looked at: all, or those round what has changed. */
export class CheckGround {
  readonly cage: Cage;
  readonly settings: SurfaceSettings;
  readonly reference?: PolygonMesh;
  /** unit normals by face id */
  private readonly normals: Float64Array;
  /** degrees that the surface turns by at an edge, by its id; 0 at borders */
  private readonly folds: Float32Array;
  private scope?: readonly number[];
  /** mm that the smooth surface lies off the reference, by vertex id, once that was asked for */
  private off?: Float64Array;
  private mirrors?: MirrorPartners;

  constructor({ cage, settings, reference }: CheckedPart, before?: Before) {
    this.cage = cage;
    this.settings = settings;
    this.reference = reference;
    this.normals = copied(before?.ground.normals, new Float64Array(3 * cage.faceSlots));
    this.folds = copied(before?.ground.folds, new Float32Array(cage.edgeSlots));
    const faces = before?.changed ?? [...cage.faces()];
    takeNormals(cage, faces, this.normals);
    for (const e of before ? this.edgesOf(faces) : cage.edges()) {
      const [f, g] = [3 * cage.face[2 * e], 3 * cage.face[2 * e + 1]];
      this.folds[e] = 0;
      if (f < 0 || g < 0) continue;
      const n = this.normals;
      const cosine = n[f] * n[g] + n[f + 1] * n[g + 1] + n[f + 2] * n[g + 2];
      this.folds[e] = (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI;
    }
    if (before?.ground.mirrors) this.mirrors = new MirrorPartners(cage, { partners: before.ground.mirrors, changed: before.vertices });
    if (before?.ground.off && before.ground.reference === reference) {
      this.off = copied(before.ground.off, new Float64Array(cage.vertexSlots));
      this.takeOff(this.off, this.verticesOf(faces));
    }
  }

  /** The same ground, of which some faces are looked at alone. */
  within(faces: readonly number[]): CheckGround {
    const ground = Object.assign(Object.create(CheckGround.prototype) as CheckGround, this);
    ground.scope = faces;
    return ground;
  }

  /** Faces that are looked at. */
  faces(): Iterable<number> {
    return this.scope ?? this.cage.faces();
  }
  /** Edges that are looked at. */
  edges(): Iterable<number> {
    return this.scope ? this.edgesOf(this.scope) : this.cage.edges();
  }
  /** Vertices that are looked at. */
  vertices(): Iterable<number> {
    return this.scope ? this.verticesOf(this.scope) : this.cage.vertices();
  }

  private edgesOf(faces: Iterable<number>): Set<number> {
    const edges = new Set<number>();
    for (const f of faces) for (const h of this.cage.loopOf(this.cage.faceEdge[f])) edges.add(h >> 1);
    return edges;
  }

  private verticesOf(faces: Iterable<number>): Set<number> {
    const vertices = new Set<number>();
    for (const f of faces) for (const v of this.cage.faceVertices(f)) vertices.add(v);
    return vertices;
  }

  /** How far vertices are from having partners in mirrors; found once. */
  partners(): MirrorPartners {
    return (this.mirrors ??= new MirrorPartners(this.cage));
  }

  /** Edges that the surface turns by so many degrees at, or more. */
  foldedFrom(degrees: number): number[] {
    const found: number[] = [];
    for (let e = 0; e < this.folds.length; e++) if (this.folds[e] >= degrees && this.cage.hasEdge(e)) found.push(e);
    return found;
  }

  /** How far the smooth surface lies off the reference at a vertex, mm. */
  offReference(v: number): number {
    this.off ??= this.takeOff(new Float64Array(this.cage.vertexSlots), this.cage.vertices());
    return this.off[v];
  }

  /** Whether the smooth surface lies on the reference at some vertices: it is as it is meant there. @param edge length of the edges there, mm */
  isOnReference(vertices: Iterable<number>, edge: number): boolean {
    return this.reference !== undefined && [...vertices].every((v) => this.offReference(v) <= ON_REFERENCE * edge);
  }

  private takeOff(off: Float64Array, vertices: Iterable<number>): Float64Array {
    const own = [...vertices];
    const distances = Reference.of(this.reference!).distances(limitPoints(this.cage, own, this.settings));
    own.forEach((v, i) => (off[v] = Math.abs(distances[i])));
    return off;
  }

  /** Degrees that the surface turns by at an edge; 0 at borders. */
  foldAt(e: number): number {
    return this.folds[e];
  }

  /** Unit normal of a face. */
  normalOf(f: number): Triple {
    return [this.normals[3 * f], this.normals[3 * f + 1], this.normals[3 * f + 2]];
  }

  /** The largest fold at edges that touch some vertices, and at those of the faces there. */
  bendRound(vertices: Iterable<number>): number {
    const { cage } = this;
    let most = 0;
    for (const v of vertices)
      for (const h of cage.spokes(v)) {
        most = Math.max(most, this.foldAt(h >> 1));
        if (cage.face[h] !== NONE) for (const k of cage.loopOf(h)) most = Math.max(most, this.foldAt(k >> 1));
      }
    return most;
  }

  /** Mean length of the edges of a face, mm. */
  edgeOf(f: number): number {
    const loop = this.cage.loopOf(this.cage.faceEdge[f]);
    return loop.reduce((sum, h) => sum + this.cage.edgeLength(h >> 1), 0) / loop.length;
  }

  /** The middle of what is picked. */
  middle(where: Selection): Triple {
    return mean(verticesOf(this.cage, where).map((v) => this.cage.position(v)));
  }
}

/** As much of an array as another has room for, in that one. */
function copied<T extends Float32Array | Float64Array>(from: T | undefined, to: T): T {
  if (from) to.set(from.length > to.length ? (from.subarray(0, to.length) as T) : from);
  return to;
}

/** Takes unit normals of some faces (Newell). @param normals by id; changed */
function takeNormals(cage: Cage, faces: Iterable<number>, normals: Float64Array): void {
  const { origin, next, faceEdge, positions: p } = cage;
  for (const f of faces) {
    const first = faceEdge[f];
    let [x, y, z, h] = [0, 0, 0, first];
    do {
      const [a, b] = [3 * origin[h], 3 * origin[next[h]]];
      x += (p[a + 1] - p[b + 1]) * (p[a + 2] + p[b + 2]);
      y += (p[a + 2] - p[b + 2]) * (p[a] + p[b]);
      z += (p[a] - p[b]) * (p[a + 1] + p[b + 1]);
      h = next[h];
    } while (h !== first);
    const long = Math.hypot(x, y, z) || 1;
    normals[3 * f] = x / long;
    normals[3 * f + 1] = y / long;
    normals[3 * f + 2] = z / long;
  }
}

/** A kind of findings. */
export interface FindingKind {
  id: string;
  /** as a heading of its findings */
  name: string;
  /** what its findings go by: what lies near them, how all is connected, or all of the part */
  goesBy: 'what is near' | 'connectivity' | 'everything';
  find(ground: CheckGround): Finding[];
}

/** Degrees of fold below which nothing bends. */
export const FLAT_FOLD = 0.5;
/** Share of an edge's length by which the smooth surface has to be off for it to be seen. */
export const SEEN = 0.001;
/** Share of an edge's length within which the smooth surface lies on the reference. */
const ON_REFERENCE = 0.05;
