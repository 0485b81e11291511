import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { evidenceOf, folderMoves, jaroWinkler, scored, type Commonness, type Traits } from './index.js';

describe('likeness of names', () => {
  it('has the values of Winkler’s table', () => {
    // from the literature on record linkage, by way of the design's list of outside references
    expect(jaroWinkler('MARTHA', 'MARHTA')).toBeCloseTo(0.9611, 4);
    expect(jaroWinkler('DWAYNE', 'DUANE')).toBeCloseTo(0.84, 4);
    expect(jaroWinkler('DIXON', 'DICKSONX')).toBeCloseTo(0.8133, 4);
  });
  it('lies between 0 and 1, is 1 only for equal ones, and knows no first and second', () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c', 'é', '🐦'), maxLength: 9 });
    fc.assert(
      fc.property(word, word, (a, b) => {
        const likeness = jaroWinkler(a, b);
        expect(likeness).toBeGreaterThanOrEqual(0);
        expect(likeness).toBeLessThanOrEqual(1);
        expect(likeness === 1).toBe(a === b);
        expect(jaroWinkler(b, a)).toBeCloseTo(likeness, 12);
      }),
      { seed: 51, numRuns: 1000 },
    );
  });
});

const common: Commonness = {
  among: 6000,
  sameName: 1,
  sameExtension: 300,
  sameSize: 2,
  sameKind: 900,
  sameFolder: 40,
};
const form: Traits = {
  type: 'file',
  kind: 'document',
  name: 'moth-form.odt',
  folder: 'Forms',
  size: 9000,
  mtime: 1_700_000_000_000,
  fingerprint: 'f1',
};

describe('what may be it', () => {
  it('says the evidence field by field, and how sure it is', () => {
    const list = scored(
      form,
      [
        { ...form, name: 'moth-form (1).odt', mtime: form.mtime - 5, fingerprint: 'f2', size: 8800 },
        { ...form, folder: 'Templates' },
      ],
      common,
    );
    expect(list.map((s) => s.candidate.folder)).toEqual(['Templates', 'Forms']);
    expect(list[0]!.evidence.map((e) => e.words)).toEqual(['same content', 'same name', 'same date', 'other folder']);
    expect(list[1]!.evidence.map((e) => e.words)).toEqual([
      'other content',
      'like size',
      'like name',
      'also odt',
      'older',
      'folder of the same name',
    ]);
    expect(list[0]!.sure).toBeGreaterThan(0.99);
    expect(list[1]!.sure).toBeLessThan(0.01);
  });
  it('a common value says less than a rare one; agreement never less than disagreement', () => {
    const bits = (found: Partial<Traits>, c: Partial<Commonness> = {}) =>
      evidenceOf(form, { ...form, ...found }, { ...common, ...c }).reduce((sum, e) => sum + e.bits, 0);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 3000 }), fc.integer({ min: 1, max: 3000 }), (a, b) => {
        const [few, many] = [Math.min(a, b), Math.max(a, b)];
        expect(bits({}, { sameName: few })).toBeGreaterThanOrEqual(bits({}, { sameName: many }));
        expect(bits({}, { sameFolder: few })).toBeGreaterThanOrEqual(bits({}, { sameFolder: many }));
      }),
      { seed: 52 },
    );
    for (const other of [
      { name: 'quite another.odt' },
      { name: 'moth-form.pdf' },
      { fingerprint: 'f2' },
      { mtime: 1 },
      { folder: 'Elsewhere' },
      { kind: 'picture' as const },
    ])
      expect(bits(other)).toBeLessThan(bits({}));
  });
  it('shares the probability among the candidates and none of them', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            name: fc.constantFrom('moth-form.odt', 'moth form.odt', 'x.csv'),
            size: fc.constantFrom(9000, 9100, 3),
            fingerprint: fc.constantFrom('f1', 'f2', undefined),
            folder: fc.constantFrom('Forms', 'Templates'),
            mtime: fc.constantFrom(form.mtime, 5),
          }),
          { maxLength: 6 },
        ),
        (found) => {
          const list = scored(
            form,
            found.map((f) => ({ ...form, ...f })),
            common,
          );
          const sum = list.reduce((total, s) => total + s.sure, 0);
          expect(sum).toBeLessThan(1);
          for (let i = 1; i < list.length; i++) expect(list[i - 1]!.sure).toBeGreaterThanOrEqual(list[i]!.sure);
        },
      ),
      { seed: 53 },
    );
  });
});

describe('moves of folders', () => {
  const split = (path: string) => path.split('/');
  const lost = (paths: [string, ...string[]][]) =>
    paths.map(([path, ...found], i) => ({ key: String(i), path: split(path), found: found.map(split) }));
  const gone =
    (...folders: string[]) =>
    (folder: readonly string[]) =>
      folders.some((f) => folder.join('/') === f || folder.join('/').startsWith(`${f}/`));

  it('finds the one that explains most, and leaves the rest', () => {
    const moves = folderMoves(
      lost([
        ['1/Survey/2025/a.png', '1/Archive/Survey 2025/a.png', '1/Other/a.png'],
        ['1/Survey/2025/Cliff/b.png', '1/Archive/Survey 2025/Cliff/b.png'],
        ['1/Survey/2025/c.csv'],
        ['1/Office/rota.ods', '1/Office/Old/rota.ods'],
      ]),
      gone('1/Survey/2025'),
    );
    expect(moves).toEqual([
      {
        from: split('1/Survey/2025'),
        to: split('1/Archive/Survey 2025'),
        explains: [
          { key: '0', found: 0 },
          { key: '1', found: 0 },
        ],
        of: 3,
      },
    ]);
  });
  it('takes the folder that is gone, not one that is still there', () => {
    const items = lost([
      ['1/a/b/c/x', '1/z/b/c/x'],
      ['1/a/b/c/y', '1/z/b/c/y'],
    ]);
    expect(folderMoves(items, gone('1/a/b'))[0]).toMatchObject({ from: ['1', 'a', 'b'], to: ['1', 'z', 'b'] });
    expect(folderMoves(items, gone('1/a'))[0]).toMatchObject({ from: ['1', 'a'], to: ['1', 'z'] });
  });
  it('finds again what was moved, folder by folder', () => {
    const name = fc.constantFrom('a', 'b', 'c', 'd', 'e');
    const folder = fc.uniqueArray(fc.tuple(name, name), { selector: ([x, y]) => x + y, minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(folder, fc.integer({ min: 2, max: 6 }), (folders, files) => {
        const items = folders.flatMap(([x, y], k) =>
          Array.from({ length: files }, (_, n): [string, string] => [
            `1/${x}/${y}/${k}-${n}.txt`,
            `1/moved ${k}/${k}-${n}.txt`,
          ]),
        );
        const moves = folderMoves(lost(items), () => true);
        expect(moves.map((m) => m.from.join('/')).sort()).toEqual(folders.map(([x, y]) => `1/${x}/${y}`).sort());
        for (const move of moves) expect(move.explains).toHaveLength(files);
      }),
      { seed: 54 },
    );
  });
});
