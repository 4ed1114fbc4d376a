import { beforeAll, describe, expect, it } from 'vitest';
import { soaks } from '../../testing/amount.ts';
import { sharpEdgesKept } from '../../testing/kept-edges.ts';
import { loopsRound } from '../../testing/loops-round.ts';
import { deviation, measure } from '../check/measures.ts';
import { quadQuality } from '../check/quad-quality.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { Cage } from '../mesh/cage.ts';
import { boundsOf, polygonMesh, type PolygonMesh, newellNormal } from '../mesh/polygon-mesh.ts';
import { repairPolygons } from '../mesh/repair.ts';
import { borderLoops, genus, islands } from '../mesh/topology.ts';
import { worstJacobian } from '../numeric/quad-shape.ts';
import { length, mean, subtract, type Triple } from '../numeric/vectors.ts';
import { Reference } from '../reference/reference.ts';
import { surfacePoint } from '../reference/triangle-bvh.ts';
import { marshNewt, newtLimbs } from '../shapes/marsh-newt.ts';
import {
  longLimbed,
  denseSphere,
  denseTorus,
  doubleRing,
  machinedBlock,
  machinedPart,
  noisyScan,
  thinPlate,
  tripleRing,
  wedge
} from '../shapes/sample-surfaces.ts';
import { box, plane, quadSphere } from '../shapes/start-shapes.ts';
import { loadSolids } from '../solids/engine.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { autoQuads, poorQuads } from './auto-quads.ts';
import { AutoQuadsError, type AutoQuadsOptions } from './base/options.ts';
import { imagesIn } from './symmetry/symmetry.ts';

const clean = (mesh: PolygonMesh) => repairPolygons(mesh, { weld: true }).mesh;

const vertexNear = (mesh: PolygonMesh, x: number, z: number) =>
  [...Array(mesh.positions.length / 3).keys()].find((v) => Math.hypot(mesh.positions[3 * v] - x, mesh.positions[3 * v + 2] - z) < 1e-6)!;

/** Lays quads and checks what must hold for every result. */
function laid(input: PolygonMesh, options: AutoQuadsOptions) {
  const source = clean(input);
  const phases: string[] = [];
  const { mesh, notes } = autoQuads(source, options, { phase: (name) => phases.push(name) });
  const before = Cage.fromPolygons(source);
  const cage = Cage.fromPolygons(mesh);
  assertValid(cage);
  const measures = measure(cage);
  expect(measures.quads).toBe(measures.faces);
  // no two quads share two sides
  expect([...cage.vertices()].filter((v) => !cage.isBorderVertex(v) && cage.valence(v) < 3)).toEqual([]);
  expect([genus(cage), borderLoops(cage).length, islands(cage).count]).toEqual([genus(before), borderLoops(before).length, islands(before).count]);
  const reference = new Reference(source);
  const found = surfacePoint();
  let inverted = 0;
  for (let f = 0; f < measures.faces; f++) {
    const normal = newellNormal(mesh, f, mesh.positions);
    // where the reference is creased, its side is told by the corner that agrees best, or by the middle
    const corners = [0, 1, 2, 3].map((k) => [...mesh.positions.subarray(3 * mesh.faceVertices[4 * f + k], 3 * mesh.faceVertices[4 * f + k] + 3)]);
    const agrees = [...corners, mean(corners)].some(([x, y, z]) => {
      const { triangle } = reference.bvh.closest(x, y, z, found);
      return normal.reduce((sum, n, axis) => sum + n * reference.normals[3 * triangle + axis], 0) > 0;
    });
    if (!agrees) inverted++;
  }
  expect(inverted).toBe(0);
  const { diagonal } = boundsOf(source.positions);
  // what counts is the smooth surface: the cage lies outside it
  const smooth = new Subdivision(mesh, { levels: 1, limit: true });
  const away = deviation(reference, smooth.evaluate(mesh.positions));
  return { mesh, cage, measures, notes, poles: measures.poles.reduce((sum, p) => sum + p.count, 0), away: (100 * away.most) / diagonal, phases };
}

beforeAll(() => loadSolids());

