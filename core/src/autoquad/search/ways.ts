import { subtract, type Triple } from '../../numeric/vectors.ts';
import { type AutoQuadsOptions, pullOf } from '../base/options.ts';

/** A way in which quads are laid. */
export interface Way {
  /** as `WayTried` tells it */
  name: string;
  /** edge length of the working mesh, as a share of what it would be */
  fineness: number;
  /** how strongly bends pull the directions */
  pull: number;
  /** poles that lie so many quads apart cancel */
  cancelWithin: number;
  /** ways round that come back beside themselves by less than so many quads are to close; what is tried one after the other */
  beside: readonly number[];
  /** whether it helps against what the ways before it came to */
  answers(trouble: Trouble): boolean;
}

/** What the ways before have come to: not enough. */
export interface Trouble {
  /** places where the map folds over, where quads are poor, and where they lie off; none where only the topology was wrong */
  places: readonly Triple[];
  /** where poles lay that were cancelled, in pairs */
  cancelled: readonly Triple[];
  /** how many were left */
  poles: number;
  /** edge length of a quad, mm */
  size: number;
}

/** Poles that were cancelled are missed within so many quads of where they lay; where more than this share of all went, they were those of noise. */
const [MISSED_WITHIN, NOISE] = [4, 0.25];

/**
 * The ways to lay quads, in turn. After the first come those that help where it fails: all poles of the field, where cancelled ones
 * were needed; a finer working mesh and rings that need not close; and a field without pull.
 */
export function waysToLay(options: AutoQuadsOptions): Way[] {
  const pull = pullOf(options);
  const cancelWithin = options.cancelWithin ?? 1;
  return [
    { name: 'as asked', fineness: 1, pull, cancelWithin, beside: [1, 0], answers: () => true },
    { name: 'all poles', fineness: 1, pull, cancelWithin: 0, beside: [1, 0], answers: misses },
    { name: 'finer mesh, open rings', fineness: 0.7, pull, cancelWithin, beside: [0], answers: () => true },
    { name: 'finer mesh, all poles, no pull', fineness: 0.7, pull: 0, cancelWithin: 0, beside: [0], answers: (trouble) => !isNoisy(trouble) }
  ];
}

/** Whether poles were cancelled near a place that came out badly, or somewhere where no place is known. */
function misses(trouble: Trouble): boolean {
  const { places, cancelled, size } = trouble;
  if (isNoisy(trouble)) return false;
  if (places.length === 0) return cancelled.length > 0;
  const within = (MISSED_WITHIN * size) ** 2;
  return cancelled.some((pole) => places.some((at) => subtract(pole, at).reduce((sum, x) => sum + x * x, 0) < within));
}

/** Whether so many poles were cancelled that they were those of noise: with them nothing gets better. */
const isNoisy = ({ cancelled, poles }: Trouble): boolean => cancelled.length > NOISE * (poles + cancelled.length);
