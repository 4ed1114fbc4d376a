import { faceAreaVector } from '../src/mesh/normals.ts';
import { type Cage } from '../src/mesh/cage.ts';
import { add, dot, leastSine, unit, type Triple } from '../src/numeric/vectors.ts';

/**
 * Least and mean scaled Jacobian of the quads among some faces (the least sine of a quad's corners; below 0 where one turns the
 * wrong way). A face that lies turned over against those round it counts as such.
 */
export function faceQuality(cage: Cage, faces: readonly number[]): { worst: number; mean: number } {
  const area = new Map(faces.map((f) => [f, faceAreaVector(cage, f)]));
  const at = new Map<number, number[]>();
  for (const f of faces) for (const v of cage.faceVertices(f)) at.set(v, [...(at.get(v) ?? []), f]);
  const values = faces
    .filter((f) => cage.faceSize(f) === 4)
    .map((f) => {
      const around = new Set(cage.faceVertices(f).flatMap((v) => at.get(v)!.flatMap((g) => cage.faceVertices(g).flatMap((w) => at.get(w)!))));
      const mean = unit([...around].reduce<Triple>((sum, g) => add(sum, area.get(g)!), [0, 0, 0]));
      const own = unit(area.get(f)!);
      const normal = dot(own, mean) > 0 ? own : mean;
      const p = cage.faceVertices(f).map((v) => cage.position(v));
      return leastSine(p, normal);
    });
  return { worst: Math.min(...values), mean: values.reduce((a, b) => a + b, 0) / values.length };
}
