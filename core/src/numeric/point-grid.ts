/** Numbered points in cells of a grid, to find those near a place without looking at all. */
export class PointGrid {
  private readonly cells = new Map<number | string, number[]>();

  /**
   * @param reach points that lie no farther from a place are found
   * @param size of a cell: more than the reach where points lie much farther apart than that, so that fewer cells are looked into
   */
  constructor(
    private readonly reach: number,
    private readonly size = reach
  ) {}

  put(id: number, x: number, y: number, z: number): void {
    const name = nameOf(this.cell(x), this.cell(y), this.cell(z));
    const list = this.cells.get(name);
    if (list) list.push(id);
    else this.cells.set(name, [id]);
  }

  /** Visits every point within reach of a place, and some that lie farther. */
  visitNear(x: number, y: number, z: number, visit: (id: number) => void): void {
    const [low, high] = [-this.reach, this.reach].map((by) => [x, y, z].map((c) => this.cell(c + by)));
    // cells so small against where they lie that counting them would not get on, or more of them than points
    const cells = low.reduce((product, from, k) => product * (high[k] - from + 1), 1);
    if (![...low, ...high].every(Number.isSafeInteger) || cells > 64 + 8 * this.cells.size) {
      for (const ids of this.cells.values()) ids.forEach(visit);
      return;
    }
    for (let i = low[0]; i <= high[0]; i++)
      for (let j = low[1]; j <= high[1]; j++)
        for (let k = low[2]; k <= high[2]; k++) for (const id of this.cells.get(nameOf(i, j, k)) ?? []) visit(id);
  }

  private cell(x: number): number {
    return Math.floor(x / this.size);
  }
}

/** Cells each way from the middle whose names are numbers, which are found faster: three of them fit into 53 bits. */
const NUMBERED = 2 ** 16;

function nameOf(i: number, j: number, k: number): number | string {
  const isNear = i >= -NUMBERED && i < NUMBERED && j >= -NUMBERED && j < NUMBERED && k >= -NUMBERED && k < NUMBERED;
  return isNear ? ((i + NUMBERED) * 2 * NUMBERED + j + NUMBERED) * 2 * NUMBERED + k + NUMBERED : `${i} ${j} ${k}`;
}
