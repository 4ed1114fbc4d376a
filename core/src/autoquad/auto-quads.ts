import { lengthInWords, spreadInWords } from '../numeric/length-words.ts';
import { deviation, type Deviation } from '../check/measures.ts';
import { quadQuality } from '../check/quad-quality.ts';
import { Cage } from '../mesh/cage.ts';
import { type PolygonMesh, uniformMesh } from '../mesh/polygon-mesh.ts';
import { quadJacobians, worstJacobian } from '../numeric/quad-shape.ts';
import { onward, silent, type TaskReport } from '../task/steps.ts';
import { STRAIGHT } from './base/limits.ts';
import { type Mirror } from './base/mirror.ts';
import { type AutoQuadsOptions, countOff, NoQuadsError } from './base/options.ts';
import { type QuadList } from './base/quad-list.ts';
import { StepStore } from './base/step-store.ts';
import { type Closeness, closenessOf } from './fit/deviation.ts';
import { LimitFit } from './fit/fit-limit.ts';
import { creaseSharp } from './fit/sharp-creases.ts';
import { prepared, surfaceOf, type Prepared } from './input/prepare.ts';
import { boxesFor } from './input/sound-input.ts';
import { matches, withoutDoublets } from './quads/mend.ts';
import { TWISTED, untwistQuads } from './quads/straighten-quads.ts';
import { turnBack } from './quads/turn-back.ts';
import { givingUpLines, orFromTriangles } from './search/lines-in-the-way.ts';
import { layFromTriangles, layOver, type Failure, type Fitted, type Laying, WELL_SHAPED } from './search/strategy.ts';
import { MirroredPlaces } from './symmetry/mirrored-places.ts';
import { mirrored, planeName, pointsAhead } from './symmetry/symmetry.ts';

/** Mirrors are given up, but for one, where a count is missed by more than this share. */
const COUNT_KEPT = 0.03;

export interface AutoQuadsResult {
  mesh: PolygonMesh;
  /** what was given up or found on the way, a sentence each */
  notes: string[];
  /** name of the way that they were laid in, as `WayTried` has it */
  way: string;
}

/**
 * Quads over a surface: working mesh, field of crosses, seamless map, one quad a cell, evening out. Of a surface that is
 * mirrored in planes one part is laid, and mirrored.
 * The result has quads only, is manifold, and has the surface's topology; otherwise an error tells why.
 * @param mesh manifold, consistently turned polygons (see `repairPolygons`)
 * @param kept takes up what an earlier run made, where only what comes later has changed
 * @throws AutoQuadsError
 */
export function autoQuads(mesh: PolygonMesh, options: AutoQuadsOptions, report: TaskReport = silent, kept = new StepStore()): AutoQuadsResult {
  const forward = onward(report);
  const lay = (leftOut: readonly number[], way = layOver) => {
    const laid = laidQuads(mesh, options, forward, kept, leftOut, way);
    return { ...laid, closeness: laid.closeness ?? closenessTo(laid.input, laid.laid) };
  };
  const result = orFromTriangles(
    () => givingUpLines(lay, (leftOut) => prepared(mesh, options, kept, leftOut)),
    () => lay([], layFromTriangles)
  );
  const { laid, input } = result;
  const turned = turnedBack(laid, input);
  const closeness = turned.length === 0 ? result.closeness : closenessTo(input, laid);
  const distances = describeDistances(closeness, deviation(input.bvh, laid.positions));
  report.phase('Done', 1);
  return { mesh: withBoxes(laid, input, options), notes: [...result.notes, ...turned, ...poorQuads(laid), ...distances], way: result.way };
}

const closenessTo = (input: Prepared, laid: PolygonMesh): Closeness => closenessOf(laid, input.whole(), input.diagonal);

type Laid = Laying | Failure;

/** Quads, what was given up or found on the way, and what they were laid over. */
interface LaidQuads {
  laid: PolygonMesh;
  notes: string[];
  way: string;
  input: Prepared;
  closeness?: Closeness;
}

/**
 * The same without boxes and a word on distances; work may be done over, so that the report is to be one that goes onward.
 * @param leftOut as `prepared` has it
 * @param way how quads are laid over a surface
 * @throws AutoQuadsError
 */
