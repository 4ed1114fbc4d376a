import * as THREE from 'three';
import {
  boundsOf,
  emptySelection,
  type Cage,
  type Part,
  type PolygonMesh,
  type PointedPlace,
  type Pole,
  type Selection,
  type Triple
} from '@ulvrin/core';
import { preferences } from '$lib/settings/preferences.svelte.ts';
import { standColours, type StandColours } from '$lib/settings/theme.svelte.ts';
import { CageDrawing, type DrawingSettings } from './cage-drawing.ts';
import { EyeControl, type CameraState } from './eye-control.ts';
import { standingOn, standingSubject } from './extent.ts';
import { onPlane, onScreen, rayAt, type Eye } from './eye.ts';
import { Handle } from './handle/handle.ts';
import { type IdBuffer, type IdSurface, LastSeen } from './id-buffer.ts';
import { dispose } from './marks/mark-shapes.ts';
import { viewDepth, viewSize } from './marks/materials.ts';
import { StandMarks, type Painted } from './marks/stand-marks.ts';
import { pickAt, pickIn, placeAt, restingPlaceAt, type Area, type PickKind } from './picking.ts';
import { PicturePacker } from './picture-packer.ts';
import { References } from './references.ts';
import { Floor } from './floor.ts';
import { somePoints } from './framing.ts';
import { fadeOf } from './room.ts';
import { sectionPlane } from './section.ts';
import type { Side } from './sides.ts';
import { SpareDrawings } from './spare-drawings.ts';

/** A place that lies farther behind a surface is hidden by it; share of how far away it is looked at from. */
const BEHIND = 0.01;

/** The 3D view: draws on demand, moves the eye, finds what is under the pointer. Knows nothing of jobs. */
export class Stand {
  private readonly renderer: THREE.WebGLRenderer;
  private readonly scene = new THREE.Scene();
  /** where it is looked from */
  readonly eyes: EyeControl;
  /** moves, turns and sizes what is picked */
  readonly handle: Handle;
  private readonly floor = new Floor();
  private readonly references = new References();
  /** quads are laid on the reference by hand: it is solid, and what lies so many mm inside is seen; left out: they are not */
  laidOn: number | undefined;
  private readonly drawings = new Map<string, CageDrawing>();
  private readonly spares = new SpareDrawings();
  private readonly marks = new StandMarks();
  private readonly packer = new PicturePacker();
  private activeId = '';
  /** counts up with every change of what is drawn */
  private drawn = 0;
  private readonly lastSeen = new LastSeen();
  private queued = false;
  private colours: StandColours = standColours.light;
  private background: THREE.CanvasTexture | undefined;
  private readonly observer: ResizeObserver;
  /** frames drawn so far; tests wait for it, and find none while one is due */
  frames = 0;
  onCamera?: () => void;
  private readonly frameListeners = new Set<() => void>();

  /** @param side looked from for good; left out: the eye turns as it is dragged */
  constructor(
    private readonly host: HTMLElement,
    side?: Side
  ) {
    this.renderer = new THREE.WebGLRenderer({ antialias: !navigator.webdriver, stencil: true, powerPreference: 'high-performance' });
    this.renderer.setPixelRatio(navigator.webdriver ? 1 : Math.min(2, devicePixelRatio));
    // asking whether a program was linked well would wait for it
    this.renderer.debug.checkShaderErrors = import.meta.env.DEV;
    const { domElement } = this.renderer;
    host.appendChild(domElement);
    // the renderer makes everything again in the new context; what is missing is a frame
    domElement.addEventListener('webglcontextlost', () => (host.dataset.frames = ''));
    domElement.addEventListener('webglcontextrestored', () => this.draw());
    const moved = () => {
      this.draw();
      this.onCamera?.();
    };
    this.eyes = new EyeControl(host, domElement, moved, side);
    this.eyes.pivotAt = (x, y) => (preferences.now.orbitsPointer ? (this.surfaceAt(x, y) ?? this.referenceAt(x, y))?.at : undefined);
    this.handle = new Handle(() => this.eye);
    this.scene.add(this.floor.mesh, this.references.group, this.marks.group, this.handle.group);
    this.observer = new ResizeObserver(() => this.resize());
    this.observer.observe(host);
    this.resize();
  }

