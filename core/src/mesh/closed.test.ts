import { describe, expect, it } from 'vitest';
import { listFaces, listPoints, plane, torus } from '../shapes/start-shapes.ts';
import { isClosed } from './closed.ts';
import { polygonMesh } from './polygon-mesh.ts';

describe('closed meshes', () => {
  const ring = torus(20, 6, 9, 5);
  const [points, faces] = [listPoints(ring), listFaces(ring)];

  it('have every edge both ways', () => {
    expect(isClosed(ring)).toBe(true);
    expect(isClosed(plane(10, 10, 3, 2))).toBe(false);
    expect(isClosed(polygonMesh([], []))).toBe(false);
  });

  it('are open where any one face is missing, or turned over', () => {
    for (const f of faces.keys()) {
      const others = faces.filter((_, i) => i !== f);
      expect(isClosed(polygonMesh(points, others)), `without face ${f}`).toBe(false);
      expect(isClosed(polygonMesh(points, [...others, [...faces[f]].reverse()])), `face ${f} turned`).toBe(false);
    }
  });
});
