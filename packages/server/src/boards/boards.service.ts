/** Boards and their regions: made, named, put in order. No act here touches a shortcut or an original. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { arrange, snap, sortedBy, type RegionOrder } from '@rellin/core/board';
import type {
  BoardId,
  BoardLayout,
  BoardPatch,
  BoardView,
  NewBoard,
  NewRegion,
  RegionPatch,
  ShortcutId,
} from '@rellin/contract';
import type { ActTx } from '../journal/actTx.js';
import { roomBefore } from '../collections/room.js';
import { JournalService } from '../journal/journal.service.js';
import { named } from '../problems/named.js';
import { Refusal } from '../problems/refusal.js';
import { BoardActs } from './boardActs.service.js';
import { BoardsRepository, layoutView, thingsOf } from './boards.repository.js';
import { binLast, downward, regionOf } from './layoutRows.js';

const DEFAULT_COLUMNS = 3;

@Injectable()
export class BoardsService {
  constructor(
    private readonly repository: BoardsRepository,
    private readonly acts: BoardActs,
    private readonly journal: JournalService,
  ) {}

  list(removed = false): Promise<BoardView[]> {
    return this.repository.list(removed);
  }

  async layout(id: BoardId): Promise<BoardLayout> {
    const { board, layout } = await this.acts.known(id);
    return layoutView(board, layout);
  }

  async add(request: NewBoard): Promise<string> {
    const name = named(request.name, 'board');
    const id = randomUUID();
    await this.journal.act({ act: 'add-board', summary: `Made the board “${name}”` }, async (tx) => {
      const [, last] = await this.repository.ends(tx.manager);
      await tx.insert('board', {
        id,
        name,
        columns: request.columns ?? DEFAULT_COLUMNS,
        sort: last + 1,
        added_at: new Date().toISOString(),
      });
      await tx.insert('region', { id: randomUUID(), board_id: id, name: 'Anything', sort_by: 'free', sort: 1 });
    });
    return id;
  }

  /** Within an act: a board with these regions and shortcuts that are there by then, laid in rows. */
  async insertLaid(
    tx: ActTx,
    name: string,
    regions: readonly { name: string; ids: readonly ShortcutId[] }[],
  ): Promise<BoardId> {
    const id = randomUUID();
    const columns = DEFAULT_COLUMNS;
    const [, last] = await this.repository.ends(tx.manager);
    await tx.insert('board', { id, name, columns, sort: last + 1, added_at: new Date().toISOString() });
    for (const [n, region] of regions.entries()) {
      const region_id = randomUUID();
      await tx.insert('region', { id: region_id, board_id: id, name: region.name, sort_by: 'free', sort: n + 1 });
      await tx.insertMany(
        'board_item',
        region.ids.map((shortcut_id, i) => ({
          id: randomUUID(),
          board_id: id,
          shortcut_id,
          region_id,
          bundle_id: null,
          x: i % columns,
          y: Math.floor(i / columns),
          sort: i + 1,
        })),
      );
    }
    return id;
  }

  async change(id: BoardId, change: BoardPatch): Promise<void> {
    const name = change.name === undefined ? undefined : named(change.name, 'board');
    const { columns } = change;
    await this.acts.act(
      id,
      ({ board }) => ({
        act: 'change-board',
        summary:
          name !== undefined && name !== board.name
            ? `Renamed the board “${board.name}” to “${name}”`
            : `Made “${board.name}” ${columns} wide`,
      }),
      async ({ tx, layout, columns: before }) => {
        await tx.update('board', id, {
          ...(name !== undefined && { name }),
          ...(columns !== undefined && { columns }),
        });
        // what would lie beyond its edge comes in
        if (columns === undefined || columns >= before) return;
        for (const { id: regionId, order } of layout.regions) {
          if (order !== 'free') continue;
          const things = thingsOf(layout, regionId, true);
          const outside = things.filter((t) => t.x > columns - 1);
          const fixed = things.filter((t) => !outside.includes(t));
          await this.acts.lay(tx, things, snap(outside, columns, fixed));
        }
      },
    );
  }

  /** The view opens with it. */
  async putFirst(id: BoardId): Promise<void> {
    await this.acts.act(
      id,
      ({ board }) => ({ act: 'first-board', summary: `Put the board “${board.name}” first` }),
      async ({ tx }) => {
        const [first] = await this.repository.ends(tx.manager, id);
        await tx.update('board', id, { sort: first - 1 });
      },
    );
  }

  /** Into the bin; what lies on it stays in the catalogue. */
  async remove(id: BoardId): Promise<void> {
    await this.acts.act(
      id,
      ({ board }) => ({ act: 'remove-board', summary: `Removed the board “${board.name}”` }),
      ({ tx }) => tx.update('board', id, { removed_at: new Date().toISOString() }),
    );
  }

  async putBack(id: BoardId): Promise<void> {
    await this.acts.act(
      id,
      ({ board }) => ({ act: 'put-back-board', summary: `Put back the board “${board.name}”` }),
      ({ tx }) => tx.update('board', id, { removed_at: null }),
    );
  }

  async addRegion(boardId: BoardId, request: NewRegion): Promise<string> {
    const name = named(request.name, 'region');
    const id = randomUUID();
    await this.acts.act(
      boardId,
      ({ board }) => ({ act: 'add-region', summary: `Added the region “${name}” to “${board.name}”` }),
      async ({ tx, layout }) => {
        const sort = (layout.regions.at(-1)?.sort ?? 0) + 1;
        await tx.insert('region', { id, board_id: boardId, name, sort_by: request.order ?? 'free', sort });
      },
    );
    return id;
  }

  async changeRegion(boardId: BoardId, id: string, change: RegionPatch): Promise<void> {
    const name = change.name === undefined ? undefined : named(change.name, 'region');
    const { order } = change;
    await this.acts.act(
      boardId,
      ({ board, layout }) => {
        const was = regionOf(layout, id).name;
        return {
          act: 'change-region',
          summary:
            name !== undefined && name !== was
              ? `Renamed the region “${was}” to “${name}”`
              : `Changed the order of “${was}” on “${board.name}”`,
        };
      },
      async ({ tx, layout, columns }) => {
        const { order: before } = regionOf(layout, id);
        await tx.update('region', id, { ...(name !== undefined && { name }), ...(order && { sort_by: order }) });
        if (!order || order === before) return;
        const things = thingsOf(layout, id, true);
        // free: all stays where it is shown; own order: in the order in which it is shown
        if (order === 'free' && before !== 'free')
          await this.acts.lay(tx, things, arrange(binLast(sortedBy(things, before)), columns));
        else if (order === 'own')
          await this.acts.sort(tx, before === 'free' ? [...things].sort(downward) : sortedBy(things, before));
      },
    );
  }

  /** Above another region, or below all. */
  async moveRegion(boardId: BoardId, id: string, before: string | null): Promise<void> {
    await this.acts.act(
      boardId,
      ({ board, layout }) => ({
        act: 'move-region',
        summary: `Moved “${regionOf(layout, id).name}” on “${board.name}”`,
      }),
      async ({ tx, layout }) => {
        const rest = layout.regions.filter((r) => r.id !== id);
        const points = await roomBefore(tx, rest, before ?? undefined, 1, () => 'region');
        await tx.update('region', id, { sort: points[0] });
      },
    );
  }

  async removeRegion(boardId: BoardId, id: string): Promise<void> {
    await this.acts.act(
      boardId,
      ({ board, layout }) => {
        const { name } = regionOf(layout, id);
        if (layout.regions.length === 1)
          throw new Refusal('conflict', `“${name}” is the only region of “${board.name}”.`, {
            remedy: 'Remove the board, or add another region first.',
          });
        return { act: 'remove-region', summary: `Removed the region “${name}” from “${board.name}”` };
      },
      async ({ tx, layout }) => {
        for (const item of layout.items) if (item.regionId === id) await tx.remove('board_item', item.id);
        for (const bundle of layout.bundles) if (bundle.regionId === id) await tx.remove('bundle', bundle.id);
        await tx.remove('region', id);
      },
    );
  }

  /** In rows, once; a region that keeps itself sorted is so already. */
  async arrangeRegion(boardId: BoardId, id: string, by: Exclude<RegionOrder, 'free'>): Promise<void> {
    await this.acts.act(
      boardId,
      ({ board, layout }) => ({
        act: 'arrange-region',
        summary: `Arranged “${regionOf(layout, id).name}” on “${board.name}” by ${by}`,
      }),
      async ({ tx, layout, columns }) => {
        const { name, order } = regionOf(layout, id);
        if (order !== 'free' && order !== 'own')
          throw new Refusal('conflict', `“${name}” keeps itself sorted by ${order}.`);
        const shown = binLast(sortedBy(thingsOf(layout, id, true), by));
        if (order === 'free') await this.acts.lay(tx, shown, arrange(shown, columns));
        else await this.acts.sort(tx, shown);
      },
    );
  }
}