describe('auto quads', () => {
  it('lays an even sphere with few poles', () => {
    const { measures, poles, away } = laid(denseSphere(60), { count: 1500 });
    expect(Math.abs(measures.quads / 1500 - 1)).toBeLessThan(0.06);
    expect(poles).toBeLessThan(30);
    expect(measures.spacing).toBeLessThan(0.2);
    expect(away).toBeLessThan(0.05);
  });

  it('lays a torus without poles', () => {
    expect(laid(denseTorus(120, 48), { count: 1200 }).poles).toBe(0);
  });

  it('keeps the two handles of a double ring', () => {
    const { measures } = laid(doubleRing(1), { count: 2000 });
    expect(measures.corners.least).toBeGreaterThan(20);
  });

  it('goes through noise', () => {
    const { measures, away } = laid(noisyScan(1), { count: 1500 });
    expect(measures.spacing).toBeLessThan(0.35);
    expect(away).toBeLessThan(0.5);
  });

  /** Of the newt's limbs and toes those that no loop of so many quads circles. */
  const notCircled = (cage: Cage, least: number) =>
    newtLimbs().filter(({ from, to, radius }) => !loopsRound(cage, [...from], [...to], radius).some((quads) => quads >= least));

  it('lays the newt: limbs, fingers, crest and mouth', () => {
    const { cage, measures, away } = laid(marshNewt(), { count: 4000 });
    expect(Math.abs(measures.quads / 4000 - 1)).toBeLessThan(0.03);
    expect(measures.corners.least).toBeGreaterThan(35);
    // none is pinched where fingers part
    const edges = [...cage.edges()].map((e) => cage.edgeLength(e));
    expect((Math.min(...edges) * edges.length) / edges.reduce((sum, e) => sum + e, 0)).toBeGreaterThan(0.2);
    // the tips of the crest and of fingers are thinner than a quad
    expect(away).toBeLessThan(0.5);
    expect(notCircled(cage, 6).map(({ name }) => name)).toEqual([]);
  });

  it.runIf(soaks)('lays the newt with quads as wide as a third of its toes are round: loops close round most of them, and all are there', () => {
    const newt = marshNewt(0.5);
    const { cage, mesh, phases } = laid(newt, { count: 1800 });
    expect(notCircled(cage, 4).length).toBeLessThan(8);
    // what the first quads came out poorly at is known before others are fitted
    const fitted = phases.indexOf('Fitting');
    expect(phases.slice(fitted, fitted + 2)).toEqual(['Fitting', 'Map, with more care']);
    const smooth = new Subdivision(mesh, { levels: 1, limit: true }).toPolygons(mesh);
    // a toe is 6 to 8 mm long
    expect(deviation(new Reference(smooth), newt.positions).most).toBeLessThan(2.5);
  });

  it('keeps the edges of a box and the border of a sheet', () => {
    const { mesh, notes, away } = laid(box({ x: 30, y: 20, z: 10 }, { x: 30, y: 20, z: 10 }), { count: 600 });
    expect(notes.join(' ')).toMatch(/sharp edges/);
    // they are creased: the smooth surface keeps them
    expect(away).toBeLessThan(1e-6);
    const onEdge = [0, 1].map(() => 0);
    for (let v = 0; v < mesh.positions.length; v += 3) {
      const sides = [15, 10, 5].filter((half, k) => Math.abs(Math.abs(mesh.positions[v + k]) - half) < 1e-3).length;
      if (sides === 2) onEdge[0]++;
      if (sides === 3) onEdge[1]++;
    }
    expect(onEdge[1]).toBe(8);
    expect(onEdge[0]).toBeGreaterThan(40);
    expect(laid(plane(30, 20, 30, 20), { count: 300 }).poles).toBe(0);
  });

  it('gives a thin plate a whole quad across its rim, and corners sharper than 45 degrees one quad at least', () => {
    const plate = laid(thinPlate(0.3), { count: 800 });
    expect([plate.poles, plate.measures.corners.least > 85]).toEqual([8, true]);
    expect(laid(wedge(40), { count: 800 }).measures.corners.least).toBeGreaterThan(8);
  });

  it.each([
    ['wedge of 15 degrees', wedge(15)],
    ['wedge of 30 degrees', wedge(30)],
    ['lump with three holes', tripleRing()]
  ])('meets the count on a %s, where few whole numbers decide it', (_name, source) => {
    for (const count of [4000, 5000]) expect(Math.abs(laid(source, { count }).measures.faces / count - 1)).toBeLessThanOrEqual(0.015);
  });

  it.each([
    ['ring', denseTorus(120, 48)],
    ['lump with three holes', tripleRing()]
  ])('meets the count of 300 on a %s, on one side of fewer mirrors where many allow few counts', (_name, source) => {
    const { measures, notes } = laid(source, { count: 300 });
    expect(Math.abs(measures.faces / 300 - 1)).toBeLessThanOrEqual(0.03);
    expect(notes.some((note) => note.startsWith('Laid on one side of'))).toBe(true);
  });

  it.each([500, 1200])('lays %i quads over a taper with edges across it as long as those along it in the mean', (count) => {
    const taper = polygonMesh(
      [
        [0, -2, 0],
        [80, -20, 0],
        [80, 20, 0],
        [0, 2, 0]
      ],
      [[0, 1, 2, 3]]
    );
    const cage = Cage.fromPolygons(autoQuads(taper, { count }).mesh);
    const edges = [...cage.edges()].map((e) => subtract(cage.position(cage.origin[2 * e + 1]), cage.position(cage.origin[2 * e])));
    const meanOf = (some: Triple[]) => some.reduce((sum, edge) => sum + length(edge), 0) / some.length;
    const isAcross = ([x, y]: Triple) => Math.abs(y) > Math.abs(x);
    const ratio = meanOf(edges.filter(isAcross)) / meanOf(edges.filter((edge) => !isAcross(edge)));
    expect(Math.abs(ratio - 1)).toBeLessThan(0.1);
  });

  it('leaves a block with a boss and a bore the poles of its field, though few quads fit between the boss and the poles round it', () => {
    for (const count of [3700, 6000]) expect(laid(machinedBlock(), { count }).poles).toBe(16);
  });

  it.each([
    [4, 1200],
    [48, 1200],
    [9, 1200],
    [20, 3000]
  ])('keeps the sharp edges of machined part %i in %i quads, with its quads in shape and its smooth surface on it', (seed, count) => {
    const part = machinedPart(seed);
    const { mesh, away } = laid(part, { count });
    expect(sharpEdgesKept(clean(part), mesh)).toBeGreaterThan(0.995);
    expect(worstJacobian(mesh.positions, mesh.faceVertices)).toBeGreaterThan(0.5);
    expect(away).toBeLessThan(0.55);
  });

  it('leaves no straight corner where faces meet at a few degrees, and would tell of one', () => {
    for (const [degrees, count, least] of [
      [5, 98, 0.2],
      [15, 98, 0.2],
      // too fine for its sharp edges near the tip: they are given up
      [2, 3000, 0.3]
    ]) {
      const { mesh, notes } = autoQuads(wedge(degrees), { count });
      expect([worstJacobian(mesh.positions, mesh.faceVertices) > least, notes.some((note) => note.includes('poorest'))]).toEqual([true, false]);
      expect(notes.some((note) => note.startsWith('Sharp edges left out'))).toBe(count === 3000);
    }
    const sheet = plane(4, 4, 2, 2);
    expect(poorQuads(sheet)).toEqual([]);
    // a corner of the sheet on the line between its neighbours
    sheet.positions.set([-1, 0, -1], 3 * vertexNear(sheet, -2, -2));
    expect(poorQuads(sheet)[0]).toMatch(/straight, turned over or sharper than 6 degrees: 1, the poorest at -?\d/);
  });

  it('refuses no lump where the sides of one of its mirrors join in quads that cannot be: others are taken', () => {
    expect(laid(tripleRing(), { count: 300 }).notes.filter((note) => note.startsWith('Laid on one side'))).toHaveLength(3);
  });

  it('closes rings instead of running on beside itself, on a lump without symmetry', () => {
    const { longest, spirals } = quadQuality(laid(noisyScan(1), { count: 1000 }).cage);
    expect([longest < 500, spirals < 2]).toEqual([true, true]);
  });

  it('keeps creases of the input, and borders between its regions', () => {
    const sheet = plane(20, 20, 10, 10);
    const along = (x: number) => Array.from({ length: 10 }, (_, i) => [2 * i - 10, 2 * i - 8].map((z) => vertexNear(sheet, x, z))).flat();
    const creased = { ...sheet, creaseEdges: Int32Array.from(along(4)), creaseSharpness: new Float64Array(10).fill(2) };
    const { mesh, notes } = autoQuads(creased, { count: 130, symmetry: 'none' });
    expect(notes.join(' ')).toMatch(/10 creased edges and edges between regions/);
    const marked = [...mesh.creaseEdges!];
    expect([marked.length / 2 > 7, marked.every((v) => Math.abs(mesh.positions[3 * v] - 4) < 1e-3), [...new Set(mesh.creaseSharpness)]]).toEqual([
      true,
      true,
      [2]
    ]);
    const onLine = [...Array(mesh.positions.length / 3).keys()].filter((v) => Math.abs(mesh.positions[3 * v] - 4) < 1e-6);
    expect(onLine.length).toBeGreaterThan(8);
  });

  it('fits the smooth surface, not the vertices, to the reference, and mirrors it exactly', () => {
    const source = clean(longLimbed());
    const reference = new Reference(source);
    const [smooth, vertices] = (['smooth', 'vertices'] as const).map((lies) => {
      const { mesh } = autoQuads(source, { count: 1200, lies });
      const surface = new Subdivision(mesh, { levels: 2, limit: true });
      return { mesh, ...deviation(reference, surface.evaluate(mesh.positions)) };
    });
    expect(smooth.mean).toBeLessThan(0.15 * vertices.mean);
    expect(smooth.most).toBeLessThan(0.5 * vertices.most);
    expect(imagesIn({ normal: [1, 0, 0], offset: 0, error: 0 }, smooth.mesh.positions, 1e-9).includes(-1)).toBe(false);
  });

  it('follows edge sizes instead of a count', () => {
    const { measures } = laid(denseSphere(50), { edgeSizes: { finest: 2, coarsest: 2 } });
    expect(measures.edgeLength.mean).toBeGreaterThan(1.6);
    expect(measures.edgeLength.mean).toBeLessThan(2.4);
  });

  it.runIf(soaks)('lays finer quads at tight bends by as much as is asked for, and keeps the count', () => {
    const handsOverTrunk = (finerBy: number) => {
      const { cage, measures } = laid(longLimbed(0.9), { count: 2500, finerBy });
      expect(Math.abs(measures.quads / 2500 - 1)).toBeLessThan(0.03);
      const meanOf = (isThere: (x: number) => boolean) => {
        const edges = [...cage.edges()].filter((e) => isThere(Math.abs(cage.position(cage.origin[2 * e])[0]))).map((e) => cage.edgeLength(e));
        return edges.reduce((sum, e) => sum + e, 0) / edges.length;
      };
      return meanOf((x) => x > 40) / meanOf((x) => x < 8);
    };
    expect(handsOverTrunk(50)).toBeLessThan(0.93 * handsOverTrunk(0));
  });

  it.runIf(soaks)('takes what runs best of a range of counts, and no other count', () => {
    const figure = longLimbed(0.9);
    const judged = (options: AutoQuadsOptions) => {
      const { cage, measures } = laid(figure, options);
      const { longest, spirals } = quadQuality(cage);
      return { count: measures.quads, share: longest / measures.quads, spirals };
    };
    const range = { fewest: 1500, most: 2600 };
    const best = judged({ countRange: range });
    expect(best.count).toBeGreaterThanOrEqual(range.fewest);
    expect(best.count).toBeLessThanOrEqual(range.most);
    // of single counts in it some run worse
    const others = [1500, 2000, 2600].map((count) => judged({ count }));
    expect(best.share).toBeLessThan(Math.max(...others.map(({ share }) => share)));
    expect(judged({ countRange: { fewest: 800, most: 900 } }).count).toBeLessThanOrEqual(900);
  });

  it('gives the same quads for the same input', () => {
    const [a, b] = [1, 2].map(() => autoQuads(clean(noisyScan(1.4)), { count: 800 }).mesh);
    expect(a).toEqual(b);
  });

  it.each([
    ['nothing', polygonMesh([[0, 0, 0]], []), { count: 100 }, /no faces/],
    ['too few quads', quadSphere(1, 4), { count: 3 }, /At least 24/],
    ['edge sizes the wrong way round', quadSphere(1, 4), { edgeSizes: { finest: 3, coarsest: 1 } }, /coarsest/],
    [
      'a range of counts the wrong way round',
      quadSphere(1, 4),
      { countRange: { fewest: 500, most: 400 } },
      /must not be below the fewest; they are 500 and 400/
    ],
    ['a range that begins too low', quadSphere(1, 4), { countRange: { fewest: 2, most: 400 } }, /At least 24 quads.*it was 2\./]
  ])('refuses %s with the reason', (_what, mesh, options, reason) => {
    expect(() => autoQuads(mesh, options)).toThrow(AutoQuadsError);
    expect(() => autoQuads(mesh, options)).toThrow(reason);
  });

  it('tells its phases in order, poles before quads are laid, and all of their edges before they are evened out', () => {
    const told: number[] = [];
    const names: string[] = [];
    let poles = 0;
    let edges: Float32Array | undefined;
    const { mesh } = autoQuads(
      clean(denseSphere(20)),
      { count: 200 },
      {
        phase: (name, fraction) => (told.push(fraction), names.push(name)),
        poles: (all) => (poles ||= told.length < 5 ? all.length : 0),
        edges: (ends) => (edges ??= names.includes('Evening out') ? undefined : ends)
      }
    );
    expect(poles).toBe(8);
    // six numbers an edge, two edges a quad, those of all eight parts between the mirrors
    expect(edges?.length).toBeGreaterThan(0.9 * 12 * (mesh.faceVertices.length / 4));
    for (let i = 0; i < edges!.length; i += 3) expect(Math.abs(Math.hypot(...edges!.subarray(i, i + 3)) - 20)).toBeLessThan(1);
    expect(new Set(Array.from(edges!, Math.sign))).toEqual(new Set([-1, 0, 1]));
    expect(told.length).toBeGreaterThan(5);
    expect(told).toEqual([...told].sort((a, b) => a - b));
    expect(told.at(-1)).toBe(1);
  });
});
