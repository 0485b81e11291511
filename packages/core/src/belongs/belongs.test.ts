import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { seeded } from '../random/index.js';
import { Calibration } from './calibration.js';
import { fitWeights, probabilities, type Chosen } from './choice.js';
import { Belongs, together, type FileFacts } from './index.js';
import { nameParts } from './nameParts.js';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 10, 25);
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
type Known = FileFacts & { folder: string };
const file = (folder: string, name: string, daysAgo = 10, size = 4000): Known => ({
  ...{ folder, name, size, modified: NOW - daysAgo * DAY },
});

/** What an observatory keeps, month by month, and odds and ends. */
function observatory(seed: number): Known[] {
  const random = seeded(seed);
  const out: Known[] = [];
  for (let m = 0; m < 36; m++) {
    const [month, year, ago] = [MONTHS[m % 12]!, 2023 + Math.floor(m / 12), (36 - m) * 30];
    out.push(file('Tides', `tides-${month}-${year}.csv`, ago, 7000 + random.int(0, 900)));
    out.push(file('Ringing', `ringing_${year}${String((m % 12) + 1).padStart(2, '0')}.ods`, ago + 1, 40_000));
    out.push(file('Scans', `Scan ${String(m + 1).padStart(4, '0')}.pdf`, ago + 2, 900_000));
    for (let i = 0; i < 4; i++)
      out.push(file('Photographs', `DSC_${random.int(1000, 9999)}.jpg`, ago + i, 2_000_000 + random.int(0, 1e6)));
  }
  for (const name of ['rota.txt', 'by-laws.pdf', 'Inventory of the boat.ods', 'letter to the council.odt'])
    out.push(file('Office', name, random.int(1, 900)));
  return out;
}

function learned(files: readonly Known[], folders = ['Tides', 'Ringing', 'Scans', 'Photographs', 'Office', 'Empty']) {
  const belongs = new Belongs<string, string>();
  belongs.addFolder('', undefined, '');
  for (const folder of folders) belongs.addFolder(folder, '', folder);
  for (const f of files) belongs.addFile(`${f.folder}/${f.name}`, f.folder, f);
  return belongs;
}
const next = (name: string, size = 4000): FileFacts => ({ name, size, modified: NOW });

describe('parts of a name', () => {
  it('fold digits, months and words to a shape', () => {
    expect(nameParts('Tides-May-2026.csv')).toMatchObject({
      ...{ stem: 'tides-may-2026', ending: 'csv', shape: 'w-m-9999.csv', first: 'tides' },
      words: ['tides', 'may', '2026'],
    });
    expect(nameParts('git-ls-tree.1.gz').ending).toBe('1.gz');
    expect(nameParts('.profile')).toMatchObject({ stem: '.profile', ending: '' });
    expect(nameParts('DSC_0113.JPG').grams).toEqual(nameParts('DSC_9999.jpg').grams);
  });
  it('take any name', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (name) => expect(nameParts(name).grams.length).toBeGreaterThan(0)),
    );
  });
});

