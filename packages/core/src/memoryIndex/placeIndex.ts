/**
 * All originals of one place in columns: what find and saved searches look at, about 80 bytes a row and its name.
 *
 * Rows are numbered in the order of their ids, which only grow; a row keeps its number when it is renamed or moved. The
 * folded names lie in one array of bytes. Signatures of the names tell nearly all that cannot hold a piece, so that few
 * are looked at. When much of the bytes is of former names, or many rows are gone, all is laid out anew
 * (`needsLayingOut`).
 */
import type { EntryType, Kind } from '../kinds/index.js';
import { KINDS } from '../kinds/index.js';
import { fold, matchWord, wordStarts } from '../match/index.js';
import { extensionOf } from '../paths/index.js';
import { Bits } from './bits.js';
import { Signatures } from './signatures.js';
import { fromByteText, toByteText } from './utf8.js';

export interface IndexRow {
  id: number;
  /** The id of the folder it lies in; 0 for the place itself, whose name is empty. */
  parentId: number;
  name: string;
  /** The folded name, where the caller has it. */
  folded?: string;
  type: EntryType;
  kind: Kind;
  /** Bytes. */
  size: number;
  /** Epoch milliseconds. */
  modified: number;
  created: number;
}

export const TYPES: readonly EntryType[] = ['file', 'folder', 'link', 'other'];
const KIND_NUMBER = new Map(KINDS.map((kind, i) => [kind, i]));

/** The bit of a letter in `letters`: a–z, any digit, anything beyond ASCII, the signs that join words. */
export function letterBit(code: number): number {
  if (code >= 97 && code <= 122) return 1 << (code - 97);
  if (code >= 48 && code <= 57) return 1 << 26;
  if (code > 127) return 1 << 27;
  if (code === 45 || code === 95) return 1 << 28;
  if (code === 46) return 1 << 29;
  if (code === 32) return 1 << 30;
  return 0;
}

/** The letters of some bytes as one set. */
export function lettersOf(bytes: Uint8Array, from = 0, to = bytes.length): number {
  let set = 0;
  for (let i = from; i < to; i++) set |= letterBit(bytes[i]!);
  return set;
}

export const isDigit = (code: number) => code >= 48 && code <= 57;

/**
 * The first four bytes of a name as a number in the order of names (`compareNames` of order.ts): equal where only that
 * can tell. A digit stands for all digits and ends it, since what counts is the number it begins.
 */
function nameKey(bytes: Uint8Array, from: number, nameLength: number): number {
  const length = Math.min(4, nameLength);
  let key = 0;
  let i = 0;
  for (; i < length; i++) {
    const byte = bytes[from + i]!;
    if (isDigit(byte)) {
      key = key * 256 + 48;
      i++;
      break;
    }
    key = key * 256 + byte;
  }
  for (; i < 4; i++) key *= 256;
  return key;
}

/** The number that all extensions share for which none is left; no question asks for it. */
const OTHER_EXTENSIONS = 65_535;
/** Ids are kept in 32 bits. */
const GREATEST_ID = 2 ** 32 - 1;
/** When a place has grown to so many rows, its signatures are fitted to their names. */
const FITTED_AT = new Set([2 ** 12, 2 ** 16]);
const FIRST_ROWS = 1024;
const FIRST_BYTES = 16_384;
const grown = (n: number) => Math.ceil(n * 1.5);

export class PlaceIndex {
  /** Rows in use, those that are gone among them. */
  rows = 0;
  /** Rows that are not gone, the place itself not counted. */
  live = 0;
  ids = new Uint32Array(FIRST_ROWS);
  /** The row of the folder it lies in; −1 for the place itself. */
  parents = new Int32Array(FIRST_ROWS);
  nameAt = new Uint32Array(FIRST_ROWS);
  nameLength = new Uint16Array(FIRST_ROWS);
  letters = new Int32Array(FIRST_ROWS);
  /** The first bytes of the name as a number in the order of names (`nameKey`). */
  keys = new Uint32Array(FIRST_ROWS);
  private signatures = new Signatures(FIRST_ROWS);
  sizes = new Float64Array(FIRST_ROWS);
  modified = new Float64Array(FIRST_ROWS);
  created = new Float64Array(FIRST_ROWS);
  kinds = new Uint8Array(FIRST_ROWS);
  types = new Uint8Array(FIRST_ROWS);
  extensions = new Uint16Array(FIRST_ROWS);
  /** How many entries a folder holds. */
  children = new Int32Array(FIRST_ROWS);
  /** 1 where the row is gone. */
  gone = new Uint8Array(FIRST_ROWS);
  /** Folded names as UTF-8. */
  bytes = new Uint8Array(FIRST_BYTES);
  used = 0;
  /** One bit a byte of the names: whether a word begins there. */
  private starts = new Uint32Array(FIRST_BYTES >>> 5);
  /** The same for capitals; and by id the names that are not their folded name but for those. */
  private capitals = new Uint32Array(FIRST_BYTES >>> 5);
  private readonly odd = new Map<number, string>();
  /** Bytes of names that are names no more. */
  private lost = 0;
  private goneRows = 0;
  /** The rows that are there; kept until one goes. */
  private there: Bits | undefined;
  private readonly extensionNumbers = new Map<string, number>([['', 0]]);
  /** Rows that came before the folder they lie in, which is newer than they: by its id. */
  private readonly waiting = new Map<number, number[]>();

