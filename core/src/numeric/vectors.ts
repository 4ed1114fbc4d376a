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
/** Several times as fast as Math.hypot, whose care for very large and small numbers is not needed here. */
export const length = (a: readonly number[]): number => Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);
/** Of length one; a vector too short to have a direction becomes the zero vector. */
export const unit = (a: readonly number[]): Triple => {
  const long = length(a);
  return long > 1e-150 ? scaled(a, 1 / long) : [0, 0, 0];
};
/** From a at t = 0 to b at t = 1. */
export const between = (a: readonly number[], b: readonly number[], t: number): Triple => [
  a[0] + t * (b[0] - a[0]),
  a[1] + t * (b[1] - a[1]),
  a[2] + t * (b[2] - a[2])
];
export const mean = (points: readonly (readonly number[])[]): Triple => scaled(points.reduce<Triple>(add, [0, 0, 0]), 1 / (points.length || 1));

export const weightedSum = (parts: readonly [number, readonly number[]][]): Triple =>
  parts.reduce<Triple>((total, [w, p]) => add(total, scaled(p, w)), [0, 0, 0]);

/** The point of the line from a to b that is closest to p. */
export function closestOnSegment(p: readonly number[], a: readonly number[], b: readonly number[]): Triple {
  const way = subtract(b, a);
  return add(a, scaled(way, Math.min(1, Math.max(0, dot(subtract(p, a), way) / (dot(way, way) || 1)))));
}

/** Twice the area vector of a polygon (Newell): along its normal, as long as twice its area. */
export function areaVector(corners: readonly Triple[]): Triple {
  let sum: Triple = [0, 0, 0];
  for (let i = 1; i + 1 < corners.length; i++) sum = add(sum, cross(subtract(corners[i], corners[0]), subtract(corners[i + 1], corners[0])));
  return sum;
}

/**
 * Least sine of a polygon's corners, seen along a direction from which it runs counter-clockwise: of a quad its scaled Jacobian.
 * Below 0 where a corner turns the wrong way.
 */
export function leastSine(corners: readonly Triple[], normal: Triple): number {
  const n = corners.length;
  let least = 1;
  for (let i = 0; i < n; i++) {
    const ahead = unit(subtract(corners[(i + 1) % n], corners[i]));
    const back = unit(subtract(corners[(i + n - 1) % n], corners[i]));
    least = Math.min(least, dot(cross(ahead, back), normal));
  }
  return least;
}
