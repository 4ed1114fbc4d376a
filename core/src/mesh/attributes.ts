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
  uv: { domain: 'corner', size: 2, initial: NaN, onSplit: 'mix', onJoin: 'copy' },
  /** red, green and blue from 0 to 1; grey for vertices that come in beside coloured ones */
  colour: { domain: 'vertex', size: 3, initial: 0.5, onSplit: 'mix', onJoin: 'copy' },
  /** how much a vertex is held where others move: 0 not at all, 1 wholly */
  mask: { domain: 'vertex', size: 1, initial: 0, onSplit: 'mix', onJoin: 'mix' },
  /** what a vertex is locked with: the number of the lock times `LOCK_KINDS`, and its kind; 0 without */
  lock: { domain: 'vertex', size: 1, initial: 0, onSplit: 'drop', onJoin: 'copy' },
  /** 1 on vertices that are held to the reference whatever is done later */
  held: { domain: 'vertex', size: 1, initial: 0, onSplit: 'mix', onJoin: 'copy' },
  /** 1 on edges that stay where they are whatever is held or evened out */
  kept: { domain: 'edge', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' },
  /** 1 on faces that were laid by hand */
  laid: { domain: 'face', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' },
  /** width in mm of the support loops along an edge; 0 without */
  braced: { domain: 'edge', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' },
  /** vertex of a braced edge that a vertex of a support loop belongs to; -2 for those that were there before, -1 for ones made since */
  braceAnchor: { domain: 'vertex', size: 1, initial: -1, onSplit: 'drop', onJoin: 'copy' },
  /** edges the border or loop an edge lies on is to have; 0 where that is left open */
  pinned: { domain: 'edge', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' },
  /** 1 on edges that only end a support loop in a face pattern */
  braceSpoke: { domain: 'edge', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' }
} as const satisfies Record<string, Omit<AttributeLayer, 'name' | 'data'>>;

export type KnownLayer = keyof typeof knownLayers;
