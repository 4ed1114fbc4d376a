import { Cholesky, nestedDissection, SymmetricBuilder } from '../numeric/cholesky.ts';
import { type Frames, halfCot } from './curvature.ts';
import { type Ring } from './closed-rings.ts';
import { type CutMesh } from './cut-graph.ts';
import { addTo, Eliminator, FlatForms, type Form } from './linear-forms.ts';
import { mod4 } from './orientation-field.ts';
import { type PoleWay } from './pole-ways.ts';
import { type RoundingOptions, valueOfSum, WholeRounding, type WholeSum, type WholeWish } from './whole-rounding.ts';
import { after, type WorkingMesh } from './working-mesh.ts';

/** Coordinates are multiples of this, so that sums and orientation tests are exact. */
export const GRID = 2 ** -16;

/** Thrown where the map cannot be made; the message names what stands in the way. */
export class MapError extends Error {}

/** (u, v) turned by k quarter turns, as forms. */
function turnedForms(u: Form, v: Form, k: number): [Form, Form] {
  const minus = (f: Form): Form => addTo(new Map(), f, -1);
  return [
    [u, v],
    [minus(v), u],
    [minus(u), minus(v)],
    [v, minus(u)]
  ][mod4(k)] as [Form, Form];
}

/** A ring that closes before all others, with so many quads along it; 0 leaves that open. */
export interface Pin {
  ring: Ring;
  count: number;
}

const single = (k: number): Form => new Map([[k, 1]]);

/**
 * A map of the cut mesh to the plane whose lines of whole numbers become the quads' edges (Bommes, Zimmer, Kobbelt 2009):
 * its gradients follow the crosses, both sides of a cut differ by a quarter turn and a whole translation, poles and
 * features lie on whole numbers. Transitions are eliminated exactly, whole unknowns come last in the factor, so that the
 * factor serves every quad size and every rounding; `aim` comes before `solve`, and `close` where rings are to close.
 */
export class SeamlessMap {
  /** forms of u and v by half-edge start copy, over the solver's unknowns; whole numbers are numbered last */
  private formsU!: FlatForms;
  private formsV!: FlatForms;
  /** sums that come out as nothing where rings close */
  private ringSums: WholeSum[] = [];
  /** quads along rings */
  private lengths: WholeSum[] = [];
  private ringsAsked = '';
  /** u and v from pole to pole */
  private apart: (readonly [WholeSum, WholeSum])[] = [];
  /** whether the rounding knows of these */
  private asked = false;
  private readonly solver: Eliminator;
  /** by unknown before elimination its number, -1 where it is given by others */
  private number!: Int32Array;
  private pinSums: { across?: WholeSum; along?: WholeSum }[] = [];
  private unknowns = 0;
  /** triangles each unknown that is not whole has a part in */
  private users?: number[][];
  private whole = 0;
  private factor!: Cholesky;
  private reduced!: Float64Array;
  private rounding!: WholeRounding;
  private stiffness: Float64Array;
  private sizeFactor: Float64Array;
  private narrow?: Float64Array;

  /** @param pins ways round the surface that close before all others, some with so many quads along them */
  constructor(
    private readonly mesh: WorkingMesh,
    private readonly frames: Frames,
    private readonly cut: CutMesh,
    index: Int8Array,
    private readonly pins: readonly Pin[] = []
  ) {
    this.stiffness = new Float64Array(mesh.triangles).fill(1);
    this.sizeFactor = new Float64Array(mesh.triangles).fill(1);
    const poleCopies = new Set<number>();
    for (let h = 0; h < 3 * mesh.triangles; h++) if (index[mesh.corner[h]] !== 0) poleCopies.add(cut.copy[h]);
    // ordinary copies go first, then translations, then coordinates of poles
    this.solver = new Eliminator((k) => (k >= this.translations ? 1 : poleCopies.has(k >> 1) ? 2 : 0));
    this.setUpForms(poleCopies);
    this.factorise();
  }

