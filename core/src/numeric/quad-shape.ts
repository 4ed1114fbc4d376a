/** Lengths of the edges of the quad that was looked at last. */
const lengths = new Float64Array(4);

/**
 * Scaled Jacobian of a quad: the least sine of its corners against its own area, below 0 where one turns the wrong way.
 * @param p x, y, z of vertices
 * @param quads four vertices a quad, of which those from `first` on are looked at
 * @param normal gets the unit normal of the quad's area
 */
export function quadJacobian(p: ArrayLike<number>, quads: ArrayLike<number>, first: number, normal: Float64Array): number {
  const a = 3 * quads[first];
  const b = 3 * quads[first + 1];
  const c = 3 * quads[first + 2];
  const d = 3 * quads[first + 3];
  const ax = p[a];
  const ay = p[a + 1];
  const az = p[a + 2];
  const bx = p[b];
  const by = p[b + 1];
  const bz = p[b + 2];
  const cx = p[c];
  const cy = p[c + 1];
  const cz = p[c + 2];
  const dx = p[d];
  const dy = p[d + 1];
  const dz = p[d + 2];
  // the quad's area is half the cross product of its diagonals
  const x = (cy - ay) * (dz - bz) - (cz - az) * (dy - by);
  const y = (cz - az) * (dx - bx) - (cx - ax) * (dz - bz);
  const z = (cx - ax) * (dy - by) - (cy - ay) * (dx - bx);
  const over = overLength(Math.sqrt(x * x + y * y + z * z));
  const nx = x * over;
  const ny = y * over;
  const nz = z * over;
  normal[0] = nx;
  normal[1] = ny;
  normal[2] = nz;
  // edges from a to b, b to c, c to d and d to a
  const ex = bx - ax;
  const ey = by - ay;
  const ez = bz - az;
  const fx = cx - bx;
  const fy = cy - by;
  const fz = cz - bz;
  const gx = dx - cx;
  const gy = dy - cy;
  const gz = dz - cz;
  const hx = ax - dx;
  const hy = ay - dy;
  const hz = az - dz;
  const e = Math.sqrt(ex * ex + ey * ey + ez * ez);
  const f = Math.sqrt(fx * fx + fy * fy + fz * fz);
  const g = Math.sqrt(gx * gx + gy * gy + gz * gz);
  const h = Math.sqrt(hx * hx + hy * hy + hz * hz);
  lengths[0] = e;
  lengths[1] = f;
  lengths[2] = g;
  lengths[3] = h;
  const overE = overLength(e);
  const overF = overLength(f);
  const overG = overLength(g);
  const overH = overLength(h);
  const atA = ((hy * ez - hz * ey) * nx + (hz * ex - hx * ez) * ny + (hx * ey - hy * ex) * nz) * overE * overH;
  const atB = ((ey * fz - ez * fy) * nx + (ez * fx - ex * fz) * ny + (ex * fy - ey * fx) * nz) * overF * overE;
  const atC = ((fy * gz - fz * gy) * nx + (fz * gx - fx * gz) * ny + (fx * gy - fy * gx) * nz) * overG * overF;
  const atD = ((gy * hz - gz * hy) * nx + (gz * hx - gx * hz) * ny + (gx * hy - gy * hx) * nz) * overH * overG;
  return Math.min(1, atA, atB, atC, atD);
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
