import { CageError, InvalidParams, OperationRefused, SpareError, type Refusal } from '@ulvrin/core';

/** What an error says. */
export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** What keeps something from being done, as its error says it; empty where it was done. */
export async function problemOf(work: () => unknown): Promise<string> {
  try {
    await work();
    return '';
  } catch (error) {
    return messageOf(error);
  }
}

/** Why an operation refused, out of what it threw; what it never meant to throw is told too, and goes to the browser's console. */
export function refusalOf(error: unknown): Refusal {
  if (error instanceof OperationRefused) return error.refusal;
  if (error instanceof InvalidParams || error instanceof CageError || error instanceof SpareError) return { found: error.message };
  console.error(error);
  return { found: `It failed unexpectedly (${messageOf(error)}); nothing was changed.` };
}
