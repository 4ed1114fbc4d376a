import { type Cage } from '../mesh/cage.ts';
import { faceMiddle, faceNormal, vertexNormal } from '../mesh/normals.ts';
import { add, cross, dot, length, mean, scaled, subtract, type Triple, unit } from '../numeric/vectors.ts';
import { orientedChains } from '../operations/shared/chains.ts';
import { type Selection } from '../select/selection.ts';

/** Where something stands: its foot, the direction it stands in, and the one of its X; both of length 1, at a right angle. */
export interface Footing {
  at: Triple;
  up: Triple;
  x: Triple;
}

/** A footing whose X is as near as can be to a direction. */
function framed(at: Triple, up: Triple, towards: Triple): Footing {
  const level = subtract(towards, scaled(up, dot(towards, up)));
  const x = length(level) > 1e-6 ? unit(level) : unit(cross(up, Math.abs(up[0]) < 0.9 ? [1, 0, 0] : [0, 0, 1]));
  return { at, up, x };
}

/**
 * Footings on what is picked: one on picked faces together, one on each picked vertex, or so many evenly along picked chains of edges.
 * @param along how many there are along each chain
 */
export function footingsOn(cage: Cage, { vertices, edges, faces }: Selection, along: number): Footing[] {
  if (faces.length > 0) {
    const up = faces.reduce<Triple>((sum, f) => add(sum, faceNormal(cage, f)), [0, 0, 0]);
    return length(up) > 0 ? [framed(mean(faces.map((f) => faceMiddle(cage, f))), unit(up), [1, 0, 0])] : [];
  }
  if (vertices.length > 0) return vertices.map((v) => framed(cage.position(v), vertexNormal(cage, v), [1, 0, 0]));
  return orientedChains(cage, edges).flatMap((chain) => framesAlong(cage, [cage.origin[chain[0]], ...chain.map((h) => cage.target(h))], along));
}

/** Footings evenly along a chain; X runs along it. @param chain vertices in order, the first one again at the end of a closed one */
function framesAlong(cage: Cage, chain: readonly number[], count: number): Footing[] {
  const points = chain.map((v) => cage.position(v));
  const normals = chain.map((v) => vertexNormal(cage, v));
  const lengths = points.slice(1).map((p, i) => length(subtract(p, points[i])));
  const whole = lengths.reduce((sum, l) => sum + l, 0);
  const isClosed = chain[0] === chain.at(-1);
  return Array.from({ length: count }, (_, i) => {
    let left = (whole * (isClosed ? i : i + 0.5)) / count;
    let k = 0;
    while (k < lengths.length - 1 && left > lengths[k]) left -= lengths[k++];
    const t = lengths[k] > 0 ? left / lengths[k] : 0;
    const between = (a: Triple, b: Triple) => add(scaled(a, 1 - t), scaled(b, t));
    return framed(between(points[k], points[k + 1]), unit(between(normals[k], normals[k + 1])), subtract(points[k + 1], points[k]));
  });
}
