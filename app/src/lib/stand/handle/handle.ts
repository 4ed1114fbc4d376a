import * as THREE from 'three';
import type { Frame, Placement, Triple } from '@ulvrin/core';
import { onScreen, rayAt, type Eye } from '../eye.ts';
import { drawAlong, rotationOf, type DragStart } from './drags.ts';
import { handleParts, knobShape, type HandlePart } from './parts.ts';

/** A knob that draws something else out along a direction. */
export interface KnobSettings {
  label: string;
  /** unit vector, in the world's axes */
  along: Triple;
  /** It is taken. @returns what to do with the mm it was drawn so far, and once it is released */
  begin(): { drag(mm: number): void; end(): void };
}

export interface HandleSettings {
  frame: Frame;
  /** steps of mm, degrees or percent; 0: none */
  step: number;
  /** what shifts count from, where they are a place */
  base: Triple;
  /** it moves alone, and does not turn and size */
  onlyMoves?: boolean;
  /** a place in the world that its middle is drawn to while it is dragged */
  snapTo?: () => Triple | undefined;
  /** It was dragged. @param placement what it stands for now */
  changed(placement: Placement): void;
  knob?: KnobSettings;
}

/** A drag of the handle that is under way, by pixels of the stand. */
export interface HandleDrag {
  move(x: number, y: number): void;
  end(): void;
}

/** Pixels within which the pointer takes a part. */
const WITHIN = 8;
/** Cosine to the view from which on an axis is seen too much from its tip, and a square too much from its edge. */
const [TIP_ON, EDGE_ON] = [0.985, 0.18];
const HOVERED = '#0a7e70';
export const STILL: Placement = { shift: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] };

/** A part as it is drawn, or the knob, which no placement stands for. */
type Shown = { mesh: THREE.Mesh<THREE.BufferGeometry, THREE.MeshBasicMaterial> } & Pick<HandlePart, 'label' | 'colour' | 'outline'> & {
    part?: HandlePart;
  };

/**
 * One handle that moves, turns and sizes what is picked, in a frame, as large on the screen wherever it is. It is drawn over all else; the
 * pointer takes what it is nearest to on the screen.
 */
export class Handle {
  readonly group = new THREE.Group();
  private readonly parts: Shown[];
  private readonly knob: Shown;
  private readonly base = new THREE.Matrix4();
  private readonly inverse = new THREE.Matrix4();
  private settings: HandleSettings | undefined;
  private placement = STILL;
  private over: Shown | undefined;
  private dragged: Shown | undefined;

  /** @param eyeNow what it is looked at with */
  constructor(private readonly eyeNow: () => Eye) {
    const shown = (like: Omit<Shown, 'mesh'> & { geometry: THREE.BufferGeometry }): Shown => {
      const material = new THREE.MeshBasicMaterial({ color: like.colour, depthTest: false, transparent: true, opacity: 0.92, fog: false });
      const mesh = new THREE.Mesh(like.geometry, material);
      // a ring seen from its edge lies under the arrows
      mesh.renderOrder = like.part?.kind === 'turn' ? 19 : 20;
      mesh.frustumCulled = false;
      return { ...like, mesh };
    };
    this.parts = handleParts().map((part) => shown({ ...part, part }));
    this.knob = shown({ ...knobShape(), label: '' });
    this.group.add(...this.parts.map(({ mesh }) => mesh), this.knob.mesh);
    this.group.visible = false;
  }

  get isShown(): boolean {
    return this.settings !== undefined;
  }
  get dragging(): boolean {
    return this.dragged !== undefined;
  }

  show(settings: HandleSettings): void {
    this.settings = settings;
    const [x, y, z] = settings.frame.axes.map((a) => new THREE.Vector3(...a));
    this.base.makeBasis(x, y, z).setPosition(...settings.frame.pivot);
    this.inverse.copy(this.base).invert();
    this.knob.label = settings.knob?.label ?? '';
    this.group.visible = true;
  }

  hide(): void {
    this.settings = this.over = this.dragged = undefined;
    this.group.visible = false;
  }

  /** Puts it where typed numbers say; a drag goes on from there. */
  follow(placement: Placement): void {
    if (!this.dragged) this.placement = placement;
  }

  /** Where its middle is, in the world. */
  get middle(): THREE.Vector3 {
    return new THREE.Vector3(...this.placement.shift).applyMatrix4(this.base);
  }

  /** mm a pixel where it is. */
  private get scale(): number {
    const { camera, host } = this.eyeNow();
    if (camera instanceof THREE.OrthographicCamera) return (camera.top - camera.bottom) / camera.zoom / host.clientHeight;
    const away = this.middle.sub(camera.position).dot(camera.getWorldDirection(new THREE.Vector3()));
    return (2 * Math.max(away, 1e-6) * Math.tan((camera.fov * Math.PI) / 360)) / camera.zoom / host.clientHeight;
  }

  /** Towards the eye, along the frame's axes. */
  private get eye(): THREE.Vector3 {
    const { camera } = this.eyeNow();
    const towards =
      camera instanceof THREE.OrthographicCamera ? camera.getWorldDirection(new THREE.Vector3()).negate() : camera.position.clone().sub(this.middle);
    return towards.transformDirection(this.inverse);
  }

