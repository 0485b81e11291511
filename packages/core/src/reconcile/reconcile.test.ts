import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { isBackupName, isSameEntry, rearrange, reconcile, type KnownEntry, type SeenEntry } from './index.js';

const seen = (name: string, inode: number, more: Partial<SeenEntry> = {}): SeenEntry => ({
  type: 'file',
  name,
  size: 1,
  mtime: 1,
  birth: 100 + inode,
  inode,
  ...more,
});
const known = (id: number, name: string, inode: number, more: Partial<SeenEntry> = {}): KnownEntry => ({
  id,
  ...seen(name, inode, more),
});

describe('reconciling what vanished with what appeared', () => {
  it('joins a rename, whatever else changed', () => {
    const { moves, gone, appeared } = reconcile([known(1, 'a', 7)], [seen('b', 7, { size: 99, mtime: 99 })]);
    expect(moves).toHaveLength(1);
    expect([gone, appeared]).toEqual([[], []]);
  });
  it('does not join another file under a used inode number, nor another type', () => {
    expect(isSameEntry(known(1, 'a', 7), seen('a', 7, { birth: 999 }))).toBe(false);
    expect(isSameEntry(known(1, 'a', 7), seen('a', 7, { type: 'folder' }))).toBe(false);
  });
  it('wants name or content’s date where there are no birth times', () => {
    expect(isSameEntry(known(1, 'a', 7, { birth: 0 }), seen('a', 7, { birth: 0, size: 5 }))).toBe(true);
    expect(isSameEntry(known(1, 'a', 7, { birth: 0 }), seen('b', 7, { birth: 0 }))).toBe(true);
    expect(isSameEntry(known(1, 'a', 7, { birth: 0 }), seen('b', 7, { birth: 0, mtime: 5 }))).toBe(false);
  });
  it('pairs each at most once and loses nothing', () => {
    const inode = fc.integer({ min: 1, max: 6 });
    fc.assert(
      fc.property(fc.array(inode, { maxLength: 12 }), fc.array(inode, { maxLength: 12 }), (before, after) => {
        const gone = before.map((n, i) => known(i, `g${i}`, n));
        const appeared = after.map((n, i) => seen(`a${i}`, n));
        const result = reconcile(gone, appeared);
        expect(result.moves.length + result.gone.length).toBe(gone.length);
        expect(result.moves.length + result.appeared.length).toBe(appeared.length);
        expect(new Set(result.moves.map((m) => m.gone.id)).size).toBe(result.moves.length);
        for (const n of new Set(before)) {
          const possible = Math.min(before.filter((x) => x === n).length, after.filter((x) => x === n).length);
          expect(result.moves.filter((m) => m.gone.inode === n)).toHaveLength(possible);
        }
      }),
      { seed: 51, numRuns: 500 },
    );
  });
});

