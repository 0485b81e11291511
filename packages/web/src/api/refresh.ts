import { useEffect } from 'react';
import { hashKey, useQueryClient, type Query, type QueryClient } from '@tanstack/react-query';
import type { ShortcutView, Topic } from '@rellin/contract';
import { onChanged, type Held } from './changes';

const SHORTCUTS = ['shortcuts', 'list'] as const;

/** What is read under other keys than its topic's, and shows it all the same. */
const ALSO: Partial<Record<Topic, readonly string[]>> = {
  originals: ['searches', 'answers'],
  shortcuts: ['find'],
  collections: ['find'],
  searches: ['find'],
  tags: ['find'],
};

/**
 * Reads again what changed, as far as it is shown; the rest when it is shown next. The list of shortcuts comes before
 * what is known of single ones, so that one that is gone is not asked for once more. What an answer held is not asked
 * for.
 */
export async function refresh(client: QueryClient, topics: readonly Topic[], held?: Held): Promise<void> {
  if (held) client.setQueryData(held.key, held.data);
  const known = held && hashKey(held.key);
  const wanted = (query: Query) => query.queryHash !== known;
  const keys = topics.flatMap((topic) => [
    ...(topic === 'shortcuts' ? [] : [[topic]]),
    ...(ALSO[topic] ? [ALSO[topic]] : []),
  ]);
  const read = keys.map((queryKey) => client.invalidateQueries({ queryKey, predicate: wanted }));
  if (topics.includes('shortcuts')) read.push(shortcuts(client, wanted));
  await Promise.all(read);
}

async function shortcuts(client: QueryClient, wanted: (query: Query) => boolean): Promise<void> {
  await client.invalidateQueries({ queryKey: SHORTCUTS });
  // what shows a single one hears only with the next drawing that it is gone
  const there = client.getQueryData<ShortcutView[]>(SHORTCUTS);
  const isGone = ([, part, id]: readonly unknown[]) =>
    part === 'detail' && there !== undefined && !there.some((s) => s.id === id);
  await client.invalidateQueries({
    queryKey: ['shortcuts'],
    predicate: (q) => q.queryKey[1] !== 'list' && !isGone(q.queryKey) && wanted(q),
  });
}

/** Reads again what the page's own requests changed. */
export function useOwnChanges(): void {
  const client = useQueryClient();
  useEffect(() => onChanged((topics, held) => refresh(client, topics, held)), [client]);
}
