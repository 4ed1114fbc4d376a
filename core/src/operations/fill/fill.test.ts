import { describe, expect, it } from 'vitest';
import { cube, run, sizes } from '../../../testing/run-operation.ts';
import { holesOf, type Hole } from '../../fill/hole.ts';
import { bestGridPlace } from '../../fill/quad-grid.ts';
import { Cage } from '../../mesh/cage.ts';
import { joinCages } from '../../mesh/join-cages.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { polygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops, eulerCharacteristic, isPole } from '../../mesh/topology.ts';
import { cross, dot, subtract, unit } from '../../numeric/vectors.ts';
import { emptySelection, selectEdges, selectFaces } from '../../select/selection.ts';
import { channelBuoy } from '../../shapes/channel-buoy.ts';
import { cylinder, plane, quadSphere, torus } from '../../shapes/start-shapes.ts';
import { bringIn } from '../../formats/bring-in.ts';
import { writeMesh } from '../../formats/registry.ts';
import { obj } from '../../formats/obj.ts';

/** A cage without the faces a test holds for. */
const without = (cage: Cage, gone: (centre: number[]) => boolean) => {
  const centre = (f: number) => [0, 1, 2].map((k) => cage.faceVertices(f).reduce((sum, v) => sum + cage.position(v)[k], 0) / cage.faceSize(f));
  return run('delete', cage, selectFaces([...cage.faces()].filter((f) => gone(centre(f))))).cage;
};
const sheet = (n: number) => Cage.fromPolygons(plane(n, n, n, n));
/** The hole inside, not the sheet's own rim. */
const inner = (cage: Cage) => holesOf(cage).sort((a, b) => a.length - b.length)[0];
const edgesOf = (hole: Hole) => selectEdges(hole.halves.map((h) => h >> 1));

/** Scaled Jacobians of quads: the sine of each corner, the least a quad; below 0 a corner turns the wrong way. */
function jacobians(cage: Cage, faces: number[]): number[] {
  return faces
    .filter((f) => cage.faceSize(f) === 4)
    .map((f) => {
      const p = cage.faceVertices(f).map((v) => cage.position(v));
      const normal = faceNormal(cage, f);
      return Math.min(...p.map((q, i) => dot(cross(unit(subtract(p[(i + 1) % 4], q)), unit(subtract(p[(i + 3) % 4], q))), normal)));
    });
}