  end(): void {
    this.observer.disconnect();
    this.eyes.end();
    dispose(this.scene);
    this.spares.end();
    this.packer.end();
    this.background?.dispose();
    this.renderer.dispose();
    // browsers keep few contexts: one that only the garbage collector would free drops another view
    this.renderer.forceContextLoss();
    this.renderer.domElement.remove();
  }

  setTheme(night: boolean): void {
    const colours = night ? standColours.night : standColours.light;
    if (this.background && colours === this.colours) return;
    this.colours = colours;
    this.background?.dispose();
    this.background = fadeOf(colours);
    this.scene.background = this.background;
    this.floor.colour(colours);
    this.draw();
  }

  private resize(): void {
    const { clientWidth: w, clientHeight: h } = this.host;
    if (w === 0 || h === 0) return;
    this.renderer.setSize(w, h);
    this.eyes.resize();
    this.draw();
  }

  /** Calls back after every frame, for what is laid over it. @returns what ends that */
  afterFrames(listener: () => void): () => void {
    this.frameListeners.add(listener);
    return () => void this.frameListeners.delete(listener);
  }

  /** Draws once, before the next frame. */
  draw(): void {
    if (this.queued) return;
    this.queued = true;
    this.host.dataset.frames = '';
    requestAnimationFrame(() => {
      const { camera, orthographic, target } = this.eyes;
      this.queued = false;
      this.eyes.setNearAndFar();
      this.handle.pose();
      this.floor.pose(this.scale, this.eyes.distance);
      viewSize.set(this.host.clientWidth, this.host.clientHeight);
      viewDepth.value = this.eyes.distance;
      this.renderer.render(this.scene, camera);
      this.frames++;
      this.host.dataset.frames = String(this.frames);
      // what tests need to point at a place in an orthographic view
      this.host.dataset.pixelsPerMm = String((this.host.clientHeight * orthographic.zoom) / (2 * orthographic.top));
      this.host.dataset.target = target.toArray().join(' ');
      for (const tell of this.frameListeners) tell();
    });
  }

  /** Brings the drawn parts in line with the job; what has not changed stays as it is. */
  show(
    parts: readonly Part[],
    hidden: Set<string>,
    activeId: string,
    settingsOf: (part: Part) => DrawingSettings,
    preview: Cage | undefined,
    isolated: Set<number> | undefined
  ): void {
    const shown = parts.filter((p) => !hidden.has(p.id));
    const anyCage = shown.some((part) => {
      const { cage, smooth } = settingsOf(part);
      return part.kind === 'cage' && (cage || smooth);
    });
    this.references.show(
      shown.filter((p) => p.kind === 'reference'),
      this.colours,
      anyCage ? (this.laidOn === undefined ? 'ghost' : 'laid on') : undefined,
      this.laidOn
    );
    const before = new Map(this.drawings);
    this.drawings.clear();
    this.drawn++;
    this.activeId = activeId;
    for (const part of shown.filter((p) => p.kind === 'cage')) {
      const isActive = part.id === activeId;
      const wanted = [
        part,
        (isActive && preview) || part.cage!,
        settingsOf(part),
        this.colours,
        isActive ? isolated : undefined
      ] satisfies ConstructorParameters<typeof CageDrawing>;
      let drawing: CageDrawing | undefined = before.get(part.id);
      if (drawing?.shows(...wanted)) before.delete(part.id);
      else {
        drawing = this.spares.take(wanted) ?? new CageDrawing(...wanted);
        this.scene.add(drawing.group);
      }
      this.drawings.set(part.id, drawing);
    }
    for (const drawing of before.values()) this.spares.put(drawing);
    // a shadow is thrown by what is there, not by what is tried out
    if (!preview) this.floor.under(standingOn(this.references, this.drawings));
    this.draw();
  }

