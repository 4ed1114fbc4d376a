/** What a value belongs to. A corner is a half-edge seen from its face: the corner at the half-edge's start. */
export type Domain = 'vertex' | 'edge' | 'face' | 'corner';

/**
 * What becomes of a value when an element is cut in two, or two become one:
 * `copy` both parts keep it, the first one wins; `mix` in between where cut, the mean where joined; `drop` back to the default.
 */
export type AttributeRule = 'copy' | 'mix' | 'drop';

/** One named value on every vertex, edge, face or corner of a cage. */
export interface AttributeLayer {
  name: string;
  domain: Domain;
  /** numbers an element */
  size: number;
  /** value of a new element, repeated `size` times */
  initial: number;
  onSplit: AttributeRule;
  onJoin: AttributeRule;
  /** `size` numbers an element, by element id; grows with the cage */
  data: Float64Array;
}

/** The layers every part of the program knows; others may be added by name. */
export const knownLayers = {
  crease: { domain: 'edge', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' },
  corner: { domain: 'vertex', size: 1, initial: 0, onSplit: 'drop', onJoin: 'copy' },
  region: { domain: 'face', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' },
  uv: { domain: 'corner', size: 2, initial: NaN, onSplit: 'mix', onJoin: 'copy' }
} as const satisfies Record<string, Omit<AttributeLayer, 'name' | 'data'>>;

export type KnownLayer = keyof typeof knownLayers;
