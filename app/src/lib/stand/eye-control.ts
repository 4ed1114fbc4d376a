import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { between, GLIDE, isStill, type Gaze } from './glide.ts';
import { SIDES, type Side } from './sides.ts';
import { turnRound } from './turn-round.ts';
import type { Triple } from '@ulvrin/core';

/** Where the eye is; kept with the job. */
export interface CameraState {
  position: Triple;
  target: Triple;
  orthographic: boolean;
  zoom: number;
}

/** The eye of a stand: its two cameras, what moves it, and where it looks. */
export class EyeControl {
  readonly perspective = new THREE.PerspectiveCamera(35, 1, 0.1, 10000);
  readonly orthographic = new THREE.OrthographicCamera(-1, 1, 1, -1, -10000, 10000);
  camera: THREE.PerspectiveCamera | THREE.OrthographicCamera = this.perspective;
  private readonly controls: OrbitControls;
  /** of the glide that is under way */
  private gliding = 0;

  /** what a drag orbits round, where it was begun; nothing: the middle of the view */
  pivotAt?: (x: number, y: number) => Triple | undefined;

  /**
   * @param moved is called with every move
   * @param side looked from for good; left out: it turns as it is dragged
   */
  constructor(
    private readonly host: HTMLElement,
    element: HTMLElement,
    private readonly moved: () => void,
    side?: Side
  ) {
    this.perspective.position.set(120, 90, 160);
    element.addEventListener('pointerdown', (event) => this.beginOrbit(event, element));
    this.controls = new OrbitControls(this.perspective, element);
    this.controls.mouseButtons = { LEFT: null, MIDDLE: THREE.MOUSE.PAN, RIGHT: THREE.MOUSE.ROTATE };
    this.controls.zoomToCursor = true;
    if (side) {
      this.controls.mouseButtons.RIGHT = THREE.MOUSE.PAN;
      this.use(this.orthographic);
      this.camera.position.copy(new THREE.Vector3(...SIDES[side])).multiplyScalar(200);
    }
    this.controls.addEventListener('change', moved);
    this.controls.addEventListener('start', () => cancelAnimationFrame(this.gliding));
  }

  end(): void {
    cancelAnimationFrame(this.gliding);
    this.controls.dispose();
  }

  get target(): THREE.Vector3 {
    return this.controls.target;
  }
  get distance(): number {
    return this.camera.position.distanceTo(this.target);
  }

  get state(): CameraState {
    const { camera } = this;
    return {
      position: camera.position.toArray(),
      target: this.target.toArray(),
      orthographic: camera === this.orthographic,
      zoom: camera.zoom
    };
  }
  set state(state: CameraState) {
    cancelAnimationFrame(this.gliding);
    this.use(state.orthographic ? this.orthographic : this.perspective);
    this.camera.position.set(...state.position);
    this.target.set(...state.target);
    this.camera.zoom = state.zoom;
    this.camera.updateProjectionMatrix();
    if (state.orthographic) this.fitOrthographic();
    this.controls.update();
  }

  private use(camera: THREE.PerspectiveCamera | THREE.OrthographicCamera): void {
    if (camera === this.camera) return;
    camera.position.copy(this.camera.position);
    this.camera = camera;
    this.controls.object = camera;
    if (camera === this.orthographic) {
      camera.zoom = 1;
      this.fitOrthographic();
    }
    this.controls.update();
    this.moved();
  }

  /** mm of height that are seen in the middle of the view. */
  get heightSeen(): number {
    const { camera, perspective, orthographic, distance } = this;
    if (camera === orthographic) return (2 * orthographic.top) / orthographic.zoom;
    return 2 * distance * Math.tan((perspective.fov * Math.PI) / 360);
  }

  setOrthographic(on: boolean): void {
    this.use(on ? this.orthographic : this.perspective);
  }

  private get gaze(): Gaze {
    return { offset: this.camera.position.clone().sub(this.target), target: this.target.clone(), zoom: this.camera.zoom };
  }
  private set gaze({ offset, target, zoom }: Gaze) {
    this.target.copy(target);
    this.camera.position.copy(target).add(offset);
    this.camera.zoom = zoom;
    this.fitOrthographic();
    this.camera.updateProjectionMatrix();
    this.controls.update();
    this.moved();
  }

  /** Goes to another view, in a moment; at once where less motion is asked for. */
  private glideTo(to: Gaze, atOnce = isStill()): void {
    cancelAnimationFrame(this.gliding);
    if (atOnce) return void (this.gaze = to);
    const [from, start] = [this.gaze, performance.now()];
    const step = () => {
      const t = (performance.now() - start) / GLIDE;
      this.gaze = between(from, to, t);
      if (t < 1) this.gliding = requestAnimationFrame(step);
    };
    step();
  }

