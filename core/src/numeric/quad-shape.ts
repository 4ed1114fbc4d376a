/**
 * Scaled Jacobian of a quad: the least sine of its corners against its own area, below 0 where one turns the wrong way.
 * @param p x, y, z of vertices
 * @param quads four vertices a quad, of which those from `first` on are looked at
 * @param normal gets the unit normal of the quad's area
 */
export function quadJacobian(p: ArrayLike<number>, quads: ArrayLike<number>, first: number, normal: Float64Array): number {
  const [a, b, c, d] = [3 * quads[first], 3 * quads[first + 1], 3 * quads[first + 2], 3 * quads[first + 3]];
  // the area vector is half the cross product of the diagonals
  const [px, py, pz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  const [qx, qy, qz] = [p[d] - p[b], p[d + 1] - p[b + 1], p[d + 2] - p[b + 2]];
  let [nx, ny, nz] = [py * qz - pz * qy, pz * qx - px * qz, px * qy - py * qx];
  const area = perLength(nx, ny, nz);
  nx *= area;
  ny *= area;
  nz *= area;
  normal[0] = nx;
  normal[1] = ny;
  normal[2] = nz;
  let least = 1;
  for (let k = 0; k < 4; k++) {
    const o = 3 * quads[first + k];
    const to = 3 * quads[first + ((k + 1) & 3)];
    const from = 3 * quads[first + ((k + 3) & 3)];
    const [ux, uy, uz] = [p[to] - p[o], p[to + 1] - p[o + 1], p[to + 2] - p[o + 2]];
    const [vx, vy, vz] = [p[from] - p[o], p[from + 1] - p[o + 1], p[from + 2] - p[o + 2]];
    const turn = (uy * vz - uz * vy) * nx + (uz * vx - ux * vz) * ny + (ux * vy - uy * vx) * nz;
    const sine = turn * perLength(ux, uy, uz) * perLength(vx, vy, vz);
    if (sine < least) least = sine;
  }
  return least;
}

/** A quad whose shortest edge is this share of its mean edge, as in a rectangle of one by seven, counts as one with this scaled Jacobian. */
const [SHORT, AS_POOR] = [0.25, 0.75];

/** Scaled Jacobian that a quad with edges so long counts as having at most: one that is pinched is as poor as one that is skewed. */
export function shapeByEdges(a: number, b: number, c: number, d: number): number {
  const mean = (a + b + c + d) / 4;
  return mean > 0 ? (AS_POOR * Math.min(a, b, c, d)) / (SHORT * mean) : 0;
}

/** Scaled Jacobian of a quad, or less where it is pinched; parameters as of `quadJacobian`. */
export function quadShape(p: ArrayLike<number>, quads: ArrayLike<number>, first: number, normal: Float64Array): number {
  const edge = (k: number) => {
    const [a, b] = [3 * quads[first + k], 3 * quads[first + ((k + 1) & 3)]];
    return Math.sqrt((p[a] - p[b]) ** 2 + (p[a + 1] - p[b + 1]) ** 2 + (p[a + 2] - p[b + 2]) ** 2);
  };
  return Math.min(quadJacobian(p, quads, first, normal), shapeByEdges(edge(0), edge(1), edge(2), edge(3)));
}

/** One over a vector's length; 0 for one too short to have a direction. */
function perLength(x: number, y: number, z: number): number {
  const length = Math.sqrt(x * x + y * y + z * z);
  return length > 1e-150 ? 1 / length : 0;
}

/** Of each of some quads. */
export function quadJacobians(p: ArrayLike<number>, quads: ArrayLike<number>): Float64Array {
  const normal = new Float64Array(3);
  return Float64Array.from({ length: quads.length / 4 }, (_, q) => quadJacobian(p, quads, 4 * q, normal));
}

/** The poorest of some quads. */
export function worstJacobian(p: ArrayLike<number>, quads: ArrayLike<number>): number {
  const normal = new Float64Array(3);
  let worst = 1;
  for (let i = 0; i < quads.length; i += 4) worst = Math.min(worst, quadJacobian(p, quads, i, normal));
  return worst;
}