  constructor(
    readonly placeId: number,
    public name: string,
  ) {}

  /** The row of an id, or −1. */
  rowOf(id: number): number {
    const row = this.slotOf(id);
    return row >= 0 && this.gone[row] === 1 ? -1 : row;
  }

  /** Whether an id can be taken in: it is new, or its row is here still. */
  canPut(id: number): boolean {
    return this.rows === 0 || id > this.ids[this.rows - 1]! || this.slotOf(id) >= 0;
  }

  /** The same, also of one that is gone. */
  private slotOf(id: number): number {
    let low = 0;
    let high = this.rows - 1;
    if (high < 0 || id > this.ids[high]!) return -1;
    while (low <= high) {
      const mid = (low + high) >>> 1;
      const at = this.ids[mid]!;
      if (at === id) return mid;
      if (at < id) low = mid + 1;
      else high = mid - 1;
    }
    return -1;
  }

  /** How many entries lie beside it on each level, from the place's own down to its folder's; empty for the place. */
  levelsOf(row: number): number[] {
    const levels: number[] = [];
    for (let parent = this.parents[row]!; parent >= 0; parent = this.parents[parent]!)
      levels.push(this.children[parent]!);
    return levels.reverse();
  }

  /**
   * Takes a row in, or what changed about it. A new id must be greater than all before it; one that is gone comes back
   * as long as no layout took its row away (`canPut`).
   */
  put(row: IndexRow): void {
    const slot = this.slotOf(row.id);
    if (slot >= 0 && this.gone[slot] === 1) this.revive(slot);
    const known = slot;
    const at = known >= 0 ? known : this.append(row.id);
    const parent = row.parentId === 0 ? -1 : this.rowOf(row.parentId);
    if (known < 0 || this.parents[at] !== parent) this.lieIn(at, parent);
    if (parent < 0 && row.parentId !== 0) {
      const others = this.waiting.get(row.parentId);
      if (others) others.push(at);
      else this.waiting.set(row.parentId, [at]);
    }
    if (known < 0 && this.waiting.size > 0) {
      // one that was moved elsewhere meanwhile waits no more
      for (const child of this.waiting.get(row.id) ?? []) if (this.parents[child] === -1) this.lieIn(child, at);
      this.waiting.delete(row.id);
    }
    const folded = row.folded ?? fold(row.name);
    if (known < 0 || this.nameOf(at) !== row.name) this.putName(at, folded, row.name, known < 0);
    this.sizes[at] = row.size;
    this.modified[at] = row.modified;
    this.created[at] = row.created;
    this.kinds[at] = KIND_NUMBER.get(row.kind) ?? KINDS.length - 1;
    this.types[at] = TYPES.indexOf(row.type);
    this.extensions[at] = this.extensionNumber(extensionOf(folded));
    if (known < 0 && FITTED_AT.has(this.rows)) this.signatures = new Signatures(this.ids.length, this);
  }

  private revive(row: number): void {
    this.gone[row] = 0;
    this.there = undefined;
    this.goneRows--;
    if (this.nameLength[row]! > 0) this.live++;
    this.parents[row] = -1;
    // what lay in it went with it
    this.children[row] = 0;
  }

  /** Forgets a row; what lies below it is forgotten by `deleteOrphans`. */
  delete(id: number): void {
    const row = this.rowOf(id);
    if (row < 0) return;
    this.gone[row] = 1;
    this.there = undefined;
    this.goneRows++;
    if (this.nameLength[row]! > 0) this.live--;
    const parent = this.parents[row]!;
    if (parent >= 0) this.children[parent]!--;
  }

