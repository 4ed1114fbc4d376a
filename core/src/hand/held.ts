import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { vertexNormal } from '../mesh/normals.ts';
import { Reference } from '../reference/reference.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { SurfaceWalk } from './surface-walk.ts';

/** Shares from which on a vertex is held: one between two held ones is, up to rounding. */
const WHOLLY = 0.999;

/** Vertices that are held to the reference for good. */
export const heldVertices = (cage: Cage): number[] =>
  cage.layers.has('held') ? [...cage.vertices()].filter((v) => cage.value('held', v) >= WHOLLY) : [];

/** Says of some vertices of a cage whether they are held to the reference for good. @param cage changed */
export function setHeld(cage: Cage, vertices: Iterable<number>, held: boolean): void {
  if (!held && !cage.layers.has('held')) return;
  for (const v of vertices) cage.setValue('held', v, held ? 1 : 0);
}

/**
 * Brings held vertices that were moved, or made between held ones, onto the reference: each to its nearest place that looks the vertex's way.
 * @param now changed
 * @returns these vertices
 */
export function heedHold(before: Cage, now: Cage, reference: PolygonMesh): readonly number[] {
  if (!now.layers.has('held')) return [];
  const moved = heldVertices(now).filter((v) => !before.hasVertex(v) || before.position(v).some((x, k) => x !== now.positions[3 * v + k]));
  if (moved.length === 0) return moved;
  const walk = SurfaceWalk.over(Reference.of(reference));
  const goals = moved.map((v) => {
    const p = now.position(v);
    return (now.vertexEdge[v] === NONE ? undefined : walk.nearest(p, vertexNormal(now, v))) ?? walk.nearest(p);
  });
  goals.forEach((goal, i) => goal && now.positions.set(goal.at, 3 * moved[i]));
  return moved;
}
