import { BrushTouch, type TouchSettings } from '../even/brush-touch.ts';
import { dabAt, dabsIn } from '../even/dabs.ts';
import { netOf } from '../even/vertex-net.ts';
import { type Cage } from '../mesh/cage.ts';
import { type LiveEdit, type LiveStep } from './live-edit.ts';

/** A stroke of the brush that masks, or takes masks away: each step takes the touches that have come since the one before. */
export class MaskEdit implements LiveEdit {
  readonly cage: Cage;
  private touch: BrushTouch;
  private done = 0;
  private touched = new Set<number>();

  /** @param imageOf images of vertices in a mirror, which are masked as well */
  constructor(
    private readonly from: Cage,
    private readonly settings: TouchSettings & { strength: number; imageOf?: ReadonlyMap<number, number> }
  ) {
    this.cage = from.clone();
    this.touch = this.begun();
  }

  private begun(): BrushTouch {
    return new BrushTouch({ net: netOf(this.cage), positions: this.cage.positions }, this.settings);
  }

  get notes(): readonly string[] {
    if (this.done === 0) return [];
    const { cage } = this;
    let masked = 0;
    for (const v of cage.vertices()) if (cage.value('mask', v) > 0) masked++;
    return [`Masked: ${masked.toLocaleString('en')} of ${cage.vertexCount.toLocaleString('en')} vertices.`];
  }

  /** @param input its `dabs`, those of earlier steps first */
  step(input: Record<string, unknown>): LiveStep {
    const dabs = input.dabs as readonly number[];
    if (dabsIn(dabs) < this.done) {
      for (const v of this.touched) this.cage.setValue('mask', v, this.from.value('mask', v));
      this.touch = this.begun();
      this.done = 0;
    }
    for (; this.done < dabsIn(dabs); this.done++) {
      const dab = dabAt(dabs, this.done);
      const { vertices, weights } = this.touch.at(dab);
      vertices.forEach((v, i) => {
        this.mask(v, weights[i], dab.pressure);
        const image = this.settings.imageOf?.get(v);
        if (image !== undefined && image !== v) this.mask(image, weights[i], dab.pressure);
      });
    }
    return { moved: new Int32Array(0), topologyChanged: false };
  }

  /** Masks a vertex by as much more, up to the strength, or takes as much away. */
  private mask(v: number, weight: number, pressure: number): void {
    const own = this.cage.value('mask', v);
    const most = this.settings.strength * Math.min(1, Math.abs(pressure));
    const to = pressure < 0 ? Math.max(0, own - weight * most) : Math.max(own, Math.min(1, own + weight * most));
    this.cage.setValue('mask', v, to > 0.995 ? 1 : to);
    this.touched.add(v);
  }
}
