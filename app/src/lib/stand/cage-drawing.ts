import { type StandColours } from '$lib/settings/theme.svelte.ts';
import { isClosed, onlyMoved, triangulate, type Cage, type Part, type PolygonMesh, type Selection, type Triple } from '@ulvrin/core';
import * as THREE from 'three';
import { readyForRays } from './eye.ts';
import { following, followIn, followingPlaces, placesOf, type Written } from './followers.ts';
import { type IdSurface } from './id-buffer.ts';
import { dispose, falloffMaterial, glyphPoints, patternMaterial, wideLines, type LineSettings } from './marks/mark-shapes.ts';
import { clayMaterial, lineLights, paintedMaterial, thinLines } from './marks/materials.ts';
import { type MarkCanvas, type PaintValues } from './marks/overlay.ts';
import { rampColour, type Ramp } from './marks/ramps.ts';
import { cageOverlays } from './marks/registry.ts';
import { SmoothDrawing } from './smooth-drawing.ts';

export interface DrawingSettings {
  cage: boolean;
  smooth: boolean;
  level: number;
  cageOpacity: number;
  /** surfaces are seen through, and all wires */
  xray: boolean;
  /** overlays that are on, by id */
  overlays: Readonly<Record<string, boolean>>;
  /** of its clay; left out: that of the theme */
  clay?: string;
}

/** Opacity of a cage's faces over its smooth surface, and of surfaces in an x-ray. */
const [UNDER_WIRE, XRAY] = [0.16, 0.22];

/** One cage on the stand: its faces and wire, its smooth surface, its overlays, and what finds elements under the pointer. */
export class CageDrawing implements MarkCanvas {
  readonly group = new THREE.Group();
  /** faces as loose triangles, for flat shading and for picking */
  readonly faces: THREE.Mesh;
  readonly smooth?: SmoothDrawing;
  readonly colours: StandColours;
  private readonly poly: PolygonMesh & { vertexIds: Int32Array; faceIds: Int32Array };
  private readonly indexOf: Int32Array;
  private readonly triangles: Uint32Array;
  private readonly triangleFace: Uint32Array;
  private readonly wire: THREE.LineSegments;
  private readonly overlays = new THREE.Group();
  /** what is drawn has no open border */
  private readonly isClosed: boolean;
  /** vertices have moved since it was drawn */
  private isBehind = false;

  constructor(
    public part: Part,
    public cage: Cage,
    private readonly settings: DrawingSettings,
    private readonly theme: StandColours,
    /** faces that alone are drawn */
    private readonly visibleFaces: Set<number> | undefined
  ) {
    const colours = (this.colours = settings.clay ? { ...theme, clay: settings.clay } : theme);
    this.poly = cage.toPolygons();
    this.indexOf = new Int32Array(cage.vertexSlots);
    this.poly.vertexIds.forEach((v, i) => (this.indexOf[v] = i));
    this.isClosed = !visibleFaces && isClosed(this.poly);
    const { triangles, faceOf } = triangulate(this.poly);
    [this.triangles, this.triangleFace] = this.shownOf(triangles, faceOf);
    this.faces = this.drawnFaces();
    this.wire = this.drawnWire();
    if (settings.smooth && this.poly.faceVertices.length > 0) {
      const isShown = visibleFaces && ((face: number) => this.isShown(this.poly.faceIds[face]));
      const clay = { opacity: settings.xray ? XRAY : 1, closed: this.isClosed };
      this.smooth = new SmoothDrawing(this.poly, part, { ...settings, clay }, colours, isShown);
      this.group.add(this.smooth.group);
    }
    for (const { id, draw } of cageOverlays) if (settings.overlays[id]) for (const mark of draw(this)) this.overlays.add(mark);
    this.group.add(this.overlays);
  }

  dispose(): void {
    dispose(this.group);
  }

