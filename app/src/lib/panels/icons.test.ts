import { expect, it } from 'vitest';
import { operations } from '@ulvrin/core';
import { icons } from './icons.ts';

it('every operation has its icon', () => {
  expect(operations.filter((o) => !icons[o.icon]).map((o) => o.name)).toEqual([]);
});
