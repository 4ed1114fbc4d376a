import { BrushTouch, type TouchSettings } from '../even/brush-touch.ts';
import { type Dab } from '../even/dabs.ts';
import { maskedVertices } from '../even/mask.ts';
import { netOf } from '../even/vertex-net.ts';
import { type Cage } from '../mesh/cage.ts';
import { counted } from '../operations/shared/words.ts';
import { StrokeEdit } from './stroke-edit.ts';

/** From this share on a vertex is masked wholly. */
const WHOLLY = 0.995;

/** A stroke of the brush that masks, or takes masks away. */
export class MaskEdit extends StrokeEdit {
  private touch: BrushTouch;

  /** @param settings with images of vertices in a mirror, which are masked as well */
  constructor(
    from: Cage,
    private readonly settings: TouchSettings & { strength: number; imageOf?: ReadonlyMap<number, number> }
  ) {
    super(from);
    this.touch = this.begun();
  }

  get notes(): readonly string[] {
    if (this.done === 0) return [];
    const { cage } = this;
    return [`Masked: ${maskedVertices(cage).length.toLocaleString('en')} of ${counted(cage.vertexCount, 'vertex', 'vertices')}.`];
  }

  private begun(): BrushTouch {
    return new BrushTouch({ net: netOf(this.cage), positions: this.cage.positions }, this.settings);
  }

  protected beginAnew(): Iterable<number> {
    for (const v of this.cage.vertices()) this.cage.setValue('mask', v, this.from.value('mask', v));
    this.touch = this.begun();
    return [];
  }

  protected take(dab: Dab): Iterable<number> {
    const { vertices, weights } = this.touch.at(dab);
    vertices.forEach((v, i) => {
      this.mask(v, weights[i], dab.pressure);
      const image = this.settings.imageOf?.get(v);
      if (image !== undefined && image !== v) this.mask(image, weights[i], dab.pressure);
    });
    return [];
  }

  /** Masks a vertex by as much more, up to the strength, or takes as much away. */
  private mask(v: number, weight: number, pressure: number): void {
    const own = this.cage.value('mask', v);
    const most = this.settings.strength * Math.min(1, Math.abs(pressure));
    const to = pressure < 0 ? Math.max(0, own - weight * most) : Math.min(1, own + weight * most);
    this.cage.setValue('mask', v, to > WHOLLY ? 1 : to);
  }
}
