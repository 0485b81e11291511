/** Sums by a whole number in an array that is kept from one question to the next. */
export class Tally {
  private sums = new Float64Array(0);
  touched: number[] = [];

  /** Of nothing, for whole numbers below `size`. */
  cleared(size: number): this {
    if (this.sums.length < size) this.sums = new Float64Array(size * 2);
    else for (const at of this.touched) this.sums[at] = 0;
    this.touched = [];
    return this;
  }

  add(at: number, by: number): void {
    if (this.sums[at] === 0) this.touched.push(at);
    this.sums[at]! += by;
  }

  of(at: number): number {
    return this.sums[at]!;
  }

  asMap(): Map<number, number> {
    return new Map(this.touched.map((at) => [at, this.sums[at]!]));
  }
}
