import FlatQueue from 'flatqueue';
import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { faceMiddle, faceNormal } from '../mesh/normals.ts';
import { awkwardness } from '../mesh/quadrangulate.ts';
import { length, subtract, unit, add } from '../numeric/vectors.ts';
import { cosineAt, isBetweenRegions, spreadFrom, withNeighbours } from './edit-regions.ts';

/** How much farther the other side of a sharp edge is for a region that spreads. */
const OVER_EDGE = 1000;
/** What a quad may be off a square, sum of squares of its corners' angles (radians) off 90 degrees, for two triangles to be read as one. */
const QUAD = 4 * (Math.PI / 4) ** 2;
/** Degrees that the two triangles of a quad may be bent against each other. */
const BENT = 20;

/** Pieces that regions fall into along edges, without the largest of each region: they are what needs a region of its own. */
export function piecesAlong(cage: Cage, edges: Iterable<number>): number[][] {
  const cut = new Set(edges);
  const beside = [...cut].flatMap((e) => [cage.face[2 * e], cage.face[2 * e + 1]]).filter((f) => f !== NONE);
  const taken = new Set<number>();
  const pieces = new Map<number, number[][]>();
  for (const seed of beside) {
    if (taken.has(seed)) continue;
    const id = cage.value('region', seed);
    const piece = [...spreadFrom(cage, [seed], (e, f) => !cut.has(e) && cage.value('region', f) === id)];
    for (const f of piece) taken.add(f);
    pieces.set(id, [...(pieces.get(id) ?? []), piece]);
  }
  return [...pieces.values()].flatMap((own) => own.sort((a, b) => b.length - a.length).slice(1));
}

/**
 * Regions whose outlines are drawn to sharp edges that run near them: faces near an outline are given to the region that reaches them over the
 * shortest way without crossing a sharp edge (a watershed, Meyer 1991).
 * @param rows of faces on either side of an outline that may change
 * @param degrees from which an edge is sharp; creases are
 * @returns the region of each face that changes
 */
export function snappedToSharp(cage: Cage, rows: number, degrees: number): Map<number, number> {
  const least = Math.cos((degrees * Math.PI) / 180);
  const isSharp = (e: number) => cage.value('crease', e) > 0 || cosineAt(cage, e) < least;
  const open = nearOutlines(cage, rows);
  const queue = new FlatQueue<number>();
  const best = new Map<number, { far: number; id: number }>();
  const reach = (f: number, far: number, id: number) => {
    if (far >= (best.get(f)?.far ?? Infinity)) return;
    best.set(f, { far, id });
    queue.push(f, far);
  };
  const spread = (f: number, far: number, id: number) => {
    for (const h of cage.loopOf(cage.faceEdge[f])) {
      const g = cage.face[h ^ 1];
      if (g === NONE || !open.has(g)) continue;
      const step = length(subtract(faceMiddle(cage, f), faceMiddle(cage, g)));
      reach(g, far + step * (isSharp(h >> 1) ? OVER_EDGE : 1), id);
    }
  };
  for (const f of cage.faces()) if (!open.has(f)) spread(f, 0, cage.value('region', f));
  while (queue.length > 0) {
    const far = queue.peekValue()!;
    const f = queue.pop()!;
    const own = best.get(f)!;
    if (far === own.far) spread(f, far, own.id);
  }
  return new Map([...best].filter(([f, { id }]) => id !== cage.value('region', f)).map(([f, { id }]) => [f, id]));
}

/** Faces within some rows of an outline, but for the innermost ones of each region, so that none goes altogether. */
function nearOutlines(cage: Cage, rows: number): Set<number> {
  const row = new Map<number, number>();
  let reached = new Set([...cage.edges()].filter((e) => isBetweenRegions(cage, e)).flatMap((e) => [cage.face[2 * e], cage.face[2 * e + 1]]));
  for (let i = 0; i <= rows; i++) {
    for (const f of reached) if (!row.has(f)) row.set(f, i);
    reached = withNeighbours(cage, reached);
  }
  const deepest = new Map<number, number>();
  for (const f of cage.faces()) {
    const id = cage.value('region', f);
    deepest.set(id, Math.max(deepest.get(id) ?? 0, row.get(f) ?? rows));
  }
  return new Set([...row].filter(([f, i]) => i < Math.min(rows, deepest.get(cage.value('region', f))!)).map(([f]) => f));
}

/** Faces in groups that each are a quad: two triangles beside each other that make one, the best pairs first; every other face by itself. */
export function quadGroups(cage: Cage): number[][] {
  const flat = Math.cos((BENT * Math.PI) / 180);
  const pairs = [...cage.edges()].flatMap((e) => {
    const [f, g] = [cage.face[2 * e], cage.face[2 * e + 1]];
    if (f === NONE || g === NONE || cage.faceVertices(f).length !== 3 || cage.faceVertices(g).length !== 3 || cosineAt(cage, e) < flat) return [];
    const [a, b] = [cage.origin[2 * e], cage.target(2 * e)];
    const tip = (face: number) => cage.faceVertices(face).find((v) => v !== a && v !== b)!;
    const corners = [a, tip(g), b, tip(f)].map((v) => cage.position(v));
    const off = awkwardness(corners, unit(add(faceNormal(cage, f), faceNormal(cage, g))));
    return off <= QUAD ? [{ f, g, off }] : [];
  });
  const taken = new Set<number>();
  const groups: number[][] = [];
  for (const { f, g } of pairs.sort((p, q) => p.off - q.off)) {
    if (taken.has(f) || taken.has(g)) continue;
    taken.add(f).add(g);
    groups.push([f, g]);
  }
  return [...groups, ...[...cage.faces()].filter((f) => !taken.has(f)).map((f) => [f])];
}
