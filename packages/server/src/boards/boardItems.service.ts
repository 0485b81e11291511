/** What lies on boards: put there, moved, tidied, bundled, taken off. No act here touches a shortcut or an original. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { bundleHeight, firstFree, freeSpot, snap, type Lying, type Spot } from '@rellin/core/board';
import type { BoardId, BoardItemId, BundlePatch, BundleView, Laid, NewBundle, ShortcutId } from '@rellin/contract';
import { roomBefore } from '../collections/room.js';
import type { ActTx, Patch } from '../journal/actTx.js';
import type { ChangeContext, WithinAct } from '../journal/journal.service.js';
import type { RowChange } from '../journal/rowChange.js';
import { named } from '../problems/named.js';
import { Refusal } from '../problems/refusal.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import { BoardActs, type BoardInAct } from './boardActs.service.js';
import { BoardsRepository, thingsOf, type ItemRow, type RegionRow, type Thing } from './boards.repository.js';
import { bundleOf, byKind, chosen, regionOf, rowsFrom, tableOf, type Group } from './layoutRows.js';

/** What is to lie on a board, new to it or there already. */
interface Coming {
  id: string;
  shortcutId: ShortcutId;
  item: ItemRow | undefined;
}

@Injectable()
export class BoardItemsService implements WithinAct {
  constructor(
    private readonly repository: BoardsRepository,
    private readonly acts: BoardActs,
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
    if (back.size > 0) await this.acts.makeRoomFor(tx, back);
  }

  /**
   * Lays shortcuts on a board, or those that lie on it already elsewhere: in a free region into the nearest free cells
   * (several keep how they lie to each other), in own order before an item, into a bundle. Returns how many came new.
   */
  async put(boardId: BoardId, request: Laid): Promise<number> {
    const { ids, made } = await this.shortcuts.gather(request.targets ?? []);
    const shortcutIds = [...new Set([...(request.shortcutIds ?? []), ...ids])];
    if (shortcutIds.length === 0) return 0;
    let fresh = 0;
    let name = '';
    const what = () => (shortcutIds.length === 1 ? `“${name}”` : `${shortcutIds.length} things`);
    await this.acts.act(
      boardId,
      ({ board }) => ({
        act: 'put-on-board',
        summary: () => (fresh > 0 ? `Put ${what()} on “${board.name}”` : `Moved ${what()} on “${board.name}”`),
      }),
      async (now) => {
        await this.shortcuts.insertAll(now.tx, made);
        const coming = await this.coming(now, shortcutIds);
        fresh = coming.filter((c) => !c.item).length;
        name = coming.at(-1)!.name;
        await this.place(now, coming, request);
      },
    );
    if (made.length > 0) this.shortcuts.inserted();
    return fresh;
  }

  /** What is to be put, with what of it lies on the board already. */
  private async coming(
    { tx, layout }: BoardInAct,
    shortcutIds: readonly ShortcutId[],
  ): Promise<(Coming & { name: string })[]> {
    const lying = new Map(layout.items.map((i) => [i.shortcutId, i]));
    const out: (Coming & { name: string })[] = [];
    for (const shortcutId of shortcutIds) {
      const item = lying.get(shortcutId);
      const row = item ?? (await tx.need('shortcut', shortcutId, 'One of these shortcuts'));
      if ('removed_at' in row && row.removed_at)
        throw new Refusal('conflict', `“${row.name}” is in the bin; put it back first.`);
      out.push({ id: item?.id ?? randomUUID(), shortcutId, item, name: row.name });
    }
    return out;
  }

