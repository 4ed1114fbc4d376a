import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { quadJacobians } from '../../numeric/quad-shape.ts';
import { closestOnSegment, length, subtract, type Triple } from '../../numeric/vectors.ts';
import { STRAIGHT } from '../base/limits.ts';
import { withImages, reflected } from '../base/mirror.ts';
import { NoQuadsError } from '../base/options.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';
import { type Closeness } from '../fit/deviation.ts';
import { type Prepared } from '../input/prepare.ts';
import { foldOf } from '../lines/picked-lines.ts';
import { isFarOff } from './strategy.ts';

/** Edges whose folds are within so many degrees of each other are as sharp. */
const AS_SHARP = 5;
/** Quads with a lower scaled Jacobian are of no use at all; a corner of the surface itself may be as sharp as some degrees. */
const NO_USE = 0.02;
/** Quads that lie off by so many times what is near enough, a tenth of the diagonal, leave a large part of the surface out: poles everywhere are less bad. */
const PART_GONE = 40;
/** Sharp edges that are given up, one after the other: those within so many quads of where no quads are found, and whether the sharpest stay. */
const GIVEN_UP: readonly [within: number, sparing: boolean][] = [
  [0.3, true],
  [0.3, false],
  [1, false]
];

/** What is to be known of quads that were laid. */
interface LaidQuads {
  laid: PolygonMesh;
  notes: string[];
  closeness?: Closeness;
}

/**
 * Lays quads; where none are found that are of use along some sharp edges, these are given up: at first those beside sharper ones.
 * @param lay lays quads without some half-edges of the surface as sharp ones, as `prepared` has it
 * @param inputOf the surface, prepared without them
 * @throws NoQuadsError where that is no help
 */
export function givingUpLines<Quads extends LaidQuads>(
  lay: (leftOut: readonly number[]) => Quads,
  inputOf: (leftOut: readonly number[]) => Pick<Prepared, 'dense' | 'size' | 'mirrors'>
): Quads {
  const leftOut: number[] = [];
  const laidNow = () => orNone(() => lay(leftOut));
  let best = laidNow();
  let places = best instanceof NoQuadsError ? best.folded : uselessCorners(best.laid);
  // where nothing is folded over it may be any of them
  if (best instanceof NoQuadsError && places.length === 0) {
    const { dense } = inputOf(leftOut);
    places = sharpEdges(dense).flatMap((h) => dense.ends(h));
  }
  for (const [within, sparing] of places.length > 0 ? GIVEN_UP : []) {
    const { dense, size, mirrors } = inputOf(leftOut);
    const images = withImages(places, mirrors, (at, mirror) => reflected(mirror, at));
    const lines = linesInTheWay(dense, images, within * size, sparing);
    if (lines.length === 0) continue;
    leftOut.push(...lines);
    const other = laidNow();
    if (other instanceof NoQuadsError || costOf(other) >= costOf(best)) continue;
    const near = dense
      .point(dense.corner[leftOut[0]])
      .map((x) => x.toFixed(1))
      .join(', ');
    const note = `Sharp edges left out, where quads would turn over along them: ${leftOut.length}, near ${near}. Try more quads.`;
    best = { ...other, notes: [...other.notes, note] };
    if (uselessCorners(best.laid).length === 0 && !isFarOff(best)) break;
  }
  if (best instanceof NoQuadsError) throw best;
  return best;
}

/**
 * Lays quads along directions, or, where that leaves some turned over or straight at a corner, or part of the surface out, without.
 * @throws NoQuadsError where neither gives any
 */
export function orFromTriangles<Quads extends LaidQuads>(along: () => Quads, fromTriangles: () => Quads): Quads {
  const laid = orNone(along);
  const isOfUse = (quads: Quads) => uselessCorners(quads.laid, STRAIGHT).length === 0 && (quads.closeness?.share ?? 0) < PART_GONE;
  if (!(laid instanceof NoQuadsError) && isOfUse(laid)) return laid;
  const other = orNone(fromTriangles);
  if (!(other instanceof NoQuadsError) && (laid instanceof NoQuadsError || isOfUse(other))) {
    const note = 'No quads fit along the directions of the surface: they were made from triangles, with many poles. Try more quads.';
    return { ...other, notes: [...other.notes, note] };
  }
  if (laid instanceof NoQuadsError) throw laid;
  return laid;
}

function orNone<Quads>(lay: () => Quads): Quads | NoQuadsError {
  try {
    return lay();
  } catch (error) {
    if (error instanceof NoQuadsError) return error;
    throw error;
  }
}

/** What speaks against quads: how far they lie off, and more than any distance those of no use. */
function costOf(result: LaidQuads | NoQuadsError): number {
  if (result instanceof NoQuadsError) return Infinity;
  return 1e6 * uselessCorners(result.laid).length + (result.closeness?.share ?? 0);
}

/** Places of the corners of quads that are turned over or straight at a corner, or next to it. */
const uselessCorners = ({ positions, faceVertices }: PolygonMesh, least = NO_USE): Triple[] =>
  [...quadJacobians(positions, faceVertices).entries()]
    .filter(([, shape]) => shape < least)
    .flatMap(([q]) =>
      [...faceVertices.subarray(4 * q, 4 * q + 4)].map((v): Triple => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]])
    );

/**
 * Sharp edges that pass by places where quads cannot be laid along them; borders stay.
 * @param within mm
 * @param sparing whether the sharpest of those at a place stay
 * @returns half-edges, one of each edge
 */
function linesInTheWay(mesh: WorkingMesh, places: readonly Triple[], within: number, sparing: boolean): number[] {
  const sharp = sharpEdges(mesh);
  const folds = sharp.map((h) => foldOf(mesh, h));
  const found = new Set<number>();
  for (const at of places) {
    const near = [...sharp.keys()].filter((i) => length(subtract(at, closestOnSegment(at, ...mesh.ends(sharp[i])))) <= within);
    const sharpest = near.reduce((most, i) => Math.max(most, folds[i]), 0);
    for (const i of near) if (!sparing || folds[i] < sharpest - AS_SHARP) found.add(sharp[i]);
  }
  return [...found];
}

/** Half-edges of marked edges that are no borders, one of each edge. */
const sharpEdges = (mesh: WorkingMesh): number[] => mesh.featureEdges().filter((h) => mesh.opposite[h] >= 0);
