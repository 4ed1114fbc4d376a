import { type Cage } from '../mesh/cage.ts';
import { changedHalves, touchedVertices } from '../mesh/difference.ts';
import { cageOfFaces } from '../mesh/join-cages.ts';
import { facesRound, isPole } from '../mesh/topology.ts';
import { Reference } from '../reference/reference.ts';
import { describeLoop, loopThrough } from '../select/loops.ts';
import { deepestLevel } from '../subdivide/level-plan.ts';
import { Subdivision, type SubdivisionOptions } from '../subdivide/subdivision.ts';

export interface Pole {
  vertex: number;
  valence: number;
}

/** What an operation would bring, told before the act. */
export interface Forecast {
  /** poles there would be that are none now, or of another valence */
  appear: Pole[];
  /** poles there are now that would be none, or of another valence */
  cancel: Pole[];
  triangles: number;
  ngons: number;
  /** how far the limit surface would move at most, in mm; missing where too much of it changes for an answer at once */
  moved?: number;
}

/** Faces round a change beyond which its surface is not compared: it would not be there at once. */
const MOST_FACES = 4000;
/** Rings of faces round a change whose surface it can reach, and as many again that keep the patch's border away. */
const RINGS = 4;
/** Faces of the subdivided patches at most: the finer, the nearer the measured distance. */
const MOST_FINE = 50_000;

/** Compares a cage with what an operation would make of it; elements are the same where their ids are. */
export function forecast(before: Cage, after: Cage, options: Pick<SubdivisionOptions, 'borderCorners' | 'plan'> = {}): Forecast {
  const touched = touchedVertices(before, after);
  const poles = (cage: Cage, vertices: number[]) =>
    vertices.filter((v) => isPole(cage, v)).map((vertex) => ({ vertex, valence: cage.valence(vertex) }));
  const [was, will] = [poles(before, touched.before), poles(after, touched.now)];
  const without = (list: Pole[], others: Pole[]) => list.filter((p) => !others.some((q) => q.vertex === p.vertex && q.valence === p.valence));
  const halves = changedHalves(before, after);
  const sizes = (cage: Cage) => {
    const faces = new Set(halves.filter((h) => cage.hasEdge(h >> 1)).map((h) => cage.face[h]));
    const counts = [...faces].filter((f) => cage.hasFace(f)).map((f) => cage.faceSize(f));
    return { triangles: counts.filter((n) => n === 3).length, ngons: counts.filter((n) => n > 4).length };
  };
  const [sizesBefore, sizesAfter] = [sizes(before), sizes(after)];
  return {
    appear: without(will, was),
    cancel: without(was, will),
    triangles: sizesAfter.triangles - sizesBefore.triangles,
    ngons: sizesAfter.ngons - sizesBefore.ngons,
    moved: largestMove(before, after, touched, options)
  };
}

/** The limit surface of the faces round some vertices; points that a change cannot reach are the same on both sides. */
function patchSurface(cage: Cage, vertices: number[], options: Pick<SubdivisionOptions, 'borderCorners' | 'plan'>, levels: number) {
  const { cage: patch } = cageOfFaces(cage, facesRound(cage, vertices, RINGS));
  const mesh = patch.toPolygons();
  const surface = new Subdivision(mesh, { levels: Math.max(levels, options.plan?.steps.length ?? 0), limit: true, ...options });
  const { faceStart, faceVertices } = surface.last;
  return { positions: surface.evaluate(mesh.positions), faceStart, faceVertices };
}

/** The largest distance of the old limit surface from the new one, and of the new from the old, near what changed. */
function largestMove(
  before: Cage,
  after: Cage,
  touched: { before: number[]; now: number[] },
  options: Pick<SubdivisionOptions, 'borderCorners' | 'plan'>
): number | undefined {
  const faces = Math.max(facesRound(before, touched.before, RINGS).length, facesRound(after, touched.now, RINGS).length);
  if (touched.before.length === 0 && touched.now.length === 0) return 0;
  if (faces > MOST_FACES) return undefined;
  const levels = deepestLevel(faces, MOST_FINE, 4, 1);
  const surfaces = [patchSurface(before, touched.before, options, levels), patchSurface(after, touched.now, options, levels)];
  if (surfaces.some(({ faceVertices }) => faceVertices.length === 0)) return undefined;
  const far = (from: number, to: number) => new Reference(surfaces[to]).distances(surfaces[from].positions).reduce((a, b) => Math.max(a, b), 0);
  return Math.max(far(0, 1), far(1, 0));
}

/** "poles of 3: 2 more, 1 gone; the smooth surface moves by up to 0.42 mm", a sentence for the card. */
export function describeForecast({ appear, cancel, triangles, ngons, moved }: Forecast): string {
  const said: string[] = [];
  const amount = (n: number) => `${Math.abs(n)} ${n > 0 ? 'more' : 'fewer'}`;
  for (const valence of [...new Set([...appear, ...cancel].map((p) => p.valence))].sort((a, b) => a - b)) {
    const [more, fewer] = [appear, cancel].map((list) => list.filter((p) => p.valence === valence).length);
    said.push(
      `poles of ${valence}: ${[more > 0 && `${more} appear${more === 1 ? 's' : ''}`, fewer > 0 && `${fewer} go${fewer === 1 ? 'es' : ''}`].filter(Boolean).join(', ')}`
    );
  }
  if (triangles !== 0) said.push(`triangles: ${amount(triangles)}`);
  if (ngons !== 0) said.push(`n-gons: ${amount(ngons)}`);
  if (said.length === 0) said.push('no pole appears or goes');
  if (moved !== undefined) said.push(`the smooth surface moves by up to ${moved.toFixed(2)} mm`);
  return `Forecast: ${said.join('; ')}.`;
}

/** Edges beyond which loops are not told one by one. */
const MOST_LOOPS = 2;

/** "24 edges, closed": the loops through some edges; nothing where there is none or they are many. */
export function describeLoops(cage: Cage, edges: readonly number[]): string | undefined {
  const open = new Set(edges);
  const told: string[] = [];
  for (const e of edges) {
    if (!open.has(e)) continue;
    if (told.length === MOST_LOOPS) return undefined;
    const run = loopThrough(cage, 2 * e);
    for (const h of run.halves) open.delete(h >> 1);
    told.push(describeLoop(run));
  }
  return told.length > 0 ? told.join(' and ') : undefined;
}
