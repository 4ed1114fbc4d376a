import * as THREE from 'three';
import {
  findAll,
  deepestLevel,
  isPole,
  possibleScheme,
  splitAtCreases,
  Subdivision,
  triangulate,
  type Cage,
  type Part,
  type PolygonMesh,
  type Selection
} from '@ulvrin/core';
import type { StandColours } from '$lib/theme.svelte.ts';
import { readyForRays } from './eye.ts';
import type { IdSurface } from './id-buffer.ts';
import { clayMaterial, thinLines } from './materials.ts';
import { vertexNormals } from './vertex-normals.ts';
import { dispose, falloffMaterial, glyphPoints, patternMaterial, wideLines } from './marks.ts';

/** Faces of the drawn surface beyond which a lower level is shown. */
const MOST_DRAWN = 1_200_000;

export interface DrawingSettings {
  cage: boolean;
  smooth: boolean;
  level: number;
  cageOpacity: number;
  overlays: { triangles: boolean; ngons: boolean; poles: boolean; borders: boolean; creases: boolean; density: boolean };
}

/** One cage on the stand: its faces and wire, its smooth surface, its overlays, and what finds elements under the pointer. */
export class CageDrawing {
  readonly group = new THREE.Group();
  /** faces as loose triangles, for flat shading and for picking */
  faces!: THREE.Mesh;
  smoothMesh?: THREE.Mesh;
  /** level really shown; lower than asked for where that would be too much */
  shownLevel = 0;
  private wire!: THREE.LineSegments;
  private overlayGroup = new THREE.Group();
  private poly!: PolygonMesh & { vertexIds: Int32Array; faceIds: Int32Array };
  private indexOf!: Int32Array;
  private triangles!: Uint32Array;
  private triangleFace!: Uint32Array;
  private wireIndex!: Int32Array;
  private subdivision?: Subdivision;
  private smoothFaceCage?: Int32Array;
  /** points of the surface drawn once more, so that both sides of a crease have normals of their own */
  private creaseCopies = new Int32Array();
  private seamPoints?: Int32Array;
  private seams?: THREE.LineSegments;
  /** vertices have moved since, and overlays have not followed */
  private isBehind = false;
  /** drawn without these faces are hidden ones */
  private visibleFaces?: Set<number>;

  constructor(
    public part: Part,
    public cage: Cage,
    private settings: DrawingSettings,
    private colours: StandColours,
    isolated: Set<number> | undefined
  ) {
    this.visibleFaces = isolated;
    this.build();
  }

  dispose(): void {
    dispose(this.group);
  }

  /** Triangles it draws. */
  get size(): number {
    return this.triangles.length / 3 + (this.smoothFaceCage?.length ?? 0);
  }

  /** Whether this is the drawing of just that. */
  shows(
    { scheme, borderCorners, plan }: Part,
    cage: Cage,
    settings: DrawingSettings,
    colours: StandColours,
    isolated: Set<number> | undefined
  ): boolean {
    const { part } = this;
    return (
      cage === this.cage &&
      colours === this.colours &&
      !this.isBehind &&
      JSON.stringify([scheme, borderCorners, plan, settings]) === JSON.stringify([part.scheme, part.borderCorners, part.plan, this.settings]) &&
      [...(isolated ?? [])].join() === [...(this.visibleFaces ?? [])].join() &&
      (isolated === undefined) === (this.visibleFaces === undefined)
    );
  }

  private build(): void {
    const { cage } = this;
    this.poly = cage.toPolygons();
    this.indexOf = new Int32Array(cage.vertexSlots);
    this.poly.vertexIds.forEach((v, i) => (this.indexOf[v] = i));
    const { triangles, faceOf } = triangulate(this.poly);
    [this.triangles, this.triangleFace] = this.shownOf(triangles, faceOf, (f) => f);
    this.buildFaces();
    this.buildWire();
    if (this.settings.smooth) this.buildSmooth();
    this.buildOverlays();
    this.group.add(this.overlayGroup);
  }

