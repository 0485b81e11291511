/**
 * The find line over a million names: counting and ranking as one types, beside `grep -cF` over the same names and the
 * best general-purpose matchers; and how well it finds what people type, beside the same.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import uFuzzy from '@leeoniya/ufuzzy';
import FlexSearch from 'flexsearch';
import Fuse from 'fuse.js';
import MiniSearch from 'minisearch';
import { fold, queryWords } from '../packages/core/dist/match/index.js';
import { rankNames, toByteText } from '../packages/core/dist/memoryIndex/index.js';
import { seeded } from '../packages/core/dist/random/index.js';
import { growth, median } from './measure.mjs';
import { indexOf, manyNames } from './names.mjs';

const MILLION = 1_000_000;
const ANSWERS = 12;
const WORDS = 25;
const p95 = (values) => [...values].sort((a, b) => a - b)[Math.ceil(values.length * 0.95) - 1];
const clock = (work) => {
  const started = performance.now();
  work();
  return performance.now() - started;
};

/** Words of names, as long as eight letters, from a seed. */
function typedWords(names) {
  const random = seeded(7);
  const words = new Set();
  while (words.size < WORDS) {
    const parts = fold(random.pick(names))
      .split(/[^a-z0-9]+/)
      .filter((w) => w.length >= 8);
    if (parts.length > 0) words.add(random.pick(parts).slice(0, 8));
  }
  return [...words];
}

