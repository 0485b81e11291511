/**
 * Clearing a cluttered folder: what stays and why, where each thing goes, and what lies there in groups. Nothing here
 * reads the disk; whoever asks brings what is known of each thing.
 */
import type { Kind } from '../kinds/index.js';
import type { Bytes, EpochMs } from '../units/index.js';

export { isUnderWay } from './downloads.js';

const DAY = 86_400_000;

/** Why a thing stays where it is, whatever the rules say. */
export type StayReason =
  /** A link or a folder of links that Rellin keeps there, or one that an earlier sweep left. */
  | 'kept-by-rellin'
  /** A destination of this sweep lies in it, or it is one. */
  | 'destination'
  /** Its name begins with a dot: a program keeps it there. */
  | 'hidden'
  /** A link, a pipe, a device: it is no file and no folder. */
  | 'not-a-file'
  | 'download'
  | 'open'
  | 'recent';

/** What is known of a thing that may be swept. */
export interface SweepFacts {
  name: string;
  type: 'file' | 'folder' | 'link' | 'other';
  modified: EpochMs;
  isKeptByRellin: boolean;
  holdsDestination: boolean;
  /** A program has it open, or something in it. */
  isOpen: boolean;
  /** Other names in its folder tell that it is not whole yet. */
  isUnderWay: boolean;
}

/**
 * Why it stays; undefined where it may go. What changed less than `recentMs` ago may still be written to.
 *
 * @example stayReason({ ...facts, name: '.cache' }, now, 600_000) // 'hidden'
 */
export function stayReason(thing: SweepFacts, now: EpochMs, recentMs: number): StayReason | undefined {
  if (thing.isKeptByRellin) return 'kept-by-rellin';
  if (thing.holdsDestination) return 'destination';
  if (thing.name.startsWith('.')) return 'hidden';
  if (thing.type !== 'file' && thing.type !== 'folder') return 'not-a-file';
  if (thing.isUnderWay) return 'download';
  if (thing.isOpen) return 'open';
  // a clock that was set leaves times in the future: those are no news
  if (now - thing.modified < recentMs && thing.modified <= now) return 'recent';
  return undefined;
}

/** `T` is what a thing is known by to the test, `D` names a destination. */
export interface Rule<T, D> {
  matches(thing: T): boolean;
  to: D;
}

/** The first rule that a thing matches, by its position; undefined where none does. Cost: each rule up to that one. */
export function ruleFor<T, D>(rules: readonly Rule<T, D>[], thing: T): number | undefined {
  const at = rules.findIndex((rule) => rule.matches(thing));
  return at < 0 ? undefined : at;
}

/** From this probability on a sweep proposes the folder by itself; below it the thing is left. */
export const SURE_ENOUGH = 0.5;

/**
 * A folder's name as it is understood alone: one without letters with the nearest folder above that has some.
 *
 * @example plainName('2026', ['Marrowick', 'Records', 'Tides']) // 'Tides › 2026'
 */
export function plainName(name: string, above: readonly string[]): string {
  if (/\p{L}/u.test(name)) return name;
  const said = above.findLast((part) => /\p{L}/u.test(part));
  return said === undefined ? name : `${said} › ${name}`;
}

const MB = 1_000_000;

/** Upper bounds of how long ago something changed, each with what it is called. */
export const AGE_BANDS: readonly { name: string; below: number }[] = [
  { name: 'today and yesterday', below: 2 * DAY },
  { name: 'this week', below: 7 * DAY },
  { name: 'this month', below: 30 * DAY },
  { name: '1 to 3 months', below: 91 * DAY },
  { name: '3 to 12 months', below: 365 * DAY },
  { name: 'over a year', below: Infinity },
];

/** Upper bounds of sizes in bytes. */
export const SIZE_BANDS: readonly { name: string; below: Bytes }[] = [
  { name: 'empty', below: 1 },
  { name: 'under 100 kB', below: MB / 10 },
  { name: '100 kB to 1 MB', below: MB },
  { name: '1 to 10 MB', below: 10 * MB },
  { name: '10 to 100 MB', below: 100 * MB },
  { name: 'over 100 MB', below: Infinity },
];

const bandOf = (bands: readonly { below: number }[], value: number) => bands.findIndex((b) => value < b.below);

/** What a thing is counted by. */
export interface Groupable {
  kind: Kind;
  size: Bytes;
  modified: EpochMs;
  /** When Rellin or another program opened it last; null where nobody is known to have. */
  opened: EpochMs | null;
  /** Where it came from, in words; empty where that is not known. */
  origin: string;
  isFolder: boolean;
}

export const GROUPINGS = ['kind', 'age', 'size', 'origin', 'opened'] as const;
export type Grouping = (typeof GROUPINGS)[number];

/** The group of a thing: a kind, the number of a band, an origin, or whether it was ever opened. */
export function groupOf(thing: Groupable, by: Grouping, now: EpochMs): string {
  switch (by) {
    case 'kind':
      return thing.kind;
    case 'age':
      return String(bandOf(AGE_BANDS, now - thing.modified));
    case 'size':
      // a folder's own size says nothing of what lies in it
      return thing.isFolder ? 'folder' : String(bandOf(SIZE_BANDS, thing.size));
    case 'origin':
      return thing.origin;
    case 'opened':
      return thing.opened === null ? 'never' : 'opened';
  }
}

export interface Group {
  key: string;
  count: number;
  size: Bytes;
}

/**
 * All things counted by one property, the largest group first; bands in their own order. Cost: linear.
 *
 * @example groupsOf(things, 'kind', now) // [{ key: 'pdf', count: 40, size: 81_000_000 }, …]
 */
export function groupsOf(things: readonly Groupable[], by: Grouping, now: EpochMs): Group[] {
  const groups = new Map<string, Group>();
  for (const thing of things) {
    const key = groupOf(thing, by, now);
    const group = groups.get(key) ?? { key, count: 0, size: 0 };
    group.count++;
    group.size += thing.isFolder ? 0 : thing.size;
    groups.set(key, group);
  }
  const isBanded = by === 'age' || by === 'size';
  return [...groups.values()].sort((a, b) =>
    isBanded ? rankOf(a.key) - rankOf(b.key) : b.count - a.count || (a.key < b.key ? -1 : 1),
  );
}

/** Folders after all bands. */
const rankOf = (key: string) => (key === 'folder' ? SIZE_BANDS.length : Number(key));

/** What has gathered in a folder. */
export interface Backlog {
  things: number;
  size: Bytes;
  /** Null where nothing lies there. */
  oldest: EpochMs | null;
}

/** From when on a kept sweep says so; null where that does not matter. */
export interface Threshold {
  things: number | null;
  size: Bytes | null;
  days: number | null;
}

/**
 * Whether enough has gathered: one of the bounds is enough.
 *
 * @example isDue({ things: 47, size: 1.2e9, oldest }, { things: 40, size: null, days: null }, now) // true
 */
export function isDue(backlog: Backlog, threshold: Threshold, now: EpochMs): boolean {
  if (backlog.things === 0) return false;
  const { things, size, days } = threshold;
  return (
    (things !== null && backlog.things >= things) ||
    (size !== null && backlog.size >= size) ||
    (days !== null && backlog.oldest !== null && now - backlog.oldest >= days * DAY)
  );
}
