import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { boxUnion } from './start-shapes.ts';

/** The demo cage: a plain cleat of blocks, 160 mm long: base plate, two posts, a bar whose horns taper upwards. */
export function mooringCleat(): PolygonMesh {
  const xs = [-80, -52, -38, -22, -7, 7, 22, 38, 52, 80];
  const ys = [0, 9, 34, 52];
  const zs = [-24, -9, 9, 24];
  const last = xs.length - 2;
  const solid = (i: number, j: number, k: number) => {
    if (j === 0) return i >= 1 && i < last;
    if (j === 1) return k === 1 && (i === 2 || i === 3 || i === last - 3 || i === last - 2);
    return k === 1;
  };
  const mesh = boxUnion(xs, ys, zs, solid);
  const p = mesh.positions;
  for (let v = 0; v < p.length; v += 3) {
    if (p[v + 1] < 34) continue;
    // horns: thinner and higher towards their ends
    const out = Math.max(0, Math.abs(p[v]) - 38) / 42;
    p[v + 1] = 43 + (p[v + 1] - 43) * (1 - 0.45 * out) + 9 * out * out;
    p[v + 2] *= 1 - 0.4 * out;
  }
  return mesh;
}
