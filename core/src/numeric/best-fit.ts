import { EigenvalueDecomposition, Matrix, solve } from 'ml-matrix';
import { add, cross, dot, mean, scaled, subtract, unit, type Triple } from './vectors.ts';

/** A plane with two directions in it; the three are at right angles and right-handed (u, v, normal). */
export interface Plane {
  centre: Triple;
  normal: Triple;
  u: Triple;
  v: Triple;
}

/** Least-squares plane through points: the spread is least along its normal and largest along u. */
export function bestFitPlane(points: readonly Triple[]): Plane {
  const centre = mean(points);
  const spread = new Spread(centre);
  for (const p of points) spread.add(p, 1);
  const [normal, , u] = spread.axes();
  return { centre, normal, u, v: cross(normal, u) };
}

/** How weighted points spread about a centre. */
export class Spread {
  /** of the products xx, xy, xz, yy, yz, zz */
  private readonly sums = new Float64Array(6);

  constructor(private readonly centre: Triple) {}

  /** Takes in a point, or point v of many. */
  add(p: ArrayLike<number>, weight: number, v = 0): void {
    const { sums, centre } = this;
    const x = p[3 * v] - centre[0];
    const y = p[3 * v + 1] - centre[1];
    const z = p[3 * v + 2] - centre[2];
    sums[0] += weight * x * x;
    sums[1] += weight * x * y;
    sums[2] += weight * x * z;
    sums[3] += weight * y * y;
    sums[4] += weight * y * z;
    sums[5] += weight * z * z;
  }

  /** Takes in the area of a triangle: its corners and three times its middle stand for all of its points. @param triangles three numbers of points each */
  addTriangle(p: ArrayLike<number>, triangles: ArrayLike<number>, t: number, area: number): void {
    const { sums, centre } = this;
    const share = area / 12;
    let sumX = 0;
    let sumY = 0;
    let sumZ = 0;
    let xx = 0;
    let xy = 0;
    let xz = 0;
    let yy = 0;
    let yz = 0;
    let zz = 0;
    for (let i = 3 * t; i < 3 * t + 3; i++) {
      const x = p[3 * triangles[i]] - centre[0];
      const y = p[3 * triangles[i] + 1] - centre[1];
      const z = p[3 * triangles[i] + 2] - centre[2];
      sumX += x;
      sumY += y;
      sumZ += z;
      xx += x * x;
      xy += x * y;
      xz += x * z;
      yy += y * y;
      yz += y * z;
      zz += z * z;
    }
    sums[0] += share * (xx + sumX * sumX);
    sums[1] += share * (xy + sumX * sumY);
    sums[2] += share * (xz + sumX * sumZ);
    sums[3] += share * (yy + sumY * sumY);
    sums[4] += share * (yz + sumY * sumZ);
    sums[5] += share * (zz + sumZ * sumZ);
  }

  /** Unit directions in which they spread least, more and most. */
  axes(): [Triple, Triple, Triple] {
    const [xx, xy, xz, yy, yz, zz] = this.sums;
    const spread = new Matrix([
      [xx, xy, xz],
      [xy, yy, yz],
      [xz, yz, zz]
    ]);
    // numbers next to nothing would keep the decomposition from ending
    const most = spread.max() || 1;
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) if (Math.abs(spread.get(i, j)) < 1e-30 * most) spread.set(i, j, 0);
    // eigenvalues come from the least to the largest
    const { eigenvectorMatrix } = new EigenvalueDecomposition(spread, { assumeSymmetric: true });
    return [0, 1, 2].map((k) => unit(eigenvectorMatrix.getColumn(k))) as [Triple, Triple, Triple];
  }
}

/** The plane through a point at right angles to a direction. */
export function planeAcross(centre: Triple, direction: Triple): Plane {
  const normal = unit(direction);
  const least = [0, 1, 2].reduce((a, b) => (Math.abs(normal[b]) < Math.abs(normal[a]) ? b : a));
  const axis: Triple = [0, 0, 0];
  axis[least] = 1;
  const u = unit(subtract(axis, scaled(normal, dot(axis, normal))));
  return { centre, normal, u, v: cross(normal, u) };
}

/** A point's coordinates along u, v and the normal, from the plane's centre. */
export const inPlane = (plane: Plane, p: Triple): Triple => {
  const d = subtract(p, plane.centre);
  return [dot(d, plane.u), dot(d, plane.v), dot(d, plane.normal)];
};

/** The point at coordinates along u, v and the normal. */
export const fromPlane = (plane: Plane, [a, b, c]: Triple): Triple =>
  add(plane.centre, add(scaled(plane.u, a), add(scaled(plane.v, b), scaled(plane.normal, c))));

/**
 * Circle through points of a plane by least squares on x^2 + y^2 + ax + by + c = 0 (Kasa 1976).
 * @returns nothing where the points lie on a line
 */
export function bestFitCircle(points: readonly (readonly number[])[]): { x: number; y: number; radius: number } | undefined {
  const size = Math.max(...points.map(([x, y]) => Math.hypot(x, y)), 1e-300);
  const near = points.map(([x, y]) => [x / size, y / size]);
  const rows = new Matrix(near.map(([x, y]) => [x, y, 1]));
  const squares = Matrix.columnVector(near.map(([x, y]) => -(x * x + y * y)));
  const normal = rows.transpose().mmul(rows);
  const right = rows.transpose().mmul(squares);
  let a: number, b: number, c: number;
  try {
    [a, b, c] = solve(normal, right).to1DArray();
  } catch {
    return undefined;
  }
  const radius = Math.sqrt((a * a + b * b) / 4 - c);
  // a circle a thousand times larger than what it runs through is a line
  return radius > 0 && radius < 1000 ? { x: (-a / 2) * size, y: (-b / 2) * size, radius: radius * size } : undefined;
}
