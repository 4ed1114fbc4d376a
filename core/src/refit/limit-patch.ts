import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { polygonsOfFaces } from '../mesh/polygons-of-faces.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { STAYS_SHARP, type LevelTopology } from '../subdivide/level-topology.ts';
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
  readonly faceOf: Int32Array;
  /** edges of the last level on the cage's borders and on creases that stay */
  readonly lines: number[];
}

/**
 * @param faces of the cage; beside them the surface is that of a cut-out, so take two rings of faces more than is looked at
 * @param levels at least 1 for Catmull-Clark
 */
export function limitPatch(cage: Cage, faces: number[], settings: SurfaceSettings, levels: number): LimitPatch {
  const { mesh, vertices } = polygonsOfFaces(cage, faces);
  const surface = new Subdivision(mesh, { ...settings, levels: Math.max(levels, settings.plan?.steps.length ?? 0), limit: true });
  let rows: WeightRows | undefined;
  let faceOf: Int32Array | undefined;
  let lines: number[] | undefined;
  return {
    surface,
    places: surface.evaluate(mesh.positions).slice(),
    // where surfaces are only looked at, none of these is needed
    get rows() {
      return (rows ??= surface.combinedRows());
    },
    vertices,
    get faceOf() {
      return (faceOf ??= surface.cageFaces().map((f) => faces[f]));
    },
    get lines() {
      return (lines ??= linesOf(cage, surface.levels[0], vertices, surface.levels.length - 1));
    }
  };
}

/** Triangles of a level, as face corners, three each; `of` chooses faces. */
export function levelTriangles({ faceStart }: LevelTopology, of: (face: number) => boolean = () => true): Uint32Array {
  const corners: number[] = [];
  for (let f = 0; f + 1 < faceStart.length; f++)
    if (of(f)) for (let c = faceStart[f] + 2; c < faceStart[f + 1]; c++) corners.push(faceStart[f], c - 1, c);
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
