import { NONE, type Cage } from '../mesh/cage.ts';
import { quadJacobian } from '../numeric/quad-shape.ts';
import { faceNormal } from '../mesh/normals.ts';
import { areaVector, cross, dot, leastSine, subtract, unit } from '../numeric/vectors.ts';
import { cornerAngles } from './measures.ts';
import { ringThrough } from '../select/loops.ts';

/** How good the quads of a cage are, and how its strips of quads run. */
export interface QuadQuality {
  /** scaled Jacobian: the least sine of a quad's corners, below 0 where one turns the wrong way */
  mean: number;
  /** one quad in a hundred is poorer */
  hundredth: number;
  worst: number;
  /** strips of quads, each across opposite edges until it closes or ends */
  strips: number;
  /** quads of the longest strip; one that is passed twice counts twice */
  longest: number;
  /** strips that somewhere run beside themselves: spirals */
  spirals: number;
}

export function quadQuality(cage: Cage): QuadQuality {
  const values = Float64Array.from([...cage.faces()].filter((f) => cage.faceSize(f) === 4).map((f) => scaledJacobian(cage, f))).sort();
  const { lengths, of } = stripsOf(cage);
  const spirals = new Set<number>();
  for (const e of cage.edges()) {
    const [h, g] = [2 * e, 2 * e + 1];
    const [left, right] = [cage.face[h], cage.face[g]];
    if (left === NONE || right === NONE || cage.faceSize(left) !== 4 || cage.faceSize(right) !== 4) continue;
    const here = of[cage.next[h] >> 1];
    if (here === of[cage.next[g] >> 1]) spirals.add(here);
  }
  return {
    mean: values.reduce((a, b) => a + b, 0) / (values.length || 1),
    hundredth: values[Math.floor(values.length / 100)] ?? 0,
    worst: values[0] ?? 0,
    strips: lengths.length,
    longest: lengths.reduce((a, b) => Math.max(a, b), 0),
    spirals: spirals.size
  };
}

/** Least sine of a face's corners, below 0 where one turns the wrong way. */
export function scaledJacobian(cage: Cage, f: number): number {
  const vertices = cage.faceVertices(f);
  if (vertices.length === 4) return quadJacobian(cage.positions, vertices, 0, new Float64Array(3));
  const p = vertices.map((v) => cage.position(v));
  return leastSine(p, unit(areaVector(p)));
}

/** Whether a quad has a corner of nearly 180 degrees (within 3). */
export const hasFlatCorner = (cage: Cage, f: number): boolean => cage.faceSize(f) === 4 && cornerAngles(cage, f).some((a) => a > 177);

/** Whether a face is folded: a quad with a corner turned the wrong way or twisted, or any face turned against most of those beside it. */
export function isFolded(cage: Cage, f: number): boolean {
  if (cage.faceSize(f) === 4 && (scaledJacobian(cage, f) < -1e-9 || isTwisted(cage, f))) return true;
  const own = faceNormal(cage, f);
  const beside = cage.loopOf(cage.faceEdge[f]).flatMap((h) => (cage.face[h ^ 1] === NONE ? [] : [cage.face[h ^ 1]]));
  const against = beside.filter((g) => dot(faceNormal(cage, g), own) < -0.5).length;
  return against > 1 && against > beside.length / 2;
}

/** Whether the two triangles of a quad face away from each other, whichever diagonal cuts it. */
function isTwisted(cage: Cage, f: number): boolean {
  const p = cage.faceVertices(f).map((v) => cage.position(v));
  const normal = (i: number, j: number, k: number) => cross(subtract(p[j], p[i]), subtract(p[k], p[i]));
  return dot(normal(0, 1, 2), normal(0, 2, 3)) < 0 && dot(normal(0, 1, 3), normal(1, 2, 3)) < 0;
}

/** Strips of quads: how many quads each passes, and by edge the number of the one that crosses it. */
export function stripsOf(cage: Cage): { lengths: number[]; of: Int32Array } {
  const of = new Int32Array(cage.edgeSlots).fill(NONE);
  const lengths: number[] = [];
  for (const e of cage.edges()) {
    if (of[e] !== NONE) continue;
    const { halves, closed } = ringThrough(cage, 2 * e);
    for (const h of halves) of[h >> 1] = lengths.length;
    lengths.push(closed ? halves.length : halves.length - 1);
  }
  return { lengths, of };
}