  /**
   * New places for vertices of the active cage, without drawing it anew.
   * @param moved vertices whose places are others; left out: they are looked for
   * @returns whether the same topology is drawn
   */
  moveVertices(cage: Cage, moved?: Iterable<number>): boolean {
    const { active } = this;
    if (!active?.canFollow(cage)) return false;
    active.moveVertices(cage, moved, this.marks.following);
    this.drawn++;
    this.draw();
    return true;
  }

  /** Follows the reference that is worked on. */
  moveReference(id: string, mesh: PolygonMesh, moved: Iterable<number>): void {
    this.references.follow(id, mesh, Int32Array.from(moved));
    this.draw();
  }

  /** Whether the grid of the floor is drawn; what stands on it throws its shadow at any rate. */
  set floorShown(on: boolean) {
    this.floor.visible = on;
    this.draw();
  }
  /** mm a pixel in the middle of the view. */
  get scale(): number {
    return this.eyes.heightSeen / this.host.clientHeight;
  }

  get shownLevel(): number | undefined {
    return this.active?.shownLevel;
  }

  // ---- marks

  mark(selection: Selection): void {
    this.marks.mark(this.active, selection, this.colours);
    this.draw();
  }
  markPreview(selection: Selection, poles: readonly Pole[]): void {
    this.marks.markPreview(this.active, selection, poles, this.colours);
    this.draw();
  }
  markPlaces(places: readonly PointedPlace[], closed: boolean): void {
    this.marks.markPlaces(this.active, places, closed, this.colours);
    this.draw();
  }
  hover(selection: Selection | undefined, run: readonly number[] = []): void {
    if (this.marks.hover(this.active, selection, run, this.colours)) this.draw();
  }
  markLines(points: Float32Array | undefined, double: Float32Array | undefined): void {
    this.marks.markLines(points, double, this.colours);
    this.draw();
  }
  markComing(ends: Float32Array | undefined): void {
    if (!this.marks.markComing(ends, this.colours)) return;
    this.host.dataset.coming = String((ends?.length ?? 0) / 6);
    this.draw();
  }
  markMask(mask: ReadonlyMap<number, number> | undefined): void {
    if (this.marks.markMask(this.active, mask, this.colours)) this.draw();
  }
  markFalloff(weights: ReadonlyMap<number, number> | undefined): void {
    this.marks.markFalloff(this.active, weights, this.colours);
    this.draw();
  }
  paint(shown: Painted | undefined): void {
    this.marks.paint(this.active, shown);
    this.draw();
  }

  /** Cuts the view open at a plane across the eye's main axis through a point; undefined closes it. */
  section(at: { point: Triple; offset: number } | undefined): void {
    this.renderer.clippingPlanes = at ? [sectionPlane(at, this.eyes.camera.getWorldDirection(new THREE.Vector3()))] : [];
    this.draw();
  }

  // ---- the eye

  get cameraState(): CameraState {
    return this.eyes.state;
  }
  set cameraState(state: CameraState) {
    this.eyes.state = state;
    this.draw();
  }
  get viewAxes(): [Triple, Triple, Triple] {
    return this.eyes.axes;
  }
  get sight(): { eye: Triple; parallel: boolean } {
    return this.eyes.sight;
  }

  /** Brings some points, or everything, into view. */
  frame(points?: ArrayLike<number>, atOnce = false): void {
    const subject = points?.length ? { ...boundsOf(points), points: somePoints([points]) } : standingSubject(this.references, this.drawings);
    if (subject) this.eyes.frame(subject, atOnce);
    this.draw();
  }

  /** The outline of another version over the part. */
  outline(part: Part | undefined, smooth: boolean): void {
    if (this.marks.outline(part, smooth, this.colours)) this.draw();
  }

  // ---- picking

  private get eye(): Eye {
    // the eye may have moved since the last frame was drawn
    this.eyes.camera.updateMatrixWorld();
    return { host: this.host, camera: this.eyes.camera, section: this.renderer.clippingPlanes[0] };
  }
  private get active(): CageDrawing | undefined {
    return this.drawings.get(this.activeId);
  }

