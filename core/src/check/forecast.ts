import { type Cage } from '../mesh/cage.ts';
import { faceSizes, isPole } from '../mesh/topology.ts';
import { Subdivision, type SubdivisionOptions } from '../subdivide/subdivision.ts';

/** What a change of topology would bring, told before the act. */
export interface Forecast {
  /** by valence: how many poles more (or fewer, negative) there would be */
  poles: { valence: number; change: number }[];
  triangles: number;
  ngons: number;
  /** how far the limit surface would move at most where a vertex stays, in mm; missing for cages too large for an answer at once */
  moved?: number;
}

/** Cages with more faces get no surface change: it would not be there at once. */
const MOST_FACES = 12_000;

/** Compares a cage with what an operation would make of it; vertices are the same where their ids are. */
export function forecast(before: Cage, after: Cage, options: Pick<SubdivisionOptions, 'scheme' | 'borderCorners'> = {}): Forecast {
  const poles = new Map<number, number>();
  const count = (cage: Cage, sign: number) => {
    for (const v of cage.vertices()) if (isPole(cage, v)) poles.set(cage.valence(v), (poles.get(cage.valence(v)) ?? 0) + sign);
  };
  count(before, -1);
  count(after, 1);
  const [was, will] = [faceSizes(before), faceSizes(after)];
  return {
    poles: [...poles]
      .filter(([, change]) => change !== 0)
      .map(([valence, change]) => ({ valence, change }))
      .sort((a, b) => a.valence - b.valence),
    triangles: will.triangles - was.triangles,
    ngons: will.ngons - was.ngons,
    moved: Math.max(before.faceCount, after.faceCount) > MOST_FACES || after.faceCount === 0 ? undefined : largestMove(before, after, options)
  };
}

function largestMove(before: Cage, after: Cage, options: Pick<SubdivisionOptions, 'borderCorners'>): number {
  const limitOf = (cage: Cage) => {
    const mesh = cage.toPolygons();
    const points = new Subdivision(mesh, { levels: 1, limit: true, borderCorners: options.borderCorners }).evaluate(mesh.positions);
    return new Map(Array.from(mesh.vertexIds, (v, i) => [v, points.subarray(3 * i, 3 * i + 3)]));
  };
  const was = limitOf(before);
  let most = 0;
  for (const [v, p] of limitOf(after)) {
    const q = was.get(v);
    if (q) most = Math.max(most, Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]));
  }
  return most;
}

/** "2 poles of 3 more, 2 of 5 fewer; the smooth surface moves by up to 0.42 mm", a sentence for the card. */
export function describeForecast({ poles, triangles, ngons, moved }: Forecast): string {
  const said: string[] = [];
  const amount = (n: number) => `${Math.abs(n)} ${n > 0 ? 'more' : 'fewer'}`;
  for (const { valence, change } of poles) said.push(`poles of ${valence}: ${amount(change)}`);
  if (triangles !== 0) said.push(`triangles: ${amount(triangles)}`);
  if (ngons !== 0) said.push(`n-gons: ${amount(ngons)}`);
  if (said.length === 0) said.push('no pole appears or goes');
  if (moved !== undefined) said.push(`the smooth surface moves by up to ${moved.toFixed(2)} mm where vertices stay`);
  return `Forecast: ${said.join('; ')}.`;
}
