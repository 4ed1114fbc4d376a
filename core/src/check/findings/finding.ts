import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { mean, type Triple } from '../../numeric/vectors.ts';
import { type Params } from '../../operations/operation.ts';
import { type Selection, verticesOf } from '../../select/selection.ts';
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

/** What all kinds share: lengths and bends, found once. */
export class CheckGround {
  readonly cage: Cage;
  readonly settings: SurfaceSettings;
  readonly reference?: PolygonMesh;
  /** unit normals by face id */
  private readonly normals: Float64Array;
  /** degrees that the surface turns by at an edge, by its id; 0 at borders */
  private readonly folds: Float32Array;

  constructor({ cage, settings, reference }: CheckedPart) {
    this.cage = cage;
    this.settings = settings;
    this.reference = reference;
    this.normals = faceNormals(cage);
    this.folds = new Float32Array(cage.edgeSlots);
    for (const e of cage.edges()) {
      const [f, g] = [3 * cage.face[2 * e], 3 * cage.face[2 * e + 1]];
      if (f < 0 || g < 0) continue;
      const n = this.normals;
      const cosine = n[f] * n[g] + n[f + 1] * n[g + 1] + n[f + 2] * n[g + 2];
      this.folds[e] = (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI;
    }
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

/** Unit normals of all faces, by id (Newell). */
function faceNormals(cage: Cage): Float64Array {
  const { origin, next, faceEdge, positions: p } = cage;
  const normals = new Float64Array(3 * cage.faceSlots);
  for (const f of cage.faces()) {
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
    normals.set([x / long, y / long, z / long], 3 * f);
  }
  return normals;
}

/** A kind of findings. */
export interface FindingKind {
  id: string;
  /** as a heading of its findings */
  name: string;
  find(ground: CheckGround): Finding[];
}

/** Degrees of fold below which nothing bends. */
export const FLAT_FOLD = 0.5;
/** Share of an edge's length by which the smooth surface has to be off for it to be seen. */
export const SEEN = 0.001;
