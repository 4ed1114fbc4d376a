import { type Triple } from '../numeric/vectors.ts';

/** One touch of a brush. */
export interface Dab {
  /** middle of the brush on the surface, mm */
  at: Triple;
  /** unit normal of the surface there */
  normal: Triple;
  /** how far the pointer has gone since the touch before, mm */
  by: Triple;
  /** of a pen, 0 to 1; below 0 where the brush works the other way */
  pressure: number;
}

/** Numbers that a dab is kept as, one after the other in a stroke. */
const SIZE = 10;
/** What is kept of a number: a millionth of it. */
const DIGITS = 7;

/** The numbers of a stroke with one dab more. */
export const withDab = (stroke: readonly number[], { at, normal, by, pressure }: Dab): number[] => [
  ...stroke,
  ...[...at, ...normal, ...by, pressure].map((x) => Number(x.toPrecision(DIGITS)))
];

/** How many dabs a stroke has. */
export const dabsIn = (stroke: readonly number[]): number => Math.floor(stroke.length / SIZE);

/** A dab of a stroke. */
export function dabAt(stroke: readonly number[], i: number): Dab {
  const n = stroke.slice(SIZE * i, SIZE * (i + 1));
  return { at: [n[0], n[1], n[2]], normal: [n[3], n[4], n[5]], by: [n[6], n[7], n[8]], pressure: n[9] };
}

/** Why some values are no stroke; nothing where they are one. */
export function notAStroke(value: unknown): string | undefined {
  if (!Array.isArray(value) || value.length % SIZE !== 0) return `must hold ${SIZE} numbers a touch`;
  return value.every((x) => Number.isFinite(x)) ? undefined : 'must hold numbers only';
}
