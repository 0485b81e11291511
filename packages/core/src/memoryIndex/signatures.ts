/**
 * Which bytes and pairs of neighbouring bytes the name of each row holds: a signature of 256 bits a row (superimposed
 * coding, Roberts 1979), kept by bit and not by row (a bit-sliced signature file, Faloutsos and Chan 1988). A piece is
 * looked up by joining the few slices it has bits in, thirty-two rows a step; the other slices are not touched. The
 * pairs that are most frequent in the names at hand have a slice of their own, all others share the rest.
 */
import type { Bits } from './bits.js';

/** a–z and 0–9 have a slice each, all other bytes share some; the rest of the slices are for pairs. */
const LETTERS = 26;
const DIGITS = 10;
const SIGNS = 12;
const BYTES = LETTERS + DIGITS + SIGNS;
const SLICES = 256;
const OWN_PAIRS = 144;
const SHARED = BYTES + OWN_PAIRS;
const ALL_PAIRS = 65_536;
/** Knuth's multiplicative hash. */
const GOLDEN = 0x9e3779b1;

const SLICE_OF_BYTE = Uint8Array.from({ length: 256 }, (_, code) => {
  if (code >= 97 && code <= 122) return code - 97;
  if (code >= 48 && code <= 57) return LETTERS + code - 48;
  return LETTERS + DIGITS + (code % SIGNS);
});

/** Of each pair the slice it shares with others, where it has none of its own. */
const SHARED_SLICE = Uint8Array.from(
  { length: ALL_PAIRS },
  (_, pair) => SHARED + Math.floor(((Math.imul(pair, GOLDEN) >>> 0) / 2 ** 32) * (SLICES - SHARED)),
);

/** The names of rows, as bytes that lie one behind another. */
export interface NameColumns {
  rows: number;
  bytes: Uint8Array;
  nameAt: Uint32Array;
  nameLength: Uint16Array;
}

/** So many names tell which pairs are frequent. */
const SAMPLED = 20_000;

export class Signatures {
  private slices: Int32Array[];
  private readonly sliceOfPair = SHARED_SLICE.slice();

  /** Of the names at hand, with room for `capacity` rows. Cost: a step a byte. */
  constructor(capacity: number, names?: NameColumns) {
    this.slices = Array.from({ length: SLICES }, () => new Int32Array((capacity + 31) >>> 5));
    if (!names) return;
    frequentPairs(names).forEach((pair, i) => (this.sliceOfPair[pair] = BYTES + i));
    for (let row = 0; row < names.rows; row++) {
      const from = names.nameAt[row]!;
      this.add(row, names.bytes, from, from + names.nameLength[row]!);
    }
  }

  /** Makes room for so many rows. */
  grow(capacity: number): void {
    this.slices = this.slices.map((slice) => {
      const next = new Int32Array((capacity + 31) >>> 5);
      next.set(slice);
      return next;
    });
  }

  /** Takes a name in for a row that has none. */
  add(row: number, bytes: Uint8Array, from: number, to: number): void {
    const { slices, sliceOfPair } = this;
    const word = row >>> 5;
    const bit = 1 << (row & 31);
    let before = -1;
    for (let i = from; i < to; i++) {
      const code = bytes[i]!;
      slices[SLICE_OF_BYTE[code]!]![word]! |= bit;
      if (before >= 0) slices[sliceOfPair[(before << 8) | code]!]![word]! |= bit;
      before = code;
    }
  }

  /** Forgets the name of a row. */
  remove(row: number): void {
    const keep = ~(1 << (row & 31));
    for (const slice of this.slices) slice[row >>> 5]! &= keep;
  }

  /**
   * Takes out of the rows those whose names cannot hold all bytes of a piece side by side. Cost: a step 32 rows and
   * bit.
   */
  narrow(codes: Uint8Array, { words }: Bits): void {
    for (const slice of this.slicesOf(codes)) {
      const own = this.slices[slice]!;
      for (let w = 0; w < words.length; w++) words[w]! &= own[w]!;
    }
  }

  /** Whether `narrow` leaves only rows that hold the piece. */
  tellsAll(codes: Uint8Array): boolean {
    if (codes.length === 2) return this.sliceOfPair[(codes[0]! << 8) | codes[1]!]! < SHARED;
    return codes.length === 0 || (codes.length === 1 && SLICE_OF_BYTE[codes[0]!]! < LETTERS + DIGITS);
  }

  /** The bytes themselves are asked as well where a pair shares its slice. */
  private slicesOf(codes: Uint8Array): Set<number> {
    const slices = new Set<number>();
    for (let i = 0; i + 1 < codes.length; i++) {
      const slice = this.sliceOfPair[(codes[i]! << 8) | codes[i + 1]!]!;
      slices.add(slice);
      if (slice >= SHARED) slices.add(SLICE_OF_BYTE[codes[i]!]!).add(SLICE_OF_BYTE[codes[i + 1]!]!);
    }
    if (codes.length === 1) slices.add(SLICE_OF_BYTE[codes[0]!]!);
    return slices;
  }
}

function frequentPairs({ rows, bytes, nameAt, nameLength }: NameColumns): number[] {
  const counts = new Uint32Array(ALL_PAIRS);
  const step = Math.max(1, Math.floor(rows / SAMPLED));
  for (let row = 0; row < rows; row += step) {
    const from = nameAt[row]!;
    const to = from + nameLength[row]!;
    for (let i = from + 1; i < to; i++) counts[(bytes[i - 1]! << 8) | bytes[i]!]!++;
  }
  const seen = [...counts.keys()].filter((pair) => counts[pair]! > 0);
  return seen.sort((a, b) => counts[b]! - counts[a]!).slice(0, OWN_PAIRS);
}