  /**
   * Says how large quads are to be; the factor serves all sizes.
   * @param sizeFactor by triangle, relative quad size (1: the size asked for)
   * @param narrow by triangle and arm 0 and 1, share of the size that is meant along it
   */
  aim(sizeFactor: Float64Array, narrow?: Float64Array): void {
    this.sizeFactor = sizeFactor;
    this.narrow = narrow;
    this.reduce();
  }

  /**
   * Says along which ways round the surface quads are to close, in place of those before.
   * @returns whether these are others
   */
  close(rings: readonly Ring[]): boolean {
    // rings side by side, between the same poles, ask for the same
    const shifts = this.shiftsOf(rings).filter((s) => s !== undefined);
    const across = this.differentSums(shifts.map((s) => s.across));
    const before = this.ringsAsked;
    this.ringsAsked = [...across.keys()].join(';');
    this.ringSums = [...across.values()];
    this.lengths = [...this.differentSums(shifts.map((s) => s.along)).values()];
    this.asked = false;
    return this.ringsAsked !== before;
  }

  /** Says which poles are not to fall together. */
  keepApart(ways: readonly PoleWay[]): void {
    const { cut } = this;
    const sums = ways.map(({ edges, turns }): [WholeSum | undefined, WholeSum | undefined] => {
      const [u, v]: [Form, Form] = [new Map(), new Map()];
      edges.forEach((h, i) => {
        const [from, to] = [cut.copy[h], cut.copy[after(h)]];
        for (const [copy, sign] of [
          [to, 1],
          [from, -1]
        ]) {
          const [ownU, ownV] = this.turn(copy, -turns[i]);
          addTo(u, ownU, sign);
          addTo(v, ownV, sign);
        }
      });
      return [this.wholeSum(u), this.wholeSum(v)];
    });
    this.apart = sums.filter((pair): pair is [WholeSum, WholeSum] => pair[0] !== undefined && pair[1] !== undefined);
    this.asked = false;
  }

  /** How many unknowns are to be whole. */
  get wholes(): number {
    return this.whole;
  }

  /** u and v unknowns of copy c are 2c and 2c + 1, those of chain i's translation come after: the first of these. */
  private get translations(): number {
    return 2 * this.cut.copies;
  }

  private setUpForms(poleCopies: ReadonlySet<number>): void {
    const { solver } = this;
    this.joinCuts();
    const wholeForms = this.holdFeatures();
    for (const c of poleCopies) wholeForms.push(single(2 * c), single(2 * c + 1));
    const pinned = this.shiftsOf(this.pins.map(({ ring }) => ring));
    // whole numbers that are found one after the other would hardly ever come out so: what is asked for is made so beforehand
    for (const shift of pinned) if (shift) solver.require(shift.across);
    this.numberUnknowns(wholeForms);
    this.pinSums = pinned.map((s) => ({ across: this.wholeSum(s?.across), along: this.wholeSum(s?.along) }));
  }

  /** A form as a sum of whole unknowns; nothing where it has others, or none. */
  private wholeSum(form: Form | undefined): WholeSum | undefined {
    const open = form && [...this.solver.expand(form)].map(([k, c]): [number, number] => [this.number[k] - this.unknowns + this.whole, c]);
    return open && open.length > 0 && open.every(([k]) => k >= 0) ? open : undefined;
  }