  /** Triangles of what is shown, and the face of each. @param cageFace number of the cage face that a face lies in */
  private shownOf(triangles: Uint32Array, faceOf: Uint32Array, cageFace: (face: number) => number): [Uint32Array, Uint32Array] {
    if (!this.visibleFaces) return [triangles, faceOf];
    const keep = faceOf.map((_, t) => t).filter((t) => this.isShown(this.poly.faceIds[cageFace(faceOf[t])]));
    const kept = new Uint32Array(3 * keep.length);
    keep.forEach((t, i) => kept.set(triangles.subarray(3 * t, 3 * t + 3), 3 * i));
    return [kept, keep.map((t) => faceOf[t])];
  }

  private buildFaces(): void {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(this.loose(new Float32Array(3 * this.triangles.length)), 3));
    const seeThrough = this.settings.smooth ? 0.16 * this.settings.cageOpacity : this.settings.cageOpacity;
    this.faces = new THREE.Mesh(geometry, clayMaterial(this.colours, true, seeThrough));
    this.faces.visible = this.settings.cage && seeThrough > 0;
    this.group.add(this.faces);
  }

  private loose(out: Float32Array<ArrayBuffer>): Float32Array<ArrayBuffer> {
    const p = this.poly.positions;
    for (let i = 0; i < this.triangles.length; i++) for (let k = 0; k < 3; k++) out[3 * i + k] = p[3 * this.triangles[i] + k];
    return out;
  }

  private buildWire(): void {
    const { cage, indexOf } = this;
    const ends: number[] = [];
    for (const e of cage.edges()) {
      const faces = [cage.face[2 * e], cage.face[2 * e + 1]];
      if (!this.visibleFaces || faces.some((f) => this.visibleFaces!.has(f))) ends.push(indexOf[cage.origin[2 * e]], indexOf[cage.origin[2 * e + 1]]);
    }
    this.wireIndex = Int32Array.from(ends);
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(this.gathered(this.wireIndex), 3));
    this.wire = new THREE.LineSegments(geometry, thinLines(this.colours.wire, this.settings.smooth ? 0.55 : 0.9));
    this.wire.visible = this.settings.cage;
    this.group.add(this.wire);
    // a vertex without edges would not be seen at all
    const lone = [...cage.vertices()].filter((v) => cage.vertexEdge[v] < 0);
    if (lone.length > 0) this.group.add(glyphPoints(this.pointsOf(lone), 0, this.colours.wire, 7));
  }

  private gathered(indices: Int32Array): Float32Array<ArrayBuffer> {
    const out = new Float32Array(3 * indices.length);
    for (let i = 0; i < indices.length; i++) for (let k = 0; k < 3; k++) out[3 * i + k] = this.poly.positions[3 * indices[i] + k];
    return out;
  }

  private buildSmooth(): void {
    const { part, poly } = this;
    if (poly.faceVertices.length === 0) return;
    const scheme = possibleScheme(part.scheme!, poly.faceStart.length - 1, poly.faceVertices.length);
    const first = scheme === 'loop' ? poly.faceStart.length - 1 : poly.faceVertices.length / 4;
    const level = deepestLevel(first, MOST_DRAWN, this.settings.level, 0);
    this.shownLevel = level;
    this.subdivision = new Subdivision(poly, { scheme, levels: level, borderCorners: part.borderCorners, plan: part.plan });
    const { last } = this.subdivision;
    const points = this.subdivision.evaluate(poly.positions);
    const cageFaces = this.subdivision.cageFaces();
    const { cornerPoint, copies } = splitAtCreases(last);
    this.creaseCopies = Int32Array.from(copies);
    const drawn = new Float32Array(points.length + 3 * copies.length);
    drawn.set(points);
    copies.forEach((v, i) => drawn.set(points.subarray(3 * v, 3 * v + 3), points.length + 3 * i));
    const surface = triangulate({ positions: Float64Array.from(drawn), faceStart: last.faceStart, faceVertices: cornerPoint });
    const [index, faces] = this.shownOf(surface.triangles, surface.faceOf, (f) => cageFaces[f]);
    this.smoothFaceCage = Int32Array.from(faces);
    for (let t = 0; t < faces.length; t++) this.smoothFaceCage[t] = cageFaces[faces[t]];
    const geometry = new THREE.BufferGeometry();
    geometry.setIndex(new THREE.BufferAttribute(index as Uint32Array<ArrayBuffer>, 1));
    geometry.setAttribute('position', new THREE.BufferAttribute(drawn, 3));
    geometry.setAttribute('normal', new THREE.BufferAttribute(new Float32Array(drawn.length), 3));
    vertexNormals(drawn, index, geometry.getAttribute('normal').array as Float32Array);
    this.smoothMesh = new THREE.Mesh(geometry, clayMaterial(this.colours, false, 1));
    this.group.add(this.smoothMesh);
    this.buildSeams(level);
    if (this.settings.overlays.density) this.buildDensity();
  }

  /** The cage's own edges on the smooth surface, thin. */
  private buildSeams(level: number): void {
    const { levels } = this.subdivision!;
    // either scheme numbers the halves of edge e as 2e and 2e + 1
    const pieces = 2 ** level;
    const { edgeVertices } = levels[level];
    this.seamPoints = edgeVertices.slice(0, 2 * levels[0].edges * pieces);
    if (this.visibleFaces) return;
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(this.seamPositions(), 3));
    this.seams = new THREE.LineSegments(geometry, thinLines(this.colours.wire, 0.35));
    this.seams.visible = !this.settings.cage;
    this.group.add(this.seams);
  }

  /** Every edge of the shown level, thin: how dense the surface is, and where. */
  private buildDensity(): void {
    const { edgeVertices } = this.subdivision!.last;
    const geometry = new THREE.BufferGeometry();
    // shares the surface's points, and follows them
    geometry.setAttribute('position', this.smoothMesh!.geometry.getAttribute('position'));
    geometry.setIndex(new THREE.BufferAttribute(Uint32Array.from(edgeVertices), 1));
    const lines = new THREE.LineSegments(geometry, thinLines(this.colours.wire, 0.4));
    this.group.add(lines);
  }

  private seamPositions(): Float32Array<ArrayBuffer> {
    const points = this.subdivision!.points[this.subdivision!.points.length - 1];
    const out = new Float32Array(3 * this.seamPoints!.length);
    for (let i = 0; i < this.seamPoints!.length; i++) for (let k = 0; k < 3; k++) out[3 * i + k] = points[3 * this.seamPoints![i] + k];
    return out;
  }

  private buildOverlays(): void {
    const { cage, settings, colours } = this;
    const { overlays } = settings;
    const fill = (what: 'triangles' | 'n-gons', colour: string, pattern: 'dots' | 'hatch') => {
      const faces = new Set(findAll(cage, what).faces);
      if (faces.size > 0) this.overlayGroup.add(this.faceFill(faces, patternMaterial(colour, pattern, 0.85)));
    };
    if (overlays.triangles) fill('triangles', colours.triangle, 'dots');
    if (overlays.ngons) fill('n-gons', colours.ngon, 'hatch');
    if (overlays.borders) {
      const edges = findAll(cage, 'borders').edges;
      const mean = edges.reduce((sum, e) => sum + cage.edgeLength(e), 0) / (edges.length || 1);
      this.overlayGroup.add(wideLines(this.edgePoints(edges), colours.border, 3, { dashed: true, dash: mean / 3 }));
    }
    if (overlays.creases) this.buildCreases();
    if (overlays.poles) {
      const byValence = new Map<number, number[]>();
      for (const v of cage.vertices())
        if (isPole(cage, v))
          (byValence.get(Math.min(7, cage.valence(v))) ?? byValence.set(Math.min(7, cage.valence(v)), []).get(Math.min(7, cage.valence(v)))!).push(v);
      for (const [valence, vertices] of byValence)
        this.overlayGroup.add(glyphPoints(this.pointsOf(vertices), Math.max(3, valence), colours.pole, 13));
    }
  }

  /** Bands along creases, the wider the sharper, and diamonds on corners. */
  private buildCreases(): void {
    const { cage, colours } = this;
    const byWidth = new Map<number, number[]>();
    for (const e of cage.edges()) {
      const sharpness = cage.value('crease', e);
      if (sharpness <= 0) continue;
      const width = 2 + Math.ceil(sharpness / 2);
      byWidth.set(width, [...(byWidth.get(width) ?? []), e]);
    }
    for (const [width, edges] of byWidth) this.overlayGroup.add(wideLines(this.edgePoints(edges), colours.crease, width));
    const corners = [...cage.vertices()].filter((v) => cage.value('corner', v) > 0);
    if (corners.length > 0) this.overlayGroup.add(glyphPoints(this.pointsOf(corners), 4, colours.crease, 14));
  }

  /** The triangles of some faces, in a material. */
  faceFill(faces: Set<number>, material: THREE.Material): THREE.Mesh {
    const picked: number[] = [];
    this.triangleFace.forEach(
      (f, t) => faces.has(this.poly.faceIds[f]) && picked.push(this.triangles[3 * t], this.triangles[3 * t + 1], this.triangles[3 * t + 2])
    );
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(this.gathered(Int32Array.from(picked)), 3));
    const mesh = new THREE.Mesh(geometry, material);
    mesh.renderOrder = 1;
    return mesh;
  }

  edgePoints(edges: Iterable<number>): Float32Array<ArrayBuffer> {
    const { cage, indexOf } = this;
    return this.gathered(Int32Array.from([...edges].flatMap((e) => [indexOf[cage.origin[2 * e]], indexOf[cage.origin[2 * e + 1]]])));
  }
  pointsOf(vertices: Iterable<number>): Float32Array<ArrayBuffer> {
    return this.gathered(Int32Array.from(vertices, (v) => this.indexOf[v]));
  }

  /** Marks for a selection or for what the pointer is over. */
  marks(selection: Selection, colour: string, style: { width: number; opacity: number; halo?: string }): THREE.Group {
    const group = new THREE.Group();
    if (selection.faces.length > 0) group.add(this.faceFill(new Set(selection.faces), patternMaterial(colour, 'solid', style.opacity)));
    const outline = new Set(selection.edges);
    for (const f of selection.faces.slice(0, 20000)) for (const h of this.cage.loopOf(this.cage.faceEdge[f])) outline.add(h >> 1);
    if (outline.size > 0)
      group.add(
        wideLines(this.edgePoints(outline), colour, selection.edges.length > 0 ? style.width : 2, {
          halo: selection.edges.length > 0 ? style.halo : undefined
        })
      );
    if (selection.vertices.length > 0) {
      if (style.halo) group.add(glyphPoints(this.pointsOf(selection.vertices), 0, style.halo, 12));
      const points = glyphPoints(this.pointsOf(selection.vertices), 0, colour, 9);
      points.renderOrder = 4;
      group.add(points);
    }
    return group;
  }

  /** Faces coloured by how much their vertices follow what is moved, with contour lines at every quarter. */
  falloff(weights: ReadonlyMap<number, number>, colour: string): THREE.Mesh {
    return this.shaded(
      Float32Array.from(this.poly.vertexIds, (v) => weights.get(v) ?? 0),
      colour
    );
  }

  /**
   * The smooth surface, or the cage where that is not shown, coloured by how far it is off, with contour lines at every quarter.
   * @param distance by point of a level of the surface, of which those of lower levels are the first; none where a deeper one is shown
   */
  deviation(distance: ArrayLike<number>, most: number, colour: string): THREE.Mesh | undefined {
    const share = (i: number) => Math.min(1, distance[i] / (most || 1));
    // fewer were measured for the cage before
    if (distance.length < this.poly.vertexIds.length || !(this.settings.cage || this.smoothMesh)) return undefined;
    if (!this.smoothMesh)
      return this.shaded(
        Float32Array.from(this.poly.vertexIds, (_, i) => share(i)),
        colour
      );
    const { points } = this.subdivision!;
    const count = points[points.length - 1].length / 3;
    if (distance.length < count) return undefined;
    const shown = this.smoothMesh.geometry;
    const geometry = new THREE.BufferGeometry();
    // shares the surface's points, and follows them
    geometry.setAttribute('position', shown.getAttribute('position'));
    geometry.setIndex(shown.index);
    const shares = Float32Array.from({ length: count + this.creaseCopies.length }, (_, i) => share(i < count ? i : this.creaseCopies[i - count]));
    geometry.setAttribute('share', new THREE.BufferAttribute(shares, 1));
    return new THREE.Mesh(geometry, falloffMaterial(colour));
  }

  /** Faces of the cage with a share of a colour at each vertex. */
  private shaded(shares: Float32Array, colour: string): THREE.Mesh {
    const corners: number[] = [];
    for (let t = 0; t < this.triangles.length; t += 3) {
      const three = this.triangles.subarray(t, t + 3);
      if (three.some((i) => shares[i] > 0)) corners.push(...three);
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(this.gathered(Int32Array.from(corners)), 3));
    geometry.setAttribute(
      'share',
      new THREE.BufferAttribute(
        Float32Array.from(corners, (i) => shares[i]),
        1
      )
    );
    return new THREE.Mesh(geometry, falloffMaterial(colour));
  }

  /** Takes new places of the same topology; much cheaper than drawing anew. */
  moveVertices(cage: Cage): void {
    const before = this.cage.positions;
    this.cage = cage;
    const p = this.poly.positions;
    const moved: number[] = [];
    this.poly.vertexIds.forEach((v, i) => {
      const [a, b] = [3 * v, 3 * i];
      if (before[a] === cage.positions[a] && before[a + 1] === cage.positions[a + 1] && before[a + 2] === cage.positions[a + 2]) return;
      for (let k = 0; k < 3; k++) p[b + k] = cage.positions[a + k];
      moved.push(i);
    });
    const faces = this.faces.geometry.getAttribute('position');
    this.loose(faces.array as Float32Array<ArrayBuffer>);
    faces.needsUpdate = true;
    this.faces.geometry.boundsTree?.refit();
    this.faces.geometry.computeBoundingSphere();
    const wire = this.wire.geometry.getAttribute('position');
    (wire.array as Float32Array).set(this.gathered(this.wireIndex));
    wire.needsUpdate = true;
    if (this.subdivision && this.smoothMesh) this.moveSmooth(moved);
    this.overlayGroup.visible = false;
    this.isBehind = true;
  }

  private moveSmooth(moved: number[]): void {
    const changed = this.subdivision!.update(moved);
    const points = this.subdivision!.points[this.subdivision!.points.length - 1];
    const geometry = this.smoothMesh!.geometry;
    const drawn = geometry.getAttribute('position');
    const array = drawn.array as Float32Array;
    const list = this.shownLevel === 0 ? moved : changed;
    for (let n = 0; n < list.length; n++) for (let k = 0; k < 3; k++) array[3 * list[n] + k] = points[3 * list[n] + k];
    const first = points.length;
    this.creaseCopies.forEach((v, i) => {
      for (let k = 0; k < 3; k++) array[first + 3 * i + k] = points[3 * v + k];
    });
    drawn.needsUpdate = true;
    const normals = geometry.getAttribute('normal');
    vertexNormals(array, geometry.index!.array, normals.array as Float32Array);
    normals.needsUpdate = true;
    if (this.seams) {
      (this.seams.geometry.getAttribute('position').array as Float32Array).set(this.seamPositions());
      this.seams.geometry.getAttribute('position').needsUpdate = true;
    }
  }

  /** What hides and is picked: faces of the cage, or the smooth surface where that alone is shown, with cage faces by their ids. */
  get pickSurface(): IdSurface {
    const { smoothMesh, smoothFaceCage, triangleFace, poly } = this;
    const smooth = !this.settings.cage && smoothMesh && smoothFaceCage ? smoothMesh : undefined;
    const { geometry } = smooth ?? this.faces;
    return {
      positions: geometry.getAttribute('position').array,
      index: geometry.index?.array,
      triangles: smooth ? smoothFaceCage!.length : this.triangles.length / 3,
      faceOf: (t) => poly.faceIds[smooth ? smoothFaceCage![t] : triangleFace[t]]
    };
  }

  /** Whether a face is drawn: with others isolated it may not be. */
  isShown(face: number): boolean {
    return !this.visibleFaces || this.visibleFaces.has(face);
  }

  /** The cage face under a ray, and where it was hit, on the cage or else on the smooth surface; what a section cuts away is not there. */
  faceUnder(
    raycaster: THREE.Raycaster,
    section?: THREE.Plane,
    onSmooth = false
  ): { face: number; point: THREE.Vector3; distance: number } | undefined {
    const target = (this.settings.cage && !onSmooth) || !this.smoothMesh ? this.faces : this.smoothMesh;
    const hits: THREE.Intersection[] = [];
    if (this.triangles.length > 0) {
      readyForRays(target);
      target.raycast(raycaster, hits);
    }
    hits.sort((a, b) => a.distance - b.distance);
    const hit = hits.find(({ point }) => !section || section.distanceToPoint(point) >= 0);
    if (hit?.faceIndex == null) return undefined;
    const f = target === this.faces ? this.triangleFace[hit.faceIndex] : this.smoothFaceCage![hit.faceIndex];
    return { face: this.poly.faceIds[f], point: hit.point, distance: hit.distance };
  }
}
