import { uniformMesh, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { randomNumbers } from '../numeric/random.ts';
import { blend, implicitSurface } from './implicit-surface.ts';
import { quadSphere, torus } from './start-shapes.ts';

/** Dense surfaces that tests and benchmarks lay quads over. */

const asTriangles = (mesh: PolygonMesh): PolygonMesh => uniformMesh(mesh.positions, Int32Array.from(triangulate(mesh).triangles), 3);

export const denseSphere = (faces = 60): PolygonMesh => asTriangles(quadSphere(20, faces));
export const denseTorus = (sides = 200, tubeSides = 80): PolygonMesh => asTriangles(torus(30, 10, sides, tubeSides));

/** Two rings grown together: genus 2. */
export function doubleRing(cell = 0.8): PolygonMesh {
  const ring = (x: number, y: number, z: number) => Math.hypot(Math.hypot(x, z) - 16, y) - 6;
  return implicitSurface((x, y, z) => blend(ring(x - 18, y, z), ring(x + 18, y, z), 4), [-44, -9, -26], [44, 9, 26], cell);
}

/** A lump with dents, its vertices shaken along and across the surface as a scanner would. */
export function noisyScan(cell = 0.7, noise = 0.12, seed = 7): PolygonMesh {
  const lump = (x: number, y: number, z: number) => {
    const wave = 1.6 * Math.sin(0.22 * x + 1) * Math.cos(0.19 * z) + 1.2 * Math.cos(0.17 * y);
    return (Math.hypot(x, 1.25 * y, 0.9 * z) - 22 - wave) * 0.75;
  };
  const mesh = implicitSurface(lump, [-30, -26, -34], [30, 26, 34], cell);
  const random = randomNumbers(seed);
  for (let i = 0; i < mesh.positions.length; i++) mesh.positions[i] += noise * (random() + random() - 1);
  return mesh;
}
