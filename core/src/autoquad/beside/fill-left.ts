import { scaledJacobian } from '../../check/quad-quality.ts';
import { bridge } from '../../fill/bridge.ts';
import { fillHole } from '../../fill/fill-hole.ts';
import { holeAlong } from '../../fill/hole.ts';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { faceMiddle, faceNormal } from '../../mesh/normals.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { areaVector, dot, length, mean, subtract, type Triple } from '../../numeric/vectors.ts';
import { surfacePoint, type TriangleBvh } from '../../reference/triangle-bvh.ts';
import { ON_SEAM_LINE } from '../base/limits.ts';
import { followsLine, liesOn } from '../lines/follows-line.ts';
import { TWISTED } from '../quads/straighten-quads.ts';
import { apart, sharpestAt, type OwnBorder } from './join-along.ts';

/** A pocket's open side is no longer than so many times the side across it. */
const LONGEST_SIDE = 1.6;

interface Pockets {
  isOwn: OwnBorder;
  /** of the surface's sharp edges; none where there are none */
  sharp?: TriangleBvh;
  /** mean length of the open edges, mm */
  edge: number;
  /** places near which bare surface is to be covered; all of it where they are left out */
  beside?: readonly Triple[];
}

/**
 * Puts a quad into every pocket of open edges a quad wide whose fourth side lies on a sharp edge: no row of quads beside the pocket
 * could follow that edge. Changes the cage.
 * @returns the new faces
 */
export function fillPockets(cage: Cage, { isOwn, sharp, edge, beside }: Pockets): number[] {
  if (!sharp) return [];
  const found = surfacePoint();
  const isMeant = (at: Triple) => !beside || beside.some((p) => length(subtract(p, at)) < edge);
  const pockets = borderLoops(cage).flatMap((halves) =>
    halves.flatMap((h, i) => {
      const sides = [h, halves[(i + 1) % halves.length], halves[(i + 2) % halves.length]];
      if (halves.length < 4 || sides.some((side) => isOwn(cage, side))) return [];
      const corners = [...sides.map((side) => cage.origin[side]), cage.target(sides[2])];
      const [start, , , end] = corners.map((v) => cage.position(v));
      const isPocket =
        [start, end].every((p) => liesOn(sharp, p, ON_SEAM_LINE * edge)) &&
        followsLine(sharp, start, end, found) &&
        length(subtract(start, end)) < LONGEST_SIDE * cage.edgeLength(sides[1] >> 1) &&
        cage.findHalfEdge(corners[0], corners[3]) === NONE &&
        isMeant(mean(corners.map((v) => cage.position(v))));
      return isPocket ? [corners] : [];
    })
  );
  const taken = new Set<number>();
  return pockets.flatMap((corners) => {
    if (corners.some((v) => taken.has(v))) return [];
    const [f] = replaceFaces(cage, { gone: [], added: [{ corners }] });
    if (scaledJacobian(cage, f) < TWISTED) {
      replaceFaces(cage, { gone: [f], added: [] });
      return [];
    }
    for (const v of corners) taken.add(v);
    const h = cage.findHalfEdge(corners[0], corners[3]);
    cage.setValue('crease', h >> 1, Math.max(sharpestAt(cage, corners[0]), sharpestAt(cage, corners[3])));
    return [f];
  });
}

/** Two rims are the ends of one ring of bare surface where they are no farther apart than so many edges. */
const RING_WIDTH = 2.5;
/** Mean cosine between quads that fill a hole and the surface, below which they lie across the inside of something. */
const ALONG_SURFACE = 0.5;

/** What is filled lies on this. */
interface Filled {
  tree: TriangleBvh;
  normals: Float64Array;
  /** mean length of the open edges, mm */
  edge: number;
}

/**
 * Fills what is bare and too small for a row of quads and others inside it: rings between two rims by rows of quads, other holes from
 * their open edges. Changes the cage.
 * @param rims closed borders, half-edges in order
 * @returns the new faces
 */
export function fillLeft(cage: Cage, rims: readonly number[][], surface: Filled): number[] {
  const { edge } = surface;
  const places = rims.map((halves) => halves.map((h) => cage.position(cage.origin[h])));
  const taken = new Set<number>();
  const rings = rims.flatMap((halves, i) => {
    const j = rims.findIndex(
      (_, k) =>
        k > i &&
        !taken.has(i) &&
        !taken.has(k) &&
        dot(areaVector(places[i]), areaVector(places[k])) < 0 &&
        Math.max(apart(places[i], places[k]), apart(places[k], places[i])) < RING_WIDTH * edge
    );
    if (j < 0) return [];
    taken.add(i).add(j);
    const rows = Math.max(1, Math.round(apart(places[i], places[j]) / edge));
    return bridge(cage, { halves, closed: true }, { halves: rims[j], closed: true }, { rows, offset: 0, curved: 1 });
  });
  const holes = rims.flatMap((halves, i) => {
    if (taken.has(i)) return [];
    const made = fillHole(cage, holeAlong(cage, halves), 'grid', { swell: 1 });
    if (liesAlong(cage, made, surface)) return made;
    replaceFaces(cage, { gone: made, added: [] });
    return [];
  });
  return [...rings, ...holes];
}

function liesAlong(cage: Cage, faces: readonly number[], { tree, normals }: Filled): boolean {
  const found = surfacePoint();
  const cosines = faces.map((f) => {
    const { triangle } = tree.closest(...faceMiddle(cage, f), found);
    return dot(faceNormal(cage, f), [...normals.subarray(3 * triangle, 3 * triangle + 3)] as Triple);
  });
  return cosines.reduce((sum, cosine) => sum + cosine, 0) > ALONG_SURFACE * faces.length;
}
