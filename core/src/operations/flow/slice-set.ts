import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { faceAreaVector } from '../../mesh/normals.ts';
import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { sliceFaces } from '../../mesh/slice.ts';
import { bestFitPlane, type Plane } from '../../numeric/best-fit.ts';
import { add, cross, dot, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { facesOf, isEmpty, selectEdges, selectFaces, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { viewField } from '../shared/view-field.ts';
import { counted, facesChanged } from '../shared/words.ts';
import { fitPanelCells } from './panel-cells.ts';
import { faceGroups, outlineOf } from '../shared/extrude-walls.ts';

type Axis = 'X' | 'Y' | 'Z';

interface SliceSetParams {
  along: Axis | 'two' | 'all' | 'panel' | 'view' | 'cells';
  first: Axis;
  second: Axis;
  size: number;
  fit: 'nearest' | 'keep';
  count: number;
  across: number;
  offset: number;
  angle: number;
  view: Triple[];
}

/** What is picked, or everything. */
const meant = (cage: Cage, selection: Selection): number[] => (isEmpty(selection) ? [...cage.faces()] : facesOf(cage, selection));

/** A panel's own frame: its normal, and the direction most of its outline runs along or across. */
function panelFrame(cage: Cage, faces: number[]): Plane {
  const vertices = verticesOf(cage, selectFaces(faces));
  const plane = bestFitPlane(vertices.map((v) => cage.position(v)));
  let [x, y] = [0, 0];
  for (const group of faceGroups(cage, faces, true))
    for (const h of outlineOf(cage, group)) {
      const way = subtract(cage.position(cage.target(h)), cage.position(cage.origin[h]));
      const [a, b] = [dot(way, plane.u), dot(way, plane.v)];
      // four times the angle: sides at right angles to each other count as one direction
      const turn = 4 * Math.atan2(b, a);
      x += Math.hypot(a, b) * Math.cos(turn);
      y += Math.hypot(a, b) * Math.sin(turn);
    }
  const angle = Math.atan2(y, x) / 4;
  const u = unit(add(scaled(plane.u, Math.cos(angle)), scaled(plane.v, Math.sin(angle))));
  return { centre: plane.centre, u, v: cross(plane.normal, u), normal: plane.normal };
}

/** Unit normals of the families of planes, how many each has, and the axis an angle turns them about. */
function families(cage: Cage, faces: number[], p: SliceSetParams): { normal: Triple; about: Triple; count: number }[] {
  const axes: Triple[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1]
  ];
  const axis = (k: number) => ({ normal: axes[k], about: axes[(k + 2) % 3], count: p.count });
  if (p.along === 'two') return [axis('XYZ'.indexOf(p.first)), { ...axis('XYZ'.indexOf(p.second)), count: p.across }];
  if (p.along === 'all') return [axis(0), axis(1), axis(2)];
  if (p.along === 'panel') {
    const { u, v, normal } = panelFrame(cage, faces);
    return [
      { normal: u, about: normal, count: p.count },
      { normal: v, about: normal, count: p.across }
    ];
  }
  if (p.along === 'view') {
    if (p.view.length < 3) return [axis(0)];
    const [right, up, back] = p.view.map(unit);
    return [
      { normal: right, about: back, count: p.count },
      { normal: up, about: back, count: p.across }
    ];
  }
  return [axis('XYZ'.indexOf(p.along))];
}

function turned(v: Triple, about: Triple, degrees: number): Triple {
  const a = (degrees * Math.PI) / 180;
  // Rodrigues' rotation
  return add(add(scaled(v, Math.cos(a)), scaled(cross(about, v), Math.sin(a))), scaled(about, dot(about, v) * (1 - Math.cos(a))));
}

/** Fits whole cells into each picked panel. */
function fitCells(cage: Cage, selection: Selection, p: SliceSetParams): CageResult {
  const copy = cage.clone();
  const [cells, band] = [[] as number[], [] as number[]];
  let [added, cleared] = [0, 0];
  for (const panel of faceGroups(cage, meant(cage, selection), true)) {
    const frame = panelFrame(copy, panel);
    const facing = panel.reduce<Triple>((sum, f) => add(sum, faceAreaVector(copy, f)), [0, 0, 0]);
    // the normal looks where the panel's faces look, so that its outline runs counter-clockwise
    if (dot(facing, frame.normal) < 0) [frame.normal, frame.v] = [scaled(frame.normal, -1), scaled(frame.v, -1)];
    const turn = (way: Triple) => turned(way, frame.normal, p.angle);
    const fitted = fitPanelCells(copy, panel, { ...frame, u: turn(frame.u), v: turn(frame.v) }, p.size, p.fit === 'keep');
    cells.push(...fitted.cells);
    band.push(...fitted.band);
    added += fitted.added;
    cleared += fitted.cleared;
  }
  const notes = [`${cells.length} whole cells, ${counted(band.length, 'quad')} round them to the border.`];
  if (cleared > 0) notes.push(`${counted(cleared, 'edge')} inside cleared first.`);
  if (added > 0) notes.push(`${counted(added, 'vertex', 'vertices')} put on the border; faces beside got those corners too.`);
  return { cage: copy, selection: selectFaces(cells), notes };
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const p = params as unknown as SliceSetParams;
  if (p.along === 'cells') return fitCells(cage, selection, p);
  const copy = cage.clone();
  const start = meant(cage, selection);
  const faces = new Set(start);
  const points = verticesOf(cage, selectFaces(start)).map((v) => cage.position(v));
  const tolerance = 1e-9 * Math.max(1, boundsOf(points.flat()).diagonal);
  const edges = new Set<number>();
  let planes = 0;
  for (const { normal: straight, about, count } of families(cage, start, p)) {
    const normal = turned(straight, about, p.angle);
    const ways = points.map((q) => dot(q, normal));
    const [low, high] = [Math.min(...ways), Math.max(...ways)];
    const gap = (high - low) / (count + 1);
    for (let i = 1; i <= count; i++) {
      const way = low + gap * (i + p.offset / 100);
      if (!(way > low + tolerance && way < high - tolerance)) continue;
      const cut = sliceFaces(copy, { point: scaled(normal, way), normal }, { faces }, tolerance);
      if (cut.length > 0) planes++;
      for (const e of cut) edges.add(e);
    }
  }
  if (planes === 0) refuse('No plane crosses the faces.', selectFaces(start), 'Choose another axis, a count of 1 or more, or a smaller offset.');
  const beside = [...copy.faces()].filter((f) => !faces.has(f) && cage.hasFace(f) && copy.faceSize(f) > cage.faceSize(f)).length;
  const notes = [`${counted(planes, 'plane')}: ${facesChanged(copy.faceCount - cage.faceCount)}.`];
  if (beside > 0) notes.push(`${counted(beside, 'face')} beside got more corners: cut them as well, or run the cuts out.`);
  return { cage: copy, selection: selectEdges([...edges].filter((e) => copy.hasEdge(e))), notes };
}

const byPlanes = 'X|Y|Z|two|all|panel|view';
const axisField = (label: string, initial: Axis) =>
  Joi.string()
    .valid('X', 'Y', 'Z')
    .default(initial)
    .label(label)
    .meta({ when: { field: 'along', is: 'two' } });
const planes = (label: string, initial: number) => Joi.number().integer().min(0).max(400).default(initial).label(label).meta({ step: 1 });

/** Cuts faces by evenly spaced planes, or fits whole cells into panels. */
export const sliceSet: CageOperation = {
  kind: 'cage',
  id: 'slice-set',
  bench: 3,
  name: 'Slice set',
  purpose:
    "Cut picked faces, or the whole part, by evenly spaced planes along one, two or three axes, a panel's own frame or the view, or fit whole cells into a panel.",
  icon: 'ColumnDependency',
  needs: 'A cage with faces.',
  takesView: true,
  once: ['view'],
  params: Joi.object({
    along: Joi.string()
      .valid('X', 'Y', 'Z', 'two', 'all', 'panel', 'view', 'cells')
      .default('X')
      .label('Along')
      .meta({
        labels: {
          two: 'Two axes',
          all: 'All three axes',
          panel: "The panel's own frame",
          view: 'The view',
          cells: "The panel's own frame, whole cells"
        }
      }),
    size: Joi.number()
      .min(0.001)
      .default(10)
      .label('Cell size')
      .unit('mm')
      .meta({ step: 1, when: { field: 'along', is: 'cells' } }),
    fit: Joi.string()
      .valid('nearest', 'keep')
      .default('nearest')
      .label('Where it does not divide')
      .meta({
        labels: { nearest: 'Nearest whole number of cells', keep: 'Keep the size, with a rim' },
        when: { field: 'along', is: 'cells' }
      }),
    first: axisField('First axis', 'X'),
    second: axisField('Second axis', 'Z'),
    count: planes('Planes', 3).meta({ when: { field: 'along', is: byPlanes } }),
    across: planes('Planes across', 3).meta({ when: { field: 'along', is: 'two|panel|view' } }),
    offset: Joi.number()
      .min(-100)
      .max(100)
      .default(0)
      .label('Offset')
      .unit('% of a gap')
      .meta({ step: 5, when: { field: 'along', is: byPlanes } }),
    angle: Joi.number().min(-90).max(90).default(0).label('Turned by').unit('°').meta({ step: 5 }),
    view: viewField()
  }),
  check: (cage, selection, params) => {
    if (meant(cage, selection).length === 0)
      return { found: 'No face is picked.', where: selection, instead: 'Pick faces, or nothing for the whole part.' };
    const { along, first, second } = params as unknown as SliceSetParams;
    if (along === 'two' && first === second) return { found: `Both axes are ${first}.`, instead: 'Choose two different axes.', numbers: true };
    return undefined;
  },
  run
};
