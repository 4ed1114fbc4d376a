/** A typed array that grows by half when full; reading code uses `done()`. */
export class GrowingArray<T extends Float64Array | Int32Array> {
  length = 0;
  private data: T;

  constructor(
    private readonly make: new (length: number) => T,
    capacity = 1024
  ) {
    this.data = new make(capacity);
  }

  push(value: number): void {
    if (this.length === this.data.length) {
      const bigger = new this.make(Math.ceil(this.length * 1.5) + 16);
      bigger.set(this.data as never);
      this.data = bigger;
    }
    this.data[this.length++] = value;
  }

  at(index: number): number {
    return this.data[index];
  }

  set(index: number, value: number): void {
    this.data[index] = value;
  }

  /** The values so far, without spare room. */
  done(): T {
    return this.data.slice(0, this.length) as T;
  }
}
