/** A saved search over all rows of a place at once: the same meaning as `compileQuery` has for one record. */
import { KINDS, type EntryType } from '../kinds/index.js';
import { fold } from '../match/index.js';
import {
  boundsOf,
  globBytesTest,
  globNeedles,
  globTest,
  type IsWord,
  type QueryContext,
  type QueryNode,
  type QueryRecord,
} from '../query/index.js';
import { Bits } from './bits.js';
import { TYPES, type PlaceIndex } from './placeIndex.js';
import { toByteText } from './utf8.js';

/** What the catalogue and the contents say about a place's originals, by their ids. */
export interface PlaceFacts {
  away: boolean;
  shortcut: ReadonlySet<number>;
  pinned: ReadonlySet<number>;
  /** When each was opened last; those never opened are left out. */
  opened: ReadonlyMap<number, number>;
  /** Folded name of a tag → what bears it. */
  tags: ReadonlyMap<string, ReadonlySet<number>>;
}

export const NO_FACTS: PlaceFacts = {
  away: false,
  shortcut: new Set(),
  pinned: new Set(),
  opened: new Map(),
  tags: new Map(),
};

export interface AskContext extends QueryContext {
  facts: PlaceFacts;
  /** Originals whose content holds a text; left out where contents are not asked. */
  holding?(text: string): Iterable<number>;
}

/** The rows that fulfil a tree. Cost: some milliseconds a condition at a million rows, less the fewer are left. */
export function askColumns(index: PlaceIndex, tree: QueryNode, context: AskContext): Bits {
  const bits = index.present();
  narrow(index, tree, context, bits);
  return bits;
}

/** Takes out of the rows what does not fulfil a node. */
function narrow(index: PlaceIndex, node: QueryNode, context: AskContext, bits: Bits): void {
  const { facts } = context;
  switch (node.type) {
    case 'all':
      // what the signatures tell costs next to nothing, and leaves less for the columns to look at
      for (const part of node.of) if (part.type === 'word') index.keepMaybe(codesOf(fold(part.text)), bits);
      for (const part of cheapFirst(node.of)) narrow(index, part, context, bits);
      break;
    case 'any': {
      const left = bits.copy();
      for (const part of node.of) {
        const some = left.copy();
        narrow(index, part, context, some);
        left.andNot(some);
      }
      bits.andNot(left);
      break;
    }
    case 'not': {
      const inner = bits.copy();
      narrow(index, node.of, context, inner);
      bits.andNot(inner);
      break;
    }
    case 'word':
      withWord(index, fold(node.text), bits);
      break;
    case 'name':
      withGlob(index, node.glob, bits);
      break;
    case 'ext': {
      const wanted = new Uint8Array(65_536);
      for (const value of node.values) {
        const number = index.extensionNumberOf(fold(value));
        if (number !== undefined) wanted[number] = 1;
      }
      keepIn(bits, index.types, FILES);
      keepIn(bits, index.extensions, wanted);
      break;
    }
    case 'kind': {
      const wanted = new Uint8Array(256);
      for (const kind of node.values) wanted[KINDS.indexOf(kind)] = 1;
      keepIn(bits, index.kinds, wanted);
      break;
    }
    case 'in':
      below(index, node.folders.map(fold), bits);
      break;
    case 'size':
      keepIn(bits, index.types, FILES);
      keepBetween(bits, index.sizes, node.min ?? 0, (node.max ?? Infinity) + 1);
      break;
    case 'time':
    case 'time-range': {
      const { from, to } = boundsOf(node, context.now, context.zone);
      const [min, max] = [from ?? -Infinity, to ?? Infinity];
      if (node.field === 'opened')
        bits.and(
          ofIds(
            index,
            [...facts.opened].filter(([, at]) => at >= min && at < max).map(([id]) => id),
          ),
        );
      else keepBetween(bits, node.field === 'modified' ? index.modified : index.created, min, max);
      break;
    }
    case 'never-opened':
      bits.andNot(ofIds(index, facts.opened.keys()));
      break;
    case 'tag':
      bits.and(ofIds(index, facts.tags.get(fold(node.name)) ?? []));
      break;
    case 'text':
      bits.and(ofIds(index, context.holding?.(node.text) ?? []));
      break;
    case 'is':
      whichAre(index, node.what, facts, bits);
      break;
  }
}

