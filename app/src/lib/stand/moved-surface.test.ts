import { shadedTriangles, triangulate, box } from '@ulvrin/core';
import { BufferAttribute, BufferGeometry } from 'three';
import { describe, expect, it } from 'vitest';
import { MovedSurface } from './moved-surface.ts';
import { vertexNormals } from './vertex-normals.ts';

/** A box as it is drawn: its corners come once for every side. */
function drawnBox() {
  const mesh = box({ x: 4, y: 4, z: 4 }, { x: 2, y: 2, z: 2 });
  const { positions, normals, triangles, copies } = shadedTriangles(mesh.positions, triangulate(mesh).triangles);
  const geometry = new BufferGeometry()
    .setAttribute('position', new BufferAttribute(positions, 3))
    .setAttribute('normal', new BufferAttribute(normals, 3))
    .setIndex(new BufferAttribute(triangles, 1));
  return { mesh, geometry, copies };
}

describe('a drawn surface that follows', () => {
  it('takes points and all of their copies along, with normals as if all were found anew, and leaves the others', () => {
    const { mesh, geometry, copies } = drawnBox();
    const points = mesh.positions.length / 3;
    expect(copies.length).toBeGreaterThan(20);
    const places = mesh.positions.slice();
    const corner = copies[0];
    for (let k = 0; k < 3; k++) places[3 * corner + k] *= 1.5;
    const before = (geometry.getAttribute('position').array as Float32Array).slice();
    new MovedSurface(geometry, copies, points).follow([corner], places);
    const now = geometry.getAttribute('position').array as Float32Array;
    const standsFor = (slot: number) => (slot < points ? slot : copies[slot - points]);
    for (let slot = 0; slot < now.length / 3; slot++)
      for (let k = 0; k < 3; k++)
        expect(now[3 * slot + k]).toBeCloseTo(standsFor(slot) === corner ? places[3 * corner + k] : before[3 * slot + k], 6);
    const anew = new Float32Array(now.length);
    vertexNormals(now, geometry.index!.array, anew);
    const normals = geometry.getAttribute('normal').array as Float32Array;
    // a point that no triangle of its own has is not drawn
    const isDrawn = new Set(geometry.index!.array);
    for (let slot = 0; slot < now.length / 3; slot++)
      if (standsFor(slot) === corner && isDrawn.has(slot))
        for (let k = 0; k < 3; k++) expect(normals[3 * slot + k]).toBeCloseTo(anew[3 * slot + k], 5);
  });
});
