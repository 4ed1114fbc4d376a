import { type Field } from '@ulvrin/core';
import { describe, expect, it } from 'vitest';
import { possibleFields, problemOf } from './field.ts';

const width: Field = { name: 'width', label: 'Width', type: 'number', initial: 1, min: 0, above: true, max: 1000 };

describe('fields of the card', () => {
  it('take numbers within their bounds, and say what is wrong with others', () => {
    expect(problemOf(width, '2.5')).toBeUndefined();
    expect(problemOf(width, '')).toBe('Width: a number is needed.');
    expect(problemOf(width, 'wide')).toBe('Width: a number is needed.');
    expect(problemOf(width, '0')).toBe('Width must be more than 0.');
    expect(problemOf(width, '-1')).toBe('Width must lie between 0 and 1,000; it is -1.');
    expect(problemOf({ ...width, whole: true }, '2.5')).toBe('Width: a whole number is needed; it is 2.5.');
    expect(problemOf({ ...width, min: undefined, above: undefined, max: undefined }, '-7')).toBeUndefined();
  });

  it('are shown where what they hang on is chosen', () => {
    const fields: Field[] = [width, { ...width, name: 'turn', when: { field: 'how', is: 'by|to' } }];
    expect(possibleFields(fields, () => 'to').map((f) => f.name)).toEqual(['width', 'turn']);
    expect(possibleFields(fields, () => 'free').map((f) => f.name)).toEqual(['width']);
  });
});
