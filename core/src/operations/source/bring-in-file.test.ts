import { describe, expect, it } from 'vitest';
import { validParams } from '../apply.ts';
import { bringInFile } from './bring-in-file.ts';

describe('settings of a file that is brought in', () => {
  it('are kept as its entry has them, with what was left out', () => {
    expect(validParams(bringInFile, { file: 'beacon.obj', as: 'reference', unit: 25.4 })).toEqual({
      file: 'beacon.obj',
      as: 'reference',
      unit: 25.4,
      upAxis: 'Y',
      weld: true
    });
  });

  it('are refused where they make no sense, with the field that is wrong', () => {
    expect(() => validParams(bringInFile, { unit: 0 })).toThrow(/Size of a unit/);
    expect(() => validParams(bringInFile, { upAxis: 'X' })).toThrow(/Up axis/);
  });
});
