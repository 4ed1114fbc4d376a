import { describe, expect, it } from 'vitest';
import { faceQuality } from '../../../testing/face-quality.ts';
import { cube, run, sizes } from '../../../testing/run-operation.ts';
import { holesOf } from '../../fill/hole.ts';
import { Cage } from '../../mesh/cage.ts';
import { joinCages } from '../../mesh/join-cages.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { polygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops, enclosedVolume, eulerCharacteristic } from '../../mesh/topology.ts';
import { emptySelection, selectEdges, selectFaces } from '../../select/selection.ts';
import { hornThroat } from '../../shapes/horn-throat.ts';
import { box, cylinder, plane } from '../../shapes/start-shapes.ts';

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

  it('takes the edges that one rim has more by transitions of 3 to 1 and 4 to 2: whole quads round two poles each', () => {
    for (const [m, n, groups, worst] of [
      [20, 12, 4, 0.3],
      [12, 20, 4, 0.3],
      [16, 12, 2, 0.3],
      // eight edges take at most eight groups: the rest are quads that take two edges
      [30, 8, 8, -0.01]
    ])
      for (const unequal of ['three', 'four']) {
        const cage = together(cup(m, -5, false), cup(n, 5, true));
        const { cage: joined, selection } = run('bridge', cage, emptySelection(), { rows: 4, unequal });
        expect([m, n, unequal, borderLoops(joined).length, eulerCharacteristic(joined)]).toEqual([m, n, unequal, 0, 2]);
        expect(outward(joined, selection.faces)).toBe(true);
        expect(faceQuality(joined, selection.faces).worst).toBeGreaterThan(worst);
        expect([...joined.vertices()].slice(2 * (m + n) + 3 * m).filter((v) => joined.valence(v) === 3)).toHaveLength(2 * groups);
      }
  });

  it('pairs rims as the faces of both come in: a twist goes on the same way', () => {
    // two squares an eighth of a turn apart: both ways round are as long
    for (const sense of [1, -1]) {
      const turned = (h: number) =>
        [0, 1, 2, 3].map((i) => [
          5 * Math.cos((Math.PI / 2) * i + sense * (Math.PI / 20) * h),
          h,
          5 * Math.sin((Math.PI / 2) * i + sense * (Math.PI / 20) * h)
        ]);
      const points = [-10, -7.5, -5, -2.5, 2.5, 5, 7.5, 10].flatMap(turned);
      const next = (i: number) => (i % 4 === 3 ? i - 3 : i + 1);
      const bands = Array.from({ length: 28 }, (_, i) => [i, i + 4, next(i) + 4, next(i)]).filter((_, i) => i < 12 || i > 15);
      const cage = Cage.fromPolygons(polygonMesh(points, bands));
      const { cage: joined } = run('bridge', cage, selectEdges([12, 16].map((v) => cage.findHalfEdge(v, v + 1) >> 1)));
      for (const v of [12, 13, 14, 15]) expect([sense, joined.findHalfEdge(v, v + 4) >= 0]).toEqual([sense, true]);
    }
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

  it('keeps braces at both rims: their width can still be changed', () => {
    const block = cube(3);
    const square = run('delete', block, selectFaces([...block.faces()].filter((f) => Math.abs(faceNormal(block, f)[1]) > 0.9))).cage;
    const braced = run('brace', square, selectEdges(holesOf(square).flatMap(({ halves }) => halves.map((h) => h >> 1))), { width: 0.5 }).cage;
    const widths = (cage: Cage) => [...cage.edges()].map((e) => cage.value('braced', e)).filter((w) => w > 0);
    const { cage: joined } = run('bridge', braced, emptySelection(), { rows: 2 });
    expect(widths(joined)).toEqual(Array(24).fill(0.5));
    const tags = selectEdges([...joined.edges()].filter((e) => joined.value('braced', e) > 0));
    expect(widths(run('brace-width', joined, tags, { width: 1 }).cage)).toEqual(Array(24).fill(1));
  });

  it('pairs counts up by loops where they do least harm, and holds pinned counts or names what contradicts', () => {
    const cage = together(cup(20, -5, false), cup(12, 5, true));
    const rims = () => holesOf(cage).map(({ vertices }) => vertices.length);
    expect(rims().sort()).toEqual([12, 20]);
    const { cage: joined, notes, selection } = run('bridge', cage, emptySelection(), { unequal: 'loops' });
    expect([selection.faces.length, borderLoops(joined).length, notes[0]]).toEqual([20, 0, '8 loops added on the rim of 12 edges.']);
    const poor = holesOf(cage).find(({ vertices }) => vertices.length === 12)!;
    const pin = (of: Cage, count: number) => run('pin-count', of, selectEdges(poor.halves.map((h) => h >> 1)), { count }).cage;
    expect(run('bridge', pin(cage, 20), emptySelection(), { unequal: 'loops' }).selection.faces).toHaveLength(20);
    const pinned = run('bridge', pin(cage, 24), emptySelection(), { unequal: 'loops' });
    expect([pinned.selection.faces.length, pinned.notes.slice(0, 2).sort()]).toEqual([
      24,
      ['12 loops added on the rim of 12 edges.', '4 loops added on the rim of 20 edges.']
    ]);
    expect(() => run('bridge', pin(cage, 12), emptySelection(), { unequal: 'loops' })).toThrow(
      /need (12 and 20|20 and 12) edges: .*pinned to 12, 12 now/
    );
    expect(() => pin(cage, 8)).toThrow(/has 12 edges already, more than 8.*Pin it to 12 or more/);
    expect(() => run('quad-grid', run('pin-count', cup(9, 0, false), emptySelection()).cage, emptySelection(), { odd: 'strip' })).toThrow(
      /pinned to 9/
    );
  });

  it('joins chains end to end, and groups of faces, which go', () => {
    const sheets = together(
      Cage.fromPolygons(plane(4, 4, 4, 4)),
      run('move', Cage.fromPolygons(plane(4, 4, 4, 4)), selectFaces(Cage.fromPolygons(plane(4, 4, 4, 4)).faces()), { x: 8 }).cage
    );
    const side = (x: number) =>
      [...sheets.edges()].filter((e) => [0, 1].every((k) => Math.abs(sheets.position(sheets.origin[2 * e + k])[0] - x) < 1e-9));
    const { cage: joined, selection } = run('bridge', sheets, selectEdges([...side(2), ...side(6)]), { rows: 4 });
    expect([selection.faces.length, borderLoops(joined).length, eulerCharacteristic(joined)]).toEqual([16, 1, 1]);
    for (const f of selection.faces) expect(faceNormal(joined, f)[1]).toBeGreaterThan(0.999);
    // two faces of a block, and a tunnel between them
    const block = cube(3);
    const middle = [...block.faces()].filter((f) => {
      const c = block.faceVertices(f).map((v) => block.position(v));
      return [1, 2].every((k) => Math.abs(c.reduce((sum, p) => sum + p[k], 0)) < 1e-9) && Math.abs(c[0][0]) === 5;
    });
    const tunnel = run('bridge', block, selectFaces(middle), { rows: 2 });
    expect([middle.length, eulerCharacteristic(tunnel.cage), borderLoops(tunnel.cage).length, tunnel.selection.faces.length]).toEqual([2, 0, 0, 8]);
    // groups of four faces each go whole
    const large = cube(4);
    const fours = [...large.faces()].filter((f) => {
      const c = large.faceVertices(f).map((v) => large.position(v));
      return Math.abs(c.reduce((sum, p) => sum + p[0], 0)) === 20 && c.every((p) => Math.abs(p[1]) < 3 && Math.abs(p[2]) < 3);
    });
    const wide = run('bridge', large, selectFaces(fours), { rows: 3 });
    expect([fours.length, eulerCharacteristic(wide.cage), borderLoops(wide.cage).length, wide.selection.faces.length]).toEqual([8, 0, 0, 24]);
  });

  it('closes the horn throat: square to round in one, braced at the square rim alone', () => {
    const cage = Cage.fromPolygons(hornThroat());
    const holes = holesOf(cage).sort((a, b) => Math.abs(a.places[0][1] - 35) - Math.abs(b.places[0][1] - 35));
    const [collar, horn] = holes.slice(0, 2).sort((a, b) => a.places[0][1] - b.places[0][1]);
    expect([collar, horn].map(({ vertices }) => vertices.length)).toEqual([12, 20]);
    const rims = selectEdges([collar.halves[0] >> 1, horn.halves[0] >> 1]);
    for (const unequal of ['quads', 'loops']) {
      const { cage: joined } = run('bridge', cage, rims, { rows: 3, curved: 1, round: 'rounder', brace: 1.5, unequal });
      expect([unequal, sizes(joined)[0], sizes(joined)[2], borderLoops(joined).length, eulerCharacteristic(joined)]).toEqual([unequal, 0, 0, 2, 0]);
      const braced = [...joined.edges()].filter((e) => joined.value('braced', e) > 0);
      for (const e of braced) for (const k of [0, 1]) expect(joined.position(joined.origin[2 * e + k])[1]).toBeCloseTo(20, 6);
      expect(braced.length).toBeGreaterThanOrEqual(12);
    }
  });
});
