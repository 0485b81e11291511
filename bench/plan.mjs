/** The plan and reach: how long they take, that pins are planned at the optimum, and how well "likely next" guesses. */
import loadHighs from 'highs';
import { catalogue, openingsOf } from '../packages/demo/dist/index.js';
import { ShortestQueries, Finder } from '../packages/core/dist/match/index.js';
import { planPins } from '../packages/core/dist/plan/index.js';
import { SYSTEM_ZONE } from '../packages/core/dist/query/index.js';
import { seeded } from '../packages/core/dist/random/index.js';
import {
  bestRoute,
  byBoard,
  byCommand,
  byFindLine,
  byGroup,
  byPinClick,
  byPinKey,
  byFolderRoute,
  layStrip,
  REACH_CONSTANTS,
  wayByView,
  withComing,
} from '../packages/core/dist/reach/index.js';
import { fitLikely } from '../packages/core/dist/usage/index.js';
import { generatedOpenings } from './habits.mjs';
import { leastCost, smallInstance } from './milp.mjs';
import { median } from './measure.mjs';
import { indexOf, manyNames } from './names.mjs';

const RULES = { constants: REACH_CONSTANTS, limit: 50, keys: 9, movePenalty: 4, before: 0 };

function candidates(count, seed = 1) {
  const random = seeded(seed);
  return Array.from({ length: count }, (_, i) => ({
    id: `i${i}`,
    rate: random.next() ** 4 * 10,
    without: 2 + random.next() * 8,
    uses: random.next() * 20,
    slot: i < Math.min(30, count / 4) ? i : null,
    eligible: true,
    width: 100 + random.int(0, 60),
  }));
}

const timed = (work, rounds = 7) => {
  const times = [];
  for (let i = 0; i < rounds; i++) {
    const started = performance.now();
    work();
    times.push(performance.now() - started);
  }
  return median(times);
};

/** The exponent by which a time grows from one size to the next. */
const exponent = (rows) =>
  rows.slice(1).map(({ size, ms }, i) => Math.log(ms / rows[i].ms) / Math.log(size / rows[i].size));

export async function planSolve() {
  const rows = [100, 1000, 10_000, 100_000].map((size) => {
    const items = candidates(size);
    return { size, ms: timed(() => planPins(items, RULES)) };
  });
  const steps = exponent(rows).map((e) => e.toFixed(2));
  return rows.map(({ size, ms }) => ({
    value: ms,
    unit: 'ms',
    note: `${size} shortcuts, 50 slots; bar 200 at 10,000; exponents ${steps.join(', ')}`,
  }));
}

export async function planExact() {
  const highs = await loadHighs();
  const random = seeded(7);
  let equal = 0;
  const rounds = 300;
  for (let round = 0; round < rounds; round++) {
    const { candidates: items, rules } = smallInstance(random, REACH_CONSTANTS);
    if (Math.abs(planPins(items, rules).cost - leastCost(highs, items, rules)) < 1e-6) equal++;
  }
  return [
    {
      value: equal / rounds,
      unit: 'share',
      reference: 'mixed-integer solver HiGHS',
      referenceValue: 1,
      ratio: equal / rounds,
      note: `${rounds} seeded instances; bar 1`,
    },
  ];
}

/** The model alone, without its fallback: on the demo's history, and on one whose law is known. */
export async function likelyHit5() {
  const today = new Date(Date.UTC(2026, 10, 24));
  const demo = catalogue(2026, 'nov')
    .flatMap((item, i) => openingsOf(item, i, 7, today).map((at) => ({ item: item.name, at })))
    .sort((a, b) => a.at - b.at);
  /** @type {[string, { item: string, at: number }[]][]} */
  const histories = [
    ['the demo’s twelve weeks', demo],
    ['a generated half year: parts of the day, and chains', generatedOpenings(seeded(1), 180)],
  ];
  return histories.map(([what, history]) => {
    const { hit5, tested, use } = fitLikely(history, SYSTEM_ZONE, 14);
    const best = Math.max(hit5.recent, hit5.frequent);
    return {
      value: hit5.model,
      unit: 'share',
      reference: hit5.recent > hit5.frequent ? 'most recent' : 'most frequent',
      referenceValue: best,
      ratio: hit5.model / best,
      note: `${what}, ${tested} openings guessed; ${use} is used`,
    };
  });
}

/** A catalogue of shortcuts into an index of a million: names of their own, some pinned, some in collections. */
function scene(count) {
  const names = manyNames(1_000_000);
  const index = indexOf(names);
  const random = seeded(5);
  const rows = Array.from({ length: count }, (_, i) => Math.floor(((i + 0.5) * index.rows) / count));
  /** @type {import('../packages/core/dist/match/index.js').FindItem[]} */
  const items = rows.map((row, i) => ({
    id: `s${i}`,
    group: 'shortcut',
    name: index.nameOf(row),
    weight: random.next() < 0.3 ? random.next() * 5 : 0,
  }));
  return { index, rows, items };
}

/** All routes of one, as the server prices them. */
function priced(item, levels, typed, slot, strip) {
  const c = REACH_CONSTANTS;
  const routes = [];
  if (slot < strip.length) routes.push(byPinKey(1, c), byPinClick(slot, strip, item.weight, c));
  if (typed) routes.push(byFindLine(typed.characters, typed.rank, item.weight, c), byCommand(typed.characters, c));
  routes.push(byGroup('collection', wayByView(40, 0, c), 25, item.weight, c));
  routes.push(byBoard({ boards: 3, regions: 3, members: 12, distance: 400, bundled: 0 }, item.weight, c));
  routes.push(byFolderRoute(3, levels, item.weight, c));
  return bestRoute(routes.map((r) => withComing(r, 'here', c)));
}

let measured;
function reach() {
  return (measured ??= (() => {
    const out = [];
    for (const count of [100, 1000, 10_000, 100_000]) {
      const { index, rows, items } = scene(count);
      const strip = layStrip(items.slice(0, 9).map((i) => i.name.slice(0, 12)));
      const started = performance.now();
      const finder = new Finder(items);
      const shortest = new ShortestQueries(finder);
      items.forEach((item, i) => priced(item, index.levelsOf(rows[i]), shortest.of(item.id), i, strip));
      const all = performance.now() - started;
      const ones = [];
      for (let k = 0; k < 15; k++) {
        const i = Math.floor(((k + 0.5) * count) / 15);
        const begun = performance.now();
        const item = { ...items[i], name: `${items[i].name} changed ${k}` };
        for (const id of shortest.put(item)) {
          const at = Number(id.slice(1));
          priced(at === i ? item : items[at], index.levelsOf(rows[at]), shortest.of(id), at, strip);
        }
        ones.push(performance.now() - begun);
      }
      out.push({ size: count, ms: all, one: median(ones) });
    }
    return out;
  })());
}

export async function reachAll() {
  const rows = reach();
  const steps = exponent(rows).map((e) => e.toFixed(2));
  return rows.map(({ size, ms }) => ({
    value: ms,
    unit: 'ms',
    note: `all routes of ${size} shortcuts on a million originals, from nothing; bar 2,000 at 10,000; exponents ${steps.join(', ')}`,
  }));
}

export async function reachOne() {
  return reach().map(({ size, one }) => ({
    value: one,
    unit: 'ms',
    note: `after one of ${size} shortcuts was renamed, the median of 15; bar 20 at 10,000`,
  }));
}
