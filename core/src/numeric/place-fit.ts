import { solved, SymmetricBuilder } from './cholesky.ts';
import { scaled, subtract, type Triple } from './vectors.ts';

/** Places of some points that fulfil wishes about weighted sums of points best, in the least squares; other points stay. */
export class PlaceFit {
  private readonly number: Map<number, number>;
  private readonly matrix: SymmetricBuilder;
  private readonly right: Float64Array[];

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
    const rest = points.reduce<Triple>((left, [p, w]) => (number.has(p) ? left : subtract(left, scaled(this.placeOf(p), w))), sum);
    const inner = points.filter(([p]) => number.has(p));
    inner.forEach(([p, w], k) => {
      for (let axis = 0; axis < 3; axis++) right[axis][number.get(p)!] += weight * w * rest[axis];
      for (const [q, x] of inner.slice(0, k + 1)) matrix.add(number.get(p)!, number.get(q)!, weight * w * x);
    });
  }

  /** The new places; none where points that lie in one place leave nothing to solve. */
  places(): [point: number, place: Triple][] {
    const [x, y, z] = solved(this.matrix.done(), this.right) ?? [];
    const found = x && [x, y, z].every((axis) => axis.every(Number.isFinite));
    return found ? [...this.number].map(([p, k]) => [p, [x[k], y[k], z[k]]]) : [];
  }
}
