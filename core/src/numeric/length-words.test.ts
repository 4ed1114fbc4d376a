import { describe, expect, it } from 'vitest';
import { lengthInWords, millimetres, spreadInWords } from './length-words.ts';

describe('lengths in words', () => {
  it('have the digits that matter, and never those of rounding', () => {
    expect([0, 2.7e-10, 0.00312, 0.0104, 0.2303, 1.264, 12.44, 1234.4].map(lengthInWords)).toEqual([
      '0 mm',
      'exact',
      '0.0031 mm',
      '0.010 mm',
      '0.23 mm',
      '1.26 mm',
      '12.4 mm',
      '1234 mm'
    ]);
    expect(lengthInWords(-0.5)).toBe('-0.50 mm');
  });

  it('tell mean and max together', () => {
    expect(spreadInWords({ mean: 0.01, most: 0.2303 })).toBe('mean 0.010 mm, max 0.23 mm');
    expect(spreadInWords({ mean: 1e-12, most: 3e-11 })).toBe('exact');
    expect(spreadInWords({ mean: 0, most: 0 })).toBe('exact');
  });

  it('are told beside others with as many digits as the largest needs', () => {
    expect([0, 0.01234, 0.5, 12.345, 1234.6].map((mm) => millimetres(mm))).toEqual(['0', '0.0123', '0.50', '12.3', '1,235']);
    expect(millimetres(0.01, 12)).toBe('0.0');
  });
});
