import { describe, expect, it } from 'vitest';
import { soaks } from '../../../testing/amount.ts';
import { deviation } from '../../check/measures.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { faceMiddle } from '../../mesh/normals.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { borderLoops, faceSizes, genus, islands } from '../../mesh/topology.ts';
import { areaVector, leastSine, length, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { denseSphere, halfShell, longLimbed, thinPlate, wedge } from '../../shapes/sample-surfaces.ts';
import { Subdivision } from '../../subdivide/subdivision.ts';
import { autoQuads } from '../auto-quads.ts';
import { AutoQuadsError } from '../base/options.ts';
import { areaToLay } from './area-to-lay.ts';
import { layBeside, middlesOf } from './lay-beside.ts';

/** Quads over a surface without those whose corners all lie in a place. */
function without(surface: PolygonMesh, count: number, isGone: (p: Triple) => boolean) {
  const kept = Cage.fromPolygons(autoQuads(surface, { count }).mesh);
  const gone = [...kept.faces()].filter((f) => kept.faceVertices(f).every((v) => isGone(kept.position(v))));
  const places = middlesOf(kept, gone);
  replaceFaces(kept, { gone, added: [] });
  return { kept, gone: gone.length, places };
}

/** Faces as they are reached one after the other across edges, from the one nearest to a place. */
function grownFrom(cage: Cage, start: Triple, count: number): number[] {
  const off = (f: number) => length(subtract(faceMiddle(cage, f), start));
  const found = new Set([[...cage.faces()].reduce((a, b) => (off(b) < off(a) ? b : a))]);
  for (const f of found)
    for (const h of cage.loopOf(cage.faceEdge[f])) if (found.size < count && cage.face[h ^ 1] !== NONE) found.add(cage.face[h ^ 1]);
  return [...found];
}

/** What must hold of every result: quads alone, nothing kept has moved, and no new quad has a corner sharper than asked. */
function checked(kept: Cage, { cage, faces }: { cage: Cage; faces: number[] }, least: number) {
  assertValid(cage);
  expect(faceSizes(cage)).toMatchObject({ triangles: 0, ngons: 0 });
  for (const f of kept.faces()) expect(cage.faceVertices(f)).toEqual(kept.faceVertices(f));
  for (const v of kept.vertices()) expect(cage.position(v)).toEqual(kept.position(v));
  const worst = faces.map((f) => cage.faceVertices(f).map((v) => cage.position(v))).map((p) => leastSine(p, unit(areaVector(p))));
  expect(Math.min(...worst)).toBeGreaterThan(least);
}

/** Length of all creases, mm. */
const sharpLength = (cage: Cage): number =>
  [...cage.edges()].filter((e) => cage.value('crease', e) > 0).reduce((sum, e) => sum + cage.edgeLength(e), 0);

/** The faces of a strip round a limb: from one near a place across opposite edges, the way that comes back sooner. */
function limbRing(cage: Cage, near: Triple): number[] {
  const [start] = grownFrom(cage, near, 1);
  const ways = [cage.faceEdge[start], cage.next[cage.faceEdge[start]]].map((first) => {
    const ring: number[] = [];
    for (let h = first; ring.length === 0 || cage.face[h] !== start; h = cage.next[cage.next[h]] ^ 1) ring.push(cage.face[h]);
    return ring;
  });
  return ways.reduce((a, b) => (b.length < a.length ? b : a));
}

describe('an area to lay again', () => {
  const block = Cage.fromPolygons(autoQuads(thinPlate(30), { count: 400 }).mesh);
  const top = [...block.faces()].filter((f) => block.faceVertices(f).every((v) => block.position(v)[2] > 14.99));
  const isTop = new Set(top);
  /** faces beside the top, across a sharp edge */
  const beside = [...block.faces()].filter(
    (f) => !isTop.has(f) && block.loopOf(block.faceEdge[f]).some((h) => block.face[h ^ 1] !== NONE && isTop.has(block.face[h ^ 1]))
  );

  it('ends at sharp edges where its outline runs along them', () => {
    expect(areaToLay(block, top).sort((a, b) => a - b)).toEqual(top);
  });

  it('crosses a sharp edge that its outline runs along for an edge alone', () => {
    // away from the corners
    const off = (f: number) => length(subtract(faceMiddle(block, f), [20, 0, 15]));
    const one = beside.reduce((a, b) => (off(b) < off(a) ? b : a));
    expect(areaToLay(block, [one]).filter((f) => isTop.has(f))).toHaveLength(1);
  });

  it('is wider where quads that stay would come within a quad of each other, but for a ring that is as narrow all round', () => {
    const places = new Map(top.map((f) => [f, faceMiddle(block, f)]));
    const columns = [...new Set([...places.values()].map(([x]) => Math.round(x)))].sort((a, b) => a - b);
    const between = columns[Math.floor(columns.length / 2)];
    // two strips that one column of quads joins
    const picked = top.filter((f) => Math.abs(places.get(f)![1]) >= 8 || Math.abs(places.get(f)![0] - between) < 1);
    const taken = new Set(areaToLay(block, picked));
    const left = top.filter((f) => !taken.has(f) && Math.abs(places.get(f)![1]) < 6).map((f) => Math.abs(places.get(f)![0] - between));
    expect(left.length).toBeGreaterThan(0);
    const width = columns[1] - columns[0];
    expect(Math.min(...left)).toBeGreaterThan(1.5 * width);

    const limb = Cage.fromPolygons(autoQuads(longLimbed(), { count: 1500 }).mesh);
    const ring = limbRing(limb, [30, 40, 0]);
    expect(areaToLay(limb, ring)).toHaveLength(ring.length);
  });

  it('takes whole rows of quads across a wall that is a few of them wide', () => {
    const plate = Cage.fromPolygons(autoQuads(thinPlate(1.2), { count: 1600 }).mesh);
    const rim = [...plate.faces()].filter((f) => plate.faceVertices(f).every((v) => plate.position(v)[2] > 14.99));
    const one = rim.find((f) => Math.abs(faceMiddle(plate, f)[0]) < 2)!;
    const taken = areaToLay(plate, [one]);
    const across = taken.filter((f) => rim.includes(f)).map((f) => faceMiddle(plate, f));
    expect(across.length).toBeGreaterThan(1);
    for (const [x] of across) expect(x).toBeCloseTo(across[0][0], 1);
  });

  it('takes out the few faces that would be left as islands among those taken out', () => {
    const cage = Cage.fromPolygons(autoQuads(denseSphere(50), { count: 600 }).mesh);
    const cap = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[0] > 5));
    const ringed = cap.filter((f) => !cage.faceVertices(f).every((v) => cage.position(v)[0] > 18.5));
    expect(ringed.length).toBeLessThan(cap.length);
    expect(areaToLay(cage, ringed).sort((a, b) => a - b)).toEqual(cap);
    expect(areaToLay(cage, cap)).toEqual(cap);
  });
});