describe('where a file belongs', () => {
  it('is told with its reason', () => {
    const belongs = learned(observatory(1));
    const [tides] = belongs.ask(next('tides-jan-2026.csv', 7400));
    expect(tides).toMatchObject({ folder: 'Tides', reason: { by: 'alike', beginning: 'tides', count: 36 } });
    expect(belongs.ask(next('Scan 0037.pdf', 900_000))[0]!.folder).toBe('Scans');
    expect(belongs.ask(next('DSC_4711.jpg', 2_100_000))[0]!.folder).toBe('Photographs');
    const all = belongs.ask(next('tides-jan-2026.csv'), 10);
    expect(all.reduce((sum, s) => sum + s.probability, 0)).toBeLessThanOrEqual(1.000001);
    expect([...all].sort((a, b) => b.probability - a.probability)).toEqual(all);
  });

  it('is not known where nothing is like it', () => {
    const belongs = learned(observatory(2));
    belongs.learn();
    const [best] = belongs.ask(next('zqxv.kdbx', 12));
    expect(best === undefined || best.probability < 0.5).toBe(true);
    expect(new Belongs<string, string>().ask(next('a.txt'))).toEqual([]);
  });

  it('is not a folder with one file before one with a hundred alike', () => {
    const many = Array.from({ length: 100 }, (_, i) => file('Tides', `tides ${i}.csv`, 100 - i / 2));
    const belongs = learned([...many, file('Office', 'tides 200.csv', 50)]);
    expect(belongs.ask(next('tides 201.csv')).map((s) => s.folder)[0]).toBe('Tides');
  });

  it('does not hang on the order in which files were learned', () => {
    const files = observatory(3).slice(0, 60);
    const asked = [next('tides-may-2026.csv'), next('DSC_0001.jpg'), next('rota 2.txt'), next('new.zip')];
    const answers = (list: readonly Known[]) => {
      const belongs = learned(list);
      return asked.map((f) => belongs.ask(f, 5).map((s) => [s.folder, s.probability.toFixed(9)]));
    };
    const expected = answers(files);
    fc.assert(
      fc.property(fc.shuffledSubarray(files, { minLength: files.length }), (list) => {
        expect(answers(list)).toEqual(expected);
      }),
      { numRuns: 20 },
    );
  });

  it('is the same after files came, moved and went as if they had always been where they are', () => {
    const files = observatory(4);
    const folders = ['Tides', 'Ringing', 'Scans', 'Photographs', 'Office'];
    const key = (f: Known) => `${f.folder}/${f.name}`;
    fc.assert(
      fc.property(fc.array(fc.record({ at: fc.nat(), to: fc.nat({ max: 5 }) }), { maxLength: 300 }), (acts) => {
        const belongs = learned(files);
        const now = new Map(files.map((f) => [key(f), f]));
        for (const { at, to } of acts) {
          const f = files[at % files.length]!;
          const there = now.get(key(f));
          if (!there) {
            belongs.addFile(key(f), f.folder, f);
            now.set(key(f), f);
          } else if (to === 5) {
            belongs.removeFile(key(f));
            now.delete(key(f));
          } else {
            belongs.moveFile(key(f), folders[to]!);
            now.set(key(f), { ...there, folder: folders[to]! });
          }
        }
        const fresh = new Belongs<string, string>();
        fresh.addFolder('', undefined, '');
        for (const folder of [...folders, 'Empty']) fresh.addFolder(folder, '', folder);
        for (const [k, f] of now) fresh.addFile(k, f.folder, f);
        expect(belongs.size).toBe(now.size);
        for (const f of [next('tides-may-2026.csv'), next('Scan 0100.pdf'), next('DSC_0001.jpg')])
          expect(belongs.ask(f, 5).map((s) => [s.folder, s.probability.toFixed(9)])).toEqual(
            fresh.ask(f, 5).map((s) => [s.folder, s.probability.toFixed(9)]),
          );
      }),
      { numRuns: 25 },
    );
  });

  it('is told rightly as the months go on, with figures that hold', () => {
    const files = observatory(5).sort((a, b) => a.modified - b.modified);
    const cut = Math.floor(files.length * 0.7);
    const belongs = learned(files.slice(0, cut));
    belongs.learn();
    let [right, said, asked] = [0, 0, 0];
    for (const f of files.slice(cut)) {
      const [best] = belongs.ask(f);
      if (best!.folder === f.folder) right++;
      said += best!.probability;
      asked++;
      belongs.filed(f, f.folder);
      belongs.addFile(`${f.folder}/${f.name}`, f.folder, f);
    }
    expect(right / asked).toBeGreaterThan(0.95);
    expect(Math.abs(right - said) / asked).toBeLessThan(0.1);
  });
});

describe('choosing by weights', () => {
  const random = seeded(9);
  const truth = Float64Array.from([2, 0.5, 0.3]);
  /** Choices made by these weights: two numbers for each of four answers, and one for none. */
  const drawn = Array.from({ length: 3000 }, (): Chosen => {
    const rows = Float64Array.from({ length: 8 }, () => random.normal());
    const choice = { rows, none: Float64Array.from([1]), answers: 4 };
    const p = probabilities(choice, truth);
    let [at, left] = [0, random.next()];
    while (at < 4 && (left -= p[at]!) > 0) at++;
    return { choice, right: at === 4 ? -1 : at, weight: 1 };
  });

  it('gives probabilities that come to one', () => {
    for (const { choice } of drawn.slice(0, 50))
      expect(probabilities(choice, truth).reduce((a, b) => a + b)).toBeCloseTo(1, 12);
  });
  it('finds the weights that choices were made by', () => {
    const weights = fitWeights(drawn, Float64Array.from([0.1, 0.1, 0]));
    weights.forEach((w, i) => expect(w).toBeCloseTo(truth[i]!, 0));
    expect(fitWeights([], truth)).toEqual(truth);
  });
});