  /** Of the view, in pixels. */
  get width(): number {
    return this.host.clientWidth;
  }
  onScreen(p: readonly [number, number, number]): [number, number] {
    return onScreen(this.eye, p);
  }

  /** The element of the active cage under the pointer. */
  pickAt(x: number, y: number, kind: PickKind): Selection | undefined {
    return this.active && pickAt(this.eye, this.active, x, y, kind);
  }

  /** Elements of the active cage in an area of the stand. */
  pickIn(area: Area, kind: PickKind, settings: { through: boolean; touched?: boolean }): Selection {
    if (!this.active) return emptySelection();
    return pickIn(this.eye, this.active, area, kind, { ...settings, seen: settings.through ? undefined : this.seen() });
  }

  /** What is seen of the active cage. */
  private seen(): IdBuffer {
    return this.lastSeen.of(this.eye, this.drawn, () => {
      const others = [...this.drawings.values()].filter((d) => d !== this.active);
      return [this.active!.pickSurface, ...others.map((d): IdSurface => ({ ...d.pickSurface, faceOf: () => -1 }))];
    });
  }

  /** A vertex, or with `edges` a place on an edge, under the pointer that does not move. */
  restingPlaceAt(cage: Cage, x: number, y: number, moving: ReadonlySet<number>, edges: boolean): PointedPlace | undefined {
    return restingPlaceAt(this.eye, cage, x, y, moving, edges);
  }

  /** A vertex, a place on an edge or inside a face of the active cage under the pointer. */
  placeAt(x: number, y: number): PointedPlace | undefined {
    return this.active && placeAt(this.eye, this.active, x, y);
  }

  /** A point of the active part's smooth surface, or of its cage where that alone is shown, and the cage face behind it. */
  surfaceAt(x: number, y: number): { face: number; at: Triple } | undefined {
    const hit = this.active?.faceUnder(rayAt(this.eye, x, y), this.eye.section, true);
    return hit && { face: hit.face, at: hit.point.toArray() };
  }

  /** Where the active part's surface lies beside a point, along a normal, within some mm. */
  surfaceBeside(p: Triple, normal: Triple, reach: number): Triple | undefined {
    return this.active?.beside(p, normal, reach);
  }

  /** Where the ray through a pixel meets the plane through a point: across the view, or with a normal of its own. */
  pointOnPlane(x: number, y: number, through: readonly [number, number, number], normal?: readonly [number, number, number]): Triple | undefined {
    return onPlane(this.eye, x, y, through, normal);
  }

  /** The value that the surface is painted with under a pixel, in words. */
  paintedAt(x: number, y: number): string | undefined {
    const { painted } = this.marks;
    const value = painted && this.active?.paintedAt(rayAt(this.eye, x, y), painted.values, this.eye.section);
    return value === undefined ? undefined : painted!.inWords(value);
  }

  /** Where the ray through a pixel meets a reference that is shown, and the normal there. */
  referenceAt(x: number, y: number): { at: Triple; normal: Triple } | undefined {
    const hit = this.references.hit(rayAt(this.eye, x, y));
    return hit && { at: hit.point.toArray(), normal: hit.normal };
  }

  /** Whether a place lies behind the reference, or the active part where none is shown: its other side, or another limb. */
  hides(p: Triple): boolean {
    const ray = rayAt(this.eye, ...this.onScreen(p));
    const hit = this.references.count > 0 ? this.references.hit(ray) : this.active?.faceUnder(ray, this.eye.section, true);
    const far = ray.ray.origin.distanceTo(new THREE.Vector3(...p));
    return hit !== undefined && hit.distance < far - BEHIND * this.eyes.distance;
  }

  /** A picture of all that stands there, for the jobs page and reports; a worker packs it. */
  picture(width = 480, height = 282): Promise<string> {
    return this.packer.take(this.renderer, this.scene, this.eyes, standingSubject(this.references, this.drawings), [width, height]);
  }
}
