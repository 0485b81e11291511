/**
 * Where a file belongs: the latest tenth of a tree's files is hidden, and each is asked for. Beside the folder most
 * frequent for its ending, the folder changed last, the folder of the name most alike, and naive Bayes by a general
 * library on the same features.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Belongs } from '../packages/core/dist/belongs/index.js';
import { nameParts } from '../packages/core/dist/belongs/nameParts.js';
import { fold } from '../packages/core/dist/match/index.js';
import { seeded } from '../packages/core/dist/random/index.js';
import { writeDemo } from '../packages/demo/dist/index.js';
import { median } from './measure.mjs';

const bayes = createRequire(import.meta.url)('wink-naive-bayes-text-classifier');
const ROOT = join(import.meta.dirname, '..');
const ASKED = 400;
const SOURCES = 30_000;
/** The library looks at every folder for every other: among thousands it takes seconds for one question. */
const OTHER_MS = 60_000;
/** A share of fewer questions says too little to be the reference. */
const ENOUGH = 100;

/** @returns {{folder: string, name: string, size: number, modified: number}[]} In the order of their times. */
function filesBelow(root) {
  const out = execFileSync('find', [root, '-xdev', '-type', 'f', '-printf', '%T@\\t%s\\t%h\\t%f\\0'], {
    maxBuffer: 1 << 28,
    encoding: 'utf8',
  });
  return out
    .split('\0')
    .filter(Boolean)
    .map((line) => {
      const [time, size, folder, name] = line.split('\t');
      return { folder: folder.slice(root.length), name, size: Number(size), modified: Number(time) * 1000 };
    })
    .sort((a, b) => a.modified - b.modified || (a.folder + a.name < b.folder + b.name ? -1 : 1));
}

const demo = () => {
  const base = mkdtempSync(join(tmpdir(), 'rellin-bench-'));
  try {
    writeDemo(base, 7, new Date('2026-11-25T00:00:00Z'), false);
    // what lies in the inbox is not filed yet
    return filesBelow(join(base, 'home/Marrowick')).filter((f) => f.folder !== '/Inbox');
  } finally {
    rmSync(base, { recursive: true });
  }
};
/**
 * The packages this is built with, but for one of icons, in whose one folder five in six of all files would lie.
 * Unpacking gave them all the time of the moment: their order is drawn by lot.
 */
const sources = () => {
  const random = seeded(11);
  const root = join(ROOT, 'node_modules');
  const out = [];
  for (const name of readdirSync(root).sort()) {
    if (name.startsWith('.') || out.length > SOURCES) continue;
    for (const file of filesBelow(join(root, name)))
      if (!file.folder.startsWith('/icons-material')) out.push({ ...file, folder: `/${name}${file.folder}` });
  }
  return out.map((f) => ({ ...f, modified: random.next() * 3e11 })).sort((a, b) => a.modified - b.modified);
};
/** @type {[string, () => ReturnType<typeof filesBelow>][]} */
const TREES = [
  ['demo', demo],
  ['/usr/share', () => filesBelow('/usr/share')],
  ['source packages', sources],
];

function learned(files, among = files) {
  const belongs = new Belongs();
  const add = (path) => {
    const slash = path.lastIndexOf('/');
    if (path !== '') add(path.slice(0, slash));
    belongs.addFolder(path, path === '' ? undefined : path.slice(0, slash), path.slice(slash + 1));
  };
  for (const { folder } of among) add(folder);
  files.forEach((f, i) => belongs.addFile(i, f.folder, f));
  return belongs;
}

const split = (files) => {
  const cut = Math.floor(files.length * 0.9);
  const hidden = files.slice(cut);
  const step = Math.max(1, hidden.length / ASKED);
  const asked = Array.from({ length: Math.min(ASKED, hidden.length) }, (_, i) => hidden[Math.floor(i * step)]);
  return { known: files.slice(0, cut), hidden, asked };
};

const tokensOf = ({ name, size }) => {
  const { ending, shape, grams, words, first } = nameParts(name);
  return [
    `e ${ending}`,
    `s ${shape}`,
    `f ${first}`,
    `z ${Math.round(Math.log2(size + 1) / 2)}`,
    ...words.map((w) => `w ${w}`),
    ...grams.map((g) => `g ${g}`),
  ];
};

const top = (counts, most = 3) =>
  [...counts]
    .sort((a, b) => b[1] - a[1])
    .slice(0, most)
    .map(([key]) => key);

/** Each answers with three folders. */
const OTHERS = {
  'most frequent by ending': (known) => {
    const by = new Map();
    for (const { name, folder } of known) {
      const { ending } = nameParts(name);
      const counts = by.get(ending) ?? by.set(ending, new Map()).get(ending);
      counts.set(folder, (counts.get(folder) ?? 0) + 1);
    }
    const best = new Map([...by].map(([ending, counts]) => [ending, top(counts)]));
    return ({ name }) => best.get(nameParts(name).ending) ?? [];
  },
  'most recent folder': (known) => {
    const last = [...new Set(known.map((f) => f.folder).reverse())].slice(0, 3);
    return () => last;
  },
  'nearest name': (known) => {
    const gramsOf = (name) => {
      const text = `  ${fold(name)} `;
      return new Set(Array.from({ length: text.length - 2 }, (_, i) => text.slice(i, i + 3)));
    };
    const all = known.map((f) => gramsOf(f.name));
    const lists = new Map();
    all.forEach((grams, i) => {
      for (const g of grams) (lists.get(g) ?? lists.set(g, []).get(g)).push(i);
    });
    return ({ name }) => {
      const grams = gramsOf(name);
      const shared = new Map();
      for (const g of grams) for (const i of lists.get(g) ?? []) shared.set(i, (shared.get(i) ?? 0) + 1);
      const alike = [...shared].map(([i, n]) => [i, n / (grams.size + all[i].size - n)]);
      alike.sort((a, b) => b[1] - a[1] || b[0] - a[0]);
      const folders = new Set();
      for (const [i] of alike) {
        folders.add(known[i].folder);
        if (folders.size === 3) break;
      }
      return [...folders];
    };
  },
  'naive Bayes (library)': (known) => {
    const model = bayes();
    model.definePrepTasks([(tokens) => tokens]);
    model.defineConfig({ considerOnlyPresence: true, smoothingFactor: 0.5 });
    for (const f of known) model.learn(tokensOf(f), f.folder || '/');
    model.consolidate();
    return (f) =>
      model
        .computeOdds(tokensOf(f))
        .slice(0, 3)
        .map(([folder]) => (folder === '/' ? '' : folder));
  },
};

