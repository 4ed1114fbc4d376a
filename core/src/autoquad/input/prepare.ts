import { boundsOf, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { triangleNormals } from '../../reference/reference.ts';
import { TriangleBvh } from '../../reference/triangle-bvh.ts';
import { oneSkin } from '../../solids/one-skin.ts';
import { STAYS_SHARP } from '../../subdivide/level-topology.ts';
import { FEATURE_ANGLE } from '../base/limits.ts';
import { withImages, reflected, type Mirror } from '../base/mirror.ts';
import { type AutoQuadsOptions } from '../base/options.ts';
import { type Topology } from '../base/quad-list.ts';
import { StepKind, type StepStore } from '../base/step-store.ts';
import { runsAcross } from '../base/strokes.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';
import { featureLinesOf, markFeatures, markTagged, type FollowedEdge } from '../lines/features.ts';
import { lengthOf } from '../lines/line-pieces.ts';
import { linesAtScale } from '../lines/lines-at-scale.ts';
import { foldOf, markPicked } from '../lines/picked-lines.ts';
import { halved, mirrorsOf, partsWell, planeName } from '../symmetry/symmetry.ts';
import { soundInput, surveyed, type SoundInput, type Survey } from './sound-input.ts';
import { Surface, sumOver, topologyOf, type LaidPart } from './surface.ts';

/** Edges whose folds are within so many degrees of each other are as sharp. */
const AS_SHARP = 2;

/** The whole input, its features marked, and what is asked of it. */
export interface Prepared extends Pick<SoundInput, 'dense' | 'size' | 'target' | 'small'> {
  /** edges that quads follow and that are to be creases of theirs */
  creased: FollowedEdge[];
  notes: string[];
  diagonal: number;
  bvh: TriangleBvh;
  topology: Topology;
  mirrors: Mirror[];
  /** the whole of it as it is laid where nothing is mirrored; made when first asked for */
  whole(): LaidPart;
  /** what all this was made from */
  from: readonly unknown[];
}

const SURVEY = new StepKind<Survey>('survey');
const INPUT = new StepKind<ReturnType<typeof inputOf>>('input');
const PART = new StepKind<LaidPart>('part');
const LINES = new StepKind<ReturnType<typeof linesAtScale>>('lines');

/**
 * @param leftOut half-edges that are not to be followed, one of each edge, as they were prepared before
 * @throws AutoQuadsError naming what stands in the way
 */
export function prepared(input: PolygonMesh, options: AutoQuadsOptions, kept: StepStore, leftOut: readonly number[] = []): Prepared {
  const { oneSkin: joined = false, featureAngle, symmetry = 'auto', guides = [], lines = [], smallIslands, keepHoles } = options;
  const survey = kept.step(SURVEY, '', [joined], () => surveyed(joined ? oneSkin(input) : input));
  const sound = soundInput(survey, options);
  const { size, target, small, closed } = sound;
  // what is left out or closed depends on the size
  const from = [joined, featureAngle, symmetry, small.length + closed > 0 ? size : 0, keepHoles];
  const taken = kept.step(INPUT, '', from, () => inputOf(sound, options), size);
  const { diagonal, bvh, topology, sharp, noise, planes, unparted } = taken;
  // what is picked and left out is marked on a mesh of its own
  const dense = taken.dense.marked(taken.dense.feature.slice());
  const atScale = kept.step(LINES, '', [...from, size], () => linesAtScale(taken.dense, sharp, size, featureAngle ?? FEATURE_ANGLE));
  for (const h of without(sharp, atScale.lines)) dense.markEdge(h, 0);
  // of those some may be creased as well
  const tagged = [...taken.tagged, ...markTagged(dense, sound.mesh, sound.faceOf)];
  const { fitting, from: degrees } = fittingLines(dense, atScale.lines, 2 * target * size);
  const unfitting = without(atScale.lines, fitting);
  for (const h of unfitting) dense.markEdge(h, 0);
  const followed = without(fitting, leftOut).length;
  const notes = followed > 0 ? [`${followed.toLocaleString('en')} sharp edges of the reference are kept as edges of quads.`] : [];
  if (noise > 0)
    notes.push(
      `Edges beyond ${featureAngle ?? FEATURE_ANGLE} degrees that were taken for noise or facets, not for lines: ${noise.toLocaleString('en')}.`
    );
  if (atScale.noise > 0)
    notes.push(
      `Sharp edges that are no lines at the size of a quad, but zigzags or facets: ${lengthInWords(atScale.noise)} of them were taken for noise.`
    );
  if (unfitting.length > 0) {
    const count = Math.round(target).toLocaleString('en');
    notes.push(
      `Sharp edges of less than ${degrees.toFixed(0)} degrees were left out: all of them are longer than the edges of ${count} quads together.`
    );
  }
  if (tagged.length > 0) notes.push(`${tagged.length.toLocaleString('en')} creased edges and edges between regions are kept as edges of quads.`);
  for (const mirror of unparted) notes.push(`Not mirrored in ${planeName(mirror)}: one side would hang together by single vertices only.`);
  const mirrors = planes.filter((mirror) => {
    const across = guides.findIndex((guide) => (guide.count ?? 0) > 0 && runsAcross(guide, mirror, size));
    if (across >= 0 && !guides[across].silent) notes.push(`Not mirrored: guide ${across + 1}, which has a count, runs across the plane.`);
    return across < 0;
  });
  if (small.length > 0) {
    const what = smallIslands === 'boxes' ? 'became boxes' : 'were left out';
    notes.push(`Islands too small for quads of ${size.toPrecision(3)} mm ${what}: ${small.length.toLocaleString('en')}.`);
  }
  if (closed > 0) notes.push(`Holes too small for quads of ${size.toPrecision(3)} mm were closed: ${closed.toLocaleString('en')}.`);
  const picks = withImages(lines, mirrors, ({ points, follow }, mirror) => ({
    points: points.map((p) => reflected(mirror, p)),
    follow
  }));
  const picked = markPicked(dense, picks, diagonal);
  if (picked.length > 0) notes.push(`${picked.length.toLocaleString('en')} picked edges are kept as edges of quads.`);
  for (const h of leftOut) dense.markEdge(h, 0);
  const folded = [...fitting, ...picked.filter((h) => foldOf(dense, h) > FEATURE_ANGLE)].map((half) => ({ half, sharpness: STAYS_SHARP }));
  const creased = [...folded, ...tagged.filter(({ sharpness }) => sharpness > 0)].filter(({ half }) => dense.feature[half] === 1);
  const all = [...from, lines, leftOut, atScale.noise, unfitting.length];
  let laid: LaidPart | undefined;
  const whole = () => (laid ??= kept.step(PART, 'whole', all, () => laidPart(dense, bvh, topology)));
  return { dense, creased, small, notes, size, target, diagonal, bvh, topology, mirrors, whole, from: all };
}

/**
 * The sharpest of some edges, where all of them are longer than quads can have edges.
 * @param sharp half-edges, one of each edge
 * @param most how long they may be together, mm
 * @returns those that fit, and by how many degrees they are folded at least
 */
function fittingLines(dense: WorkingMesh, sharp: readonly number[], most: number): { fitting: readonly number[]; from: number } {
  if (lengthOf(dense, sharp) <= most) return { fitting: sharp, from: 0 };
  const byFold = sharp.map((h) => ({ h, fold: foldOf(dense, h) })).sort((a, b) => b.fold - a.fold);
  let long = 0;
  const tooMuch = byFold.find(({ h }) => (long += lengthOf(dense, [h])) > most);
  // those that are as sharp go together
  const from = (tooMuch?.fold ?? 0) + AS_SHARP;
  return { fitting: byFold.filter(({ fold }) => fold > from).map(({ h }) => h), from };
}

const without = (list: readonly number[], gone: readonly number[]): number[] => {
  const others = new Set(gone);
  return list.filter((h) => !others.has(h));
};

/** What does not depend on what was picked and drawn; its marks are those by angle, and those that came with the surface. */
function inputOf({ mesh, dense: surveyed, faceOf, size }: SoundInput, { featureAngle, symmetry = 'auto' }: AutoQuadsOptions) {
  const { diagonal } = boundsOf(mesh.positions);
  const dense = surveyed.marked(new Uint8Array(surveyed.feature.length));
  const { sharp, noise } = markFeatures(dense, diagonal, featureAngle);
  const tagged = markTagged(dense, mesh, faceOf);
  const bvh = new TriangleBvh(mesh.positions, dense.corner);
  const found = mirrorsOf(dense, bvh, Math.min(0.1 * size, 0.003 * diagonal), symmetry);
  const planes = found.filter((mirror) => partsWell(dense, mirror, diagonal));
  const unparted = found.filter((mirror) => !planes.includes(mirror));
  return { dense, diagonal, bvh, topology: topologyOf(dense), sharp, noise, tagged, planes, unparted };
}

/** The whole surface, or what lies on one side of planes it is mirrored in. */
export function surfaceOf(
  { dense, target, diagonal, whole, from }: Prepared,
  planes: readonly Mirror[],
  options: AutoQuadsOptions,
  kept: StepStore
): Surface {
  const onOneSide = () => {
    const side = planes.reduce((rest, mirror) => halved(rest, mirror, diagonal), dense);
    side.mirrors = planes;
    return laidPart(side);
  };
  const part = planes.length === 0 ? whole() : kept.step(PART, String(planes.length), [...from, planes], onOneSide);
  return new Surface(part, options, target / 2 ** planes.length, kept, [...from, planes]);
}

function laidPart(dense: WorkingMesh, bvh = new TriangleBvh(dense.positions, dense.corner), topology = topologyOf(dense)): LaidPart {
  return {
    dense,
    bvh,
    normals: triangleNormals(dense.positions, dense.corner),
    lines: featureLinesOf(dense),
    topology,
    area: sumOver(dense, (t) => dense.area(t))
  };
}
