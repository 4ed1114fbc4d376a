import { type CutMesh } from '../field/cut-graph.ts';
import { type FlatForms, type Form } from './constraint-elimination.ts';
import { GRID, offHalves } from './map-plane.ts';
import { type MapPatch, unfold } from './unfold.ts';
import { after, before, type WorkingMesh } from '../base/working-mesh.ts';

/** Rows of triangles round a fold that may move; folds whose rows touch are unfolded together. */
const ROWS = 12;
/** How near to a pole its neighbours are put before it is unfolded, as a share of how far they are meant to be. */
const NEAR = 0.1;
/** By how much the turns round a pole may differ from what they are to be, in radians: rounding errors only. */
const SAME_TURN = 0.1;

/** Where the edges of a triangle are meant to lead in the map, u and v, by half-edge. */
export type Meant = (h: number) => readonly [number, number];

/** Brings triangles right that are turned over in a seamless map. */
export class Untangler {
  /** by unknown that may move the triangles it has a part in */
  private readonly users: number[][];

  /**
   * @param index of poles, by vertex
   * @param forms u and v of copies, over the map's unknowns
   * @param free how many of these may move: those that are not whole, which come first
   */
  constructor(
    private readonly mesh: WorkingMesh,
    private readonly cut: CutMesh,
    private readonly index: Int8Array,
    private readonly forms: readonly [FlatForms, FlatForms],
    private readonly free: number
  ) {
    this.users = Array.from({ length: free }, () => []);
    for (let t = 0; t < mesh.triangles; t++) for (const k of this.unknownsOf(t)) this.users[k].push(t);
  }

  /**
   * @param x values of the unknowns; changed, to multiples of `GRID`
   * @param folded triangles that are turned over
   */
  run(x: Float64Array, folded: ReadonlySet<number>, meant: Meant): void {
    const done = new Set<number>();
    for (const t of folded) {
      if (done.has(t)) continue;
      const patch = this.patchRound(t, folded);
      for (const s of patch) done.add(s);
      this.unfoldAmong(patch, x, meant);
    }
  }

