/** A folder of any size, read in pages as they come into sight. */
import { useCallback, useMemo, useState } from 'react';
import { keepPreviousData, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import type { EntrySort, EntryView, FolderQuery, OriginalId, PlaceId } from '@rellin/contract';
import { get } from '../api/client';

export const PAGE = 200;
/** What was read to be chosen is there for the acts on it. */
const KEPT_MS = 3_600_000;

export function usePagedFolder(
  placeId: PlaceId,
  folderId: OriginalId,
  sort: EntrySort,
  order: 'up' | 'down',
  at: OriginalId | undefined,
) {
  const [pages, setPages] = useState<number[]>([]);
  const read = (page: number, more?: FolderQuery) =>
    get(`/originals/${placeId}/folder/${folderId}`, { sort, order, offset: page * PAGE, limit: PAGE, ...more });
  const key = (page: number) => ['originals', 'folder', placeId, folderId, sort, order, page];
  const first = useQuery({
    queryKey: [...key(0), at],
    queryFn: () => read(0, at === undefined ? {} : { at }),
    placeholderData: (previous, query) =>
      query?.queryKey[2] === placeId && query.queryKey[3] === folderId ? keepPreviousData(previous) : undefined,
    retry: 1,
  });
  const more = useQueries({
    queries: pages.filter((p) => p > 0).map((page) => ({ queryKey: key(page), queryFn: () => read(page) })),
    combine: (results) => new Map(results.flatMap((r) => (r.data ? [[r.data.offset / PAGE, r.data] as const] : []))),
  });
  const onRange = useCallback((from: number, to: number) => {
    const wanted: number[] = [];
    for (let page = Math.floor(from / PAGE); page <= Math.floor(to / PAGE); page++) wanted.push(page);
    setPages((now) => (now.join() === wanted.join() ? now : wanted));
  }, []);
  const entry = (index: number): EntryView | undefined => {
    const page = Math.floor(index / PAGE);
    return (page === 0 ? first.data : more.get(page))?.entries[index % PAGE];
  };
  const known = useMemo(
    () => [
      ...(first.data?.entries ?? []),
      ...[...more.entries()].sort(([a], [b]) => a - b).flatMap(([, p]) => p.entries),
    ],
    [first.data, more],
  );
  const client = useQueryClient();
  /** From one row to another, both included; read where they were not. */
  const readRange = async (from: number, to: number): Promise<EntryView[]> => {
    const out: EntryView[] = [];
    for (let page = Math.floor(from / PAGE); page <= Math.floor(to / PAGE); page++) {
      const { entries } = await client.fetchQuery({ queryKey: key(page), queryFn: () => read(page), gcTime: KEPT_MS });
      out.push(...entries.filter((_, i) => page * PAGE + i >= from && page * PAGE + i <= to));
    }
    return out;
  };
  /** `known`: the entries that were read so far, in order. */
  return { first, entry, known, onRange, readRange };
}