const typeSet = (type: EntryType) => Uint8Array.from(TYPES, (t) => Number(t === type));
const FILES = typeSet('file');

/** Keeps the rows whose number is marked in `wanted`. Thirty-two rows a step; what is empty already costs nothing. */
function keepIn({ words, size }: Bits, column: Uint8Array | Uint16Array, wanted: Uint8Array): void {
  for (let w = 0; w < words.length; w++) {
    if (words[w] === 0) continue;
    const from = w << 5;
    let mask = 0;
    if (size - from >= 32)
      for (let i = 0, at = from; i < 32; i += 4, at += 4)
        mask |=
          (wanted[column[at]!]! |
            (wanted[column[at + 1]!]! << 1) |
            (wanted[column[at + 2]!]! << 2) |
            (wanted[column[at + 3]!]! << 3)) <<
          i;
    else for (let i = 0; i < size - from; i++) mask |= wanted[column[from + i]!]! << i;
    words[w]! &= mask;
  }
}

/**
 * Keeps the rows from `min` on and below `end`. Without a branch a row: values come in no order that could be foreseen.
 */
function keepBetween({ words, size }: Bits, column: Float64Array, min: number, end: number): void {
  for (let w = 0; w < words.length; w++) {
    if (words[w] === 0) continue;
    const from = w << 5;
    const count = Math.min(32, size - from);
    let mask = 0;
    for (let i = 0; i < count; i++) {
      const value = column[from + i]!;
      mask |= (Number(value >= min) & Number(value < end)) << i;
    }
    words[w]! &= mask;
  }
}

function keepIf(bits: Bits, test: (row: number) => boolean): void {
  bits.each((row) => {
    if (!test(row)) bits.delete(row);
  });
}

function ofIds(index: PlaceIndex, ids: Iterable<number>): Bits {
  const bits = new Bits(index.rows);
  for (const id of ids) {
    const row = index.rowOf(id);
    if (row >= 0) bits.add(row);
  }
  return bits;
}

function withWord(index: PlaceIndex, folded: string, bits: Bits): void {
  index.keepHolding(codesOf(folded), bits);
}

const codesOf = (folded: string) => Uint8Array.from(toByteText(folded), (c) => c.charCodeAt(0));

function withGlob(index: PlaceIndex, glob: string, bits: Bits): void {
  const test = globTest(glob);
  const bytesTest = globBytesTest(glob);
  const fitsAll = (row: number) => {
    const from = index.nameAt[row]!;
    return bytesTest(index.bytes, from, from + index.nameLength[row]!) ?? test(index.foldedOf(row));
  };
  const left = bits.copy();
  for (const needle of globNeedles(glob)) {
    const codes = codesOf(needle.text);
    const some = left.copy();
    if (needle.atEnd) index.keepEnding(codes, some);
    else index.keepHolding(codes, some);
    if (!needle.isAll) keepIf(some, fitsAll);
    left.andNot(some);
  }
  bits.andNot(left);
}

