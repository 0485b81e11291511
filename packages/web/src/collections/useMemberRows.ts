import { useMemo } from 'react';
import type { CollectionView } from '@rellin/contract';
import { useCollections, useMembers, useSearches, useShortcuts } from '../api/queries';
import { memberRows, type MemberRow } from './memberRows';

/** The rows of a collection, `undefined` until they are known. */
export function useMemberRows(collection: CollectionView | undefined): MemberRow[] | undefined {
  const members = useMembers(collection?.type === 'mirror' ? undefined : collection?.id).data?.members;
  const shortcuts = useShortcuts().data;
  const collections = useCollections().data;
  const searches = useSearches().data;
  const shortcutOf = useMemo(() => new Map((shortcuts ?? []).map((s) => [s.id, s])), [shortcuts]);
  const collectionOf = useMemo(() => new Map((collections ?? []).map((c) => [c.id, c])), [collections]);
  const searchOf = useMemo(() => new Map((searches ?? []).map((s) => [s.id, s])), [searches]);
  return useMemo(
    () =>
      members && shortcuts && collection
        ? memberRows(members, shortcutOf, collectionOf, searchOf, collection.sortBy)
        : undefined,
    [members, shortcuts, collection, shortcutOf, collectionOf, searchOf],
  );
}
