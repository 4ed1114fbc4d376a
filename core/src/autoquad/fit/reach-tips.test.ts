import { describe, expect, it } from 'vitest';
import { TriangleBvh } from '../../reference/triangle-bvh.ts';
import { plane } from '../../shapes/start-shapes.ts';
import { reachTips } from './reach-tips.ts';

describe('tips', () => {
  it('are reached by the nearest vertex, where they lie off the quads; borders stay', () => {
    const sheet = plane(10, 10, 5, 5);
    const list = { positions: sheet.positions.slice(), quads: sheet.faceVertices, hold: new Uint8Array(36) };
    const reached = reachTips(list, Float64Array.from([1.3, 1.8, 1.2, 0, 0.3, 0, 5, 1.6, 5]), 2);
    expect(reached.size).toBe(1);
    const [v] = reached;
    expect([...list.positions.subarray(3 * v, 3 * v + 3)]).toEqual([1.3, 1.8, 1.2]);
    expect(list.positions.filter((x, i) => x !== sheet.positions[i]).length).toBe(3);
  });

  it('on the border are reached by vertices of the border', () => {
    const sheet = plane(10, 10, 5, 5);
    const list = { positions: sheet.positions.slice(), quads: sheet.faceVertices, hold: new Uint8Array(36) };
    // a border that goes out beyond the sheet
    const line = new TriangleBvh(Float64Array.from([-5, 0, 5, 1.2, 0, 6.5, 5, 0, 5]), Int32Array.from([0, 1, 1, 1, 2, 2]));
    const reached = [...reachTips(list, Float64Array.from([1.2, 0, 6.5]), 2, line)];
    expect(reached.map((v) => sheet.positions[3 * v + 2])).toEqual([5]);
    expect([...list.positions.subarray(3 * reached[0], 3 * reached[0] + 3)]).toEqual([1.2, 0, 6.5]);
  });
});
