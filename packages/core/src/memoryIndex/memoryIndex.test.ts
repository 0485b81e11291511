import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { kindOf, type EntryType } from '../kinds/index.js';
import { FIELD_WEIGHT, fold, matchWord, wordStarts } from '../match/index.js';
import { compileQuery, parseQuery, SYSTEM_ZONE, type QueryNode } from '../query/index.js';
import {
  askColumns,
  Bits,
  firstAnswers,
  NO_FACTS,
  PlaceIndex,
  rankNames,
  recordOf,
  type IndexRow,
  type PlaceFacts,
} from './index.js';

/** Names with humps, digits, joints, accents, letters of two and three bytes, and halves of pairs. */
const name = fc
  .array(
    fc.constantFrom(
      'tide',
      'Log',
      'log',
      'a',
      'B',
      'gull',
      '2',
      '10',
      '-',
      '_',
      '.',
      ' ',
      'ü',
      'ø',
      'Лод',
      '鳥',
      '\ud800',
      '🐦',
      '.csv',
      '.md',
    ),
    { minLength: 1, maxLength: 6 },
  )
  .map((parts) => parts.join(''));

interface Made {
  rows: IndexRow[];
}
/** A tree of rows: each lies in an earlier folder. */
const made: fc.Arbitrary<Made> = fc
  .array(fc.record({ name, folder: fc.boolean(), at: fc.nat(1000), size: fc.nat(4000), time: fc.nat(1000) }), {
    minLength: 1,
    maxLength: 30,
  })
  .map((list) => {
    const rows: IndexRow[] = [row(1, 0, '', 'folder')];
    for (const [i, entry] of list.entries()) {
      const folders = rows.filter((r) => r.type === 'folder');
      rows.push({
        ...row(i + 2, folders[entry.at % folders.length]!.id, entry.name, entry.folder ? 'folder' : 'file'),
        size: entry.size,
        modified: entry.time * 1e9,
      });
    }
    return { rows };
  });

function row(id: number, parentId: number, text: string, type: EntryType): IndexRow {
  return { id, parentId, name: text, type, kind: kindOf(type, text), size: 0, modified: 0, created: 0 };
}
function indexOf(rows: readonly IndexRow[]): PlaceIndex {
  const index = new PlaceIndex(1, 'Marrowick Head');
  for (const r of rows) index.put(r);
  return index;
}
const ids = (index: PlaceIndex, bits: Bits) => {
  const out: number[] = [];
  bits.each((r) => out.push(index.ids[r]!));
  return out;
};
const parsed = (text: string): QueryNode => {
  const result = parseQuery(text);
  if (!result.ok) throw new Error(result.error.message);
  return result.tree;
};
const NOW = Date.UTC(2026, 10, 25, 12);

describe('sets of rows', () => {
  it('count, join, cut and turn round as sets do', () => {
    const numbers = fc.uniqueArray(fc.nat(99), { maxLength: 60 });
    fc.assert(
      fc.property(numbers, numbers, (a, b) => {
        const of = (list: number[]) => {
          const bits = new Bits(100);
          for (const n of list) bits.add(n);
          return bits;
        };
        const list = (bits: Bits) => {
          const out: number[] = [];
          bits.each((n) => out.push(n));
          return out;
        };
        const sorted = (from: number[]) => [...from].sort((x, y) => x - y);
        expect(of(a).count()).toBe(a.length);
        expect(list(of(a))).toEqual(sorted(a));
        expect(list(of(a).and(of(b)))).toEqual(sorted(a.filter((n) => b.includes(n))));
        expect(list(of(a).or(of(b)))).toEqual(sorted([...new Set([...a, ...b])]));
        expect(list(of(a).andNot(of(b)))).toEqual(sorted(a.filter((n) => !b.includes(n))));
        expect(of(a).flip().count()).toBe(100 - a.length);
        expect(Bits.all(100).count()).toBe(100);
        expect(list(of(a).copy(40))).toEqual(sorted(a.filter((n) => n < 40)));
      }),
      { seed: 61 },
    );
  });
});

