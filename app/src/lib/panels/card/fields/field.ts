import type { Field } from '@ulvrin/core';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';

/** What a field of the card is given. */
export interface FieldProps {
  field: Field;
  value: unknown;
  job: OpenJob;
  /** takes what was typed or chosen, checked by `problemOf` */
  onchange: (value: unknown) => void;
}

/** Why a field cannot take what was typed; nothing where it can. */
export function problemOf(field: Field, typed: unknown): string | undefined {
  if (field.type !== 'number') return undefined;
  const n = Number(typed);
  const many = (x: number) => x.toLocaleString('en');
  if (typed === '' || !Number.isFinite(n)) return `${field.label}: a number is needed.`;
  if (field.above && n === field.min) return `${field.label} must be more than ${field.min}.`;
  if (field.whole && !Number.isInteger(n)) return `${field.label}: a whole number is needed; it is ${many(n)}.`;
  if ((field.min !== undefined && n < field.min) || (field.max !== undefined && n > field.max))
    return `${field.label} must lie between ${field.min ?? '-∞'} and ${field.max === undefined ? '∞' : many(field.max)}; it is ${many(n)}.`;
  return undefined;
}

/** Fields that are shown while the others have some values. @param valueOf as it is now, or as it begins */
export function possibleFields(fields: readonly Field[], valueOf: (name: string) => unknown): Field[] {
  return fields.filter(({ when }) => !when || when.is.split('|').includes(String(valueOf(when.field))));
}
