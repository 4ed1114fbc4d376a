import { Cholesky, NotPositiveDefinite } from './cholesky.ts';
import { nestedDissection } from './nested-dissection.ts';
import { SymmetricBuilder } from './symmetric-matrix.ts';
import { type Triple } from './vectors.ts';

/** Places of some points that fulfil wishes about weighted sums of points best, in the least squares; other points stay. */
export class PlaceFit {
  private readonly number: Map<number, number>;
  private readonly matrix: SymmetricBuilder;
  private readonly right: Float64Array[];
  /** once places were asked for: what the weights come to, or nothing where that cannot be solved */
  private factor?: Cholesky | 'none';

  /** @param movable the points whose places are looked for @param placeOf of the points that stay */
  constructor(
    movable: readonly number[],
    private readonly placeOf: (point: number) => Triple
  ) {
    this.number = new Map(movable.map((p, i) => [p, i]));
    this.matrix = new SymmetricBuilder(movable.length, 60 * movable.length);
    this.right = [0, 1, 2].map(() => new Float64Array(movable.length));
  }

  has(point: number): boolean {
    return this.number.has(point);
  }

  /** That the sum of points, each times its weight, is a vector. */
  wish(weight: number, points: readonly [point: number, weight: number][], sum: Triple = [0, 0, 0]): void {
    const { number, matrix, right } = this;
    let [x, y, z] = sum;
    for (const [p, w] of points) {
      if (number.has(p)) continue;
      const place = this.placeOf(p);
      x -= w * place[0];
      y -= w * place[1];
      z -= w * place[2];
    }
    for (let k = 0; k < points.length; k++) {
      const i = number.get(points[k][0]);
      if (i === undefined) continue;
      const w = weight * points[k][1];
      right[0][i] += w * x;
      right[1][i] += w * y;
      right[2][i] += w * z;
      if (this.factor) continue;
      for (let l = 0; l <= k; l++) {
        const j = number.get(points[l][0]);
        if (j !== undefined) matrix.add(i, j, w * points[l][1]);
      }
    }
  }

  /** Begins anew with the same wishes but for their sums: what their weights come to is kept. */
  again(): void {
    for (const axis of this.right) axis.fill(0);
  }

  /** The new places; none where points that lie in one place leave nothing to solve. */
  places(): [point: number, place: Triple][] {
    this.factor ??= this.factored();
    if (this.factor === 'none') return [];
    const { factor } = this;
    const [x, y, z] = this.right.map((axis) => factor.solve(axis));
    const found = [x, y, z].every((axis) => axis.every(Number.isFinite));
    return found ? [...this.number].map(([p, k]) => [p, [x[k], y[k], z[k]]]) : [];
  }

  private factored(): Cholesky | 'none' {
    try {
      const matrix = this.matrix.done();
      return new Cholesky(matrix, nestedDissection(matrix));
    } catch (error) {
      if (error instanceof NotPositiveDefinite) return 'none';
      throw error;
    }
  }
}