describe('ranking names', () => {
  /** The same by looking at every row with the matcher itself: one of the words, no more, may match in no run. */
  function byHand(rows: readonly IndexRow[], words: readonly string[]): { id: number; rank: number }[] {
    const of = new Map(rows.map((r) => [r.id, r]));
    const quality = (word: string, text: string, runsOnly: boolean) => {
      const folded = fold(text);
      if (folded === '' || (runsOnly && !folded.includes(word))) return 0;
      return matchWord(word, folded, wordStarts(folded, text))?.quality ?? 0;
    };
    const above = (word: string, r: IndexRow): number => {
      const parent = of.get(r.parentId);
      if (!parent) return 0;
      return Math.max(quality(word, parent.name || 'Marrowick Head', true), above(word, parent));
    };
    const rankOf = (r: IndexRow) =>
      Math.max(
        ...words.map((_, any) => {
          const each = words.map((word, w) =>
            Math.max(quality(word, r.name, w !== any), above(word, r) * FIELD_WEIGHT.trail),
          );
          return each.includes(0) ? 0 : each.reduce((sum, q) => sum + q, 0) / words.length;
        }),
      );
    return rows
      .filter((r) => r.name !== '')
      .map((r) => ({ id: r.id, rank: rankOf(r) }))
      .filter((r) => r.rank > 0);
  }
  const word = fc.constantFrom(
    'l',
    'a',
    'tide',
    'lo',
    'log',
    'tlog',
    'tdie',
    'tidelog',
    'gul',
    'gulls',
    '2',
    'gulltide',
    'glull',
    'head',
    'u',
    'o',
  );

  it('finds what the matcher finds, and the best of it first, however many are asked', () => {
    fc.assert(
      fc.property(
        made,
        fc.array(word, { minLength: 1, maxLength: 3 }),
        fc.integer({ min: 1, max: 6 }),
        ({ rows: any }, asked, few) => {
          // beyond ASCII places and lengths are counted in bytes, which weighs a little differently
          const rows = any.map((r) => ({ ...r, name: r.name.replace(/[^\x20-\x7eü]/gu, 'x') }));
          const index = indexOf(rows);
          const all = rankNames(index, asked, 1000).map((r) => ({ id: index.ids[r.row]!, rank: r.rank }));
          const hand = byHand(rows, asked);
          expect(all.map((r) => r.id).sort((a, b) => a - b)).toEqual(hand.map((r) => r.id).sort((a, b) => a - b));
          // ranks are kept in 32 bits on the way
          for (const r of all) expect(r.rank).toBeCloseTo(hand.find((h) => h.id === r.id)!.rank, 5);
          expect(rankNames(index, asked, few)).toEqual(rankNames(index, asked, 1000).slice(0, few));
        },
      ),
      { seed: 62, numRuns: 1500 },
    );
  });

  it('finds letters of any script, with one slip too', () => {
    const index = indexOf([
      row(1, 0, '', 'folder'),
      row(2, 1, 'Журнал лодки.md', 'file'),
      row(3, 1, '鳥の記録', 'file'),
    ]);
    const found = (text: string) => rankNames(index, [fold(text)], 9).map((r) => index.ids[r.row]);
    expect(found('ЛОД')).toEqual([2]);
    expect(found('鳥')).toEqual([3]);
    expect(found('жунал')).toEqual([2]);
    expect(found('жл')).toEqual([2]);
  });

  it('asks each word somewhere in the name or the folders above, in any order', () => {
    const index = indexOf([
      row(1, 0, '', 'folder'),
      row(2, 1, 'Ringing', 'folder'),
      row(3, 2, 'north-cliff-log.csv', 'file'),
      row(4, 2, 'south-cliff-log.csv', 'file'),
      row(5, 1, 'cliff.md', 'file'),
    ]);
    const found = (text: string) => rankNames(index, text.split(' '), 9).map((r) => index.ids[r.row]);
    expect(found('log north')).toEqual([3]);
    expect(found('cliff ringing')).toEqual([3, 4]);
    expect(found('ringing log')).toEqual([3, 4]);
    expect(found('noth cliff')).toEqual([3]);
    expect(found('cliff marrowick').sort()).toEqual([3, 4, 5]);
    expect(found('cliff boat')).toEqual([]);
    expect(found('cliff.md')).toEqual([5]);
  });

  it('keeps to the rows it is given', () => {
    const index = indexOf([row(1, 0, '', 'folder'), row(2, 1, 'tide', 'file'), row(3, 1, 'tides', 'file')]);
    const within = new Bits(index.rows);
    within.add(2);
    for (const words of [['t'], ['tide'], ['tdie'], ['tide', 'marrowick']])
      expect(rankNames(index, words, 5, within).map((r) => r.row)).toEqual([2]);
  });
});

