import Joi from 'joi';
import { type LiveWork } from '../../live/live-edit.ts';
import { MovedVertices, MovingVertices } from '../../live/moved-vertices.ts';
import { type Cage } from '../../mesh/cage.ts';
import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { add, subtract, type Triple } from '../../numeric/vectors.ts';
import { counterpartsByPosition, counterpartsByTopology, type Axis, type Counterparts } from '../../select/counterparts.ts';
import { falloffWeights, type FalloffAlong } from '../../select/falloff.ts';
import { isEmpty, onlyPresent, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { mergeVertices } from '../shared/merge-vertices.ts';
import { frameOf, intoFrame, outOfFrame, WORLD_AXES, type Frame, type FrameKind, type PivotKind } from '../shared/frame.ts';

/** What move, rotate and scale have in common. */
export interface TransformParams {
  x: number;
  y: number;
  z: number;
  frame: FrameKind;
  pivot: PivotKind;
  pivotX: number;
  pivotY: number;
  pivotZ: number;
  falloff: 'none' | FalloffAlong;
  radius: number;
  mirrored: 'none' | Axis;
  matching: 'position' | 'topology';
}

/** Numbers of handles that are meant once: a shift or turn, and its pivot. */
const ONCE = ['x', 'y', 'z', 'all', 'how', 'pivot', 'pivotX', 'pivotY', 'pivotZ'];
const needsPick = 'Pick vertices, edges or faces first.';

/** The frame that typed numbers and handles run in. */
export function transformFrame(cage: Cage, selection: Selection, params: Params): Frame {
  const p = params as unknown as TransformParams;
  return frameOf(cage, selection, p.frame, p.pivot, [p.pivotX, p.pivotY, p.pivotZ]);
}

/** How much every vertex follows, by vertex id. */
export function transformWeights(cage: Cage, selection: Selection, params: Params): Map<number, number> {
  const { falloff, radius } = params as unknown as TransformParams;
  const vertices = verticesOf(cage, selection);
  return falloff === 'none' ? new Map(vertices.map((v) => [v, 1])) : falloffWeights(cage, vertices, radius, falloff);
}

/** Distance within which a place counts as the mirror image of another. */
const tolerance = (cage: Cage) => Math.max(1e-9, 1e-4 * boundsOf(cage.positions.subarray(0, 3 * cage.vertexSlots)).diagonal);

/** Cages are never changed once they are in a job, and a drag asks for the same counterparts many times. */
const known = new WeakMap<Cage, Map<string, Counterparts>>();

function counterpartsOf(cage: Cage, { mirrored, matching }: TransformParams): Counterparts | undefined {
  if (mirrored === 'none') return undefined;
  const ofCage = known.get(cage) ?? new Map<string, Counterparts>();
  known.set(cage, ofCage);
  const key = `${mirrored} ${matching}`;
  const find = matching === 'position' ? counterpartsByPosition : counterpartsByTopology;
  const found = ofCage.get(key) ?? find(cage, mirrored, tolerance(cage));
  ofCage.set(key, found);
  return found;
}

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: needsPick };
  const p = params as unknown as TransformParams;
  const counterparts = counterpartsOf(cage, p);
  if (!counterparts) return undefined;
  const alone = verticesOf(cage, selection).filter((v) => !counterparts.has(v));
  if (alone.length > 0)
    return {
      numbers: true,
      found: `${alone.length} of the picked vertices ${alone.length === 1 ? 'has' : 'have'} no counterpart across ${p.mirrored} = 0.`,
      where: selectVertices(alone),
      instead:
        p.matching === 'position'
          ? 'Match by topology, or make the part symmetric first (Mirror).'
          : 'Match by position, or make the part symmetric first (Mirror).'
    };
  return undefined;
}

/** The picked vertices, what follows them, and their counterparts. */
function moving(cage: Cage, selection: Selection, params: Params): { vertices: MovedVertices; notes: string[] } {
  const p = params as unknown as TransformParams;
  const counterparts = counterpartsOf(cage, p);
  const mirrored = counterparts && { axis: 'XYZ'.indexOf(p.mirrored), counterparts };
  const vertices = new MovedVertices(cage, transformWeights(cage, selection, params), mirrored);
  return { vertices, notes: counterparts ? [`${vertices.followed} counterparts across ${p.mirrored} moved as well, found by ${p.matching}.`] : [] };
}

/** What numbers of an operation make of a place, in a frame. */
type ChangeOf = (frame: Frame, params: Params) => (p: Triple) => Triple;

