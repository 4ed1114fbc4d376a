import { type Act, type MirrorSettings, onBothSides } from '../hand/acts.ts';
import { LaidCage } from '../hand/laid-cage.ts';
import { type Cage } from '../mesh/cage.ts';
import { type LiveEdit, type LiveStep } from './live-edit.ts';

/** Laying by hand: each step does the acts that have come since the one before; fewer of them are done anew from the start. */
export class LayEdit implements LiveEdit {
  private laid: LaidCage;
  private done: readonly Act[] = [];

  constructor(
    private readonly from: Cage,
    private readonly mirror?: MirrorSettings
  ) {
    this.laid = new LaidCage(from.clone());
  }

  get cage(): Cage {
    return this.laid.cage;
  }

  get notes(): readonly string[] {
    const { faceCount, vertexCount } = this.cage;
    const faces = faceCount - this.from.faceCount;
    const vertices = vertexCount - this.from.vertexCount;
    const many = (n: number, one: string, more: string) =>
      `${n < 0 ? '-' : '+'}${Math.abs(n).toLocaleString('en')} ${Math.abs(n) === 1 ? one : more}`;
    return this.done.length === 0 ? [] : [`${many(faces, 'face', 'faces')}, ${many(vertices, 'vertex', 'vertices')}.`];
  }

  /** @param input its `acts`, those of earlier steps first @throws CageError where an act cannot be done: nothing is done of it */
  step(input: Record<string, unknown>): LiveStep {
    const acts = input.acts as readonly Act[];
    const goesOn = acts.length >= this.done.length && this.done.every((act, i) => act === acts[i] || JSON.stringify(act) === JSON.stringify(acts[i]));
    const known = goesOn ? this.done.length : 0;
    if (goesOn && acts.length === known) return { moved: new Int32Array(0), topologyChanged: true };
    // what was shown before stays as it was, also where an act cannot be done
    const laid = goesOn ? this.laid.copy() : new LaidCage(this.from.clone());
    for (const act of acts.slice(known)) for (const own of onBothSides(act, this.mirror)) laid.apply(own);
    [this.laid, this.done] = [laid, acts];
    return { moved: new Int32Array(0), topologyChanged: true };
  }
}
