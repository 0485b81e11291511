import type { QueryClient } from '@tanstack/react-query';

/**
 * Reads again what changed. The list of shortcuts comes before what is known of single ones, so that one that is gone is
 * not asked for once more.
 */
export async function refresh(client: QueryClient, topics: readonly string[]): Promise<void> {
  const others = topics.filter((topic) => topic !== 'shortcuts');
  const read = others.map((topic) => client.invalidateQueries({ queryKey: [topic] }));
  if (topics.includes('shortcuts')) read.push(shortcuts(client));
  await Promise.all(read);
}

async function shortcuts(client: QueryClient): Promise<void> {
  await client.invalidateQueries({ queryKey: ['shortcuts', 'list'] });
  await client.invalidateQueries({ queryKey: ['shortcuts'], predicate: (q) => q.queryKey[1] !== 'list' });
}
