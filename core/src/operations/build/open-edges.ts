import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { replaceFaces, type NewFace } from '../../mesh/replace-faces.ts';
import { selectEdges, selectVertices, type Selection, facesOf } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Refusal, pickedTimesFaces } from '../operation.ts';
import { faceGroups, outlineOf } from '../shared/extrude-walls.ts';
import { counted } from '../shared/words.ts';

/** Picked edges, else the outline of picked faces; border edges are open already. */
function edgesOf(cage: Cage, selection: Selection): number[] {
  const edges =
    selection.edges.length > 0
      ? selection.edges
      : faceGroups(cage, facesOf(cage, selection), true).flatMap((g) => outlineOf(cage, g).map((h) => h >> 1));
  return [...new Set(edges)].filter((e) => !cage.isBorderEdge(e));
}

/** Corners round a vertex in fans, between edges that are opened and borders. */
function fansAt(cage: Cage, v: number, opened: ReadonlySet<number>): number[][] {
  const spokes = cage.spokes(v);
  // a border gap comes first in the turn; inside, the turn begins at an opened edge
  const first = cage.isBorderVertex(v)
    ? 0
    : Math.max(
        0,
        spokes.findIndex((h) => opened.has(h >> 1))
      );
  const fans: number[][] = [[]];
  for (let i = 1; i <= spokes.length; i++) {
    const h = spokes[(first + i) % spokes.length];
    if (cage.face[h] !== NONE) fans[fans.length - 1].push(h);
    if (opened.has(h >> 1) && i < spokes.length) fans.push([]);
  }
  return fans.filter((fan) => fan.length > 0);
}

function check(cage: Cage, selection: Selection): Refusal | undefined {
  const edges = edgesOf(cage, selection);
  if (edges.length === 0)
    return {
      found: selection.edges.length > 0 ? 'The picked edges lie on a border: they are open.' : 'No edge is picked.',
      where: selection,
      instead: 'Pick edges between two faces, or faces whose outline to open.'
    };
  const opened = new Set(edges);
  const ends = edges.flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]);
  if (ends.every((v) => fansAt(cage, v, opened).length < 2))
    return {
      found: 'Neither end of the picked edge lies on a border or on another picked edge: both sides would still hang together.',
      where: selectVertices(ends),
      instead: 'Pick the edge that follows as well.'
    };
  return undefined;
}

function run(cage: Cage, selection: Selection): CageResult {
  const opened = new Set(edgesOf(cage, selection));
  const copy = cage.clone();
  const cornerNow = new Map<number, number>();
  const standsFor = new Map<number, number>();
  const touched = new Set<number>();
  for (const v of new Set([...opened].flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]))) {
    const fans = fansAt(cage, v, opened);
    fans.slice(1).forEach((fan) => {
      const w = copy.addVertex(...cage.position(v));
      copy.copyValues('vertex', v, w);
      standsFor.set(w, v);
      for (const h of fan) cornerNow.set(h, w);
    });
    if (fans.length > 1) for (const h of cage.spokes(v)) if (cage.face[h] !== NONE) touched.add(cage.face[h]);
  }
  const added: NewFace[] = [...touched].map((f) => {
    const loop = cage.loopOf(cage.faceEdge[f]);
    return { corners: loop.map((h) => cornerNow.get(h) ?? cage.origin[h]), like: f, cornersLike: loop };
  });
  const ids = replaceFaces(copy, { gone: touched, added, standsFor });
  const stood = (v: number) => standsFor.get(v) ?? v;
  const isOpened = (a: number, b: number) =>
    [...opened].some((e) => {
      const [p, q] = [cage.origin[2 * e], cage.origin[2 * e + 1]];
      return (p === stood(a) && q === stood(b)) || (q === stood(a) && p === stood(b));
    });
  const borders = ids
    .flatMap((f) => copy.loopOf(copy.faceEdge[f]))
    .filter((h) => copy.isBorderEdge(h >> 1) && isOpened(copy.origin[h], copy.target(h)))
    .map((h) => h >> 1);
  return { cage: copy, selection: selectEdges(borders), notes: [`${counted(standsFor.size, 'vertex', 'vertices')} doubled.`] };
}

/** Cuts the cage open along edges: both sides get a border there. */
export const openEdges: CageOperation = {
  kind: 'cage',
  id: 'open-edges',
  seconds: (cage, selection) => 1.2e-7 * pickedTimesFaces(cage, selection),
  bench: 3,
  name: 'Cut open along edges',
  purpose: 'Cut the cage open along picked edges, or round picked faces, so that both sides get a border.',
  icon: 'SplitScreen',
  needs: 'Pick edges between two faces, or faces.',
  params: Joi.object({}),
  check,
  run
};
