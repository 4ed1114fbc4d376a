import { NONE, type Cage } from '../mesh/cage.ts';
import { cageOfFaces } from '../mesh/join-cages.ts';
import { STAYS_SHARP, type LevelTopology } from '../subdivide/level-topology.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { type WeightRows } from '../subdivide/weight-rows.ts';

/** The limit surface over some faces of a cage, as points that are weighted means of cage vertices. */
export interface LimitPatch {
  surface: Subdivision;
  /** limit places of the last level's points */
  places: Float64Array;
  /** weights of those points over the patch's vertices */
  readonly rows: WeightRows;
  /** cage vertex of each patch vertex */
  vertices: Int32Array;
  /** cage face that each face of the last level lies in */
  faceOf: Int32Array;
  /** edges of the last level on the cage's borders and on creases that stay */
  lines: number[];
}

/**
 * @param faces of the cage; beside them the surface is that of a cut-out, so take two rings of faces more than is looked at
 * @param levels at least 1 for Catmull-Clark
 */
export function limitPatch(cage: Cage, faces: number[], settings: SurfaceSettings, levels: number): LimitPatch {
  const { cage: patch, vertexOf } = cageOfFaces(cage, faces);
  const mesh = patch.toPolygons();
  const oldOf = new Map([...vertexOf].map(([old, fresh]) => [fresh, old]));
  const vertices = mesh.vertexIds.map((v) => oldOf.get(v)!);
  const surface = new Subdivision(mesh, { ...settings, levels: Math.max(levels, settings.plan?.steps.length ?? 0), limit: true });
  // faces were put in in this order
  const faceIds = mesh.faceIds.map((f) => faces[f]);
  let rows: WeightRows | undefined;
  return {
    surface,
    places: surface.evaluate(mesh.positions).slice(),
    // targets are only looked at, and need no weights
    get rows() {
      return (rows ??= surface.combinedRows());
    },
    vertices,
    faceOf: surface.cageFaces().map((f) => faceIds[f]),
    lines: linesOf(cage, surface.levels[0], vertices, surface.levels.length - 1)
  };
}

/** Triangles of the last level, as face corners, three each; those of one cage face, or all. */
export function patchTriangles({ surface, faceOf }: LimitPatch, face?: number): Uint32Array {
  const { faceStart } = surface.last;
  const corners: number[] = [];
  faceOf.forEach((f, i) => {
    if (face !== undefined && f !== face) return;
    for (let c = faceStart[i] + 2; c < faceStart[i + 1]; c++) corners.push(faceStart[i], c - 1, c);
  });
  return Uint32Array.from(corners);
}

function linesOf(cage: Cage, level: LevelTopology, vertices: Int32Array, levels: number): number[] {
  let lines: number[] = [];
  for (let e = 0; e < level.edges; e++) {
    const h = cage.findHalfEdge(vertices[level.edgeVertices[2 * e]], vertices[level.edgeVertices[2 * e + 1]]);
    if (h !== NONE && (cage.isBorderEdge(h >> 1) || cage.value('crease', h >> 1) >= STAYS_SHARP)) lines.push(e);
  }
  // either scheme numbers the halves of edge e as 2e and 2e + 1
  for (let k = 0; k < levels; k++) lines = lines.flatMap((e) => [2 * e, 2 * e + 1]);
  return lines;
}
