import { benches, box, Cage, measure, plane, type PolygonMesh } from '@ulvrin/core';
import { describe, expect, it } from 'vitest';
import { benchStates, type JobFacts } from './bench-states.ts';

const states = (facts: Partial<JobFacts>) => benchStates({ parts: 0, delivered: [], ...facts });
const lines = (facts: Partial<JobFacts>) => states(facts).map(({ line }) => line);
const of = (mesh: PolygonMesh): Partial<JobFacts> => {
  const cage = Cage.fromPolygons(mesh);
  return { parts: 1, cage, measures: measure(cage) };
};

describe('where a job stands at its benches', () => {
  it('is one line each, also for an empty job', () => {
    expect(lines({})).toEqual(['nothing yet', 'no quads yet', 'no cage yet', 'no creases', 'no cage yet', 'no cage yet', 'no cage yet', 'not yet']);
    expect(lines({})).toHaveLength(benches.length);
  });

  it('tells nothing of a cage that has no faces yet', () => {
    const begun = of({ positions: Float64Array.of(1, 2, 3), faceStart: Int32Array.of(0), faceVertices: new Int32Array(0) });
    expect(lines(begun)).toEqual(['1 part', 'no quads yet', 'no faces yet', 'no creases', 'no faces yet', 'no faces yet', 'no faces yet', 'not yet']);
    expect(states(begun).some(({ tone }, i) => i > 0 && tone !== 'quiet')).toBe(false);
  });

  it('tells what is there, and what asks for a look', () => {
    const closed = of(box({ x: 10, y: 10, z: 10 }, { x: 2, y: 2, z: 2 }));
    closed.cage!.setValue('crease', 3, 4);
    expect(lines({ ...closed, delivered: ['obj', 'usda'] })).toEqual([
      '1 part',
      '24 quads',
      'no n-gons',
      '1 creased',
      'closed',
      'spread 0.00',
      'all quads',
      'usda saved'
    ]);
    const open = of({ ...plane(10, 10, 1, 1), faceStart: Int32Array.of(0, 3), faceVertices: Int32Array.of(0, 1, 2) });
    const found = states(open);
    expect([found[4], found[6]]).toEqual([
      { line: '1 border open', tone: 'quiet' },
      { line: '1 not quads', tone: 'open' }
    ]);
  });

  it('counts a dense reference shortly', () => {
    const faces = 202_000;
    const reference = { faceStart: new Int32Array(faces + 1), faceVertices: new Int32Array(3 * faces), positions: new Float64Array(9) };
    expect(lines({ reference })[0]).toBe('202 k triangles');
  });
});
