import { Matrix, SingularValueDecomposition, solve } from 'ml-matrix';
import { add, dot, length, mean, scaled, subtract, type Triple } from './vectors.ts';

/** Maps places to places, mm. */
export type Warp = (p: Triple) => Triple;

/**
 * The turn, size and shift that bring places onto others best, in the least squares; never a mirror image (Umeyama 1991).
 * @param from three places or more that do not lie on one line @param to as many, in the same order
 */
export function similarityBetween(from: readonly Triple[], to: readonly Triple[]): Warp {
  const [a, b] = [mean(from), mean(to)];
  const products = Matrix.zeros(3, 3);
  let spread = 0;
  from.forEach((p, i) => {
    const [u, w] = [subtract(p, a), subtract(to[i], b)];
    spread += dot(u, u);
    for (let r = 0; r < 3; r++) for (let c = 0; c < 3; c++) products.set(r, c, products.get(r, c) + w[r] * u[c]);
  });
  const { leftSingularVectors: left, rightSingularVectors: right, diagonal } = new SingularValueDecomposition(products, { autoTranspose: true });
  const turned = left.mmul(right.transpose());
  const sign = determinant(turned) < 0 ? -1 : 1;
  if (sign < 0) for (let r = 0; r < 3; r++) left.set(r, 2, -left.get(r, 2));
  const turn = left.mmul(right.transpose()).to2DArray();
  const size = spread > 0 ? (diagonal[0] + diagonal[1] + sign * diagonal[2]) / spread : 1;
  return (p) => {
    const off = subtract(p, a);
    return add(b, scaled([dot(turn[0], off), dot(turn[1], off), dot(turn[2], off)], size));
  };
}

const determinant = (m: Matrix): number => {
  const [a, b, c] = m.to2DArray();
  return a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
};

/**
 * A smooth warp of space that takes places exactly to others: the best similarity first, and what is left by the biharmonic spline of space, whose
 * kernel is the distance (Duchon 1977).
 * @param from three places or more, no two of them one @param to as many, in the same order
 */
export function landmarkWarp(from: readonly Triple[], to: readonly Triple[]): Warp {
  const similar = similarityBetween(from, to);
  const centres = from.map(similar);
  const many = centres.length;
  // weights that sum to nothing: far from all places the warp is a shift
  const system = Matrix.zeros(many + 1, many + 1);
  const left = Matrix.zeros(many + 1, 3);
  centres.forEach((p, i) => {
    centres.forEach((q, k) => system.set(i, k, length(subtract(p, q))));
    system.set(i, many, 1);
    system.set(many, i, 1);
    subtract(to[i], p).forEach((x, k) => left.set(i, k, x));
  });
  const weights = solve(system, left).to2DArray();
  return (p) => {
    const q = similar(p);
    const moved = add(q, weights[many] as Triple);
    centres.forEach((centre, i) => {
      const r = length(subtract(q, centre));
      for (let k = 0; k < 3; k++) moved[k] += r * weights[i][k];
    });
    return moved;
  };
}