describe('figures that hold', () => {
  it('come from ones that were too sure or not sure enough', () => {
    for (const real of [(p: number) => p ** 2, (p: number) => Math.sqrt(p)]) {
      const random = seeded(3);
      const calibration = new Calibration();
      let [said, was] = [0, 0];
      for (let i = 0; i < 4000; i++) {
        const raw = 0.05 + 0.9 * random.next();
        const is = random.next() < real(raw);
        if (i >= 1000) {
          said += calibration.of(raw);
          was += is ? 1 : 0;
        }
        calibration.learn(raw, is);
      }
      expect(Math.abs(said - was) / 3000).toBeLessThan(0.03);
    }
  });
});

describe('a tree that repeats its names', () => {
  it('learns that a folder which has the name already is not where another of that name belongs', () => {
    // each part of a program twice, with its types: built for two sorts of callers
    const files = Array.from({ length: 60 }, (_, i) =>
      ['one', 'other'].flatMap((folder) => [
        file(folder, `part${String.fromCharCode(97 + (i % 26), 97 + Math.floor(i / 26))}x.js`, 100 - i),
        file(folder, `part${String.fromCharCode(97 + (i % 26), 97 + Math.floor(i / 26))}x.d.ts`, 100 - i),
      ]),
    ).flat();
    const hidden = files.filter((f, i) => f.folder === 'other' && f.name.endsWith('.js') && i % 5 === 2);
    const belongs = learned(
      files.filter((f) => !hidden.includes(f)),
      ['one', 'other'],
    );
    belongs.learn();
    const right = hidden.filter((f) => belongs.ask(next(f.name))[0]!.folder === 'other');
    expect(right.length).toBeGreaterThan(hidden.length * 0.9);
  });
});

describe('a tree of a few files', () => {
  it('makes nothing sure', () => {
    const few = learned([file('Tides', 'tides-may-2026.csv')]);
    few.learn();
    for (const name of ['tides-jun-2026.csv', 'photo.jpg'])
      expect(few.ask(next(name))[0]!.probability).toBeLessThan(0.1);
  });
});

describe('many files that lie together unsorted', () => {
  const known = observatory(5);
  const clutter = known.filter((_, i) => i % 3 === 0).map((f) => ({ ...f, folder: 'Inbox' }));
  const filed = known.filter((_, i) => i % 3 !== 0);
  const folders = ['Tides', 'Ringing', 'Scans', 'Photographs', 'Office', 'Inbox'];

  it('are asked as if none of them were there, and are there again afterwards', () => {
    const without = learned(filed, folders);
    const all = learned([...filed, ...clutter], folders);
    without.learn();
    all.learnedFrom(without);
    const { size } = all;
    const questions = clutter.map(({ name, size, modified }) => ({ name, size, modified }));
    const asked = all.askAll(questions, ['Inbox']);
    questions.forEach((question, i) => {
      const alone = without.ask(question).filter((s) => s.folder !== 'Inbox');
      expect(asked[i]!.map((s) => s.folder)).toEqual(alone.map((s) => s.folder));
      asked[i]!.forEach((s, at) => expect(s.probability).toBeCloseTo(alone[at]!.probability, 6));
    });
    expect(all.askAll(questions, ['Inbox'])).toEqual(asked);
    expect(all.size).toBe(size);
    expect(all.folderOf(`Inbox/${clutter[0]!.name}`)).toBe('Inbox');
    // asked without that, their own folder is an answer as well
    expect(all.ask(questions[0]!, 10).map((s) => s.folder)).toContain('Inbox');
  });

  it('together belong where most of them do', () => {
    const reason = { by: 'lately' } as const;
    const likely = (folder: string, probability: number) => ({ folder, probability, reason });
    expect(
      together([[likely('A', 0.8), likely('B', 0.1)], [likely('B', 0.4)]]).map((s) => [s.folder, s.probability]),
    ).toEqual([
      ['A', 0.4],
      ['B', 0.25],
    ]);
    expect(together([])).toEqual([]);
  });
});
