import * as THREE from 'three';
import type { Selection } from '@ulvrin/core';
import type { StandColours } from '$lib/settings/theme.svelte.ts';
import { unculled, type Written } from '../followers.ts';
import { dispose, glyphPoints, patternMaterial, wideLines } from './mark-shapes.ts';

/** What hovering draws on: places of the elements of a cage. */
export interface HoverCanvas {
  readonly cage: { loopOf(h: number): number[]; readonly faceEdge: Int32Array };
  edgePoints(edges: Iterable<number>): Float32Array;
  pointsOf(vertices: Iterable<number>): Float32Array;
  fillPoints(faces: ReadonlySet<number>): Float32Array;
}

/** A mark whose buffer has room for more than it shows, so that it need not be made again. */
interface Mark {
  object: THREE.Object3D;
  /** points it has room for */
  room: number;
  show(places: Float32Array): void;
}

/** Places of points into a buffer, sent to the graphics card. */
function fill(buffer: Written, places: Float32Array): void {
  (buffer.array as Float32Array).set(places);
  buffer.addUpdateRange(0, places.length);
  buffer.needsUpdate = true;
}

function linesOf(room: number, colour: string, width: number): Mark {
  const object = unculled(wideLines(new Float32Array(3 * room), colour, width));
  const geometry = (object.children[0] as THREE.Mesh<THREE.InstancedBufferGeometry>).geometry;
  return {
    object,
    room,
    show(places) {
      fill(object.userData.places as Written, places);
      geometry.instanceCount = places.length / 6;
    }
  };
}

function pointsOf(room: number, make: (places: Float32Array) => THREE.Points | THREE.Mesh): Mark {
  const object = unculled(make(new Float32Array(3 * room)));
  return {
    object,
    room,
    show(places) {
      fill(object.geometry.getAttribute('position') as THREE.BufferAttribute, places);
      object.geometry.setDrawRange(0, places.length / 3);
    }
  };
}

const KINDS = {
  fill: (room: number, colours: StandColours) =>
    pointsOf(room, (places) => {
      const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(places, 3));
      const mesh = new THREE.Mesh(geometry, patternMaterial(colours.hover, 'solid', 0.3));
      mesh.renderOrder = 1;
      return mesh;
    }),
  outline: (room: number, colours: StandColours) => linesOf(room, colours.hover, 2),
  edge: (room: number, colours: StandColours) => linesOf(room, colours.hover, 4),
  run: (room: number, colours: StandColours) => linesOf(room, colours.hover, 1.5),
  vertex: (room: number, colours: StandColours) => pointsOf(room, (places) => glyphPoints(places, 0, colours.hover, 9))
};

type Kind = keyof typeof KINDS;
const KIND_IDS = Object.keys(KINDS) as Kind[];
/** Points that a mark has room for at first. */
const ROOM = 512;

/** What the pointer is over, drawn with buffers that stay. */
export class HoverMarks {
  readonly group = new THREE.Group();
  private readonly marks = new Map<Kind, Mark>();
  private colours?: StandColours;

  /** @returns whether anything has changed */
  show(canvas: HoverCanvas | undefined, selection: Selection | undefined, run: readonly number[], colours: StandColours): boolean {
    if (colours !== this.colours) this.forget();
    this.colours = colours;
    const shown = canvas && selection ? placesOf(canvas, selection, run) : {};
    const changes = KIND_IDS.some((kind) => shown[kind] || this.marks.get(kind)?.object.visible);
    for (const kind of KIND_IDS) this.put(kind, shown[kind]);
    return changes;
  }

  private put(kind: Kind, places: Float32Array | undefined): void {
    let mark = this.marks.get(kind);
    if (!places || places.length === 0) return void (mark && (mark.object.visible = false));
    const points = places.length / 3;
    if (!mark || mark.room < points) {
      if (mark) dispose(mark.object);
      mark = KINDS[kind](Math.max(ROOM, 2 * points), this.colours!);
      this.marks.set(kind, mark);
      this.group.add(mark.object);
    }
    mark.object.visible = true;
    mark.show(places);
  }

  /** Makes them again in other colours. */
  private forget(): void {
    for (const { object } of this.marks.values()) dispose(object);
    this.marks.clear();
  }
}

function placesOf(canvas: HoverCanvas, { vertices, edges, faces }: Selection, run: readonly number[]): Partial<Record<Kind, Float32Array>> {
  const { cage } = canvas;
  const outline = new Set(faces.flatMap((f) => cage.loopOf(cage.faceEdge[f]).map((h) => h >> 1)));
  return {
    fill: faces.length > 0 ? canvas.fillPoints(new Set(faces)) : undefined,
    outline: outline.size > 0 ? canvas.edgePoints(outline) : undefined,
    edge: edges.length > 0 ? canvas.edgePoints(edges) : undefined,
    run: run.length > 1 ? canvas.edgePoints(run) : undefined,
    vertex: vertices.length > 0 ? canvas.pointsOf(vertices) : undefined
  };
}
