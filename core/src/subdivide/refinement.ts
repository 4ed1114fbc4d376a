import { applyRows, applySomeRows, usersOf, type WeightRows } from './weight-rows.ts';

/** One step from the points of a level to those of the next, for any positions of the same topology. */
export interface Refinement {
  /** All points of the next level into `out`. */
  apply(source: Float64Array, out: Float64Array): void;
  /** The points that depend on some changed ones, brought up to date in `out`. @returns their numbers, in no order */
  update(changed: Int32Array, source: Float64Array, out: Float64Array): Int32Array;
  /** The same step as a table over the level's points. */
  rows(): WeightRows;
}

/** Numbers without repeats, cleared at no cost. */
export class MarkedSet {
  private readonly mark: Int32Array;
  private round = 0;
  private list: number[] = [];

  constructor(size: number) {
    this.mark = new Int32Array(size);
  }
  clear(): void {
    this.round++;
    this.list = [];
  }
  add(i: number): void {
    if (this.mark[i] === this.round) return;
    this.mark[i] = this.round;
    this.list.push(i);
  }
  get members(): number[] {
    return this.list;
  }
}

/** A step that is nothing but its table. */
export class TableRefinement implements Refinement {
  private users?: { start: Int32Array; row: Int32Array };
  private readonly touched: MarkedSet;

  constructor(private readonly table: WeightRows) {
    this.touched = new MarkedSet(table.start.length - 1);
  }
  apply(source: Float64Array, out: Float64Array): void {
    applyRows(this.table, source, out);
  }
  update(changed: Int32Array, source: Float64Array, out: Float64Array): Int32Array {
    const { start, row } = (this.users ??= usersOf(this.table, source.length / 3));
    this.touched.clear();
    for (const s of changed) for (let i = start[s]; i < start[s + 1]; i++) this.touched.add(row[i]);
    const rows = Int32Array.from(this.touched.members);
    applySomeRows(this.table, rows, source, out);
    return rows;
  }
  rows(): WeightRows {
    return this.table;
  }
}
