import type * as THREE from 'three';
import type { Cage, Part } from '@ulvrin/core';
import type { StandColours } from '$lib/settings/theme.svelte.ts';
import type { LineSettings } from './mark-shapes.ts';

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

/** Distances of a surface to the reference, mm, as far as they have been measured. */
export interface Measured {
  /** by point of the smooth surface, and the largest; nothing while they are measured */
  found?: { smooth: { distance: Float64Array; most: number } };
  /** why nothing is measured */
  problem?: string;
}

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
  draw(canvas: MarkCanvas): THREE.Object3D[];
}

/** A colour over the smooth surface, by numbers that are measured; with a legend above the stand. */
export interface Paint extends OverlayBase {
  /** of its legend */
  name: string;
  /** by point of the smooth surface, mm, and the largest; nothing while it is not there */
  shares(measured: Measured): { distance: Float64Array; most: number } | undefined;
  /** what the colours mean, or why there are none */
  legend(measured: Measured, reference: Part | undefined): string;
}