export function laidQuads(
  mesh: PolygonMesh,
  options: AutoQuadsOptions,
  report: TaskReport,
  kept = new StepStore(),
  leftOut: readonly number[] = [],
  way = layOver
): LaidQuads {
  report.phase('Preparing', 0);
  kept.begin(mesh);
  const input = prepared(mesh, options, kept, leftOut);
  const { notes, target, mirrors } = input;
  const laidIn = (planes: number) => laidOnOneSide(input, mirrors.slice(0, planes), options, report, kept, way);
  let planes = mirrors.length;
  let result = laidIn(planes);
  // a middle line can stand in the way
  while ('failure' in result && planes > 0) result = laidIn(--planes);
  if (planes < mirrors.length) notes.push('The surface is mirrored in more planes, but no quads were found for one side of them.');
  // few counts can be had where many sides are to be alike
  const missed = (laid: Laid) => ('failure' in laid ? Infinity : countOff(options, target, laid.mesh.faceVertices.length / 4));
  let most = planes;
  for (let fewer = planes - 1; fewer > 0 && missed(result) > COUNT_KEPT; fewer--) {
    const other = laidIn(fewer);
    if (missed(other) >= missed(result) || !isAsWell(other, result)) continue;
    result = other;
    most = fewer;
  }
  if (most < planes)
    notes.push(`The surface is mirrored in more planes; laid on one side of ${most === 1 ? 'one' : 'two'} of them the count is met more nearly.`);
  if ('failure' in result)
    throw new NoQuadsError(
      `No valid quads were found for ${Math.round(target)} quads: ${result.failure} Try more quads (thin parts need at least four round them), or a lower "Follow curvature".`,
      result.folded
    );
  const { mesh: laid, closeness, way: name } = result;
  return { laid, notes: [...new Set([...notes, ...result.notes])], way: name, input, closeness };
}

/** Turns quads back that nothing else has helped, and tells of it. @param laid its positions change */
function turnedBack(laid: PolygonMesh, { mirrors, diagonal, bvh }: Prepared): string[] {
  const turned = quadJacobians(laid.positions, laid.faceVertices).filter((shape) => shape < STRAIGHT).length;
  if (turned === 0) return [];
  const before = laid.positions.slice();
  turnBack(laid, STRAIGHT, new MirroredPlaces(mirrors, laid.positions, 1e-6 * diagonal));
  const moved = [...before.keys()].filter((i) => i % 3 === 0 && [0, 1, 2].some((k) => laid.positions[i + k] !== before[i + k]));
  const off = bvh.distances(Float64Array.from(moved.flatMap((i) => [0, 1, 2].map((k) => laid.positions[i + k]))));
  const farthest = off.reduce((most, distance) => Math.max(most, distance), 0);
  return [
    `Vertices that were moved off the surface, as quads were turned over or straight there: ${moved.length}, by up to ${lengthInWords(farthest)}.`
  ];
}

/** Quads over what lies on one side of some planes, mirrored and fitted; or why there are none. */
function laidOnOneSide(
  input: Prepared,
  planes: readonly Mirror[],
  options: AutoQuadsOptions,
  report: TaskReport,
  kept: StepStore,
  way: typeof layOver
): Laid {
  const surface = surfaceOf(input, planes, options, kept);
  const completed = (side: QuadList) => {
    const sides = [...planes].reverse().reduce((list, mirror) => mirrored(list, mirror, 0.25 * surface.size), side);
    const whole = planes.length > 0 ? joined(sides, planes, input) : sides;
    return matches(whole, input.topology) ? whole : undefined;
  };
  const result = way(surface, report, { completed, fitted: finishing(input, options, planes) });
  return 'failure' in result ? result : { ...result, notes: [...planes.map(describeMirror), ...result.notes] };
}

/** Whether quads have corners as well shaped as others have, or well enough, and no more strips that run beside themselves. */
function isAsWell(list: Laid, others: Laid): boolean {
  if ('failure' in list || 'failure' in others) return 'failure' in others;
  const [own, theirs] = [list, others].map(({ mesh }) => quadQuality(Cage.fromPolygons(mesh)));
  return own.worst >= Math.min(WELL_SHAPED, theirs.worst) && own.spirals <= theirs.spirals;
}

