/** Acts on boards, each with its notice and undo. */
import { useMemo } from 'react';
import type { RegionOrder } from '@rellin/core/board';
import type { BoardItemId, BoardView, BundleView, Laid, RegionId, RegionView } from '@rellin/contract';
import { patch, post, remove } from '../api/client';
import { useCommands, type Commands } from '../workspace/useCommands';
import { additionsOf, gatheredName } from './useGather';
import type { Gathered } from '../workspace/workspace';

type Named = Pick<BoardView, 'id' | 'name'>;

/** Where something is to lie on a board. */
type LaidWhere = Omit<Laid, 'shortcutIds' | 'targets'>;

export function boardActs({ attempt, done, shown, say }: Commands) {
  return {
    make: (name: string, gathered?: Gathered) =>
      attempt(async () => {
        const made = await post('/boards', { name });
        if (gathered) await post(`/boards/${made.board.id}/items`, additionsOf(gathered));
        await done(`Made the board “${made.board.name}”`);
        return made.board;
      }),
    change: (b: Named, change: { name?: string; columns?: number }) =>
      attempt(async () => {
        const now = await patch(`/boards/${b.id}`, change);
        await done(`Changed the board “${now.board.name}”`);
        return now;
      }),
    putFirst: (b: Named) =>
      attempt(async () => {
        await post(`/boards/${b.id}/first`);
        await done(`Boards opens with “${b.name}”`);
      }),
    remove: (b: Named) =>
      attempt(async () => {
        await remove(`/boards/${b.id}`);
        await done(`Removed the board “${b.name}”. What lay on it is untouched.`);
        return true;
      }),
    putBack: (b: Named) =>
      attempt(async () => {
        await post(`/boards/${b.id}/put-back`);
        await done(`Put back the board “${b.name}”`);
      }),
    addRegion: (b: Named, name: string, order: RegionOrder) =>
      attempt(async () => {
        await post(`/boards/${b.id}/regions`, { name, order });
        await done(`Added the region “${name}”`);
        return true;
      }),
    changeRegion: (b: Named, r: RegionView, change: { name?: string; order?: RegionOrder }) =>
      attempt(async () => {
        await patch(`/boards/${b.id}/regions/${r.id}`, change);
        await done(`Changed the region “${change.name ?? r.name}”`);
        return true;
      }),
    moveRegion: (b: Named, r: RegionView, before: string | null) =>
      attempt(async () => {
        await post(`/boards/${b.id}/regions/${r.id}/move`, { before });
        await done(`Moved the region “${r.name}”`);
      }),
    removeRegion: (b: Named, r: RegionView, count: number) =>
      attempt(async () => {
        await remove(`/boards/${b.id}/regions/${r.id}`);
        const held =
          count === 0 ? '' : ` Its ${count === 1 ? 'shortcut stays' : `${count} shortcuts stay`} in the catalogue.`;
        await done(`Removed the region “${r.name}”.${held}`);
      }),
    arrange: (b: Named, r: RegionView, by: Exclude<RegionOrder, 'free'>) =>
      attempt(async () => {
        await post(`/boards/${b.id}/regions/${r.id}/arrange`, { by });
        await done(`Arranged “${r.name}” by ${by}`);
      }),
    /** Lays things on a board; what lies on it already is moved. */
    put: (b: Named, gathered: Gathered, where: LaidWhere, moving = false) =>
      attempt(async () => {
        const { shortcutIds, targets } = additionsOf(gathered);
        await post(`/boards/${b.id}/items`, {
          shortcutIds,
          ...(targets && { targets }),
          ...where,
        });
        await shown(`${moving ? 'Moved' : 'Put'} ${gatheredName(gathered)} on “${b.name}”`);
        return true;
      }),
    takeOff: (b: Named, itemIds: readonly BoardItemId[], name: string) =>
      attempt(async () => {
        await post(`/boards/${b.id}/items/take-off`, { itemIds: [...itemIds] });
        await done(
          `Removed ${name} from “${b.name}”. ${itemIds.length === 1 ? 'It stays' : 'They stay'} in the catalogue.`,
        );
      }),
    tidy: (b: Named) =>
      attempt(async () => {
        const { moved } = await post(`/boards/${b.id}/tidy`);
        if (moved === 0) return say(`“${b.name}” is tidy already`);
        await shown(`Tidied “${b.name}”: ${moved} moved`);
      }),
    bundleByKind: (b: Named, regionId?: RegionId) =>
      attempt(async () => {
        const { made } = await post(`/boards/${b.id}/bundles`, {
          ...(regionId && { regionId }),
        });
        if (made === 0) return say('No two of one kind lie together');
        await shown(`Made ${made} ${made === 1 ? 'bundle' : 'bundles'} by kind`);
      }),
    bundle: (b: Named, itemIds: BoardItemId[], name: string) =>
      attempt(async () => {
        await post(`/boards/${b.id}/bundles`, { itemIds, name });
        await done(`Bundled ${itemIds.length} things as “${name}”`);
        return true;
      }),
    changeBundle: (b: Named, bundle: BundleView, change: { name?: string } & LaidWhere) =>
      attempt(async () => {
        await patch(`/boards/${b.id}/bundles/${bundle.id}`, change);
        const what = change.name === undefined ? 'Moved' : 'Renamed';
        await shown(`${what} the bundle “${change.name ?? bundle.name}”`);
        return true;
      }),
    ungather: (b: Named, bundle: BundleView) =>
      attempt(async () => {
        await post(`/boards/${b.id}/bundles/${bundle.id}/ungather`);
        await shown(`“${bundle.name}” lies again as it lay`);
      }),
  };
}

export type BoardActs = ReturnType<typeof boardActs>;

export function useBoardActs(): BoardActs {
  const d = useCommands();
  return useMemo(() => boardActs(d), [d]);
}
