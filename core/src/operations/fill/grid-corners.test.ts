import { describe, expect, it } from 'vitest';
import { without } from '../../../testing/holes.ts';
import { run } from '../../../testing/run-operation.ts';
import { holesOf } from '../../fill/hole.ts';
import { Cage } from '../../mesh/cage.ts';
import { selectEdges } from '../../select/selection.ts';
import { cylinder, plane } from '../../shapes/start-shapes.ts';
import type { Params } from '../operation.ts';
import { quadGrid } from './caps.ts';

const begun = { rows: 0, offset: 0, rim: 'auto', goOn: 'surface', odd: 'triangle', swell: 0 };

/** A panel with a rectangular hole, and a round one, which gets rings first. */
const cases = {
  'a hole of 4 by 6 edges': without(Cage.fromPolygons(plane(8, 8, 8, 8)), ([x, , z]) => Math.abs(x) < 2 && Math.abs(z) < 3),
  'the end of a tube': Cage.fromPolygons(cylinder(10, 5, 16, 2, false))
};

describe.each(Object.entries(cases))('the corners of a grid in %s', (_name, cage) => {
  const hole = holesOf(cage).sort((a, b) => a.vertices.length - b.vertices.length)[0];
  const n = hole.vertices.length;
  const picked = selectEdges(hole.halves.map((h) => h >> 1));
  const gripsOf = (params: Params) => quadGrid.grips!(cage, picked, { ...begun, ...params });
  const numbersOf = (params: Params) => quadGrid.numbers!(cage, picked, { ...begun, ...params });

  it('are four, on the border, and go where they are dragged', () => {
    const grips = gripsOf({});
    expect(grips.map(({ label }) => label)).toEqual([1, 2, 3, 4].map((k) => `Corner ${k} of the grid`));
    for (const [corner, { stops }] of grips.entries())
      for (const { at, params } of stops) {
        const after = gripsOf(params).map((grip) => grip.at.join());
        expect(after, `corner ${corner + 1}`).toContain(at.join());
      }
  });

  it('leave those beside them where they are while sides get longer or shorter', () => {
    const grips = gripsOf({ rows: 2 });
    for (const { params } of grips[1].stops) {
      const after = gripsOf(params).map((grip) => grip.at.join());
      for (const still of [0, 2]) expect(after).toContain(grips[still].at.join());
    }
  });

  it('have counts on two sides, which are typed there and are those of the quads', () => {
    const [first, second] = numbersOf({});
    expect(first.value + second.value).toBe(n / 2);
    for (const [at, typed] of [
      [0, 1],
      [0, n / 2 - 1],
      [1, 3]
    ]) {
      const params = numbersOf({})[at].params(typed);
      expect(numbersOf(params)[at].value).toBe(typed);
      if (!_name.includes('tube'))
        expect(run('quad-grid', cage, picked, { ...begun, ...params }).selection.faces).toHaveLength(typed * (n / 2 - typed));
    }
  });
});

describe('a border without corners to set', () => {
  it('is odd, or one of several', () => {
    const odd = Cage.fromPolygons(cylinder(10, 5, 7, 2, false));
    const [a, b] = holesOf(odd);
    const edges = (halves: readonly number[]) => halves.map((h) => h >> 1);
    expect(quadGrid.grips!(odd, selectEdges(edges(a.halves)), begun)).toEqual([]);
    const both = selectEdges([...edges(a.halves), ...edges(b.halves)]);
    expect([quadGrid.grips!(odd, both, begun), quadGrid.numbers!(odd, both, begun)]).toEqual([[], []]);
  });
});
