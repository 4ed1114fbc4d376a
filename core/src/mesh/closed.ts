import type { PolygonMesh } from './polygon-mesh.ts';

/** A number for a pair of numbers, all its bits mixed; after the finaliser of MurmurHash3 (Appleby 2011). */
function mixed(a: number, b: number): number {
  let h = Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca77);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}

/**
 * Whether a mesh has faces and no open border: every edge is run along as often one way as the other. Each edge adds its own number one way
 * and takes it away the other, so one pass without a table tells; it errs once in four thousand million.
 */
export function isClosed({ faceStart, faceVertices }: Pick<PolygonMesh, 'faceStart' | 'faceVertices'>): boolean {
  let sum = 0;
  for (let f = 0; f + 1 < faceStart.length; f++) {
    let a = faceVertices[faceStart[f + 1] - 1];
    for (let i = faceStart[f]; i < faceStart[f + 1]; i++) {
      const b = faceVertices[i];
      sum = (a < b ? sum + mixed(a, b) : sum - mixed(b, a)) | 0;
      a = b;
    }
  }
  return sum === 0 && faceVertices.length > 0;
}
