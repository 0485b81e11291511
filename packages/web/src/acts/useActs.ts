/** The acts on an item with everything they need, for menus, rows and cards. */
import { useCallback, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { useQueryClient } from '@tanstack/react-query';
import { usePins } from '../api/queries';
import { useSearchActs } from '../searches/useSearchActs';
import { useGather } from '../collections/useGather';
import { useDesk, type Item, type Within } from '../frame/desk';
import { actForKey, actsFor, type Act, type Means } from './acts';
import { useDo } from './useDo';

export function useActs(route: string): (item: Item, within?: Within) => Act[] {
  const d = useDo();
  const gather = useGather();
  const searches = useSearchActs();
  const pins = usePins().data;
  const { openDialog } = useDesk();
  const navigate = useNavigate();
  const client = useQueryClient();
  const means = useMemo(
    (): Means => ({
      d,
      gather,
      searches,
      pins: pins ?? [],
      openDialog,
      go: (path) => void navigate(path),
      // what is done on boards comes with the first board
      takeOff: ({ board, itemId }, name) =>
        void import('../boards/useBoardActs').then(({ boardActs }) =>
          boardActs(d, client).takeOff(board, [itemId], `“${name}”`),
        ),
      route,
    }),
    [d, gather, searches, pins, openDialog, navigate, client, route],
  );
  return useCallback((item, within) => actsFor(item, means, within), [means]);
}

/** Runs the act a key stands for; false where there is none. */
export function runKey(acts: readonly Act[], key: string): boolean {
  const act = actForKey(acts, key);
  act?.run();
  return act !== undefined;
}
