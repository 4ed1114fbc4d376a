import * as THREE from 'three';
import { isEmpty, positionOf, type Part, type PointedPlace, type Pole, type Selection } from '@ulvrin/core';
import type { StandColours } from '$lib/settings/theme.svelte.ts';
import type { CageDrawing } from '../cage-drawing.ts';
import { HoverMarks } from './hover-marks.ts';
import { outlineOf } from './outline-of.ts';
import type { PaintValues } from './overlay.ts';
import type { Ramp } from './ramps.ts';
import { dispose, glyphPoints, wideLines } from './mark-shapes.ts';

/** Numbers that a surface is painted with, and how one of them is said. */
export interface Painted {
  values: PaintValues;
  ramp: Ramp;
  inWords(value: number): string;
}

/** What is shown over the active cage: what is picked, previewed, pointed at and hovered, paints, and what a task has so far. */
export class StandMarks {
  readonly group = new THREE.Group();
  private readonly lines = new THREE.Group();
  private readonly coming = new THREE.Group();
  private readonly falloffs = new THREE.Group();
  private readonly masks = new THREE.Group();
  private readonly paints = new THREE.Group();
  private readonly outlines = new THREE.Group();
  private readonly selection = new THREE.Group();
  private readonly hovered = new HoverMarks();
  /** what the surface is painted with, if it is */
  painted: Painted | undefined;

  constructor() {
    this.group.add(this.lines, this.coming, this.masks, this.falloffs, this.paints, this.outlines, this.selection, this.hovered.group);
  }

  /** Those that follow moved vertices. */
  get following(): readonly THREE.Object3D[] {
    return [this.selection, this.falloffs, this.masks];
  }

  mark(drawing: CageDrawing | undefined, selection: Selection, colours: StandColours): void {
    clear(this.selection);
    if (drawing && !isEmpty(selection)) this.selection.add(drawing.marks(selection, colours.selected, { width: 4, opacity: 0.55, halo: '#ffffff' }));
  }

  /** What a preview would make: dashes in ink on its new edges, glyphs on the poles that appear. */
  markPreview(drawing: CageDrawing | undefined, selection: Selection, poles: readonly Pole[], colours: StandColours): void {
    clear(this.selection);
    if (!drawing) return;
    const { cage } = drawing;
    const edges = new Set(selection.edges);
    for (const f of selection.faces) for (const h of cage.loopOf(cage.faceEdge[f])) edges.add(h >> 1);
    const mean = [...edges].reduce((sum, e) => sum + cage.edgeLength(e), 0) / (edges.size || 1);
    this.selection.add(drawing.lines(edges, colours.wire, 3, { dashed: true, dash: mean / 6 }));
    for (const valence of new Set(poles.map((p) => p.valence))) {
      const at = poles.filter((p) => p.valence === valence && cage.hasVertex(p.vertex)).map((p) => p.vertex);
      this.selection.add(drawing.glyphs(at, Math.max(3, valence), colours.pole, 15));
    }
  }

  /** Pointed places and the way between them. */
  markPlaces(drawing: CageDrawing | undefined, places: readonly PointedPlace[], closed: boolean, colours: StandColours): void {
    clear(this.selection);
    if (!drawing || places.length === 0) return;
    const at = places.map((p) => positionOf(drawing.cage, p));
    this.selection.add(glyphPoints(Float32Array.from(at.flat()), 0, colours.selected, 9));
    const next = closed && at.length > 2 ? [...at, at[0]] : at;
    const ways = next.slice(1).flatMap((p, i) => [...next[i], ...p]);
    const first = ways.length > 0 ? Math.hypot(at[1][0] - at[0][0], at[1][1] - at[0][1], at[1][2] - at[0][2]) : 1;
    this.selection.add(wideLines(Float32Array.from(ways), colours.wire, 3, { dashed: true, dash: first / 6 }));
  }

  /** What the pointer is over, and with it edges that belong to it: the run of its loop. @returns whether anything has changed */
  hover(drawing: CageDrawing | undefined, selection: Selection | undefined, run: readonly number[], colours: StandColours): boolean {
    return this.hovered.show(drawing, selection, run, colours);
  }

  /** Lines over the surface, and double ones: x, y, z of both ends, one after the other. */
  markLines(points: Float32Array | undefined, double: Float32Array | undefined, colours: StandColours): void {
    clear(this.lines);
    if (points) this.lines.add(wideLines(points, colours.selected, 3));
    if (double) this.lines.add(wideLines(double, colours.clay, 2, { halo: colours.wire }));
  }

  /** Edges of quads that are on their way: x, y, z of both ends, one after the other. @returns whether anything has changed */
  markComing(ends: Float32Array | undefined, colours: StandColours): boolean {
    if (!ends && this.coming.children.length === 0) return false;
    clear(this.coming);
    if (ends) this.coming.add(wideLines(ends, colours.wire, 1));
    return true;
  }

  /** How much vertices follow what is moved. */
  markFalloff(drawing: CageDrawing | undefined, weights: ReadonlyMap<number, number> | undefined, colours: StandColours): void {
    clear(this.falloffs);
    if (weights && drawing) this.falloffs.add(drawing.falloff(weights, colours.selected));
  }

  /** How much vertices are masked. @returns whether anything has changed */
  markMask(drawing: CageDrawing | undefined, mask: ReadonlyMap<number, number> | undefined, colours: StandColours): boolean {
    if (!mask && this.masks.children.length === 0) return false;
    clear(this.masks);
    if (mask && drawing) this.masks.add(drawing.falloff(mask, colours.mask, false));
    return true;
  }

  /** The outline of another version, over all that is shown. @returns whether anything has changed */
  outline(part: Part | undefined, smooth: boolean, colours: StandColours): boolean {
    if (!part && this.outlines.children.length === 0) return false;
    clear(this.outlines);
    if (part) this.outlines.add(outlineOf(part, smooth, colours.deviation));
    return true;
  }

  /** Colours over the surface. */
  paint(drawing: CageDrawing | undefined, shown: Painted | undefined): void {
    clear(this.paints);
    this.painted = shown;
    const mesh = shown && drawing?.painted(shown.values, shown.ramp);
    if (mesh) this.paints.add(mesh);
  }
}

const clear = (group: THREE.Group): void => group.children.slice().forEach(dispose);
