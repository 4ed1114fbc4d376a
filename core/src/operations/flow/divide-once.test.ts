import { describe, expect, it } from 'vitest';
import { cube, run, sizes } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { enclosedVolume, eulerCharacteristic } from '../../mesh/topology.ts';
import { emptySelection, selectFaces } from '../../select/selection.ts';
import { plane } from '../../shapes/start-shapes.ts';

describe('divide once', () => {
  it('divides a whole part flat and smooth, and keeps creases on both halves', () => {
    const creased = cube();
    for (const e of creased.edges()) creased.setValue('crease', e, 10);
    const { cage } = run('divide-once', creased, emptySelection());
    expect([cage.faceCount, enclosedVolume(cage)]).toEqual([24, 1000]);
    expect([...cage.edges()].filter((e) => cage.value('crease', e) === 10)).toHaveLength(24);
    // the vertices of a cube after Catmull and Clark lie at 5/9 of where they were
    const smooth = run('divide-once', cube(), emptySelection(), { places: 'smooth' }).cage;
    expect(
      smooth
        .position(0)
        .map(Math.abs)
        .map((x) => x.toFixed(9))
    ).toEqual(Array(3).fill((25 / 9).toFixed(9)));
  });

  it.each([1, 2, 3, 4])('makes a seam of quads round %i x 2 faces, closed and with no other face touched', (n) => {
    const sheet = Cage.fromPolygons(plane(8, 8, 8, 8));
    const picked = [...sheet.faces()].filter((f) =>
      sheet.faceVertices(f).every((v) => sheet.position(v)[0] <= n - 2 && sheet.position(v)[0] >= -2 && Math.abs(sheet.position(v)[2]) <= 1)
    );
    expect(picked).toHaveLength(2 * n);
    const { cage } = run('divide-once', sheet, selectFaces(picked));
    expect(sizes(cage)[1]).toBe(cage.faceCount);
    expect(cage.faceCount).toBe(64 - 2 * n + 8 * n + (3 * (2 * n + 4)) / 2);
    expect(eulerCharacteristic(cage)).toBe(1);
  });

  it('counts the triangle where an odd seam leaves one, and can leave the seam to the faces beside', () => {
    const sheet = Cage.fromPolygons(plane(4, 3, 4, 3));
    const left = [...sheet.faces()].filter((f) => sheet.faceVertices(f).every((v) => sheet.position(v)[0] <= 0));
    const { cage, notes } = run('divide-once', sheet, selectFaces(left));
    expect([sizes(cage)[0], notes.join(' ')]).toEqual([1, expect.stringContaining('1 triangle in the seam')]);
    expect(sizes(run('divide-once', sheet, selectFaces(left), { seam: 'ngons' }).cage)).toEqual([0, 27, 3]);
  });
});
