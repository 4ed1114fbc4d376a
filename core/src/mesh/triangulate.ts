import earcut from 'earcut';
import { faceCount, type PolygonMesh } from './polygon-mesh.ts';

/**
 * Triangles for drawing, picking and measuring. Quads are cut along the diagonal that keeps both halves facing the
 * same way (the shorter one if both do); larger faces by ear clipping in the plane of their Newell normal.
 * @returns three vertex indices a triangle, and the face each triangle lies in
 */
export function triangulate(mesh: PolygonMesh): { triangles: Uint32Array; faceOf: Uint32Array } {
  const { positions: p, faceStart, faceVertices } = mesh;
  const faces = faceCount(mesh);
  const triangles = new Uint32Array(3 * Math.max(0, faceVertices.length - 2 * faces));
  const faceOf = new Uint32Array(triangles.length / 3);
  let t = 0;
  const add = (f: number, a: number, b: number, c: number) => {
    triangles[3 * t] = a;
    triangles[3 * t + 1] = b;
    triangles[3 * t + 2] = c;
    faceOf[t++] = f;
  };
  for (let f = 0; f < faces; f++) {
    const start = faceStart[f];
    const size = faceStart[f + 1] - start;
    const v = (i: number) => faceVertices[start + i];
    if (size === 3) {
      triangles[3 * t] = v(0);
      triangles[3 * t + 1] = v(1);
      triangles[3 * t + 2] = v(2);
      faceOf[t++] = f;
    } else if (size === 4) {
      const isFirstBest = squared(p, v(0), v(2)) <= squared(p, v(1), v(3)) && cutsWell(p, v(0), v(1), v(2), v(3));
      // the corner the diagonal starts at
      const from = !isFirstBest && cutsWell(p, v(1), v(2), v(3), v(0)) ? 1 : 0;
      add(f, v(from), v(from + 1), v(from + 2));
      add(f, v(from), v(from + 2), v((from + 3) % 4));
    } else if (size > 4) {
      const before = t;
      for (const [a, b, c] of clipEars(p, faceVertices, start, size)) add(f, v(a), v(b), v(c));
      // ear clipping drops the ears of a face without area: fill up with a fan so that every face is drawn
      if (t - before !== size - 2) {
        t = before;
        for (let i = 1; i < size - 1; i++) add(f, v(0), v(i), v(i + 1));
      }
    }
  }
  return { triangles: triangles.subarray(0, 3 * t), faceOf: faceOf.subarray(0, t) };
}

function squared(p: Float64Array, a: number, b: number): number {
  return (p[3 * a] - p[3 * b]) ** 2 + (p[3 * a + 1] - p[3 * b + 1]) ** 2 + (p[3 * a + 2] - p[3 * b + 2]) ** 2;
}

const [n, m] = [new Float64Array(3), new Float64Array(3)];

/** Whether the diagonal a-c leaves the halves a,b,c and a,c,d facing the same way. */
function cutsWell(p: Float64Array, a: number, b: number, c: number, d: number): boolean {
  crossInto(n, p, a, b, c);
  crossInto(m, p, a, c, d);
  return n[0] * m[0] + n[1] * m[1] + n[2] * m[2] > 0;
}

function crossInto(out: Float64Array, p: Float64Array, a: number, b: number, c: number): void {
  const ux = p[3 * b] - p[3 * a];
  const uy = p[3 * b + 1] - p[3 * a + 1];
  const uz = p[3 * b + 2] - p[3 * a + 2];
  const vx = p[3 * c] - p[3 * a];
  const vy = p[3 * c + 1] - p[3 * a + 1];
  const vz = p[3 * c + 2] - p[3 * a + 2];
  out[0] = uy * vz - uz * vy;
  out[1] = uz * vx - ux * vz;
  out[2] = ux * vy - uy * vx;
}

/** Corner triples of one large face, clipped in the plane of its Newell normal. */
function clipEars(p: Float64Array, faceVertices: Int32Array, start: number, size: number): [number, number, number][] {
  const normal = [0, 0, 0];
  for (let i = 0; i < size; i++) {
    const a = 3 * faceVertices[start + i];
    const b = 3 * faceVertices[start + ((i + 1) % size)];
    normal[0] += (p[a + 1] - p[b + 1]) * (p[a + 2] + p[b + 2]);
    normal[1] += (p[a + 2] - p[b + 2]) * (p[a] + p[b]);
    normal[2] += (p[a] - p[b]) * (p[a + 1] + p[b + 1]);
  }
  const drop = [0, 1, 2].reduce((m, k) => (Math.abs(normal[k]) > Math.abs(normal[m]) ? k : m), 0);
  const x = (drop + 1) % 3;
  const y = (drop + 2) % 3;
  const flat: number[] = [];
  for (let i = 0; i < size; i++) flat.push(p[3 * faceVertices[start + i] + x], p[3 * faceVertices[start + i] + y]);
  const ears = earcut(flat);
  const turned = normal[drop] < 0;
  const triples: [number, number, number][] = [];
  for (let i = 0; i < ears.length; i += 3) {
    // earcut answers clockwise or not as it likes: turn each triple the way the face runs
    const [a, b, c] = [ears[i], ears[i + 1], ears[i + 2]];
    const area =
      (flat[2 * b] - flat[2 * a]) * (flat[2 * c + 1] - flat[2 * a + 1]) - (flat[2 * b + 1] - flat[2 * a + 1]) * (flat[2 * c] - flat[2 * a]);
    triples.push(area < 0 !== turned ? [a, c, b] : [a, b, c]);
  }
  return triples;
}
