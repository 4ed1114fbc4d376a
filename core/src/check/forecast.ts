import { lengthInWords } from '../numeric/length-words.ts';
import { type Cage } from '../mesh/cage.ts';
import { changedHalves, influencedVertices, touchedVertices } from '../mesh/difference.ts';
import { polygonsOfFaces } from '../mesh/polygons-of-faces.ts';
import { faceSizes, facesRound, isPole } from '../mesh/topology.ts';
import { describeLoop, loopThrough } from '../select/loops.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { limitDistance, type LimitSurface } from './limit-distance.ts';
import { poorFaces } from './quad-quality.ts';

/** A vertex where not four edges meet; on a border one where more than three do. */
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
  /** faces that would be folded: turned against their neighbours, or with a corner turned the wrong way */
  folded: number[];
  /** quads that would have a corner of nearly 180 degrees */
  flat: number[];
}

/** The surface round a change, before and after it: what its limit's move is measured on. */
export interface ChangedSurface {
  before: LimitSurface;
  after: LimitSurface;
}

/** Faces round a change beyond which its surface is not compared: it would not be there soon. */
const MOST_FACES = 4000;
/** Rings of faces round a change whose surface it can reach, and as many again that keep the patch's border away. */
const RINGS = 4;

/**
 * Compares a cage with what an operation would make of it; elements are the same where their ids are. How far the smooth surface moves
 * takes longer to find out: see `changedSurface`.
 */
export function forecast(before: Cage, after: Cage): Forecast {
  const touched = touchedVertices(before, after);
  const poles = (cage: Cage, vertices: number[]) =>
    vertices.filter((v) => isPole(cage, v)).map((vertex) => ({ vertex, valence: cage.valence(vertex) }));
  const [was, will] = [poles(before, touched.before), poles(after, touched.now)];
  const key = (p: Pole) => `${p.vertex} ${p.valence}`;
  const without = (list: Pole[], others: Pole[]) => {
    const present = new Set(others.map(key));
    return list.filter((p) => !present.has(key(p)));
  };
  const halves = changedHalves(before, after);
  const changedFaces = (cage: Cage) => {
    const faces = new Set(halves.filter((h) => cage.hasEdge(h >> 1)).map((h) => cage.face[h]));
    return [...faces].filter((f) => cage.hasFace(f));
  };
  const [facesBefore, facesAfter] = [changedFaces(before), changedFaces(after)];
  const sizes = (cage: Cage, faces: number[]) => {
    const counts = faces.map((f) => cage.faceSize(f));
    return { triangles: counts.filter((n) => n === 3).length, ngons: counts.filter((n) => n > 4).length };
  };
  const [sizesBefore, sizesAfter] = [sizes(before, facesBefore), sizes(after, facesAfter)];
  // faces round what moved bend with it
  const poor = poorFaces(after, new Set([...facesAfter, ...facesRound(after, touched.now, 1)]));
  const were = poorFaces(
    before,
    [...poor.folded, ...poor.flat].filter((f) => before.hasFace(f))
  );
  return {
    appear: without(will, was),
    cancel: without(was, will),
    triangles: sizesAfter.triangles - sizesBefore.triangles,
    ngons: sizesAfter.ngons - sizesBefore.ngons,
    folded: withoutAll(poor.folded, were.folded),
    flat: withoutAll(poor.flat, were.flat)
  };
}

function withoutAll(list: number[], others: number[]): number[] {
  const set = new Set(others);
  return list.filter((f) => !set.has(f));
}

/**
 * The surface that a change reaches, by places, topology, sharpness or settings, before and after it.
 * @returns nothing where it reaches too much for an answer soon; surfaces without faces where it changes nothing
 */
export function changedSurface(
  before: Cage,
  after: Cage,
  settings: SurfaceSettings,
  settingsAfter: SurfaceSettings = settings
): ChangedSurface | undefined {
  const isAll = JSON.stringify(settings) !== JSON.stringify(settingsAfter);
  const touched = isAll ? { before: [...before.vertices()], now: [...after.vertices()] } : influencedVertices(before, after);
  const [was, is] = [facesRound(before, touched.before, RINGS), facesRound(after, touched.now, RINGS)];
  if (Math.max(was.length, is.length) > MOST_FACES) return undefined;
  const surfaceOf = (cage: Cage, faces: number[], asked: SurfaceSettings): LimitSurface => {
    const { mesh } = polygonsOfFaces(cage, faces);
    // a patch of triangles of a cage with other faces is subdivided as the cage is
    const isLoop = asked.scheme === 'loop' && faceSizes(cage).triangles === cage.faceCount;
    return { mesh, settings: { ...asked, scheme: isLoop ? 'loop' : 'catmull-clark' } };
  };
  return { before: surfaceOf(before, was, settings), after: surfaceOf(after, is, settingsAfter) };
}

/** How far the limit surface moves at most, in mm; nothing where that cannot be said. @param mostFine faces up to which it is measured finely */
export function largestMove(changed: ChangedSurface | undefined, mostFine?: number): number | undefined {
  if (!changed) return undefined;
  const { before, after } = changed;
  return before.mesh.faceVertices.length + after.mesh.faceVertices.length === 0 ? 0 : limitDistance(before, after, mostFine);
}

/** "poles of 3: 2 appear, 1 goes; the smooth surface moves by up to 0.42 mm", a sentence for the card. @param moved mm */
export function describeForecast({ appear, cancel, triangles, ngons, folded, flat }: Forecast, moved?: number): string {
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
  if (folded.length > 0) said.push(`folded faces: ${folded.length}`);
  if (flat.length > 0) said.push(`quads with a corner of 180°: ${flat.length}`);
  if (said.length === 0) said.push('poles unchanged');
  if (moved !== undefined) said.push(describeMove(moved));
  return `Forecast: ${said.join('; ')}.`;
}

/** "the smooth surface moves by up to 0.42 mm". */
export const describeMove = (moved: number): string =>
  moved === 0 ? 'the smooth surface stays where it is' : `the smooth surface moves by up to ${lengthInWords(moved)}`;

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
