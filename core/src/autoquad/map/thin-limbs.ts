import { closedRings, LIMB } from '../field/closed-rings.ts';
import { type Frames } from '../field/curvature.ts';
import { type CutMesh } from '../field/cut-graph.ts';
import { mod4 } from '../field/orientation-field.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';

/** Quads that are to fit round a limb or finger. */
const ROUND = 5;
/** Quads become narrower than others by this share at most. */
const NARROWEST = 0.5;
/** From there shares grow by so much a quad. */
const GROWTH = 0.25;
/** Ways round are looked for as if quads were so large: those round fingers that are two quads round are found too. */
const LOOKED_FOR = 0.5;

/**
 * How much narrower quads are to be round limbs and fingers that are hardly wider than a quad, so that loops close round them; along
 * them they stay as long as they are.
 * @param size of a quad by triangle, in the mesh's unit
 * @returns by triangle and arm 0 and 1 the share of the size that is meant along it; nothing where no limb is that thin
 */
export function thinLimbs(mesh: WorkingMesh, frames: Frames, cut: CutMesh, size: (t: number) => number): Float64Array | undefined {
  const shares = new Float64Array(2 * mesh.triangles).fill(1);
  let found = false;
  for (const { crossed, arm, length = Infinity } of closedRings(mesh, frames, cut, (t) => LOOKED_FOR * size(t), 1, [LIMB])) {
    const share = Math.max(NARROWEST, (LOOKED_FOR * length) / ROUND);
    // bars with sharp edges have as many quads across as lie between their lines
    if (share >= 1 || crossed.some((h) => mesh.feature[h])) continue;
    found = true;
    let own = arm;
    for (const h of crossed) {
      const k = 2 * Math.floor(h / 3) + (own & 1);
      shares[k] = Math.min(shares[k], share);
      own = mod4(own - cut.jump[h]);
    }
  }
  if (!found) return undefined;
  growFrom(shares, mesh, cut, size);
  return shares;
}

/** Makes shares of neighbours differ by no more than `GROWTH` a quad; the least stay. */
function growFrom(shares: Float64Array, mesh: WorkingMesh, cut: CutMesh, size: (t: number) => number): void {
  const middles = Array.from({ length: mesh.triangles }, (_, t) => mesh.centre(t));
  for (let changed = true; changed;) {
    changed = false;
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (mesh.opposite[h] < 0) continue;
      const [t, other] = [Math.floor(h / 3), Math.floor(mesh.opposite[h] / 3)];
      const [a, b] = [middles[t], middles[other]];
      const growth = (GROWTH * Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])) / size(t);
      for (const arm of [0, 1]) {
        const most = shares[2 * other + ((arm + cut.jump[h]) & 1)] + growth;
        if (shares[2 * t + arm] <= most) continue;
        shares[2 * t + arm] = most;
        changed = true;
      }
    }
  }
}
