/**
 * What of a catalogue could go: duplicates, gatherings of the same things, what a pinned folder shows anyway, what is
 * not opened (docs/models.md 8; the limits are common practice). Nothing here is wrong; it is only worth a look.
 */
import { grouped } from '../lists/index.js';
import { fold, withinOneSlip } from '../match/index.js';

const DAY = 86_400_000;
/** Later than this without an opening, in milliseconds. */
export const NEVER_OPENED_AFTER = 30 * DAY;
export const STALE_AFTER = 180 * DAY;
export const LONG_LOST_AFTER = 30 * DAY;
/** Share of members in common from which two collections hold the same (Jaccard). */
const SAME_MEMBERS = 0.8;
/** Fewer members are too few to say so. */
const LEAST_MEMBERS = 3;
/** What a copy's name has at its end: "copy", "copy 2", "(1)". */
const COPY_MARK = /[\s_-]*(?:\bcopy(?:[\s_-]*\d+)?|\(\d+\))$/;

export interface ReviewItem {
  id: string;
  name: string;
  kind: string;
  /** What it points to: equal for two shortcuts to one original. */
  target: string;
  /** Digest of the content; null where it is not known or says nothing. */
  content: string | null;
  size: number | null;
  /** The folder it lies in, as a target; null where it lies in none. */
  folder: string | null;
  pinned: boolean;
  /** Epoch milliseconds. */
  addedAt: number;
  openedAt: number | null;
  /** Since when it has been lost; null where it is not. */
  lostSince: number | null;
}

export interface ReviewCollection {
  id: string;
  /** Ids of what it holds, each once. */
  members: readonly string[];
}

export const REVIEW_KINDS = [
  'same-original',
  'same-content',
  'alike',
  'same-members',
  'shadowed',
  'long-lost',
  'never-opened',
  'stale',
] as const;
export type ReviewKind = (typeof REVIEW_KINDS)[number];

export interface ReviewGroup {
  /** The same as long as it is about the same things. */
  id: string;
  kind: ReviewKind;
  /** Shortcuts; of duplicates the one to keep first. */
  items: string[];
  /** Collections with the same members, the one to keep first. */
  collections: string[];
}

function group(kind: ReviewKind, items: readonly string[], collections: readonly string[] = []): ReviewGroup {
  return {
    id: `${kind} ${[...items, ...collections].sort().join(' ')}`,
    kind,
    items: [...items],
    collections: [...collections],
  };
}

/** Groups of more than one; what has no key is in none. */
function alikeBy<T>(list: readonly T[], key: (one: T) => string | null): T[][] {
  const groups = grouped(list, key);
  groups.delete(null);
  return [...groups.values()].filter((g) => g.length > 1);
}

/** Of several alike: the pinned first, then what was opened last, then the oldest. */
function keptFirst(a: ReviewItem, b: ReviewItem): number {
  return (
    Number(b.pinned) - Number(a.pinned) ||
    (b.openedAt ?? 0) - (a.openedAt ?? 0) ||
    a.addedAt - b.addedAt ||
    (a.id < b.id ? -1 : 1)
  );
}

const ids = (list: readonly ReviewItem[]) => [...list].sort(keptFirst).map((i) => i.id);

/** In the order of REVIEW_KINDS. Each shortcut is named once among the duplicates. About linear. */
export function review(
  items: readonly ReviewItem[],
  collections: readonly ReviewCollection[],
  now: number,
): ReviewGroup[] {
  const out: ReviewGroup[] = [];
  const named = new Set<string>();
  const duplicates = (kind: ReviewKind, lists: ReviewItem[][]) => {
    for (const list of lists) {
      const left = list.filter((i) => !named.has(i.id));
      if (left.length < 2) continue;
      out.push(group(kind, ids(left)));
      for (const { id } of left) named.add(id);
    }
  };
  const there = items.filter((i) => i.lostSince === null);
  duplicates(
    'same-original',
    alikeBy(there, (i) => i.target),
  );
  duplicates(
    'same-content',
    alikeBy(there, (i) => i.content),
  );
  duplicates(
    'alike',
    alikeBy(there, (i) => (i.size === null || i.size === 0 ? null : `${i.kind} ${i.size}`)).flatMap(alikeNames),
  );
  out.push(...sameMembers(collections));
  const pinnedFolders = new Set(items.filter((i) => i.pinned).map((i) => i.target));
  for (const i of there)
    if (!i.pinned && i.folder !== null && pinnedFolders.has(i.folder)) out.push(group('shadowed', [i.id]));
  for (const i of items)
    if (i.lostSince !== null && now - i.lostSince > LONG_LOST_AFTER) out.push(group('long-lost', [i.id]));
  for (const i of there) {
    if (i.openedAt === null && now - i.addedAt > NEVER_OPENED_AFTER) out.push(group('never-opened', [i.id]));
    if (i.openedAt !== null && now - i.openedAt > STALE_AFTER) out.push(group('stale', [i.id]));
  }
  return out;
}

/**
 * The letters of a name, its extension and the mark of a copy left out; and its digits, which tell one from another.
 */
function stemOf(name: string): { letters: string; digits: string } {
  const stem = fold(name)
    .replace(/\.[a-z0-9]{1,5}$/, '')
    .replace(COPY_MARK, '');
  return { letters: stem.replace(/[^\p{L}]/gu, ''), digits: stem.replace(/\D/g, '') };
}

/** Of things of one kind and size, those whose names differ by a copy's mark or one slip. */
function alikeNames(list: ReviewItem[]): ReviewItem[][] {
  const groups: { stem: ReturnType<typeof stemOf>; items: ReviewItem[] }[] = [];
  for (const item of list) {
    const stem = stemOf(item.name);
    const like = groups.find((g) => g.stem.digits === stem.digits && withinOneSlip(g.stem.letters, stem.letters));
    if (like) like.items.push(item);
    else groups.push({ stem, items: [item] });
  }
  return groups.map((g) => g.items);
}

function sameMembers(collections: readonly ReviewCollection[]): ReviewGroup[] {
  const large = collections.filter((c) => c.members.length >= LEAST_MEMBERS);
  const holders = grouped(
    large.flatMap((c, i) => c.members.map((member) => ({ member, i }))),
    (h) => h.member,
  );
  const common = new Map<string, number>();
  for (const list of holders.values())
    for (let a = 0; a < list.length; a++)
      for (let b = a + 1; b < list.length; b++) {
        const pair = `${list[a]!.i} ${list[b]!.i}`;
        common.set(pair, (common.get(pair) ?? 0) + 1);
      }
  return [...common].flatMap(([pair, n]) => {
    const [a, b] = pair.split(' ').map((i) => large[Number(i)]!) as [ReviewCollection, ReviewCollection];
    if (n / (a.members.length + b.members.length - n) < SAME_MEMBERS) return [];
    return [group('same-members', [], a.members.length >= b.members.length ? [a.id, b.id] : [b.id, a.id])];
  });
}
