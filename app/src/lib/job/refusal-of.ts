import { InvalidParams, OperationRefused, type Refusal } from '@ulvrin/core';

/** Why an operation refused, out of what it threw. @throws what is no refusal */
export function refusalOf(error: unknown): Refusal {
  if (error instanceof OperationRefused) return error.refusal;
  if (error instanceof InvalidParams) return { found: error.message };
  throw error;
}
