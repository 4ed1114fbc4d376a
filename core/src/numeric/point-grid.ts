/** Numbered points in cells of a grid, to find those near a place without looking at all. */
export class PointGrid {
  private readonly cells = new Map<string, number[]>();

  /** @param size of a cell: points that lie no farther apart are found */
  constructor(private readonly size: number) {}

  put(id: number, x: number, y: number, z: number): void {
    const name = `${this.cell(x)} ${this.cell(y)} ${this.cell(z)}`;
    const list = this.cells.get(name);
    if (list) list.push(id);
    else this.cells.set(name, [id]);
  }

  /** Visits every point within a cell's size of a place, and some that lie a little farther. */
  visitNear(x: number, y: number, z: number, visit: (id: number) => void): void {
    const [i, j, k] = [this.cell(x), this.cell(y), this.cell(z)];
    for (let n = 0; n < 27; n++)
      for (const id of this.cells.get(`${i + (n % 3) - 1} ${j + (Math.floor(n / 3) % 3) - 1} ${k + Math.floor(n / 9) - 1}`) ?? []) visit(id);
  }

  private cell(x: number): number {
    return Math.floor(x / this.size);
  }
}