  /** Both sides of a cut: right = left turned by the jump, plus the chain's translation. */
  private joinCuts(): void {
    const { mesh, cut, solver, translations } = this;
    cut.chains.forEach((chain, i) => {
      let lastPair = '';
      for (const h of chain) {
        const g = mesh.opposite[h];
        const pairs = [
          [cut.copy[h], cut.copy[after(g)]],
          [cut.copy[after(h)], cut.copy[g]]
        ];
        for (const [left, right] of pairs) {
          const pair = `${left} ${right}`;
          if (pair === lastPair) continue;
          lastPair = pair;
          const [u, v] = this.turn(left, cut.jump[h]);
          const ok =
            solver.require(addTo(addTo(addTo(new Map(), u, 1), single(translations + 2 * i), 1), single(2 * right), -1)) &&
            solver.require(addTo(addTo(addTo(new Map(), v, 1), single(translations + 2 * i + 1), 1), single(2 * right + 1), -1));
          if (!ok) throw new MapError('The translations along the cut contradict each other.');
        }
      }
    });
  }

  /**
   * Coordinates of a copy seen from across a half-edge with a jump: arm k here continues as arm k - jump, so the same
   * vector has its angle against arm 0 changed by -jump quarter turns.
   */
  private turn(copy: number, jump: number): [Form, Form] {
    return turnedForms(single(2 * copy), single(2 * copy + 1), -jump);
  }

  /** By ring the translation after a way round, along it and across it; none where the way turns. */
  private shiftsOf(rings: readonly Ring[]): ({ along: Form; across: Form } | undefined)[] {
    const { mesh, cut, translations } = this;
    const chainOf = new Map<number, number>();
    cut.chains.forEach((chain, i) => {
      for (const h of chain) chainOf.set(h, i);
    });
    return rings.map(({ crossed, arm }) => {
      let [u, v, turned]: [Form, Form, number] = [new Map(), new Map(), 0];
      for (const h of crossed) {
        if (!cut.cut[h]) continue;
        const left = chainOf.get(h);
        const i = left ?? chainOf.get(mesh.opposite[h])!;
        const [shiftU, shiftV] = [single(translations + 2 * i), single(translations + 2 * i + 1)];
        if (left !== undefined) {
          [u, v] = turnedForms(u, v, -cut.jump[h]);
          addTo(u, shiftU, 1);
          addTo(v, shiftV, 1);
          turned -= cut.jump[h];
        } else {
          const jump = cut.jump[mesh.opposite[h]];
          [u, v] = turnedForms(addTo(u, shiftU, -1), addTo(v, shiftV, -1), jump);
          turned += jump;
        }
      }
      if (mod4(turned) !== 0) return undefined;
      return arm % 2 === 0 ? { along: u, across: v } : { along: v, across: u };
    });
  }

