import { describe, expect, it } from 'vitest';
import { validParams } from '../apply.ts';
import { autoQuadsOperation, autoQuadsOptions } from './lay-quads.ts';

const optionsOf = (params: object) => autoQuadsOptions(validParams(autoQuadsOperation, { ...params }));

describe('settings of auto quads, as the engine takes them', () => {
  it('have the density that was chosen, and none of the others', () => {
    expect(optionsOf({ count: 900 })).toMatchObject({ count: 900 });
    expect(optionsOf({ by: 'range', fewest: 800, most: 1200 })).toMatchObject({ countRange: { fewest: 800, most: 1200 } });
    expect(optionsOf({ by: 'sizes', finest: 0.5, coarsest: 2 })).toMatchObject({ edgeSizes: { finest: 0.5, coarsest: 2 } });
    const densities = ({ count, countRange, edgeSizes }: ReturnType<typeof optionsOf>) => [count, countRange, edgeSizes].filter(Boolean).length;
    for (const by of ['count', 'range', 'sizes']) expect(densities(optionsOf({ by }))).toBe(1);
  });

  it('tell nothing of what is laid over and where it is computed', () => {
    const options = optionsOf({ over: 'rest', on: 'server' });
    expect(options).not.toHaveProperty('over');
    expect(options).not.toHaveProperty('on');
  });

  it('are refused where guides or counts make no sense', () => {
    expect(() => optionsOf({ count: 3 })).toThrow(/Count/);
    expect(() => optionsOf({ guides: [{ points: [[0, 0, 0]], influence: 50 }] })).toThrow();
  });
});
