import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import {
  boundsOf,
  emptySelection,
  positionOf,
  onlyMoved,
  shadedTriangles,
  type Cage,
  type Part,
  type PointedPlace,
  type Pole,
  type PolygonMesh,
  type Selection,
  triangulate,
  verticesOf,
  isEmpty
} from '@ulvrin/core';
import { standColours, type StandColours } from '$lib/theme.svelte.ts';
import { CageDrawing, type DrawingSettings } from './cage-drawing.ts';
import { onScreen, rayAt, readyForRays, type Eye } from './eye.ts';
import { FrameHandles, type HandleSettings } from './handles.ts';
import { dispose, glyphPoints, wideLines } from './marks.ts';
import { IdBuffer, type IdSurface } from './id-buffer.ts';
import { PicturePacker } from './picture-packer.ts';
import { SpareDrawings } from './spare-drawings.ts';
import { pickAt, pickIn, placeAt, restingPlaceAt, type Area, type PickKind } from './picking.ts';

type Triple = [number, number, number];

/** A place that lies farther behind a surface is hidden by it; share of how far away it is looked at from. */
const BEHIND = 0.01;

export type Side = 'front' | 'back' | 'left' | 'right' | 'top' | 'bottom';

/** Where the eye is; kept with the job. */
export interface CameraState {
  position: [number, number, number];
  target: [number, number, number];
  orthographic: boolean;
  zoom: number;
}

const SIDES: Record<Side, [number, number, number]> = {
  front: [0, 0, 1],
  back: [0, 0, -1],
  left: [-1, 0, 0],
  right: [1, 0, 0],
  top: [0, 1, 0],
  bottom: [0, -1, 0]
};
/** The 3D view: draws on demand, moves the eye, finds what is under the pointer. Knows nothing of jobs. */
export class Stand {
  private renderer: THREE.WebGLRenderer;
  private scene = new THREE.Scene();
  private perspective = new THREE.PerspectiveCamera(35, 1, 0.1, 10000);
  private orthographic = new THREE.OrthographicCamera(-1, 1, 1, -1, -10000, 10000);
  private camera: THREE.PerspectiveCamera | THREE.OrthographicCamera = this.perspective;
  private controls: OrbitControls;
  private handles: FrameHandles;
  private references = new Map<string, { mesh: PolygonMesh; object: THREE.Mesh }>();
  private drawings = new Map<string, CageDrawing>();
  private readonly spares = new SpareDrawings();
  private readonly packer = new PicturePacker();
  private activeId = '';
  /** counts up with every change of what is drawn */
  private drawn = 0;
  private seenAt: { key: string; buffer: IdBuffer } | undefined;
  private selectionMarks = new THREE.Group();
  private hoverMarks = new THREE.Group();
  private falloffMarks = new THREE.Group();
  private deviationMarks = new THREE.Group();
  private lineMarks = new THREE.Group();
  private comingMarks = new THREE.Group();
  private plane = new THREE.Plane(new THREE.Vector3(-1, 0, 0), 0);
  private queued = false;
  private colours: StandColours = standColours.light;
  private background: THREE.CanvasTexture | undefined;
  private observer: ResizeObserver;
  /** frames drawn so far; tests wait for it, and find none while one is due */
  frames = 0;
  onCamera?: () => void;
  private readonly frameListeners = new Set<() => void>();

