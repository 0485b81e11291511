/** What lists of folders hold just now. */
import type { QueryClient } from '@tanstack/react-query';
import type { EntryView, FolderView } from '@rellin/contract';

/**
 * The originals of these ids, "PLACE/ORIGINAL"; undefined where one of them is not known to the page any more: then
 * nothing is done, rather than a part of it.
 */
export function entriesRead(client: QueryClient, ids: readonly string[]): EntryView[] | undefined {
  const wanted = new Set(ids);
  const found = new Map<string, EntryView>();
  for (const [, page] of client.getQueriesData<FolderView>({ queryKey: ['originals', 'folder'] }))
    for (const entry of page?.entries ?? []) {
      const id = `${entry.placeId}/${entry.id}`;
      if (wanted.has(id)) found.set(id, entry);
    }
  return found.size === wanted.size ? [...found.values()] : undefined;
}

/** Whether an id is an original's. */
export const isOriginalId = (id: string) => /^\d+\/\d+$/.test(id);