/** A copy with the picked vertices, what follows them, and their counterparts put through a function of their place. */
function transformed(cage: Cage, selection: Selection, params: Params, changeOf: ChangeOf): CageResult {
  const copy = cage.clone();
  const { vertices, notes } = moving(cage, selection, params);
  vertices.place(copy.positions, changeOf(transformFrame(cage, selection, params), params));
  return { cage: copy, selection, notes };
}

/** The same live: frame, weights and counterparts are found once. */
function live(changeOf: ChangeOf): LiveWork {
  return {
    numbers: ['x', 'y', 'z', 'all'],
    // what is welded where it lands has another topology
    suits: ({ weld }) => weld !== true,
    begin(cage, selection, params) {
      const frame = transformFrame(cage, selection, params);
      const { vertices, notes } = moving(cage, selection, params);
      return new MovingVertices(cage, vertices, (input) => changeOf(frame, input), notes);
    }
  };
}

const moved: ChangeOf = (frame, params) => {
  const { x, y, z, how } = params as unknown as TransformParams & { how: 'by' | 'to' };
  const along = (): Triple => (frame.axes === WORLD_AXES ? [x, y, z] : subtract(outOfFrame(frame, [x, y, z]), frame.pivot));
  const by = how === 'to' ? subtract([x, y, z], frame.pivot) : along();
  return (p) => add(p, by);
};

/** Turns a point about the axis between two others, in degrees. */
function turn(p: Triple, i: number, j: number, degrees: number): void {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  [p[i], p[j]] = [c * p[i] - s * p[j], s * p[i] + c * p[j]];
}

const turned: ChangeOf = (frame, params) => {
  const { x, y, z } = params as unknown as TransformParams;
  return (p) => {
    const q = intoFrame(frame, p);
    turn(q, 1, 2, x);
    turn(q, 2, 0, y);
    turn(q, 0, 1, z);
    return outOfFrame(frame, q);
  };
};

const scaled: ChangeOf = (frame, params) => {
  const { x, y, z, all } = params as unknown as TransformParams & { all: number };
  return (p) => {
    const q = intoFrame(frame, p);
    return outOfFrame(frame, [(q[0] * x * all) / 1e4, (q[1] * y * all) / 1e4, (q[2] * z * all) / 1e4]);
  };
};

const number = (label: string, unit: string, initial: number, step: number) => Joi.number().default(initial).label(label).unit(unit).meta({ step });
const rare = { more: true };

const common = {
  frame: Joi.string()
    .valid('world', 'selection')
    .default('world')
    .label('Along')
    .meta({ labels: { world: "The world's axes", selection: "The selection's: Y is its normal" } }),
  falloff: Joi.string()
    .valid('none', 'surface', 'space')
    .default('none')
    .label('Falloff')
    .meta({ labels: { none: 'None', surface: 'Along the surface', space: 'Through space' } }),
  radius: Joi.number()
    .greater(0)
    .max(1e6)
    .default(20)
    .label('Radius')
    .unit('mm')
    .meta({ step: 1, when: { field: 'falloff', is: 'surface|space' } }),
  mirrored: Joi.string()
    .valid('none', 'X', 'Y', 'Z')
    .default('none')
    .label('Mirrored across')
    .meta({ ...rare, labels: { none: 'Nothing', X: 'X = 0', Y: 'Y = 0', Z: 'Z = 0' } }),
  matching: Joi.string()
    .valid('position', 'topology')
    .default('position')
    .label('Counterparts by')
    .meta({ ...rare, labels: { position: 'Position', topology: 'Topology' }, when: { field: 'mirrored', is: 'X|Y|Z' } }),
  pivot: Joi.string()
    .valid('mean', 'middle', 'last', 'border', 'origin', 'typed')
    .default('mean')
    .label('Pivot')
    .meta({
      ...rare,
      labels: {
        mean: 'Mean of the vertices',
        middle: 'Middle of their extent',
        last: 'The last pick',
        border: "A border's centre",
        origin: 'The origin',
        typed: 'Typed or dragged'
      }
    }),
  ...Object.fromEntries(
    ['X', 'Y', 'Z'].map((axis) => [
      `pivot${axis}`,
      Joi.number()
        .default(0)
        .label(`Pivot ${axis}`)
        .unit('mm')
        .meta({ ...rare, step: 0.5, when: { field: 'pivot', is: 'typed' } })
    ])
  ),
  snap: Joi.string()
    .valid('none', 'grid', 'vertex', 'edge', 'reference')
    .default('none')
    .label('Handles snap to')
    .meta({ ...rare, labels: { none: 'Nothing', grid: 'Steps', vertex: 'Vertices', edge: "Edges' middles and thirds", reference: 'The reference' } }),
  step: Joi.number()
    .greater(0)
    .max(1e4)
    .default(1)
    .label('Step')
    .description('mm when moving, degrees when turning, % when scaling')
    .meta({ ...rare, step: 0.5, when: { field: 'snap', is: 'grid' } })
};

