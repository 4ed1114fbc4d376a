import type { Guide, PoleMove, SizeDab } from '@ulvrin/core';

/** What dragging on the surface draws while auto quads is steered. */
export type StrokeKind = 'none' | 'guide' | 'round' | 'size' | 'edge' | 'no edge' | 'pole';

export interface Steering {
  kind: StrokeKind;
  guides: Guide[];
  sizes: SizeDab[];
  poleMoves: PoleMove[];
  /** ends of the edges that will be edges of quads, where they are shown */
  sharp?: Float32Array;
  /** where planes cut the surface that it is mirrored in */
  sections?: Float32Array;
  /** takes places on the surface along a stroke, in order, and the direction towards the eye */
  add: (points: [number, number, number][], view: [number, number, number]) => void;
}