describe('asking the columns', () => {
  const facts: PlaceFacts = {
    away: false,
    shortcut: new Set([2, 5]),
    pinned: new Set([5]),
    opened: new Map([
      [3, NOW - 1000],
      [4, NOW - 90 * 86_400_000],
    ]),
    tags: new Map([['boat', new Set([3, 6])]]),
  };
  const condition = fc.constantFrom(
    'a',
    'log',
    '2',
    'лод',
    '鳥',
    '*.csv',
    't*',
    '*o*',
    '?',
    '{tide,log}*',
    '[a-l]*',
    'ext:csv,md',
    'kind:folder',
    'kind:table,text',
    'in:log',
    '"in:Marrowick Head"',
    'in:tide/log',
    'size>1000',
    'size:0..2000',
    'modified<1990',
    'modified:1975..2001',
    'opened:7d',
    'opened:never',
    'tag:boat',
    'is:file',
    'is:folder',
    'is:empty',
    'is:tagged',
    'is:shortcut',
    'is:pinned',
    'is:away',
    'text:hidden',
  );
  const tree: fc.Arbitrary<QueryNode> = fc.letrec<{ tree: QueryNode }>((tie) => ({
    tree: fc.oneof(
      { maxDepth: 3 },
      condition.map((text) => parsed(text.startsWith('"') ? 'in:"Marrowick Head"' : text)),
      fc.array(tie('tree'), { maxLength: 4 }).map((of): QueryNode => ({ type: 'all', of })),
      fc.array(tie('tree'), { maxLength: 4 }).map((of): QueryNode => ({ type: 'any', of })),
      tie('tree').map((of): QueryNode => ({ type: 'not', of })),
    ),
  })).tree;

  it('says of all rows at once what the test says of each', () => {
    fc.assert(
      fc.property(made, tree, ({ rows }, node) => {
        const index = indexOf(rows);
        const holding = () => [4, 7];
        const context = { now: NOW, zone: SYSTEM_ZONE, facts, holding };
        const test = compileQuery(node, context);
        const each = rows
          .filter((r) => r.name !== '')
          .map((r) => r.id)
          .filter((id) => test({ ...recordOf(index, index.rowOf(id), facts), holds: () => holding().includes(id) }));
        expect(ids(index, askColumns(index, node, context))).toEqual(each);
      }),
      { seed: 63, numRuns: 1500 },
    );
  });
});

