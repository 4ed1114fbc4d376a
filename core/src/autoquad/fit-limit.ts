import { Cage } from '../mesh/cage.ts';
import { quadsAtVertices, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { quadShape } from '../numeric/quad-shape.ts';
import { add, length, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { lookingAlong, surfacePoint, type TriangleBvh } from '../reference/triangle-bvh.ts';
import { cageLevel, STAYS_SHARP } from '../subdivide/level-topology.ts';
import { limitRows } from '../subdivide/limit.ts';
import { applyRow } from '../subdivide/weight-rows.ts';
import { type MirroredPlaces } from './mirrored-places.ts';
import { type FeatureLines } from './settle-quads.ts';

const ROUNDS = 8;
/** A limit place this near to where it is to be, as a share of an edge, is there. */
const DONE = 5e-4;
/** How far a vertex goes, against how far its limit place is off: half as far again, as other vertices have a share in that place. */
const OVER = 1.5;
/** Quads with a shape below this must not get poorer, where nothing else is asked for. */
const POOR = 0.7;
/** The same of vertices that have a place to go to. */
const POOR_AT_TIPS = 0.55;
/** Cosine of the angle by which a quad must not turn in one step. */
const TURNED = 0.5;
/** Cosine beyond which a point of the surface belongs to another side. */
const LOOKS_AWAY = 0.25;

/** What else is asked of a fit. */
interface FitWishes {
  /** 1 by vertex that stays where it is */
  fixed?: Uint8Array;
  /** shape of quads that must not get poorer */
  poor?: number;
  /** by vertex, where its limit place is to go instead of to the nearest place of the surface */
  goals?: ReadonlyMap<number, Triple>;
  /** the mesh's vertices, where some are images of others: these are fitted by what they follow */
  mirrored?: MirroredPlaces;
}

/**
 * Moves the vertices of quads so that their limit places lie on a surface, and those of borders and creases that stay sharp on its lines: a
 * vertex goes where its limit place is to go (Gauss-Seidel rounds), less far or not at all where a quad's shape would suffer.
 * @param mesh quads, with their creases; its positions change
 * @param normals unit normals by triangle of `surface`
 */
export function fitLimit(
  mesh: PolygonMesh,
  surface: TriangleBvh,
  normals: Float64Array,
  lines: FeatureLines,
  { fixed, poor = POOR, goals, mirrored }: FitWishes = {}
): void {
  const { positions, faceVertices } = mesh;
  const cage = Cage.fromPolygons(mesh);
  const rows = limitRows(cageLevel(mesh, 'sharp'), 'catmull-clark');
  const quadsAt = quadsAtVertices(faceVertices, positions.length / 3);
  const sharp = new Set(mesh.creaseEdges?.filter((_, i) => mesh.creaseSharpness![i >> 1] >= STAYS_SHARP));
  const place = (v: number): Triple => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  const found = surfacePoint();
  const lastFound = new Int32Array(quadsAt.length).fill(-1);
  const limit = new Float64Array(3);
  const limitOf = (v: number): Triple => {
    applyRow(rows, v, positions, limit, 0);
    return [limit[0], limit[1], limit[2]];
  };
  const goalOf = (v: number, at: Triple, normal: Triple): Triple | undefined => {
    const asked = goals?.get(v);
    if (asked) return asked;
    const line = cage.isBorderVertex(v) ? lines.border : sharp.has(v) ? lines.sharp : undefined;
    if (line) line.closest(...at, found);
    else {
      surface.closest(...at, found, Infinity, lookingAlong(normals, normal, LOOKS_AWAY), lastFound[v]);
      lastFound[v] = found.triangle;
    }
    return found.triangle < 0 ? undefined : [found.x, found.y, found.z];
  };
  // unit normals of the quads round a vertex as they were before it moved
  const seen = new Float64Array(3 * quadsAt.reduce((most, quads) => Math.max(most, quads.length), 0));
  const own = new Float64Array(3);
  const look = (v: number): { normal: Triple; worst: number } => {
    const normal: Triple = [0, 0, 0];
    let worst = 1;
    quadsAt[v].forEach((q, i) => {
      worst = Math.min(worst, quadShape(positions, faceVertices, 4 * q, own));
      seen.set(own, 3 * i);
      for (let k = 0; k < 3; k++) normal[k] += own[k];
    });
    return { normal: unit(normal), worst };
  };
  // none may turn over against these
  const isSound = (v: number, least: number): boolean =>
    quadsAt[v].every((q, i) => {
      const shape = quadShape(positions, faceVertices, 4 * q, own);
      return shape >= least && own[0] * seen[3 * i] + own[1] * seen[3 * i + 1] + own[2] * seen[3 * i + 2] > TURNED;
    });
  const put = (v: number, to: Triple) => {
    positions.set(to, 3 * v);
    mirrored?.settle(v);
  };
  // a vertex is looked at again where one that its limit place depends on has moved
  const due = new Uint8Array(quadsAt.length).fill(1);
  for (let round = 0; round < ROUNDS; round++)
    for (let v = 0; v < quadsAt.length; v++) {
      if (due[v] === 0 || quadsAt[v].length === 0 || fixed?.[v] === 1 || mirrored?.isImage(v)) continue;
      due[v] = 0;
      const { normal, worst } = look(v);
      const at = limitOf(v);
      const goal = goalOf(v, at, normal);
      if (!goal) continue;
      const here = place(v);
      const near = DONE * length(subtract(here, place(rows.index[rows.start[v] + 1] ?? v)));
      if (length(subtract(goal, at)) <= near) continue;
      for (const share of [OVER, OVER / 3]) {
        put(v, add(here, scaled(subtract(goal, at), share)));
        if (isSound(v, Math.min(goals?.has(v) ? POOR_AT_TIPS : poor, worst))) {
          for (let k = rows.start[v]; k < rows.start[v + 1]; k++) due[rows.index[k]] = 1;
          break;
        }
        put(v, here);
      }
    }
}