/** Shares with the folder first, and among three; of as many as are answered within `ms`. */
const hits = (asked, answer, ms = Infinity) => {
  let [one, three, n] = [0, 0, 0];
  const end = Date.now() + ms;
  // in an order of its own, so that those that are left out are any
  const random = seeded(5);
  for (const f of [...asked].sort(() => random.next() - 0.5)) {
    if (n > 0 && Date.now() > end) break;
    const folders = answer(f);
    if (folders[0] === f.folder) one++;
    if (folders.includes(f.folder)) three++;
    n++;
  }
  return [one / n, three / n, n];
};

let measured;
/** Of each tree: ours, and the best of the others. */
function allHits() {
  measured ??= TREES.map(([name, read]) => {
    const { known, asked } = split(read());
    const there = new Set(known.map((f) => f.folder));
    // the others lie in folders that were made for them: no folder that is there can be right
    const possible = asked.filter((f) => there.has(f.folder)).length / asked.length;
    const belongs = learned(known);
    belongs.learn();
    const ours = hits(asked, (f) => belongs.ask(f).map((s) => s.folder));
    const others = Object.entries(OTHERS).map(([other, make]) => [other, hits(asked, make(known), OTHER_MS)]);
    return { name, possible, ours, others };
  });
  return measured;
}

const hitRows = (at) => () =>
  allHits().map(({ name, possible, ours, others }) => {
    const [best, figures] = others.filter(([, f]) => f[2] >= ENOUGH).sort((a, b) => b[1][at] - a[1][at])[0];
    return {
      ...{
        value: ours[at],
        unit: 'share',
        reference: best,
        referenceValue: figures[at],
        ratio: ours[at] / figures[at],
      },
      note: `${name}: at most ${possible.toFixed(3)} possible, ${others.map(([o, f]) => `${o} ${f[at].toFixed(3)}${f[2] < ENOUGH ? ` (of ${f[2]})` : ''}`).join(', ')}`,
    };
  });

export const belongsHit1 = hitRows(0);
export const belongsHit3 = hitRows(1);

/**
 * Expected calibration error over ten bins, as it is used: of the hidden tenth each is asked for, then filed where it
 * lay, and learned.
 */
export function belongsCalibration() {
  return TREES.map(([name, read]) => {
    const files = read();
    const { known, hidden } = split(files);
    const belongs = learned(known, files);
    belongs.learn();
    const bins = Array.from({ length: 10 }, () => ({ said: 0, was: 0 }));
    let asked = 0;
    let right = 0;
    const step = Math.max(1, hidden.length / 1500);
    hidden.forEach((f, i) => {
      if (Math.floor(i / step) !== Math.floor((i - 1) / step)) {
        const [best] = belongs.ask(f);
        const p = best?.probability ?? 0;
        const bin = bins[Math.min(9, Math.floor(p * 10))];
        const was = best?.folder === f.folder ? 1 : 0;
        bin.said += p;
        bin.was += was;
        right += was;
        asked++;
        belongs.filed(f, f.folder);
      }
      belongs.addFile(known.length + i, f.folder, f);
    });
    const error = bins.reduce((sum, { said, was }) => sum + Math.abs(said - was), 0) / asked;
    return {
      value: error,
      unit: 'ece',
      note: `${name}: ${asked} asked one after another, ${((100 * right) / asked).toFixed(0)} % right`,
    };
  });
}

/** Among 10,000 folders: /usr/share under five names. */
export function belongsAsk() {
  const files = filesBelow('/usr/share');
  const many = Array.from({ length: 5 }, (_, i) =>
    files.map((f) => ({ ...f, folder: `/copy ${i}${f.folder}` })),
  ).flat();
  const belongs = learned(many);
  const folders = new Set(many.map((f) => f.folder)).size;
  const asked = split(files).asked;
  for (const f of asked.slice(0, 50)) belongs.ask(f);
  const times = asked.map((f) => {
    const began = performance.now();
    belongs.ask(f);
    return performance.now() - began;
  });
  times.sort((a, b) => a - b);
  return [
    {
      value: times[Math.floor(times.length * 0.95)],
      unit: 'ms p95',
      note: `${folders} folders, ${many.length} files; median ${median(times).toFixed(1)} ms`,
    },
  ];
}

/** 5,000 files at once, among a person's own. */
export function belongsSweep() {
  const files = filesBelow('/usr/share');
  const { known } = split(files);
  const belongs = learned(known);
  const some = files.slice(-5000);
  for (const f of some.slice(0, 50)) belongs.ask(f);
  const began = performance.now();
  for (const f of some) belongs.ask(f);
  return [{ value: (performance.now() - began) / 1000, unit: 's', note: `${some.length} files among ${known.length}` }];
}
