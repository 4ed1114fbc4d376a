import { describe, expect, it } from 'vitest';
import { assertValid } from '../mesh/assert-valid.ts';
import { Cage } from '../mesh/cage.ts';
import { applyOperation } from '../operations/apply.ts';
import { type Params } from '../operations/operation.ts';
import { duplicate } from '../operations/build/duplicate.ts';
import { thinOut } from '../operations/flow/thin-out.ts';
import { cylinder, plane, torus } from '../shapes/start-shapes.ts';
import { pathBetween, shortestFacePath, shortestPath } from './paths.ts';
import { converted, inverted, selectEdges, selectFaces, selectVertices } from './selection.ts';
import { everyNthLoop, thinnedOut } from './every-nth-loop.ts';

describe('shortest paths', () => {
  const sheet = Cage.fromPolygons(plane(5, 5, 5, 5));
  it('go along edges and across faces', () => {
    const path = shortestPath(sheet, 0, 35)!;
    expect(path).toHaveLength(10);
    expect(path.reduce((sum, e) => sum + sheet.edgeLength(e), 0)).toBeCloseTo(10);
    expect(shortestFacePath(sheet, 0, 24)).toHaveLength(9);
    expect(shortestPath(sheet, 3, 3)).toEqual([]);
    expect(pathBetween(sheet, selectFaces([0]), selectFaces([4]))!.faces).toEqual([0, 1, 2, 3, 4]);
  });
  it('find none to another island', () => {
    const lone = sheet.clone();
    expect(shortestPath(lone, 0, lone.addVertex(9, 9, 9))).toBeUndefined();
  });
});

describe('inverting and converting', () => {
  const sheet = Cage.fromPolygons(plane(3, 3, 3, 3));
  it('stay within the kinds that are selected', () => {
    expect(inverted(sheet, selectFaces([4])).faces).toHaveLength(8);
    expect(inverted(sheet, selectEdges([])).faces).toHaveLength(9);
    expect(converted(sheet, selectFaces([4]), 'edge').edges).toHaveLength(4);
    expect(converted(sheet, selectVertices(sheet.faceVertices(4)), 'face').faces).toEqual([4]);
  });
});

describe('thin out', () => {
  it('halves the sides of a tube and keeps both rims', () => {
    const tube = Cage.fromPolygons(cylinder(10, 40, 84, 6, false));
    const along = tube.findHalfEdge(0, 84) >> 1;
    const across = tube.findHalfEdge(84, 85) >> 1;
    const { cage } = applyOperation(thinOut, tube, selectEdges([along]), {});
    assertValid(cage);
    expect(cage.faceCount).toBe(42 * 6);
    // the other way: rows of quads, of which the border loops stay
    const rows = applyOperation(thinOut, tube, selectEdges([across]), { every: 3 }).cage;
    assertValid(rows);
    expect([...rows.faces()].every((f) => rows.faceSize(f) === 4)).toBe(true);
  });
  it('knows rims round caps, evens out beside a rim, and can leave rims all their vertices', () => {
    const capped = Cage.fromPolygons(cylinder(5, 30, 12, 9, true));
    const rung = capped.findHalfEdge(12, 13) >> 1;
    const rows = (params: Params) => {
      const { cage } = applyOperation(thinOut, capped, selectEdges([rung]), params);
      assertValid(cage);
      return [...new Set([...cage.vertices()].map((v) => Math.round((cage.position(v)[1] + 15) / (30 / 9))))].sort((a, b) => a - b);
    };
    expect(rows({ every: 2 })).toEqual([0, 1, 3, 5, 7, 9]);
    expect(rows({ every: 2, evenAtRims: true })).toEqual([0, 3, 5, 7, 9]);
    const tubes = applyOperation(duplicate, Cage.fromPolygons(cylinder(5, 30, 84, 1, false)), selectEdges([]), { x: 20 }).cage;
    const upright = [...tubes.edges()].filter((e) => tubes.edgeLength(e) > 29);
    const along = [upright[0], upright[84]];
    const { cage: both } = applyOperation(thinOut, tubes, selectEdges(along), { rimVertices: true });
    assertValid(both);
    expect([both.faceCount, both.vertexCount]).toEqual([84, 336]);
    expect(applyOperation(thinOut, tubes, selectEdges(along), {}).cage.vertexCount).toBe(168);
  });
  it('counts from the picked loop on, with a phase', () => {
    const ring = Cage.fromPolygons(torus(10, 2, 12, 8));
    const e = ring.findHalfEdge(0, 1) >> 1;
    const kept = (phase: number) => {
      const gone = new Set(thinnedOut(ring, [e], { every: 4, phase, keepRims: false }));
      return [...Array(12).keys()].filter((i) => !gone.has(ring.findHalfEdge(8 * i, 8 * i + 1) >> 1));
    };
    expect(kept(0)).toEqual([0, 4, 8]);
    expect(kept(1)).not.toEqual(kept(0));
    expect(kept(1)).toHaveLength(3);
    // the same numbering as a selection
    const picked = new Set(everyNthLoop(ring, [e], { every: 4, phase: 0, keepRims: false }));
    expect([...Array(12).keys()].filter((i) => picked.has(ring.findHalfEdge(8 * i, 8 * i + 1) >> 1))).toEqual([0, 4, 8]);
    expect(picked.size).toBe(3 * 8);
  });
});
