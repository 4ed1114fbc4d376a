import { length, subtract } from '../numeric/vectors.ts';
import { type CutMesh } from './cut-graph.ts';
import { wayAlongEdges } from './way-between.ts';
import { after, before, type WorkingMesh } from './working-mesh.ts';

/** A way along edges from one pole to another near it. */
export interface PoleWay {
  /** half-edges stepped along */
  edges: number[];
  /** quarter turns from the crosses of the first one's triangle to those of each one's */
  turns: number[];
}

/**
 * Ways between poles that lie near each other, past no other pole and over no feature line.
 * @param within distance, in the mesh's unit
 */
export function waysBetweenPoles(mesh: WorkingMesh, cut: CutMesh, index: Int8Array, within: number): PoleWay[] {
  const held = mesh.onFeatures();
  const poles = [...index.keys()].filter((v) => index[v] !== 0);
  const ways: PoleWay[] = [];
  for (const from of poles) {
    const start = mesh.point(from);
    const near = (v: number) => length(subtract(mesh.point(v), start)) <= within;
    for (const to of poles) {
      if (to <= from || !near(to)) continue;
      const edges = wayAlongEdges(mesh, from, to, (v) => index[v] === 0 && !held[v] && near(v));
      const turns = edges && turnsAlong(mesh, cut, edges);
      if (turns) ways.push({ edges, turns });
    }
  }
  return ways;
}

/** Turns round the vertices between: nothing where a border is in the way. */
function turnsAlong(mesh: WorkingMesh, cut: CutMesh, edges: readonly number[]): number[] | undefined {
  const turns = [0];
  let turned = 0;
  for (let i = 1; i < edges.length; i++) {
    for (let h = after(edges[i - 1]); h !== edges[i]; h = mesh.opposite[before(h)]) {
      if (mesh.opposite[before(h)] < 0) return undefined;
      turned += cut.jump[before(h)];
    }
    turns.push(turned);
  }
  return turns;
}
