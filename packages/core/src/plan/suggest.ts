/**
 * What to change so that the week's openings take fewer seconds (docs/models.md 3), each suggestion with its reason and
 * the seconds before and after. Nothing here changes anything.
 */
import type { ReachConstants } from '../reach/index.js';
import { assignKeys, type FreeKey } from './keys.js';
import { boundOf, costOfPins, planPins, type PinCandidate, type PinRules } from './pins.js';
import { bestGrouping, flatSeconds, type Grouping, type MenuItem } from './splits.js';

/**
 * About once a week is where a pin begins to be worth its place (common practice; a setting). A mean over four weeks
 * within the dead band around it, as shares of it, is no reason for anything: an item opened exactly so often is
 * neither pinned nor unpinned for it. Only where the strip is full and another one saves more does it make room.
 */
export const DEAD_BAND = { low: 0.75, high: 1.25 } as const;
/** Less than this is not worth a sentence, seconds a week. */
const LEAST_GAIN = 0.5;
/** So often in four weeks the plan changes its mind about a thing, once there and once back; then it stays as it is. */
const MOST_TURNS = 2;
/** A change of the strip must save this share of what the thing takes, so that chance alone does not turn it about. */
const LEAST_SHARE = 0.1;

export interface PlanItem {
  id: string;
  name: string;
  /** Openings a week, as they are now. */
  rate: number;
  /** Mean over the last four weeks, openings a week. */
  mean: number;
  /** Usage weight. */
  uses: number;
  /** Seconds by its best route that is no pin. */
  without: number;
  /** Seconds by its best route now. */
  now: number;
  /** Seconds by the folders it lies in; null where there is none. */
  byFolders: number | null;
  /** Slot on the strip from 0; null where it is not pinned. */
  slot: number | null;
  locked: boolean;
  /** Its own key or chord. */
  keys: string | null;
  /** Weeks since it lies in its slot. */
  weeksThere: number;
  width: number;
  /** Pinned less than a week ago; too early to say. */
  isNew: boolean;
  /** Taken off the strip by hand within the last four weeks: whoever did that meant it. */
  wasPinned: boolean;
  /** How often the plan put it on the strip or took it off within the last four weeks. */
  turns: number;
  /** Lost for long, or never opened in a long time; why. */
  idle: 'long-lost' | 'never-opened' | null;
}

export interface PlanMenu {
  id: string;
  name: string;
  items: readonly MenuItem[];
  /** Ways to group its items. */
  ways: readonly string[];
}

/** An original that was opened without a shortcut, through its folders. */
export interface OriginalWithoutShortcut {
  placeId: number;
  originalId: number;
  name: string;
  /** Openings in the last two weeks. */
  times: number;
  /** Openings a week, as they are now. */
  rate: number;
  /** Seconds the folder route takes, and what a shortcut in the find line would. */
  byFolders: number;
  after: number;
  steps: number;
}

export interface PlanInput {
  items: readonly PlanItem[];
  /** Slots taken by what is no single shortcut (collections, tags, searches), from 0. */
  otherSlots: readonly number[];
  menus: readonly PlanMenu[];
  withoutShortcut: readonly OriginalWithoutShortcut[];
  /** Groups of shortcuts to one original, the one to keep first. */
  same: readonly (readonly string[])[];
  /** Of each letter the shortest chord that nothing uses. */
  keys: readonly FreeKey[];
  rules: PinRules;
  /** Openings a week from which on a pin or a key is worth its place. */
  worth: number;
}

export type SuggestionKind = 'pin' | 'unpin' | 'exchange' | 'key' | 'split' | 'merge' | 'add' | 'drop';

export interface Suggestion {
  /** The same as long as it is about the same change. */
  id: string;
  kind: SuggestionKind;
  /** Shortcuts or the collection it is about; of an exchange the new pin first. */
  ids: string[];
  /** Slot from 0, for a pin. */
  slot?: number;
  key?: FreeKey;
  grouping?: Grouping;
  original?: OriginalWithoutShortcut;
  /** Figures for the sentence beside it. */
  rate: number;
  /** Seconds an opening takes before and after; null where it is not about one. */
  before: number | null;
  after: number | null;
  /** Seconds a week it saves. */
  gain: number;
}

export interface Plan {
  suggestions: Suggestion[];
  /** Seconds a week: all through the folders, as it is now, with all suggestions, and the best possible. */
  byFolders: number;
  now: number;
  planned: number;
  bound: number;
}

