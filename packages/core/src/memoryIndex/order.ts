/** The order of answers, and the first of them without sorting all. */
import { KINDS, kindRank } from '../kinds/index.js';
import type { Bits } from './bits.js';
import type { PlaceFacts } from './askColumns.js';
import { isDigit, type PlaceIndex } from './placeIndex.js';

export const ANSWER_ORDERS = ['name', 'kind', 'size', 'modified', 'created', 'opened'] as const;
export type AnswerOrder = (typeof ANSWER_ORDERS)[number];

export interface Answer {
  place: number;
  row: number;
}

export interface AnswerPart {
  index: PlaceIndex;
  rows: Bits;
  facts: PlaceFacts;
}

/** Names as people count: runs of digits by their number; otherwise by bytes of the folded name. */
function compareNames(a: PlaceIndex, rowA: number, b: PlaceIndex, rowB: number): number {
  let [i, k] = [a.nameAt[rowA]!, b.nameAt[rowB]!];
  const [endA, endB] = [i + a.nameLength[rowA]!, k + b.nameLength[rowB]!];
  while (i < endA && k < endB) {
    const [x, y] = [a.bytes[i]!, b.bytes[k]!];
    if (isDigit(x) && isDigit(y)) {
      while (a.bytes[i] === 48 && i + 1 < endA && isDigit(a.bytes[i + 1]!)) i++;
      while (b.bytes[k] === 48 && k + 1 < endB && isDigit(b.bytes[k + 1]!)) k++;
      const [fromA, fromB] = [i, k];
      while (i < endA && isDigit(a.bytes[i]!)) i++;
      while (k < endB && isDigit(b.bytes[k]!)) k++;
      const longer = i - fromA - (k - fromB);
      if (longer !== 0) return longer;
      for (let d = 0; d < i - fromA; d++) {
        const difference = a.bytes[fromA + d]! - b.bytes[fromB + d]!;
        if (difference !== 0) return difference;
      }
    } else {
      if (x !== y) return x - y;
      i++;
      k++;
    }
  }
  return endA - i - (endB - k);
}

/**
 * The answers from `offset` on, at most `most`, in order; equal ones by name, place and id, so that the order is total.
 * Cost: linear in the answers, and n log(offset + most) for those that come near.
 */
export function firstAnswers(
  parts: readonly AnswerPart[],
  order: AnswerOrder,
  descending: boolean,
  offset: number,
  most: number,
): Answer[] {
  if (most === 0) return [];
  const sign = descending ? -1 : 1;
  const nameSign = order === 'name' ? sign : 1;
  const compare = (a: Entry, b: Entry) =>
    sign * (a.key - b.key) ||
    nameSign * compareNames(parts[a.part]!.index, a.row, parts[b.part]!.index, b.row) ||
    a.part - b.part ||
    a.row - b.row;
  const heap = new Smallest(offset + most, compare);
  parts.forEach((part, i) => {
    const column = columnOf(part, order);
    const { words } = part.rows;
    // most are told from the greatest kept by their key alone
    let bound = heap.full ? sign * heap.greatest.key : Infinity;
    for (let w = 0; w < words.length; w++)
      for (let left = words[w]!; left !== 0; left &= left - 1) {
        const row = (w << 5) + 31 - Math.clz32(left & -left);
        const key = column[row]!;
        if (sign * key > bound) continue;
        heap.offer({ part: i, row, key });
        if (heap.full) bound = sign * heap.greatest.key;
      }
  });
  return heap
    .sorted()
    .slice(offset)
    .map(({ part, row }) => ({ place: parts[part]!.index.placeId, row }));
}

/** What an order compares first, by row. */
function columnOf({ index, rows, facts }: AnswerPart, order: AnswerOrder): ArrayLike<number> {
  switch (order) {
    case 'name':
      return index.keys;
    case 'size':
      return index.sizes;
    case 'modified':
      return index.modified;
    case 'created':
      return index.created;
    case 'kind':
      return index.kinds.subarray(0, rows.size).map((kind) => kindRank(KINDS[kind]!));
    case 'opened': {
      const column = new Float64Array(rows.size);
      for (const [id, at] of facts.opened) {
        const row = index.rowOf(id);
        if (row >= 0) column[row] = at;
      }
      return column;
    }
  }
}

interface Entry {
  part: number;
  row: number;
  key: number;
}

/** The smallest few of many: a heap with the greatest of them on top. */
class Smallest {
  private readonly heap: Entry[] = [];
  constructor(
    private readonly most: number,
    private readonly compare: (a: Entry, b: Entry) => number,
  ) {}

  get full(): boolean {
    return this.heap.length === this.most;
  }

  get greatest(): Entry {
    return this.heap[0]!;
  }

  offer(entry: Entry): void {
    const { heap, most } = this;
    if (heap.length < most) {
      heap.push(entry);
      for (let i = heap.length - 1; i > 0;) {
        const up = (i - 1) >>> 1;
        if (this.compare(heap[i]!, heap[up]!) <= 0) break;
        [heap[i], heap[up]] = [heap[up]!, heap[i]!];
        i = up;
      }
    } else if (this.compare(entry, heap[0]!) < 0) {
      heap[0] = entry;
      for (let i = 0; ;) {
        const left = 2 * i + 1;
        if (left >= heap.length) break;
        const right = left + 1;
        const down = right < heap.length && this.compare(heap[right]!, heap[left]!) > 0 ? right : left;
        if (this.compare(heap[down]!, heap[i]!) <= 0) break;
        [heap[i], heap[down]] = [heap[down]!, heap[i]!];
        i = down;
      }
    }
  }

  sorted(): Entry[] {
    return [...this.heap].sort(this.compare);
  }
}
