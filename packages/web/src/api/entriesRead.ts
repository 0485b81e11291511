/** What lists of folders hold just now. */
import type { QueryClient } from '@tanstack/react-query';
import type { EntryView, FolderView } from '@rellin/contract';

/** The originals that were read for lists of folders, each once. */
export function entriesRead(client: QueryClient): EntryView[] {
  const pages = client.getQueriesData<FolderView>({ queryKey: ['originals', 'folder'] });
  const all = pages.flatMap(([, page]) => page?.entries ?? []);
  return [...new Map(all.map((e) => [`${e.placeId}/${e.id}`, e])).values()];
}
