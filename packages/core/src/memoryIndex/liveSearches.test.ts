import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { kindOf } from '../kinds/index.js';
import { parseQuery, rowsOf, SYSTEM_ZONE, treeOf, type Group, type QueryNode, type QueryRow } from '../query/index.js';
import {
  askColumns,
  countRows,
  LiveSearches,
  needsOf,
  NO_FACTS,
  PlaceIndex,
  type SearchedPlace,
  type Moved,
} from './index.js';

const parsed = (text: string): QueryNode => {
  const result = parseQuery(text);
  if (!result.ok) throw new Error(result.error.message);
  return result.tree;
};
const NOW = new Date(2026, 10, 25, 12).getTime();
const DAY = 86_400_000;

function place(): SearchedPlace & { contents: Map<string, Set<number>> } {
  const index = new PlaceIndex(1, 'Head');
  const contents = new Map<string, Set<number>>();
  const put = (id: number, parentId: number, name: string, folder = false) =>
    index.put({
      id,
      parentId,
      name,
      type: folder ? 'folder' : 'file',
      kind: kindOf(folder ? 'folder' : 'file', name),
      size: id * 10,
      modified: NOW - id * DAY,
      created: NOW,
    });
  put(1, 0, '', true);
  put(2, 1, 'Tides', true);
  for (let id = 3; id < 20; id++) put(id, id % 2 ? 1 : 2, `${id % 3 ? 'tide' : 'gull'} ${id}.${id % 4 ? 'csv' : 'md'}`);
  return { index, facts: NO_FACTS, contents, holding: (text) => contents.get(text) ?? new Set() };
}

const TEXTS = [
  'tide',
  '*.csv',
  'in:tides',
  'size>100',
  'modified:7d',
  'is:empty',
  'text:knot',
  '-kind:table',
  'tide OR in:tides -csv',
];

