import { describe, expect, it } from 'vitest';
import { cube, run } from '../../../testing/run-operation.ts';
import { holesOf } from '../../fill/hole.ts';
import { Cage } from '../../mesh/cage.ts';
import { joinCages } from '../../mesh/join-cages.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { polygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops, enclosedVolume, eulerCharacteristic } from '../../mesh/topology.ts';
import { emptySelection, selectEdges, selectFaces } from '../../select/selection.ts';
import { box, cylinder } from '../../shapes/start-shapes.ts';

/** A prism of n sides without its lid, lying from y on downwards, or upwards, by 10 mm. */
function cup(sides: number, y: number, up: boolean, turn = 0, x = 0): Cage {
  const ring = (h: number) =>
    Array.from({ length: sides }, (_, i) => {
      const a = turn + (2 * Math.PI * i) / sides;
      return [x + 5 * Math.cos(a), h, 5 * Math.sin(a)];
    });
  const points = [...ring(up ? y + 10 : y - 10), ...ring(y)];
  const floor = Array.from({ length: sides }, (_, i) => i);
  const walls = floor.map((i) => [i, (i + 1) % sides, sides + ((i + 1) % sides), sides + i]);
  const cage = Cage.fromPolygons(polygonMesh(points, [floor, ...walls.map((w) => w.reverse())]));
  return up ? run('flip', cage, emptySelection()).cage : cage;
}
const together = (...cages: Cage[]) => cages.reduce((a, b) => joinCages(a, b).cage);
/** Faces all look outward: away from the axis, where they are no lids. */
const outward = (cage: Cage, faces: number[]) =>
  faces.every((f) => {
    const c = cage.faceVertices(f).map((v) => cage.position(v));
    const [x, z] = [0, 2].map((k) => c.reduce((sum, p) => sum + p[k], 0));
    const n = faceNormal(cage, f);
    return n[0] * x + n[2] * z > 0;
  });

describe('bridge', () => {
  it('joins borders of one count untwisted, whatever their start, in rows', () => {
    const cage = together(cup(12, -5, false), cup(12, 5, true, (3.2 * 2 * Math.PI) / 12));
    const { cage: joined, selection, notes } = run('bridge', cage, emptySelection(), { rows: 3 });
    expect([borderLoops(joined).length, eulerCharacteristic(joined), selection.faces.length]).toEqual([0, 2, 36]);
    expect(outward(joined, selection.faces)).toBe(true);
    // turned by 0.2 of a side against each other: no link is longer than that allows
    const links = selection.faces.flatMap((f) => joined.loopOf(joined.faceEdge[f])).map((h) => joined.edgeLength(h >> 1));
    expect(Math.max(...links)).toBeLessThan(3.5);
    expect(notes[0]).toContain('12 edges');
    const twisted = run('bridge', cage, emptySelection(), { offset: 1 });
    expect(
      Math.max(...twisted.selection.faces.flatMap((f) => twisted.cage.loopOf(twisted.cage.faceEdge[f])).map((h) => twisted.cage.edgeLength(h >> 1)))
    ).toBeGreaterThan(10);
  });

  it('spreads quads that take two edges evenly where counts differ, with one triangle only where both together are odd', () => {
    for (const [m, n] of [
      [20, 12],
      [12, 20],
      [8, 16],
      [9, 12],
      [4, 24]
    ]) {
      const cage = together(cup(m, -5, false), cup(n, 5, true));
      const { cage: joined, selection } = run('bridge', cage, emptySelection(), { rows: 2 });
      expect([m, n, borderLoops(joined).length, eulerCharacteristic(joined)]).toEqual([m, n, 0, 2]);
      expect(selection.faces.filter((f) => joined.faceSize(f) === 3)).toHaveLength((m + n) % 2);
      expect(outward(joined, selection.faces)).toBe(true);
    }
    const cage = together(cup(20, -5, false), cup(12, 5, true));
    expect(() => run('bridge', cage, emptySelection(), { unequal: 'refuse' })).toThrow(/20 and 12 edges.*Add 8 loops/);
  });

  it('leaves both rims as their faces come in when curved: a bent duct holds more than a straight bridge', () => {
    const cage = together(cup(12, -5, false), run('rotate', cup(12, 5, true), selectFaces(cup(12, 5, true).faces()), { z: -60 }).cage);
    const volume = (curved: number) => enclosedVolume(run('bridge', cage, emptySelection(), { rows: 6, curved }).cage);
    expect(volume(1)).toBeGreaterThan(1.02 * volume(0));
  });

  it('joins several pairs at once, the nearest borders with each other, and says what is missing', () => {
    const cage = together(cup(8, -5, false), cup(8, 5, true), cup(8, -5, false, 0, 40), cup(10, 5, true, 0, 40));
    const all = selectEdges(holesOf(cage).flatMap((hole) => hole.halves.map((h) => h >> 1)));
    const { cage: joined, notes } = run('bridge', cage, all);
    expect([borderLoops(joined).length, notes.length, eulerCharacteristic(joined)]).toEqual([0, 2, 4]);
    expect(() => run('bridge', cage, emptySelection())).toThrow(/No border is picked/);
    expect(() => run('bridge', cage, selectEdges([holesOf(cage)[0].halves[0] >> 1]))).toThrow(/One border is picked; a bridge joins two/);
    expect(() => run('bridge', cube(), emptySelection())).toThrow(/No border is picked/);
  });

  it('keeps creases at both rims, and joins a square to a circle', () => {
    const block = Cage.fromPolygons(box({ x: 12, y: 4, z: 12 }, { x: 3, y: 1, z: 3 }));
    const top = [...block.faces()].filter((f) => faceNormal(block, f)[1] > 0.9);
    const square = run('delete', block, selectFaces(top)).cage;
    const pipe = run('move', Cage.fromPolygons(cylinder(4, 6, 16, 2, false)), selectFaces(Cage.fromPolygons(cylinder(4, 6, 16, 2, false)).faces()), {
      y: 12
    }).cage;
    const cage = together(square, pipe);
    const rim = holesOf(cage).find((hole) => hole.vertices.length === 12)!;
    for (const h of rim.halves) cage.setValue('crease', h >> 1, 4);
    const lower = holesOf(cage)
      .filter((hole) => hole.vertices.length === 16)
      .sort((a, b) => a.places[0][1] - b.places[0][1])[0];
    const { cage: joined } = run('bridge', cage, selectEdges([rim.halves[0] >> 1, lower.halves[0] >> 1]), { rows: 3, curved: 0.5 });
    expect([borderLoops(joined).length, eulerCharacteristic(joined)]).toEqual([1, 1]);
    expect(rim.halves.every((h) => joined.value('crease', joined.findHalfEdge(cage.origin[h], cage.target(h)) >> 1) === 4)).toBe(true);
  });
});
