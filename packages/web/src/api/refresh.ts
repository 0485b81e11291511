import { useEffect } from 'react';
import { hashKey, useQueryClient, type Query, type QueryClient } from '@tanstack/react-query';
import type { Topic } from '@rellin/contract';
import { onChanged, type Held } from './changes';

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
  await client.invalidateQueries({ queryKey: ['shortcuts', 'list'] });
  await client.invalidateQueries({ queryKey: ['shortcuts'], predicate: (q) => q.queryKey[1] !== 'list' && wanted(q) });
}

/** Reads again what the page's own requests changed. */
export function useOwnChanges(): void {
  const client = useQueryClient();
  useEffect(() => onChanged((topics, held) => refresh(client, topics, held)), [client]);
}
