import type * as THREE from 'three';
import type { Cage, Part } from '@ulvrin/core';
import type { StandColours } from '$lib/settings/theme.svelte.ts';
import type { LineSettings } from './mark-shapes.ts';
import type { Ramp } from './ramps.ts';

/** What marks are drawn on: a cage as the stand shows it. What `lines`, `glyphs` and `faceFill` make follows moved vertices. */
export interface MarkCanvas {
  readonly cage: Cage;
  readonly colours: StandColours;
  /** its smooth surface, where that is shown */
  readonly smooth?: { everyEdge(): THREE.Object3D };
  /** Wide lines along edges. @param width in pixels */
  lines(edges: Iterable<number>, colour: string, width: number, settings?: LineSettings): THREE.Object3D;
  /** Shapes on vertices. @param sides 0: a disc @param size in pixels */
  glyphs(vertices: Iterable<number>, sides: number, colour: string, size: number): THREE.Object3D;
  faceFill(faces: ReadonlySet<number>, material: THREE.Material): THREE.Object3D;
}

/** Distances of a surface to the reference, mm, as far as they have been measured, and what else it is set beside. */
export interface Measured {
  /** by point of the smooth surface, and the largest; nothing while they are measured */
  found?: { smooth: { signed: Float64Array; most: number } };
  /** why nothing is measured */
  problem?: string;
  /** what the part is compared with, where it is and where that is painted */
  compared?: Part;
}

/** What is measured, and what the part is compared with. */
export const measuredWith = ({ found, problem }: Measured, compared: Part | undefined): Measured => ({ found, problem, compared });

/** Something that can be shown over a part, with a switch of its own. */
interface OverlayBase {
  id: string;
  /** on its switch */
  label: string;
  /** one sentence: what it shows */
  help: string;
  /** whether it is on at first */
  initial?: boolean;
}

/** Marks on a cage, drawn with it. */
export interface CageOverlay extends OverlayBase {
  /** of its legend, by its name among those of the stand */
  colour: keyof StandColours;
  /** how many there are; left out: it is no matter of counting */
  count?(cage: Cage): number;
  draw(canvas: MarkCanvas): THREE.Object3D[];
}

/** Numbers that a surface is coloured by. */
export interface PaintValues {
  /** by point of the smooth surface at some level (those of lower levels, and of the cage, are the first), or by face of the cage */
  by: 'point' | 'face';
  values: Float64Array;
  /** red, green and blue of each, linear; left out: those of the ramp */
  colours?: Float32Array;
  /** in place of colours: line lights that the surface mirrors, which turn with the eye, or stay on the part */
  light?: 'turning' | 'staying';
  /** values that have the colours at the ends of the ramp */
  low: number;
  high: number;
}

/** Colours over a surface, by numbers that are measured, or that the cage carries; the title block has their legend. */
export interface Paint extends OverlayBase {
  /** of its legend */
  name: string;
  ramp: Ramp;
  unit: string;
  /** where its colours are its own, what they are in a few words; there is no range then */
  legend?(cage: Cage): string;
  /** one of its values in words; left out: the number with its unit */
  say?(cage: Cage, value: number): string;
  /** nothing while they are not there @param part whose cage it is, for paints of its smooth surface */
  values(cage: Cage, measured: Measured, part?: Part): PaintValues | undefined;
  /** why there is nothing to see; nothing where there is */
  why(measured: Measured, reference: Part | undefined): string | undefined;
}
