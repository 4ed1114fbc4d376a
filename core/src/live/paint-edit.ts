import { BrushTouch, type TouchSettings } from '../even/brush-touch.ts';
import { type Dab } from '../even/dabs.ts';
import { netOf, type VertexNet } from '../even/vertex-net.ts';
import { type Cage } from '../mesh/cage.ts';
import { StrokeEdit } from './stroke-edit.ts';

/** A stroke of a brush that colours vertices. */
export class ColourEdit extends StrokeEdit {
  private readonly touch: BrushTouch;
  private readonly painted = new Set<number>();

  /** @param settings with the colour: red, green and blue from 0 to 1 */
  constructor(
    from: Cage,
    private readonly settings: TouchSettings & { strength: number; colour: readonly number[] }
  ) {
    super(from);
    this.touch = new BrushTouch({ net: netOf(this.cage), positions: this.cage.positions }, settings);
  }

  get notes(): readonly string[] {
    return this.done === 0 ? [] : [`Coloured: ${this.painted.size.toLocaleString('en')} vertices.`];
  }

  protected beginAnew(): Iterable<number> {
    const before = this.from.layers.get('colour')?.data;
    if (before) this.cage.layer('colour').data.set(before);
    else this.cage.layers.delete('colour');
    this.painted.clear();
    return [];
  }

  protected take(dab: Dab): Iterable<number> {
    const { data, initial } = this.cage.layer('colour');
    const { vertices, weights } = this.touch.at(dab);
    const most = this.settings.strength * Math.min(1, Math.abs(dab.pressure));
    vertices.forEach((v, i) => {
      this.painted.add(v);
      for (let k = 0; k < 3; k++) {
        const goal = dab.pressure < 0 ? initial : this.settings.colour[k];
        data[3 * v + k] += most * weights[i] * (goal - data[3 * v + k]);
      }
    });
    return [];
  }
}

/** A stroke of a brush that puts faces into a region. */
export class RegionEdit extends StrokeEdit {
  private readonly net: VertexNet;
  private readonly touch: BrushTouch;
  private readonly faceIds: Int32Array;
  private readonly painted = new Set<number>();

  /** @param settings with the number of the region, and of the one that is left behind where it is taken away */
  constructor(
    from: Cage,
    private readonly settings: TouchSettings & { region: number; rest: number; takes(f: number): boolean }
  ) {
    super(from);
    this.net = netOf(this.cage);
    this.touch = new BrushTouch({ net: this.net, positions: this.cage.positions }, settings);
    this.faceIds = Int32Array.from(this.cage.faces());
  }

  get notes(): readonly string[] {
    return this.done === 0 ? [] : [`${this.cage.regionNames[this.settings.region]}: ${this.painted.size.toLocaleString('en')} faces painted.`];
  }

  protected beginAnew(): Iterable<number> {
    for (const f of this.cage.faces()) this.cage.setValue('region', f, this.from.value('region', f));
    this.painted.clear();
    return [];
  }

  protected take(dab: Dab): Iterable<number> {
    for (const f of this.facesUnder(dab)) {
      if (!this.settings.takes(f)) continue;
      this.painted.add(f);
      this.cage.setValue('region', f, dab.pressure < 0 ? this.settings.rest : this.settings.region);
    }
    return [];
  }

  /** Faces whose middle lies under a touch, and the one that lies nearest to it in any case. */
  private facesUnder(dab: Dab): number[] {
    const { net, faceIds, cage } = this;
    const beside = new Set<number>();
    // a small brush on large faces reaches no vertex: the nearest one stands in
    for (const v of this.touch.nearTo(dab)) for (let i = net.facesStart[v]; i < net.facesStart[v + 1]; i++) beside.add(net.faces[i]);
    const away = (i: number) => {
      const from = net.faceStart[i];
      const many = net.faceStart[i + 1] - from;
      let sum = 0;
      for (let k = 0; k < 3; k++) {
        let middle = 0;
        for (let c = from; c < from + many; c++) middle += cage.positions[3 * net.corners[c] + k] / many;
        sum += (middle - dab.at[k]) ** 2;
      }
      return Math.sqrt(sum);
    };
    const far = new Map([...beside].map((i) => [i, away(i)]));
    const nearest = Math.min(...far.values());
    const { through, radius } = this.settings;
    return [...far].filter(([, d]) => through || d < radius || d === nearest).map(([i]) => faceIds[i]);
  }
}