/** Below a run of folders, at any depth. */
function below(index: PlaceIndex, folders: readonly string[], bits: Bits): void {
  const { rows, parents, children, nameLength } = index;
  const names = folders.map(codesOf);
  const placeName = fold(index.name);
  const last = names.length - 1;
  const isTop = (row: number): boolean => {
    for (let i = last, at = row; i >= 0; i--, at = parents[at]!) {
      if (at < 0) return false;
      if (nameLength[at] === 0) {
        if (placeName !== folders[i]) return false;
      } else if (nameLength[at] !== names[i]!.length || !index.endsWith(at, names[i]!)) return false;
    }
    return true;
  };
  const tops = index.present();
  index.keepEnding(names[last]!, tops);
  // the place itself has no name in the index
  if (placeName === folders[last])
    for (let row = 0; row < rows; row++) if (nameLength[row] === 0 && index.gone[row] === 0) tops.add(row);
  // of each folder: 0 not looked at, 1 in it or one of these, 2 not
  const inside = new Uint8Array(rows);
  let any = false;
  tops.each((row) => {
    if (children[row] === 0 || !isTop(row)) return;
    inside[row] = 1;
    any = true;
  });
  if (!any) {
    bits.clear();
    return;
  }
  const calculate = (row: number): number => {
    const parent = parents[row]!;
    return (inside[row] = inside[row]! || (parent < 0 ? 2 : inside[parent]! || calculate(parent)));
  };
  for (let row = 0; row < rows; row++) if (children[row]! > 0 && inside[row] === 0) calculate(row);
  const { words, size } = bits;
  for (let w = 0; w < words.length; w++) {
    if (words[w] === 0) continue;
    const from = w << 5;
    const count = Math.min(32, size - from);
    let mask = 0;
    for (let i = 0; i < count; i++) {
      const parent = parents[from + i]!;
      if (parent >= 0 && inside[parent] === 1) mask |= 1 << i;
    }
    words[w]! &= mask;
  }
}

function whichAre(index: PlaceIndex, what: IsWord, facts: PlaceFacts, bits: Bits): void {
  switch (what) {
    case 'file':
    case 'folder':
    case 'link':
      keepIn(bits, index.types, typeSet(what));
      break;
    case 'shortcut':
      bits.and(ofIds(index, facts.shortcut));
      break;
    case 'pinned':
      bits.and(ofIds(index, facts.pinned));
      break;
    case 'tagged': {
      const tagged = new Bits(index.rows);
      for (const ids of facts.tags.values()) tagged.or(ofIds(index, ids));
      bits.and(tagged);
      break;
    }
    case 'away':
      if (!facts.away) bits.clear();
      break;
    case 'empty': {
      const files = bits.copy();
      keepIn(files, index.types, FILES);
      keepBetween(files, index.sizes, 0, 1);
      keepIn(bits, index.types, typeSet('folder'));
      keepIf(bits, (row) => index.children[row] === 0);
      bits.or(files);
      break;
    }
  }
}

/** Conditions that read names one by one, or search their text. */
const needsText = (node: QueryNode) => node.type === 'word' || node.type === 'name';

/** What costs a step a row before what searches text; the order of an "all" does not change its meaning. */
function cheapFirst(parts: readonly QueryNode[]): QueryNode[] {
  return [...parts].sort((a, b) => Number(needsText(a)) - Number(needsText(b)));
}

/** One row as `compileQuery` wants it. What costs something is worked out when it is asked for. */
export function recordOf(index: PlaceIndex, row: number, facts: PlaceFacts): QueryRecord {
  const id = index.ids[row]!;
  const folded = index.foldedOf(row);
  return {
    folded,
    type: TYPES[index.types[row]!]!,
    kind: KINDS[index.kinds[row]!]!,
    size: index.sizes[row]!,
    modified: index.modified[row]!,
    created: index.created[row]!,
    opened: facts.opened.get(id) ?? null,
    get folders() {
      const value = index.foldersOf(row);
      Object.defineProperty(this, 'folders', { value });
      return value;
    },
    get tags() {
      return [...facts.tags].filter(([, ids]) => ids.has(id)).map(([name]) => name);
    },
    shortcut: facts.shortcut.has(id),
    pinned: facts.pinned.has(id),
    away: facts.away,
    children: TYPES[index.types[row]!] === 'folder' ? index.children[row]! : null,
  };
}