async function withNames(count, use) {
  const names = manyNames(count);
  const folder = mkdtempSync(join(tmpdir(), 'rellin-names-'));
  try {
    const file = join(folder, 'names');
    writeFileSync(file, `${names.join('\n')}\n`);
    const grep = (text) => spawnSync('grep', ['-cF', '--', text, file], { env: { LC_ALL: 'C' } });
    return await use(names, grep);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** One to eight letters of each word, typed one by one: ours and grep in turn. */
function typing(names, grep, ours) {
  /** @type {{ ours: number[], grep: number[] }[]} */
  const by = Array.from({ length: 9 }, () => ({ ours: [], grep: [] }));
  ours('warm');
  grep('warm');
  for (const word of typedWords(names))
    for (let n = 1; n <= 8; n++) {
      by[n].grep.push(clock(() => grep(word.slice(0, n))));
      by[n].ours.push(clock(() => ours(word.slice(0, n))));
    }
  return by;
}

function figure(by, note) {
  const from3 = by.slice(3);
  const ours = from3.flatMap((b) => b.ours);
  const grep = from3.flatMap((b) => b.grep);
  return {
    value: p95(ours),
    unit: 'ms p95 of 3 to 8 letters',
    reference: 'grep -cF, medians',
    referenceValue: median(grep),
    ratio: median(ours) / median(grep),
    note: `${note}; median ${median(ours).toFixed(1)} ms; by letters, median/p95: ${by
      .slice(1)
      .map((b, i) => `${i + 1}: ${median(b.ours).toFixed(0)}/${p95(b.ours).toFixed(0)}`)
      .join(' ')}`,
  };
}

export const findSubstring = () =>
  withNames(MILLION, (names, grep) => {
    const index = indexOf(names);
    const count = (text) => {
      const rows = index.present();
      index.keepHolding(
        Uint8Array.from(toByteText(text), (c) => c.charCodeAt(0)),
        rows,
      );
      return rows.count();
    };
    return [figure(typing(names, grep, count), 'full count over 1,000,000 names; bar 0.6')];
  });

export const findRanked = () =>
  withNames(MILLION, async (names, grep) => {
    const index = indexOf(names);
    const ours = (text) => rankNames(index, [text], ANSWERS);
    const grown = await growth(async (size) => {
      const smaller = indexOf(names.slice(0, size));
      return median(typedWords(names).map((w) => clock(() => rankNames(smaller, [w.slice(0, 4)], ANSWERS))));
    });
    /** @type {import('./measure.mjs').Figure[]} */
    const out = [
      figure(typing(names, grep, ours), `the best 12 of 1,000,000 names; bar 1.5, one letter 60 ms p95; ${grown}`),
    ];
    const pairs = typedWords(names).map((w, i, all) => [w.slice(0, 4), all[(i + 1) % all.length].slice(0, 3)]);
    const two = pairs.map((words) => clock(() => rankNames(index, words, ANSWERS)));
    out.push({ value: p95(two), unit: 'ms p95 of two words', note: `median ${median(two).toFixed(1)} ms` });
    // the libraries on the same words of four letters; those that cannot hold a million in memory take a tenth
    const words = typedWords(names)
      .slice(0, 5)
      .map((w) => w.slice(0, 4));
    const own = median(words.map((w) => clock(() => ours(w))));
    const compare = (name, count, search) => {
      search(words[0]);
      const theirs = median(words.map((w) => clock(() => search(w))));
      const fair = count === MILLION ? own : median(words.map((w) => clock(() => rankNames(tenth, [w], ANSWERS))));
      out.push({
        value: fair,
        unit: 'ms median',
        reference: `${name} on ${count.toLocaleString('en-GB')} names`,
        referenceValue: theirs,
        ratio: fair / theirs,
      });
    };
    const few = names.slice(0, MILLION / 10);
    const tenth = indexOf(few);
    const uf = new uFuzzy({ intraMode: 1 });
    compare('ufuzzy', MILLION, (w) => uf.search(names, w, 0, 1e5));
    const flex = new FlexSearch.Index({ tokenize: 'forward' });
    few.forEach((name, i) => flex.add(i, name));
    compare('flexsearch', few.length, (w) => flex.search(w, { limit: ANSWERS }));
    const mini = new MiniSearch({ fields: ['name'], tokenize: (t) => t.toLowerCase().split(/[^a-z0-9]+/) });
    mini.addAll(few.map((name, id) => ({ id, name })));
    compare('minisearch', few.length, (w) => mini.search(w, { prefix: true, fuzzy: 0.2 }));
    const fuse = new Fuse(few, { threshold: 0.4, ignoreLocation: true });
    compare('fuse.js', few.length, (w) => fuse.search(w, { limit: ANSWERS }));
    return out;
  });

const wordsOf = (name) =>
  fold(name)
    .replace(/\.[^.]*$/, '')
    .split(/[^a-z0-9]+/)
    .filter((w) => w.length >= 2);

/** How people type a name they half remember; undefined where a name has not what it takes. */
const WAYS = {
  'first letters of words': (name) => {
    const words = wordsOf(name).slice(0, 3);
    return words.length < 2 ? undefined : words.map((w) => w.slice(0, 3)).join(' ');
  },
  'first letters run together': (name) => {
    const words = wordsOf(name).slice(0, 3);
    return words.length < 2 ? undefined : words.map((w) => w.slice(0, 3)).join('');
  },
  'an inner piece': (name, random) => {
    const text = fold(name).replace(/\.[^.]*$/, '');
    if (text.length < 9) return undefined;
    const at = random.int(1, text.length - 6);
    const piece = text.slice(at, at + random.int(5, 7));
    return /^\S+$/.test(piece) ? piece : undefined;
  },
  'one slip': (name, random) => {
    const words = wordsOf(name);
    const i = words.findIndex((w) => w.length >= 5);
    if (i < 0) return undefined;
    const word = words[i];
    const at = random.int(1, word.length - 2);
    const other = random.pick([...'etaoinsr']);
    const wrong = random.pick([
      word.slice(0, at) + word.slice(at + 1),
      word.slice(0, at) + other + word.slice(at),
      word.slice(0, at) + other + word.slice(at + 1),
      word.slice(0, at) + word[at + 1] + word[at] + word.slice(at + 2),
    ]);
    return [wrong, ...words.filter((_, k) => k !== i).slice(0, 1)].join(' ');
  },
  'two words in the wrong order': (name) => {
    const words = wordsOf(name);
    return words.length < 2 ? undefined : `${words[1]} ${words[0]}`;
  },
  'extension added': (name) => {
    const extension = /\.([a-z0-9]{2,4})$/i.exec(name)?.[1];
    const words = wordsOf(name);
    return extension && words.length > 0 ? `${words.slice(0, 2).join(' ')} ${fold(extension)}` : undefined;
  },
};
const EACH = 60;

/** Rank of the name that was meant, by way, for each engine; 20,000 real names, which all engines can hold. */
function quality() {
  const random = seeded(5);
  const names = manyNames(20_000, 5);
  const typed = Object.entries(WAYS).flatMap(([way, type]) => {
    const out = [];
    while (out.length < EACH) {
      const name = random.pick(names);
      const text = type(name, random);
      if (text) out.push({ way, name, text });
    }
    return out;
  });
  const index = indexOf(names);
  const uf = new uFuzzy({ intraMode: 1 });
  const fuse = new Fuse(names, { threshold: 0.4, ignoreLocation: true });
  const mini = new MiniSearch({ fields: ['name'], tokenize: (t) => t.toLowerCase().split(/[^a-z0-9]+/) });
  mini.addAll(names.map((name, id) => ({ id, name })));
  const flex = new FlexSearch.Index({ tokenize: 'full' });
  names.forEach((name, i) => flex.add(i, name));
  const engines = {
    ours: (text) => rankNames(index, queryWords(text), 10).map((r) => names[index.ids[r.row] - 2]),
    ufuzzy: (text) => {
      const [found, info, order] = uf.search(names, text, 5, 1e5);
      return order
        ? order.slice(0, 10).map((o) => names[info.idx[o]])
        : (found ?? []).slice(0, 10).map((i) => names[i]);
    },
    'fuse.js': (text) => fuse.search(text, { limit: 10 }).map((r) => r.item),
    minisearch: (text) =>
      mini
        .search(text, { prefix: true, fuzzy: 0.2, combineWith: 'AND' })
        .slice(0, 10)
        .map((r) => names[r.id]),
    flexsearch: (text) => flex.search(text, { limit: 10 }).map((i) => names[i]),
  };
  const mean = (values) => values.reduce((a, b) => a + b, 0) / values.length;
  return Object.fromEntries(
    Object.entries(engines).map(([engine, search]) => {
      const ranks = typed.map(({ way, name, text }) => ({ way, rank: search(text).indexOf(name) + 1 }));
      return [
        engine,
        {
          mrr: mean(ranks.map((r) => (r.rank ? 1 / r.rank : 0))),
          hit5: mean(ranks.map((r) => Number(r.rank > 0 && r.rank <= 5))),
          ways: Object.keys(WAYS)
            .map(
              (way) =>
                `${way} ${mean(ranks.filter((r) => r.way === way).map((r) => (r.rank ? 1 / r.rank : 0))).toFixed(2)}`,
            )
            .join(', '),
        },
      ];
    }),
  );
}

function best(of) {
  const { ours, ...others } = quality();
  const [name, reference] = Object.entries(others).sort(([, a], [, b]) => b[of] - a[of])[0];
  return [
    {
      value: ours[of],
      unit: `0..1 of ${Object.keys(WAYS).length * EACH} typed queries`,
      reference: `${name}, the best of ${Object.keys(others).join(', ')}`,
      referenceValue: reference[of],
      ratio: ours[of] / reference[of],
      note: of === 'mrr' ? `ours: ${ours.ways}; ${name}: ${reference.ways}` : undefined,
    },
  ];
}
export const findMrr = () => best('mrr');
export const findHit5 = () => best('hit5');