describe('searches that keep their answers', () => {
  const change = fc.record({
    what: fc.constantFrom('edit', 'rename', 'move', 'delete', 'new', 'content'),
    id: fc.integer({ min: 2, max: 19 }),
    size: fc.nat(300),
    days: fc.nat(20),
    stem: fc.constantFrom('tide', 'gull'),
  });

  it('have after any change what asking anew gives, and say just what came and went', () => {
    fc.assert(
      fc.property(fc.array(change, { minLength: 1, maxLength: 20 }), (changes) => {
        const p = place();
        const live = new LiveSearches(SYSTEM_ZONE);
        TEXTS.forEach((text, i) => live.put({ id: String(i), tree: parsed(text), places: null }, [p], NOW));
        const now = new Map(TEXTS.map((_, i) => [String(i), new Set<number>()]));
        const ask = (text: string) => {
          const rows: number[] = [];
          askColumns(p.index, parsed(text), { now: NOW, zone: SYSTEM_ZONE, ...p }).each((row) => rows.push(row));
          return rows;
        };
        TEXTS.forEach((text, i) => ask(text).forEach((row) => now.get(String(i))!.add(row)));
        const take = (moved: Moved[]) => {
          for (const { searchId, came, went } of moved) {
            for (const row of came) {
              expect(now.get(searchId)!.has(row)).toBe(false);
              now.get(searchId)!.add(row);
            }
            for (const row of went) expect(now.get(searchId)!.delete(row)).toBe(true);
          }
        };
        let nextId = 20;
        for (const { what, id, size, days, stem } of changes) {
          const row = p.index.rowOf(id);
          const folder = p.index.rowOf(2);
          const base = { size, modified: NOW - days * DAY, created: NOW };
          const file = (fileId: number, parentId: number) => {
            const name = `${stem} ${fileId}.${size % 2 ? 'csv' : 'md'}`;
            p.index.put({ ...base, id: fileId, parentId, name, type: 'file', kind: kindOf('file', name) });
          };
          const touched = new Set<number>();
          if (what === 'new') {
            file(nextId, folder >= 0 && days % 2 ? 2 : 1);
            touched.add(p.index.rowOf(nextId++)).add(folder);
          } else if (row < 0) continue;
          else if (what === 'delete') {
            const parent = p.index.parents[row]!;
            p.index.delete(id);
            for (const r of [row, parent, ...p.index.deleteOrphans()]) touched.add(r);
          } else if (what === 'content') {
            p.contents.set('knot', new Set([...(p.contents.get('knot') ?? []), id]));
            touched.add(row);
          } else if (id === 2) {
            p.index.put({ ...base, id, parentId: 1, name: stem, type: 'folder', kind: 'folder' });
            take(live.askAnew(p, NOW, (needs) => needs.folders));
            touched.add(row);
          } else {
            const to = what === 'move' ? (days % 2 && folder >= 0 ? 2 : 1) : p.index.ids[p.index.parents[row]!]!;
            file(id, to);
            touched.add(row).add(folder);
          }
          touched.delete(-1);
          take(live.rowsChanged(p, [...touched], NOW));
        }
        TEXTS.forEach((text, i) => {
          expect([...now.get(String(i))!].sort((a, b) => a - b)).toEqual(ask(text));
          expect(live.count(String(i))).toBe(ask(text).length);
        });
      }),
      { seed: 71, numRuns: 300 },
    );
  });

  it('a new day moves what hangs on it, and nothing else is asked', () => {
    const p = place();
    const live = new LiveSearches(SYSTEM_ZONE);
    live.put({ id: 'week', tree: parsed('modified:7d'), places: null }, [p], NOW);
    live.put({ id: 'tide', tree: parsed('tide'), places: null }, [p], NOW);
    const before = live.count('week');
    const moved = live.askAnew(p, NOW + DAY, (needs) => needs.day);
    expect(moved).toHaveLength(1);
    expect(moved[0]).toMatchObject({ searchId: 'week', came: [], went: [p.index.rowOf(7)] });
    expect(live.count('week')).toBe(before - 1);
  });

  it('keeps to its places', () => {
    const p = place();
    const live = new LiveSearches(SYSTEM_ZONE);
    live.put({ id: 'a', tree: parsed('tide'), places: [2] }, [p], NOW);
    expect(live.count('a')).toBe(0);
    expect(live.rowsChanged(p, [3, 4, 5], NOW)).toEqual([]);
  });

  it('knows what an answer hangs on', () => {
    expect(needsOf(parsed('tide -(*.csv OR modified:2026-05)'))).toEqual({
      day: false,
      folders: false,
      facts: false,
      content: false,
    });
    expect(needsOf(parsed('opened:7d OR text:knot in:Boat'))).toEqual({
      day: true,
      folders: true,
      facts: true,
      content: true,
    });
    expect(needsOf(parsed('is:away')).facts).toBe(true);
  });
});

describe('what each row does', () => {
  it('says how many it lets through, and how many more there were without it', () => {
    const p = place();
    const context = { now: NOW, zone: SYSTEM_ZONE, ...p };
    const count = (tree: QueryNode) => askColumns(p.index, tree, context).count();
    const without = (part: Group, row: QueryRow): Group => ({
      ...part,
      parts: part.parts.filter((x) => x !== row).map((x) => (x.type === 'group' ? without(x, row) : x)),
    });
    for (const text of [
      'tide *.csv in:tides',
      'gull -(*.md OR size>150)',
      'tide (size>100 OR in:tides -csv)',
      '-(tide gull)',
    ]) {
      const group = rowsOf(parsed(text));
      const rows: QueryRow[] = [];
      const gather = (part: Group | QueryRow): unknown =>
        part.type === 'row' ? rows.push(part) : part.parts.map(gather);
      gather(group);
      expect(countRows(p.index, group, context)).toEqual(
        rows.map((row) => ({
          through: count(treeOf(row)),
          alone: Math.max(0, count(treeOf(without(group, row))) - count(treeOf(group))),
        })),
      );
    }
  });
});
