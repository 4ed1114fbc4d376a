import { describe, expect, it } from 'vitest';
import { cube, run } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { emptySelection } from '../../select/selection.ts';
import { quadSphere } from '../../shapes/start-shapes.ts';
import { applyPartsOperation } from '../apply.ts';
import { type Params } from '../operation.ts';
import { takeReturn } from './take-return.ts';

const taken = (cage: Cage, back: Cage, params: Params = {}) =>
  applyPartsOperation(takeReturn, { id: 'a', name: 'cleat', cage }, [{ id: 'b', name: 'cleat back', cage: back }], emptySelection(), {
    with: 'b',
    ...params
  });

describe('a return', () => {
  it('with the same faces gives its positions, to the bit, but where the mask holds vertices', () => {
    const sent = Cage.fromPolygons(quadSphere(10, 4));
    const back = sent.clone();
    back.positions.forEach((x, i) => (back.positions[i] = i % 3 === 1 ? 1.1 * x + 0.1 / 3 : x));
    const whole = taken(sent, back);
    expect([...whole.cage.positions.slice(0, back.positions.length)]).toEqual([...back.positions]);
    expect([whole.gone, whole.notes[0]]).toEqual([['b'], expect.stringMatching(/^98 vertices moved, by 1\.0\d mm at most\.$/)]);
    const top = [...sent.vertices()].filter((v) => sent.position(v)[1] > 5);
    for (const v of top) sent.setValue('mask', v, 1);
    const masked = taken(sent, back);
    for (const v of sent.vertices()) expect(masked.cage.position(v)).toEqual((top.includes(v) ? sent : back).position(v));
    expect(masked.notes[1]).toBe(`${top.length} vertices that would have moved are masked, and stay.`);
    expect(taken(sent, back, { mask: false }).notes).toHaveLength(1);
  });

  it('with other faces is refused with both counts, and what to do instead', () => {
    const sent = Cage.fromPolygons(quadSphere(10, 4));
    expect(() => taken(sent, Cage.fromPolygons(quadSphere(10, 5)))).toThrow(
      'It has 152 vertices and 150 faces, the part has 98 vertices and 96 faces.'
    );
    const { positions, faceStart, faceVertices } = sent.toPolygons();
    const turned = faceVertices.slice();
    [turned[0], turned[2]] = [turned[2], turned[0]];
    [turned[1], turned[3]] = [turned[3], turned[1]];
    expect(() => taken(sent, Cage.fromPolygons({ positions, faceStart, faceVertices: turned }))).toThrow('joined in another order');
  });
});

describe('sharpness', () => {
  it('is converted from the scale of another place, never beyond what stays sharp', () => {
    const cage = cube(2);
    const [a, b, c] = cage.edges();
    [0.25, 1, 3].forEach((s, i) => cage.setValue('crease', [a, b, c][i], s));
    const made = run('sharpness-scale', cage, emptySelection(), { from: 1 });
    expect([a, b, c].map((e) => made.cage.value('crease', e))).toEqual([2.5, 10, 10]);
    expect(made.notes).toEqual(['3 creases and 0 corners converted: 1 there is 10 here.']);
    expect(() => run('sharpness-scale', cube(1), emptySelection())).toThrow('no creases');
  });
});
