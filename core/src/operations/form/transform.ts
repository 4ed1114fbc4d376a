import Joi from 'joi';
import { type LiveWork } from '../../live/live-edit.ts';
import { MovedVertices, MovingVertices } from '../../live/moved-vertices.ts';
import { freedomOf, maskedAlike } from '../../even/mask.ts';
import { type Cage } from '../../mesh/cage.ts';
import { counterpartsByPosition, counterpartsByTopology, mirrorTolerance, type Axis, type Counterparts } from '../../select/counterparts.ts';
import { falloffWeights, type FalloffAlong } from '../../select/falloff.ts';
import { isEmpty, onlyPresent, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { mergeVertices } from '../../mesh/merge-vertices.ts';
import { rampFields, rampOfParams } from '../shared/falloff-fields.ts';
import { frameOf, type Frame, type FrameKind, type PivotKind } from '../shared/frame.ts';
import { counted } from '../shared/words.ts';
import { namesOf, placed, placementOf, type PlacementNumbers, type ThreeNumbers } from '../shared/placement.ts';
import { mirroredField } from '../shared/mirrored-field.ts';

/** What move, rotate and scale have in common. */
export interface TransformParams {
  frame: FrameKind;
  pivot: PivotKind;
  pivotX: number;
  pivotY: number;
  pivotZ: number;
  falloff: 'none' | FalloffAlong;
  radius: number;
  mirrored: 'none' | Axis;
  matching: 'position' | 'topology';
  /** shifts are distances, or the place that the pivot comes to */
  how?: 'by' | 'to';
}

const needsPick = 'Pick vertices, edges or faces first.';

/** The frame that typed numbers and the handle run in; numbers that are a place run along the world's axes. */
export function transformFrame(cage: Cage, selection: Selection, params: Params): Frame {
  const p = params as unknown as TransformParams;
  return frameOf(cage, selection, p.how === 'to' ? 'world' : p.frame, p.pivot, [p.pivotX, p.pivotY, p.pivotZ]);
}

/**
 * How much every vertex follows, by vertex id.
 * @param params of move, rotate or scale
 * @returns 1 for what is picked, down to 0 at the radius of the falloff; less where it is masked
 */
export function transformWeights(cage: Cage, selection: Selection, params: Params): Map<number, number> {
  const { falloff, radius } = params as unknown as TransformParams;
  const vertices = verticesOf(cage, selection);
  const weights = falloff === 'none' ? new Map(vertices.map((v) => [v, 1])) : falloffWeights(cage, vertices, radius, falloff, rampOfParams(params));
  const freedom = freedomOf(cage);
  return freedom
    ? new Map([...weights].map(([v, weight]): [number, number] => [v, weight * freedom(v)]).filter(([, weight]) => weight > 0))
    : weights;
}

/** Cages are never changed once they are in a job, and a drag asks for the same counterparts many times. */
const known = new WeakMap<Cage, Map<string, Counterparts>>();

function counterpartsOf(cage: Cage, { mirrored, matching }: TransformParams): Counterparts | undefined {
  if (mirrored === 'none') return undefined;
  const ofCage = known.get(cage) ?? new Map<string, Counterparts>();
  known.set(cage, ofCage);
  const key = `${mirrored} ${matching}`;
  const find = matching === 'position' ? counterpartsByPosition : counterpartsByTopology;
  const found = ofCage.get(key) ?? find(cage, mirrored, mirrorTolerance(cage));
  ofCage.set(key, found);
  return found;
}

/** The picked vertices, what follows them, and their counterparts. */
function moving(cage: Cage, selection: Selection, params: Params): { vertices: MovedVertices; notes: string[] } {
  const p = params as unknown as TransformParams;
  const counterparts = counterpartsOf(cage, p);
  const mirrored = counterparts && { axis: 'XYZ'.indexOf(p.mirrored), counterparts: maskedAlike(cage, counterparts) };
  const weights = transformWeights(cage, selection, params);
  const vertices = new MovedVertices(cage, weights, mirrored);
  const reached = p.falloff === 'none' ? [] : [`The falloff reaches ${counted(weights.size, 'vertex', 'vertices')}.`];
  const followed = counterparts ? [`${vertices.followed} mirror partners across ${p.mirrored} moved as well, found by ${p.matching}.`] : [];
  return { vertices, notes: [...reached, ...followed] };
}

/** The change of place that an operation's numbers mean in a frame. */
const changeOf = (numbers: PlacementNumbers, frame: Frame, params: Params) => placed(frame, placementOf(numbers, frame, params));

/** A copy with the picked vertices, what follows them, and their counterparts put through a change of place. */
function transformed(cage: Cage, selection: Selection, params: Params, numbers: PlacementNumbers): CageResult {
  const copy = cage.clone();
  const { vertices, notes } = moving(cage, selection, params);
  vertices.place(copy.positions, changeOf(numbers, transformFrame(cage, selection, params), params));
  return { cage: copy, selection, notes };
}

/** The same live: frame, weights and counterparts are found once. */
const live = (numbers: PlacementNumbers): LiveWork => ({
  numbers: namesOf(numbers),
  // what is welded where it lands has another topology
  suits: ({ weld }) => weld !== true,
  begin(cage, selection, params) {
    const frame = transformFrame(cage, selection, params);
    const { vertices, notes } = moving(cage, selection, params);
    return new MovingVertices(cage, vertices, (input) => changeOf(numbers, frame, input), notes);
  }
});

function check(numbers: PlacementNumbers, cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: needsPick };
  const flat = [numbers.all, ...numbers.size].find((name) => name !== undefined && params[name] === 0);
  if (flat && verticesOf(cage, selection).length === cage.vertexCount)
    return {
      numbers: true,
      found:
        flat === numbers.all ? '0 % would make a point of the whole part.' : `0 % would flatten the whole part along ${flat.at(-1)!.toUpperCase()}.`,
      instead: 'Use 0.1 % or more.'
    };
  const p = params as unknown as TransformParams;
  const counterparts = counterpartsOf(cage, p);
  if (!counterparts) return undefined;
  const alone = verticesOf(cage, selection).filter((v) => !counterparts.has(v));
  if (alone.length > 0)
    return {
      numbers: true,
      found: `${alone.length} of the picked vertices ${alone.length === 1 ? 'has' : 'have'} no mirror partner across ${p.mirrored} = 0.`,
      where: selectVertices(alone),
      instead:
        p.matching === 'position'
          ? 'Match by topology, or make the part symmetric first (Mirror).'
          : 'Match by position, or make the part symmetric first (Mirror).'
    };
  return undefined;
}

