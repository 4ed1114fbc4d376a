import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { faceNormal } from '../mesh/normals.ts';
import { quadrangulate } from '../mesh/quadrangulate.ts';
import { replaceFaces, type NewFace } from '../mesh/replace-faces.ts';
import { areaVector, between, cross, dot, length, mean, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { doubledAt, flattest, runIn, type Hole, type RunIn } from './hole.ts';
import { calmed, layOutline, quadsIn } from './outline.ts';
import { continuePanels } from './panel-corner.ts';
import { PatchQuality } from './patch-quality.ts';
import { Patch } from './patch.ts';
import { putPatch } from './put-patch.ts';
import { bestGridPlace, gridPatch, type GridPlace } from './quad-grid.ts';
import { settlePatch } from './settle-patch.ts';
import { triangleCap } from './triangle-cap.ts';

/** Ways to fill a hole: a grid of quads, rings of quads, a cap of triangles, one face. */
export const fillMethods = ['grid', 'ring', 'triangles', 'face'] as const;
export type FillMethod = (typeof fillMethods)[number];

export interface FillSettings {
  /** 0: as a stretched skin; 1: the curvature around goes on */
  swell: number;
  /** grid: edges along one pair of sides; chosen where it is missing */
  rows?: number;
  /** grid: vertices by which the corners are turned on from the best place */
  offset?: number;
  /** grid: right from the border, also where that is round */
  plain?: boolean;
  /** grid: go on with the panels beside the hole as planes, whatever the swell */
  panels?: boolean;
  /** ring cap: rings before the middle */
  rings?: number;
  /** triangle cap: least area instead of the flattest joints */
  byArea?: boolean;
}

/** Most edges a triangle cap is searched for: the search takes the cube of their number. */
export const MOST_CAP_EDGES = 400;

/** Most edges of a border for which ways by its corners are tried: each cut looks at every pair of its vertices. */
const MOST_OUTLINE_EDGES = 128;
/** Most edges of a border that is filled with a grid: its quads are a sixteenth of the square of their number. */
export const MOST_GRID_EDGES = 800;

/** Fills a hole in a cage, which is changed. @returns the new faces */
export function fillHole(cage: Cage, hole: Hole, method: FillMethod, settings: FillSettings): number[] {
  if (method === 'face' || hole.vertices.length === 3) return oneFace(cage, hole);
  if (method === 'triangles') return fillWithTriangles(cage, hole, settings.byArea ?? false);
  if (method === 'ring') return fillWithRings(cage, hole, settings);
  return fillWithQuads(cage, hole, settings);
}

const besideOf = (cage: Cage, hole: Hole): number => cage.face[hole.halves[0] ^ 1];

const oneFace = (cage: Cage, hole: Hole): number[] =>
  replaceFaces(cage, { gone: [], added: [{ corners: hole.vertices, like: besideOf(cage, hole) }] });

function fillWithTriangles(cage: Cage, hole: Hole, byArea: boolean): number[] {
  const triangles = triangleCap(hole.places, normalsBeside(cage, hole), byArea);
  const like = besideOf(cage, hole);
  return replaceFaces(cage, { gone: [], added: triangles.map((t): NewFace => ({ corners: t.map((i) => hole.vertices[i]), like })) });
}

/** Rings towards the middle, and a grid, or one face where the count is odd, within the last one. */
function fillWithRings(cage: Cage, hole: Hole, settings: FillSettings): number[] {
  const rings = settings.rings ?? 1;
  const runs = runsAt(cage, hole);
  const patch = new Patch(hole.places, areaVector(hole.places));
  const even = hole.vertices.length % 2 === 0;
  const inner = layRings(patch, hole, rings, rings / (rings + 1.5), even ? ringPlace(hole) : undefined);
  settlePatch(patch, runs, settings.swell);
  const vertices = putPatch(cage, hole.vertices, patch, besideOf(cage, hole));
  if (even) return vertices.faces;
  const middle = inner.map((p) => vertices.vertex[p]);
  return [...vertices.faces, ...replaceFaces(cage, { gone: [], added: [{ corners: middle, like: besideOf(cage, hole) }] })];
}

/** One way to lay quads into a hole of an even number of vertices. */
type Way = (hole: Hole, settings: FillSettings) => Patch | undefined;

/** Quads alone where the count is even, the way whose quads have the best shape; one triangle where it is odd. */
function fillWithQuads(cage: Cage, hole: Hole, settings: FillSettings): number[] {
  const even = hole.vertices.length % 2 === 0 ? hole : doubledAt(hole, flattest(cage, hole));
  const runs = runsAt(cage, even);
  const outside = normalsBeside(cage, even);
  const asked = settings.rows !== undefined || settings.plain === true || (settings.offset ?? 0) !== 0;
  const long = even.vertices.length > MOST_OUTLINE_EDGES;
  const ways: Way[] = asked || long ? [byGrid] : [byGrid, bySides, calmly, plainly, byDiagonals, byShortCuts];
  let best: { patch: Patch; cost: number; folded: boolean } | undefined;
  const isFolded = () => !best || best.folded;
  // what comes out folded over is tried with less swell
  for (let swell = settings.swell; isFolded() && swell >= 0; swell = swell > 0.1 && !long ? swell / 2 : swell > 0 ? 0 : -1)
    for (const way of ways) {
      const wanted = way === byShortCuts ? isFolded() : !best || best.cost > GOOD_ENOUGH;
      const patch = wanted ? way(even, settings) : undefined;
      if (!patch || (best && swell === settings.swell && sameQuads(patch, best.patch))) continue;
      settlePatch(patch, runs, swell);
      const judgement = judged(patch, outside, swell);
      if (!best || judgement.cost < best.cost - 1e-9) best = { patch, ...judgement };
    }
  const { faces } = putPatch(cage, even.vertices, best!.patch, besideOf(cage, hole));
  if (settings.panels) {
    const rim = new Set(hole.vertices);
    const inside = [...new Set(faces.flatMap((f) => cage.faceVertices(f)))].filter((v) => !rim.has(v));
    continuePanels(cage, hole, faces, inside);
  }
  return faces;
}

/** Two ways often come to one: a single grid with the same corners. */
const sameQuads = (a: Patch, b: Patch): boolean => {
  const corners = ({ blocks: [at] }: Patch) => at && [at[0][0], at.at(-1)![0], at.at(-1)!.at(-1), at[0].at(-1)].sort().join();
  return a.blocks.length === 1 && b.blocks.length === 1 && a.quads.length === b.quads.length && corners(a) === corners(b);
};

/** A way this good is taken without trying others. */
const GOOD_ENOUGH = 0.1;
/** What a quad costs that is folded over or nearly so: more than all else. */
const FOLDED = 1000;

/**
 * What speaks against a patch, once its quads are made as good as they can be: those that turn over or come near it, corners
 * off right angles, poles, and bending, within it and where it joins the faces outside.
 */
function judged(patch: Patch, outside: readonly (Triple | undefined)[], swell: number): { cost: number; folded: boolean } {
  const quality = new PatchQuality(patch);
  quality.improve();
  const { worst, mean: average } = quality.summary();
  const edges = new Uint16Array(patch.places.length);
  for (const quad of patch.quads) for (const p of quad) edges[p]++;
  const poles = edges.reduce((count, n, p) => (p >= patch.rim && n !== 4 ? count + 1 : count), 0);
  const shape = 2 * Math.max(0, 0.4 - worst) + 2 * Math.max(0, 0.76 - average) + (1 - average);
  const folded = worst < 0.05;
  return { folded, cost: (folded ? FOLDED : 0) + shape + 0.02 * poles + 0.05 * swell * bending(patch, outside) };
}

/** Normals of the faces beside a hole, by its edges. */
const normalsBeside = (cage: Cage, hole: Hole): (Triple | undefined)[] =>
  hole.vertices.map((v, i) => {
    const h = cage.findHalfEdge(hole.vertices[(i + 1) % hole.vertices.length], v);
    return h === NONE || cage.face[h] === NONE ? undefined : faceNormal(cage, cage.face[h]);
  });

/**
 * Squares of the angles between neighbouring quads, by how near each other they lie: without unit, 0 where all is flat (a
 * discrete shell's bending; Grinspun and others 2003).
 */
function bending({ quads, places, rim }: Patch, outside: readonly (Triple | undefined)[]): number {
  const normals = quads.map((quad) => unit(cross(subtract(places[quad[2]], places[quad[0]]), subtract(places[quad[3]], places[quad[1]]))));
  const middles = quads.map((quad) => mean(quad.map((p) => places[p])));
  const beside = new Map<number, number>();
  let sum = 0;
  const count = (one: Triple, other: Triple, along: number, apart: number) => {
    const angle = Math.acos(Math.max(-1, Math.min(1, dot(one, other))));
    sum += (angle ** 2 * along) / (apart || 1);
  };
  quads.forEach((quad, own) => {
    for (let i = 0; i < 4; i++) {
      const [p, q] = [quad[i], quad[(i + 1) % 4]];
      if (p < rim && q === (p + 1) % rim) {
        const beyond = outside[p];
        const middle = between(places[p], places[q], 0.5);
        if (beyond) count(normals[own], beyond, distance(places[p], places[q]), 2 * distance(middles[own], middle));
        continue;
      }
      const name = Math.min(p, q) * places.length + Math.max(p, q);
      const other = beside.get(name);
      if (other === undefined) beside.set(name, own);
      else count(normals[own], normals[other], distance(places[p], places[q]), distance(middles[own], middles[other]));
    }
  });
  return sum;
}

const distance = (p: Triple, q: Triple): number => length(subtract(p, q));

/** How what lies outside comes in at each vertex of a hole. */
const runsAt = (cage: Cage, hole: Hole): (RunIn | undefined)[] => hole.vertices.map((v) => runIn(cage, v));

/** Angle of a hole, in radians, from which a vertex makes no good corner. */
const ROUND = (135 * Math.PI) / 180;
/** Share of the way to the middle of a round hole that rings take: a grid within has corners that are wide enough. */
const WITHIN = 0.4;
/** Edges of a round hole for one ring: rings are about as far apart as their edges are long. */
const EDGES_A_RING = 16;
/** Most edges of a hole for which ways are tried that suit small ones. */
const FEW = 16;

const isRound = (hole: Hole): boolean =>
  hole.vertices.length > 6 && [...hole.angles].sort((a, b) => a - b)[Math.min(3, hole.angles.length - 1)] > ROUND;

/** Where the corners of a hole's grid lie; of an even number of edges. */
export const gridPlaceOf = (hole: Hole, settings: Pick<FillSettings, 'rows' | 'offset' | 'plain'>): GridPlace =>
  turned(hole, isRound(hole) && !settings.plain ? ringPlace(hole, settings.rows) : bestGridPlace(hole, settings.rows), settings.offset);

/** A grid between four corners; rings first where the border is round, for a corner of a grid on a border that hardly bends would be a quad with a straight corner. */
function byGrid(hole: Hole, settings: FillSettings): Patch {
  const place = gridPlaceOf(hole, settings);
  if (!isRound(hole) || settings.plain) return gridPatch(hole, place);
  const patch = new Patch(hole.places, areaVector(hole.places));
  const rings = Math.max(1, Math.round(hole.vertices.length / EDGES_A_RING));
  layRings(patch, hole, rings, WITHIN, place);
  return patch;
}

const turned = (hole: Hole, place: GridPlace, offset = 0): GridPlace => {
  const n = hole.vertices.length;
  return { ...place, start: (((place.start + offset) % n) + n) % n };
};

/** Corners of the grid within rings: all its vertices have an edge outward. */
const ringPlace = (hole: Hole, rows?: number): GridPlace => bestGridPlace({ ...hole, valences: hole.valences.map(() => 3) }, rows);

/**
 * Lays rings from the border towards the middle, and a grid in the innermost one.
 * @param share of the way to the middle that the rings take
 * @param place of the grid's corners; left open where it is missing
 * @returns the points of the innermost ring
 */
function layRings(patch: Patch, hole: Hole, rings: number, share: number, place?: GridPlace): number[] {
  const n = hole.places.length;
  const centre = mean(hole.places);
  const inner = hole.places.map((p) => patch.places.push(between(p, centre, share) as Triple) - 1);
  const spokes = inner.map((p, i) => patch.line(i, p, rings));
  const row = (points: readonly number[], from: number, count: number) => Array.from({ length: count + 1 }, (_, k) => points[(from + k) % n]);
  const border = hole.places.map((_, i) => i);
  const corners = place ? [place.start, place.start + place.a, place.start + place.a + place.b, place.start + 2 * place.a + place.b] : [0, n >> 1];
  const sides = corners.map((from, k) => [from % n, ((corners[(k + 1) % corners.length] - from + n - 1) % n) + 1]);
  for (const [from, count] of sides)
    patch.grid([row(border, from, count), spokes[(from + count) % n], row(inner, from, count).reverse(), [...spokes[from]].reverse()]);
  if (place) patch.grid(sides.map(([from, count]) => row(inner, from, count)));
  return inner;
}

/** By the corners a hole has, two or more, cut first where it bends inward; nothing where it has none. */
const bySides: Way = (hole) => byOutline(hole, hole.angles.map(quadsIn));

/** The same with cuts that are above all short. */
const byShortCuts: Way = (hole) => byOutline(hole, hole.angles.map(quadsIn), SHORT);

/** How much more the length of cuts counts when they are to be short. */
const SHORT = 5;

/** The same for a ragged border: what turns to and fro counts as straight. */
const calmly: Way = (hole) => {
  const quadsAt = hole.angles.map(quadsIn);
  const calm = calmed(quadsAt);
  return calm.every((q, i) => q === quadsAt[i]) ? undefined : byOutline(hole, calm);
};

function byOutline(hole: Hole, quadsAt: number[], short = 1): Patch | undefined {
  if (quadsAt.every((n) => n === 2)) return undefined;
  const patch = new Patch(hole.places, areaVector(hole.places));
  layOutline(patch, { points: [...hole.vertices.keys()], quadsAt }, short);
  return patch;
}

/** Small round holes: a grid at once where that comes out better. */
const plainly: Way = (hole, settings) => (hole.vertices.length <= FEW && isRound(hole) ? byGrid(hole, { ...settings, plain: true }) : undefined);

/** Small holes: quads between the border's own vertices. */
const byDiagonals: Way = (hole, settings) => {
  if (hole.vertices.length > FEW || settings.panels) return undefined;
  const patch = new Patch(hole.places, areaVector(hole.places));
  const isDouble = (i: number, j: number) => hole.vertices[i] === hole.vertices[j];
  const quads = quadrangulate(hole.places, areaVector(hole.places), (i, j) => !isDouble(i, j) && !hole.joined(i, j));
  if (!quads) return undefined;
  patch.quads.push(...quads);
  return patch;
};
