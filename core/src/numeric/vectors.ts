/** Small vectors as triples. */
export type Triple = [number, number, number];

export const add = (a: readonly number[], b: readonly number[]): Triple => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const subtract = (a: readonly number[], b: readonly number[]): Triple => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scaled = (a: readonly number[], s: number): Triple => [a[0] * s, a[1] * s, a[2] * s];
export const dot = (a: readonly number[], b: readonly number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: readonly number[], b: readonly number[]): Triple => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0]
];
export const length = (a: readonly number[]): number => Math.hypot(a[0], a[1], a[2]);
/** Of length one; the zero vector stays. */
export const unit = (a: readonly number[]): Triple => scaled(a, 1 / (length(a) || 1));
/** From a at t = 0 to b at t = 1. */
export const between = (a: readonly number[], b: readonly number[], t: number): Triple => [
  a[0] + t * (b[0] - a[0]),
  a[1] + t * (b[1] - a[1]),
  a[2] + t * (b[2] - a[2])
];
export const mean = (points: readonly (readonly number[])[]): Triple => scaled(points.reduce<Triple>(add, [0, 0, 0]), 1 / (points.length || 1));
