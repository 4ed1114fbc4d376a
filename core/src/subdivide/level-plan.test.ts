import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { creased, unmatched } from '../../testing/creased-cages.ts';
import { Cage } from '../mesh/cage.ts';
import { enclosedVolume } from '../mesh/topology.ts';
import { box } from '../shapes/start-shapes.ts';
import { levelSteps, type LevelPlan } from './level-plan.ts';
import { Subdivision } from './subdivision.ts';

describe('level plans', () => {
  it('divide without moving anything, keep sharpness meanwhile, and smooth afterwards', () => {
    fc.assert(
      fc.property(creased, (mesh) => {
        const divided = new Subdivision(mesh, { levels: 1, borderCorners: 'rounded', plan: { steps: ['divide'] } });
        expect([...divided.evaluate(mesh.positions).subarray(0, mesh.positions.length)]).toEqual([...mesh.positions]);
        // going on smoothly is the same as smoothing the divided mesh
        const planned = new Subdivision(mesh, { levels: 2, borderCorners: 'rounded', plan: { steps: ['divide', 'smooth'] } }).evaluate(
          mesh.positions
        );
        const inner = divided.toPolygons(mesh);
        const twice = new Subdivision(inner, { levels: 1, borderCorners: 'rounded' }).evaluate(inner.positions);
        const points = Array.from({ length: twice.length / 3 }, (_, i) => [...twice.subarray(3 * i, 3 * i + 3)]);
        expect([planned.length, unmatched(planned, points)]).toEqual([twice.length, 0]);
      }),
      { numRuns: 30 }
    );
  });

  it('end or cap creases from a level on', () => {
    const cage = Cage.fromPolygons(box({ x: 2, y: 2, z: 2 }, { x: 1, y: 1, z: 1 }));
    for (const e of cage.edges()) cage.setValue('crease', e, 10);
    const mesh = cage.toPolygons();
    const volume = (plan?: LevelPlan) => {
      const fine = new Subdivision(mesh, { levels: 4, plan }).toPolygons(mesh);
      return enclosedVolume(Cage.fromPolygons(fine));
    };
    const [never, late, soon] = [volume(), volume({ steps: [], creasesFrom: 2 }), volume({ steps: [], creasesFrom: 0 })];
    expect(never).toBeCloseTo(8, 10);
    expect(late).toBeLessThan(8);
    expect(soon).toBeLessThan(late);
    expect(volume({ steps: [], creasesFrom: 0, creaseCap: 2 })).toBeGreaterThan(soon);
  });

  it('are read from text and say what they do not know', () => {
    expect(levelSteps('divide, divide smooth')).toEqual(['divide', 'divide', 'smooth']);
    expect(() => levelSteps('divide,soften')).toThrow(/"soften"/);
    expect(() => levelSteps('smooth '.repeat(7))).toThrow(/6 levels at most/);
  });
});