  /** Points of its smooth surface, or of its faces where that is not shown: x, y, z, one after the other. */
  get drawnPoints(): ArrayLike<number> {
    return (this.smooth?.mesh ?? this.faces).geometry.getAttribute('position').array;
  }
  get smoothMesh(): THREE.Mesh | undefined {
    return this.smooth?.mesh;
  }
  /** Level of the smooth surface really shown; 0 where none is. */
  get shownLevel(): number {
    return this.smooth?.level ?? 0;
  }
  /** Triangles it draws. */
  get size(): number {
    return this.triangles.length / 3 + (this.smooth?.faceOf.length ?? 0);
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
      colours === this.theme &&
      !this.isBehind &&
      JSON.stringify([scheme, borderCorners, plan, settings]) === JSON.stringify([part.scheme, part.borderCorners, part.plan, this.settings]) &&
      [...(isolated ?? [])].join() === [...(this.visibleFaces ?? [])].join() &&
      (isolated === undefined) === (this.visibleFaces === undefined)
    );
  }

  /** Triangles of faces that are shown, and the face of each. */
  private shownOf(triangles: Uint32Array, faceOf: Uint32Array): [Uint32Array, Uint32Array] {
    if (!this.visibleFaces) return [triangles, faceOf];
    const keep = faceOf.map((_, t) => t).filter((t) => this.isShown(this.poly.faceIds[faceOf[t]]));
    const kept = new Uint32Array(3 * keep.length);
    keep.forEach((t, i) => kept.set(triangles.subarray(3 * t, 3 * t + 3), 3 * i));
    return [kept, keep.map((t) => faceOf[t])];
  }

  private drawnFaces(): THREE.Mesh {
    const { smooth, cageOpacity, cage, xray } = this.settings;
    const opacity = (smooth ? UNDER_WIRE : xray ? XRAY : 1) * cageOpacity;
    const faces = this.patch(this.triangles, clayMaterial(this.colours, { flatShading: true, opacity, closed: this.isClosed }));
    faces.visible = cage && opacity > 0;
    this.group.add(faces);
    return faces;
  }

  private drawnWire(): THREE.LineSegments {
    const { cage, indexOf } = this;
    const ends: number[] = [];
    for (const e of cage.edges()) {
      const faces = [cage.face[2 * e], cage.face[2 * e + 1]];
      if (!this.visibleFaces || faces.some((f) => this.visibleFaces!.has(f))) ends.push(indexOf[cage.origin[2 * e]], indexOf[cage.origin[2 * e + 1]]);
    }
    const material = thinLines(this.colours.wire, this.settings.smooth ? 0.55 : 0.9);
    const wire = followingPlaces(Int32Array.from(ends), this.poly.positions, (geometry) => new THREE.LineSegments(geometry, material));
    wire.visible = this.settings.cage;
    this.group.add(wire);
    // a vertex without edges would not be seen at all
    const lone = [...cage.vertices()].filter((v) => cage.vertexEdge[v] < 0);
    if (lone.length > 0) this.overlays.add(this.glyphs(lone, 0, this.colours.wire, 7));
    return wire;
  }

  // ---- marks, which follow the cage's vertices

  private gathered(index: ArrayLike<number>): Float32Array<ArrayBuffer> {
    return placesOf(index, this.poly.positions);
  }
  private indicesOf(vertices: Iterable<number>): Int32Array {
    return Int32Array.from(vertices, (v) => this.indexOf[v]);
  }
  private endsOf(edges: Iterable<number>): Int32Array {
    const { cage } = this;
    return this.indicesOf([...edges].flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]));
  }
  edgePoints(edges: Iterable<number>): Float32Array<ArrayBuffer> {
    return this.gathered(this.endsOf(edges));
  }
  pointsOf(vertices: Iterable<number>): Float32Array<ArrayBuffer> {
    return this.gathered(this.indicesOf(vertices));
  }
  private cornersOf(faces: ReadonlySet<number>): number[] {
    const { triangles, triangleFace, poly } = this;
    const picked: number[] = [];
    triangleFace.forEach((f, t) => faces.has(poly.faceIds[f]) && picked.push(triangles[3 * t], triangles[3 * t + 1], triangles[3 * t + 2]));
    return picked;
  }

  /** Places of the triangles of some faces, three each. */
  fillPoints(faces: ReadonlySet<number>): Float32Array {
    return this.gathered(this.cornersOf(faces));
  }

  /** The triangles of some faces, in a material. */
  faceFill(faces: ReadonlySet<number>, material: THREE.Material): THREE.Mesh {
    const mesh = this.patch(this.cornersOf(faces), material);
    mesh.renderOrder = 1;
    return mesh;
  }

  private patch(corners: ArrayLike<number>, material: THREE.Material): THREE.Mesh {
    return followingPlaces(corners, this.poly.positions, (geometry) => new THREE.Mesh(geometry, material));
  }

  /** Wide lines along edges. */
  lines(edges: Iterable<number>, colour: string, width: number, settings: LineSettings = {}): THREE.Group {
    const index = this.endsOf(edges);
    const lines = wideLines(this.gathered(index), colour, width, settings);
    return lines.userData.places ? following(lines, lines.userData.places as Written, index) : lines;
  }

  /** Glyphs of a size in pixels on vertices. */
  glyphs(vertices: Iterable<number>, sides: number, colour: string, size: number): THREE.Points {
    const index = this.indicesOf(vertices);
    const points = glyphPoints(this.gathered(index), sides, colour, size);
    return following(points, points.geometry.getAttribute('position') as THREE.BufferAttribute, index);
  }

  /** Marks for a selection or for what the pointer is over. */
  marks(selection: Selection, colour: string, style: { width: number; opacity: number; halo?: string }): THREE.Group {
    const group = new THREE.Group();
    if (selection.faces.length > 0) group.add(this.faceFill(new Set(selection.faces), patternMaterial(colour, 'solid', style.opacity)));
    const outline = new Set(selection.edges);
    for (const f of selection.faces.slice(0, 20000)) for (const h of this.cage.loopOf(this.cage.faceEdge[f])) outline.add(h >> 1);
    if (outline.size > 0) {
      const own = selection.edges.length > 0;
      group.add(this.lines(outline, colour, own ? style.width : 2, { halo: own ? style.halo : undefined }));
    }
    if (selection.vertices.length > 0) {
      if (style.halo) group.add(this.glyphs(selection.vertices, 0, style.halo, 12));
      const points = this.glyphs(selection.vertices, 0, colour, 9);
      points.renderOrder = 4;
      group.add(points);
    }
    return group;
  }

  /** Faces coloured by shares of their vertices. @param contours whether lines run at every quarter */
  falloff(weights: ReadonlyMap<number, number>, colour: string, contours = true): THREE.Mesh {
    return this.shaded(
      Float32Array.from(this.poly.vertexIds, (v) => weights.get(v) ?? 0),
      colour,
      contours
    );
  }

  /** The smooth surface, or the cage where that is not shown, in the colours of a ramp; nothing for numbers of another cage. */
  painted({ by, values, colours, light, low, high }: PaintValues, ramp: Ramp): THREE.Mesh | undefined {
    const { poly, smooth, triangles, triangleFace } = this;
    if (light) return smooth?.lit(light) ?? (this.settings.cage ? this.patch(triangles, lineLights(true, light)) : undefined);
    // fewer were measured for the cage before
    if (values.length < (by === 'point' ? poly.vertexIds : poly.faceIds).length || !(this.settings.cage || smooth)) return undefined;
    const colourOf = (value: number) => rampColour(ramp, high > low ? (value - low) / (high - low) : 0.5);
    if (smooth && colours) return smooth.painted(smooth.coloursByPoint(by === 'face' ? colours : this.coloursByFace(colours)));
    if (smooth) return smooth.painted(coloursOf(by === 'point' ? values : smooth.byPoint(values), colourOf));
    const mesh = this.patch(triangles, paintedMaterial(true));
    const at = Uint32Array.from(triangles, (v, i) => (by === 'point' ? v : triangleFace[Math.floor(i / 3)]));
    const own = colours ? Float32Array.from({ length: 3 * at.length }, (_, i) => colours[3 * at[Math.floor(i / 3)] + (i % 3)]) : undefined;
    const shown =
      own ??
      coloursOf(
        Float64Array.from(at, (i) => values[i]),
        colourOf
      );
    mesh.geometry.setAttribute('color', new THREE.BufferAttribute(shown, 3));
    return mesh;
  }

  /** Colours of the polygons, the mean of their corners', from colours of the points. */
  private coloursByFace(colours: Float32Array): Float32Array {
    const { faceStart, faceVertices, faceIds } = this.poly;
    const mean = new Float32Array(3 * faceIds.length);
    for (let f = 0; f < faceIds.length; f++)
      for (let c = faceStart[f]; c < faceStart[f + 1]; c++)
        for (let k = 0; k < 3; k++) mean[3 * f + k] += colours[3 * faceVertices[c] + k] / (faceStart[f + 1] - faceStart[f]);
    return mean;
  }

  /** The value that a surface is painted with where a ray meets it: that of the face, or of the nearest point. */
  paintedAt(raycaster: THREE.Raycaster, { by, values }: PaintValues, section?: THREE.Plane): number | undefined {
    const { smooth, poly } = this;
    const hit = this.faceUnder(raycaster, section, true);
    if (!hit) return undefined;
    if (by === 'face') return values[poly.faceIds.indexOf(hit.face)];
    if (smooth) return values[smooth.pointNear(hit.triangle, hit.point)];
    const corners = this.triangles.subarray(3 * hit.triangle, 3 * hit.triangle + 3);
    const away = (v: number) => hit.point.distanceToSquared(new THREE.Vector3().fromArray(poly.positions, 3 * v));
    return values[corners.reduce((a, b) => (away(b) < away(a) ? b : a))];
  }

  /** Faces of the cage with a share of a colour at each vertex. */
  private shaded(shares: Float32Array, colour: string, contours: boolean): THREE.Mesh {
    const corners: number[] = [];
    for (let t = 0; t < this.triangles.length; t += 3) {
      const three = this.triangles.subarray(t, t + 3);
      if (three.some((i) => shares[i] > 0)) corners.push(...three);
    }
    const mesh = this.patch(corners, falloffMaterial(colour, contours));
    const own = Float32Array.from(corners, (i) => shares[i]);
    mesh.geometry.setAttribute('share', new THREE.BufferAttribute(own, 1));
    return mesh;
  }

  // ---- following

  /**
   * Takes new places of the same topology; of what is drawn, and of `marks`, only what has moved is touched.
   * @param moved vertices that may have moved since this very cage was drawn last; of another one they are looked for
   */
  moveVertices(cage: Cage, moved?: Iterable<number>, marks: readonly THREE.Object3D[] = []): void {
    const { positions } = this.poly;
    const points = this.indicesOf(moved && cage === this.cage ? moved : movedBetween(this.poly, cage));
    this.cage = cage;
    for (const i of points) for (let k = 0; k < 3; k++) positions[3 * i + k] = cage.positions[3 * this.poly.vertexIds[i] + k];
    for (const object of [this.faces, this.wire, this.overlays, ...marks]) followIn(object, points, positions);
    this.smooth?.move(points);
    for (const { geometry } of this.smooth ? [this.faces, this.smooth.mesh] : [this.faces]) {
      geometry.userData.treeIsBehind = true;
      // its sphere only sorts what is drawn: near enough as it was
      geometry.boundingBox = null;
    }
    this.isBehind = true;
  }

  /** Whether a cage has the topology that is drawn. */
  canFollow(cage: Cage): boolean {
    return cage === this.cage || onlyMoved(this.cage, cage);
  }

  // ---- what finds elements

  /** What hides and is picked: faces of the cage, or the smooth surface where that alone is shown, with cage faces by their ids. */
  get pickSurface(): IdSurface {
    const { smooth, triangleFace, poly } = this;
    const faceOf = !this.settings.cage && smooth ? smooth.faceOf : triangleFace;
    const { geometry } = !this.settings.cage && smooth ? smooth.mesh : this.faces;
    return {
      positions: geometry.getAttribute('position').array,
      index: geometry.index?.array,
      triangles: faceOf.length,
      faceOf: (t) => poly.faceIds[faceOf[t]]
    };
  }

  /** Where the surface lies under a point, or over it, along a normal; nothing where it is farther than some mm. */
  beside(p: Triple, normal: Triple, reach: number): Triple | undefined {
    const [at, way] = [new THREE.Vector3(...p), new THREE.Vector3(...normal)];
    const ray = new THREE.Raycaster(at.addScaledVector(way, reach), way.negate(), 0, 2 * reach);
    return this.faceUnder(ray, undefined, true)?.point.toArray();
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
  ): { face: number; point: THREE.Vector3; distance: number; triangle: number } | undefined {
    const smooth = (this.settings.cage && !onSmooth) || !this.smooth ? undefined : this.smooth;
    const target = smooth?.mesh ?? this.faces;
    const hits: THREE.Intersection[] = [];
    if (this.triangles.length > 0) {
      readyForRays(target);
      target.raycast(raycaster, hits);
    }
    hits.sort((a, b) => a.distance - b.distance);
    const hit = hits.find(({ point }) => !section || section.distanceToPoint(point) >= 0);
    if (hit?.faceIndex == null) return undefined;
    const f = smooth ? smooth.faceOf[hit.faceIndex] : this.triangleFace[hit.faceIndex];
    return { face: this.poly.faceIds[f], point: hit.point, distance: hit.distance, triangle: hit.faceIndex };
  }
}

/** Red, green and blue of each value. */
function coloursOf(values: ArrayLike<number>, colourOf: (value: number) => readonly number[]): Float32Array {
  const out = new Float32Array(3 * values.length);
  for (let i = 0; i < values.length; i++) out.set(colourOf(values[i]), 3 * i);
  return out;
}

/** Vertices of a cage that do not lie where they are drawn. */
function movedBetween({ positions, vertexIds }: { positions: Float64Array; vertexIds: Int32Array }, cage: Cage): number[] {
  const isMoved = (v: number, i: number) => [0, 1, 2].some((k) => positions[3 * i + k] !== cage.positions[3 * v + k]);
  return [...vertexIds].filter(isMoved);
}
