import { describe, expect, it } from 'vitest';
import { type Triple } from '../../numeric/vectors.ts';
import { type Trouble, waysToLay } from './ways.ts';

describe('ways to lay quads', () => {
  const trouble: Trouble = { places: [[0, 0, 0]], cancelled: [], poles: 40, size: 2 };
  const answering = (own: Partial<Trouble>) =>
    waysToLay({ count: 1000 })
      .filter((way) => way.answers({ ...trouble, ...own }))
      .map(({ name }) => name);
  const pair = (x: number): Triple[] => [
    [x, 0, 0],
    [x + 1, 0, 0]
  ];

  it('bring cancelled poles back only where quads failed near them', () => {
    expect(answering({})).not.toContain('all poles');
    expect(answering({ cancelled: pair(7) })).toContain('all poles');
    expect(answering({ cancelled: pair(9) })).not.toContain('all poles');
    // where no place is known they may be why
    expect(answering({ cancelled: pair(9), places: [] })).toContain('all poles');
  });

  it('never bring back the poles of noise', () => {
    const noise = Array.from({ length: 20 }, () => pair(1)).flat();
    expect(answering({ cancelled: noise })).toEqual(['as asked', 'finer mesh, open rings']);
    expect(answering({ cancelled: noise, poles: 400 })).toHaveLength(4);
  });

  it('cancel no poles where none are to be cancelled', () => {
    expect(waysToLay({ count: 1000, cancelWithin: 0 }).every(({ cancelWithin }) => cancelWithin === 0)).toBe(true);
  });
});
