import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { borderLoops, facesRound, islands } from '../../mesh/topology.ts';
import { connectedEdges } from '../lines/line-pieces.ts';

/** Faces that are cut off by others being taken out are taken with them, where there are few: at most so many, or this share of those. */
const FEW = 12;
const SHARE = 0.2;
const mostBesides = (faces: readonly number[]): number => Math.max(FEW, SHARE * faces.length);

/**
 * Some faces as an area to lay again: with those in slits up to two faces wide between them, those that make its outline cross sharp
 * edges and narrow walls squarely, those round places too narrow for a row of quads, and the few that would be left as islands among them.
 */
export function areaToLay(cage: Cage, picked: readonly number[]): number[] {
  const faces = widened(cage, acrossSharp(cage, closedOver(cage, picked)));
  const before = islands(cage).islandOf;
  const rest = cage.clone();
  replaceFaces(rest, { gone: faces, added: [] });
  const { islandOf, count } = islands(rest);
  const sizes = new Int32Array(count);
  const largest = new Map<number, number>();
  for (const f of rest.faces()) sizes[islandOf[f]]++;
  for (const f of rest.faces()) {
    const [was, now] = [before[f], islandOf[f]];
    if (sizes[now] > (largest.has(was) ? sizes[largest.get(was)!] : 0)) largest.set(was, now);
  }
  return [...faces, ...[...rest.faces()].filter((f) => sizes[islandOf[f]] <= mostBesides(faces) && largest.get(before[f]) !== islandOf[f])];
}

/** Faces grown by a ring, and the ring taken off again: what is narrow between them stays in (closing, Serra 1982). */
function closedOver(cage: Cage, faces: readonly number[]): number[] {
  const touching = (f: number) => cage.faceVertices(f).flatMap((v) => cage.spokes(v).flatMap((h) => (cage.face[h] === NONE ? [] : [cage.face[h]])));
  const grown = new Set(faces.flatMap(touching));
  const own = new Set(faces);
  return [...faces, ...[...grown].filter((f) => !own.has(f) && touching(f).every((g) => grown.has(g)))];
}

/** Faces with those round places where others would come within an edge of each other from two sides: no row of quads fits between. */
function widened(cage: Cage, faces: readonly number[]): number[] {
  const own = new Set(faces);
  for (let round = 0; round < ROUNDS; round++) {
    const narrow = [...pinchedAt(cage, own), ...narrowAt(cage, own)];
    if (narrow.length === 0) break;
    for (const f of facesRound(cage, narrow, 1)) own.add(f);
  }
  return [...own];
}

/** Vertices in which faces that stay touch from two sides. */
function pinchedAt(cage: Cage, own: ReadonlySet<number>): number[] {
  const isPinched = (v: number) => {
    const isOwn = cage.spokes(v).map((h) => cage.face[h] !== NONE && own.has(cage.face[h]));
    return isOwn.filter((it, i) => it !== isOwn[(i + 1) % isOwn.length]).length > 2;
  };
  return [...new Set([...own].flatMap((f) => cage.faceVertices(f)))].filter(isPinched);
}

/** Vertices of two outlines, or of one far along it, that an edge joins; none where a ring of faces is as narrow nearly all round, which is meant. */
function narrowAt(cage: Cage, own: ReadonlySet<number>): number[] {
  const rest = cage.clone();
  replaceFaces(rest, { gone: own, added: [] });
  const loops = borderLoops(rest);
  const placeOf = new Map(loops.flatMap((halves, loop) => halves.map((h, at) => [rest.origin[h], { loop, at }] as const)));
  const isFar = (v: number, w: number) => {
    const [a, b] = [placeOf.get(v), placeOf.get(w)];
    if (!a || !b) return false;
    const steps = Math.abs(a.at - b.at);
    return a.loop !== b.loop || Math.min(steps, loops[a.loop].length - steps) >= FAR_ALONG;
  };
  const inside = [...own].flatMap((f) =>
    cage.loopOf(cage.faceEdge[f]).filter((h) => h % 2 === 0 && cage.face[h ^ 1] !== NONE && own.has(cage.face[h ^ 1]))
  );
  const ends = new Set(inside.filter((h) => isFar(cage.origin[h], cage.target(h))).flatMap((h) => [cage.origin[h], cage.target(h)]));
  const isRing = loops.some((halves) => halves.filter((h) => ends.has(rest.origin[h])).length > RING * halves.length);
  return isRing ? [] : [...ends];
}

/** Creases that an area's outline runs along for at most so many edges are crossed there; of more it is meant to end there. */
const CROSSED = 2;
/** Walls between two creases are cut straight across that are at most so many faces wide. */
const WALL = 3;
const ROUNDS = 4;
/** Places of one outline are opposite each other from so many edges apart on. */
const FAR_ALONG = 8;
/** An area is a ring where more than this share of an outline is an edge away from another one. */
const RING = 0.5;

/** Faces with those across the creases that their outline runs along for an edge or two, and with whole rows across narrow walls. */
function acrossSharp(cage: Cage, faces: readonly number[]): number[] {
  const own = new Set(faces);
  for (let round = 0; round < ROUNDS; round++) {
    const along = [...own].flatMap((f) =>
      cage.loopOf(cage.faceEdge[f]).filter((h) => cage.value('crease', h >> 1) > 0 && cage.face[h ^ 1] !== NONE && !own.has(cage.face[h ^ 1]))
    );
    const short = connectedEdges(along, (h) => [cage.origin[h], cage.target(h)]).filter((run) => run.length <= CROSSED);
    const rows = [...new Set([...own].flatMap((f) => wallRows(cage, f)))].filter((f) => !own.has(f));
    // where walls are all there is, an area would grow over most of them
    const fewRows = own.size + rows.length <= faces.length + mostBesides(faces) ? rows : [];
    const more = [...short.flat().map((h) => cage.face[h ^ 1]), ...fewRows];
    if (more.length === 0) break;
    for (const f of closedOver(cage, [...own, ...more])) own.add(f);
  }
  return [...own];
}

/** The rows of quads through a face from one crease to another that are as narrow as a wall. */
function wallRows(cage: Cage, f: number): number[] {
  if (cage.faceSize(f) !== 4) return [];
  const [h, g] = [cage.faceEdge[f], cage.next[cage.faceEdge[f]]];
  return [h, g].flatMap((side) => {
    const row = [f];
    for (let at of [side, cage.next[cage.next[side]]])
      while (cage.value('crease', at >> 1) === 0) {
        const beyond = cage.face[at ^ 1];
        if (beyond === NONE || cage.faceSize(beyond) !== 4 || row.length >= WALL) return [];
        row.push(beyond);
        at = cage.next[cage.next[at ^ 1]];
      }
    return row;
  });
}