  /** Forgets all whose folder is gone; returns their rows. Linear in the rows. */
  deleteOrphans(): number[] {
    const dead = new Uint8Array(this.rows); // 1 gone, 2 looked at and there
    const found: number[] = [];
    const isDead = (row: number): boolean => {
      if (dead[row] !== 0) return dead[row] === 1;
      const parent = this.parents[row]!;
      const is = this.gone[row] === 1 || (parent >= 0 && isDead(parent));
      dead[row] = is ? 1 : 2;
      return is;
    };
    for (let row = 0; row < this.rows; row++) if (this.gone[row] === 0 && isDead(row)) found.push(row);
    for (const row of found) this.delete(this.ids[row]!);
    return found;
  }

  /** The folded name of a row. */
  foldedOf(row: number): string {
    return fromByteText(this.bytesOf(row));
  }

  /** The name as it is written. */
  nameOf(row: number): string {
    const odd = this.odd.get(this.ids[row]!);
    if (odd !== undefined) return odd;
    const folded = this.bytesOf(row);
    const at = this.nameAt[row]!;
    let name = '';
    for (let i = 0; i < folded.length; i++) {
      const capital = (this.capitals[(at + i) >>> 5]! & (1 << ((at + i) & 31))) !== 0;
      name += capital ? folded[i]!.toUpperCase() : folded[i]!;
    }
    return name;
  }

  /** Names from the place down to the folder the row lies in. */
  trailOf(row: number): string[] {
    const names: string[] = [];
    for (let at = this.parents[row]!; at >= 0; at = this.parents[at]!)
      names.unshift(this.nameLength[at] === 0 ? this.name : this.nameOf(at));
    return names;
  }

  /** The folded name of a row, as byte text. */
  bytesOf(row: number): string {
    const at = this.nameAt[row]!;
    return String.fromCharCode.apply(null, this.bytes.subarray(at, at + this.nameLength[row]!) as unknown as number[]);
  }

  extensionNumberOf(extension: string): number | undefined {
    return this.extensionNumbers.get(extension);
  }

  /** Folded names from the place down to the folder the row lies in. */
  foldersOf(row: number): string[] {
    const names: string[] = [];
    for (let at = this.parents[row]!; at >= 0; at = this.parents[at]!)
      names.unshift(this.nameLength[at] === 0 ? fold(this.name) : this.foldedOf(at));
    return names;
  }

  /** How well a folded word matches the place's own name; 0 where it does not. */
  placeQuality(word: string): number {
    const folded = fold(this.name);
    return folded.includes(word) ? matchWord(word, folded, wordStarts(folded, this.name))!.quality : 0;
  }

  startsWord(byteAt: number): boolean {
    return (this.starts[byteAt >>> 5]! & (1 << (byteAt & 31))) !== 0;
  }

  /** The rows that are there, the place itself left out. */
  present(): Bits {
    if (this.there?.size !== this.rows) {
      const bits = new Bits(this.rows);
      for (let row = 0; row < this.rows; row++) if (this.gone[row] === 0 && this.nameLength[row]! > 0) bits.add(row);
      this.there = bits;
    }
    return this.there.copy();
  }

  /** Whether the folded name of a row holds the bytes. */
  holds(row: number, piece: Uint8Array): boolean {
    const { bytes } = this;
    const from = this.nameAt[row]!;
    const last = from + this.nameLength[row]! - piece.length;
    if (piece.length === 0) return true;
    const first = piece[0];
    for (let at = from; at <= last; at++) {
      if (bytes[at] !== first) continue;
      let i = 1;
      while (i < piece.length && bytes[at + i] === piece[i]) i++;
      if (i === piece.length) return true;
    }
    return false;
  }

  /**
   * Visits each place a piece stands at, among the rows given or all: its row, and where in the bytes, ascending;
   * passes over the rest of a row. Cost: a step 32 rows, and one over the names whose signature fits.
   */
  eachHit(piece: string, visit: (row: number, at: number) => void, among = this.present()): void {
    const codes = Uint8Array.from(piece, (c) => c.charCodeAt(0));
    const n = codes.length;
    const first = codes[0]!;
    const { bytes, nameAt, nameLength } = this;
    const candidates = among.copy();
    this.signatures.narrow(codes, candidates);
    candidates.each((row) => {
      const from = nameAt[row]!;
      const last = from + nameLength[row]! - n;
      for (let at = from; at <= last; at++) {
        if (bytes[at] !== first) continue;
        let i = 1;
        while (i < n && bytes[at + i] === codes[i]) i++;
        if (i === n) visit(row, at);
      }
    });
  }

  /**
   * Takes out of the rows nearly all whose folded names do not hold the bytes of a piece side by side, and no other.
   */
  keepMaybe(codes: Uint8Array, bits: Bits): void {
    this.signatures.narrow(codes, bits);
  }

