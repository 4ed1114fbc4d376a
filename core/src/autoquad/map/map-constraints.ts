import { after, type WorkingMesh } from '../base/working-mesh.ts';
import { type Ring } from '../field/closed-rings.ts';
import { type Frames } from '../field/curvature.ts';
import { type CutMesh } from '../field/cut-graph.ts';
import { mod4 } from '../field/orientation-field.ts';
import { addTo, Eliminator, FlatForms, type Form } from './constraint-elimination.ts';
import { type PoleWay } from './pole-ways.ts';
import { type WholeSum } from './whole-sums.ts';

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

/** A sum of whole unknowns with a text that is the same whichever way it runs. */
export type KeyedSum = [key: string, sum: WholeSum];

const single = (k: number): Form => new Map([[k, 1]]);

/**
 * What holds in every map of a cut mesh, whatever the size of quads: both sides of a cut differ by a quarter turn and a whole
 * translation, features keep one coordinate, poles, features and translations are whole, pins close. These are eliminated exactly;
 * u and v of every corner become forms over the unknowns that are left, those last that are to be whole.
 * Of copy c u and v are unknowns 2c and 2c + 1 before elimination, those of chain i's translation come after.
 */
export class MapConstraints {
  /** forms of u and v by half-edge start copy */
  formsU!: FlatForms;
  formsV!: FlatForms;
  /** by how much they change along half-edges */
  edgeForms!: readonly [FlatForms, FlatForms];
  /** sums of whole unknowns that come out as nothing where each pin closes, and as the quads along it */
  readonly pinSums: readonly { across?: WholeSum; along?: WholeSum }[];
  unknowns = 0;
  /** how many of them are to be whole */
  whole = 0;
  private readonly solver: Eliminator;
  /** by unknown before elimination its number, -1 where it is given by others */
  private number!: Int32Array;
  private readonly translations: number;

  /**
   * @param index of poles, by vertex
   * @param pins rings that close before all others
   * @throws MapError where the cut's translations contradict each other
   */
  constructor(
    private readonly mesh: WorkingMesh,
    private readonly frames: Frames,
    private readonly cut: CutMesh,
    index: Int8Array,
    pins: readonly Ring[]
  ) {
    this.translations = 2 * cut.copies;
    const poleCopies = new Set<number>();
    for (let h = 0; h < 3 * mesh.triangles; h++) if (index[mesh.corner[h]] !== 0) poleCopies.add(cut.copy[h]);
    // ordinary copies go first, then translations, then coordinates of poles
    this.solver = new Eliminator((k) => (k >= this.translations ? 1 : poleCopies.has(k >> 1) ? 2 : 0));
    this.joinCuts();
    const wholeForms = this.holdFeatures();
    for (const c of poleCopies) wholeForms.push(single(2 * c), single(2 * c + 1));
    const pinned = this.shiftsOf(pins);
    // whole numbers that are found one after the other would hardly ever come out so: what is asked for is made so beforehand
    for (const shift of pinned) if (shift) this.solver.require(shift.across);
    this.numberUnknowns(wholeForms);
    this.pinSums = pinned.map((s) => ({ across: this.wholeSum(s?.across), along: this.wholeSum(s?.along) }));
  }

  /** By how much u and v change on a way, as they run at its beginning. */
  led({ edges, turns }: PoleWay): [Form, Form] {
    const { cut } = this;
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
    return [u, v];
  }

  /** A form as a sum of whole unknowns; nothing where it has others, or none. */
  wholeSum(form: Form | undefined): WholeSum | undefined {
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
  shiftsOf(rings: readonly Ring[]): ({ along: Form; across: Form } | undefined)[] {
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

  /** Numbers what is left after elimination, whole unknowns last. */
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
    this.edgeForms = this.formsOfEdges();
    this.number = number;
  }

  /** By how much u and v change along half-edges. */
  private formsOfEdges(): [FlatForms, FlatForms] {
    const { cut, mesh } = this;
    const led = (forms: FlatForms) =>
      new FlatForms(
        Array.from({ length: 3 * mesh.triangles }, (_, h) => {
          const form: Form = new Map();
          forms.collect(cut.copy[after(h)], 1, form);
          forms.collect(cut.copy[h], -1, form);
          return form;
        })
      );
    return [led(this.formsU), led(this.formsV)];
  }

  /** A form as a sum of whole unknowns, and a text that is the same whichever way it runs. */
  keyedSum(form: Form | undefined): KeyedSum | undefined {
    const sum = this.wholeSum(form);
    if (!sum) return undefined;
    const sorted = [...sum].sort((a, b) => a[0] - b[0]);
    const sign = sorted[0][1] < 0 ? -1 : 1;
    return [sorted.map(([k, c]) => `${k}:${sign * c}`).join(' '), sorted];
  }
}
