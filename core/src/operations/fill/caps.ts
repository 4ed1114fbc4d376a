import Joi from 'joi';
import { fillHole, MOST_CAP_EDGES, MOST_GRID_EDGES, type FillMethod, type FillSettings } from '../../fill/fill-hole.ts';
import { describeHole, holeThrough, type Hole } from '../../fill/hole.ts';
import { fillRing, type Gap } from '../../fill/nested.ts';
import { type Cage } from '../../mesh/cage.ts';
import { selectFaces, verticesOf, type Selection } from '../../select/selection.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { type CageOperation, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted } from '../shared/words.ts';
import { gridCorners, gridCounts } from './grid-corners.ts';
import { bordersOf, edgesOfHoles, pickedByBorder, unfit } from './borders-meant.ts';
import { madeEven, oddProposals, oddWays, type OddWay } from './odd-borders.ts';

/** Gaps whose borders what is picked touches; with nothing picked the only one there is. */
function gapsMeant(cage: Cage, selection: Selection): Gap[] {
  const { gaps } = bordersOf(cage);
  const rims = ({ hole, island }: Gap) => (island ? [hole, island] : [hole]);
  return pickedByBorder(cage, selection, gaps, rims) ?? (gaps.length === 1 ? gaps : []);
}

function checkHoles(cage: Cage, selection: Selection): Refusal | undefined {
  const meant = gapsMeant(cage, selection);
  for (const { hole, island } of meant) {
    const refusal = unfit(hole) ?? (island && unfit(island));
    if (refusal) return refusal;
  }
  if (meant.length > 0) return undefined;
  const { holes } = bordersOf(cage);
  if (holes.length === 0) return { found: 'The part is closed: it has no border to fill.', instead: 'Delete faces first, or open edges.' };
  return {
    found: `${verticesOf(cage, selection).length > 0 ? 'What is picked lies on no border' : 'No border is picked'}; there are ${holes.length}: ${holes
      .slice(0, 4)
      .map(describeHole)
      .join('; ')}.`,
    where: edgesOfHoles(...holes),
    instead: 'Pick an edge of the border that is meant, or all of them with "Borders".'
  };
}

/** Borders that a way to fill takes too long for, with the way that does not. */
function tooLong(method: FillMethod, gaps: readonly Gap[]): void {
  if (method !== 'grid' && method !== 'ring') return;
  const long = gaps.find(({ hole, island }) => hole.vertices.length + (island?.vertices.length ?? 0) > MOST_GRID_EDGES);
  if (!long) return;
  const n = long.hole.vertices.length;
  refuse(
    `The border has ${n.toLocaleString('en')} edges: a grid in it would have about ${Math.round(n ** 2 / 16 / 1000).toLocaleString('en')},000 quads.`,
    edgesOfHoles(long.hole),
    `Close it with a one-face cap, or part it into borders of up to ${MOST_GRID_EDGES} edges: draw a face across.`
  );
}

function run(cage: Cage, selection: Selection, method: FillMethod, settings: FillSettings, odd: OddWay) {
  tooLong(method, gapsMeant(cage, selection));
  let copy = cage.clone();
  const faces: number[] = [];
  const lines: number[] = [];
  const notes: string[] = [];
  for (const { hole: meant, island } of gapsMeant(cage, selection)) {
    // what was done to others may have given it more edges, or filled it
    const found = holeThrough(copy, meant.vertices);
    const inner = island && holeThrough(copy, island.vertices);
    if (!found) continue;
    if (island && inner) {
      const made = fillRing(copy, found, inner);
      faces.push(...made);
      notes.push(`${describeHole(meant)}, with an island of ${island.vertices.length} edges in it: a ring of ${counted(made.length, 'face')}.`);
      continue;
    }
    const n = found.vertices.length;
    if (method === 'triangles' && n > MOST_CAP_EDGES)
      refuse(
        `The border has ${n} edges; triangle caps are searched for up to ${MOST_CAP_EDGES}.`,
        edgesOfHoles(meant),
        n > MOST_GRID_EDGES ? 'Close it with a one-face cap.' : 'Fill it with a quad grid.'
      );
    if (settings.rows !== undefined && settings.rows >= Math.ceil(n / 2))
      refuse(
        `${settings.rows} rows are too many for a border of ${n} edges.`,
        edgesOfHoles(meant),
        `Type ${Math.ceil(n / 2) - 1} or fewer, or 0 to let it choose.`
      );
    const even = madeEven(copy, found, method === 'grid' ? odd : 'triangle');
    copy = even.cage;
    lines.push(...(even.line ?? []));
    const made = fillHole(copy, even.hole, method, settings);
    faces.push(...made);
    notes.push(`${describeHole(meant)}: ${counted(made.length, 'face')}.`);
    if (even.note) notes.push(even.note);
    if (method === 'grid' && made.some((f) => copy.faceSize(f) === 3))
      notes.push(`One triangle is left, where the surface is flattest; other ways are listed on the card.`);
  }
  return { cage: copy, selection: { ...selectFaces(faces), edges: lines }, notes };
}

type Wanted = (params: Params) => FillSettings;
const swellField = () =>
  Joi.number().min(0).max(1).default(1).label('Swell').meta({ step: 0.1, slider: true }).description('0 flat, 1 continues the curvature around');

