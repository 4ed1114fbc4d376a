import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { type PolygonMesh, uniformMesh } from '../mesh/polygon-mesh.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { cross, dot, subtract, unit } from '../numeric/vectors.ts';
import { box, plane, quadSphere } from '../shapes/start-shapes.ts';
import { limitNormals } from './limit-normals.ts';
import { splitAtCreases } from './sectors.ts';
import { Subdivision } from './subdivision.ts';

describe('the limit', () => {
  /** How far, corner by corner of level 1, closed forms are from what going on to subdivide gives: degrees of the normal, mm of the place. */
  function distances(mesh: PolygonMesh, scheme: 'catmull-clark' | 'loop', deeper: number): { angle: number; place: number }[] {
    const coarse = new Subdivision(mesh, { scheme, levels: 1 });
    const { last } = coarse;
    const normals = limitNormals(last, scheme, coarse.evaluate(mesh.positions));
    const places = new Subdivision(mesh, { scheme, levels: 1, limit: true }).evaluate(mesh.positions);
    const fine = new Subdivision(mesh, { scheme, levels: 1 + deeper });
    const points = fine.evaluate(mesh.positions);
    const size = scheme === 'loop' ? 3 : 4;
    const lasting = new Int32Array(last.vertices);
    last.edgeVertices.forEach((v, i) => (last.edgeFaces[2 * (i >> 1) + 1] < 0 || last.edgeSharpness[i >> 1] >= 10) && lasting[v]++);
    const found: { angle: number; place: number }[] = [];
    last.faceVertices.forEach((v, c) => {
      if (lasting[v] > 2) return;
      let child = c;
      for (let d = 0; d < deeper; d++) child = scheme === 'loop' ? 3 * (4 * Math.floor(child / 3) + (child % 3)) : 4 * child;
      const at = (k: number) => [0, 1, 2].map((i) => points[3 * fine.last.faceVertices[child - (child % size) + ((child + k) % size)] + i]);
      const normal = unit(cross(subtract(at(1), at(0)), subtract(at(size - 1), at(0))));
      const angle = (180 / Math.PI) * Math.acos(Math.min(1, dot(normal, [...normals.subarray(3 * c, 3 * c + 3)])));
      found.push({ angle, place: Math.hypot(...subtract(at(0), [...places.subarray(3 * v, 3 * v + 3)])) });
    });
    return found;
  }

  const marked = (mesh: PolygonMesh) => {
    const cage = Cage.fromPolygons(mesh);
    [...cage.edges()].forEach((e, i) => i % 3 === 0 && cage.setValue('crease', e, 10));
    return cage.toPolygons();
  };
  const hilly = () => {
    const sheet = plane(4, 4, 4, 4);
    for (let i = 0; i < sheet.positions.length; i += 3) sheet.positions[i + 1] = 0.4 * Math.sin(2 * sheet.positions[i] + sheet.positions[i + 2]);
    return sheet;
  };

  it('has the places and normals that going on to subdivide approaches: smooth vertices, poles, borders, creases and darts', () => {
    for (const mesh of [quadSphere(5, 2), hilly(), marked(hilly()), marked(quadSphere(5, 3))])
      for (const scheme of ['catmull-clark', 'loop'] as const) {
        const cut = uniformMesh(mesh.positions, Int32Array.from(triangulate(mesh).triangles), 3);
        const input = scheme === 'loop' ? { ...mesh, ...cut } : mesh;
        const near = distances(input, scheme, 3);
        distances(input, scheme, 6).forEach(({ angle, place }, i) => {
          expect(angle).toBeLessThan(0.8 * near[i].angle + 0.5);
          expect(place).toBeLessThan(0.4 * near[i].place + 1e-9);
        });
      }
  });

  it('keeps the sides of a creased cube apart', () => {
    const cage = Cage.fromPolygons(box({ x: 2, y: 2, z: 2 }, { x: 1, y: 1, z: 1 }));
    for (const e of cage.edges()) cage.setValue('crease', e, 10);
    const mesh = cage.toPolygons();
    const surface = new Subdivision(mesh, { levels: 1 });
    const normals = limitNormals(surface.last, 'catmull-clark', surface.evaluate(mesh.positions));
    // drawn with a copy for each further side: two at the middles of edges, three at the corners
    const { cornerPoint, copies } = splitAtCreases(surface.last);
    expect([copies.length, new Set(cornerPoint).size]).toEqual([12 + 2 * 8, 26 + 28]);
    for (let c = 0; c < normals.length; c += 3) expect([...normals.subarray(c, c + 3)].map(Math.abs).sort((a, b) => a - b)[2]).toBeCloseTo(1, 12);
  });
});
