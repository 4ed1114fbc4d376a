import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { denseSphere } from '../shapes/sample-surfaces.ts';
import { box, plane, quadSphere } from '../shapes/start-shapes.ts';
import { apart, comparedInWords, comparedRows, stateMeasures } from './compare.ts';

const settings = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
const state = (cage: Cage) => ({ cage, settings });
const block = (size: number) => Cage.fromPolygons(box({ x: size, y: size, z: size }, { x: 2, y: 2, z: 2 }));

describe('two states', () => {
  it('are measured by closed forms: area, volume, faces, triangles, density', () => {
    const m = stateMeasures(state(block(10)));
    expect(m).toMatchObject({ faces: 24, triangles: 48, quads: 24, poles: 8, worstCorner: 0 });
    expect([m.area, m.volume, m.density]).toEqual([600, 1000, (100 * 26) / 600].map((x) => expect.closeTo(x, 9)));
    const dense = stateMeasures({ dense: denseSphere(60) });
    expect(dense.volume! / ((4 / 3) * Math.PI * 8000)).toBeCloseTo(1, 2);
    expect(dense.area / (4 * Math.PI * 400)).toBeCloseTo(1, 2);
    expect(stateMeasures(state(Cage.fromPolygons(plane(10, 10, 2, 2)))).volume).toBeUndefined();
  });

  it('become rows with what has changed, and a line to be quoted', () => {
    const [a, b] = [stateMeasures(state(block(10))), stateMeasures(state(block(11)))];
    const rows = comparedRows(a, b);
    expect(rows.find(({ label }) => label === 'Volume')).toEqual({ label: 'Volume', before: '1,000 mm³', now: '1,331 mm³', change: '+33.1 %' });
    expect(rows.find(({ label }) => label === 'Faces')!.change).toBe('±0.0 %');
    const dense = stateMeasures({ dense: denseSphere(60) });
    const ball = stateMeasures(state(Cage.fromPolygons(quadSphere(20, 8))));
    const line = comparedInWords('Float', dense, ball, 0.5);
    expect(line).toMatch(/^Float: [\d,]+ faces, no quads became 384 quads, 8 poles, within 0\.5\d* mm, volume −\d\.\d %\.$/);
    // what is open has no volume, and a dense mesh no poles
    expect(comparedRows(dense, ball).find(({ label }) => label === 'Poles')!.before).toBe('');
  });

  it('are as far apart as their surfaces are', () => {
    const [ball, larger] = [20, 21].map((r) => Cage.fromPolygons(quadSphere(r, 12)));
    expect(apart(state(ball), state(ball.clone()))).toBe(0);
    const smooth = apart(state(ball), state(larger))!;
    expect([smooth > 0.95, smooth < 1.05]).toEqual([true, true]);
    const off = apart({ dense: denseSphere(80) }, state(larger))!;
    expect([off > 0.6, off < 1.1]).toEqual([true, true]);
    expect(apart(state(ball), state(new Cage()))).toBeUndefined();
  });
});
