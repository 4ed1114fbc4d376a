import { describe, expect, it } from 'vitest';
import { working } from '../../../testing/working-meshes.ts';
import { boundsOf, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { randomNumbers } from '../../numeric/random.ts';
import { denseSphere, noisyScan } from '../../shapes/sample-surfaces.ts';
import { box, cylinder, plane } from '../../shapes/start-shapes.ts';
import { StepStore } from '../base/step-store.ts';
import { WorkingMesh } from '../base/working-mesh.ts';
import { prepared } from '../input/prepare.ts';
import { markFeatures } from './features.ts';
import { foldOf } from './picked-lines.ts';

describe('features', () => {
  it('are the twelve edges of a box, the rims of a cylinder, and none on a sphere or in noise', () => {
    expect(working(box({ x: 20, y: 20, z: 20 }, { x: 10, y: 10, z: 10 })).sharp).toBe(120);
    expect(working(cylinder(10, 30, 64, 12, true)).sharp).toBe(128);
    expect(working(denseSphere(20)).sharp).toBe(0);
    expect(working(noisyScan(1.2)).sharp).toBe(0);
  });
  it('are lines, not what noise makes of a small angle: edges of a noisy box stay whole, a noisy lump has hardly any', () => {
    const dense = box({ x: 20, y: 20, z: 20 }, { x: 20, y: 20, z: 20 });
    const random = randomNumbers(3);
    for (let i = 0; i < dense.positions.length; i++) dense.positions[i] += 0.4 * (random() - 0.5);
    const sharpOf = (mesh: PolygonMesh, degrees: number) => {
      const made = new WorkingMesh(mesh.positions, triangulate(mesh).triangles);
      const raw = [...made.edges()].filter((h) => foldOf(made, h) > degrees).length;
      return { raw, made, ...markFeatures(made, boundsOf(mesh.positions).diagonal, degrees) };
    };
    const { raw, made, sharp } = sharpOf(dense, 16);
    const onEdge = (h: number) => made.ends(h).every((at) => at.filter((x) => Math.abs(Math.abs(x) - 10) < 0.3).length >= 2);
    expect(raw).toBeGreaterThan(1000);
    expect(sharp.filter(onEdge).length).toBeGreaterThan(230);
    expect(sharp.length).toBeLessThan(350);
    const lump = sharpOf(noisyScan(1), 12);
    expect(lump.raw).toBeGreaterThan(4000);
    expect(lump.sharp.length).toBeLessThan(0.02 * lump.raw);
    const { notes } = prepared(dense, { count: 400, featureAngle: 16 }, new StepStore());
    expect(notes[1]).toMatch(/^Edges beyond 16 degrees that were taken for noise or facets, not for lines: \d/);
  });

  it('are the sharpest where quads have not enough edges for all of them, and this is said', () => {
    const pipe = cylinder(10, 30, 64, 12, true);
    const laidWith = (count: number) => prepared(pipe, { count, featureAngle: 3 }, new StepStore());
    // both rims, or the pipe's facets too
    const [few, many] = [laidWith(100), laidWith(20_000)];
    expect([few.dense.featureEdges().length, few.notes[1]]).toEqual([
      128,
      expect.stringMatching(/^Sharp edges of less than \d+ degrees were left out/)
    ]);
    expect([many.dense.featureEdges().length, many.notes.length]).toEqual([128 + 64 * 12, 1]);
  });

  it('are always borders', () => {
    const { mesh } = working(plane(10, 10, 5, 5));
    expect([...mesh.feature].filter(Boolean)).toHaveLength(20);
  });
});
