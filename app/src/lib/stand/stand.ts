import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { TransformControls } from 'three/addons/controls/TransformControls.js';
import {
  between,
  boundsOf,
  emptySelection,
  type Cage,
  type CutPoint,
  type ElementKind,
  type Part,
  type PolygonMesh,
  type Selection,
  triangulate,
  verticesOf,
  isEmpty
} from '@ulvrin/core';
import { standColours, type StandColours } from '$lib/theme.svelte.ts';
import { CageDrawing, type DrawingSettings } from './cage-drawing.ts';
import { dispose, glyphPoints, wideLines } from './marks.ts';

export type PickKind = ElementKind | 'nearest';
export type Side = 'front' | 'back' | 'left' | 'right' | 'top' | 'bottom';

/** Where the eye is; kept with the job. */
export interface CameraState {
  position: [number, number, number];
  target: [number, number, number];
  orthographic: boolean;
  zoom: number;
}

export interface Handles {
  mode: 'translate' | 'rotate' | 'scale';
  /** total change since the drag began: mm, degrees or factors along X, Y, Z */
  changed: (x: number, y: number, z: number) => void;
}

const SIDES: Record<Side, [number, number, number]> = {
  front: [0, 0, 1],
  back: [0, 0, -1],
  left: [-1, 0, 0],
  right: [1, 0, 0],
  top: [0, 1, 0],
  bottom: [0, -1, 0]
};
/** Pixels within which a vertex or an edge is taken to be under the pointer. */
const REACH = 12;

/** The 3D view: draws on demand, moves the eye, finds what is under the pointer. Knows nothing of jobs. */
export class Stand {
  private renderer: THREE.WebGLRenderer;
  private scene = new THREE.Scene();
  private perspective = new THREE.PerspectiveCamera(35, 1, 0.1, 10000);
  private orthographic = new THREE.OrthographicCamera(-1, 1, 1, -1, -10000, 10000);
  private camera: THREE.PerspectiveCamera | THREE.OrthographicCamera = this.perspective;
  private controls: OrbitControls;
  private transform: TransformControls;
  private pivot = new THREE.Object3D();
  private references = new Map<string, { mesh: PolygonMesh; object: THREE.Mesh }>();
  private drawings = new Map<string, CageDrawing>();
  private activeId = '';
  private selectionMarks = new THREE.Group();
  private hoverMarks = new THREE.Group();
  private plane = new THREE.Plane(new THREE.Vector3(-1, 0, 0), 0);
  private raycaster = new THREE.Raycaster();
  private queued = false;
  private colours: StandColours = standColours.light;
  private observer: ResizeObserver;
  private handles?: Handles;
  /** frames drawn so far; tests wait for it */
  frames = 0;
  onCamera?: () => void;

  constructor(private readonly host: HTMLElement) {
    this.renderer = new THREE.WebGLRenderer({ antialias: !navigator.webdriver, powerPreference: 'high-performance' });
    this.renderer.setPixelRatio(navigator.webdriver ? 1 : Math.min(2, devicePixelRatio));
    host.appendChild(this.renderer.domElement);
    this.perspective.position.set(120, 90, 160);
    this.controls = new OrbitControls(this.perspective, this.renderer.domElement);
    this.controls.mouseButtons = { LEFT: null, MIDDLE: THREE.MOUSE.PAN, RIGHT: THREE.MOUSE.ROTATE };
    this.controls.zoomToCursor = true;
    this.controls.addEventListener('change', () => {
      this.draw();
      this.onCamera?.();
    });
    this.transform = new TransformControls(this.perspective, this.renderer.domElement);
    this.transform.size = 0.8;
    this.transform.addEventListener('dragging-changed', (event) => (this.controls.enabled = !event.value));
    this.transform.addEventListener('change', () => this.draw());
    this.transform.addEventListener('objectChange', () => this.tellHandles());
    this.setUpLights();
    this.scene.add(this.selectionMarks, this.hoverMarks, this.pivot);
    this.observer = new ResizeObserver(() => this.resize());
    this.observer.observe(host);
    this.resize();
  }

