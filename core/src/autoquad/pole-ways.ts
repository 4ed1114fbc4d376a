import { cheapestWay } from '../numeric/cheapest-way.ts';
import { length, subtract } from '../numeric/vectors.ts';
import { type CutMesh } from './cut-graph.ts';
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
  const closed = Uint8Array.from(index, (turns) => (turns !== 0 ? 1 : 0));
  for (const h of mesh.featureEdges()) closed[mesh.corner[h]] = closed[mesh.corner[after(h)]] = 1;
  const poles = [...index.keys()].filter((v) => index[v] !== 0);
  const spokes: number[] = [];
  const ways: PoleWay[] = [];
  for (const from of poles)
    for (const to of poles) {
      const start = mesh.point(from);
      const near = (v: number) => length(subtract(mesh.point(v), start)) <= within;
      if (to <= from || !near(to)) continue;
      const edges = cheapestWay(from, to, (v) =>
        mesh.spokes(v, spokes).flatMap((h) => {
          const next = mesh.corner[after(h)];
          return next === to || (!closed[next] && near(next)) ? [{ to: next, cost: Math.sqrt(mesh.edgeLength2(h)), by: h }] : [];
        })
      );
      const turns = edges && turnsAlong(mesh, cut, edges);
      if (turns) ways.push({ edges, turns });
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