/** Cost: the plan of pins, a matching of keys, and the search for splits. */
export function suggest(input: PlanInput): Plan {
  const { items, rules } = input;
  const weekly = (seconds: (item: PlanItem) => number) =>
    items.reduce((sum, item) => sum + item.rate * seconds(item), 0);
  const pins = pinSuggestions(input);
  const suggestions = [
    ...pins,
    ...keySuggestions(input, new Set(pins.flatMap((p) => (p.kind === 'unpin' ? [] : p.ids)))),
    ...splitSuggestions(input.menus, rules.constants),
    ...addSuggestions(input.withoutShortcut),
    ...mergeSuggestions(input.same, items),
    ...dropSuggestions(items),
  ];
  const ofOthers = input.withoutShortcut.reduce((sum, o) => sum + o.rate * o.byFolders, 0);
  const now = weekly((item) => item.now) + ofOthers;
  const gain = suggestions.reduce((sum, s) => sum + s.gain, 0);
  return {
    suggestions: suggestions.sort((a, b) => b.gain - a.gain || (a.id < b.id ? -1 : 1)),
    byFolders: weekly((item) => item.byFolders ?? item.now) + ofOthers,
    now,
    planned: Math.max(0, now - gain),
    bound: boundOf(
      [...items.map((item) => candidate(item, input.worth)), ...input.withoutShortcut.map(candidateWithout)],
      rules,
    ),
  };
}

function candidate(item: PlanItem, worth: number): PinCandidate {
  const stays = item.turns >= MOST_TURNS;
  return {
    id: item.id,
    rate: item.rate,
    without: item.without,
    uses: item.uses,
    slot: item.slot,
    locked: item.slot !== null && (item.locked || item.isNew || stays),
    eligible: item.mean > DEAD_BAND.high * worth && !item.wasPinned && !stays,
    known: 1 - 2 ** -item.weeksThere,
    width: item.width,
  };
}

function candidateWithout(o: OriginalWithoutShortcut): PinCandidate {
  const id = `${o.placeId}/${o.originalId}`;
  return { id, rate: o.rate, without: o.byFolders, uses: 0, slot: null, eligible: true, width: 120 };
}

function pinSuggestions({ items, otherSlots, rules, worth }: PlanInput): Suggestion[] {
  const byId = new Map(items.map((item) => [item.id, item]));
  const out: Suggestion[] = [];
  // opened less than once a week for four weeks: it goes, whatever the seconds say, since it is in the way of what one
  // looks for
  const going = items.filter(
    (item) =>
      item.slot !== null && !item.locked && !item.isNew && item.turns < MOST_TURNS && item.mean < DEAD_BAND.low * worth,
  );
  const isGoing = new Set(going.map((item) => item.id));
  const candidates: PinCandidate[] = items.map((item) =>
    isGoing.has(item.id) ? { ...candidate(item, worth), slot: null, eligible: false } : candidate(item, worth),
  );
  for (const slot of otherSlots)
    candidates.push({
      id: `slot ${slot}`,
      rate: 0,
      without: 0,
      uses: 0,
      slot,
      locked: true,
      eligible: true,
      width: 120,
    });
  // gaps that going pins leave close up: slots are numbered without them
  const slots = candidates
    .filter((c) => c.slot !== null)
    .sort((a, b) => a.slot! - b.slot!)
    .map((c, i) => {
      c.slot = i;
      return c.id;
    });
  const today = costOfPins(candidates, slots, rules);
  const plan = planPins(candidates, rules);
  const gone = slots.filter((id) => byId.has(id) && !plan.slots.includes(id));
  const fresh = plan.slots.filter((id) => !slots.includes(id));
  const tooLittle = today.cost - plan.cost < LEAST_GAIN;
  for (const id of tooLittle ? [] : fresh) {
    const item = byId.get(id)!;
    const slot = plan.slots.indexOf(id);
    const after = Math.min(item.now, plan.times[slot]!);
    const saved = item.rate * (item.now - after);
    if (saved < Math.max(LEAST_GAIN, LEAST_SHARE * item.rate * item.now)) continue;
    const other = gone.shift();
    const lost = other === undefined ? undefined : byId.get(other)!;
    const gain = saved - (lost ? lost.rate * Math.max(0, lost.without - lost.now) : 0);
    if (gain < LEAST_GAIN) continue;
    out.push({
      id: lost ? `exchange ${id} ${other}` : `pin ${id}`,
      kind: lost ? 'exchange' : 'pin',
      ids: lost ? [id, lost.id] : [id],
      slot,
      rate: item.rate,
      before: item.now,
      after,
      gain,
    });
  }
  for (const item of going)
    out.push({
      id: `unpin ${item.id}`,
      kind: 'unpin',
      ids: [item.id],
      rate: item.mean,
      before: null,
      after: null,
      // what the others gain by a shorter strip, less what it takes longer itself
      gain: Math.max(0, shorterStrip(items, item, rules, worth)),
    });
  return out;
}

