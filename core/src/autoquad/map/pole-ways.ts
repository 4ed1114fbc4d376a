import { planeAcross } from '../../numeric/best-fit.ts';
import { areaVector, dot, length, subtract } from '../../numeric/vectors.ts';
import { type Frames } from '../field/curvature.ts';
import { type CutMesh } from '../field/cut-graph.ts';
import { wayAlongEdges } from '../base/way-between.ts';
import { after, before, type WorkingMesh } from '../base/working-mesh.ts';

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

/** A way from a pole to a feature line or border near it. */
export interface LineWay extends PoleWay {
  /** how far it leads along arm 0 and arm 1 of the crosses at its beginning, in the mesh's unit */
  leads: [number, number];
}

/**
 * Ways from poles to the feature lines and borders nearest to them, one to each of eight sides, past no other pole.
 * @param within distance, in the mesh's unit
 */
export function waysToLines(mesh: WorkingMesh, frames: Frames, cut: CutMesh, index: Int8Array, within: number): LineWay[] {
  const held = mesh.onFeatures();
  const onLines = [...held.keys()].filter((v) => held[v]);
  const poles = [...index.keys()].filter((v) => index[v] !== 0 && !held[v]);
  return poles.flatMap((pole) => {
    const start = mesh.point(pole);
    const off = (v: number) => length(subtract(mesh.point(v), start));
    const { u, v: across } = planeAcross(start, areaVector(mesh.spokes(pole, []).map((h) => mesh.point(mesh.corner[after(h)]))));
    const nearest = new Map<number, number>();
    for (const to of onLines) {
      if (off(to) > within) continue;
      const way = subtract(mesh.point(to), start);
      const side = Math.round((4 * Math.atan2(dot(way, across), dot(way, u))) / Math.PI) & 7;
      const known = nearest.get(side);
      if (known === undefined || off(to) < off(known)) nearest.set(side, to);
    }
    return [...nearest.values()].flatMap((to) => {
      const edges = wayAlongEdges(mesh, pole, to, (v) => index[v] === 0 && !held[v] && off(v) <= within);
      const turns = edges && turnsAlong(mesh, cut, edges);
      return turns ? [{ edges, turns, leads: leadsOf(mesh, frames, cut, { edges, turns }) }] : [];
    });
  });
}

function leadsOf(mesh: WorkingMesh, frames: Frames, cut: CutMesh, { edges, turns }: PoleWay): [number, number] {
  const leads: [number, number] = [0, 0];
  edges.forEach((h, i) => {
    const long = Math.sqrt(mesh.edgeLength2(h));
    const angle = frames.angle[h] - cut.theta[Math.floor(h / 3)] - (turns[i] * Math.PI) / 2;
    leads[0] += long * Math.cos(angle);
    leads[1] += long * Math.sin(angle);
  });
  return leads;
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