  /** Along a feature edge one coordinate stays, and is whole. @returns forms that must be whole */
  private holdFeatures(): Form[] {
    const { mesh, cut, frames, solver } = this;
    const wholeForms: Form[] = [];
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (!mesh.feature[h] || mesh.opposite[h] > h) continue;
      const t = Math.floor(h / 3);
      const along = Math.round((frames.angle[h] - cut.theta[t]) / (Math.PI / 2));
      const kept = mod4(along) % 2 === 0 ? 1 : 0;
      const a = 2 * cut.copy[h] + kept;
      const b = 2 * cut.copy[after(h)] + kept;
      solver.require(addTo(single(a), single(b), -1));
      wholeForms.push(single(a), single(b));
    }
    return wholeForms;
  }

  private numberUnknowns(wholeForms: Form[]): void {
    const { cut, solver, translations } = this;
    const isWhole = new Set<number>();
    for (const form of wholeForms) for (const k of solver.expand(form).keys()) isWhole.add(k);
    const total = translations + 2 * cut.chains.length;
    for (let k = translations; k < total; k++) if (!solver.isGiven(k)) isWhole.add(k);
    const number = new Int32Array(total).fill(-1);
    let count = 0;
    for (let k = 0; k < total; k++) if (!solver.isGiven(k) && !isWhole.has(k)) number[k] = count++;
    this.whole = 0;
    for (let k = 0; k < total; k++)
      if (!solver.isGiven(k) && isWhole.has(k)) {
        number[k] = count++;
        this.whole++;
      }
    this.unknowns = count;
    const flat = (first: number) =>
      new FlatForms(
        Array.from({ length: cut.copies }, (_, c) => {
          const form = solver.expand(single(2 * c + first));
          return new Map([...form].map(([k, coefficient]) => [number[k], coefficient]));
        })
      );
    this.formsU = flat(0);
    this.formsV = flat(1);
    this.number = number;
  }

  /**
   * Normal equations of sum over edges of cot / 2 ((u_j - u_i) - e . d)^2, which is the area integral of |grad u - d|^2:
   * their terms edge by edge, for u and for v.
   * @param use told the unknowns in u_j - u_i with their coefficients, the weight, and e . d in the mesh's unit
   */
  private eachTerm(use: (entries: [number, number][], weight: number, wanted: number) => void): void {
    const { mesh, frames, cut } = this;
    const edge: Form = new Map();
    for (let t = 0; t < mesh.triangles; t++)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const weight = this.stiffness[t] * Math.max(0.02, halfCot(mesh, frames, h));
        const length = Math.sqrt(mesh.edgeLength2(h)) / this.sizeFactor[t];
        const angle = frames.angle[h] - cut.theta[t];
        const [acrossU, acrossV] = [this.narrow?.[2 * t] ?? 1, this.narrow?.[2 * t + 1] ?? 1];
        for (const [forms, wanted] of [
          [this.formsU, (length * Math.cos(angle)) / acrossU],
          [this.formsV, (length * Math.sin(angle)) / acrossV]
        ] as const) {
          edge.clear();
          forms.collect(cut.copy[after(h)], 1, edge);
          forms.collect(cut.copy[h], -1, edge);
          use([...edge], weight, wanted);
        }
      }
  }

  /** The factor, which does not depend on sizes, and what rounding needs of it. */
  private factorise(): void {
    const { mesh, unknowns, whole } = this;
    const firstWhole = unknowns - whole;
    const dense = new Float64Array(whole * whole);
    const builder = new SymmetricBuilder(unknowns, 40 * mesh.triangles);
    this.eachTerm((entries, weight) => {
      for (let i = 0; i < entries.length; i++) {
        const [a, ca] = entries[i];
        for (let j = i; j < entries.length; j++) {
          const [b, cb] = entries[j];
          if (a >= firstWhole && b >= firstWhole)
            dense[Math.max(a, b) * whole - firstWhole * whole + Math.min(a, b) - firstWhole] += weight * ca * cb;
          else builder.add(a, b, weight * ca * cb);
        }
      }
    });
    for (let k = 0; k < unknowns; k++) builder.add(k, k, 1e-7);
    for (let i = 0; i < whole; i++) for (let j = 0; j <= i; j++) builder.add(firstWhole + i, firstWhole + j, dense[i * whole + j]);
    const matrix = builder.done();
    this.factor = new Cholesky(matrix, nestedDissection(matrix, whole));
    this.rounding = new WholeRounding(this.factor.trailing(whole), whole);
    this.asked = false;
  }

  /** Sums of whole unknowns, each once whichever way it runs. */
  private differentSums(forms: readonly Form[]): Map<string, WholeSum> {
    const found = new Map<string, WholeSum>();
    for (const form of forms) {
      const sum = this.wholeSum(form);
      if (!sum) continue;
      const sorted = [...sum].sort((a, b) => a[0] - b[0]);
      const sign = sorted[0][1] < 0 ? -1 : 1;
      found.set(sorted.map(([k, c]) => `${k}:${sign * c}`).join(' '), sorted);
    }
    return found;
  }

  /** The right-hand side for quads of size 1, through the factor. */
  private reduce(): void {
    const right = new Float64Array(this.unknowns);
    this.eachTerm((entries, weight, wanted) => {
      for (const [a, c] of entries) right[a] += weight * c * wanted;
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
   * Rounds for quads of the given size and solves for the rest.
   * @param size quad edge length, in the mesh's unit
   * @param options `within`: by how much rings may miss themselves that are made to close; `scale`: over the size that bounds are meant
   * for; `parted`: whether poles are kept from falling together
   * @returns values of the unknowns, for `coordinates`
   */
  solve(size: number, options: RoundingOptions = {}): Float64Array {
    const { unknowns, whole } = this;
    if (!this.asked) this.rounding.ask({ sized: this.sizedSums(), nothing: this.ringSums, lengths: this.lengths, apart: this.apart });
    this.asked = true;
    const y = this.reduced.map((c) => c / size);
    y.set(this.rounding.round(y.subarray(unknowns - whole), options), unknowns - whole);
    const x = this.factor.backward(y, unknowns - whole);
    for (let k = 0; k < unknowns - whole; k++) x[k] = offHalves(Math.round(x[k] / GRID) * GRID);
    return x;
  }

  /** Pins close, and have their counts, before anything else is rounded. */
  private sizedSums(): WholeWish[] {
    return this.pinSums.flatMap(({ across, along }, i) => {
      const { count } = this.pins[i];
      return [...(across ? [{ sum: across, size: 0 }] : []), ...(along && count > 0 ? [{ sum: along, size: count }] : [])];
    });
  }

  /** Quads along each pin in a solution; nothing where its way turns, or does not close. */
  pinCounts(x: Float64Array): (number | undefined)[] {
    const wholes = x.subarray(this.unknowns - this.whole);
    return this.pinSums.map(({ across, along }) =>
      along && (!across || valueOfSum(across, wholes) === 0) ? Math.abs(valueOfSum(along, wholes)) : undefined
    );
  }

  /** u and v by half-edge start: multiples of GRID, exact across cuts. */
  coordinates(x: Float64Array): Float64Array {
    const { mesh, cut } = this;
    const [copyU, copyV] = [this.formsU.values(x), this.formsV.values(x)];
    const uv = new Float64Array(6 * mesh.triangles);
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      uv[2 * h] = copyU[cut.copy[h]];
      uv[2 * h + 1] = copyV[cut.copy[h]];
    }
    return uv;
  }

  /** Twice the area of the whole map, and triangles turned over in it. */
  tally(x: Float64Array): { area: number; folded: number } {
    const { mesh, cut } = this;
    const [u, v] = [this.formsU.values(x), this.formsV.values(x)];
    let [area, folded] = [0, 0];
    for (let t = 0; t < mesh.triangles; t++) {
      const [a, b, c] = [cut.copy[3 * t], cut.copy[3 * t + 1], cut.copy[3 * t + 2]];
      const own = (u[b] - u[a]) * (v[c] - v[a]) - (v[b] - v[a]) * (u[c] - u[a]);
      area += own;
      if (own <= 0) folded++;
    }
    return { area, folded };
  }

  /**
   * Moves single unknowns so that triangles turned over in the map come right, each to where the worst triangle round it
   * is best (a concave function of one number). Changes `x`. @returns triangles that are still turned over
   */
  untangle(x: Float64Array, size: number, sweeps = 24): number {
    const { mesh, frames, unknowns, whole } = this;
    const free = unknowns - whole;
    const users = this.trianglesOf(free);
    // areas as shares of what they are meant to be: least of those round an unknown is what counts
    const share = (t: number) => this.areaOf(t, x) / ((2 * frames.area[t]) / (size * this.sizeFactor[t]) ** 2);
    const shares = Float64Array.from({ length: mesh.triangles }, (_, t) => share(t));
    let bad: number[] = [];
    let [fewest, since] = [Infinity, 0];
    for (let sweep = 0; sweep <= sweeps; sweep++) {
      bad = [];
      for (let t = 0; t < mesh.triangles; t++) if (shares[t] <= 0) bad.push(t);
      if (bad.length < fewest) [fewest, since] = [bad.length, 0];
      else since++;
      if (bad.length === 0 || sweep === sweeps || since > PATIENCE) break;
      const movable = new Set<number>();
      for (const t of bad) for (const k of this.unknownsOf(t, free)) movable.add(k);
      if (sweep % 3 === 2) for (const k of [...movable]) for (const t of users[k]) for (const m of this.unknownsOf(t, free)) movable.add(m);
      for (const k of movable) {
        const before = x[k];
        const sample = (offset: number) => {
          x[k] = before + offset;
          return Float64Array.from(users[k], share);
        };
        const now = Float64Array.from(users[k], (t) => shares[t]);
        x[k] = offHalves(Math.round((before + highestLeast(sample(-REACH), now, sample(REACH))) / GRID) * GRID);
        const then = Float64Array.from(users[k], share);
        if (then.reduce(lesser) <= now.reduce(lesser)) x[k] = before;
        else users[k].forEach((t, i) => (shares[t] = then[i]));
      }
    }
    return bad.length;
  }

  private unknownsOf(t: number, free: number): number[] {
    const list: number[] = [];
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const copy = this.cut.copy[h];
      for (const { start, unknown } of [this.formsU, this.formsV])
        for (let e = start[copy]; e < start[copy + 1]; e++) if (unknown[e] < free) list.push(unknown[e]);
    }
    return list;
  }

  private trianglesOf(free: number): number[][] {
    if (this.users) return this.users;
    const users: number[][] = Array.from({ length: free }, () => []);
    for (let t = 0; t < this.mesh.triangles; t++) for (const k of new Set(this.unknownsOf(t, free))) users[k].push(t);
    return (this.users = users);
  }

  private areaOf(t: number, x: Float64Array): number {
    const { copy } = this.cut;
    const [a, b, c] = [copy[3 * t], copy[3 * t + 1], copy[3 * t + 2]];
    const { formsU, formsV } = this;
    const u = formsU.value(a, x);
    const v = formsV.value(a, x);
    return (formsU.value(b, x) - u) * (formsV.value(c, x) - v) - (formsV.value(b, x) - v) * (formsU.value(c, x) - u);
  }
}

