/** Boards: made, laid out, tidied. No act here touches a shortcut or an original. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import {
  arrange,
  bundleHeight,
  firstFree,
  freeSpot,
  makeRoom,
  overlaps,
  snap,
  sortedBy,
  type Lying,
  type RegionOrder,
  type Spot,
} from '@rellin/core/board';
import type {
  BoardId,
  BoardItemId,
  BoardLayout,
  BoardView,
  BundleView,
  Laid,
  RegionId,
  ShortcutId,
} from '@rellin/contract';
import type { ActTx, Patch } from '../journal/actTx.js';
import { roomBefore } from '../collections/room.js';
import { JournalService, type WithinAct, type ChangeContext } from '../journal/journal.service.js';
import { named } from '../problems/named.js';
import { Refusal } from '../problems/refusal.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import {
  BoardsRepository,
  layoutView,
  thingsOf,
  type ItemRow,
  type BoardLayoutRows,
  type RegionRow,
  type Thing,
} from './boards.repository.js';
import { binLast, bundleOf, byKind, chosen, downward, regionOf, rowsFrom, tableOf, type Group } from './layoutRows.js';
import type { RowChange } from '../journal/rowChange.js';

/** Where things are to lie. */
export type Where = Omit<Laid, 'shortcutIds' | 'targets'>;

/** A board as an act sees it. */
interface BoardInAct {
  board: BoardView;
  layout: BoardLayoutRows;
}

const DEFAULT_COLUMNS = 3;

@Injectable()
export class BoardsService implements WithinAct {
  constructor(
    private readonly repository: BoardsRepository,
    private readonly journal: JournalService,
    private readonly shortcuts: ShortcutsService,
  ) {}

  /**
   * What an undo brings back may find its spot taken since: what took it moves aside, so that nothing ever overlaps.
   */
  async withinAct(changes: RowChange[], tx: ActTx, { direction }: ChangeContext): Promise<void> {
    if (direction === 'do') return;
    const back = new Set<string>();
    for (const { table, id, after } of changes)
      if (after && (table === 'board_item' || table === 'bundle')) back.add(id);
    if (back.size > 0) await this.makeRoomFor(tx, back);
  }

  list(removed = false): Promise<BoardView[]> {
    return this.repository.list(removed);
  }

  async layout(id: BoardId): Promise<BoardLayout> {
    const { board, layout } = await this.known(id);
    return layoutView(board, layout);
  }

  private async known(id: BoardId, tx?: ActTx): Promise<BoardInAct> {
    // one act on a board at a time, so that no two take the same spot
    if (tx) await tx.manager.query(`SELECT 1 FROM board WHERE id = $1 FOR UPDATE`, [id]);
    const board = await this.repository.one(id, tx?.manager);
    if (!board) throw new Refusal('not-found', 'That board is not there any more.');
    return { board, layout: await this.repository.layout([id], tx?.manager) };
  }

