/** A set of row numbers below a fixed size, one bit a row. */
export class Bits {
  readonly words: Int32Array;

  /** Rows 0 to `size` − 1; none of them set. */
  constructor(readonly size: number) {
    this.words = new Int32Array((size + 31) >>> 5);
  }

  static all(size: number): Bits {
    const bits = new Bits(size);
    bits.words.fill(-1);
    bits.trim();
    return bits;
  }

  add(row: number): void {
    this.words[row >>> 5]! |= 1 << (row & 31);
  }

  delete(row: number): void {
    this.words[row >>> 5]! &= ~(1 << (row & 31));
  }

  has(row: number): boolean {
    return row < this.size && (this.words[row >>> 5]! & (1 << (row & 31))) !== 0;
  }

  /** None any more. */
  clear(): this {
    this.words.fill(0);
    return this;
  }

  and(other: Bits): this {
    const { words } = this;
    for (let i = 0; i < words.length; i++) words[i]! &= other.words[i]!;
    return this;
  }

  or(other: Bits): this {
    const { words } = this;
    for (let i = 0; i < words.length; i++) words[i]! |= other.words[i]!;
    return this;
  }

  andNot(other: Bits): this {
    const { words } = this;
    for (let i = 0; i < words.length; i++) words[i]! &= ~other.words[i]!;
    return this;
  }

  /** All rows but those, within the size. */
  flip(): this {
    const { words } = this;
    for (let i = 0; i < words.length; i++) words[i] = ~words[i]!;
    this.trim();
    return this;
  }

  copy(size = this.size): Bits {
    const bits = new Bits(size);
    bits.words.set(size < this.size ? this.words.subarray(0, bits.words.length) : this.words);
    if (size < this.size) bits.trim();
    return bits;
  }

  /** How many are set. */
  count(): number {
    let n = 0;
    for (let v of this.words) {
      v -= (v >>> 1) & 0x55555555;
      v = (v & 0x33333333) + ((v >>> 2) & 0x33333333);
      n += (((v + (v >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24;
    }
    return n;
  }

  each(visit: (row: number) => void): void {
    const { words } = this;
    for (let i = 0; i < words.length; i++)
      for (let word = words[i]!; word !== 0; word &= word - 1) visit((i << 5) + 31 - Math.clz32(word & -word));
  }

  private trim(): void {
    if (this.size & 31) this.words[this.words.length - 1]! &= (1 << (this.size & 31)) - 1;
  }
}
