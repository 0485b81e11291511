/** Boards as ways to shortcuts: where each lies, and what it is chosen among. */
import { layRegion, pointerWay } from '@rellin/core/board';
import type { OnBoard } from '@rellin/core/reach';
import { thingsOf, type BoardsRepository } from '../boards/boards.repository.js';

/** Shortcut → where it lies on each board that it is on. */
export async function readBoards(repository: BoardsRepository): Promise<Map<string, OnBoard[]>> {
  const out = new Map<string, OnBoard[]>();
  const boards = await repository.list(false);
  const layout = await repository.layout(undefined);
  for (const [at, board] of boards.entries()) {
    const regions = layout.regions.filter((r) => r.boardId === board.id);
    const laid = regions.map(({ id, order }) => {
      const things = thingsOf(layout, id);
      const spots = layRegion(things, order, board.columns);
      return { id, order, lying: things.map((t) => ({ ...t, ...spots.get(t.id)! })) };
    });
    const ways = pointerWay(laid, at === 0);
    const lyingIn = new Map(laid.map((r) => [r.id, r.lying.length]));
    const held = new Map<string, number>();
    const items = layout.items.filter((i) => i.boardId === board.id && !i.removed);
    for (const { bundleId } of items) if (bundleId) held.set(bundleId, (held.get(bundleId) ?? 0) + 1);
    for (const item of items) {
      const on: OnBoard = {
        boards: at === 0 ? 1 : boards.length,
        regions: regions.length,
        members: lyingIn.get(item.regionId)!,
        distance: ways.get(item.bundleId ?? item.id)!,
        bundled: item.bundleId ? held.get(item.bundleId)! : 0,
      };
      const list = out.get(item.shortcutId);
      if (list) list.push(on);
      else out.set(item.shortcutId, [on]);
    }
  }
  return out;
}
