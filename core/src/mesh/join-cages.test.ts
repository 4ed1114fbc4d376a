import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage, steps, takeStep } from '../../testing/random-meshes.ts';
import { assertValid } from './assert-valid.ts';
import { type Cage } from './cage.ts';
import { changedHalves, changedValues, movedVertices, touchedVertices } from './difference.ts';
import { NONE } from './half-edges.ts';
import { cageOfFaces, joinCages } from './join-cages.ts';
import { islands } from './topology.ts';

/** Sharpness, regions, texture coordinates and colours that tell elements from each other. */
function marked(cage: Cage, names: string[]): Cage {
  cage.regionNames = names;
  for (const f of cage.faces()) cage.setValue('region', f, f % names.length);
  for (const e of cage.edges()) if (e % 3 === 0) cage.setValue('crease', e, 1 + (e % 5));
  for (const v of cage.vertices()) {
    if (v % 4 === 0) cage.setValue('corner', v, 2 + (v % 3));
    cage.layer('colour').data.set([v / 100, 0.5, 0.25], 3 * v);
  }
  for (const f of cage.faces()) for (const h of cage.loopOf(cage.faceEdge[f])) cage.layer('uv').data.set([h / 1000, f / 1000], 2 * h);
  return cage;
}

/** What a face looks like with its marks, from its corner that comes first by place. */
function portrait(cage: Cage, f: number): string {
  const corners = cage.loopOf(cage.faceEdge[f]).map((h) => {
    const v = cage.origin[h];
    const marks = [cage.value('crease', h >> 1), cage.value('corner', v), ...cage.layer('colour').data.subarray(3 * v, 3 * v + 3)];
    return [...cage.position(v), ...marks, ...cage.layer('uv').data.subarray(2 * h, 2 * h + 2)].map((x) => x.toFixed(6)).join(' ');
  });
  const first = corners.indexOf([...corners].sort()[0]);
  return [cage.regionNames[cage.value('region', f)], ...corners.slice(first), ...corners.slice(0, first)].join(' | ');
}
const portraits = (cage: Cage): string[] => [...cage.faces()].map((f) => portrait(cage, f)).sort();

describe('cages put together', () => {
  it('keep every face of both with its marks, and regions of one name become one', () => {
    fc.assert(
      fc.property(anyCage, anyCage, (a, b) => {
        const [first, other] = [marked(a, ['deck', 'rail']), marked(b, ['rail', 'horn', 'cap'])];
        const before = [...portraits(first), ...portraits(other)].sort();
        const { cage, vertexOf, faceOf } = joinCages(first, other);
        assertValid(cage);
        expect(portraits(cage)).toEqual(before);
        expect(cage.regionNames.filter((name) => name === 'rail').length).toBe(1);
        expect(islands(cage).count).toBe(islands(first).count + islands(other).count);
        // those of the first are where they were, those of the other where it is told
        for (const f of first.faces()) expect(portrait(cage, f)).toBe(portrait(first, f));
        for (const [f, g] of faceOf) expect(portrait(cage, g)).toBe(portrait(other, f));
        for (const [v, w] of vertexOf) expect(cage.position(w)).toEqual(other.position(v));
      }),
      { numRuns: 40 }
    );
  });

  it('some faces make a cage of their own, with their marks', () => {
    fc.assert(
      fc.property(anyCage, fc.integer({ min: 2, max: 4 }), (any, share) => {
        const from = marked(any, ['deck', 'rail']);
        const picked = [...from.faces()].filter((f) => f % share === 0);
        const { cage, vertexOf } = cageOfFaces(from, picked);
        assertValid(cage);
        // where faces met in nothing but a corner each has its own: marks of vertices are those of one
        expect([...cage.faces()].length).toBe(picked.length);
        expect(cage.regionNames.length === 0 || picked.length > 0).toBe(true);
        const places = (of: Cage, faces: Iterable<number>) =>
          [...faces]
            .map((f) =>
              of
                .faceVertices(f)
                .map((v) => of.position(v).join())
                .sort()
                .join(' ')
            )
            .sort();
        expect(places(cage, cage.faces())).toEqual(places(from, picked));
        for (const [v, w] of vertexOf) expect(cage.value('corner', w)).toBe(from.value('corner', v));
      }),
      { numRuns: 40 }
    );
  });
});

describe('what differs between two cages', () => {
  it('is nothing between a cage and its copy', () => {
    fc.assert(
      fc.property(anyCage, (cage) => {
        const copy = cage.clone();
        expect([changedHalves(cage, copy), movedVertices(cage, copy), changedValues(cage, copy, 'crease')]).toEqual([[], [], []]);
      }),
      { numRuns: 20 }
    );
  });

  it('leaves out only vertices round which all is as it was', () => {
    fc.assert(
      fc.property(anyCage, steps(4), fc.nat(1000), (before, list, at) => {
        const now = before.clone();
        for (const step of list) takeStep(now, step);
        const all = [...now.vertices()];
        const moved = all[at % all.length];
        now.positions[3 * moved + 1] += 1;
        const touched = touchedVertices(before, now);
        expect(touched.now).toContain(moved);
        const beside = (cage: Cage, v: number) => new Set(cage.spokes(v).map((h) => cage.target(h)));
        const [was, is] = [new Set(touched.before), new Set(touched.now)];
        for (const v of now.vertices()) {
          if (is.has(v) || now.vertexEdge[v] === NONE) continue;
          expect(was.has(v)).toBe(false);
          expect(now.position(v)).toEqual(before.position(v));
          expect(beside(now, v)).toEqual(beside(before, v));
        }
      }),
      { numRuns: 60 }
    );
  });

  it('tells which edges are sharper or less', () => {
    fc.assert(
      fc.property(anyCage, (before) => {
        const now = before.clone();
        const some = [...now.edges()].filter((e) => e % 2 === 0);
        for (const e of some) now.setValue('crease', e, 1.5);
        expect(changedValues(before, now, 'crease')).toEqual(some);
        const again = now.clone();
        for (const e of some.slice(1)) again.setValue('crease', e, 0);
        expect(changedValues(now, again, 'crease')).toEqual(some.slice(1));
      }),
      { numRuns: 20 }
    );
  });
});