/** Sweeps without a fold less after which untangling gives up. */
const PATIENCE = 9;
/** Quads by which untangling moves a single unknown at most. */
const REACH = 1.5;

const lesser = (a: number, b: number): number => Math.min(a, b);

/**
 * Where the least of some functions, each at most quadratic and their least concave, is greatest.
 * @param low,middle,high the functions' values at -REACH, 0 and REACH
 */
function highestLeast(low: Float64Array, middle: Float64Array, high: Float64Array): number {
  const slope = low.map((l, i) => (high[i] - l) / (2 * REACH));
  const bend = low.map((l, i) => (high[i] + l - 2 * middle[i]) / (2 * REACH * REACH));
  const least = (at: number) => {
    let all = Infinity;
    for (let i = 0; i < middle.length; i++) all = Math.min(all, middle[i] + at * (slope[i] + at * bend[i]));
    return all;
  };
  let [from, to] = [-REACH, REACH];
  for (let i = 0; i < 20; i++) {
    const a = from + (to - from) / 3;
    const b = to - (to - from) / 3;
    if (least(a) < least(b)) from = a;
    else to = b;
  }
  return (from + to) / 2;
}

/** Half a whole plus a grid step: no ordinary vertex lies on a line through cell centres. */
function offHalves(x: number): number {
  return x - Math.floor(x) === 0.5 ? x + GRID : x;
}

/** Twice the signed area of each triangle in the map; negative: turned over. */
export function mapAreas(uv: Float64Array): Float64Array {
  const areas = new Float64Array(uv.length / 6);
  for (let t = 0; t < areas.length; t++) {
    const i = 6 * t;
    areas[t] = (uv[i + 2] - uv[i]) * (uv[i + 5] - uv[i + 1]) - (uv[i + 3] - uv[i + 1]) * (uv[i + 4] - uv[i]);
  }
  return areas;
}
