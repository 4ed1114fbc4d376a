import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { framed, type Lens, type Rect, type Subject } from './framing.ts';
import { between, GLIDE, isSame, isStill, type Gaze } from './glide.ts';
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
  /** the glide that is under way, and where it ends */
  private gliding = 0;
  private goal: Gaze | undefined;
  /** what was brought into view last, and how it was looked at then */
  private last: { subject: Subject; gaze: Gaze } | undefined;

  /** what a drag orbits round, where it was begun; nothing: the middle of the view */
  pivotAt?: (x: number, y: number) => Triple | undefined;
  /** what is laid over the view, as it is now */
  covered: () => Rect[] = () => [];

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
    this.controls.addEventListener('start', () => this.stopGlide());
  }

  end(): void {
    this.stopGlide();
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
    this.stopGlide();
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
    this.stopGlide();
    if (atOnce) return void (this.gaze = to);
    const [from, start] = [this.gaze, performance.now()];
    const step = () => {
      const t = (performance.now() - start) / GLIDE;
      this.gaze = between(from, to, t);
      if (t < 1) this.gliding = requestAnimationFrame(step);
      else this.goal = undefined;
    };
    this.goal = to;
    step();
  }

  private stopGlide(): void {
    cancelAnimationFrame(this.gliding);
    this.goal = undefined;
  }

  /** Looks from one side, orthographically: at what was brought into view last, or at the target where somebody has looked elsewhere since. */
  lookFrom(side: Side): void {
    const subject = this.isFramed ? this.last?.subject : undefined;
    this.lookSquarely(this.target.toArray(), SIDES[side]);
    if (subject) this.frame(subject);
  }

  /** Looks at a point from a direction, orthographically. @param towards unit vector from the point to the eye */
  lookSquarely(at: Triple, towards: Readonly<Triple>): void {
    this.setOrthographic(true);
    this.lookAlong(at, towards);
  }

  /** Looks at a point from a direction, in perspective or straight as before. @param towards unit vector from the point to the eye */
  lookAlong(at: Triple, towards: Readonly<Triple>): void {
    const offset = new THREE.Vector3(...towards).multiplyScalar(this.distance);
    this.glideTo({ target: new THREE.Vector3(...at), offset, zoom: this.camera.zoom });
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
    this.stopGlide();
    const { camera, target } = this;
    const from = new THREE.Spherical().setFromVector3(camera.position.clone().sub(target));
    from.theta -= right;
    from.phi -= up;
    camera.position.copy(target).add(new THREE.Vector3().setFromSpherical(from.makeSafe()));
    this.controls.update();
    this.moved();
  }

  private get lens(): Lens {
    const { clientWidth: width, clientHeight: height } = this.host;
    return { width, height, fov: this.perspective.fov, parallel: this.camera === this.orthographic };
  }

  /** Brings something into view, where nothing covers it, from the way that is looked or about to be. @param atOnce without going there */
  frame(subject: Subject, atOnce = false): void {
    const now = this.goal ?? this.gaze;
    const gaze = framed(subject, now, this.lens, this.covered());
    this.last = { subject, gaze };
    // where it is there already it stays, to the bit
    if (!isSame(gaze, now)) this.glideTo(gaze, atOnce || isStill());
  }

  /** Nobody has looked elsewhere since something was brought into view. */
  private get isFramed(): boolean {
    return this.last !== undefined && isSame(this.last.gaze, this.goal ?? this.gaze);
  }

  /** A camera like the eye's that looks the same way and sees something whole, beside some parts of the view. */
  cameraOn(subject: Subject, covered: readonly Rect[]): THREE.Camera {
    const { target, offset, zoom } = framed(subject, this.gaze, this.lens, covered);
    const camera = this.camera.clone();
    camera.position.copy(target).add(offset);
    camera.lookAt(target);
    camera.zoom = zoom;
    this.fit(camera, offset.length());
    return camera;
  }

  /** Fits the view to its host; what was brought into view is again, as long as nobody has looked elsewhere since. */
  resize(): void {
    const { width, height } = this.lens;
    this.perspective.aspect = width / height;
    this.perspective.updateProjectionMatrix();
    this.fitOrthographic();
    if (this.isFramed) this.frame(this.last!.subject, true);
  }

  private fitOrthographic(): void {
    this.fit(this.orthographic, this.orthographic.position.distanceTo(this.target));
  }

  setNearAndFar(): void {
    this.fit(this.perspective, this.perspective.position.distanceTo(this.target));
  }

  /** Has a camera show what lies some mm before it: all of it in depth, and as high where it looks straight as where it does not. */
  private fit(camera: THREE.PerspectiveCamera | THREE.OrthographicCamera, away: number): void {
    if (camera instanceof THREE.PerspectiveCamera) [camera.near, camera.far] = [away / 100, away * 40];
    else {
      const { clientWidth: w, clientHeight: h } = this.host;
      const half = away * Math.tan((this.perspective.fov * Math.PI) / 360) || 50;
      Object.assign(camera, { left: (-half * w) / h, right: (half * w) / h, top: half, bottom: -half, near: -200 * half, far: 200 * half });
    }
    camera.updateProjectionMatrix();
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