  /** Triangles up to `ROWS` from one that is folded, and from all that are folded among these. */
  private patchRound(start: number, folded: ReadonlySet<number>): number[] {
    const rows = new Map([[start, 0]]);
    const front = [start];
    for (let t = front.pop(); t !== undefined; t = front.pop()) {
      const row = rows.get(t)! + 1;
      if (row > ROWS) continue;
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const g = this.mesh.opposite[h];
        const next = Math.floor(g / 3);
        const own = folded.has(next) ? 0 : row;
        if (g < 0 || own >= (rows.get(next) ?? Infinity)) continue;
        rows.set(next, own);
        front.push(next);
      }
    }
    return [...rows.keys()];
  }

  private unfoldAmong(triangles: readonly number[], x: Float64Array, meant: Meant): void {
    const inside = new Set(triangles);
    const all = new Set(triangles.flatMap((t) => [...this.unknownsOf(t)]));
    const own = [...all].filter((k) => this.users[k].every((t) => inside.has(t)));
    this.turnPoles(triangles, new Set(own), x, meant);
    const { moves } = unfold(this.patchOf(triangles, own, x, meant));
    own.forEach((k, i) => (x[k] = offHalves(Math.round((x[k] + moves[i]) / GRID) * GRID)));
  }

  /**
   * Puts the neighbours of poles of five edges and more round which the map makes too few turns where they belong, close to the pole:
   * otherwise all triangles could come right with one turn less there and one more elsewhere, and two wrong poles.
   */
  private turnPoles(triangles: readonly number[], own: ReadonlySet<number>, x: Float64Array, meant: Meant): void {
    const { mesh, cut, index, forms } = this;
    const spokes: number[] = [];
    for (const v of new Set(triangles.flatMap((t) => [0, 1, 2].map((k) => mesh.corner[3 * t + k])))) {
      if (index[v] >= 0 || mesh.isBorder(v)) continue;
      const turn = mesh.spokes(v, spokes).reduce((sum, h) => sum + this.turnAt(h, x), 0);
      if (Math.abs(turn - ((4 - index[v]) * Math.PI) / 2) < SAME_TURN) continue;
      for (const h of spokes) {
        const way = meant(h);
        const copy = cut.copy[after(h)];
        forms.forEach(({ start, unknown, coefficient }, k) => {
          const open = Array.from({ length: start[copy + 1] - start[copy] }, (_, i) => start[copy] + i).filter((e) => own.has(unknown[e]));
          if (open.length !== 1) return;
          const goal = forms[k].value(cut.copy[h], x) + NEAR * way[k];
          x[unknown[open[0]]] += (goal - forms[k].value(copy, x)) / coefficient[open[0]];
        });
      }
    }
  }

  /** Angle of a triangle in the map at a half-edge's start, below 0 where it is turned over. */
  private turnAt(h: number, x: Float64Array): number {
    const [a, b] = [this.led(h, after(h), x), this.led(h, before(h), x)];
    return Math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1]);
  }

  /** Way in the map from the start of one half-edge of a triangle to that of another one. */
  private led(from: number, to: number, x: Float64Array): [number, number] {
    const { copy } = this.cut;
    const [u, v] = this.forms;
    return [u.value(copy[to], x) - u.value(copy[from], x), v.value(copy[to], x) - v.value(copy[from], x)];
  }

  private patchOf(triangles: readonly number[], own: readonly number[], x: Float64Array, meant: Meant): MapPatch {
    const { cut, forms } = this;
    const number = new Map(own.map((k, i) => [k, i]));
    const count = triangles.length;
    const [startU, startV] = [new Int32Array(count + 1), new Int32Array(count)];
    const terms: [unknown: number, onFirst: number, onSecond: number][] = [];
    const [area, inverse, edges] = [new Float64Array(count), new Float64Array(4 * count), new Float64Array(4 * count)];
    triangles.forEach((t, i) => {
      const [a, b] = meant(3 * t);
      const [c, d] = meant(3 * t + 2).map((part) => -part);
      const twice = a * d - b * c;
      area[i] = twice / 2;
      inverse.set([d / twice, -c / twice, -b / twice, a / twice], 4 * i);
      const [first, second] = [this.led(3 * t, 3 * t + 1, x), this.led(3 * t, 3 * t + 2, x)];
      edges.set([first[0], second[0], first[1], second[1]], 4 * i);
      forms.forEach((form, k) => {
        if (k === 1) startV[i] = terms.length;
        const [onFirst, onSecond] = [1, 2].map((corner): Form => {
          const difference: Form = new Map();
          form.collect(cut.copy[3 * t + corner], 1, difference);
          form.collect(cut.copy[3 * t], -1, difference);
          return difference;
        });
        for (const n of new Set([...onFirst.keys(), ...onSecond.keys()])) {
          const unknown = number.get(n);
          if (unknown !== undefined) terms.push([unknown, onFirst.get(n) ?? 0, onSecond.get(n) ?? 0]);
        }
      });
      startU[i + 1] = terms.length;
    });
    return {
      area,
      inverse,
      edges,
      startU,
      startV,
      unknown: Int32Array.from(terms, ([unknown]) => unknown),
      onFirst: Float64Array.from(terms, ([, first]) => first),
      onSecond: Float64Array.from(terms, ([, , second]) => second),
      count: own.length
    };
  }

  /** Unknowns that may move and that a triangle depends on. */
  private unknownsOf(t: number): Set<number> {
    const found = new Set<number>();
    for (let h = 3 * t; h < 3 * t + 3; h++)
      for (const { start, unknown } of this.forms)
        for (let e = start[this.cut.copy[h]]; e < start[this.cut.copy[h] + 1]; e++) if (unknown[e] < this.free) found.add(unknown[e]);
    return found;
  }
}