  /** Takes out of the rows those whose folded names do not hold all bytes of a piece side by side. */
  keepHolding(codes: Uint8Array, bits: Bits): void {
    this.signatures.narrow(codes, bits);
    if (this.signatures.tellsAll(codes)) return;
    const { bytes, nameAt, nameLength } = this;
    const { words } = bits;
    const n = codes.length;
    const first = codes[0]!;
    const last = codes[n - 1]!;
    // one loop without a call a row: there may be hundreds of thousands to look at
    for (let w = 0; w < words.length; w++)
      for (let left = words[w]!; left !== 0; left &= left - 1) {
        const bit = 31 - Math.clz32(left & -left);
        const row = (w << 5) + bit;
        let at = nameAt[row]!;
        const end = at + nameLength[row]! - n;
        search: for (; at <= end; at++) {
          if (bytes[at] !== first || bytes[at + n - 1] !== last) continue;
          for (let i = 1; i < n - 1; i++) if (bytes[at + i] !== codes[i]) continue search;
          break;
        }
        if (at > end) words[w]! &= ~(1 << bit);
      }
  }

  /** The same for those that end with it. */
  keepEnding(codes: Uint8Array, bits: Bits): void {
    this.signatures.narrow(codes, bits);
    bits.each((row) => {
      if (!this.endsWith(row, codes)) bits.delete(row);
    });
  }

  /** Whether the folded name of a row ends with the bytes. */
  endsWith(row: number, piece: Uint8Array): boolean {
    const from = this.nameAt[row]! + this.nameLength[row]! - piece.length;
    if (from < this.nameAt[row]!) return false;
    for (let i = 0; i < piece.length; i++) if (this.bytes[from + i] !== piece[i]) return false;
    return true;
  }

  /** Whether laying out anew is worth its time. */
  get needsLayingOut(): boolean {
    return this.lost > 100_000 + this.used / 2 || this.goneRows > 2000 + this.rows / 4;
  }

  /** Lays the names out in the order of rows, and drops what is gone: rows are numbered anew. */
  layOut(): void {
    if (this.goneRows > 0) this.dropGone();
    let length = 0;
    for (let row = 0; row < this.rows; row++) length += this.nameLength[row]!;
    const bytes = new Uint8Array(Math.max(FIRST_BYTES, length + (length >>> 3)));
    const starts = new Uint32Array((bytes.length + 31) >>> 5);
    const capitals = new Uint32Array(starts.length);
    let to = 0;
    for (let row = 0; row < this.rows; row++) {
      const from = this.nameAt[row]!;
      const size = this.nameLength[row]!;
      for (let k = 0; k < size; k++) {
        bytes[to + k] = this.bytes[from + k]!;
        const bit = 1 << ((to + k) & 31);
        if (this.startsWord(from + k)) starts[(to + k) >>> 5]! |= bit;
        if ((this.capitals[(from + k) >>> 5]! & (1 << ((from + k) & 31))) !== 0) capitals[(to + k) >>> 5]! |= bit;
      }
      this.nameAt[row] = to;
      to += size;
    }
    this.bytes = bytes;
    this.starts = starts;
    this.capitals = capitals;
    this.used = to;
    this.lost = 0;
  }

  private extensionNumber(extension: string): number {
    const known = this.extensionNumbers.get(extension);
    if (known !== undefined) return known;
    if (this.extensionNumbers.size >= OTHER_EXTENSIONS) return OTHER_EXTENSIONS;
    const number = this.extensionNumbers.size;
    this.extensionNumbers.set(extension, number);
    return number;
  }

  private lieIn(row: number, parent: number): void {
    const before = this.parents[row]!;
    if (before >= 0) this.children[before]!--;
    if (parent >= 0) this.children[parent]!++;
    this.parents[row] = parent;
  }

  private append(id: number): number {
    const before = this.rows > 0 ? this.ids[this.rows - 1]! : 0;
    if (id <= before || id > GREATEST_ID) throw new RangeError(`id ${id} is not from ${before + 1} to ${GREATEST_ID}`);
    if (this.rows === this.ids.length) {
      const size = grown(this.rows);
      const more = <A extends { set(from: A): void }>(column: A, make: new (size: number) => A): A => {
        const next = new make(size);
        next.set(column);
        return next;
      };
      this.ids = more(this.ids, Uint32Array);
      this.parents = more(this.parents, Int32Array);
      this.nameAt = more(this.nameAt, Uint32Array);
      this.nameLength = more(this.nameLength, Uint16Array);
      this.letters = more(this.letters, Int32Array);
      this.keys = more(this.keys, Uint32Array);
      this.signatures.grow(size);
      this.sizes = more(this.sizes, Float64Array);
      this.modified = more(this.modified, Float64Array);
      this.created = more(this.created, Float64Array);
      this.kinds = more(this.kinds, Uint8Array);
      this.types = more(this.types, Uint8Array);
      this.extensions = more(this.extensions, Uint16Array);
      this.children = more(this.children, Int32Array);
      this.gone = more(this.gone, Uint8Array);
    }
    this.ids[this.rows] = id;
    this.parents[this.rows] = -1;
    this.children[this.rows] = 0;
    this.gone[this.rows] = 0;
    return this.rows++;
  }

