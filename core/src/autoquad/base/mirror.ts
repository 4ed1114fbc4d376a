import { type Triple } from '../../numeric/vectors.ts';

/** A plane a surface is mirrored in: points p with dot(normal, p) = offset. */
export interface Mirror {
  normal: Triple;
  offset: number;
  /** mm by which mirrored points of the surface lie off it, at most */
  error: number;
}

/** How far a point, or vertex v of many, lies on the normal's side of a mirror. */
export const above = ({ normal, offset }: Mirror, p: ArrayLike<number>, v = 0): number =>
  normal[0] * p[3 * v] + normal[1] * p[3 * v + 1] + normal[2] * p[3 * v + 2] - offset;
/** The mirror image of a point, or of vertex v of many. */
export function reflected(mirror: Mirror, p: ArrayLike<number>, v = 0): Triple {
  const d = 2 * above(mirror, p, v);
  const { normal } = mirror;
  return [p[3 * v] - d * normal[0], p[3 * v + 1] - d * normal[1], p[3 * v + 2] - d * normal[2]];
}

/** Things with their images in mirrors, those of the first in the second too, and so on. */
export const withImages = <T>(things: readonly T[], mirrors: readonly Mirror[], imageOf: (thing: T, mirror: Mirror) => T): T[] =>
  mirrors.reduce((all, mirror) => [...all, ...all.map((thing) => imageOf(thing, mirror))], [...things]);
