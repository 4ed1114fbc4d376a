import { describe, expect, it } from 'vitest';
import { faceQuality } from '../../../testing/face-quality.ts';
import { testHoles, without } from '../../../testing/holes.ts';
import { cube, run, sizes } from '../../../testing/run-operation.ts';
import { quadGrid } from './caps.ts';
import { holesOf, type Hole } from '../../fill/hole.ts';
import { bestGridPlace } from '../../fill/quad-grid.ts';
import { Cage } from '../../mesh/cage.ts';
import { joinCages } from '../../mesh/join-cages.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { polygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops, eulerCharacteristic, isPole } from '../../mesh/topology.ts';
import { cross, subtract } from '../../numeric/vectors.ts';
import { emptySelection, selectEdges } from '../../select/selection.ts';
import { channelBuoy } from '../../shapes/channel-buoy.ts';
import { cylinder, plane, quadSphere } from '../../shapes/start-shapes.ts';
import { bringIn } from '../../formats/bring-in.ts';
import { writeMesh } from '../../formats/registry.ts';
import { obj } from '../../formats/obj.ts';

const sheet = (n: number) => Cage.fromPolygons(plane(n, n, n, n));
/** The hole inside, not the sheet's own rim. */
const inner = (cage: Cage) => holesOf(cage).sort((a, b) => a.length - b.length)[0];
const edgesOf = (hole: Hole) => selectEdges(hole.halves.map((h) => h >> 1));

