import { CageError, InvalidParams, OperationRefused, type Refusal } from '@ulvrin/core';

/** Why an operation refused, out of what it threw; what it never meant to throw is told too, and goes to the browser's console. */
export function refusalOf(error: unknown): Refusal {
  if (error instanceof OperationRefused) return error.refusal;
  if (error instanceof InvalidParams || error instanceof CageError) return { found: error.message };
  console.error(error);
  return { found: `It failed unexpectedly (${error instanceof Error ? error.message : String(error)}); nothing was changed.` };
}