describe('files that went round', () => {
  const told = (result: ReturnType<typeof rearrange<SeenEntry>>) => ({
    moves: result.moves.map((m) => `${m.row.name} → ${m.now.name}`).sort(),
    gone: result.gone.map((r) => r.name),
    appeared: result.appeared.map((e) => e.name),
    replaced: result.replaced.map((r) => `${r.row.name} from ${r.from?.name ?? 'nowhere'}`),
  });
  const [a, b, c] = [known(1, 'a', 7), known(2, 'b', 8), known(3, 'c', 9)];
  const nothing = { moves: [], gone: [], appeared: [], replaced: [] };

  it('two exchanged, three rotated: each is where it went', () => {
    const two = [
      { row: a, now: seen('a', 8) },
      { row: b, now: seen('b', 7) },
    ];
    expect(told(rearrange([], [], two))).toEqual({ ...nothing, moves: ['a → b', 'b → a'] });
    const three = [
      { row: a, now: seen('a', 9) },
      { row: b, now: seen('b', 7) },
      { row: c, now: seen('c', 8) },
    ];
    expect(told(rearrange([], [], three))).toEqual({ ...nothing, moves: ['a → b', 'b → c', 'c → a'] });
  });
  it('one gone on and another in its place, in a chain', () => {
    const chain = [
      { row: a, now: seen('a', 8) },
      { row: b, now: seen('b', 9) },
    ];
    expect(told(rearrange([c], [seen('z', 7)], chain))).toEqual({ ...nothing, moves: ['a → z', 'b → a', 'c → b'] });
  });
  it('a new file saved over one stays at its path; so does one moved over another that is no more', () => {
    expect(told(rearrange([], [], [{ row: a, now: seen('a', 50) }]))).toEqual({
      ...nothing,
      replaced: ['a from nowhere'],
    });
    expect(told(rearrange([b], [], [{ row: a, now: seen('a', 8) }]))).toEqual({
      ...nothing,
      gone: ['b'],
      replaced: ['a from b'],
    });
    // one that went on over a file that is no more is at that path
    const over = [
      { row: a, now: seen('a', 9) },
      { row: b, now: seen('b', 7) },
    ];
    expect(told(rearrange([c], [], over))).toEqual({ ...nothing, moves: ['a → b', 'c → a'], gone: ['b'] });
    // one that came to a path that was left, and whose own a new file took, stays what it was there
    const taken = [
      { row: a, now: seen('a', 8) },
      { row: b, now: seen('b', 50) },
    ];
    expect(told(rearrange([], [seen('z', 7)], taken))).toEqual({
      ...nothing,
      moves: ['a → z'],
      appeared: ['a'],
      replaced: ['b from nowhere'],
    });
  });
  it('a program that saves by way of a temporary file and keeps the old one leaves the path with its row', () => {
    const temporary = known(9, 'a.tmp', 20);
    const saved = [{ row: a, now: seen('a', 20) }];
    for (const name of ['a~', 'a.bak', 'a.orig', 'a.old', 'copy of a', 'a.1'])
      expect(told(rearrange([temporary], [seen(name, 7)], saved))).toEqual({
        ...nothing,
        gone: ['a.tmp'],
        appeared: [name],
        replaced: ['a from a.tmp'],
      });
  });
  it('nothing is joined by an inode number alone', () => {
    const plain = (row: KnownEntry) => ({ ...row, birth: 0 });
    const two = [
      { row: plain(a), now: seen('a', 8, { birth: 0 }) },
      { row: plain(b), now: seen('b', 7, { birth: 0 }) },
    ];
    expect(told(rearrange([], [], two)).moves).toEqual([]);
    const again = [
      { row: a, now: seen('a', 8, { birth: 999 }) },
      { row: b, now: seen('b', 7, { birth: 998 }) },
    ];
    expect(told(rearrange([], [], again)).moves).toEqual([]);
  });
  it('whatever went where, each is found where it is, and no path has two (seeded)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 8 }),
        fc.array(fc.tuple(fc.nat(9), fc.nat(12)), { maxLength: 8 }),
        fc.array(fc.nat(9), { maxLength: 3 }),
        (n, renames, saves) => {
          const before = Array.from({ length: n }, (_, i) => known(i + 1, `p${i}`, i + 1));
          const disk = new Map<string, SeenEntry>(before.map((row) => [row.name, row]));
          for (const [from, to] of renames) {
            const file = disk.get(`p${from}`);
            if (!file || from === to) continue;
            disk.delete(`p${from}`);
            disk.set(`p${to}`, { ...file, name: `p${to}` });
          }
          let inode = 100;
          for (const at of saves) disk.set(`p${at}`, seen(`p${at}`, inode++));
          const gone = before.filter((row) => !disk.has(row.name));
          const replaced = before.flatMap((row) => {
            const now = disk.get(row.name);
            return now && now.inode !== row.inode ? [{ row, now }] : [];
          });
          const appeared = [...disk.values()].filter((e) => !before.some((row) => row.name === e.name));
          const result = rearrange(gone, appeared, replaced);
          const stays = before.filter((row) => disk.get(row.name)?.inode === row.inode).map((row) => row.name);
          const paths = [
            ...stays,
            ...result.moves.map((m) => m.now.name),
            ...result.appeared.map((e) => e.name),
            ...result.replaced.map((r) => r.now.name),
          ];
          // every path once, and every row once
          expect(paths.sort()).toEqual([...disk.keys()].sort());
          const rows = [...result.moves.map((m) => m.row), ...result.gone, ...result.replaced.map((r) => r.row)];
          expect(rows.map((r) => r.name).sort()).toEqual(
            before.map((r) => r.name).filter((name) => !stays.includes(name)),
          );
          for (const { row, now } of result.moves) expect(now.inode).toBe(row.inode);
          for (const { from, now } of result.replaced) if (from) expect(from.inode).toBe(now.inode);
        },
      ),
      { seed: 52, numRuns: 2000 },
    );
  });
});

describe('a backup’s name', () => {
  it('is told from a name of its own', () => {
    for (const name of [
      'log.txt.bak',
      'log.bak',
      'log.txt~',
      'log.orig',
      'log.old',
      'Copy of log.txt',
      'log (copy).txt',
    ])
      expect([name, isBackupName(name, 'log.txt')]).toEqual([name, true]);
    for (const name of ['log.txt.1', 'log.txt.12.gz'])
      expect([name, isBackupName(name, 'log.txt')]).toEqual([name, true]);
    for (const name of ['log 2.txt', 'log.2026', 'older.txt', 'copyright.txt', 'report.txt', 'bak'])
      expect([name, isBackupName(name, 'log.txt')]).toEqual([name, false]);
    // one that had such a name before
    expect(isBackupName('other.bak', 'log.bak')).toBe(false);
  });
});