  async add(request: { name: string; columns?: number }): Promise<string> {
    const name = named(request.name, 'board');
    const id = randomUUID();
    await this.journal.act({ act: 'add-board', summary: `Made the board “${name}”` }, async (tx) => {
      const [{ last }] = (await tx.manager.query(`SELECT coalesce(max(sort), 0) AS last FROM board`)) as [
        { last: number },
      ];
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

  async change(id: BoardId, change: { name?: string; columns?: number }): Promise<void> {
    const { board } = await this.known(id);
    const name = change.name === undefined ? undefined : named(change.name, 'board');
    const renamed = name !== undefined && name !== board.name;
    const summary = renamed
      ? `Renamed the board “${board.name}” to “${name}”`
      : `Made “${board.name}” ${change.columns} wide`;
    await this.journal.act({ act: 'change-board', summary }, async (tx) => {
      const { board: before, layout } = await this.known(id, tx);
      await tx.update('board', id, {
        ...(name !== undefined && { name }),
        ...(change.columns !== undefined && { columns: change.columns }),
      });
      // what would lie beyond its edge comes in
      const { columns } = change;
      if (columns === undefined || columns >= before.columns) return;
      for (const { id: regionId, order } of layout.regions) {
        if (order !== 'free') continue;
        const things = thingsOf(layout, regionId, true);
        const outside = things.filter((t) => t.x > columns - 1);
        const fixed = things.filter((t) => !outside.includes(t));
        await this.lay(tx, things, snap(outside, columns, fixed));
      }
    });
  }

  /** The view opens with it. */
  async putFirst(id: BoardId): Promise<void> {
    const { board } = await this.known(id);
    await this.journal.act({ act: 'first-board', summary: `Put the board “${board.name}” first` }, async (tx) => {
      const [{ first }] = (await tx.manager.query(
        `SELECT coalesce(min(sort), 1) AS first FROM board WHERE removed_at IS NULL AND id <> $1`,
        [id],
      )) as [{ first: number }];
      await tx.update('board', id, { sort: first - 1 });
    });
  }

  /** Into the bin; what lies on it stays in the catalogue. */
  async remove(id: BoardId): Promise<void> {
    const { board } = await this.known(id);
    await this.journal.act({ act: 'remove-board', summary: `Removed the board “${board.name}”` }, (tx) =>
      tx.update('board', id, { removed_at: new Date().toISOString() }),
    );
  }

  async putBack(id: BoardId): Promise<void> {
    const { board } = await this.known(id);
    await this.journal.act({ act: 'put-back-board', summary: `Put back the board “${board.name}”` }, (tx) =>
      tx.update('board', id, { removed_at: null }),
    );
  }

  async addRegion(boardId: BoardId, request: { name: string; order?: RegionOrder }): Promise<string> {
    const { board } = await this.known(boardId);
    const name = named(request.name, 'region');
    const id = randomUUID();
    const summary = `Added the region “${name}” to “${board.name}”`;
    await this.journal.act({ act: 'add-region', summary }, async (tx) => {
      const { layout } = await this.known(boardId, tx);
      const sort = (layout.regions.at(-1)?.sort ?? 0) + 1;
      await tx.insert('region', { id, board_id: boardId, name, sort_by: request.order ?? 'free', sort });
    });
    return id;
  }

  async changeRegion(boardId: BoardId, id: string, change: { name?: string; order?: RegionOrder }): Promise<void> {
    const { board, layout } = await this.known(boardId);
    const region = regionOf(layout, id);
    const name = change.name === undefined ? undefined : named(change.name, 'region');
    const renamed = name !== undefined && name !== region.name;
    const summary = renamed
      ? `Renamed the region “${region.name}” to “${name}”`
      : `Changed the order of “${region.name}” on “${board.name}”`;
    await this.journal.act({ act: 'change-region', summary }, async (tx) => {
      const {
        board: { columns },
        layout: now,
      } = await this.known(boardId, tx);
      const { order: before } = regionOf(now, id);
      const { order } = change;
      await tx.update('region', id, { ...(name !== undefined && { name }), ...(order && { sort_by: order }) });
      if (!order || order === before) return;
      const things = thingsOf(now, id, true);
      // free: all stays where it is shown; own order: in the order in which it is shown
      if (order === 'free' && before !== 'free')
        await this.lay(tx, things, arrange(binLast(sortedBy(things, before)), columns));
      else if (order === 'own')
        await this.sort(tx, before === 'free' ? [...things].sort(downward) : sortedBy(things, before));
    });
  }

  /** Above another region, or below all. */
  async moveRegion(boardId: BoardId, id: string, before: string | null): Promise<void> {
    const { board, layout } = await this.known(boardId);
    const { name } = regionOf(layout, id);
    await this.journal.act({ act: 'move-region', summary: `Moved “${name}” on “${board.name}”` }, async (tx) => {
      const { layout: now } = await this.known(boardId, tx);
      const rest = now.regions.filter((r) => r.id !== id);
      const points = await roomBefore(tx, rest, before ?? undefined, 1, () => 'region');
      await tx.update('region', id, { sort: points[0] });
    });
  }

  async removeRegion(boardId: BoardId, id: string): Promise<void> {
    const { board, layout } = await this.known(boardId);
    const { name } = regionOf(layout, id);
    if (layout.regions.length === 1)
      throw new Refusal('conflict', `“${name}” is the only region of “${board.name}”.`, {
        remedy: 'Remove the board, or add another region first.',
      });
    await this.journal.act(
      { act: 'remove-region', summary: `Removed the region “${name}” from “${board.name}”` },
      async (tx) => {
        const { layout: now } = await this.known(boardId, tx);
        for (const item of now.items) if (item.regionId === id) await tx.remove('board_item', item.id);
        for (const bundle of now.bundles) if (bundle.regionId === id) await tx.remove('bundle', bundle.id);
        await tx.remove('region', id);
      },
    );
  }

  /** In rows, once; a region that keeps itself sorted is so already. */
  async arrangeRegion(boardId: BoardId, id: string, by: Exclude<RegionOrder, 'free'>): Promise<void> {
    const { board, layout } = await this.known(boardId);
    const { name } = regionOf(layout, id);
    await this.journal.act(
      { act: 'arrange-region', summary: `Arranged “${name}” on “${board.name}” by ${by}` },
      async (tx) => {
        const {
          board: { columns },
          layout: now,
        } = await this.known(boardId, tx);
        const region = regionOf(now, id);
        if (region.order !== 'free' && region.order !== 'own')
          throw new Refusal('conflict', `“${name}” keeps itself sorted by ${region.order}.`);
        const shown = binLast(sortedBy(thingsOf(now, id, true), by));
        if (region.order === 'free') await this.lay(tx, shown, arrange(shown, columns));
        else await this.sort(tx, shown);
      },
    );
  }

  /**
   * Lays shortcuts on a board, or those that lie on it already elsewhere: in a free region into the nearest free cells
   * (several keep how they lie to each other), in own order before an item, into a bundle. Returns how many came new.
   */
  async put(boardId: BoardId, request: Laid): Promise<number> {
    const { board } = await this.known(boardId);
    const { ids, made } = await this.shortcuts.gather(request.targets ?? []);
    const shortcutIds = [...new Set([...(request.shortcutIds ?? []), ...ids])];
    if (shortcutIds.length === 0) return 0;
    let fresh = 0;
    let name = '';
    const what = () => (shortcutIds.length === 1 ? `“${name}”` : `${shortcutIds.length} things`);
    const summary = () => (fresh > 0 ? `Put ${what()} on “${board.name}”` : `Moved ${what()} on “${board.name}”`);
    await this.journal.act({ act: 'put-on-board', summary }, async (tx) => {
      const {
        board: { columns },
        layout,
      } = await this.known(boardId, tx);
      await this.shortcuts.insertAll(tx, made);
      const region = request.regionId ? regionOf(layout, request.regionId) : layout.regions[0]!;
      const bundle = request.bundleId ? bundleOf(layout, request.bundleId) : undefined;
      const lying = new Map(layout.items.map((i) => [i.shortcutId, i]));
      const coming: Coming[] = [];
      for (const shortcutId of shortcutIds) {
        const there = lying.get(shortcutId);
        name = there?.name ?? name;
        if (!there) {
          const row = await tx.need('shortcut', shortcutId, 'One of these shortcuts');
          name = row.name;
          if (row.removed_at) throw new Refusal('conflict', `“${name}” is in the bin; put it back first.`);
          fresh++;
        }
        coming.push({ id: there?.id ?? randomUUID(), shortcutId, item: there });
      }
      const into = bundle?.regionId ?? region.id;
      const moving = new Set(coming.map((c) => c.id));
      const rest = thingsOf(layout, into, true).filter((t) => !moving.has(t.id));
      const spots = bundle ? undefined : this.spotsFor(coming, rest, region, request, columns);
      const inOrder = [...rest].sort((a, b) => a.sort - b.sort);
      const points = await roomBefore(tx, inOrder, request.before, coming.length, tableOf);
      for (const [i, { id, shortcutId, item }] of coming.entries()) {
        // what never lay in the region is to lie beside its bundle when that is undone
        const beside = item?.regionId === into ? undefined : { x: bundle?.x ?? 0, y: bundle?.y ?? 0 };
        const place = {
          region_id: into,
          bundle_id: bundle?.id ?? null,
          sort: points[i]!,
          ...(spots?.get(id) ?? beside),
        };
        if (item) await tx.update('board_item', id, place);
        else await tx.insert('board_item', { id, board_id: boardId, shortcut_id: shortcutId, x: 0, y: 0, ...place });
      }
      await this.dropEmptyBundles(tx, boardId);
      if (bundle) await this.makeRoomFor(tx, new Set([bundle.id]));
    });
    if (made.length > 0) this.shortcuts.inserted();
    return fresh;
  }

  /** Where what comes is to lie in a free region; nothing in all others, where the order says so. */
  private spotsFor(
    coming: readonly Coming[],
    rest: readonly Thing[],
    region: RegionRow,
    where: Where,
    columns: number,
  ): Map<string, Spot> | undefined {
    if (region.order !== 'free') return undefined;
    if (where.x === undefined || where.y === undefined)
      return new Map(firstFree(coming.length, columns, rest).map((spot, i) => [coming[i]!.id, spot]));
    const [first] = coming;
    const together = coming.every((c) => c.item && !c.item.bundleId && c.item.regionId === first!.item?.regionId);
    const wanted: Lying[] = coming.map(({ id, item }, i) => {
      // what lay together keeps how it lay to the one that is held; all else comes in rows from there
      const by = together
        ? { x: item!.x - first!.item!.x, y: item!.y - first!.item!.y }
        : rowsFrom(where.x!, i, columns);
      return { id, height: 1, x: Math.max(0, where.x! + by.x), y: Math.max(0, where.y! + by.y) };
    });
    if (!where.exact) return snap(wanted, columns, rest);
    const lying: Lying[] = [...rest];
    const spots = new Map<string, Spot>();
    for (const thing of wanted) {
      const spot = freeSpot(thing, columns, lying);
      lying.push({ ...thing, ...spot });
      spots.set(thing.id, spot);
    }
    return spots;
  }

  /** Takes items off a board; the shortcuts stay in the catalogue. */
  async takeOff(boardId: BoardId, itemIds: readonly BoardItemId[]): Promise<void> {
    const { board, layout } = await this.known(boardId);
    const found = layout.items.filter((i) => itemIds.includes(i.id));
    if (found.length === 0) throw new Refusal('not-found', `That is not on “${board.name}” any more.`);
    const what = found.length === 1 ? `“${found[0]!.name}”` : `${found.length} things`;
    await this.journal.act({ act: 'take-off-board', summary: `Removed ${what} from “${board.name}”` }, async (tx) => {
      await this.known(boardId, tx);
      for (const { id } of found) await tx.remove('board_item', id);
      await this.dropEmptyBundles(tx, boardId);
    });
  }

  /** Everything in its free regions into whole cells, with the least movement. Returns how many moved. */
  async tidy(boardId: BoardId): Promise<number> {
    const { board } = await this.known(boardId);
    let moved = 0;
    const summary = () => `Tidied “${board.name}”: ${moved} moved`;
    await this.journal.act({ act: 'tidy-board', summary }, async (tx) => {
      const {
        board: { columns },
        layout,
      } = await this.known(boardId, tx);
      for (const region of layout.regions) {
        if (region.order !== 'free') continue;
        const things = thingsOf(layout, region.id, true);
        moved += await this.lay(tx, things, snap(things, columns));
      }
    });
    return moved;
  }

  /** Some items of one region under one bracket, or into a bundle for each kind of which there are two and more. */
  async gather(
    boardId: BoardId,
    request: { itemIds?: BoardItemId[]; name?: string; regionId?: RegionId },
  ): Promise<number> {
    const { board } = await this.known(boardId);
    let made = 0;
    const summary = () =>
      request.itemIds
        ? `Bundled ${request.itemIds.length} things on “${board.name}”`
        : `Bundled “${board.name}” by kind: ${made} ${made === 1 ? 'bundle' : 'bundles'}`;
    await this.journal.act({ act: 'gather-on-board', summary }, async (tx) => {
      const {
        board: { columns },
        layout,
      } = await this.known(boardId, tx);
      for (const group of request.itemIds
        ? [chosen(layout, request.itemIds, request.name)]
        : byKind(layout, request.regionId)) {
        await this.bundle(tx, group, layout, columns);
        made++;
      }
      await this.dropEmptyBundles(tx, boardId);
    });
    return made;
  }

  /** One bundle: near the middle of its things, in a cell where nothing else lies. They keep where they lay. */
  private async bundle(tx: ActTx, group: Group, layout: BoardLayoutRows, columns: number): Promise<void> {
    const id = randomUUID();
    const { items, name, regionId } = group;
    const mean = (of: (i: ItemRow) => number) => items.reduce((sum, i) => sum + of(i), 0) / items.length;
    const wanted = { id, x: mean((i) => i.x), y: mean((i) => i.y), height: bundleHeight(items.length) };
    const others = thingsOf(layout, regionId, true).filter((t) => !t.item || !items.includes(t.item));
    const spot = snap([wanted], columns, others).get(id)!;
    const view: BundleView = { id, regionId, name, sort: Math.min(...items.map((i) => i.sort)), ...spot };
    await tx.insert('bundle', { id, region_id: regionId, name, sort: view.sort, ...spot });
    for (const item of items) await tx.update('board_item', item.id, { bundle_id: id });
    // the next one sees this one
    layout.bundles.push(view);
    for (const item of items) item.bundleId = id;
  }

  async changeBundle(
    boardId: BoardId,
    id: string,
    change: { name?: string } & Pick<Where, 'x' | 'y' | 'exact' | 'regionId'>,
  ): Promise<void> {
    const { board, layout } = await this.known(boardId);
    const bundle = bundleOf(layout, id);
    const name = change.name === undefined ? undefined : named(change.name, 'bundle');
    const summary =
      name !== undefined && name !== bundle.name
        ? `Renamed the bundle “${bundle.name}” to “${name}”`
        : `Moved the bundle “${bundle.name}” on “${board.name}”`;
    await this.journal.act({ act: 'change-bundle', summary }, async (tx) => {
      const {
        board: { columns },
        layout: now,
      } = await this.known(boardId, tx);
      const patch: Patch<'bundle'> = name === undefined ? {} : { name };
      const region = regionOf(now, change.regionId ?? bundle.regionId);
      if (region.order === 'free' && (change.x !== undefined || region.id !== bundle.regionId)) {
        const own = thingsOf(now, bundle.regionId, true).find((t) => t.id === id)!;
        const others = thingsOf(now, region.id, true).filter((t) => t.id !== id);
        const wanted = { id, height: own.height, x: change.x ?? own.x, y: change.y ?? own.y };
        const spot = change.exact ? freeSpot(wanted, columns, others) : snap([wanted], columns, others).get(id)!;
        Object.assign(patch, spot);
      }
      if (region.id !== bundle.regionId) {
        patch.region_id = region.id;
        for (const item of now.items)
          if (item.bundleId === id) await tx.update('board_item', item.id, { region_id: region.id });
      }
      await tx.update('bundle', id, patch);
    });
  }

  /** Its things lie again exactly where they lay; only what is in their way moves aside. */
  async ungather(boardId: BoardId, id: string): Promise<void> {
    const { board, layout } = await this.known(boardId);
    const { name } = bundleOf(layout, id);
    await this.journal.act(
      { act: 'ungather', summary: `Undid the bundle “${name}” on “${board.name}”` },
      async (tx) => {
        const {
          board: { columns },
          layout: now,
        } = await this.known(boardId, tx);
        const bundle = bundleOf(now, id);
        const items = now.items.filter((i) => i.bundleId === id);
        for (const item of items) await tx.update('board_item', item.id, { bundle_id: null });
        await tx.remove('bundle', id);
        if (regionOf(now, bundle.regionId).order !== 'free') return;
        const others = thingsOf(now, bundle.regionId, true).filter((t) => t.id !== id);
        await this.comeBack(
          tx,
          items.map((i) => ({ ...i, height: 1 })),
          others,
          columns,
        );
      },
    );
  }

  /** `back` to their own spots; of those that share one, the later finds another near. Others move out of the way. */
  private async comeBack(tx: ActTx, back: readonly Lying[], others: readonly Thing[], columns: number): Promise<void> {
    const lying: Lying[] = [];
    for (const thing of back) {
      const spot = freeSpot(thing, columns, lying);
      if (spot.x !== thing.x || spot.y !== thing.y) await tx.update('board_item', thing.id, { x: spot.x, y: spot.y });
      lying.push({ ...thing, ...spot });
    }
    await this.lay(tx, others, makeRoom(lying, others, columns));
  }

  /** What lies where these came back, or where a bundle grew, moves aside. */
  private async makeRoomFor(tx: ActTx, back: ReadonlySet<string>): Promise<void> {
    const boards = (await tx.manager.query(
      `SELECT DISTINCT r.board_id::text AS id FROM region r WHERE r.id IN
         (SELECT region_id FROM board_item WHERE id = ANY($1) UNION SELECT region_id FROM bundle WHERE id = ANY($1))`,
      [[...back]],
    )) as { id: string }[];
    for (const { id } of boards) {
      const {
        board: { columns },
        layout,
      } = await this.known(id, tx);
      for (const region of layout.regions) {
        if (region.order !== 'free') continue;
        const things = thingsOf(layout, region.id, true);
        if (overlaps(things).length === 0) continue;
        const coming = things.filter((t) => back.has(t.id));
        const stays = overlaps(coming).length === 0;
        const others = stays ? things.filter((t) => !back.has(t.id)) : things;
        await this.lay(tx, things, stays ? makeRoom(coming, others, columns) : snap(things, columns));
      }
    }
  }

  /** Writes the spots of those that move; how many did. */
  private async lay(tx: ActTx, things: readonly Thing[], spots: ReadonlyMap<string, Spot>): Promise<number> {
    let moved = 0;
    for (const thing of things) {
      const spot = spots.get(thing.id);
      if (!spot || (spot.x === thing.x && spot.y === thing.y)) continue;
      await tx.update(tableOf(thing), thing.id, { x: spot.x, y: spot.y });
      moved++;
    }
    return moved;
  }

  private async sort(tx: ActTx, things: readonly Thing[]): Promise<void> {
    for (const [i, thing] of things.entries()) await tx.update(tableOf(thing), thing.id, { sort: i + 1 });
  }

  /** A bundle that holds nothing any more, not even in the bin, is none. */
  private async dropEmptyBundles(tx: ActTx, boardId: BoardId): Promise<void> {
    const empty = (await tx.manager.query(
      `SELECT b.id::text FROM bundle b JOIN region r ON r.id = b.region_id
       WHERE r.board_id = $1 AND NOT EXISTS (SELECT 1 FROM board_item i WHERE i.bundle_id = b.id)`,
      [boardId],
    )) as { id: string }[];
    for (const { id } of empty) await tx.remove('bundle', id);
  }
}

interface Coming {
  id: string;
  shortcutId: ShortcutId;
  item: ItemRow | undefined;
}
