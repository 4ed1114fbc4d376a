import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { closestOnSegment, length, subtract } from '../numeric/vectors.ts';
import { deepestLevel, type SurfaceSettings } from '../subdivide/level-plan.ts';
import { type LevelTopology } from '../subdivide/level-topology.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { lengthInWords } from '../numeric/length-words.ts';
import { limitDistance } from './limit-distance.ts';

export interface PlanReport {
  level: number;
  faces: number;
  /** mm */
  edges: { least: number; mean: number; most: number };
  /** how far the curves of borders and creases, all levels smooth, are from the level's edges that stand for them at most, in mm; missing where there are none */
  facetError?: number;
  /** how far the limit surface is from the one with every level smooth at most, in mm; 0 where they are the same */
  moved: number;
}

/** Faces at most that a report subdivides to. */
const MOST_FACES = 400_000;

/** The highest level up to `wanted` that a report can be made of. */
export function reportLevel(mesh: PolygonMesh, wanted: number): number {
  return deepestLevel(mesh.faceVertices.length, MOST_FACES, wanted, 1);
}

/** Faces that two limit surfaces are compared with, for an answer at once. */
const MOST_COMPARED = 10_000;

/** What a level plan gives at a level, and how far its limit surface is from that of all levels smooth. */
export function planReport(mesh: PolygonMesh, settings: SurfaceSettings, level: number): PlanReport {
  const { scheme, borderCorners, plan } = settings;
  const planned = new Subdivision(mesh, { ...settings, levels: level });
  const points = planned.evaluate(mesh.positions);
  const smooth = { mesh, settings: { scheme, borderCorners } };
  const limit = new Subdivision(mesh, { ...smooth.settings, levels: level + 1, limit: true }).evaluate(mesh.positions);
  return {
    level,
    faces: planned.last.faceStart.length - 1,
    edges: edgeLengths(planned.last, points),
    facetError: facetError(planned, points, limit),
    moved: plan ? (limitDistance({ mesh, settings }, smooth, MOST_COMPARED) ?? 0) : 0
  };
}

function edgeLengths({ edges, edgeVertices }: LevelTopology, p: Float64Array): PlanReport['edges'] {
  let [least, most, sum] = [Infinity, 0, 0];
  for (let e = 0; e < edges; e++) {
    const [a, b] = [3 * edgeVertices[2 * e], 3 * edgeVertices[2 * e + 1]];
    const length = Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]);
    least = Math.min(least, length);
    most = Math.max(most, length);
    sum += length;
  }
  return { least: edges > 0 ? least : 0, mean: edges > 0 ? sum / edges : 0, most };
}

/** Vertex v of a level is vertex v of the next, and the middle of edge e is the next level's vertex V + e: so the curve is compared with its edge. */
function facetError(planned: Subdivision, points: Float64Array, limit: Float64Array): number | undefined {
  const { levels, last } = planned;
  let lines: number[] = [];
  const cage = levels[0];
  for (let e = 0; e < cage.edges; e++) if (cage.edgeFaces[2 * e + 1] < 0 || cage.edgeSharpness[e] > 0) lines.push(e);
  if (lines.length === 0) return undefined;
  for (let k = 1; k < levels.length; k++) lines = lines.flatMap((e) => [2 * e, 2 * e + 1]);
  const nearest = new Map<number, number>();
  for (const e of lines) {
    const ends = [last.edgeVertices[2 * e], last.edgeVertices[2 * e + 1]];
    const [from, to] = ends.map((v) => points.subarray(3 * v, 3 * v + 3));
    for (const v of [last.vertices + e, ...ends]) {
      const p = [limit[3 * v], limit[3 * v + 1], limit[3 * v + 2]];
      const off = length(subtract(p, closestOnSegment(p, [...from], [...to])));
      nearest.set(v, Math.min(nearest.get(v) ?? Infinity, off));
    }
  }
  return [...nearest.values()].reduce((a, b) => Math.max(a, b), 0);
}

/** The report as two sentences, lengths in mm. */
export function describePlanReport({ level, faces, edges, facetError: off, moved }: PlanReport): string {
  const { least, most, mean } = edges;
  const lengths = `edges ${least.toFixed(2)} to ${most.toFixed(2)} mm (mean ${mean.toFixed(2)})`;
  const facets = off === undefined ? '' : `; borders and creases are up to ${lengthInWords(off)} off their smooth curves`;
  const limit = moved === 0 ? 'is the same as with all levels smooth' : `is up to ${lengthInWords(moved)} from that of all levels smooth`;
  return `Level ${level}: ${faces.toLocaleString('en')} faces, ${lengths}${facets}. The smooth limit ${limit}.`;
}
