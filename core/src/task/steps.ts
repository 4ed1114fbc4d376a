/** How a long computation tells where it is; calls come often and must be cheap. */
export interface TaskReport {
  /** a phase has begun: its name, and the share of the whole task done before it (0 to 1) */
  phase(name: string, fraction: number): void;
  /** where quads that are being laid will have poles: told once it is known, long before the quads are there */
  poles?(poles: readonly { at: [number, number, number]; valence: number }[]): void;
}

export const silent: TaskReport = { phase: () => undefined };