  end(): void {
    this.observer.disconnect();
    this.controls.dispose();
    this.transform.dispose();
    dispose(this.scene);
    this.renderer.dispose();
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
    this.colours = night ? standColours.night : standColours.light;
    const canvas = document.createElement('canvas');
    canvas.width = 2;
    canvas.height = 256;
    const c = canvas.getContext('2d')!;
    const fade = c.createLinearGradient(0, 0, 0, 256);
    fade.addColorStop(0, this.colours.top);
    fade.addColorStop(1, this.colours.bottom);
    c.fillStyle = fade;
    c.fillRect(0, 0, 2, 256);
    const texture = new THREE.CanvasTexture(canvas);
    texture.colorSpace = THREE.SRGBColorSpace;
    this.scene.background = texture;
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

  /** Draws once, before the next frame. */
  draw(): void {
    if (this.queued) return;
    this.queued = true;
    requestAnimationFrame(() => {
      this.queued = false;
      this.setNearAndFar();
      this.renderer.render(this.scene, this.camera);
      this.frames++;
      this.host.dataset.frames = String(this.frames);
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
    for (const drawing of this.drawings.values()) drawing.dispose();
    this.drawings.clear();
    this.activeId = activeId;
    for (const part of parts) {
      if (part.kind !== 'cage' || hidden.has(part.id)) continue;
      const isActive = part.id === activeId;
      const drawing = new CageDrawing(part, (isActive && preview) || part.cage!, settings, this.colours, isActive ? isolated : undefined);
      this.drawings.set(part.id, drawing);
      this.scene.add(drawing.group);
    }
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
      material.transparent = ghost;
      material.opacity = ghost ? 0.25 : 1;
      material.depthWrite = !ghost;
      material.needsUpdate = true;
    }
  }

  /** New places for picked vertices of the active cage, without drawing it anew. */
  moveVertices(cage: Cage, selection: Selection): void {
    this.drawings.get(this.activeId)?.moveVertices(cage, selection);
    this.draw();
  }

  mark(selection: Selection): void {
    this.selectionMarks.children.slice().forEach(dispose);
    const drawing = this.drawings.get(this.activeId);
    if (drawing && !isEmpty(selection))
      this.selectionMarks.add(drawing.marks(selection, this.colours.selected, { width: 4, opacity: 0.55, halo: '#ffffff' }));
    this.draw();
  }

  /** Marks what a preview would make: dashes in ink on its new edges. */
  markPreview(selection: Selection): void {
    this.selectionMarks.children.slice().forEach(dispose);
    const drawing = this.drawings.get(this.activeId);
    if (drawing) {
      const { cage } = drawing;
      const edges = new Set(selection.edges);
      for (const f of selection.faces) for (const h of cage.loopOf(cage.faceEdge[f])) edges.add(h >> 1);
      const mean = [...edges].reduce((sum, e) => sum + cage.edgeLength(e), 0) / (edges.size || 1);
      this.selectionMarks.add(wideLines(drawing.edgePoints(edges), this.colours.wire, 3, { dashed: true, dash: mean / 6 }));
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
    this.transform.camera = camera;
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

  showHandles(handles: Handles | undefined, at?: [number, number, number]): void {
    this.handles = handles;
    if (!handles || !at) {
      this.transform.detach();
      this.transform.getHelper().removeFromParent();
      this.draw();
      return;
    }
    this.pivot.position.set(...at);
    this.pivot.rotation.set(0, 0, 0);
    this.pivot.scale.set(1, 1, 1);
    this.pivot.userData.start = at;
    this.transform.setMode(handles.mode);
    this.transform.attach(this.pivot);
    this.scene.add(this.transform.getHelper());
    this.draw();
  }

  get overHandles(): boolean {
    return this.transform.object !== undefined && this.transform.axis !== null;
  }

  private tellHandles(): void {
    if (!this.handles) return;
    const { position, rotation, scale } = this.pivot;
    const start = this.pivot.userData.start as [number, number, number];
    const degrees = 180 / Math.PI;
    if (this.handles.mode === 'translate') this.handles.changed(position.x - start[0], position.y - start[1], position.z - start[2]);
    else if (this.handles.mode === 'rotate') {
      // the card turns about X, then Y, then Z
      const turned = new THREE.Euler().setFromQuaternion(new THREE.Quaternion().setFromEuler(rotation), 'ZYX');
      this.handles.changed(turned.x * degrees, turned.y * degrees, turned.z * degrees);
    } else this.handles.changed(scale.x, scale.y, scale.z);
  }

  // ---- picking

  private aim(x: number, y: number): void {
    const { clientWidth: w, clientHeight: h } = this.host;
    this.raycaster.setFromCamera(new THREE.Vector2((2 * x) / w - 1, 1 - (2 * y) / h), this.camera);
  }

  /** Where a point is seen, in pixels of the stand. */
  onScreen(p: readonly [number, number, number]): [number, number] {
    const { clientWidth: w, clientHeight: h } = this.host;
    const v = new THREE.Vector3(...p).project(this.camera);
    return [((v.x + 1) / 2) * w, ((1 - v.y) / 2) * h];
  }

  /** The element of the active cage under the pointer. */
  pickAt(x: number, y: number, kind: PickKind): Selection | undefined {
    const drawing = this.drawings.get(this.activeId);
    if (!drawing) return undefined;
    this.aim(x, y);
    const hit = drawing.faceUnder(this.raycaster, this.renderer.clippingPlanes[0]);
    const { cage } = drawing;
    const candidates = hit ? cage.faceVertices(hit.face) : this.verticesNear(cage, x, y);
    const vertex = this.nearestVertex(cage, candidates, x, y);
    const edge = this.nearestEdge(
      cage,
      hit ? cage.loopOf(cage.faceEdge[hit.face]).map((h) => h >> 1) : candidates.flatMap((v) => cage.spokes(v).map((h) => h >> 1)),
      x,
      y
    );
    const vertexPick =
      vertex && vertex.distance < (kind === 'nearest' ? REACH : 4 * REACH) ? { ...emptySelection(), vertices: [vertex.id] } : undefined;
    const edgePick = edge && edge.distance < (kind === 'nearest' ? REACH * 0.8 : 4 * REACH) ? { ...emptySelection(), edges: [edge.id] } : undefined;
    const facePick = hit ? { ...emptySelection(), faces: [hit.face] } : undefined;
    if (kind === 'vertex') return vertexPick;
    if (kind === 'edge') return edgePick;
    if (kind === 'face') return facePick;
    return vertexPick ?? edgePick ?? facePick;
  }

  /** A point for a cut under the pointer: a vertex, or a place on an edge, drawn to its middle and thirds. */
  cutPointAt(x: number, y: number): CutPoint | undefined {
    const picked = this.pickAt(x, y, 'nearest');
    const cage = this.drawings.get(this.activeId)?.cage;
    if (!picked || !cage) return undefined;
    if (picked.vertices.length > 0) return { vertex: picked.vertices[0] };
    const edge = picked.edges[0];
    if (edge === undefined) return undefined;
    const [ax, ay] = this.onScreen(cage.position(cage.origin[2 * edge]));
    const [bx, by] = this.onScreen(cage.position(cage.origin[2 * edge + 1]));
    const long = Math.hypot(bx - ax, by - ay) || 1;
    const t = ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / long ** 2;
    const drawn = [1 / 3, 1 / 2, 2 / 3].find((f) => Math.abs(f - t) * long < REACH / 2);
    return { edge, fraction: drawn ?? Math.min(0.99, Math.max(0.01, t)) };
  }

  /** Marks the points of a cut and the way between them. */
  markCut(points: readonly CutPoint[]): void {
    this.selectionMarks.children.slice().forEach(dispose);
    const cage = this.drawings.get(this.activeId)?.cage;
    if (cage && points.length > 0) {
      const at = points.map((p) =>
        'vertex' in p
          ? cage.position(p.vertex)
          : between(cage.position(cage.origin[2 * p.edge]), cage.position(cage.origin[2 * p.edge + 1]), p.fraction)
      );
      this.selectionMarks.add(glyphPoints(Float32Array.from(at.flat()), 0, this.colours.selected, 9));
      const ways = at.slice(1).flatMap((p, i) => [...at[i], ...p]);
      const mean = ways.length > 0 ? Math.hypot(at[1][0] - at[0][0], at[1][1] - at[0][1], at[1][2] - at[0][2]) : 1;
      this.selectionMarks.add(wideLines(Float32Array.from(ways), this.colours.wire, 3, { dashed: true, dash: mean / 6 }));
    }
    this.draw();
  }

  private verticesNear(cage: Cage, x: number, y: number): number[] {
    const near: number[] = [];
    for (const v of cage.vertices()) {
      const [a, b] = this.onScreen(cage.position(v));
      if (Math.hypot(a - x, b - y) < REACH) near.push(v);
    }
    return near;
  }

  private nearestVertex(cage: Cage, vertices: number[], x: number, y: number): { id: number; distance: number } | undefined {
    let best: { id: number; distance: number } | undefined;
    for (const v of vertices) {
      const [a, b] = this.onScreen(cage.position(v));
      const distance = Math.hypot(a - x, b - y);
      if (!best || distance < best.distance) best = { id: v, distance };
    }
    return best;
  }

  private nearestEdge(cage: Cage, edges: number[], x: number, y: number): { id: number; distance: number } | undefined {
    let best: { id: number; distance: number } | undefined;
    for (const e of edges) {
      const [ax, ay] = this.onScreen(cage.position(cage.origin[2 * e]));
      const [bx, by] = this.onScreen(cage.position(cage.origin[2 * e + 1]));
      const t = Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2 || 1)));
      const distance = Math.hypot(ax + t * (bx - ax) - x, ay + t * (by - ay) - y);
      if (!best || distance < best.distance) best = { id: e, distance };
    }
    return best;
  }

  /** Visible elements of the active cage whose points all lie in a rectangle of the stand. */
  pickBox(x0: number, y0: number, x1: number, y1: number, kind: PickKind): Selection {
    const drawing = this.drawings.get(this.activeId);
    const out = emptySelection();
    if (!drawing) return out;
    const { cage } = drawing;
    const inside = new Set<number>();
    for (const v of cage.vertices()) {
      const [x, y] = this.onScreen(cage.position(v));
      if (x >= x0 && x <= x1 && y >= y0 && y <= y1 && this.isSeen(drawing, cage.position(v), x, y)) inside.add(v);
    }
    if (kind === 'edge') out.edges = [...cage.edges()].filter((e) => inside.has(cage.origin[2 * e]) && inside.has(cage.origin[2 * e + 1]));
    else if (kind === 'face') out.faces = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => inside.has(v)));
    else out.vertices = [...inside];
    return out;
  }

  private isSeen(drawing: CageDrawing, at: [number, number, number], x: number, y: number): boolean {
    this.aim(x, y);
    const hit = drawing.faceUnder(this.raycaster, this.renderer.clippingPlanes[0]);
    if (!hit) return true;
    const away = this.raycaster.ray.direction.dot(new THREE.Vector3(...at).sub(this.raycaster.ray.origin));
    return hit.distance > away - 1e-3 * this.camera.position.distanceTo(this.controls.target);
  }

  get shownLevel(): number | undefined {
    return this.drawings.get(this.activeId)?.shownLevel;
  }

  selectionPoints(cage: Cage, selection: Selection): Float64Array {
    return Float64Array.from(verticesOf(cage, selection).flatMap((v) => cage.position(v)));
  }

  /** A small picture of the view, for the jobs page. */
  picture(width = 320, height = 200): string {
    this.renderer.render(this.scene, this.camera);
    const source = this.renderer.domElement;
    const canvas = document.createElement('canvas');
    canvas.width = width;
    canvas.height = height;
    const scale = Math.max(width / source.width, height / source.height);
    const c = canvas.getContext('2d')!;
    c.drawImage(source, (width - source.width * scale) / 2, (height - source.height * scale) / 2, source.width * scale, source.height * scale);
    return canvas.toDataURL('image/jpeg', 0.8);
  }
}

function referenceObject(mesh: PolygonMesh): THREE.Mesh {
  const geometry = new THREE.BufferGeometry();
  geometry.setIndex(new THREE.BufferAttribute(triangulate(mesh).triangles as Uint32Array<ArrayBuffer>, 1));
  geometry.setAttribute('position', new THREE.BufferAttribute(Float32Array.from(mesh.positions), 3));
  geometry.computeVertexNormals();
  const object = new THREE.Mesh(
    geometry,
    new THREE.MeshLambertMaterial({ side: THREE.DoubleSide, polygonOffset: true, polygonOffsetFactor: 2, polygonOffsetUnits: 2 })
  );
  return object;
}
