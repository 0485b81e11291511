/** Acts on boards, each with its notice and undo. */
import { useMemo } from 'react';
import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import type { RegionOrder } from '@rellin/core/board';
import type { BoardView, BundleView, PlaneView, RegionView } from '@rellin/contract';
import { patch, post, remove } from '../api/client';
import { useDo, type Do } from '../desk/useDo';
import { additionsOf, gatheredName } from './useGather';
import type { Gathered } from '../desk/desk';

type Named = Pick<BoardView, 'id' | 'name'>;

/** Where something is to lie on a board. */
export interface LaidWhere {
  regionId?: string;
  x?: number;
  y?: number;
  exact?: boolean;
  before?: string;
  bundleId?: string;
}

export const BOARD_TOPICS = ['boards', 'shortcuts', 'journal', 'plan'];

export function boardActs({ attempt, done, shown, say }: Do, client: QueryClient) {
  /** Shown at once, before all else that changed is read anew. */
  const keep = (plane: PlaneView) => client.setQueryData(['boards', 'plane', plane.board.id], plane);
  return {
    make: (name: string, gathered?: Gathered) =>
      attempt(async () => {
        const made = await post('/boards', { name });
        if (gathered) await post(`/boards/${made.board.id}/items`, additionsOf(gathered));
        await done(`Made the board “${made.board.name}”`, BOARD_TOPICS);
        return made.board;
      }),
    change: (b: Named, change: { name?: string; columns?: number }) =>
      attempt(async () => {
        const now = await patch(`/boards/${b.id}`, change);
        await done(`Changed the board “${now.board.name}”`, BOARD_TOPICS);
        return now;
      }),
    putFirst: (b: Named) =>
      attempt(async () => {
        await post(`/boards/${b.id}/first`);
        await done(`Boards opens with “${b.name}”`, BOARD_TOPICS);
      }),
    remove: (b: Named) =>
      attempt(async () => {
        await remove(`/boards/${b.id}`);
        await done(`Removed the board “${b.name}”. What lay on it is untouched.`, BOARD_TOPICS);
        return true;
      }),
    putBack: (b: Named) =>
      attempt(async () => {
        await post(`/boards/${b.id}/put-back`);
        await done(`Put back the board “${b.name}”`, BOARD_TOPICS);
      }),
    addRegion: (b: Named, name: string, order: RegionOrder) =>
      attempt(async () => {
        await post(`/boards/${b.id}/regions`, { name, order });
        await done(`Added the region “${name}”`, BOARD_TOPICS);
        return true;
      }),
    changeRegion: (b: Named, r: RegionView, change: { name?: string; order?: RegionOrder }) =>
      attempt(async () => {
        await patch(`/boards/${b.id}/regions/${r.id}`, change);
        await done(`Changed the region “${change.name ?? r.name}”`, BOARD_TOPICS);
        return true;
      }),
    moveRegion: (b: Named, r: RegionView, before: string | null) =>
      attempt(async () => {
        await post(`/boards/${b.id}/regions/${r.id}/move`, { before });
        await done(`Moved the region “${r.name}”`, BOARD_TOPICS);
      }),
    removeRegion: (b: Named, r: RegionView, count: number) =>
      attempt(async () => {
        await remove(`/boards/${b.id}/regions/${r.id}`);
        const held =
          count === 0 ? '' : ` Its ${count === 1 ? 'shortcut stays' : `${count} shortcuts stay`} in the catalogue.`;
        await done(`Removed the region “${r.name}”.${held}`, BOARD_TOPICS);
      }),
    arrange: (b: Named, r: RegionView, by: Exclude<RegionOrder, 'free'>) =>
      attempt(async () => {
        await post(`/boards/${b.id}/regions/${r.id}/arrange`, { by });
        await done(`Arranged “${r.name}” by ${by}`, BOARD_TOPICS);
      }),
    /** Lays things on a board; what lies on it already is moved. */
    put: (b: Named, gathered: Gathered, where: LaidWhere, moving = false) =>
      attempt(async () => {
        const { shortcutIds, targets } = additionsOf(gathered);
        const { plane } = await post(`/boards/${b.id}/items`, {
          shortcutIds,
          ...(targets && { targets }),
          ...where,
        });
        keep(plane);
        await shown(`${moving ? 'Moved' : 'Put'} ${gatheredName(gathered)} on “${b.name}”`, BOARD_TOPICS);
        return true;
      }),
    takeOff: (b: Named, itemIds: readonly string[], name: string) =>
      attempt(async () => {
        await post(`/boards/${b.id}/items/take-off`, { itemIds: [...itemIds] });
        await done(
          `Removed ${name} from “${b.name}”. ${itemIds.length === 1 ? 'It stays' : 'They stay'} in the catalogue.`,
          BOARD_TOPICS,
        );
      }),
    tidy: (b: Named) =>
      attempt(async () => {
        const { moved, plane } = await post(`/boards/${b.id}/tidy`);
        if (moved === 0) return say(`“${b.name}” is tidy already`);
        keep(plane);
        await shown(`Tidied “${b.name}”: ${moved} moved`, BOARD_TOPICS);
      }),
    bundleByKind: (b: Named, regionId?: string) =>
      attempt(async () => {
        const { made, plane } = await post(`/boards/${b.id}/bundles`, {
          ...(regionId && { regionId }),
        });
        if (made === 0) return say('No two of one kind lie together');
        keep(plane);
        await shown(`Made ${made} ${made === 1 ? 'bundle' : 'bundles'} by kind`, BOARD_TOPICS);
      }),
    bundle: (b: Named, itemIds: string[], name: string) =>
      attempt(async () => {
        await post(`/boards/${b.id}/bundles`, { itemIds, name });
        await done(`Bundled ${itemIds.length} things as “${name}”`, BOARD_TOPICS);
        return true;
      }),
    changeBundle: (b: Named, bundle: BundleView, change: { name?: string } & LaidWhere) =>
      attempt(async () => {
        keep(await patch(`/boards/${b.id}/bundles/${bundle.id}`, change));
        const what = change.name === undefined ? 'Moved' : 'Renamed';
        await shown(`${what} the bundle “${change.name ?? bundle.name}”`, BOARD_TOPICS);
        return true;
      }),
    ungather: (b: Named, bundle: BundleView) =>
      attempt(async () => {
        keep(await post(`/boards/${b.id}/bundles/${bundle.id}/ungather`));
        await shown(`“${bundle.name}” lies again as it lay`, BOARD_TOPICS);
      }),
  };
}

export type BoardActs = ReturnType<typeof boardActs>;

export function useBoardActs(): BoardActs {
  const d = useDo();
  const client = useQueryClient();
  return useMemo(() => boardActs(d, client), [d, client]);
}