export const move: CageOperation = {
  kind: 'cage',
  id: 'move',
  bench: 3,
  name: 'Move',
  purpose: 'Shift what is picked by handles or typed distances, or to a typed place; with falloff, snapping and mirrored.',
  icon: 'Move',
  key: 'Z',
  needs: needsPick,
  handles: 'move',
  once: ONCE,
  params: Joi.object({
    x: number('X', 'mm', 0, 0.5),
    y: number('Y', 'mm', 0, 0.5),
    z: number('Z', 'mm', 0, 0.5),
    how: Joi.string()
      .valid('by', 'to')
      .default('by')
      .label('Numbers are')
      .meta({ ...rare, labels: { by: 'Distances', to: 'The place of its pivot' } }),
    ...common,
    weld: Joi.boolean()
      .default(false)
      .label('Weld to vertices it lands on')
      .meta({ ...rare })
  }),
  check,
  live: live(moved),
  run: (cage, selection, params) => {
    const result = transformed(cage, selection, params, moved);
    return params.weld ? weldedWhereItLands(result, verticesOf(cage, selection)) : result;
  }
};

/** Moved vertices that came to lie on others become one with them. */
function weldedWhereItLands(result: CageResult, moved: number[]): CageResult {
  const { cage, selection, notes } = result;
  const moving = new Set(moved);
  const close = 1e-3 * tolerance(cage);
  const place = (v: number) =>
    cage
      .position(v)
      .map((x) => Math.round(x / (close || 1e-9)))
      .join(' ');
  const waiting = new Map([...cage.vertices()].filter((v) => !moving.has(v)).map((v) => [place(v), v]));
  const groups = moved.flatMap((v) => {
    const target = waiting.get(place(v));
    return target === undefined ? [] : [{ vertices: [target, v], at: cage.position(target) }];
  });
  if (groups.length === 0) return { ...result, notes: [...notes, 'It landed on no other vertex: nothing was welded.'] };
  const before = cage.vertexCount;
  mergeVertices(cage, groups);
  const welded = before - cage.vertexCount;
  const told =
    welded > 0
      ? `Welded where it landed: ${welded} vert${welded === 1 ? 'ex' : 'ices'} fewer.`
      : 'Not welded: the faces there would touch in a corner only.';
  return { cage, selection: onlyPresent(cage, selection), notes: [...notes, told] };
}

export const rotate: CageOperation = {
  kind: 'cage',
  id: 'rotate',
  bench: 3,
  name: 'Rotate',
  purpose: 'Turn what is picked about a pivot by handles or degrees; with falloff, steps and mirrored.',
  icon: 'Rotate',
  key: 'X',
  needs: needsPick,
  handles: 'turn',
  once: ONCE,
  params: Joi.object({ x: number('About X', '°', 0, 5), y: number('About Y', '°', 0, 5), z: number('About Z', '°', 0, 5), ...common }),
  check,
  live: live(turned),
  run: (cage, selection, params) => transformed(cage, selection, params, turned)
};

export const scale: CageOperation = {
  kind: 'cage',
  id: 'scale',
  bench: 3,
  name: 'Scale',
  purpose: 'Make what is picked larger or smaller about a pivot by handles or percent; with falloff, steps and mirrored.',
  icon: 'Maximize',
  key: 'C',
  needs: needsPick,
  handles: 'scale',
  once: ONCE,
  params: Joi.object({
    all: number('All three', '%', 100, 5),
    x: number('X', '%', 100, 5),
    y: number('Y', '%', 100, 5),
    z: number('Z', '%', 100, 5),
    ...common
  }),
  check: (cage, selection, params) => {
    const flat = ['all', 'x', 'y', 'z'].find((axis) => params[axis] === 0);
    if (flat && verticesOf(cage, selection).length === cage.vertexCount)
      return {
        numbers: true,
        found: flat === 'all' ? '0 % would make a point of the whole part.' : `0 % would flatten the whole part along ${flat.toUpperCase()}.`,
        instead: 'Use 0.1 % or more.'
      };
    return check(cage, selection, params);
  },
  live: live(scaled),
  run: (cage, selection, params) => transformed(cage, selection, params, scaled)
};