/** Tells of quads that nothing helped, and where the poorest is. @returns a sentence, or none where all are well */
export function poorQuads({ positions, faceVertices }: PolygonMesh): string[] {
  const shapes = quadJacobians(positions, faceVertices);
  const poor = shapes.filter((shape) => shape < TWISTED).length;
  if (poor === 0) return [];
  const at = faceVertices[4 * shapes.indexOf(shapes.reduce((a, b) => Math.min(a, b)))];
  const place = [0, 1, 2].map((k) => positions[3 * at + k].toFixed(1)).join(', ');
  return [
    `Quads with a corner that is straight, turned over or sharper than 6 degrees: ${poor}, the poorest at ${place}. Try another count, or release a sharp edge there.`
  ];
}

/** Halves that were joined: quads that share two sides across a plane become one, which may be twisted. */
function joined(list: QuadList, planes: readonly Mirror[], input: Prepared): QuadList {
  const { bvh, diagonal, topology } = input;
  const whole = withoutDoublets(list);
  if (worstJacobian(whole.positions, whole.quads) > 0 || !matches(whole, topology)) return whole;
  const places = new MirroredPlaces(planes, whole.positions, 1e-6 * diagonal);
  // on a plane they may move now
  const hold = whole.hold.map((kind, v) => (kind === 1 && places.isOnMirror(v) ? 0 : kind));
  untwistQuads({ ...whole, hold }, bvh, input.whole().normals);
  places.settleAll();
  return whole;
}

/** How quads are finished: sharp edges become creases, and the quads are fitted so that their smooth surface lies on the input. */
function finishing(input: Prepared, options: AutoQuadsOptions, mirrors: readonly Mirror[]): (quads: QuadList) => Fitted {
  const { dense, bvh, diagonal, size } = input;
  // the same for each of the readings that are fitted
  let ahead: Float64Array | undefined;
  return (quads) => {
    let mesh = uniformMesh(quads.positions.slice(), quads.quads, 4);
    if (options.creases ?? true) mesh = creaseSharp(mesh, quads.hold, dense, input.creased);
    if ((options.lies ?? 'smooth') !== 'smooth') return { mesh };
    // what lies behind a mirror is laid as its image
    ahead ??= mirrors.reduce((points, mirror) => pointsAhead(mirror, points), dense.positions);
    const { normals, lines } = input.whole();
    const mirrored = new MirroredPlaces(mirrors, mesh.positions, 1e-6 * diagonal);
    const fit = new LimitFit(mesh, bvh, normals, lines, { mirrored });
    fit.run();
    fit.reach(ahead, size);
    fit.straighten();
    return { mesh, closeness: closenessOf(mesh, input.whole(), diagonal, fit.subdivision) };
  };
}

/** Boxes are added for small islands, where that is asked for. */
export function withBoxes(mesh: PolygonMesh, input: Prepared, options: AutoQuadsOptions): PolygonMesh {
  if (options.smallIslands !== 'boxes' || input.small.length === 0) return mesh;
  const boxes = boxesFor(input.small);
  const first = mesh.positions.length / 3;
  return {
    ...mesh,
    ...uniformMesh(
      Float64Array.from([...mesh.positions, ...boxes.positions]),
      Int32Array.from([...mesh.faceVertices, ...boxes.quads.map((v) => first + v)]),
      4
    )
  };
}

/** @returns how far quads and what they were laid over lie apart, a sentence each */
function describeDistances({ mean, most, missed }: Closeness, vertices: Deviation): string[] {
  const sentences = [`Off the reference: smooth surface ${spreadInWords({ mean, most })}; vertices ${spreadInWords(vertices)}.`];
  if (missed)
    sentences.push(
      `The reference lies off the smooth surface by up to ${lengthInWords(missed.off)}, at ${missed.at.map((x) => x.toFixed(1)).join(', ')}: more quads, or finer ones there, get closer.`
    );
  return sentences;
}

const describeMirror = (mirror: Mirror): string =>
  `Laid on one side of ${planeName(mirror)} and mirrored; symmetry of the surface: ${lengthInWords(mirror.error)}.`;