  /** Looks at the target from one side, orthographically. */
  lookFrom(side: Side): void {
    this.lookSquarely(this.target.toArray(), SIDES[side]);
  }

  /** Looks at a point from a direction, orthographically. @param towards unit vector from the point to the eye */
  lookSquarely(at: Triple, towards: Readonly<Triple>): void {
    const away = this.distance;
    this.setOrthographic(true);
    this.glideTo({ ...this.gaze, target: new THREE.Vector3(...at), offset: new THREE.Vector3(...towards).multiplyScalar(away) });
  }

  /** A drag that orbits round a point: the controls leave it alone. */
  private beginOrbit({ button, offsetX, offsetY, pointerId, clientX, clientY }: PointerEvent, element: HTMLElement): void {
    const at = button === 2 && this.controls.mouseButtons.RIGHT === THREE.MOUSE.ROTATE ? this.pivotAt?.(offsetX, offsetY) : undefined;
    this.controls.enableRotate = at === undefined;
    if (!at) return;
    const pivot = new THREE.Vector3(...at);
    let last = [clientX, clientY];
    const ended = new AbortController();
    const follow = (event: PointerEvent) => {
      if (event.pointerId !== pointerId) return;
      const turn = (now: number, before: number) => (2 * Math.PI * (now - before)) / this.host.clientHeight;
      const { position, target } = turnRound(
        { position: this.camera.position, target: this.target },
        pivot,
        turn(event.clientX, last[0]),
        turn(event.clientY, last[1])
      );
      last = [event.clientX, event.clientY];
      this.camera.position.copy(position);
      this.target.copy(target);
      this.controls.update();
      this.moved();
    };
    element.addEventListener('pointermove', follow, { signal: ended.signal });
    for (const end of ['pointerup', 'pointercancel'] as const) element.addEventListener(end, () => ended.abort(), { signal: ended.signal });
  }

  /** Turns round what is looked at, by radians to the right and up. */
  orbit(right: number, up: number): void {
    cancelAnimationFrame(this.gliding);
    const { camera, target } = this;
    const from = new THREE.Spherical().setFromVector3(camera.position.clone().sub(target));
    from.theta -= right;
    from.phi -= up;
    camera.position.copy(target).add(new THREE.Vector3().setFromSpherical(from.makeSafe()));
    this.controls.update();
    this.moved();
  }

  /** Brings what lies within bounds into the middle of the view. @param atOnce without going there */
  frame(bounds: { min: Triple; max: Triple; diagonal: number }, atOnce = false): void {
    const { perspective } = this;
    const centre = new THREE.Vector3(...bounds.min).add(new THREE.Vector3(...bounds.max)).multiplyScalar(0.5);
    const away = (0.5 * (bounds.diagonal || 1)) / Math.sin((perspective.fov * Math.PI) / 360) / Math.min(1, perspective.aspect);
    const direction = this.gaze.offset.normalize();
    this.glideTo({ target: centre, offset: direction.multiplyScalar(away * 0.95), zoom: 1 }, atOnce || isStill());
  }

  resize(width: number, height: number): void {
    this.perspective.aspect = width / height;
    this.perspective.updateProjectionMatrix();
    this.fitOrthographic();
  }

  private fitOrthographic(): void {
    const { clientWidth: w, clientHeight: h } = this.host;
    const half = this.orthographic.position.distanceTo(this.target) * Math.tan((this.perspective.fov * Math.PI) / 360) || 50;
    Object.assign(this.orthographic, { left: (-half * w) / h, right: (half * w) / h, top: half, bottom: -half, near: -200 * half, far: 200 * half });
    this.orthographic.updateProjectionMatrix();
  }

  setNearAndFar(): void {
    const away = this.perspective.position.distanceTo(this.target);
    this.perspective.near = away / 100;
    this.perspective.far = away * 40;
    this.perspective.updateProjectionMatrix();
  }

  /** Directions of the view: right, up, and towards the eye. */
  get axes(): [Triple, Triple, Triple] {
    const [right, up, back] = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()];
    this.camera.matrixWorld.extractBasis(right, up, back);
    return [right.toArray(), up.toArray(), back.toArray()];
  }

  /** Where the eye is, or, where all look the same way, that way. */
  get sight(): { eye: Triple; parallel: boolean } {
    const { camera } = this;
    const parallel = camera === this.orthographic;
    return { eye: parallel ? camera.getWorldDirection(new THREE.Vector3()).toArray() : camera.position.toArray(), parallel };
  }
}
