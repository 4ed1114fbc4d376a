import { add, areaVector, length, mean, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { type Cage } from './cage.ts';
import { NONE } from './half-edges.ts';

/** Twice the area vector of a face (Newell): along its normal, as long as twice its area. */
export const faceAreaVector = (cage: Cage, f: number): Triple => areaVector(cage.faceVertices(f).map((v) => cage.position(v)));

/** Area of a face, mm2; of a bent one that of its flat shadow along its mean normal. */
export const faceArea = (cage: Cage, f: number): number => 0.5 * length(faceAreaVector(cage, f));

/** Area of all faces, mm2. */
export const surfaceArea = (cage: Cage): number => [...cage.faces()].reduce((sum, f) => sum + faceArea(cage, f), 0);

export const faceNormal = (cage: Cage, f: number): Triple => unit(faceAreaVector(cage, f));

/** Mean of a face's corners. */
export const faceMiddle = (cage: Cage, f: number): Triple => mean(cage.faceVertices(f).map((v) => cage.position(v)));

/** Mean of the normals of the faces round a vertex, weighted by their angle there; only of `some` faces if given. */
export function vertexNormal(cage: Cage, v: number, some?: ReadonlySet<number>): Triple {
  let sum: Triple = [0, 0, 0];
  for (const h of cage.spokes(v)) {
    const f = cage.face[h];
    if (f === NONE || (some && !some.has(f))) continue;
    const at = cage.position(v);
    const ahead = unit(subtract(cage.position(cage.target(h)), at));
    const behind = unit(subtract(cage.position(cage.origin[cage.previous(h)]), at));
    const angle = Math.acos(Math.min(1, Math.max(-1, ahead[0] * behind[0] + ahead[1] * behind[1] + ahead[2] * behind[2])));
    const n = faceNormal(cage, f);
    sum = add(sum, [n[0] * angle, n[1] * angle, n[2] * angle]);
  }
  return unit(sum);
}

/**
 * Where a vertex goes so that every one of some faces round it moves by `distance` along its own normal: the normal made
 * longer by the spread of the faces (at most fourfold, where they meet in a spike).
 */
export function evenOffset(cage: Cage, v: number, some: ReadonlySet<number>, distance: number): Triple {
  const n = vertexNormal(cage, v, some);
  let least = 1;
  for (const h of cage.spokes(v)) {
    const f = cage.face[h];
    if (f === NONE || !some.has(f)) continue;
    const m = faceNormal(cage, f);
    least = Math.min(least, n[0] * m[0] + n[1] * m[1] + n[2] * m[2]);
  }
  const reach = distance / Math.max(0.25, least);
  return [n[0] * reach, n[1] * reach, n[2] * reach];
}
