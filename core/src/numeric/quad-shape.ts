/** Room for the edges of the quad that is looked at, and their lengths. */
const [edges, lengths] = [new Float64Array(12), new Float64Array(4)];

/**
 * Scaled Jacobian of a quad: the least sine of its corners against its own area, below 0 where one turns the wrong way.
 * @param p x, y, z of vertices
 * @param quads four vertices a quad, of which those from `first` on are looked at
 * @param normal gets the unit normal of the quad's area
 */
export function quadJacobian(p: ArrayLike<number>, quads: ArrayLike<number>, first: number, normal: Float64Array): number {
  for (let k = 0; k < 4; k++) {
    const a = 3 * quads[first + k];
    const b = 3 * quads[first + ((k + 1) & 3)];
    const x = p[b] - p[a];
    const y = p[b + 1] - p[a + 1];
    const z = p[b + 2] - p[a + 2];
    edges[3 * k] = x;
    edges[3 * k + 1] = y;
    edges[3 * k + 2] = z;
    lengths[k] = Math.sqrt(x * x + y * y + z * z);
  }
  setNormal(p, quads, first, normal);
  const nx = normal[0];
  const ny = normal[1];
  const nz = normal[2];
  let least = 1;
  for (let k = 0; k < 4; k++) {
    const before = (k + 3) & 3;
    const ux = edges[3 * k];
    const uy = edges[3 * k + 1];
    const uz = edges[3 * k + 2];
    const vx = edges[3 * before];
    const vy = edges[3 * before + 1];
    const vz = edges[3 * before + 2];
    const turn = (vy * uz - vz * uy) * nx + (vz * ux - vx * uz) * ny + (vx * uy - vy * ux) * nz;
    const sine = turn * overLength(lengths[k]) * overLength(lengths[before]);
    if (sine < least) least = sine;
  }
  return least;
}

/** The unit normal of a quad's area, which is half the cross product of its diagonals. */
function setNormal(p: ArrayLike<number>, quads: ArrayLike<number>, first: number, normal: Float64Array): void {
  const a = 3 * quads[first];
  const b = 3 * quads[first + 1];
  const c = 3 * quads[first + 2];
  const d = 3 * quads[first + 3];
  const px = p[c] - p[a];
  const py = p[c + 1] - p[a + 1];
  const pz = p[c + 2] - p[a + 2];
  const qx = p[d] - p[b];
  const qy = p[d + 1] - p[b + 1];
  const qz = p[d + 2] - p[b + 2];
  const x = py * qz - pz * qy;
  const y = pz * qx - px * qz;
  const z = px * qy - py * qx;
  const over = overLength(Math.sqrt(x * x + y * y + z * z));
  normal[0] = x * over;
  normal[1] = y * over;
  normal[2] = z * over;
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
  const jacobian = quadJacobian(p, quads, first, normal);
  return Math.min(jacobian, shapeByEdges(lengths[0], lengths[1], lengths[2], lengths[3]));
}

/** One over a length; 0 for one too short to have a direction. */
const overLength = (length: number): number => (length > 1e-150 ? 1 / length : 0);

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
