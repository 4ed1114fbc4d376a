import { STAYS_SHARP, type LevelTopology } from './level-topology.ts';
import { vertexRings, type VertexRings } from './vertex-rings.ts';

/** Corners of one stretch of faces round a vertex without a sharp edge between them, counter-clockwise. */
export interface Sector {
  corners: number[];
  /** the whole round: no two sharp edges bound it */
  closed: boolean;
  /** the whole round of a dart: it begins at the one sharp edge */
  dart: boolean;
}

const isLasting = (level: LevelTopology, e: number) => level.edgeFaces[2 * e + 1] < 0 || level.edgeSharpness[e] >= STAYS_SHARP;

/** The corner before c in its face. */
function cornerBefore(level: LevelTopology, rings: VertexRings, c: number): number {
  const f = rings.cornerFace[c];
  return c > level.faceStart[f] ? c - 1 : level.faceStart[f + 1] - 1;
}

/** The stretches round a vertex between edges that stay sharp, borders among them. */
export function sectorsAt(level: LevelTopology, rings: VertexRings, v: number): Sector[] {
  const byAhead = new Map<number, number>();
  for (let k = rings.cornerStart[v]; k < rings.cornerStart[v + 1]; k++) byAhead.set(level.faceEdges[rings.corner[k]], rings.corner[k]);
  const sharp = [...byAhead.keys()].filter((e) => isLasting(level, e));
  // the last edge of an open fan is no corner's first, but counts as well
  const lasting = new Set<number>();
  for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) if (isLasting(level, rings.edge[k])) lasting.add(rings.edge[k]);
  if (lasting.size < 2) {
    if (byAhead.size === 0) return [];
    const first = byAhead.get([...lasting][0]) ?? [...byAhead.values()][0];
    return [{ corners: walk(level, rings, byAhead, first, new Set()), closed: true, dart: lasting.size === 1 }];
  }
  return sharp.map((e) => ({ corners: walk(level, rings, byAhead, byAhead.get(e)!, lasting), closed: false, dart: false }));
}

/** Counter-clockwise from a corner to the next edge that stops it, or all round. */
function walk(level: LevelTopology, rings: VertexRings, byAhead: Map<number, number>, first: number, stops: Set<number>): number[] {
  const corners = [first];
  for (;;) {
    const behind = level.faceEdges[cornerBefore(level, rings, corners[corners.length - 1])];
    const next = byAhead.get(behind);
    if (next === undefined || next === first || stops.has(behind)) return corners;
    corners.push(next);
  }
}

/** The corner some corners on in its face, where all faces have `size` corners. */
export const cornerOn = (c: number, by: number, size: number): number => c - (c % size) + ((c + by) % size);

/** Points of a level with one copy for every further stretch of faces between edges that stay sharp, so that each has a normal of its own. */
export interface SplitPoints {
  /** point of each face corner: a vertex of the level, or `level.vertices` + the number of a copy */
  cornerPoint: Int32Array;
  /** vertex that each copy stands for */
  copies: Int32Array;
}

/** Points of a level drawn once more where an edge that stays sharp parts the faces round them, so that each side has a normal of its own. */
export function splitAtCreases(level: LevelTopology): SplitPoints {
  const cornerPoint = level.faceVertices.slice();
  const copies: number[] = [];
  const sharp = new Set<number>();
  for (let e = 0; e < level.edges; e++)
    if (level.edgeFaces[2 * e + 1] >= 0 && isLasting(level, e))
      for (const v of [level.edgeVertices[2 * e], level.edgeVertices[2 * e + 1]]) sharp.add(v);
  if (sharp.size > 0) {
    const rings = vertexRings(level);
    for (const v of sharp)
      for (const { corners } of sectorsAt(level, rings, v).slice(1)) {
        for (const c of corners) cornerPoint[c] = level.vertices + copies.length;
        copies.push(v);
      }
  }
  return { cornerPoint, copies: Int32Array.from(copies) };
}
