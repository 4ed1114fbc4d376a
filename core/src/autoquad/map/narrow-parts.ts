import { CrossWalker } from '../field/cross-walker.ts';
import { type Frames } from '../field/curvature.ts';
import { type CutMesh } from '../field/cut-graph.ts';
import { mod4 } from '../field/orientation-field.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';

/** Parts narrower than this, in quads, get a whole quad across. */
const NARROW = 0.9;
/** Triangles looked through to either side. */
const MOST_STEPS = 12;

/**
 * How much narrower quads are to be in parts between two feature lines that are no quad wide, as the rim of a thin plate is: so
 * that one quad fits across, where rounding would let both lines fall together.
 * @param size of a quad by triangle
 * @returns by triangle and arm 0 and 1 the share of the size that is meant along it
 */
export function narrowParts(mesh: WorkingMesh, frames: Frames, cut: CutMesh, size: (t: number) => number): Float64Array {
  const shares = new Float64Array(2 * mesh.triangles).fill(1);
  const walker = new CrossWalker(mesh, frames, cut);
  for (let t = 0; t < mesh.triangles; t++)
    for (const arm of [0, 1]) {
      const most = NARROW * size(t);
      const ahead = toFeature(mesh, cut, walker, t, arm, most);
      const width = ahead < most ? ahead + toFeature(mesh, cut, walker, t, arm + 2, most) : Infinity;
      if (width < most) shares[2 * t + arm] = width / size(t);
    }
  return shares;
}

/** Distance from a triangle's middle along an arm to a feature line; Infinity where there is none so near. */
function toFeature(mesh: WorkingMesh, cut: CutMesh, walker: CrossWalker, seed: number, arm: number, most: number): number {
  const start = walker.beginIn(seed);
  let [t, own, entered] = [seed, arm, -1];
  for (let step = 0; step < MOST_STEPS; step++) {
    const h = walker.leave(t, own, entered);
    const [x, y, z] = walker.at;
    const far = Math.sqrt((x - start[0]) ** 2 + (y - start[1]) ** 2 + (z - start[2]) ** 2);
    if (h < 0 || far > most) return Infinity;
    if (mesh.feature[h]) return far;
    own = mod4(own - cut.jump[h]);
    entered = mesh.opposite[h];
    t = Math.floor(entered / 3);
  }
  return Infinity;
}