const rare = { more: true };
const number = (label: string, unit: string, initial: number, step: number, meta: object = {}) =>
  Joi.number()
    .default(initial)
    .label(label)
    .unit(unit)
    .meta({ step, ...meta });

const AXES = ['X', 'Y', 'Z'] as const;
/** The three kinds of numbers; an operation has one as its own x, y and z, and the others beside them. */
const KINDS = {
  shift: { label: 'Moved along', unit: 'mm', initial: 0, step: 0.5 },
  turn: { label: 'Turned about', unit: '°', initial: 0, step: 5 },
  size: { label: 'Size along', unit: '%', initial: 100, step: 5 }
};
type Kind = keyof typeof KINDS;
const besideNames = (kind: Kind) => AXES.map((axis) => `${kind}${axis}`) as unknown as ThreeNumbers;
const BESIDE = { shift: besideNames('shift'), turn: besideNames('turn'), size: besideNames('size') };

/** Fields of numbers that an operation has beside its own: they show once the handle has changed them, or on demand. */
const beside = (...kinds: Kind[]): Record<string, Joi.NumberSchema> =>
  Object.fromEntries(
    kinds.flatMap((kind) => {
      const { label, unit, initial, step } = KINDS[kind];
      return BESIDE[kind].map((name, k) => [name, number(`${label} ${AXES[k]}`, unit, initial, step, rare)]);
    })
  );