  constructor(private readonly host: HTMLElement) {
    this.renderer = new THREE.WebGLRenderer({ antialias: !navigator.webdriver, powerPreference: 'high-performance' });
    this.renderer.setPixelRatio(navigator.webdriver ? 1 : Math.min(2, devicePixelRatio));
    // asking whether a program was linked well would wait for it
    this.renderer.debug.checkShaderErrors = import.meta.env.DEV;
    host.appendChild(this.renderer.domElement);
    // the renderer makes everything again in the new context; what is missing is a frame
    this.renderer.domElement.addEventListener('webglcontextlost', () => (host.dataset.frames = ''));
    this.renderer.domElement.addEventListener('webglcontextrestored', () => this.draw());
    this.perspective.position.set(120, 90, 160);
    this.controls = new OrbitControls(this.perspective, this.renderer.domElement);
    this.controls.mouseButtons = { LEFT: null, MIDDLE: THREE.MOUSE.PAN, RIGHT: THREE.MOUSE.ROTATE };
    this.controls.zoomToCursor = true;
    this.controls.addEventListener('change', () => {
      this.draw();
      this.onCamera?.();
    });
    this.handles = new FrameHandles(this.scene, this.perspective, this.renderer.domElement, {
      draw: () => this.draw(),
      dragging: (on) => (this.controls.enabled = !on)
    });
    this.setUpLights();
    this.scene.add(this.lineMarks, this.comingMarks, this.falloffMarks, this.deviationMarks, this.selectionMarks, this.hoverMarks);
    this.observer = new ResizeObserver(() => this.resize());
    this.observer.observe(host);
    this.resize();
  }

  end(): void {
    this.observer.disconnect();
    this.controls.dispose();
    this.handles.end();
    dispose(this.scene);
    this.spares.end();
    this.packer.end();
    this.background?.dispose();
    this.renderer.dispose();
    // browsers keep few contexts: one that only the garbage collector would free drops another view
    this.renderer.forceContextLoss();
    this.renderer.domElement.remove();
  }

  private setUpLights(): void {
    this.scene.add(new THREE.HemisphereLight(0xffffff, 0x7a7568, 1.25));
    const key = new THREE.DirectionalLight(0xffffff, 1.55);
    key.position.set(0.5, 0.8, 1);
    // the light goes with the eye, so that shape reads from every side
    this.perspective.add(key);
    const second = key.clone();
    this.orthographic.add(second);
    this.scene.add(this.perspective, this.orthographic);
  }

  setTheme(night: boolean): void {
    const colours = night ? standColours.night : standColours.light;
    if (this.background && colours === this.colours) return;
    this.colours = colours;
    this.background?.dispose();
    const canvas = document.createElement('canvas');
    canvas.width = 2;
    canvas.height = 256;
    const c = canvas.getContext('2d')!;
    const fade = c.createLinearGradient(0, 0, 0, 256);
    fade.addColorStop(0, this.colours.top);
    fade.addColorStop(1, this.colours.bottom);
    c.fillStyle = fade;
    c.fillRect(0, 0, 2, 256);
    this.background = new THREE.CanvasTexture(canvas);
    this.background.colorSpace = THREE.SRGBColorSpace;
    this.scene.background = this.background;
    this.draw();
  }

  private resize(): void {
    const { clientWidth: w, clientHeight: h } = this.host;
    if (w === 0 || h === 0) return;
    this.renderer.setSize(w, h);
    this.perspective.aspect = w / h;
    this.perspective.updateProjectionMatrix();
    this.fitOrthographic();
    this.draw();
  }