function shorterStrip(items: readonly PlanItem[], without: PlanItem, rules: PinRules, worth: number): number {
  const pinned = items.filter((item) => item.slot !== null).sort((a, b) => a.slot! - b.slot!);
  const free = { ...rules, movePenalty: 0 };
  const cost = (list: readonly PlanItem[]) =>
    costOfPins(
      pinned.map((item) => candidate(item, worth)),
      list.map((item) => item.id),
      free,
    ).seconds;
  return cost(pinned) - cost(pinned.filter((item) => item !== without));
}

/** No more keys at once than one can learn. */
const MOST_KEYS = 3;

/** From another word's first letter on one remembers it. */
const REMEMBERED = 0.7;

/** One that is to be pinned needs no key beside. */
function keySuggestions({ items, keys, worth }: PlanInput, pinned: ReadonlySet<string>): Suggestion[] {
  const things = items
    .filter(
      (item) => item.keys === null && item.slot === null && !pinned.has(item.id) && item.mean > DEAD_BAND.high * worth,
    )
    .map(({ id, name, rate, now }) => ({ id, name, rate, seconds: now }));
  const byId = new Map(things.map((thing) => [thing.id, thing]));
  return assignKeys(things, keys)
    .filter(({ fit }) => fit >= REMEMBERED)
    .map(({ id, key }): Suggestion => {
      const { rate, seconds } = byId.get(id)!;
      const gain = rate * (seconds - key.seconds);
      const about = { ids: [id], key, rate, before: seconds, after: key.seconds, gain };
      return { id: `key ${id} ${key.keys}`, kind: 'key', ...about };
    })
    .filter((s) => s.gain >= LEAST_GAIN)
    .sort((a, b) => b.gain - a.gain)
    .slice(0, MOST_KEYS);
}

/** A menu this short is taken in at a glance. */
const CROWDED = 10;

function splitSuggestions(menus: readonly PlanMenu[], c: ReachConstants): Suggestion[] {
  return menus.flatMap((menu): Suggestion[] => {
    if (menu.items.length < CROWDED) return [];
    const rate = menu.items.reduce((sum, item) => sum + item.rate, 0);
    const before = flatSeconds(menu.items, c);
    const grouping = bestGrouping(menu.items, menu.ways, c);
    const gain = grouping ? rate * (before - grouping.seconds) : 0;
    if (!grouping || gain < LEAST_GAIN) return [];
    return [
      {
        id: `split ${menu.id} ${grouping.by}`,
        kind: 'split',
        ids: [menu.id],
        grouping,
        rate,
        before,
        after: grouping.seconds,
        gain,
      },
    ];
  });
}

/** Opened so often through its folders in two weeks, an original is worth a shortcut. */
const OFTEN_WITHOUT = 3;

function addSuggestions(originals: readonly OriginalWithoutShortcut[]): Suggestion[] {
  return originals
    .filter((o) => o.times >= OFTEN_WITHOUT && o.byFolders > o.after)
    .map((o) => ({
      id: `add ${o.placeId}/${o.originalId}`,
      kind: 'add',
      ids: [],
      original: o,
      rate: o.rate,
      before: o.byFolders,
      after: o.after,
      gain: o.rate * (o.byFolders - o.after),
    }));
}

function mergeSuggestions(same: PlanInput['same'], items: readonly PlanItem[]): Suggestion[] {
  const byId = new Map(items.map((item) => [item.id, item]));
  return same.map((ids) => ({
    id: `merge ${[...ids].sort().join(' ')}`,
    kind: 'merge',
    ids: [...ids],
    rate: ids.reduce((sum, id) => sum + (byId.get(id)?.rate ?? 0), 0),
    before: null,
    after: null,
    gain: 0,
  }));
}

function dropSuggestions(items: readonly PlanItem[]): Suggestion[] {
  return items
    .filter((item) => item.idle !== null && item.slot === null)
    .map((item) => ({
      id: `drop ${item.id}`,
      kind: 'drop',
      ids: [item.id],
      rate: 0,
      before: null,
      after: null,
      gain: 0,
    }));
}