  /** Lays it where it is to be drawn; called before every frame. */
  pose(): void {
    const { settings } = this;
    if (!settings) return;
    const [eye, scale, middle] = [this.eye, this.scale, this.middle];
    const frame = new THREE.Quaternion().setFromRotationMatrix(this.base);
    for (const shown of [...this.parts, this.knob]) {
      const { mesh, part } = shown;
      const lies = part ? lying(part, this.placement, eye) : upTo(settings, this.inverse, eye);
      mesh.position.copy(middle);
      mesh.quaternion.copy(frame);
      if (lies) mesh.quaternion.multiply(lies);
      mesh.scale.setScalar(scale);
      mesh.visible = lies !== undefined && (!this.dragged || this.dragged === shown) && !(settings.onlyMoves && part?.kind !== 'shift');
      mesh.material.color.set(shown === (this.dragged ?? this.over) ? HOVERED : shown.colour);
      mesh.updateMatrixWorld();
    }
  }

  private partAt(x: number, y: number): Shown | undefined {
    if (!this.settings) return undefined;
    this.pose();
    const eye = this.eyeNow();
    const [pointer, near] = [new THREE.Vector3(x, y, 0), new THREE.Vector3()];
    const away = ({ mesh, outline }: Shown) => {
      const seen = outline.map((p) => new THREE.Vector3(...onScreen(eye, p.clone().applyMatrix4(mesh.matrixWorld).toArray()), 0));
      return Math.min(...seen.slice(1).map((b, i) => new THREE.Line3(seen[i], b).closestPointToPoint(pointer, true, near).distanceTo(pointer)));
    };
    return [this.knob, ...this.parts].filter(({ mesh }) => mesh.visible).find((shown) => away(shown) <= WITHIN);
  }

  /** Shows what the pointer is over. @returns what a drag would do there; nothing where it is over no part */
  hover(x: number, y: number): string | undefined {
    this.over = this.partAt(x, y);
    return this.over?.label;
  }

  /** Takes the part under the pointer, if there is one. */
  begin(x: number, y: number): HandleDrag | undefined {
    const [settings, shown] = [this.settings, this.partAt(x, y)];
    if (!settings || !shown) return undefined;
    const start = this.startAt(x, y, settings);
    const end = () => (this.dragged = undefined);
    this.dragged = shown;
    if (!shown.part) {
      const along = new THREE.Vector3(...settings.knob!.along).transformDirection(this.inverse);
      const drawn = drawAlong(start, along);
      const taken = settings.knob!.begin();
      const move = (px: number, py: number) => {
        const mm = drawn(this.rayAt(px, py));
        if (mm === undefined) return;
        this.placement = { ...STILL, shift: new THREE.Vector3(...start.placement.shift).addScaledVector(along, mm).toArray() };
        taken.drag(mm);
      };
      return { move, end: () => (end(), taken.end()) };
    }
    const follow = shown.part.begin(start);
    const move = (px: number, py: number) => {
      this.placement = follow(this.rayAt(px, py));
      this.settings?.changed(this.placement);
    };
    return { move, end };
  }

  private startAt(x: number, y: number, { step, base, snapTo }: HandleSettings): DragStart {
    const snapped = () => {
      const place = snapTo?.();
      return place && new THREE.Vector3(...place).applyMatrix4(this.inverse);
    };
    return { placement: this.placement, ray: this.rayAt(x, y), eye: this.eye, scale: this.scale, step, base, snapTo: snapTo && snapped };
  }

  /** The ray through a pixel, along the frame's axes. */
  private rayAt(x: number, y: number): THREE.Ray {
    return rayAt(this.eyeNow(), x, y).ray.clone().applyMatrix4(this.inverse);
  }
}

/** How a part lies in the frame; nothing where it could not be dragged from there. */
function lying({ lies, along, across, before }: HandlePart, { turn }: Placement, eye: THREE.Vector3): THREE.Quaternion | undefined {
  if (typeof lies === 'object') {
    const axis = new THREE.Vector3().setComponent(lies.about, 1);
    // along its axis all of it is shown instead
    if (Math.abs(eye.dot(axis)) > TIP_ON) return undefined;
    const x = eye.clone().addScaledVector(axis, -eye.dot(axis)).normalize();
    return new THREE.Quaternion().setFromRotationMatrix(new THREE.Matrix4().makeBasis(x, axis.clone().cross(x), axis));
  }
  if (lies === 'eye') return new THREE.Quaternion().setFromUnitVectors(new THREE.Vector3(0, 0, 1), eye);
  const turned = lies === 'turned' ? rotationOf(turn) : new THREE.Quaternion();
  const seen = (v: THREE.Vector3 | undefined) => (v ? Math.abs(v.clone().applyQuaternion(turned).dot(eye)) : undefined);
  if ((seen(before) ?? 1) <= TIP_ON) return undefined;
  if ((seen(along) ?? 0) > TIP_ON || (seen(across) ?? 1) < EDGE_ON) return undefined;
  return turned;
}

/** How the knob lies in the frame; nothing where there is none, or where it is seen from its tip. */
function upTo({ knob }: HandleSettings, inverse: THREE.Matrix4, eye: THREE.Vector3): THREE.Quaternion | undefined {
  const along = knob && new THREE.Vector3(...knob.along).transformDirection(inverse);
  if (!along || Math.abs(along.dot(eye)) > TIP_ON) return undefined;
  return new THREE.Quaternion().setFromUnitVectors(new THREE.Vector3(0, 1, 0), along);
}