  private async place(now: BoardInAct, coming: readonly Coming[], request: Laid): Promise<void> {
    const { tx, board, layout, columns } = now;
    const region = request.regionId ? regionOf(layout, request.regionId) : layout.regions[0]!;
    const bundle = request.bundleId ? bundleOf(layout, request.bundleId) : undefined;
    const into = bundle?.regionId ?? region.id;
    const moving = new Set(coming.map((c) => c.id));
    const rest = thingsOf(layout, into, true).filter((t) => !moving.has(t.id));
    const spots = bundle ? undefined : spotsFor(coming, rest, region, request, columns);
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
      else await tx.insert('board_item', { id, board_id: board.id, shortcut_id: shortcutId, x: 0, y: 0, ...place });
    }
    await this.acts.dropEmptyBundles(tx, board.id);
    if (bundle) await this.acts.makeRoomFor(tx, new Set([bundle.id]));
  }

  /** Takes items off a board; the shortcuts stay in the catalogue. */
  async takeOff(boardId: BoardId, itemIds: readonly BoardItemId[]): Promise<void> {
    const of = (items: readonly ItemRow[]) => items.filter((i) => itemIds.includes(i.id));
    await this.acts.act(
      boardId,
      ({ board, layout }) => {
        const found = of(layout.items);
        if (found.length === 0) throw new Refusal('not-found', `That is not on “${board.name}” any more.`);
        const what = found.length === 1 ? `“${found[0]!.name}”` : `${found.length} things`;
        return { act: 'take-off-board', summary: `Removed ${what} from “${board.name}”` };
      },
      async ({ tx, layout }) => {
        for (const { id } of of(layout.items)) await tx.remove('board_item', id);
        await this.acts.dropEmptyBundles(tx, boardId);
      },
    );
  }

  /** Within an act that makes one of several shortcuts: it lies on each board where one of them lay. */
  async handOver(tx: ActTx, kept: ShortcutId, others: readonly ShortcutId[]): Promise<void> {
    const rows = await this.repository.itemsOfShortcuts([kept, ...others], tx.manager);
    const boards = new Set(rows.filter((r) => r.shortcut_id === kept).map((r) => r.board_id));
    for (const row of rows) {
      if (boards.has(row.board_id)) continue;
      boards.add(row.board_id);
      await tx.update('board_item', row.id, { shortcut_id: kept });
    }
  }

  /** Everything in its free regions into whole cells, with the least movement. Returns how many moved. */
  async tidy(boardId: BoardId): Promise<number> {
    let moved = 0;
    await this.acts.act(
      boardId,
      ({ board }) => ({ act: 'tidy-board', summary: () => `Tidied “${board.name}”: ${moved} moved` }),
      async ({ tx, layout, columns }) => {
        for (const region of layout.regions) {
          if (region.order !== 'free') continue;
          const things = thingsOf(layout, region.id, true);
          moved += await this.acts.lay(tx, things, snap(things, columns));
        }
      },
    );
    return moved;
  }

  /** Some items of one region under one bracket, or into a bundle for each kind of which there are two and more. */
  async gather(boardId: BoardId, request: NewBundle): Promise<number> {
    let made = 0;
    await this.acts.act(
      boardId,
      ({ board }) => ({
        act: 'gather-on-board',
        summary: () =>
          request.itemIds
            ? `Bundled ${request.itemIds.length} things on “${board.name}”`
            : `Bundled “${board.name}” by kind: ${made} ${made === 1 ? 'bundle' : 'bundles'}`,
      }),
      async (now) => {
        const groups = request.itemIds
          ? [chosen(now.layout, request.itemIds, request.name)]
          : byKind(now.layout, request.regionId);
        for (const group of groups) await this.bundle(now, group);
        made = groups.length;
        await this.acts.dropEmptyBundles(now.tx, boardId);
      },
    );
    return made;
  }

  /** One bundle: near the middle of its things, in a cell where nothing else lies. They keep where they lay. */
  private async bundle({ tx, layout, columns }: BoardInAct, { items, name, regionId }: Group): Promise<void> {
    const id = randomUUID();
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

  async changeBundle(boardId: BoardId, id: string, change: BundlePatch): Promise<void> {
    const name = change.name === undefined ? undefined : named(change.name, 'bundle');
    await this.acts.act(
      boardId,
      ({ board, layout }) => {
        const was = bundleOf(layout, id).name;
        return {
          act: 'change-bundle',
          summary:
            name !== undefined && name !== was
              ? `Renamed the bundle “${was}” to “${name}”`
              : `Moved the bundle “${was}” on “${board.name}”`,
        };
      },
      async ({ tx, layout, columns }) => {
        const bundle = bundleOf(layout, id);
        const patch: Patch<'bundle'> = name === undefined ? {} : { name };
        const region = regionOf(layout, change.regionId ?? bundle.regionId);
        if (region.order === 'free' && (change.x !== undefined || region.id !== bundle.regionId)) {
          const own = thingsOf(layout, bundle.regionId, true).find((t) => t.id === id)!;
          const others = thingsOf(layout, region.id, true).filter((t) => t.id !== id);
          const wanted = { id, height: own.height, x: change.x ?? own.x, y: change.y ?? own.y };
          const spot = change.exact ? freeSpot(wanted, columns, others) : snap([wanted], columns, others).get(id)!;
          Object.assign(patch, spot);
        }
        if (region.id !== bundle.regionId) {
          patch.region_id = region.id;
          for (const item of layout.items)
            if (item.bundleId === id) await tx.update('board_item', item.id, { region_id: region.id });
        }
        await tx.update('bundle', id, patch);
      },
    );
  }

  /** Its things lie again exactly where they lay; only what is in their way moves aside. */
  async ungather(boardId: BoardId, id: string): Promise<void> {
    await this.acts.act(
      boardId,
      ({ board, layout }) => ({
        act: 'ungather',
        summary: `Undid the bundle “${bundleOf(layout, id).name}” on “${board.name}”`,
      }),
      async (now) => {
        const { tx, layout } = now;
        const bundle = bundleOf(layout, id);
        const items = layout.items.filter((i) => i.bundleId === id);
        for (const item of items) await tx.update('board_item', item.id, { bundle_id: null });
        await tx.remove('bundle', id);
        if (regionOf(layout, bundle.regionId).order !== 'free') return;
        const others = thingsOf(layout, bundle.regionId, true).filter((t) => t.id !== id);
        await this.acts.comeBack(
          now,
          items.map((i) => ({ ...i, height: 1 })),
          others,
        );
      },
    );
  }
}

/** Where what comes is to lie in a free region; nothing in all others, where the order says so. */
function spotsFor(
  coming: readonly Coming[],
  rest: readonly Thing[],
  region: RegionRow,
  where: Laid,
  columns: number,
): Map<string, Spot> | undefined {
  if (region.order !== 'free') return undefined;
  const { x, y } = where;
  if (x === undefined || y === undefined)
    return new Map(firstFree(coming.length, columns, rest).map((spot, i) => [coming[i]!.id, spot]));
  const first = coming[0]!.item;
  const together = coming.every((c) => c.item && !c.item.bundleId && c.item.regionId === first?.regionId);
  const wanted: Lying[] = coming.map(({ id, item }, i) => {
    // what lay together keeps how it lay to the one that is held; all else comes in rows from there
    const by = together ? { x: item!.x - first!.x, y: item!.y - first!.y } : rowsFrom(x, i, columns);
    return { id, height: 1, x: Math.max(0, x + by.x), y: Math.max(0, y + by.y) };
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
