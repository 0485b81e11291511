/** Acts on saved searches, each with its notice and undo. */
import { useMemo } from 'react';
import type { CollectionId, SearchView, TagId } from '@rellin/contract';
import { patch, post, remove } from '../api/client';
import { useCommands } from '../workspace/useCommands';

export type SearchForm = Partial<
  Pick<
    SearchView,
    'name' | 'description' | 'query' | 'places' | 'showAs' | 'sortBy' | 'descending' | 'most' | 'colour' | 'muted'
  >
>;

/** Where a new one is put in the same act. */
interface SearchPlacing {
  tagIds?: TagId[];
  collectionId?: CollectionId;
  /** On the strip; without it the search is not pinned. */
  slot?: number;
}

export function useSearchActs() {
  const d = useCommands();
  return useMemo(() => {
    const { attempt, done } = d;
    return {
      save: (form: SearchForm & SearchPlacing) =>
        attempt(async () => {
          const made = await post('/searches', form);
          await done(`Saved the search “${made.name}”`);
          return made;
        }),
      change: (search: Pick<SearchView, 'id' | 'name'>, form: SearchForm) =>
        attempt(async () => {
          const now = await patch(`/searches/${search.id}`, form);
          await done(`Changed “${now.name}”`);
          return now;
        }),
      remove: (search: SearchView) =>
        attempt(async () => {
          await remove(`/searches/${search.id}`);
          await done(`Removed the saved search “${search.name}”. What it found is untouched.`);
        }),
      putBack: (search: SearchView) =>
        attempt(async () => {
          await post(`/searches/${search.id}/put-back`);
          await done(`Put back “${search.name}”`);
        }),
      /** What came and went is seen. */
      markSeen: (search: Pick<SearchView, 'id' | 'name'>) =>
        attempt(async () => {
          await post(`/searches/${search.id}/mark-seen`);
          d.say(`Marked as seen what changed in “${search.name}”`);
        }),
    };
  }, [d]);
}

export type SearchActs = ReturnType<typeof useSearchActs>;