const common = {
  frame: Joi.string()
    .valid('world', 'selection')
    .default('world')
    .label('Along')
    .meta({ labels: { world: 'World axes', selection: 'Selection (Y: its normal)' } }),
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
  ...rampFields({ more: true }),
  mirrored: mirroredField(rare),
  matching: Joi.string()
    .valid('position', 'topology')
    .default('position')
    .label('Find mirror partners by')
    .meta({ ...rare, labels: { position: 'Position', topology: 'Topology' }, when: { field: 'mirrored', is: 'X|Y|Z' } }),
  pivot: Joi.string()
    .valid('mean', 'middle', 'last', 'border', 'origin', 'typed')
    .default('mean')
    .label('Pivot')
    .meta({
      ...rare,
      labels: {
        mean: 'Centre',
        middle: 'Centre of their extent',
        last: 'Last pick',
        border: 'Centre of a border',
        origin: 'The origin',
        typed: 'Typed or dragged'
      }
    }),
  ...Object.fromEntries(
    AXES.map((axis) => [
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
    .label('Handle snaps to')
    .meta({ ...rare, labels: { none: 'Nothing', grid: 'Steps', vertex: 'Vertices', edge: "Edges' middles and thirds", reference: 'The reference' } }),
  step: Joi.number()
    .greater(0)
    .max(1e4)
    .default(1)
    .label('Step')
    .description('mm when moving, degrees when turning, % when scaling')
    .meta({ ...rare, step: 0.5, when: { field: 'snap', is: 'grid' } })
};

/** Moved vertices that came to lie on others become one with them. */
function weldedWhereItLands(result: CageResult, moved: number[]): CageResult {
  const { cage, selection, notes } = result;
  const moving = new Set(moved);
  const close = 1e-3 * mirrorTolerance(cage);
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

/** What the three have in common: one handle, which moves, turns and scales, stands for all their numbers. */
const transform = (numbers: PlacementNumbers) => ({
  kind: 'cage' as const,
  bench: 3 as const,
  needs: needsPick,
  handle: numbers,
  heedsMask: true as const,
  // a shift or turn is meant once; frame, pivot, falloff and snapping are settings that the three share
  once: [...namesOf(numbers), 'how'],
  settings: 'transform',
  live: live(numbers),
  check: (cage: Cage, selection: Selection, params: Params) => check(numbers, cage, selection, params),
  run: (cage: Cage, selection: Selection, params: Params): CageResult => transformed(cage, selection, params, numbers)
});

const own: ThreeNumbers = ['x', 'y', 'z'];
const moves = transform({ ...BESIDE, shift: own });

export const move: CageOperation = {
  ...moves,
  id: 'move',
  name: 'Move',
  purpose: 'Move what is picked with the handle or by typed distances, or to a typed place; with falloff, snapping and mirrored.',
  icon: 'Move',
  key: 'Z',
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
    ...beside('turn', 'size'),
    weld: Joi.boolean()
      .default(false)
      .label('Weld to vertices it lands on')
      .meta({ ...rare })
  }),
  run: (cage, selection, params) => {
    const result = moves.run(cage, selection, params);
    return params.weld ? weldedWhereItLands(result, verticesOf(cage, selection)) : result;
  }
};

export const rotate: CageOperation = {
  ...transform({ ...BESIDE, turn: own }),
  id: 'rotate',
  name: 'Rotate',
  purpose: 'Turn what is picked about a pivot with the handle or by degrees; with falloff, steps and mirrored.',
  icon: 'Rotate',
  key: 'X',
  params: Joi.object({
    x: number('About X', '°', 0, 5),
    y: number('About Y', '°', 0, 5),
    z: number('About Z', '°', 0, 5),
    ...common,
    ...beside('shift', 'size')
  })
};

export const scale: CageOperation = {
  ...transform({ ...BESIDE, size: own, all: 'all' }),
  id: 'scale',
  name: 'Scale',
  purpose: 'Make what is picked larger or smaller about a pivot with the handle or by percent; with falloff, steps and mirrored.',
  icon: 'Maximize',
  key: 'C',
  params: Joi.object({
    all: number('All three', '%', 100, 5),
    x: number('X', '%', 100, 5),
    y: number('Y', '%', 100, 5),
    z: number('Z', '%', 100, 5),
    ...common,
    ...beside('shift', 'turn')
  })
};