  private fitOrthographic(): void {
    const { clientWidth: w, clientHeight: h } = this.host;
    const half = this.orthographic.position.distanceTo(this.controls.target) * Math.tan((this.perspective.fov * Math.PI) / 360) || 50;
    Object.assign(this.orthographic, { left: (-half * w) / h, right: (half * w) / h, top: half, bottom: -half });
    this.orthographic.updateProjectionMatrix();
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
      this.queued = false;
      this.setNearAndFar();
      this.renderer.render(this.scene, this.camera);
      this.frames++;
      this.host.dataset.frames = String(this.frames);
      // what tests need to point at a place in an orthographic view
      this.host.dataset.pixelsPerMm = String((this.host.clientHeight * this.orthographic.zoom) / (2 * this.orthographic.top));
      this.host.dataset.target = this.controls.target.toArray().join(' ');
      for (const tell of this.frameListeners) tell();
    });
  }

  private setNearAndFar(): void {
    const away = this.perspective.position.distanceTo(this.controls.target);
    this.perspective.near = away / 100;
    this.perspective.far = away * 40;
    this.perspective.updateProjectionMatrix();
  }

  /** Brings the drawn parts in line with the job; what has not changed stays as it is. */
  show(
    parts: readonly Part[],
    hidden: Set<string>,
    activeId: string,
    settings: DrawingSettings,
    preview: Cage | undefined,
    isolated: Set<number> | undefined
  ): void {
    const anyCage = parts.some((p) => p.kind === 'cage' && !hidden.has(p.id) && (settings.cage || settings.smooth));
    this.showReferences(
      parts.filter((p) => p.kind === 'reference' && !hidden.has(p.id)),
      anyCage
    );
    const before = new Map(this.drawings);
    this.drawings.clear();
    this.drawn++;
    this.activeId = activeId;
    for (const part of parts) {
      if (part.kind !== 'cage' || hidden.has(part.id)) continue;
      const isActive = part.id === activeId;
      const wanted = [
        part,
        (isActive && preview) || part.cage!,
        settings,
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
    this.draw();
  }

  private showReferences(parts: Part[], ghost: boolean): void {
    const wanted = new Set(parts.map((p) => p.id));
    for (const [id, { object }] of this.references)
      if (!wanted.has(id)) {
        dispose(object);
        this.references.delete(id);
      }
    for (const part of parts) {
      let drawn = this.references.get(part.id);
      if (drawn?.mesh !== part.mesh) {
        if (drawn) dispose(drawn.object);
        drawn = { mesh: part.mesh!, object: referenceObject(part.mesh!) };
        this.references.set(part.id, drawn);
        this.scene.add(drawn.object);
      }
      const material = drawn!.object.material as THREE.MeshLambertMaterial;
      material.color.set(this.colours.clay);
      material.needsUpdate ||= material.transparent !== ghost;
      material.transparent = ghost;
      material.opacity = ghost ? 0.25 : 1;
      material.depthWrite = !ghost;
    }
  }

  /** New places for vertices of the active cage, without drawing it anew. @returns whether the same topology is drawn */
  moveVertices(cage: Cage): boolean {
    const { active } = this;
    if (!active || !onlyMoved(active.cage, cage)) return false;
    active.moveVertices(cage);
    this.drawn++;
    this.draw();
    return true;
  }

  mark(selection: Selection): void {
    this.selectionMarks.children.slice().forEach(dispose);
    const drawing = this.drawings.get(this.activeId);
    if (drawing && !isEmpty(selection))
      this.selectionMarks.add(drawing.marks(selection, this.colours.selected, { width: 4, opacity: 0.55, halo: '#ffffff' }));
    this.draw();
  }

  /** Marks what a preview would make: dashes in ink on its new edges, glyphs on the poles that appear. */
  markPreview(selection: Selection, poles: readonly Pole[]): void {
    this.selectionMarks.children.slice().forEach(dispose);
    const drawing = this.drawings.get(this.activeId);
    if (drawing) {
      const { cage } = drawing;
      const edges = new Set(selection.edges);
      for (const f of selection.faces) for (const h of cage.loopOf(cage.faceEdge[f])) edges.add(h >> 1);
      const mean = [...edges].reduce((sum, e) => sum + cage.edgeLength(e), 0) / (edges.size || 1);
      this.selectionMarks.add(wideLines(drawing.edgePoints(edges), this.colours.wire, 3, { dashed: true, dash: mean / 6 }));
      for (const valence of new Set(poles.map((p) => p.valence))) {
        const at = poles.filter((p) => p.valence === valence && cage.hasVertex(p.vertex)).map((p) => p.vertex);
        this.selectionMarks.add(glyphPoints(drawing.pointsOf(at), Math.max(3, valence), this.colours.pole, 15));
      }
    }
    this.draw();
  }

  /** Marks what the pointer is over, and with it edges that belong to it: the run of its loop. */
  hover(selection: Selection | undefined, run: number[] = []): void {
    if (!selection && this.hoverMarks.children.length === 0) return;
    this.hoverMarks.children.slice().forEach(dispose);
    const drawing = this.drawings.get(this.activeId);
    if (drawing && selection) {
      this.hoverMarks.add(drawing.marks(selection, this.colours.hover, { width: 4, opacity: 0.3 }));
      if (run.length > 1) this.hoverMarks.add(wideLines(drawing.edgePoints(run), this.colours.hover, 1.5));
    }
    this.draw();
  }

  /** Cuts the view open at a plane across the eye's main axis through a point; undefined closes it. */
  section(at: { point: [number, number, number]; offset: number } | undefined): void {
    if (at) {
      const eye = this.camera.getWorldDirection(new THREE.Vector3());
      const axis = (['x', 'y', 'z'] as const).reduce((m, k) => (Math.abs(eye[k]) > Math.abs(eye[m]) ? k : m));
      const normal = new THREE.Vector3();
      normal[axis] = Math.sign(eye[axis]) || 1;
      this.plane.setFromNormalAndCoplanarPoint(normal, new THREE.Vector3(...at.point));
      this.plane.constant -= at.offset;
    }
    this.renderer.clippingPlanes = at ? [this.plane] : [];
    this.draw();
  }

  // ---- the eye

  get cameraState(): CameraState {
    const { position } = this.camera;
    return {
      position: position.toArray(),
      target: this.controls.target.toArray(),
      orthographic: this.camera === this.orthographic,
      zoom: this.camera.zoom
    };
  }

  set cameraState(state: CameraState) {
    this.use(state.orthographic ? this.orthographic : this.perspective);
    this.camera.position.set(...state.position);
    this.controls.target.set(...state.target);
    this.camera.zoom = state.zoom;
    this.camera.updateProjectionMatrix();
    if (state.orthographic) this.fitOrthographic();
    this.controls.update();
    this.draw();
  }

  private use(camera: THREE.PerspectiveCamera | THREE.OrthographicCamera): void {
    if (camera === this.camera) return;
    camera.position.copy(this.camera.position);
    this.camera = camera;
    this.controls.object = camera;
    this.handles.camera = camera;
    if (camera === this.orthographic) {
      camera.zoom = 1;
      this.fitOrthographic();
    }
    this.controls.update();
    this.draw();
    this.onCamera?.();
  }

  setOrthographic(on: boolean): void {
    this.use(on ? this.orthographic : this.perspective);
  }

  /** Looks at the target from one side, orthographically. */
  lookFrom(side: Side): void {
    const away = this.camera.position.distanceTo(this.controls.target);
    this.setOrthographic(true);
    this.camera.position.copy(this.controls.target).addScaledVector(new THREE.Vector3(...SIDES[side]), away);
    this.controls.update();
    this.fitOrthographic();
    this.draw();
  }

  /** Brings some points, or everything, into the middle of the view. */
  frame(points?: ArrayLike<number>): void {
    let bounds = points && points.length > 0 ? boundsOf(points) : undefined;
    if (!bounds) {
      const box = new THREE.Box3();
      for (const { object } of this.references.values()) box.expandByObject(object);
      for (const drawing of this.drawings.values()) box.expandByObject(drawing.faces);
      if (box.isEmpty()) return;
      bounds = { min: box.min.toArray(), max: box.max.toArray(), diagonal: box.getSize(new THREE.Vector3()).length() };
    }
    const centre = new THREE.Vector3(...bounds.min).add(new THREE.Vector3(...bounds.max)).multiplyScalar(0.5);
    const away = (0.5 * Math.max(bounds.diagonal, 1)) / Math.sin((this.perspective.fov * Math.PI) / 360) / Math.min(1, this.perspective.aspect);
    const direction = this.camera.position.clone().sub(this.controls.target).normalize();
    this.controls.target.copy(centre);
    this.camera.position.copy(centre).addScaledVector(direction, away * 0.95);
    this.camera.zoom = 1;
    this.fitOrthographic();
    this.camera.updateProjectionMatrix();
    this.controls.update();
    this.draw();
    this.onCamera?.();
  }

  // ---- handles

  showHandles(settings: HandleSettings | undefined): void {
    if (settings) this.handles.show(settings);
    else this.handles.hide();
    this.draw();
  }

  /** Puts the handles where typed numbers say. */
  followNumbers(x: number, y: number, z: number): void {
    this.handles.follow([x, y, z]);
    this.draw();
  }

  get overHandles(): boolean {
    return this.handles.hovered;
  }

  // ---- picking

  private get eye(): Eye {
    // the eye may have moved since the last frame was drawn
    this.camera.updateMatrixWorld();
    return { host: this.host, camera: this.camera, section: this.renderer.clippingPlanes[0] };
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

  /** What is seen of the active cage; drawn anew only where the view or what is drawn is another one. */
  private seen(): IdBuffer {
    const { eye, active } = this;
    const { camera, section, host } = eye;
    const view = [camera.matrixWorld.elements, camera.projectionMatrix.elements, section?.normal.toArray(), section?.constant];
    const key = [this.drawn, host.clientWidth, host.clientHeight, ...view].join(' ');
    if (this.seenAt?.key !== key) {
      const others = [...this.drawings.values()].filter((d) => d !== active);
      const hiding = others.map((d): IdSurface => ({ ...d.pickSurface, faceOf: () => -1 }));
      this.seenAt = { key, buffer: new IdBuffer(eye, [active!.pickSurface, ...hiding]) };
    }
    return this.seenAt.buffer;
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

  /** Where the ray through a pixel meets the plane through a point: across the view, or with a normal of its own. */
  pointOnPlane(x: number, y: number, through: readonly [number, number, number], normal?: readonly [number, number, number]): Triple | undefined {
    const across = normal ? new THREE.Vector3(...normal) : this.camera.getWorldDirection(new THREE.Vector3());
    const plane = new THREE.Plane().setFromNormalAndCoplanarPoint(across, new THREE.Vector3(...through));
    return rayAt(this.eye, x, y).ray.intersectPlane(plane, new THREE.Vector3())?.toArray();
  }

  /** Where the ray through a pixel meets a reference that is shown. */
  pointOnReference(x: number, y: number): Triple | undefined {
    return this.referenceHits(rayAt(this.eye, x, y))[0]?.point.toArray();
  }

  /** Whether a place lies behind the reference, or the active part where none is shown: its other side, or another limb. */
  hides(p: Triple): boolean {
    const ray = rayAt(this.eye, ...this.onScreen(p));
    const hit = this.references.size > 0 ? this.referenceHits(ray)[0] : this.active?.faceUnder(ray, this.eye.section, true);
    const far = ray.ray.origin.distanceTo(new THREE.Vector3(...p));
    return hit !== undefined && hit.distance < far - BEHIND * this.camera.position.distanceTo(this.controls.target);
  }

  private referenceHits(raycaster: THREE.Raycaster): THREE.Intersection[] {
    const objects = [...this.references.values()].map(({ object }) => object);
    objects.forEach(readyForRays);
    return raycaster.intersectObjects(objects);
  }

  /** Directions of the view: right, up, and towards the eye. */
  get viewAxes(): [Triple, Triple, Triple] {
    const [right, up, back] = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()];
    this.camera.matrixWorld.extractBasis(right, up, back);
    return [right.toArray(), up.toArray(), back.toArray()];
  }

  /** Where the eye is, or, where all look the same way, that way. */
  get sight(): { eye: Triple; parallel: boolean } {
    const parallel = this.camera === this.orthographic;
    return { eye: parallel ? this.camera.getWorldDirection(new THREE.Vector3()).toArray() : this.camera.position.toArray(), parallel };
  }

  /** Marks pointed places and the way between them. */
  markPlaces(places: readonly PointedPlace[], closed: boolean): void {
    this.selectionMarks.children.slice().forEach(dispose);
    const { active } = this;
    if (active && places.length > 0) {
      const at = places.map((p) => positionOf(active.cage, p));
      this.selectionMarks.add(glyphPoints(Float32Array.from(at.flat()), 0, this.colours.selected, 9));
      const next = closed && at.length > 2 ? [...at, at[0]] : at;
      const ways = next.slice(1).flatMap((p, i) => [...next[i], ...p]);
      const first = ways.length > 0 ? Math.hypot(at[1][0] - at[0][0], at[1][1] - at[0][1], at[1][2] - at[0][2]) : 1;
      this.selectionMarks.add(wideLines(Float32Array.from(ways), this.colours.wire, 3, { dashed: true, dash: first / 6 }));
    }
    this.draw();
  }

  /** Shows lines over the surface, and double ones: x, y, z of both ends, one after the other. */
  markLines(points: Float32Array | undefined, double: Float32Array | undefined): void {
    this.lineMarks.children.slice().forEach(dispose);
    if (points) this.lineMarks.add(wideLines(points, this.colours.selected, 3));
    if (double) this.lineMarks.add(wideLines(double, this.colours.clay, 2, { halo: this.colours.wire }));
    this.draw();
  }

  /** Shows edges of quads that are on their way: x, y, z of both ends, one after the other. */
  markComing(ends: Float32Array | undefined): void {
    if (!ends && this.comingMarks.children.length === 0) return;
    this.comingMarks.children.slice().forEach(dispose);
    if (ends) this.comingMarks.add(wideLines(ends, this.colours.wire, 1));
    this.host.dataset.coming = String((ends?.length ?? 0) / 6);
    this.draw();
  }

  /** Shows how much vertices follow what is moved. */
  markFalloff(weights: ReadonlyMap<number, number> | undefined): void {
    this.falloffMarks.children.slice().forEach(dispose);
    if (weights && this.active) this.falloffMarks.add(this.active.falloff(weights, this.colours.selected));
    this.draw();
  }

  /** Shows how far the active part's smooth surface is off. @param distance see `CageDrawing.deviation` */
  markDeviation(distance: Float64Array | undefined, most: number): void {
    this.deviationMarks.children.slice().forEach(dispose);
    const shaded = distance && this.active?.deviation(distance, most, this.colours.deviation);
    if (shaded) this.deviationMarks.add(shaded);
    this.draw();
  }

  get shownLevel(): number | undefined {
    return this.drawings.get(this.activeId)?.shownLevel;
  }

  selectionPoints(cage: Cage, selection: Selection): Float64Array {
    return Float64Array.from(verticesOf(cage, selection).flatMap((v) => cage.position(v)));
  }

  /** A small picture of the view, for the jobs page; a worker packs it. */
  picture(width = 320, height = 200): Promise<string> {
    // what was drawn is there until this task ends
    this.renderer.render(this.scene, this.camera);
    return this.packer.pack(this.renderer.domElement, width, height);
  }
}

function referenceObject(mesh: PolygonMesh): THREE.Mesh {
  const geometry = new THREE.BufferGeometry();
  const { positions, normals, triangles } = shadedTriangles(mesh.positions, triangulate(mesh).triangles);
  geometry.setIndex(new THREE.BufferAttribute(triangles, 1));
  geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new THREE.BufferAttribute(normals, 3));
  const object = new THREE.Mesh(
    geometry,
    new THREE.MeshLambertMaterial({ side: THREE.DoubleSide, polygonOffset: true, polygonOffsetFactor: 2, polygonOffsetUnits: 2 })
  );
  return object;
}
