import { Cholesky, NotPositiveDefinite } from '../../numeric/cholesky.ts';
import { nestedDissection } from '../../numeric/nested-dissection.ts';
import { SymmetricBuilder } from '../../numeric/symmetric-matrix.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';
import { LIMB, type Ring } from '../field/closed-rings.ts';
import { type Frames, halfCot } from '../field/curvature.ts';
import { type CutMesh } from '../field/cut-graph.ts';
import { evenness } from './anisotropic-weights.ts';
import { type RoundingOptions, WholeRounding } from './integer-rounding.ts';
import { type KeyedSum, MapConstraints, MapError } from './map-constraints.ts';
import { GRID, mapAreas, offHalves } from './map-plane.ts';
import { type LineWay, type PoleWay } from './pole-ways.ts';
import { Untangler } from './untangle.ts';
import { valueOfSum, type WholeSum, type WholeWish } from './whole-sums.ts';

/** A ring that closes before all others, with so many quads along it; 0 leaves that open. */
export interface Pin {
  ring: Ring;
  count: number;
}

/** Quads of a size, and how the map is rounded for them: sums are those round rings, pairs the ways between poles. */
export interface SizeWish extends RoundingOptions {
  /** quad edge length, in the mesh's unit */
  size: number;
}

/** Those there are, each once. */
const different = (sums: readonly (KeyedSum | undefined)[]) => new Map(sums.filter((keyed) => keyed !== undefined));

/**
 * A map of the cut mesh to the plane whose lines of whole numbers become the quads' edges (Bommes, Zimmer, Kobbelt 2009):
 * its gradients follow the crosses, both sides of a cut differ by a quarter turn and a whole translation, poles and
 * features lie on whole numbers. Transitions are eliminated exactly, whole unknowns come last in the factor, so that the
 * factor serves every quad size and every rounding; `aim` comes before `solve`, and `close` where rings are to close.
 */
export class SeamlessMap {
  /** sums that come out as nothing where rings close, and a ring of each */
  private ringSums: WholeSum[] = [];
  private rings: readonly Ring[] = [];
  /** those of them round limbs and fingers */
  private limbSums: WholeSum[] = [];
  /** quads along rings */
  private lengths: WholeSum[] = [];
  private ringsAsked = '';
  /** u and v from pole to pole */
  private apart: (readonly [WholeSum, WholeSum])[] = [];
  /** from poles to lines, along u or v */
  private sides: WholeSum[] = [];
  /** whether the rounding knows of these */
  private asked = false;
  private readonly constraints: MapConstraints;
  private readonly unknowns: number;
  private readonly whole: number;
  private untangler?: Untangler;
  private factor!: Cholesky;
  private reduced!: Float64Array;
  private rounding?: WholeRounding;
  private stiffness: Float64Array;
  /** by triangle, how much u and v weigh */
  private evenness: Float64Array;
  private sizeFactor: Float64Array;
  private narrow?: Float64Array;
  /** of elimination */
  private order?: Int32Array;

  /** @param pins ways round the surface that close before all others, some with so many quads along them */
  constructor(
    private readonly mesh: WorkingMesh,
    private readonly frames: Frames,
    private readonly cut: CutMesh,
    private readonly index: Int8Array,
    private readonly pins: readonly Pin[] = []
  ) {
    this.stiffness = new Float64Array(mesh.triangles).fill(1);
    this.sizeFactor = new Float64Array(mesh.triangles).fill(1);
    this.evenness = new Float64Array(2 * mesh.triangles).fill(1);
    this.constraints = new MapConstraints(
      mesh,
      frames,
      cut,
      index,
      pins.map(({ ring }) => ring)
    );
    ({ unknowns: this.unknowns, whole: this.whole } = this.constraints);
  }

  /**
   * Says how large quads are to be; the factor serves all sizes.
   * @param sizeFactor by triangle, relative quad size (1: the size asked for)
   * @param narrow by triangle and arm 0 and 1, share of the size that is meant along it
   */
  aim(sizeFactor: Float64Array, narrow?: Float64Array): void {
    this.sizeFactor = sizeFactor;
    this.narrow = narrow;
    if (!this.factor) this.weigh();
    this.reduce();
  }

  /**
   * Says along which ways round the surface quads are to close, in place of those before.
   * @returns whether these are others
   */
  close(rings: readonly Ring[]): boolean {
    // rings side by side, between the same poles, ask for the same
    const shifts = this.constraints.shiftsOf(rings);
    const sums = shifts.map((s) => this.constraints.keyedSum(s?.across));
    const across = different(sums);
    const before = this.ringsAsked;
    this.ringsAsked = [...across.keys()].join(';');
    this.ringSums = [...across.values()];
    const keys = sums.map((keyed) => keyed?.[0]);
    this.rings = [...across.keys()].map((key) => rings[keys.indexOf(key)]);
    this.limbSums = [...different(sums.filter((_, i) => (rings[i].length ?? Infinity) < LIMB)).values()];
    this.lengths = [...different(shifts.map((s) => this.constraints.keyedSum(s?.along))).values()];
    this.asked = false;
    return this.ringsAsked !== before;
  }

