import * as THREE from 'three';
import { TransformControls } from 'three/addons/controls/TransformControls.js';
import type { Frame } from '@ulvrin/core';

export type HandleMode = 'translate' | 'rotate' | 'scale';

export interface HandleSettings {
  mode: HandleMode;
  frame: Frame;
  /** steps of mm, degrees or percent; 0: none */
  step: number;
  /** a place that the handle's middle is drawn to while it is dragged */
  snapTo?: () => [number, number, number] | undefined;
  /** the numbers as they are now: mm, degrees or factors along the frame's axes */
  changed: (x: number, y: number, z: number) => void;
}

const DEGREES = 180 / Math.PI;

/** The handles of move, rotate and scale, in a frame; the numbers and the handles follow each other. */
export class FrameHandles {
  private readonly controls: TransformControls;
  private readonly pivot = new THREE.Object3D();
  private readonly base = new THREE.Matrix4();
  private settings?: HandleSettings;

  constructor(
    private readonly scene: THREE.Scene,
    camera: THREE.Camera,
    element: HTMLElement,
    events: { draw: () => void; dragging: (on: boolean) => void }
  ) {
    this.controls = new TransformControls(camera, element);
    this.controls.size = 0.8;
    this.controls.space = 'local';
    this.controls.addEventListener('dragging-changed', (event) => events.dragging(Boolean(event.value)));
    this.controls.addEventListener('change', events.draw);
    this.controls.addEventListener('objectChange', () => this.tell());
    scene.add(this.pivot);
  }

  set camera(camera: THREE.Camera) {
    this.controls.camera = camera;
  }
  /** Whether the pointer is over a handle. */
  get hovered(): boolean {
    return this.controls.object !== undefined && this.controls.axis !== null;
  }
  get dragging(): boolean {
    return this.controls.dragging;
  }

  show(settings: HandleSettings): void {
    this.settings = settings;
    const [x, y, z] = settings.frame.axes.map((a) => new THREE.Vector3(...a));
    this.base.makeBasis(x, y, z).setPosition(...settings.frame.pivot);
    this.controls.setMode(settings.mode);
    const step = settings.step > 0 ? settings.step : null;
    this.controls.translationSnap = step;
    this.controls.rotationSnap = step && step / DEGREES;
    this.controls.scaleSnap = step && step / 100;
    this.controls.attach(this.pivot);
    this.scene.add(this.controls.getHelper());
  }

  hide(): void {
    this.settings = undefined;
    this.controls.detach();
    this.controls.getHelper().removeFromParent();
  }

  /** Puts the handles where typed numbers say; a drag goes on from there. */
  follow(numbers: [number, number, number]): void {
    if (!this.settings || this.dragging) return;
    const local = new THREE.Matrix4();
    const { mode } = this.settings;
    if (mode === 'translate') local.setPosition(...numbers);
    else if (mode === 'rotate') local.makeRotationFromEuler(new THREE.Euler(...(numbers.map((n) => n / DEGREES) as [number, number, number]), 'ZYX'));
    const whole = this.base.clone().multiply(local);
    whole.decompose(this.pivot.position, this.pivot.quaternion, new THREE.Vector3());
    if (mode === 'scale') this.pivot.scale.set(...numbers);
    else this.pivot.scale.set(1, 1, 1);
    this.pivot.updateMatrixWorld();
  }

  private tell(): void {
    const { settings } = this;
    if (!settings) return;
    if (settings.mode === 'scale') return settings.changed(this.pivot.scale.x, this.pivot.scale.y, this.pivot.scale.z);
    const target = settings.mode === 'translate' ? settings.snapTo?.() : undefined;
    if (target) this.drawTo(new THREE.Vector3(...target));
    this.pivot.updateMatrix();
    const local = this.base.clone().invert().multiply(this.pivot.matrix);
    if (settings.mode === 'translate') {
      const { x, y, z } = new THREE.Vector3().setFromMatrixPosition(local);
      return settings.changed(x, y, z);
    }
    // the card turns about X, then Y, then Z
    const { x, y, z } = new THREE.Euler().setFromRotationMatrix(local, 'ZYX');
    settings.changed(x * DEGREES, y * DEGREES, z * DEGREES);
  }

  /** Draws the handle's middle to a place, as far as the dragged axes let it. */
  private drawTo(target: THREE.Vector3): void {
    const axis = this.controls.axis ?? 'XYZ';
    const inverse = this.base.clone().invert();
    const wished = target.clone().applyMatrix4(inverse);
    const now = this.pivot.position.clone().applyMatrix4(inverse);
    for (const k of ['x', 'y', 'z'] as const) if (!axis.includes(k.toUpperCase())) wished[k] = now[k];
    this.pivot.position.copy(wished.applyMatrix4(this.base));
  }

  end(): void {
    this.controls.dispose();
  }
}
