import { cornersAtVertices } from '../mesh/polygon-mesh.ts';
import { triangleNormals } from './reference.ts';

/** Degrees by which a surface turns at an edge from which on both sides are shaded on their own. */
const SHARP = 40;

/** Triangles as they are drawn: places with a normal each, x, y, z, and three of them a triangle. */
export interface ShadedTriangles {
  positions: Float32Array<ArrayBuffer>;
  normals: Float32Array<ArrayBuffer>;
  triangles: Uint32Array<ArrayBuffer>;
  /** vertices that places behind those of all vertices are copies of */
  copies: Int32Array;
}

/**
 * Triangles shaded smoothly, but for edges at which the surface turns sharply: their ends come once for each triangle there, with the mean
 * normal of those round it that look nearly the same way. Triangles keep their order, and corners elsewhere their numbers.
 */
export function shadedTriangles(places: Float64Array, triangles: Uint32Array): ShadedTriangles {
  const normals = triangleNormals(places, triangles);
  const vertices = places.length / 3;
  const { start, corner } = cornersAtVertices(triangles, vertices);
  const [shared, pair] = [Math.cos((SHARP / 2) * (Math.PI / 180)), Math.cos(SHARP * (Math.PI / 180))];
  const drawn = Uint32Array.from(triangles);
  const copied: number[] = [];
  const copiedNormals: number[] = [];
  const own = new Float32Array(3 * vertices);
  const sum = new Float64Array(3);
  const agree = (t: number, x: number, y: number, z: number) => normals[3 * t] * x + normals[3 * t + 1] * y + normals[3 * t + 2] * z;
  /** Unit normal at a vertex, of those triangles there that look the same way as one, or of all. */
  const meanNormal = (v: number, like: number): void => {
    sum.fill(0);
    for (let i = start[v]; i < start[v + 1]; i++) {
      const t = Math.floor(corner[i] / 3);
      if (like >= 0 && agree(t, normals[3 * like], normals[3 * like + 1], normals[3 * like + 2]) < pair) continue;
      const weight = cornerWeight(places, triangles, corner[i]);
      for (let k = 0; k < 3; k++) sum[k] += weight * normals[3 * t + k];
    }
    const length = Math.sqrt(sum[0] ** 2 + sum[1] ** 2 + sum[2] ** 2) || 1;
    for (let k = 0; k < 3; k++) sum[k] /= length;
  };
  for (let v = 0; v < vertices; v++) {
    meanNormal(v, -1);
    own.set(sum, 3 * v);
    const [x, y, z] = sum;
    let isSmooth = true;
    for (let i = start[v]; i < start[v + 1] && isSmooth; i++) {
      const t = Math.floor(corner[i] / 3);
      // triangles without area look nowhere
      isSmooth = agree(t, x, y, z) >= shared || (normals[3 * t] === 0 && normals[3 * t + 1] === 0 && normals[3 * t + 2] === 0);
    }
    if (isSmooth) continue;
    for (let i = start[v]; i < start[v + 1]; i++) {
      meanNormal(v, Math.floor(corner[i] / 3));
      drawn[corner[i]] = vertices + copied.length;
      copied.push(v);
      copiedNormals.push(...sum);
    }
  }
  const positions = new Float32Array(places.length + 3 * copied.length);
  positions.set(places);
  copied.forEach((v, i) => positions.set(places.subarray(3 * v, 3 * v + 3), places.length + 3 * i));
  const all = new Float32Array(positions.length);
  all.set(own);
  all.set(copiedNormals, own.length);
  return { positions, normals: all, triangles: drawn, copies: Int32Array.from(copied) };
}

/** Angle of a triangle at one of its corners: by these the mean does not depend on how flat faces are parted (Thuermer, Wuethrich 1998). */
function cornerWeight(p: Float64Array, triangles: Uint32Array, corner: number): number {
  const first = corner - (corner % 3);
  const a = 3 * triangles[corner];
  const b = 3 * triangles[first + ((corner + 1) % 3)];
  const c = 3 * triangles[first + ((corner + 2) % 3)];
  const ux = p[b] - p[a];
  const uy = p[b + 1] - p[a + 1];
  const uz = p[b + 2] - p[a + 2];
  const vx = p[c] - p[a];
  const vy = p[c + 1] - p[a + 1];
  const vz = p[c + 2] - p[a + 2];
  const x = uy * vz - uz * vy;
  const y = uz * vx - ux * vz;
  const z = ux * vy - uy * vx;
  return Math.atan2(Math.sqrt(x * x + y * y + z * z), ux * vx + uy * vy + uz * vz);
}