  /** Says which poles are not to fall together. */
  keepApart(ways: readonly PoleWay[]): void {
    const sums = ways.map((way) => this.constraints.led(way).map((form) => this.constraints.wholeSum(form)));
    this.apart = sums.filter((pair): pair is [WholeSum, WholeSum] => pair.every((sum) => sum !== undefined));
    this.asked = false;
  }

  /** Says of which lines poles are to stay on their side, a quad away. */
  keepSides(ways: readonly LineWay[]): void {
    this.sides = ways.flatMap((way) => {
      const [alongU, alongV] = way.leads;
      const k = Math.abs(alongU) > Math.abs(alongV) ? 0 : 1;
      const sum = this.constraints.wholeSum(this.constraints.led(way)[k]);
      return sum ? [sum.map(([n, c]): [number, number] => [n, way.leads[k] < 0 ? -c : c])] : [];
    });
    this.asked = false;
  }

  /** How many poles it has. */
  get poles(): number {
    return this.index.reduce((sum, turns) => sum + (turns === 0 ? 0 : 1), 0);
  }

  /** How many unknowns are to be whole. */
  get wholes(): number {
    return this.whole;
  }

  /** u and v of an edge as the crosses of its triangle mean it, for quads of size 1. */
  private meant(h: number): [number, number] {
    const t = Math.floor(h / 3);
    const length = Math.sqrt(this.mesh.edgeLength2(h)) / this.sizeFactor[t];
    const angle = this.frames.angle[h] - this.cut.theta[t];
    return [(length * Math.cos(angle)) / (this.narrow?.[2 * t] ?? 1), (length * Math.sin(angle)) / (this.narrow?.[2 * t + 1] ?? 1)];
  }

