import { describe, expect, it } from '@jest/globals';
import type { BoardItemView, BoardLayout } from '@rellin/contract';
import { seeded } from '@rellin/core/random';
import { aShortcut } from '../testing/page';
import { layoutBoard, nextFree, slotsOf, toward, type Arrow } from './layoutBoard';

const names = ['Tide table', 'Net 10', 'Net 2', 'Rota', 'Map', 'Log'];
const shortcuts = new Map(names.map((name, i) => [`s${i}`, aShortcut({ id: `s${i}`, name })]));
const item = (i: number, regionId: string, x = 0, y = 0, bundleId: string | null = null): BoardItemView => ({
  id: `i${i}`,
  shortcutId: `s${i}`,
  regionId,
  bundleId,
  sort: i,
  x,
  y,
});
const layout: BoardLayout = {
  board: { id: 'b', name: 'Net round', columns: 2, regions: 2, count: 6, removedAt: null },
  regions: [
    { id: 'rows', name: 'Rows', order: 'name' },
    { id: 'free', name: 'Free', order: 'free' },
  ],
  bundles: [{ id: 'u', regionId: 'free', name: 'Two', sort: 9, x: 0, y: 1 }],
  items: [
    item(0, 'rows'),
    item(1, 'rows'),
    item(2, 'rows'),
    item(3, 'free', 1, 0),
    item(4, 'free', 5, 5, 'u'),
    item(5, 'free', 0, 0, 'u'),
  ],
};

describe('a layout', () => {
  const [rows, free] = layoutBoard(layout, shortcuts) as [
    ReturnType<typeof layoutBoard>[0],
    ReturnType<typeof layoutBoard>[0],
  ];
  it('lays a sorted region in rows as people count, and a free one where things were put', () => {
    expect(rows.items.map((i) => [i.shortcut.name, i.spot.x, i.spot.y])).toEqual([
      ['Tide table', 0, 1],
      ['Net 10', 1, 0],
      ['Net 2', 0, 0],
    ]);
    expect([rows.rows, free.top]).toEqual([2, 2]);
    expect(free.items.map((i) => i.spot)).toEqual([{ x: 1, y: 0 }]);
    // below what lies there is a row to put things into
    expect([free.bundles[0]!.height, free.rows]).toEqual([2, 4]);
  });
  it('leaves out what the page does not know yet', () => {
    expect(layoutBoard(layout, new Map()).map((r) => r.items.length)).toEqual([0, 0]);
  });
  it('has its slots in reading order, a bundle’s lines below its head', () => {
    expect(slotsOf([rows, free]).map((s) => s.id)).toEqual(['i2', 'i1', 'i0', 'i3', 'u', 'i4', 'i5']);
  });
});

describe('the arrows', () => {
  const slots = slotsOf(layoutBoard(layout, shortcuts));
  const go = (from: string, arrow: Arrow) =>
    toward(
      slots,
      slots.find((s) => s.id === from)!,
      arrow,
    )?.id;
  it('go to the nearest that way, from region to region and into a bundle', () => {
    expect(go('i2', 'ArrowRight')).toBe('i1');
    expect(go('i2', 'ArrowDown')).toBe('i0');
    expect(go('u', 'ArrowDown')).toBe('i4');
    expect(go('i1', 'ArrowDown')).toBe('i3');
    expect(go('i2', 'ArrowUp')).toBeUndefined();
  });
  it('reach every slot from every other (seeded)', () => {
    const random = seeded(91);
    for (let round = 0; round < 20; round++) {
      const items = Array.from({ length: 6 }, (_, i) => item(i, 'free', random.int(0, 3), i + random.int(0, 1) / 2));
      const all = slotsOf(
        layoutBoard({ ...layout, bundles: [], items, board: { ...layout.board, columns: 4 } }, shortcuts),
      );
      const met = new Set([all[0]!]);
      for (const slot of met)
        for (const arrow of ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'] as const) {
          const next = toward(all, slot, arrow);
          if (next) met.add(next);
        }
      expect(met.size).toBe(all.length);
    }
  });
  it('move a thing to the next free cell, over what lies between, and not over the edge', () => {
    const [, free] = layoutBoard(
      { ...layout, bundles: [], items: [item(0, 'free', 0, 0), item(1, 'free', 1, 0), item(2, 'free', 0, 1)] },
      shortcuts,
    );
    const next = (arrow: Arrow) => nextFree(free!, 'i0', { x: 0, y: 0 }, arrow, 2);
    expect(next('ArrowDown')).toEqual({ x: 0, y: 2 });
    for (const arrow of ['ArrowRight', 'ArrowLeft', 'ArrowUp'] as const) expect(next(arrow)).toBeUndefined();
  });
});