describe('quad grid', () => {
  it('gives back the quads that were taken out of a sheet', () => {
    const cage = without(sheet(8), ([x, , z]) => Math.abs(x) < 2 && Math.abs(z) < 3);
    const { cage: filled, selection } = run('quad-grid', cage, edgesOf(inner(cage)));
    expect([selection.faces.length, filled.faceCount, sizes(filled)[1]]).toEqual([24, 64, 64]);
    expect([...filled.vertices()].filter((v) => !filled.isBorderVertex(v) && isPole(filled, v))).toEqual([]);
    expect(faceQuality(filled, selection.faces).worst).toBeGreaterThan(0.999);
  });

  it('of a border of two thousand edges is refused at once, with what closes it', () => {
    const cage = Cage.fromPolygons(cylinder(100, 5, 2000, 1, false));
    const [rim] = holesOf(cage);
    for (const id of ['quad-grid', 'ring-cap'])
      expect(() => run(id, cage, edgesOf(rim))).toThrow(/2,000 edges: a grid in it would have about 250,000 quads\. Close it with a one-face cap/);
    expect(run('one-face-cap', cage, edgesOf(rim)).selection.faces).toHaveLength(1);
  });

  it('of a long ragged border ends, with quads alone that are not folded', () => {
    const rough = Cage.fromPolygons(cylinder(60, 5, 300, 1, false));
    for (const v of rough.vertices()) if (v % 3 === 0) rough.positions[3 * v + 1] += 0.4 * Math.sin(7 * v);
    const { cage, selection } = run('quad-grid', rough, edgesOf(holesOf(rough)[0]));
    expect(selection.faces.every((f) => cage.faceSize(f) === 4)).toBe(true);
    expect(faceQuality(cage, selection.faces).worst).toBeGreaterThan(0);
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

  it('takes swell from flat to the curvature around', () => {
    const cage = without(Cage.fromPolygons(quadSphere(10, 16)), ([, y]) => y > 10 * Math.SQRT1_2);
    const top = (swell: number) => {
      const { cage: filled, selection } = run('quad-grid', cage, emptySelection(), { swell });
      return Math.max(...selection.faces.flatMap((f) => filled.faceVertices(f)).map((v) => filled.position(v)[1]));
    };
    expect([top(0) < 8, top(1) > 9.7, top(0.5) > top(0) + 0.5, top(0.5) < top(1) - 0.5]).toEqual([true, true, true, true]);
  });

  describe('of an odd border', () => {
    /** A sheet with a square hole whose border lost an edge: a triangle beside it keeps the part even in all. */
    const odd = () => {
      const cage = without(sheet(8), ([x, , z]) => Math.abs(x) < 2 && Math.abs(z) < 2);
      return run('collapse', cage, selectEdges([inner(cage).halves[5] >> 1])).cage;
    };
    const triangles = (cage: Cage) => sizes(cage)[0];
    const ways = (cage: Cage) => quadGrid.proposals!(cage, edgesOf(inner(cage)));

    it('proposes each way with its cost', () => {
      expect(ways(odd()).map(({ label, cost }) => `${label}: ${cost}`)).toEqual([
        'Leave one triangle where it is flattest: a triangle more',
        expect.stringMatching(/^Run a strip to its odd partner: across 1 face with 1 turn to the triangle at .* mm: 2 poles more$/),
        expect.stringMatching(/^Weld two neighbours: 1.00 mm closed: the quad beside becomes a triangle$/)
      ]);
      const even = without(sheet(8), ([x, , z]) => Math.abs(x) < 2 && Math.abs(z) < 2);
      expect(ways(even)).toEqual([]);
    });

    it('leaves one triangle inside or, welded, outside, and none where a strip takes the odd face with it', () => {
      const cage = odd();
      for (const [way, left] of [
        ['triangle', 2],
        ['strip', 0],
        ['weld', 2]
      ] as const) {
        const { cage: filled } = run('quad-grid', cage, edgesOf(inner(cage)), { odd: way });
        expect([way, triangles(filled), sizes(filled)[2], eulerCharacteristic(filled), borderLoops(filled).length]).toEqual([way, left, 0, 1, 1]);
      }
    });

    it('runs the strip to another odd border, round corners where there is no straight way', () => {
      const tube = Cage.fromPolygons(cylinder(5, 10, 9, 5, false));
      const straight = holesOf(tube)[0];
      expect(quadGrid.proposals!(tube, edgesOf(straight))[1].cost).toMatch(/^across 5 faces to the border at/);
      // rows two and four keep a face each, on different sides
      const column = ([x, , z]: number[]) => Math.floor(((Math.atan2(z, x) + 2 * Math.PI) % (2 * Math.PI)) / ((2 * Math.PI) / 9));
      const row = (y: number) => Math.round((y + 4) / 2);
      const winding = without(tube, (c) => (row(c[1]) === 1 && column(c) !== 0) || (row(c[1]) === 3 && column(c) !== 3));
      const end = holesOf(winding).find(({ vertices }) => vertices.length === 9)!;
      expect(quadGrid.proposals!(winding, edgesOf(end))[1].cost).toMatch(/^across 8 faces with 2 turns to the border at .*: 4 poles more$/);
      const { cage: filled, notes, selection } = run('quad-grid', winding, edgesOf(end), { odd: 'strip' });
      expect([sizes(filled)[0], sizes(filled)[2], selection.edges.length]).toEqual([0, 0, 10]);
      expect(holesOf(filled).map(({ vertices }) => vertices.length % 2)).toEqual([0, 0, 0]);
      expect(notes.join(' ')).toMatch(/9 edges.*A strip was run across 8 faces with 2 turns/);
    });
  });

  it('fills holes of every kind and even count with quads of good shape, few poles, and nothing turned over', () => {
    for (const { kind, convex, cage } of testHoles()) {
      const hole = inner(cage);
      const n = hole.vertices.length;
      const { cage: filled, selection } = run('quad-grid', cage, edgesOf(hole), { swell: 1, goOn: kind === 'box corner' ? 'panels' : 'surface' });
      const { worst, mean } = faceQuality(filled, selection.faces);
      const rim = new Set(hole.vertices);
      const poles = new Set(selection.faces.flatMap((f) => filled.faceVertices(f)).filter((v) => !rim.has(v) && filled.valence(v) !== 4)).size;
      // eight edges round a saddle leave no room for more
      const [least, middle] = kind === 'saddle' && n === 8 ? [0.6, 0.7] : convex ? [0.3, 0.75] : [0.05, 0.6];
      expect({ kind, n, worst: worst >= least, mean: mean >= middle }).toEqual({ kind, n, worst: true, mean: true });
      expect([kind, n, selection.faces.filter((f) => filled.faceSize(f) !== 4).length]).toEqual([kind, n, n % 2]);
      if (kind.startsWith('side') || kind === 'rectangle') expect([kind, n, poles]).toEqual([kind, n, 0]);
      if (convex) expect([kind, n, poles <= 4]).toEqual([kind, n, true]);
    }
  });

  it('continues a sphere or cylinder in holes of up to a quarter turn within 2 % of the hole', () => {
    const off = (cage: Cage, from: (p: number[]) => number) => {
      const hole = inner(cage);
      const { cage: filled, selection } = run('quad-grid', cage, edgesOf(hole), { swell: 1 });
      const places = selection.faces.flatMap((f) => filled.faceVertices(f)).map((v) => filled.position(v));
      return Math.max(...places.map((p) => Math.abs(from(p) - 10))) / (hole.length / Math.PI);
    };
    for (const n of [8, 12, 16, 32]) {
      const ball = Cage.fromPolygons(quadSphere(10, n));
      const radius = (p: number[]) => Math.hypot(...p);
      expect([
        n,
        'ragged',
        off(
          without(ball, ([, y]) => y > 10 * Math.SQRT1_2),
          radius
        ) < 0.02
      ]).toEqual([n, 'ragged', true]);
      expect([
        n,
        'octant',
        off(
          without(ball, ([x, y, z]) => Math.min(x, y, z) > 0),
          radius
        ) < 0.02
      ]).toEqual([n, 'octant', true]);
      const tube = Cage.fromPolygons(cylinder(10, 60, 8 * n, 4 * n, false));
      const side = without(tube, ([x, y, z]) => z > 0 && Math.abs(x) < z && Math.abs(y) < 6);
      expect([n, 'tube', off(side, ([x, , z]) => Math.hypot(x, z)) < 0.02]).toEqual([n, 'tube', true]);
    }
  });

  it('closes a recessed box corner sharply, with the crease of the edges that lead to it', () => {
    const box = cube(6);
    const onEdge = (e: number) => [0, 1].every((k) => box.position(box.origin[2 * e + k]).filter((x) => Math.abs(x) === 5).length > 1);
    for (const e of box.edges()) if (onEdge(e)) box.setValue('crease', e, 3);
    const cage = without(box, ([x, y, z]) => Math.min(x, y, z) > 0);
    const { cage: filled, selection } = run('quad-grid', cage, emptySelection(), { goOn: 'panels' });
    expect([selection.faces.length, sizes(filled)[1], filled.faceCount]).toEqual([27, 216, 216]);
    // the very corner is back, and all places are on the box
    expect(Math.min(...[...filled.vertices()].map((v) => Math.hypot(...filled.position(v).map((x) => x - 5))))).toBeLessThan(0.01);
    for (const v of filled.vertices()) expect(Math.max(...filled.position(v).map(Math.abs))).toBeCloseTo(5, 2);
    const creased = [...filled.edges()].filter((e) => filled.value('crease', e) === 3);
    expect(creased).toHaveLength(12 * 6);
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

  it('refuse borders that touch themselves or lie folded flat, with the place and the step that helps', () => {
    const cage = without(sheet(8), ([x, , z]) => Math.abs(x) < 2 && Math.abs(z) < 2);
    const hole = inner(cage);
    const touching = cage.clone();
    touching.positions.set(touching.position(hole.vertices[9]), 3 * hole.vertices[2]);
    const flat = cage.clone();
    for (const v of hole.vertices) flat.positions[3 * v] = 0.001 * flat.positions[3 * v];
    for (const id of ['quad-grid', 'ring-cap', 'triangle-cap', 'one-face-cap']) {
      expect(() => run(id, touching, edgesOf(hole))).toThrow(/of 16 edges touches itself: two of its vertices lie at .* mm\. Weld the two/);
      expect(() => run(id, flat, edgesOf(hole))).toThrow(/of 16 edges lies folded flat: it encloses no area\. Close it with Zip/);
    }
  });
});
