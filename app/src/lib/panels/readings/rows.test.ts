import { box, Cage, measure, plane } from '@ulvrin/core';
import { describe, expect, it } from 'vitest';
import { readingsOf, type Row } from './rows.ts';

const rowsOf = (cage: Cage, deviations?: Parameters<typeof readingsOf>[2]) =>
  new Map(readingsOf(cage, measure(cage), deviations).flatMap(({ rows }) => rows.map((row): [string, Row] => [row.label, row])));

describe('readings', () => {
  it('count faces, poles and borders, and pick what they count', () => {
    const cage = Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: 2, y: 2, z: 2 }));
    const rows = rowsOf(cage);
    expect(rows.get('Quads')).toMatchObject({ value: '24 (100 %)', bar: [0, 1] });
    expect(rows.get('Poles of 3')!.value).toBe('8');
    expect(rows.get('Poles of 3')!.pick!().vertices).toHaveLength(8);
    expect([rows.get('Borders')!.value, rows.get('Triangles')!.warns, rows.get('Edge length')!.value]).toEqual(['0', false, '5.00 – 5.00 mm']);
  });

  it('never say all where one is missing, and warn of it', () => {
    const cage = Cage.fromPolygons(plane(40, 40, 40, 40));
    const mesh = cage.toPolygons();
    const faces = Array.from({ length: 1600 }, (_, f) => [...mesh.faceVertices.subarray(4 * f, 4 * f + 4)]);
    const [a, b, c, d] = faces.pop()!;
    const split = Cage.fromPolygons({
      ...mesh,
      faceStart: Int32Array.from([...mesh.faceStart.subarray(0, 1600), 6399, 6402]),
      faceVertices: Int32Array.from([...faces.flat(), a, b, c, a, c, d])
    });
    const rows = rowsOf(split);
    expect(rows.get('Quads')!.value).toBe('1,599 (99.8 %)');
    expect(rows.get('Triangles')).toMatchObject({ value: '2', warns: true });
  });

  it('tell distances to the reference, and pick the vertices that are farthest off', () => {
    const cage = Cage.fromPolygons(plane(10, 10, 3, 3));
    const distance = Float64Array.from({ length: 16 }, (_, i) => i / 100);
    const off = { distance, mean: 0.0749, most: 0.15 };
    const row = rowsOf(cage, { vertices: off, smooth: off } as never).get('Vertices')!;
    expect(row.value).toBe('0.075 / 0.15 mm');
    expect(row.pick!().vertices).toEqual([14, 15]);
  });
});
