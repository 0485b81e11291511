/**
 * Whether a crowded menu is quicker in groups (docs/models.md 3): the expected time to choose in one list beside that
 * of choosing a group and then within it, for each way to group there is. Searched through, checked by brute force on
 * small ones.
 */
import { choosing, pointing, type ReachConstants } from '../reach/index.js';

export interface MenuItem {
  id: string;
  /** Openings a week; how likely it is chosen. */
  rate: number;
  /** Usage weight. */
  uses: number;
  /** The groups it could stand in, by way of grouping ("tag", "kind"): undefined where it has none. */
  groups: Record<string, string | undefined>;
}

export interface Grouping {
  by: string;
  /** Name of a group → its items. */
  groups: Map<string, string[]>;
  /** What stands in no group, beside them. */
  rest: string[];
  /** Expected seconds of one choice. */
  seconds: number;
}

/** From here to there in a menu, and the click. */
function reaching(n: number, c: ReachConstants): number {
  return pointing((Math.min(n, 20) * 34) / 2, 34, c) + 2 * c.B;
}

/** Seconds to choose among so many, one of which was used so much. */
export function menuSeconds(n: number, uses: number, c: ReachConstants): number {
  return choosing(n, uses, c) + reaching(n, c);
}

/** Expected seconds of one choice in a flat menu. */
export function flatSeconds(items: readonly MenuItem[], c: ReachConstants): number {
  return expected(items, (item) => menuSeconds(items.length, item.uses, c));
}

/** The same where some stand in groups. The use of a group is that of all in it. */
export function groupedSeconds(
  groups: readonly (readonly MenuItem[])[],
  rest: readonly MenuItem[],
  c: ReachConstants,
): number {
  const top = groups.length + rest.length;
  const seconds = new Map<MenuItem, number>();
  for (const item of rest) seconds.set(item, menuSeconds(top, item.uses, c));
  for (const group of groups) {
    const uses = group.reduce((sum, item) => sum + item.uses, 0);
    const first = menuSeconds(top, uses, c);
    for (const item of group) seconds.set(item, first + menuSeconds(group.length, item.uses, c));
  }
  return expected([...seconds.keys()], (item) => seconds.get(item)!);
}

/** By rates; where nothing was ever opened, all alike. */
function expected(items: readonly MenuItem[], seconds: (item: MenuItem) => number): number {
  const all = items.reduce((sum, item) => sum + item.rate, 0);
  if (items.length === 0) return 0;
  return items.reduce((sum, item) => sum + (all > 0 ? item.rate / all : 1 / items.length) * seconds(item), 0);
}

/** A group of one is no group. */
const FEWEST = 2;

/**
 * The best grouping there is, or `undefined` where the flat menu is quicker. For each way to group, which of its groups
 * are made is searched: from none, the group that helps most is added while one helps, then any that no longer helps is
 * taken back (exact where groups help alone; never worse than flat). Cost: groups² · items for each way.
 */
export function bestGrouping(
  items: readonly MenuItem[],
  ways: readonly string[],
  c: ReachConstants,
): Grouping | undefined {
  let best: Grouping | undefined;
  for (const by of ways) {
    const sets = new Map<string, MenuItem[]>();
    for (const item of items) {
      const name = item.groups[by];
      if (name === undefined) continue;
      const list = sets.get(name);
      if (list) list.push(item);
      else sets.set(name, [item]);
    }
    const names = [...sets].filter(([, list]) => list.length >= FEWEST).map(([name]) => name);
    const made = searchGroups(items, sets, names, c);
    if (made.names.size === 0 || (best && made.seconds >= best.seconds)) continue;
    const inGroup = new Set([...made.names].flatMap((name) => sets.get(name)!));
    best = {
      by,
      groups: new Map([...made.names].map((name) => [name, sets.get(name)!.map((item) => item.id)])),
      rest: items.filter((item) => !inGroup.has(item)).map((item) => item.id),
      seconds: made.seconds,
    };
  }
  return best;
}

/** Up to so many groups all choices of them are tried. */
const ALL_OF = 10;

function searchGroups(
  items: readonly MenuItem[],
  sets: ReadonlyMap<string, readonly MenuItem[]>,
  names: readonly string[],
  c: ReachConstants,
): { names: Set<string>; seconds: number } {
  const secondsOf = (chosen: ReadonlySet<string>) => {
    const inGroup = new Set([...chosen].flatMap((name) => sets.get(name)!));
    return groupedSeconds(
      [...chosen].map((name) => sets.get(name)!),
      items.filter((item) => !inGroup.has(item)),
      c,
    );
  };
  let best = { names: new Set<string>(), seconds: flatSeconds(items, c) };
  const take = (chosen: Set<string>): boolean => {
    const seconds = secondsOf(chosen);
    if (seconds >= best.seconds - 1e-9) return false;
    best = { names: chosen, seconds };
    return true;
  };
  if (names.length <= ALL_OF) {
    for (let mask = 1; mask < 1 << names.length; mask++) take(new Set(names.filter((_, i) => (mask >> i) & 1)));
    return best;
  }
  // one group alone may be worse than none, and all of them better than both
  take(new Set(names));
  for (let isBetter = true; isBetter;) {
    isBetter = false;
    const from = best.names;
    for (const name of names) {
      const other = new Set(from);
      if (!other.delete(name)) other.add(name);
      if (take(other)) isBetter = true;
    }
  }
  return best;
}
