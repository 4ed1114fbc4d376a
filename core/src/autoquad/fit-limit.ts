import { Cage } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { add, areaVector, dot, leastSine, length, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { lookingAlong, surfacePoint, type TriangleBvh } from '../reference/triangle-bvh.ts';
import { cageLevel, STAYS_SHARP } from '../subdivide/level-topology.ts';
import { limitRows } from '../subdivide/limit.ts';
import { applyRow } from '../subdivide/weight-rows.ts';
import { type FeatureLines } from './settle-quads.ts';

const ROUNDS = 8;
/** A limit place this near to where it is to be, as a share of an edge, is there. */
const DONE = 5e-4;
/** How far a vertex goes, against how far its limit place is off: half as far again, as other vertices have a share in that place. */
const OVER = 1.5;
/** Corners with a sine below this must not get sharper. */
const POOR = 0.5;
/** Cosine of the angle by which a quad must not turn in one step. */
const TURNED = 0.5;
/** Cosine beyond which a point of the surface belongs to another side. */
const LOOKS_AWAY = 0.25;

/**
 * Moves the vertices of quads so that their limit places lie on a surface, and those of borders and creases that stay sharp on its lines: a
 * vertex goes where its limit place is to go (Gauss-Seidel rounds), less far or not at all where a corner would suffer.
 * @param mesh quads, with their creases; its positions change
 * @param normals unit normals by triangle of `surface`
 * @param fixed 1 by vertex that stays where it is
 */
export function fitLimit(mesh: PolygonMesh, surface: TriangleBvh, normals: Float64Array, lines: FeatureLines, fixed?: Uint8Array): void {
  const { positions, faceVertices } = mesh;
  const cage = Cage.fromPolygons(mesh);
  const rows = limitRows(cageLevel(mesh, 'sharp'), 'catmull-clark');
  const quadsAt: number[][] = Array.from({ length: positions.length / 3 }, () => []);
  faceVertices.forEach((v, i) => quadsAt[v].push(i >> 2));
  const sharp = new Set(mesh.creaseEdges?.filter((_, i) => mesh.creaseSharpness![i >> 1] >= STAYS_SHARP));
  const place = (v: number): Triple => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  const cornersOf = (q: number) => [0, 1, 2, 3].map((k) => place(faceVertices[4 * q + k]));
  const found = surfacePoint();
  const lastFound = new Int32Array(quadsAt.length).fill(-1);
  const limit = new Float64Array(3);
  const limitOf = (v: number): Triple => {
    applyRow(rows, v, positions, limit, 0);
    return [limit[0], limit[1], limit[2]];
  };
  const goalOf = (v: number, at: Triple, normal: Triple): Triple | undefined => {
    const line = cage.isBorderVertex(v) ? lines.border : sharp.has(v) ? lines.sharp : undefined;
    if (line) line.closest(...at, found);
    else {
      surface.closest(...at, found, Infinity, lookingAlong(normals, normal, LOOKS_AWAY), lastFound[v]);
      lastFound[v] = found.triangle;
    }
    return found.triangle < 0 ? undefined : [found.x, found.y, found.z];
  };
  // none may turn over, seen along the quads as they were before the vertex moved
  const worstAt = (v: number, seen: readonly Triple[], enough: number) => {
    let worst = 1;
    for (let i = 0; i < seen.length && worst >= enough; i++) {
      const corners = cornersOf(quadsAt[v][i]);
      const normal = unit(areaVector(corners));
      worst = dot(normal, seen[i]) > TURNED ? Math.min(worst, leastSine(corners, normal)) : -1;
    }
    return worst;
  };
  // a vertex is looked at again where one that its limit place depends on has moved
  const due = new Uint8Array(quadsAt.length).fill(1);
  for (let round = 0; round < ROUNDS; round++)
    for (let v = 0; v < quadsAt.length; v++) {
      if (due[v] === 0 || quadsAt[v].length === 0 || fixed?.[v] === 1) continue;
      due[v] = 0;
      const seen = quadsAt[v].map((q) => unit(areaVector(cornersOf(q))));
      const normal = unit(seen.reduce((sum, n) => add(sum, n)));
      const at = limitOf(v);
      const goal = goalOf(v, at, normal);
      if (!goal) continue;
      const own = place(v);
      const near = DONE * length(subtract(own, place(rows.index[rows.start[v] + 1] ?? v)));
      if (length(subtract(goal, at)) <= near) continue;
      const sound = Math.min(POOR, worstAt(v, seen, -1));
      for (const share of [OVER, OVER / 3]) {
        positions.set(add(own, scaled(subtract(goal, at), share)), 3 * v);
        if (worstAt(v, seen, sound) >= sound) {
          for (let k = rows.start[v]; k < rows.start[v + 1]; k++) due[rows.index[k]] = 1;
          break;
        }
        positions.set(own, 3 * v);
      }
    }
}