  private putName(row: number, folded: string, name: string, fresh: boolean): void {
    const text = toByteText(folded).slice(0, 65_535);
    const from = this.used;
    this.room(text.length);
    const { bytes, starts, capitals } = this;
    for (let i = 0; i < text.length; i++) bytes[from + i] = text.charCodeAt(i);
    const letters = lettersOf(bytes, from, from + text.length);
    if (!fresh) this.signatures.remove(row);
    this.signatures.add(row, bytes, from, from + text.length);
    this.keys[row] = nameKey(bytes, from, text.length);
    eachStart(folded, name, text, (i) => (starts[(from + i) >>> 5]! |= 1 << ((from + i) & 31)));
    const plain = text.length === name.length && text === name.toLowerCase();
    if (!plain) this.odd.set(this.ids[row]!, name);
    else {
      if (!fresh) this.odd.delete(this.ids[row]!);
      for (let i = 0; i < name.length; i++) {
        const code = name.charCodeAt(i);
        if (code >= 65 && code <= 90) capitals[(from + i) >>> 5]! |= 1 << ((from + i) & 31);
      }
    }
    this.used += text.length;
    if (!fresh) this.lost += this.nameLength[row]!;
    if (fresh && text.length > 0) this.live++;
    this.nameAt[row] = from;
    this.nameLength[row] = text.length;
    this.letters[row] = letters;
  }

  private room(more: number): void {
    if (this.used + more <= this.bytes.length) return;
    const bytes = new Uint8Array(grown(this.used + more));
    bytes.set(this.bytes);
    const starts = new Uint32Array((bytes.length + 31) >>> 5);
    starts.set(this.starts);
    const capitals = new Uint32Array(starts.length);
    capitals.set(this.capitals);
    this.bytes = bytes;
    this.starts = starts;
    this.capitals = capitals;
  }

  private dropGone(): void {
    const to = new Int32Array(this.rows).fill(-1);
    let n = 0;
    for (let row = 0; row < this.rows; row++)
      if (this.gone[row] === 0) to[row] = n++;
      else this.odd.delete(this.ids[row]!);
    const columns = [
      this.ids,
      this.parents,
      this.nameAt,
      this.nameLength,
      this.letters,
      this.keys,
      this.sizes,
      this.modified,
      this.created,
      this.kinds,
      this.types,
      this.extensions,
      this.children,
      this.gone,
    ];
    for (const column of columns)
      for (let row = 0; row < this.rows; row++) if (to[row]! >= 0) column[to[row]!] = column[row]!;
    for (let row = 0; row < n; row++) if (this.parents[row]! >= 0) this.parents[row] = to[this.parents[row]!]!;
    for (const [id, children] of this.waiting)
      this.waiting.set(
        id,
        children.map((row) => to[row]!).filter((row) => row >= 0),
      );
    this.rows = n;
    this.signatures = new Signatures(this.ids.length, this);
    this.there = undefined;
    this.goneRows = 0;
  }
}

/**
 * Where words start, as `wordStarts` has it, by bytes of the folded name. Plain names, nearly all, go the short way.
 */
function eachStart(folded: string, name: string, bytes: string, visit: (at: number) => void): void {
  if (bytes.length !== folded.length || folded.length !== name.length) {
    const starts = wordStarts(folded, name);
    let at = 0;
    let unit = 0;
    for (const char of folded) {
      if (starts[unit]) visit(at);
      at += char.charCodeAt(0) < 0x80 ? 1 : toByteText(char).length;
      unit += char.length;
    }
    return;
  }
  let before = 0;
  for (let i = 0; i < bytes.length; i++) {
    const code = bytes.charCodeAt(i);
    const sort = code >= 97 && code <= 122 ? 1 : code >= 48 && code <= 57 ? 2 : 0;
    // a hump: a capital after a small letter
    if (sort !== 0 && (sort !== before || (name.charCodeAt(i) < 91 && sort === 1 && name.charCodeAt(i - 1) > 96)))
      visit(i);
    before = sort;
  }
}
