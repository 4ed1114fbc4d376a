import { type Dab, withDab } from '../src/even/dabs.ts';
import { fieldsOf } from '../src/operations/card-fields.ts';
import { type CageOperation, type Params } from '../src/operations/operation.ts';

/** Valid parameters of an operation: every choice comes up, numbers from small to large. */
export function someParams(operation: CageOperation, which: number): Params {
  const entries = fieldsOf(operation).map((field, i): [string, unknown] => {
    const n = Math.floor(which / (i + 1));
    if (field.choices) return [field.name, field.choices[n % field.choices.length].value];
    // the refit has tests of its own, and takes its time
    if (field.name === 'keepSurface') return [field.name, false];
    if (field.type === 'switch') return [field.name, n % 2 === 0];
    if (field.type !== 'number') return [field.name, field.initial];
    const wished = [0.25, 1, -1.5, 3][n % 4];
    const value = Math.min(field.max ?? Infinity, Math.max(field.min ?? -Infinity, field.whole ? Math.round(wished) : wished));
    return [field.name, value > 0 || (field.min ?? -1) < 0 ? value : field.initial];
  });
  // two touches of a brush
  const dab: Dab = { at: [0, 1, 0], normal: [0, 1, 0], by: [0.3, 0.1, -0.2], pressure: which % 2 === 0 ? 1 : -1 };
  return { ...Object.fromEntries(entries), ...(operation.brushed && { dabs: withDab(withDab([], dab), { ...dab, at: [1, 0, 1] }) }) };
}
