/** How a long computation tells where it is; calls come often and must be cheap. */
export interface TaskReport {
  /** a phase has begun: its name, and the share of the whole task done before it (0 to 1) */
  phase(name: string, fraction: number): void;
  /** where quads that are being laid will have poles: told once it is known, long before the quads are there */
  poles?(poles: Poles): void;
  /** quads as they are first read, long before they are evened out and fitted: both ends of their edges, x, y and z one after the other */
  edges?(ends: Float32Array): void;
  /** a way of laying quads has come to its end; there may be others after it */
  tried?(way: WayTried): void;
}

/** What one way of laying quads has come to. */
export interface WayTried {
  name: string;
  /** of the directions, and unknowns of the map that are to be whole */
  poles: number;
  wholes: number;
  /** roundings that were read as quads, and how many of them were fitted */
  read: number;
  fitted: number;
  /** places where the map folds over, where that is why there are none */
  folds: number;
  /** why there are none */
  failure?: string;
  /** of the best so far: the lowest scaled Jacobian, and the largest distance as a multiple of what is near enough */
  worst?: number;
  off?: number;
}

type Poles = readonly { at: [number, number, number]; valence: number }[];

/** What can be shown of a result on the way to it, as `TaskReport` has it. */
export interface Shown {
  poles?: Poles;
  edges?: Float32Array;
}

/** Reports by one function: phases, and what can be shown with the phase that it comes in. */
export function reporting(tell: (phase: string, fraction: number, shown?: Shown) => void): TaskReport {
  let now: [string, number] = ['Starting', 0];
  return {
    phase: (...told) => tell(...(now = told)),
    poles: (poles) => tell(...now, { poles }),
    edges: (edges) => tell(...now, { edges })
  };
}

export const silent: TaskReport = { phase: () => undefined };

/** The same report for work that may be done over: the share that is done never gets less. */
export function onward(report: TaskReport): TaskReport {
  let most = 0;
  return { ...report, phase: (name, fraction) => report.phase(name, (most = Math.max(most, fraction))) };
}
