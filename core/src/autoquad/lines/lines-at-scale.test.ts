import { beforeAll, describe, expect, it } from 'vitest';
import { working } from '../../../testing/working-meshes.ts';
import { boundsOf, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { repairPolygons } from '../../mesh/repair.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { randomNumbers } from '../../numeric/random.ts';
import { fadingBar, machinedBlock, machinedPart } from '../../shapes/sample-surfaces.ts';
import { box, cylinder, plane } from '../../shapes/start-shapes.ts';
import { loadSolids } from '../../solids/engine.ts';
import { StepStore } from '../base/step-store.ts';
import { WorkingMesh } from '../base/working-mesh.ts';
import { prepared } from '../input/prepare.ts';
import { markFeatures } from './features.ts';
import { lengthOf } from './line-pieces.ts';
import { linesAtScale } from './lines-at-scale.ts';

/** The edges that are sharp, and what of them are lines for so many quads. */
function judged(mesh: PolygonMesh, quads = 4000, degrees = 40) {
  const dense = new WorkingMesh(mesh.positions, triangulate(mesh).triangles);
  const { sharp } = markFeatures(dense, boundsOf(mesh.positions).diagonal, degrees);
  let area = 0;
  for (let t = 0; t < dense.triangles; t++) area += dense.area(t);
  return { dense, sharp, size: Math.sqrt(area / quads), ...linesAtScale(dense, sharp, Math.sqrt(area / quads), degrees) };
}

beforeAll(() => loadSolids());

describe('lines at the scale of quads', () => {
  it('are all edges of machined parts, rims and fading edges', () => {
    const parts = Array.from({ length: 60 }, (_, i): [string, PolygonMesh] => [
      `part ${i + 1}`,
      repairPolygons(machinedPart(i + 1), { weld: true }).mesh
    ]);
    const others = {
      block: machinedBlock(),
      bar: repairPolygons(fadingBar(), { weld: true }).mesh,
      pipe: cylinder(10, 30, 64, 12, true),
      box: box({ x: 20, y: 20, z: 20 }, { x: 9, y: 9, z: 9 })
    };
    for (const [name, part] of [...parts, ...Object.entries(others)]) {
      const { sharp, lines, noise } = judged(part);
      expect(lines.length, name).toBe(sharp.length);
      expect(noise).toBeCloseTo(0, 6);
    }
  });

  it('are edges of a noisy box, whole', () => {
    const noisy = box({ x: 20, y: 20, z: 20 }, { x: 20, y: 20, z: 20 });
    const random = randomNumbers(3);
    for (let i = 0; i < noisy.positions.length; i++) noisy.positions[i] += 0.3 * (random() - 0.5);
    const { dense, sharp, lines } = judged(noisy, 400, 30);
    const onEdge = (h: number) => dense.ends(h).every((at) => at.filter((x) => Math.abs(Math.abs(x) - 10) < 0.3).length >= 2);
    expect(sharp.filter(onEdge).length).toBeGreaterThan(230);
    expect(lines.filter(onEdge).length).toBe(sharp.filter(onEdge).length);
  });

  it('are no zigzags over noise, however long, and no facets of something coarse', () => {
    // a sheet with a ridge of teeth: every edge of the zigzag is as sharp as can be
    const sheet = plane(60, 60, 60, 60);
    const random = randomNumbers(5);
    for (let v = 0; v < sheet.positions.length / 3; v++) {
      const [x, z] = [sheet.positions[3 * v], sheet.positions[3 * v + 2]];
      if (Math.abs(z) < 1.5 && Math.abs(x) < 29) sheet.positions[3 * v + 1] = 2 * random();
    }
    const dense = new WorkingMesh(sheet.positions, triangulate(sheet).triangles);
    const teeth = [...dense.edges()].filter(
      (h) => dense.opposite[h] >= 0 && dense.ends(h).every((at) => Math.abs(at[2]) < 1.5 && Math.abs(at[0]) < 29)
    );
    expect(lengthOf(dense, teeth)).toBeGreaterThan(100);
    const { lines, noise } = linesAtScale(dense, teeth, 3, 40);
    expect(lengthOf(dense, lines)).toBe(0);
    expect(noise).toBeCloseTo(lengthOf(dense, teeth), 6);
  });

  it('are none where nothing is sharp', () => {
    const { mesh } = working(plane(10, 10, 5, 5));
    expect(linesAtScale(mesh, [], 1, 40)).toEqual({ lines: [], noise: 0 });
  });

  it('are those of the size asked for, whatever was laid before over the same surface', () => {
    // a fold that fades out before the rim on both sides: 14 mm of it are sharp
    const fold = plane(20, 20, 20, 20);
    for (let v = 0; v < fold.positions.length / 3; v++) {
      const [x, z] = [fold.positions[3 * v], fold.positions[3 * v + 2]];
      fold.positions[3 * v + 1] = -Math.abs(z) * (Math.abs(x) <= 7 ? 0.7 : 0.7 - 0.2 * (Math.abs(x) - 7));
    }
    const kept = new StepStore();
    const linesOf = (count: number) => {
      kept.begin(fold);
      const { whole, notes } = prepared(fold, { count }, kept);
      return { isFollowed: whole().lines.sharp !== undefined, noise: notes.some((note) => note.startsWith('Sharp edges that are no lines')) };
    };
    expect(linesOf(400)).toEqual({ isFollowed: true, noise: false });
    expect(linesOf(24)).toEqual({ isFollowed: false, noise: true });
    expect(linesOf(400)).toEqual({ isFollowed: true, noise: false });
  });
});
