import { beforeAll, describe, expect, it } from 'vitest';
import { alive, eulerOf, working } from '../../../testing/working-meshes.ts';
import { repairPolygons } from '../../mesh/repair.ts';
import { denseSphere, denseTorus, fadingBar, machinedPart, wedge } from '../../shapes/sample-surfaces.ts';
import { box, cylinder, plane } from '../../shapes/start-shapes.ts';
import { loadSolids } from '../../solids/engine.ts';
import { triangleFrames } from '../field/curvature.ts';
import { Remesher } from './remesh.ts';

describe('working mesh', () => {
  it.each([
    ['sphere', denseSphere(40), 2],
    ['torus', denseTorus(80, 30), 0],
    ['box', box({ x: 20, y: 20, z: 20 }, { x: 12, y: 12, z: 12 }), 2],
    ['sheet', plane(30, 20, 30, 20), 1]
  ])('of a %s has even edges, the same topology, and its vertices on the surface', (_name, source, euler) => {
    const { mesh, triangles, bvh } = working(source);
    const before = [...mesh.feature].filter(Boolean).length > 0;
    mesh.size.fill(2);
    const result = new Remesher(mesh, bvh, new Float64Array(triangles.length / 3).fill(2)).run(5);
    expect(eulerOf(result)).toBe(euler);
    const lengths = alive(result).flatMap((t) => [0, 1, 2].map((k) => Math.sqrt(result.edgeLength2(3 * t + k))));
    const mean = lengths.reduce((a, b) => a + b) / lengths.length;
    expect(mean).toBeGreaterThan(1.5);
    expect(mean).toBeLessThan(2.5);
    expect(Math.max(...lengths)).toBeLessThan(2 * mean);
    let away = 0;
    for (const t of alive(result)) {
      const v = 3 * result.corner[3 * t];
      away = Math.max(
        away,
        bvh.closest(result.positions[v], result.positions[v + 1], result.positions[v + 2], {
          triangle: -1,
          distance2: 0,
          x: 0,
          y: 0,
          z: 0,
          b: 0,
          c: 0
        }).distance2
      );
    }
    expect(Math.sqrt(away)).toBeLessThan(1e-6);
    expect([...result.feature].some(Boolean)).toBe(before);
  });
});

describe('working meshes of parts that come as long thin triangles', () => {
  beforeAll(() => loadSolids());
  it.each([
    ['wedge', wedge(30)],
    ['rod', cylinder(6, 40, 48, 1, true)],
    ['bar whose edge fades', repairPolygons(fadingBar(), { weld: true }).mesh]
  ])('have none that are thin or folded over: a %s', (_name, source) => {
    const { mesh, triangles, bvh } = working(source);
    mesh.size.fill(2);
    const result = new Remesher(mesh, bvh, new Float64Array(triangles.length / 3).fill(2)).run(5);
    const { axes, area } = triangleFrames(result);
    for (let h = 0; h < 3 * result.triangles; h++) {
      const [t, s] = [Math.floor(h / 3), Math.floor(result.opposite[h] / 3)];
      expect(area[t] / result.edgeLength2(h)).toBeGreaterThan(0.02);
      if (result.feature[h] || result.opposite[h] < 0) continue;
      expect([6, 7, 8].reduce((sum, k) => sum + axes[9 * t + k] * axes[9 * s + k], 0)).toBeGreaterThan(0);
    }
  });

  it('keep the area of triangles between sharp edges that run close beside each other', () => {
    const { mesh, triangles, bvh } = working(repairPolygons(machinedPart(38), { weld: true }).mesh);
    mesh.size.fill(2);
    const result = new Remesher(mesh, bvh, new Float64Array(triangles.length / 3).fill(2)).run(5);
    for (let h = 0; h < 3 * result.triangles; h++) expect(result.area(Math.floor(h / 3)) / result.edgeLength2(h)).toBeGreaterThan(1e-6);
  });
});