describe('laying quads beside others', () => {
  const sphere = denseSphere(50);

  it.each([0.5, 1, 2])('lays an area again with %s times as many quads, and joins it by quads alone', (times) => {
    const { kept, gone, places } = without(sphere, 1200, ([x]) => x > 9);
    const laid = layBeside(sphere, kept, { count: Math.round(times * gone) }, places);
    checked(kept, laid, 0.2);
    expect([borderLoops(laid.cage).length, genus(laid.cage), islands(laid.cage).count]).toEqual([0, 0, 1]);
    // a border of the kept size keeps coarser quads from being as few
    expect(laid.faces.length / gone / times).toBeGreaterThan(0.85);
    expect(laid.faces.length / gone / times).toBeLessThan(times < 1 ? 1.5 : 1.15);
    const surface = new Subdivision(laid.cage.toPolygons(), { levels: 1, limit: true });
    expect(deviation(new Reference(sphere), surface.evaluate(laid.cage.toPolygons().positions)).most).toBeLessThan(0.05);
  });

  it('mends what a row of quads along an outline in steps leaves turned over or straight at a corner', () => {
    const surface = denseSphere(30);
    const quads = autoQuads(surface, { count: 640 }).mesh;
    for (const [start, times] of [
      [[20, 3, 1], 0.45],
      [[20, 3, 1], 1.6]
    ] as [Triple, number][]) {
      const kept = Cage.fromPolygons(quads);
      const gone = grownFrom(kept, start, 220);
      const places = middlesOf(kept, gone);
      replaceFaces(kept, { gone, added: [] });
      const laid = layBeside(surface, kept, { count: Math.round(times * gone.length) }, places);
      checked(kept, laid, 0.1);
      expect([borderLoops(laid.cage).length, genus(laid.cage)]).toEqual([0, 0]);
    }
  });

  it.each([
    ['wedge of 30 degrees', wedge(30), [30, 30, 2], 80],
    ['wedge of 45 degrees', wedge(45), [5, 1, 13], 80],
    ['thin plate', thinPlate(1.2), [20, 5, 15], 80]
  ] as [string, PolygonMesh, Triple, number][])('keeps the sharp edges that run through an area whole: %s', (_, surface, start, count) => {
    const kept = Cage.fromPolygons(autoQuads(surface, { count: 250 }).mesh);
    const before = sharpLength(kept);
    const gone = areaToLay(kept, grownFrom(kept, start, 62));
    const places = middlesOf(kept, gone);
    replaceFaces(kept, { gone, added: [] });
    expect(sharpLength(kept)).toBeLessThan(0.95 * before);
    const laid = layBeside(surface, kept, { count }, places);
    checked(kept, laid, 0.1);
    expect(borderLoops(laid.cage)).toHaveLength(0);
    expect(sharpLength(laid.cage)).toBeCloseTo(before, 6);
    expect(laid.notes.join(' ')).not.toMatch(/that no edges of quads follow/);
    const limit = new Subdivision(laid.cage.toPolygons(), { levels: 1, limit: true }).evaluate(laid.cage.toPolygons().positions);
    expect(deviation(new Reference(surface), limit).most).toBeLessThan(1e-6);
  });

  it.runIf(soaks)('tells how much of sharp edges quads do not follow that are too coarse for it', () => {
    const surface = wedge(30);
    const kept = Cage.fromPolygons(autoQuads(surface, { count: 250 }).mesh);
    const before = sharpLength(kept);
    const gone = grownFrom(kept, [40, 10, 10], 62);
    const places = middlesOf(kept, gone);
    replaceFaces(kept, { gone, added: [] });
    const laid = layBeside(surface, kept, { count: 31 }, places);
    const told = Number(/follow there: ([\d.]+) mm/.exec(laid.notes.join(' '))?.[1]);
    expect(told).toBeGreaterThan(0.6 * (before - sharpLength(laid.cage)));
    expect(told).toBeLessThan(1.6 * (before - sharpLength(laid.cage)));
  });

  it('fills what has no room for a row of quads from its open edges', () => {
    const kept = Cage.fromPolygons(autoQuads(sphere, { count: 640 }).mesh);
    const gone = grownFrom(kept, [20, 3, 1], 9);
    const places = middlesOf(kept, gone);
    replaceFaces(kept, { gone, added: [] });
    const laid = layBeside(sphere, kept, { count: 24 }, places);
    checked(kept, laid, 0.3);
    expect(borderLoops(laid.cage)).toHaveLength(0);
  });

  it('takes a range of counts for an area as for a whole surface', () => {
    const { kept, gone, places } = without(sphere, 1200, ([x]) => x > 9);
    const laid = layBeside(sphere, kept, { countRange: { fewest: gone, most: Math.round(1.6 * gone) } }, places);
    checked(kept, laid, 0.2);
    expect(laid.faces.length / gone).toBeGreaterThan(0.9);
    expect(laid.faces.length / gone).toBeLessThan(1.7);
  });

  it('joins a piece of a limb at both its ends, and a piece that reaches the border of the surface', () => {
    const figure = longLimbed();
    const arm = without(figure, 2500, ([x, y]) => x > 20 && x < 36 && y > 30);
    expect(borderLoops(arm.kept)).toHaveLength(2);
    const laid = layBeside(figure, arm.kept, { count: arm.gone }, arm.places);
    checked(arm.kept, laid, 0);
    expect([borderLoops(laid.cage).length, islands(laid.cage).count]).toEqual([0, 1]);

    const shell = halfShell(60);
    const side = without(shell, 1500, ([x, y]) => x > 5 && y < 20);
    const again = layBeside(shell, side.kept, { count: side.gone }, side.places);
    checked(side.kept, again, 0);
    expect(borderLoops(again.cage)).toHaveLength(1);
  });

  it('fills up to quads that were laid by hand, however little of the surface they cover', () => {
    const { kept } = without(sphere, 1200, ([x, y, z]) => x < 0 || Math.max(Math.abs(y), Math.abs(z)) > 8);
    const laid = layBeside(sphere, kept, { count: 1000 });
    checked(kept, laid, 0.1);
    expect([borderLoops(laid.cage).length, islands(laid.cage).count]).toEqual([0, 1]);
  });

  it('says where there is nothing to lay quads beside, and where nothing is bare', () => {
    const { kept, places } = without(sphere, 600, ([x]) => x > 12);
    const whole = Cage.fromPolygons(autoQuads(sphere, { count: 600 }).mesh);
    expect(() => layBeside(sphere, whole, { count: 100 }, places)).toThrow(/no open edges/);
    expect(() => layBeside(sphere, kept, { count: 100 }, [[-20, 0, 0]])).toThrow(AutoQuadsError);
    expect(() => layBeside(sphere, kept, { count: 100 }, [[-20, 0, 0]])).toThrow(/No uncovered area/);
  });
});
