import { add, subtract, type Triple } from '../../numeric/vectors.ts';
import { intoFrame, outOfFrame, WORLD_AXES, type Frame } from './frame.ts';

/** Names of three numbers of an operation: along or about X, Y and Z. */
export type ThreeNumbers = readonly [string, string, string];

/** The numbers of an operation that say where what is picked comes to lie: they are what the handle on the stand stands for. */
export interface PlacementNumbers {
  /** mm along the axes of the frame */
  shift: ThreeNumbers;
  /** degrees about its axes: about X first, then Y, then Z */
  turn: ThreeNumbers;
  /** percent along its axes */
  size: ThreeNumbers;
  /** percent along all three at once, where it has such a number */
  all?: string;
}

/** What is picked is sized in a frame, then turned in it, then shifted along it. */
export interface Placement {
  /** mm */
  shift: Triple;
  /** degrees */
  turn: Triple;
  /** factors: 1 keeps it */
  size: Triple;
}

/** Every name among them. */
export const namesOf = ({ shift, turn, size, all }: PlacementNumbers): string[] => [...shift, ...turn, ...size, ...(all ? [all] : [])];

/** The placement that an operation's numbers mean. With `how` as `to` its shifts are the place that the pivot comes to. */
export function placementOf(numbers: PlacementNumbers, frame: Frame, params: Readonly<Record<string, unknown>>): Placement {
  const three = (names: ThreeNumbers) => names.map((name) => Number(params[name])) as Triple;
  const all = numbers.all === undefined ? 100 : Number(params[numbers.all]);
  const shift = three(numbers.shift);
  return {
    shift: params.how === 'to' ? subtract(shift, frame.pivot) : shift,
    turn: three(numbers.turn),
    size: three(numbers.size).map((percent) => (percent * all) / 1e4) as Triple
  };
}

/** The numbers that mean a placement: what `placementOf` reads back. A number for all sizes at once stays as it is. */
export function numbersFor(
  numbers: PlacementNumbers,
  frame: Frame,
  { shift, turn, size }: Placement,
  params: Readonly<Record<string, unknown>>
): Record<string, number> {
  const all = (numbers.all === undefined ? 100 : Number(params[numbers.all])) || 100;
  const three = (names: ThreeNumbers, values: Triple) => names.map((name, k): [string, number] => [name, values[k]]);
  return Object.fromEntries([
    ...three(numbers.shift, params.how === 'to' ? add(shift, frame.pivot) : shift),
    ...three(numbers.turn, turn),
    ...three(numbers.size, size.map((factor) => (factor * 1e4) / all) as Triple)
  ]);
}

/** Turns a point about the axis between two others, in degrees. */
function turn(p: Triple, i: number, j: number, degrees: number): void {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  [p[i], p[j]] = [c * p[i] - s * p[j], s * p[i] + c * p[j]];
}

/** The place that a placement in a frame gives a point. */
export function placed(frame: Frame, { shift, turn: [x, y, z], size }: Placement): (p: Triple) => Triple {
  const by = frame.axes === WORLD_AXES ? shift : subtract(outOfFrame(frame, shift), frame.pivot);
  if (x === 0 && y === 0 && z === 0 && size.every((factor) => factor === 1)) return (p) => add(p, by);
  return (p) => {
    const q = intoFrame(frame, p);
    for (const k of [0, 1, 2]) q[k] *= size[k];
    turn(q, 1, 2, x);
    turn(q, 2, 0, y);
    turn(q, 0, 1, z);
    return add(outOfFrame(frame, q), by);
  };
}