  /**
   * Normal equations of sum over edges of cot / 2 ((u_j - u_i) - e . d)^2, which is the area integral of |grad u - d|^2:
   * their terms edge by edge, for u (0) and for v (1).
   * @param use told which half-edge it is, and the weight
   */
  private eachTerm(use: (h: number, k: 0 | 1, weight: number) => void): void {
    const { mesh, frames, stiffness, evenness } = this;
    for (let t = 0; t < mesh.triangles; t++)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const weight = stiffness[t] * Math.max(0.02, halfCot(mesh, frames, h));
        use(h, 0, weight * evenness[2 * t]);
        use(h, 1, weight * evenness[2 * t + 1]);
      }
  }

  /** The factor, which does not depend on sizes. */
  private factorise(): void {
    const { mesh, unknowns, whole } = this;
    const { edgeForms } = this.constraints;
    const firstWhole = unknowns - whole;
    const dense = new Float64Array(whole * whole);
    const builder = new SymmetricBuilder(unknowns, 40 * mesh.triangles);
    this.eachTerm((h, k, weight) => {
      const { start, unknown, coefficient } = edgeForms[k];
      for (let i = start[h]; i < start[h + 1]; i++) {
        const a = unknown[i];
        for (let j = i; j < start[h + 1]; j++) {
          const b = unknown[j];
          const entry = weight * coefficient[i] * coefficient[j];
          if (a >= firstWhole && b >= firstWhole) dense[Math.max(a, b) * whole - firstWhole * whole + Math.min(a, b) - firstWhole] += entry;
          else builder.add(a, b, entry);
        }
      }
    });
    for (let k = 0; k < unknowns; k++) builder.add(k, k, 1e-7);
    for (let i = 0; i < whole; i++) for (let j = 0; j <= i; j++) builder.add(firstWhole + i, firstWhole + j, dense[i * whole + j]);
    const matrix = builder.done();
    this.order ??= nestedDissection(matrix, whole);
    try {
      this.factor = new Cholesky(matrix, this.order);
    } catch (error) {
      if (error instanceof NotPositiveDefinite) throw new MapError('triangles next to nothing in area tie it to what is far apart.');
      throw error;
    }
    this.rounding = undefined;
    this.asked = false;
  }

  /** What u and v are to weigh, from the map as it is without rounding, and the factor for that. */
  private weigh(): void {
    this.factorise();
    this.reduce();
    const map = this.coordinates(this.factor.backward(this.reduced, this.unknowns));
    this.evenness = evenness(map, (h) => this.meant(h));
    this.factorise();
  }

  /** The right-hand side for quads of size 1, through the factor. */
  private reduce(): void {
    const right = new Float64Array(this.unknowns);
    const wanted = Array.from({ length: 3 * this.mesh.triangles }, (_, h) => this.meant(h));
    this.eachTerm((h, k, weight) => {
      const { start, unknown, coefficient } = this.constraints.edgeForms[k];
      for (let i = start[h]; i < start[h + 1]; i++) right[unknown[i]] += weight * coefficient[i] * wanted[h][k];
    });
    this.reduced = this.factor.forward(right);
  }

  /** Makes some triangles stiffer (Bommes and others 2009) and computes the factor anew. */
  stiffen(factors: Float64Array): void {
    for (let t = 0; t < factors.length; t++) this.stiffness[t] *= factors[t];
    this.factorise();
    this.reduce();
  }

  /**
   * Rounds for quads of given sizes and solves for the rest, for all of them in one go.
   * @returns by each of them the values of the unknowns, for `coordinates`
   */
  solve(wanted: readonly SizeWish[]): Float64Array[] {
    const { unknowns, whole } = this;
    const rounding = (this.rounding ??= new WholeRounding(this.factor.trailing(whole), whole));
    if (!this.asked) rounding.ask({ sized: this.sizedSums(), nothing: this.ringSums, lengths: this.lengths, apart: this.apart, sides: this.sides });
    this.asked = true;
    const rounded = wanted.map(({ size, ...options }) => {
      const y = this.reduced.map((c) => c / size);
      y.set(rounding.round(y.subarray(unknowns - whole), options), unknowns - whole);
      return y;
    });
    const solved = this.factor.backwardEach(rounded, unknowns - whole);
    for (const x of solved) for (let k = 0; k < unknowns - whole; k++) x[k] = offHalves(Math.round(x[k] / GRID) * GRID);
    return solved;
  }

  /** Pins close, and have their counts, before anything else is rounded. */
  private sizedSums(): WholeWish[] {
    return this.constraints.pinSums.flatMap(({ across, along }, i) => {
      const { count } = this.pins[i];
      return [...(across ? [{ sum: across, size: 0 }] : []), ...(along && count > 0 ? [{ sum: along, size: count }] : [])];
    });
  }

  /** What the unknowns that must be whole came out as in a solution. */
  wholesOf(x: Float64Array): Float64Array {
    return x.subarray(this.unknowns - this.whole);
  }

  /** How many ways round limbs and fingers do not close in a solution. */
  openLimbs(x: Float64Array): number {
    const wholes = this.wholesOf(x);
    return this.limbSums.filter((sum) => valueOfSum(sum, wholes) !== 0).length;
  }

  /** Rings that were to close and do not in any solution since `close`, as with them others came out wild. */
  leftOpen(): Ring[] {
    return this.rounding?.leftOpen.map((i) => this.rings[i]) ?? [];
  }

  /** Quads along each pin in a solution; nothing where its way turns, or does not close. */
  pinCounts(x: Float64Array): (number | undefined)[] {
    const wholes = this.wholesOf(x);
    return this.constraints.pinSums.map(({ across, along }) =>
      along && (!across || valueOfSum(across, wholes) === 0) ? Math.abs(valueOfSum(along, wholes)) : undefined
    );
  }

  /** u and v by half-edge start: multiples of GRID, exact across cuts. */
  coordinates(x: Float64Array): Float64Array {
    const { mesh, cut } = this;
    const [copyU, copyV] = [this.constraints.formsU.values(x), this.constraints.formsV.values(x)];
    const uv = new Float64Array(6 * mesh.triangles);
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      uv[2 * h] = copyU[cut.copy[h]];
      uv[2 * h + 1] = copyV[cut.copy[h]];
    }
    return uv;
  }

  /**
   * Twice the area of the whole map, and triangles turned over in it; and `spread`, twice the area of the boxes round its
   * triangles: where solving went wild, turned ones cancel others in the area, but nothing does in this.
   */
  tally(x: Float64Array): { area: number; folded: number; spread: number } {
    const { mesh, cut } = this;
    const [u, v] = [this.constraints.formsU.values(x), this.constraints.formsV.values(x)];
    const extent = (of: Float64Array, a: number, b: number, c: number) => Math.max(of[a], of[b], of[c]) - Math.min(of[a], of[b], of[c]);
    let [area, folded, spread] = [0, 0, 0];
    for (let t = 0; t < mesh.triangles; t++) {
      const [a, b, c] = [cut.copy[3 * t], cut.copy[3 * t + 1], cut.copy[3 * t + 2]];
      spread += 2 * extent(u, a, b, c) * extent(v, a, b, c);
      const own = (u[b] - u[a]) * (v[c] - v[a]) - (v[b] - v[a]) * (u[c] - u[a]);
      area += own;
      if (own <= 0) folded++;
    }
    return { area, folded, spread };
  }

  /**
   * Moves unknowns so that triangles turned over in the map come right. Changes `x`.
   * @param size as it was solved for
   */
  untangle(x: Float64Array, size: number): void {
    const folded = new Set<number>();
    mapAreas(this.coordinates(x)).forEach((area, t) => {
      if (area <= 0) folded.add(t);
    });
    if (folded.size === 0) return;
    this.untangler ??= new Untangler(this.mesh, this.cut, this.index, [this.constraints.formsU, this.constraints.formsV], this.unknowns - this.whole);
    this.untangler.run(x, folded, (h) => {
      const [u, v] = this.meant(h);
      return [u / size, v / size];
    });
  }
}