describe('quad grid', () => {
  it('gives back the quads that were taken out of a sheet', () => {
    const cage = without(sheet(8), ([x, , z]) => Math.abs(x) < 2 && Math.abs(z) < 3);
    const { cage: filled, selection } = run('quad-grid', cage, edgesOf(inner(cage)));
    expect([selection.faces.length, filled.faceCount, sizes(filled)[1]]).toEqual([24, 64, 64]);
    expect([...filled.vertices()].filter((v) => !filled.isBorderVertex(v) && isPole(filled, v))).toEqual([]);
    for (const q of jacobians(filled, selection.faces)) expect(q).toBeGreaterThan(0.999);
  });

  it('takes rows and an offset, and says what does not fit', () => {
    const cage = without(sheet(8), ([x, , z]) => Math.abs(x) < 2 && Math.abs(z) < 2);
    const hole = edgesOf(inner(cage));
    expect(run('quad-grid', cage, hole, { rows: 2 }).selection.faces).toHaveLength(12);
    expect(run('quad-grid', cage, hole, { rows: 4, offset: 2 }).selection.faces).toHaveLength(16);
    expect(() => run('quad-grid', cage, hole, { rows: 8 })).toThrow(/8 rows are too many for a border of 16 edges.*7 or fewer/);
    expect(() => run('quad-grid', cube(), emptySelection())).toThrow(/closed/);
    expect(() => run('quad-grid', cage, emptySelection())).toThrow(/No border is picked; there are 2: .*32 edges/);
  });

  it('continues the curvature around with swell: a quarter of a sphere comes back within 2 % of the hole', () => {
    const ball = Cage.fromPolygons(quadSphere(10, 16));
    const cage = without(ball, ([, y]) => y > 10 * Math.cos(Math.PI / 4));
    const hole = inner(cage);
    const across = hole.length / Math.PI;
    const off = (swell: number) => {
      const { cage: filled, selection } = run('quad-grid', cage, edgesOf(hole), { swell });
      return (
        Math.max(...selection.faces.flatMap((f) => filled.faceVertices(f)).map((v) => Math.abs(Math.hypot(...filled.position(v)) - 10))) / across
      );
    };
    expect(off(1)).toBeLessThan(0.02);
    expect(off(0)).toBeGreaterThan(0.08);
  });

  it('fills odd borders with one triangle where the surface is flattest, and names the partner', () => {
    const cage = without(sheet(8), ([x, , z]) => Math.abs(x) < 2 && Math.abs(z) < 2);
    const rim = inner(cage);
    const odd = run('collapse', cage, selectEdges([rim.halves[0] >> 1])).cage;
    const { cage: filled, notes } = run('quad-grid', odd, edgesOf(inner(odd)));
    expect(eulerCharacteristic(filled)).toBe(1);
    expect(notes.join(' ')).toMatch(/odd.*One triangle is left.*odd partner would spare it \(/);
    // the collapse left one outside, the fill one inside
    expect(sizes(filled)[0] - sizes(odd)[0]).toBe(1);
    expect(sizes(filled)[2]).toBe(0);
  });

  it('has quads of good shape in holes of many kinds and counts', () => {
    const kinds: [string, Cage][] = [];
    for (const n of [8, 14, 20, 40, 64]) kinds.push([`disc ${n}`, without(Cage.fromPolygons(cylinder(10, 10, n, 2, true)), ([, y]) => y > 4.9)]);
    kinds.push([
      'on a cylinder',
      without(Cage.fromPolygons(cylinder(10, 40, 32, 16, false)), ([x, y, z]) => z > 0 && Math.abs(x) < 6 && Math.abs(y) < 6)
    ]);
    kinds.push(['on a torus', without(Cage.fromPolygons(torus(20, 8, 32, 20)), ([x, , z]) => x > 22 && Math.abs(z) < 6)]);
    for (const [name, cage] of kinds) {
      const hole = name.startsWith('disc') ? holesOf(cage)[0] : inner(cage);
      const { cage: filled, selection } = run('quad-grid', cage, edgesOf(hole), { swell: name.startsWith('disc') ? 0 : 1 });
      const quality = jacobians(filled, selection.faces);
      const mean = quality.reduce((a, b) => a + b, 0) / quality.length;
      expect([name, Math.min(...quality) > 0.3, mean > 0.75]).toEqual([name, true, true]);
      expect(selection.faces.every((f) => filled.faceSize(f) === 4)).toBe(true);
    }
  });

  it('finds the corners of a hole', () => {
    const cage = without(sheet(10), ([x, , z]) => Math.abs(x) < 3 && Math.abs(z) < 1);
    const { a, b } = bestGridPlace(inner(cage));
    expect([a, b].sort()).toEqual([2, 6]);
  });
});

describe('caps', () => {
  const open = () => without(Cage.fromPolygons(cylinder(10, 10, 12, 2, true)), ([, y]) => y > 4.9);

  it('close a hole by rings, triangles or one face', () => {
    const cage = open();
    const rings = run('ring-cap', cage, emptySelection(), { rings: 2 });
    expect([borderLoops(rings.cage).length, eulerCharacteristic(rings.cage), rings.selection.faces.length]).toEqual([0, 2, 24 + 9]);
    const triangles = run('triangle-cap', cage, emptySelection());
    expect([triangles.selection.faces.length, eulerCharacteristic(triangles.cage)]).toEqual([10, 2]);
    expect(triangles.selection.faces.every((f) => faceNormal(triangles.cage, f)[1] > 0.99)).toBe(true);
    expect(run('one-face-cap', cage, emptySelection()).cage.faceCount).toBe(cage.faceCount + 1);
  });

  it('keep joints flat, or the area small, as asked', () => {
    // a square tube cut askew: its rim is bent, and the two ways differ
    const tube = without(cube(4), ([, y]) => y > 4.9);
    for (const v of tube.vertices()) if (tube.position(v)[1] > 4.9 && Math.abs(tube.position(v)[0]) < 3) tube.positions[3 * v + 1] += 4;
    const area = (by: string) => {
      const { cage, selection } = run('triangle-cap', tube, emptySelection(), { by });
      return selection.faces.reduce((sum, f) => {
        const [p, q, r] = cage.faceVertices(f).map((v) => cage.position(v));
        return sum + Math.hypot(...cross(subtract(q, p), subtract(r, p))) / 2;
      }, 0);
    };
    expect(area('area')).toBeLessThanOrEqual(area('flat') + 1e-9);
  });

  it('fill a gap round an island as a ring, with one triangle where the counts together are odd', () => {
    for (const sides of [8, 9]) {
      const around = without(sheet(8), ([x, , z]) => Math.abs(x) < 3 && Math.abs(z) < 3);
      const round = polygonMesh(
        Array.from({ length: sides }, (_, i) => [Math.cos((2 * Math.PI * i) / sides), 0, -Math.sin((2 * Math.PI * i) / sides)]),
        [Array.from({ length: sides }, (_, i) => i)]
      );
      const cage = joinCages(around, Cage.fromPolygons(round)).cage;
      const hole = holesOf(cage).find(({ vertices }) => vertices.length === 24)!;
      const { cage: filled, selection, notes } = run('quad-grid', cage, edgesOf(hole));
      expect([borderLoops(filled).length, eulerCharacteristic(filled)]).toEqual([1, 1]);
      expect(selection.faces.filter((f) => filled.faceSize(f) === 3)).toHaveLength(sides % 2);
      expect(selection.faces.every((f) => faceNormal(filled, f)[1] > 0.99)).toBe(true);
      expect(notes[0]).toContain(`an island of ${sides} edges`);
    }
  });

  it('fill all six holes of the channel buoy, even, odd and nested, without an n-gon more', () => {
    const { mesh } = bringIn(writeMesh(channelBuoy(), obj), 'buoy.obj');
    const cage = Cage.fromPolygons(mesh);
    const holes = holesOf(cage);
    expect(holes.length).toBeGreaterThanOrEqual(6);
    const all = selectEdges(holes.flatMap((hole) => hole.halves.map((h) => h >> 1)));
    const { cage: filled, selection } = run('quad-grid', cage, all);
    expect(borderLoops(filled)).toHaveLength(0);
    expect(selection.faces.every((f) => filled.faceSize(f) <= 4)).toBe(true);
  });
});