/** Seconds that a border takes by the square of its edges, where it is ragged; beyond `MOST_OUTLINE_EDGES` fewer ways are tried. */
const GRID_SECONDS = 3e-4;

/** About how long filling takes: a grid's ways look at pairs of border vertices, a search for triangles at three of them. */
function secondsToFill(method: FillMethod, gaps: readonly Gap[]): number {
  const edges = gaps.map(({ hole }) => hole.vertices.length);
  if (method === 'grid') return edges.reduce((sum, n) => sum + GRID_SECONDS * n ** 2, 0);
  if (method === 'triangles') return edges.reduce((sum, n) => sum + 1.2e-7 * Math.min(n, MOST_CAP_EDGES) ** 3, 0);
  return method === 'ring' ? edges.reduce((sum, n) => sum + 2e-3 * n, 0) : 0;
}

/** A way to fill holes as an operation. */
const cap = (
  method: FillMethod,
  settings: Wanted,
  rest: Pick<CageOperation, 'id' | 'name' | 'purpose' | 'icon' | 'key' | 'params' | 'proposals' | 'keepsSurface' | 'grips' | 'numbers'>
): CageOperation => ({
  kind: 'cage',
  bench: 5,
  group: 'Holes',
  needs: 'A border: pick an edge of it where there are several.',
  check: checkHoles,
  seconds: (cage, selection) => secondsToFill(method, gapsMeant(cage, selection)),
  run: (cage, selection, params) => run(cage, selection, method, settings(params), (params.odd as OddWay | undefined) ?? 'triangle'),
  ...rest
});

const gridSettings: Wanted = (params) => ({
  swell: params.swell as number,
  offset: params.offset as number,
  rows: (params.rows as number) || undefined,
  plain: params.rim === 'none',
  panels: params.goOn === 'panels'
});

/** The one hole that is meant, where there is one alone and it has no island. */
function holeMeant(cage: Cage, selection: Selection): Hole[] {
  const gaps = gapsMeant(cage, selection);
  return gaps.length === 1 && !gaps[0].island && !unfit(gaps[0].hole) ? [gaps[0].hole] : [];
}

/** Fills holes with a grid of quads. */
export const quadGrid = cap('grid', gridSettings, {
  id: 'quad-grid',
  keepsSurface: 'beside',
  name: 'Quad grid',
  key: 'Z',
  purpose: 'Fill a hole with quads that run on from its surroundings, by its corners; an odd border keeps one triangle where it is flattest.',
  icon: 'Grid',
  grips: (cage, selection, params) => holeMeant(cage, selection).flatMap((hole) => gridCorners(hole, gridSettings(params))),
  numbers: (cage, selection, params) => holeMeant(cage, selection).flatMap((hole) => gridCounts(hole, gridSettings(params))),
  proposals: (cage, selection) =>
    oddProposals(
      cage,
      gapsMeant(cage, selection).flatMap(({ hole, island }) => (island ? [] : [hole]))
    ),
  params: Joi.object({
    rows: Joi.number().integer().min(0).max(2000).default(0).label('Edges on one side').meta({ step: 1 }).description('0: automatic'),
    rim: Joi.string()
      .valid('auto', 'none')
      .default('auto')
      .label('Round borders')
      .meta({ labels: { auto: 'A ring first, then the grid', none: 'The grid at once' }, more: true }),
    goOn: Joi.string()
      .valid('surface', 'panels')
      .default('surface')
      .label('Continues')
      .meta({ labels: { surface: 'The surface around', panels: 'Panel corner, panels as planes' } }),
    odd: Joi.string()
      .valid(...Object.keys(oddWays))
      .default('triangle')
      .label('Odd borders')
      .meta({ labels: oddWays, more: true }),
    offset: Joi.number().integer().min(-2000).max(2000).default(0).label('Corners moved by').meta({ step: 1, more: true }),
    swell: swellField(),
    keepSurface: keepSurfaceField()
  })
});

/** Fills holes with rings towards the middle. */
export const ringCap = cap('ring', (params) => ({ swell: params.swell as number, rings: params.rings as number }), {
  id: 'ring-cap',
  keepsSurface: 'beside',
  name: 'Ring cap',
  key: 'C',
  purpose: 'Fill a hole with rings towards its middle, and a grid within the last one.',
  icon: 'CircleDash',
  params: Joi.object({
    rings: Joi.number().integer().min(1).max(100).default(1).label('Rings').meta({ step: 1 }),
    swell: swellField(),
    keepSurface: keepSurfaceField()
  })
});

/** Fills holes with triangles. */
export const triangleCapOperation = cap('triangles', (params) => ({ swell: 0, byArea: params.by === 'area' }), {
  id: 'triangle-cap',
  name: 'Triangle cap',
  key: 'V',
  purpose: 'Fill a hole with triangles: the flattest joints, or the least area.',
  icon: 'ShapeJoin',
  params: Joi.object({
    by: Joi.string()
      .valid('flat', 'area')
      .default('flat')
      .label('Diagonals')
      .meta({ labels: { flat: 'Flattest joints', area: 'Least area' } })
  })
});

/** Fills holes with one face each. */
export const oneFaceCap = cap('face', () => ({ swell: 0 }), {
  id: 'one-face-cap',
  name: 'One-face cap',
  key: 'B',
  purpose: 'Fill a hole with a single face.',
  icon: 'ShapeUnite',
  params: Joi.object({})
});
