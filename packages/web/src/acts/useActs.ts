/** The acts on an item with everything they need, for menus, rows and cards. */
import { useCallback, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { useQueryClient } from '@tanstack/react-query';
import type { BoardLayout, MembersView } from '@rellin/contract';
import { entriesRead, isOriginalId } from '../api/entriesRead';
import { useCollections, usePins, useSearches, useShortcuts } from '../api/queries';
import { useSearchActs } from './useSearchActs';
import { useGather } from './useGather';
import { useSelection, useWorkspaceActions, type Item, type Met, type Within } from '../workspace/workspace';
import { itemId } from '../workspace/dropAct';
import { actForKey, actsFor, type Act, type CommandContext } from './acts';
import { manyActs, type Several } from './manyActs';
import { useCommands } from '../workspace/useCommands';

function useMeans(route: string): CommandContext {
  const d = useCommands();
  const gather = useGather();
  const searches = useSearchActs();
  const pins = usePins().data;
  const { openDialog, choose } = useWorkspaceActions();
  const navigate = useNavigate();
  return useMemo(
    (): CommandContext => ({
      d,
      gather,
      searches,
      pins: pins ?? [],
      openDialog,
      clear: () => choose([]),
      go: (path) => void navigate(path),
      // what is done on boards comes with the first board
      takeOff: (board, itemIds, name) =>
        void import('./useBoardActs').then(({ boardActs }) => boardActs(d).takeOff(board, itemIds, name)),
      route,
    }),
    [d, gather, searches, pins, openDialog, choose, navigate, route],
  );
}

export function useActs(route: string): (item: Item, within?: Within) => Act[] {
  const context = useMeans(route);
  return useCallback((item, within) => actsFor(item, context, within), [context]);
}

/** All that is chosen, as things; `undefined` while that is fewer than two. */
function useSeveral(): (within?: Met) => Several | undefined {
  const { chosen } = useSelection();
  const client = useQueryClient();
  const shortcuts = useShortcuts().data;
  const collections = useCollections().data;
  const searches = useSearches().data;
  return useCallback(
    (within) => {
      if (chosen.length < 2) return undefined;
      const ids = new Set(chosen);
      // a list holds either originals or what is in the catalogue
      const originals = chosen.some(isOriginalId) ? entriesRead(client, chosen) : [];
      if (!originals) return undefined;
      const isChosen = (x: { id: string }) => ids.has(x.id);
      const inIt = (): string[] => {
        if (!within) return [];
        if ('board' in within)
          return (client.getQueryData<BoardLayout>(['boards', 'layout', within.board.id])?.items ?? []).flatMap((i) =>
            ids.has(i.shortcutId) ? [i.id] : [],
          );
        const members = client.getQueryData<MembersView>(['collections', 'members', within.collection.id])?.members;
        return (members ?? []).flatMap((m) => (ids.has(m.itemId) ? [m.id] : []));
      };
      return {
        shortcuts: (shortcuts ?? []).filter(isChosen),
        collections: within ? (collections ?? []).filter(isChosen) : [],
        searches: within ? (searches ?? []).filter(isChosen) : [],
        originals,
        ...(within && { met: { in: within, ids: inIt() } }),
      };
    },
    [chosen, client, shortcuts, collections, searches],
  );
}

export interface RowActs {
  /** What can be done with a row, or with all that is chosen where it is part of that. */
  actsOf(item: Item, within?: Within): Act[];
  /** Runs the act a key stands for; false where there is none. */
  runKey(key: string, item: Item, within?: Within): boolean;
  /** Enter on a row: all that is chosen is opened, or `single` is done. */
  open(item: Item, single: () => void): void;
}

export function useRowActs(route: string): RowActs {
  const context = useMeans(route);
  const several = useSeveral();
  const { chosen } = useSelection();
  return useMemo(() => {
    const many = (item: Item, within?: Within): Act[] | undefined => {
      const all = chosen.includes(itemId(item)) ? several(within) : undefined;
      return all && manyActs(all, context);
    };
    return {
      actsOf: (item, within) => many(item, within) ?? actsFor(item, context, within),
      runKey(key, item, within) {
        const single = actsFor(item, context, within);
        const all = many(item, within);
        if (!all) return runKey(single, key);
        if (runKey(all, key)) return true;
        const act = actForKey(single, key);
        if (act) context.d.say(`“${act.label}” is for one thing; ${chosen.length} are chosen.`);
        return act !== undefined;
      },
      open(item, single) {
        const act = many(item)?.find((a) => a.id === 'open');
        if (act) act.run();
        else single();
      },
    };
  }, [context, several, chosen]);
}

/** The acts on all that is chosen; none while that is fewer than two. */
export function useManyActs(route: string, within?: Met): Act[] {
  const context = useMeans(route);
  const all = useSeveral()(within);
  return all ? manyActs(all, context) : [];
}

/** Runs the act a key stands for; false where there is none. */
export function runKey(acts: readonly Act[], key: string): boolean {
  const act = actForKey(acts, key);
  act?.run();
  return act !== undefined;
}
