import { lengthOf, piecesOfLines, type Stretch, stretchesOf } from './line-pieces.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';

/** Lines that hang together are noise where there are so many stretches, shorter in the mean than this share of the diagonal, ... */
const NOISE: readonly [stretches: number, shortInMean: number][] = [
  [3, 0.02],
  [100, 0.06]
];
/** ... and one in four at least is folded by less than so many times what is asked for: a real edge hardly lies near it by chance. */
const HARDLY = 1.5;
/** So many stretches that are so short are facets, however much they are folded, where less than so many degrees are asked for. */
const [FACETS, FACET, SHALLOW] = [100, 0.02, 30];
/** What is left of them is clear where it is folded by so many times as much, */
const CLEARLY = 1.7;
/** and a line where it is as long as this share of the diagonal, and its stretches in the mean. */
const [LONG, LONG_IN_MEAN] = [0.2, 0.04];
/** Stretches of such lines that are shorter than this share of it are taken out. */
const SHORT = 0.01;
const ROUNDS = 50;

/**
 * Takes noise out of sharp edges. Where most are noise, more is asked for; of other lines that branch and end everywhere the short stretches
 * go, those that end somewhere and the least sharp first, and what is no better then goes whole. Lines of a mesh without noise stay as they are.
 * @param folds by half-edge, one of each edge that is sharp, by how many degrees it is folded
 * @param degrees by how many it must be at least
 * @returns those that are left
 */
export function withoutNoise(mesh: WorkingMesh, folds: ReadonlyMap<number, number>, diagonal: number, degrees: number): number[] {
  const foldOf = (edges: readonly number[]) => edges.reduce((sum, h) => sum + folds.get(h)!, 0) / edges.length;
  const isClear = ({ edges }: Stretch) => foldOf(edges) > CLEARLY * degrees;
  const clearOf = (piece: readonly number[]) => stretchesOf(mesh, piece).flatMap((stretch) => (isClear(stretch) ? stretch.edges : []));
  const isNoise = (piece: readonly number[]) => {
    const stretches = stretchesOf(mesh, piece);
    const long = lengthOf(mesh, piece) / diagonal / stretches.length;
    const hardly = stretches.filter(({ edges }) => foldOf(edges) < HARDLY * degrees).length;
    if (degrees < SHALLOW && stretches.length >= FACETS && long < FACET) return true;
    return NOISE.some(([many, short]) => stretches.length >= many && long < short) && 4 * hardly >= stretches.length;
  };
  const isLine = (piece: readonly number[]) => {
    const long = lengthOf(mesh, piece) / diagonal;
    return long > LONG && long > LONG_IN_MEAN * stretchesOf(mesh, piece).length;
  };
  const pieces = piecesOfLines(mesh, [...folds.keys()]).map((edges) => ({ edges, noisy: isNoise(edges) }));
  const noisy = pieces.reduce((sum, { edges, noisy }) => sum + (noisy ? edges.length : 0), 0);
  // where most is noise, what hangs together by itself may be so too
  if (noisy > folds.size / 2)
    return withoutNoise(mesh, new Map([...folds].filter(([, fold]) => fold > HARDLY * degrees)), diagonal, HARDLY * degrees);
  return pieces.flatMap((piece) => {
    if (!piece.noisy) return piece.edges;
    const clear = clearOf(withoutShort(mesh, piece.edges, SHORT * diagonal, foldOf));
    const tidied = withoutShort(mesh, clear, SHORT * diagonal, foldOf);
    return piecesOfLines(mesh, tidied).filter(isLine).flat();
  });
}

/** Edges without short stretches, of which those are left that are sharper than what meets them. */
function withoutShort(mesh: WorkingMesh, edges: readonly number[], short: number, foldOf: (edges: readonly number[]) => number): number[] {
  let left = [...edges];
  for (let round = 0; round < ROUNDS; round++) {
    const stretches = stretchesOf(mesh, left);
    const times = new Map<number, number>();
    for (const { ends } of stretches) for (const v of ends) times.set(v, (times.get(v) ?? 0) + 1);
    const isLoose = ({ ends }: Stretch) => ends.some((v) => times.get(v) === 1);
    const isShort = ({ long, ends }: Stretch) => ends.length > 0 && long < short;
    const loose = stretches.filter((s) => isShort(s) && isLoose(s));
    const gone = new Set<number>(loose.flatMap((s) => s.edges));
    if (loose.length === 0) {
      const least = stretches
        .filter(isShort)
        .map((s) => ({ ...s, fold: foldOf(s.edges) }))
        .sort((a, b) => a.fold - b.fold);
      const touched = new Set<number>();
      for (const { edges: own, ends } of least) {
        if (ends.some((v) => touched.has(v))) continue;
        for (const v of ends) touched.add(v);
        for (const h of own) gone.add(h);
      }
    }
    if (gone.size === 0) break;
    left = left.filter((h) => !gone.has(h));
  }
  return left;
}