describe('changes', () => {
  const change = fc.record({
    what: fc.constantFrom('new', 'rename', 'move', 'delete', 'edit', 'lay', 'back'),
    which: fc.nat(1000),
    name,
  });
  it('leave the index as one made from the rows as they are', () => {
    fc.assert(
      fc.property(made, fc.array(change, { maxLength: 40 }), ({ rows }, changes) => {
        const index = indexOf(rows);
        let now = [...rows];
        let nextId = rows.length + 1;
        const went: IndexRow[] = [];
        const isBelow = (r: IndexRow | undefined, id: number): boolean =>
          r !== undefined &&
          (r.id === id ||
            isBelow(
              now.find((x) => x.id === r.parentId),
              id,
            ));
        for (const { what, which, name: text } of changes) {
          const some = now.filter((r) => r.name !== '');
          const it = some[which % Math.max(1, some.length)];
          if (what === 'new') {
            const folders = now.filter((r) => r.type === 'folder');
            const fresh = row(nextId++, folders[which % folders.length]!.id, text, which % 3 ? 'file' : 'folder');
            now.push(fresh);
            index.put(fresh);
          } else if (what === 'lay') index.layOut();
          else if (what === 'back') {
            // one that went comes back under its id, elsewhere and with another name
            const folders = now.filter((r) => r.type === 'folder');
            const was = went.pop();
            if (!was || !index.canPut(was.id)) continue;
            const back = row(was.id, folders[which % folders.length]!.id, text, was.type);
            now.push(back);
            index.put(back);
          } else if (!it) continue;
          else if (what === 'delete') {
            went.push(...now.filter((r) => isBelow(r, it.id)));
            now = now.filter((r) => !isBelow(r, it.id));
            index.delete(it.id);
            index.deleteOrphans();
          } else {
            const folders = now.filter((r) => r.type === 'folder' && !isBelow(r, it.id));
            const next =
              what === 'rename'
                ? { ...it, name: text, kind: kindOf(it.type, text) }
                : what === 'edit'
                  ? { ...it, size: it.size + 1 }
                  : { ...it, parentId: folders[which % folders.length]!.id };
            now = now.map((r) => (r.id === it.id ? next : r));
            index.put(next);
          }
        }
        const fresh = indexOf(now.toSorted((a, b) => a.id - b.id));
        expect(index.live).toBe(fresh.live);
        for (const r of now) expect(index.nameOf(index.rowOf(r.id))).toBe(r.name);
        const context = { now: NOW, zone: SYSTEM_ZONE, facts: NO_FACTS };
        for (const text of ['', 'l', 'log', '*.csv', 'in:log', 'is:empty', 'size>1', 'ext:csv', 'kind:table'])
          expect(ids(index, askColumns(index, parsed(text), context))).toEqual(
            ids(fresh, askColumns(fresh, parsed(text), context)),
          );
        for (const words of [['log'], ['t'], ['tdie'], ['log', 'tide']]) {
          const found = (of: PlaceIndex) => rankNames(of, words, 5).map((r) => [of.ids[r.row], r.rank]);
          expect(found(index)).toEqual(found(fresh));
        }
      }),
      { seed: 64, numRuns: 600 },
    );
  });

  it('takes rows in the order of their ids also where a folder is younger than what lies in it', () => {
    const index = indexOf([row(1, 0, '', 'folder'), row(2, 9, 'moved.csv', 'file'), row(9, 1, 'new folder', 'folder')]);
    expect(index.foldersOf(index.rowOf(2))).toEqual(['marrowick head', 'new folder']);
    expect(index.children[index.rowOf(9)]).toBe(1);
  });

  it('refuses an id that is not greater than those before', () => {
    const index = indexOf([row(1, 0, '', 'folder'), row(5, 1, 'a', 'file')]);
    expect(() => index.put(row(3, 1, 'b', 'file'))).toThrow(RangeError);
  });
});

describe('the order of answers', () => {
  it('counts digits as numbers, and gives the first without sorting all', () => {
    const names = ['log 10', 'log 9', 'Log 09b', 'a', 'log', 'log 100', 'ä', 'b2', 'b10'];
    const index = indexOf([row(1, 0, '', 'folder'), ...names.map((text, i) => row(i + 2, 1, text, 'file'))]);
    const parts = [{ index, rows: index.present(), facts: NO_FACTS }];
    const shown = (offset: number, most: number, descending = false) =>
      firstAnswers(parts, 'name', descending, offset, most).map((a) => names[index.ids[a.row]! - 2]);
    expect(shown(0, 99)).toEqual(['a', 'ä', 'b2', 'b10', 'log', 'log 9', 'Log 09b', 'log 10', 'log 100']);
    expect(shown(2, 3)).toEqual(['b2', 'b10', 'log']);
    expect(shown(0, 2, true)).toEqual(['log 100', 'log 10']);
  });

  it('is the sorted whole, cut', () => {
    fc.assert(
      fc.property(
        made,
        fc.constantFrom('name', 'kind', 'size', 'modified', 'opened' as const),
        fc.nat(10),
        fc.nat(10),
        fc.boolean(),
        ({ rows }, order, offset, most, descending) => {
          const index = indexOf(rows);
          const parts = [{ index, rows: index.present(), facts: NO_FACTS }];
          const all = firstAnswers(parts, order, descending, 0, 1000);
          expect(all).toHaveLength(index.live);
          expect(firstAnswers(parts, order, descending, offset, most)).toEqual(all.slice(offset, offset + most));
          if (order === 'size') {
            const sizes = all.map((a) => index.sizes[a.row]! * (descending ? -1 : 1));
            expect(sizes).toEqual([...sizes].sort((a, b) => a - b));
          }
        },
      ),
      { seed: 65 },
    );
  });
});
