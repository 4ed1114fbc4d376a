import { type Triple } from '../../numeric/vectors.ts';

export const liesOn = ['smooth', 'vertices'] as const;
export type Lies = (typeof liesOn)[number];

/** Planes the result is mirrored in: those that are found, none, or one across an axis. */
export const symmetries = ['auto', 'none', 'x', 'y', 'z'] as const;
export type Symmetry = (typeof symmetries)[number];

/** A stroke on the surface that loops follow. */
export interface Guide {
  /** x, y, z of its points, in order */
  points: Triple[];
  /** 0 to 100: how strongly loops near it follow it; 100 binds */
  influence: number;
  /** it runs back to where it began, round a limb or an eye: quads along it close */
  closed?: boolean;
  /** nothing is told of it: it was not drawn by the user */
  silent?: boolean;
  /** of a closed one how many quads lie along it; left open where it is missing or 0 */
  count?: number;
}

/** A touch of the size brush: quads there get so many percent of the size they would have, less and less towards its radius. */
export interface SizeDab {
  at: Triple;
  radius: number;
  percent: number;
}

/** A pole that is dragged; onto one of the other kind the two cancel. */
export interface PoleMove {
  from: Triple;
  to: Triple;
}

/** A stroke over edges of the surface, or a click on one: they become edges of quads, or are not to. */
export interface LinePick {
  points: Triple[];
  follow: boolean;
}

/** What is asked of the quads; everything may be left out. */
export interface AutoQuadsOptions {
  /** how many quads; left out when `countRange` or `edgeSizes` is given */
  count?: number;
  /** how many quads at least and at most: what runs best is taken */
  countRange?: { fewest: number; most: number };
  /** finest and coarsest quad edge, in the mesh's unit: fine where the surface bends, coarse where it is flat */
  edgeSizes?: { finest: number; coarsest: number };
  /** 0 to 70: by how many percent quads may be finer than others where the surface bends tightly; left out: 0; edge sizes say it themselves */
  finerBy?: number;
  /** 0 to 100: how closely loops follow the curvature */
  curvaturePull?: number;
  /** edges at least this sharp, in degrees, become edges of quads */
  featureAngle?: number;
  /** planes the result is mirrored in: those that are found, none, or one across an axis */
  symmetry?: Symmetry;
  /** edges of quads on sharp edges become creases; left out: they do */
  creases?: boolean;
  /** islands that quads do not fit on are left out, or become boxes of six */
  smallIslands?: 'leave' | 'boxes';
  /** holes that are too small for quads stay open; left out: they are closed */
  keepHoles?: boolean;
  /** closed shells that overlap are made one first; needs the library for solids */
  oneSkin?: boolean;
  /** what is to lie on the surface: the quads' smooth surface (left out), or their vertices */
  lies?: Lies;
  /** poles that are dragged elsewhere, or onto one another */
  poleMoves?: PoleMove[];
  /** poles of three and of five edges cancel that lie no farther apart than so many quads; left out: 1; 0: none */
  cancelWithin?: number;
  /** edges that are to be edges of quads besides, or not to be */
  lines?: LinePick[];
  /** strokes on the surface that loops follow */
  guides?: Guide[];
  /** where quads are to be smaller or larger */
  sizes?: SizeDab[];
}

/** Thrown where no valid quads can be laid; the message says why and what may help. */
export class AutoQuadsError extends Error {}

/** Thrown where a surface can be laid, but no valid quads were found. */
export class NoQuadsError extends AutoQuadsError {
  /** @param folded places where the map folds over */
  constructor(
    message: string,
    readonly folded: readonly Triple[]
  ) {
    super(message);
  }
}

/** More quads than this would not fit into a browser's memory. */
const MOST_QUADS = 500_000;
/** Fewer quads cannot be asked for. */
export const FEWEST_QUADS = 24;

/** How closely loops follow the curvature, 0 to 1. */
export const pullOf = ({ curvaturePull = 50 }: AutoQuadsOptions): number => curvaturePull / 100;

/** Edge length of quads, and how many that makes. */
export function wantedSize(options: AutoQuadsOptions, area: number): { size: number; target: number } {
  if (options.edgeSizes) {
    const { finest, coarsest } = options.edgeSizes;
    if (!(finest > 0) || !(coarsest >= finest))
      throw new AutoQuadsError(`Edge sizes must be more than 0 and the coarsest not below the finest; they are ${finest} and ${coarsest}.`);
    const size = Math.sqrt(finest * coarsest);
    const target = Math.round(area / size ** 2);
    if (target > MOST_QUADS)
      throw new AutoQuadsError(
        `Edges of ${size.toPrecision(3)} mm would make ${target.toLocaleString('en')} quads; at most ${MOST_QUADS.toLocaleString('en')} can be laid.`
      );
    return { size, target };
  }
  const { fewest, most } = countsOf(options);
  if (most > MOST_QUADS) throw new AutoQuadsError(`At most ${MOST_QUADS.toLocaleString('en')} quads can be asked for; it was ${most}.`);
  if (!(fewest >= FEWEST_QUADS)) throw new AutoQuadsError(`At least ${FEWEST_QUADS} quads can be asked for; it was ${fewest}.`);
  if (!(most >= fewest)) throw new AutoQuadsError(`The most quads must not be below the fewest; they are ${fewest} and ${most}.`);
  const target = Math.sqrt(fewest * most);
  return { size: Math.sqrt(area / target), target };
}

/** The fewest and the most quads that are asked for. */
const countsOf = ({ count = 4000, countRange }: AutoQuadsOptions): { fewest: number; most: number } => countRange ?? { fewest: count, most: count };

/** By how much the most quads that are asked for are more than those in the middle of a range; 1 where a single count is. */
export function countSpread(options: AutoQuadsOptions): number {
  const { fewest, most } = countsOf(options);
  return Math.sqrt(most / fewest);
}

/**
 * By what share a count of quads is beyond those asked for; 0 where edge sizes are, and the count falls out.
 * @param target quads in the middle of a range
 */
export function countOff(options: AutoQuadsOptions, target: number, count: number): number {
  if (options.edgeSizes) return 0;
  const spread = countSpread(options);
  return Math.max(0, count / (target * spread) - 1, 1 - (count * spread) / target);
}

/** The options for a share of the surface; sizes as they are. */
export function forShare(options: AutoQuadsOptions, share: number): AutoQuadsOptions {
  if (options.edgeSizes) return options;
  const part = (count: number) => Math.max(FEWEST_QUADS, Math.round(share * count));
  const { fewest, most } = countsOf(options);
  return options.countRange ? { ...options, countRange: { fewest: part(fewest), most: part(most) } } : { ...options, count: part(fewest) };
}
