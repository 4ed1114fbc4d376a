import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fieldOf, working } from '../../../testing/working-meshes.ts';
import { denseSphere, denseTorus } from '../../shapes/sample-surfaces.ts';
import { WorkingMesh, after } from '../base/working-mesh.ts';
import { cutOpen } from '../field/cut-graph.ts';
import { mod4 } from '../field/orientation-field.ts';
import { matches } from '../quads/mend.ts';
import { QuadExtraction } from '../quads/quad-extraction.ts';
import { GRID, mapAreas } from './map-plane.ts';
import { waysBetweenPoles } from './pole-ways.ts';
import { SeamlessMap } from './seamless-map.ts';

describe('seamless map and extraction', () => {
  it('on a torus differ by quarter turns and whole steps across every cut, and give one quad a cell', () => {
    const { mesh } = working(denseTorus(60, 24));
    const { frames, field } = fieldOf(mesh, 0.5);
    const cut = cutOpen(mesh, field);
    const map = new SeamlessMap(mesh, frames, cut, field.index);
    map.aim(new Float64Array(mesh.triangles).fill(1));
    const uv = map.coordinates(map.solve([{ size: 4 }])[0]);
    const difference = (h: number) => [uv[2 * after(h)] - uv[2 * h], uv[2 * after(h) + 1] - uv[2 * h + 1]];
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      const g = mesh.opposite[h];
      if (g < 0) continue;
      let [u, v] = difference(h);
      for (let k = 0; k < mod4(-cut.jump[h]); k++) [u, v] = [-v, u];
      const [x, y] = difference(g);
      // the other side runs the other way; coordinates lie on a grid, so this is exact
      expect([u + x, v + y].map((d) => Math.abs(d))).toEqual([0, 0]);
      expect(Number.isInteger(uv[2 * h] / GRID)).toBe(true);
    }
    const areas = mapAreas(uv);
    expect(areas.filter((a) => a <= 0)).toHaveLength(0);
    const cells = areas.reduce((a, b) => a + b, 0) / 2;
    const quads = new QuadExtraction(mesh, cut, uv).run();
    expect(quads.quads.length / 4).toBe(Math.round(cells));
    expect(matches(quads, { euler: 0, borders: 0 })).toBe(true);
  });

  it('finds corners on a line however near to them vertices of the line lie, and exactly on them', () => {
    const [across, along] = [4, 6];
    const number = (i: number, j: number) => i * (along + 1) + j;
    const shift = fc.integer({ min: -9000, max: 9000 });
    const shifts = fc.array(shift, { minLength: 2 * 35, maxLength: 2 * 35 });
    // steps of 2^-13 of a quad along the line
    const near = fc.array(fc.integer({ min: -20, max: 20 }), { minLength: along + 1, maxLength: along + 1 });
    const diagonals = fc.array(fc.boolean(), { minLength: across * along, maxLength: across * along });
    fc.assert(
      fc.property(shifts, near, diagonals, (moved, beside, diagonal) => {
        const places = Array.from({ length: (across + 1) * (along + 1) }, (_, n) => {
          const [i, j] = [Math.floor(n / (along + 1)), n % (along + 1)];
          if (i === 2) return [i, j % along === 0 ? j : j + beside[j] * 2 ** -13, 0];
          return [i % across === 0 ? i : i + moved[2 * n] * GRID, j % along === 0 ? j : j + moved[2 * n + 1] * GRID, 0];
        });
        const triangles = diagonal.flatMap((rising, n) => {
          const [i, j] = [Math.floor(n / along), n % along];
          const [a, b, c, d] = [number(i, j), number(i + 1, j), number(i + 1, j + 1), number(i, j + 1)];
          return rising ? [a, b, c, a, c, d] : [a, b, d, b, c, d];
        });
        const mesh = new WorkingMesh(Float64Array.from(places.flat()), triangles);
        for (let h = 0; h < triangles.length; h++)
          mesh.feature[h] = mesh.opposite[h] < 0 || (mesh.point(triangles[h])[0] === 2 && mesh.point(triangles[after(h)])[0] === 2) ? 1 : 0;
        const uv = Float64Array.from(triangles.flatMap((v) => places[v].slice(0, 2)));
        const { positions, quads, hold } = new QuadExtraction(mesh, cutOpen(mesh, fieldOf(mesh).field), uv).run();
        expect([quads.length / 4, hold.length]).toEqual([across * along, (across + 1) * (along + 1)]);
        positions.forEach((x) => expect(x).toBeCloseTo(Math.round(x), 9));
        hold.forEach((kind, v) => {
          const [x, y] = [positions[3 * v], positions[3 * v + 1]].map(Math.round);
          expect(kind > 0).toBe(x % 2 === 0 || y === 0 || y === along);
        });
      })
    );
  });

  it('keeps poles apart where quads are so large that they would fall together', () => {
    const { mesh } = working(denseSphere(24));
    const { frames, field } = fieldOf(mesh);
    const cut = cutOpen(mesh, field);
    const map = new SeamlessMap(mesh, frames, cut, field.index);
    map.aim(new Float64Array(mesh.triangles).fill(1));
    map.keepApart(waysBetweenPoles(mesh, cut, field.index, 30));
    const quadsAt = (parted: boolean) => map.tally(map.solve([{ size: 80, parted }])[0]).area / 2;
    expect(Math.abs(quadsAt(false))).toBe(0);
    // its eight poles become the corners of a cube
    expect(quadsAt(true)).toBe(6);
  });

  it('tells along which ways strips run beside themselves; made to close, they do not', () => {
    const { mesh } = working(denseTorus(60, 24));
    const { frames, field } = fieldOf(mesh, 0.2);
    const cut = cutOpen(mesh, field);
    const map = new SeamlessMap(mesh, frames, cut, field.index);
    const even = new Float64Array(mesh.triangles).fill(1);
    const spiralsAt = (size: number, within: number) => {
      const extraction = new QuadExtraction(mesh, cut, map.coordinates(map.solve([{ size, within }])[0]));
      extraction.run();
      return extraction.spirals();
    };
    map.aim(even);
    const size = [3, 3.1, 3.2, 3.3, 3.4, 3.5, 3.6, 3.7, 3.8].find((s) => spiralsAt(s, 0).length > 0)!;
    const spirals = spiralsAt(size, 0);
    for (const { crossed, arm } of spirals) {
      crossed.forEach((h, i) => expect(Math.floor(mesh.opposite[h] / 3)).toBe(Math.floor(crossed[(i + 1) % crossed.length] / 3)));
      expect(crossed.reduce((own, h) => mod4(own - cut.jump[h]), arm)).toBe(arm);
    }
    map.close(spirals);
    expect(spiralsAt(size, 4)).toEqual([]);
  });
});
