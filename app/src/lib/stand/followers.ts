import * as THREE from 'three';

/** What a follower writes to: an attribute, or the buffer that wide lines share. */
export interface Written {
  array: { [slot: number]: number };
  needsUpdate: boolean;
  addUpdateRange(start: number, count: number): void;
}

/** Points of a buffer that lie farther apart are sent to the graphics card in pieces of their own. */
const GAP = 1000;

/** By point the slots of a buffer that hold it: those of point v are `slot[start[v]]` to `slot[start[v + 1] - 1]`, in order. */
export interface SlotsByPoint {
  start: Int32Array;
  slot: Int32Array;
}

/** @param index the point that each slot holds @param points how many there are */
export function slotsByPoint(index: ArrayLike<number>, points: number): SlotsByPoint {
  const start = new Int32Array(points + 1);
  for (let i = 0; i < index.length; i++) start[index[i] + 1]++;
  for (let v = 0; v < points; v++) start[v + 1] += start[v];
  const next = start.slice(0, points);
  const slot = new Int32Array(index.length);
  for (let i = 0; i < index.length; i++) slot[next[index[i]]++] = i;
  return { start, slot };
}

/** Has the slots of a buffer sent that were written, three numbers each. Sorts them. */
export function sendSlots(buffer: Written, slots: Int32Array): void {
  if (slots.length === 0) return;
  slots.sort();
  let first = slots[0];
  for (let i = 1; i <= slots.length; i++) {
    if (i < slots.length && slots[i] - slots[i - 1] <= GAP) continue;
    buffer.addUpdateRange(3 * first, 3 * (slots[i - 1] - first + 1));
    first = slots[i];
  }
  buffer.needsUpdate = true;
}

/** Keeps a buffer of places in step with points that move: of those alone it writes and sends the slots. */
export class Follower {
  private slots?: SlotsByPoint;

  /** @param index the point that each slot of three numbers holds */
  constructor(
    private readonly buffer: Written,
    private readonly index: ArrayLike<number>
  ) {}

  /** @param moved points @param places x, y, z of every point */
  follow(moved: ArrayLike<number>, places: ArrayLike<number>): void {
    this.slots ??= slotsByPoint(this.index, places.length / 3);
    const { start, slot } = this.slots;
    const { array } = this.buffer;
    const written: number[] = [];
    for (let n = 0; n < moved.length; n++) {
      const v = moved[n];
      for (let i = start[v]; i < start[v + 1]; i++) {
        const s = slot[i];
        for (let k = 0; k < 3; k++) array[3 * s + k] = places[3 * v + k];
        written.push(s);
      }
    }
    sendSlots(this.buffer, Int32Array.from(written));
  }
}

/** Has an object drawn wherever the eye looks: where points lie that move is not looked up with every frame. @returns the object */
export function unculled<Kind extends THREE.Object3D>(object: Kind): Kind {
  object.traverse((child) => (child.frustumCulled = false));
  return object;
}

/** Lets an object follow the points its buffer holds. @returns the object */
export function following<Kind extends THREE.Object3D>(object: Kind, buffer: Written, index: ArrayLike<number>): Kind {
  unculled(object).userData.follower = new Follower(buffer, index);
  return object;
}

/** Places of points, one after the other. @param index the points @param places x, y, z of every point */
export function placesOf(index: ArrayLike<number>, places: ArrayLike<number>): Float32Array<ArrayBuffer> {
  const out = new Float32Array(3 * index.length);
  for (let i = 0; i < index.length; i++) for (let k = 0; k < 3; k++) out[3 * i + k] = places[3 * index[i] + k];
  return out;
}

/** An object whose geometry has places of points, and follows them. */
export function followingPlaces<Kind extends THREE.Object3D>(
  index: ArrayLike<number>,
  places: ArrayLike<number>,
  make: (geometry: THREE.BufferGeometry) => Kind
): Kind {
  const attribute = new THREE.BufferAttribute(placesOf(index, places), 3);
  return following(make(new THREE.BufferGeometry().setAttribute('position', attribute)), attribute, index);
}

/** Lets everything in a group follow that can. */
export function followIn(group: THREE.Object3D, moved: ArrayLike<number>, places: ArrayLike<number>): void {
  group.traverse(({ userData }) => (userData.follower as Follower | undefined)?.follow(moved, places));
}
