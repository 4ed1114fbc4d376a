import { describe, expect, it } from 'vitest';
import { fieldOf, opened, working } from '../../../testing/working-meshes.ts';
import { denseSphere, denseTorus, wedge } from '../../shapes/sample-surfaces.ts';
import { box } from '../../shapes/start-shapes.ts';
import { cutOpen } from './cut-graph.ts';
import { openNarrowCorners } from './narrow-corners.ts';
import { mod4 } from './orientation-field.ts';

describe('orientation field', () => {
  it.each([
    ['sphere', denseSphere(16), 8],
    ['torus', denseTorus(48, 20), 0]
  ])('on a %s has poles that add up to four times its Euler characteristic', (_name, source, sum) => {
    const { mesh } = working(source);
    expect(fieldOf(mesh).field.index.reduce((a, b) => a + b, 0)).toBe(sum);
    expect(fieldOf(mesh, 1).field.index.reduce((a, b) => a + b, 0)).toBe(sum);
  });

  it('runs along the edges of a box', () => {
    const { mesh } = working(box({ x: 20, y: 20, z: 20 }, { x: 6, y: 6, z: 6 }));
    const { frames, field } = fieldOf(mesh);
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (!mesh.feature[h]) continue;
      const quarters = (frames.angle[h] - field.theta[Math.floor(h / 3)]) / (Math.PI / 2);
      expect(Math.abs(quarters - Math.round(quarters))).toBeLessThan(1e-6);
    }
    expect([...field.index].filter((i) => i === 1)).toHaveLength(8);
  });

  it('has jumps that undo each other on both sides of every edge', () => {
    const { mesh } = working(denseTorus(40, 16));
    const { field } = fieldOf(mesh);
    for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.opposite[h] >= 0) expect(mod4(field.jump[h] + field.jump[mesh.opposite[h]])).toBe(0);
  });
});

describe('cut', () => {
  it.each([
    ['sphere', denseSphere(14)],
    ['torus', denseTorus(40, 16)]
  ])('opens a %s into a disc, with all poles on the cut', (_name, source) => {
    const { mesh } = working(source);
    const { field } = fieldOf(mesh);
    const cut = cutOpen(mesh, field);
    let edges = 0;
    for (let h = 0; h < 3 * mesh.triangles; h++) edges += cut.cut[h] ? 1 : mesh.opposite[h] < h ? 1 : 0;
    expect(cut.copies - edges + mesh.triangles).toBe(1);
    const onCut = new Set<number>();
    for (let h = 0; h < 3 * mesh.triangles; h++) if (cut.cut[h]) onCut.add(mesh.corner[h]);
    field.index.forEach((i, v) => i !== 0 && expect(onCut.has(v)).toBe(true));
    for (let h = 0; h < 3 * mesh.triangles; h++) if (!cut.cut[h] && mesh.opposite[h] >= 0) expect(cut.jump[h]).toBe(0);
  });
});

describe('narrow corners', () => {
  it('get a quarter turn, and a pole beside them; wide ones are left alone', () => {
    const { mesh, frames, field } = opened(wedge(25), 3);
    const before = field.index.slice();
    expect(openNarrowCorners(mesh, frames, field)).toBe(2);
    const changed = [...field.index.keys()].filter((v) => field.index[v] > before[v]);
    expect(changed.map((v) => field.index[v] - before[v])).toEqual([1, 1]);
    for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.opposite[h] >= 0) expect(mod4(field.jump[h] + field.jump[mesh.opposite[h]])).toBe(0);
    const block = opened(box({ x: 20, y: 20, z: 20 }, { x: 2, y: 2, z: 2 }), 4);
    expect(openNarrowCorners(block.mesh, block.frames, block.field)).toBe(0);
  });
});
