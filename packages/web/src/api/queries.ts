/** What the page reads, under keys that begin with the topic the server names when it changes. */
import { useQueries, useQuery } from '@tanstack/react-query';
import type { OriginalId, OriginalRef, OriginalView, PlaceId } from '@rellin/contract';
import { get, post } from './client';

export const useSession = () => useQuery({ queryKey: ['session'], queryFn: () => get('/session') });
export const useBrowsers = () =>
  useQuery({ queryKey: ['session', 'browsers'], queryFn: () => get('/session/browsers') });
export const useShortcuts = () =>
  useQuery({
    queryKey: ['shortcuts', 'list'],
    queryFn: ({ signal }) => get('/shortcuts', {}, signal),
  });
export const useBin = () =>
  useQuery({ queryKey: ['shortcuts', 'bin'], queryFn: () => get('/shortcuts', { from: 'bin' }) });
/** What lies in the bins of the disk. Other programs put things there as well, and tell nobody. */
export const useDeleted = () =>
  useQuery({ queryKey: ['deleted'], queryFn: () => get('/bin/originals'), refetchOnWindowFocus: 'always' });
/** All about one shortcut; one that is not in the catalogue any more is not asked for. */
export function useShortcut(id: string | undefined) {
  const all = useShortcuts().data;
  return useQuery({
    queryKey: ['shortcuts', 'detail', id],
    queryFn: () => get(`/shortcuts/${id}`),
    enabled: id !== undefined && (all === undefined || all.some((s) => s.id === id)),
    placeholderData: (previous) => (previous?.id === id ? previous : undefined),
  });
}
export const usePins = () => useQuery({ queryKey: ['pins'], queryFn: () => get('/pins') });
export const usePlaces = () => useQuery({ queryKey: ['places'], queryFn: () => get('/places') });
const originalQuery = (placeId: PlaceId | undefined, id: OriginalId | undefined) => ({
  queryKey: ['originals', 'one', placeId, id],
  queryFn: () => get(`/originals/${placeId}/${id}`),
  retry: false,
});
export const useOriginal = (placeId: PlaceId | undefined, id: OriginalId | undefined) =>
  useQuery({ ...originalQuery(placeId, id), enabled: placeId !== undefined && id !== undefined });
/** Several originals; those that are not there yet, or no longer, are left out. */
export const useOriginals = (refs: readonly OriginalRef[]): OriginalView[] =>
  useQueries({ queries: refs.map((r) => originalQuery(r.placeId, r.originalId)) }).flatMap((q) => q.data ?? []);
export const useStandardFolders = () =>
  useQuery({
    queryKey: ['originals', 'standard-folders'],
    queryFn: () => get('/originals/standard-folders'),
  });
export const usePrograms = () => useQuery({ queryKey: ['programs'], queryFn: () => get('/programs') });
export const useSuited = (mime: string | undefined) =>
  useQuery({
    queryKey: ['programs', 'suited', mime],
    queryFn: () => get('/programs/suited', { mime: mime! }),
    enabled: mime !== undefined,
  });
export const useJournal = (limit = 200) =>
  useQuery({ queryKey: ['journal', limit], queryFn: () => get('/journal', { limit }) });
export const useActivity = () => useQuery({ queryKey: ['activity'], queryFn: () => get('/activity') });
export const useSettings = (enabled = true) =>
  useQuery({ queryKey: ['settings'], queryFn: () => get('/settings'), staleTime: 60_000, enabled });
export const useRecent = () =>
  useQuery({ queryKey: ['openings', 'recent'], queryFn: () => get('/openings', { limit: 30 }) });
export const usePlanCharts = () => useQuery({ queryKey: ['plan', 'charts'], queryFn: () => get('/plan/charts') });
export const usePlan = () => useQuery({ queryKey: ['plan'], queryFn: () => get('/plan') });
export const useUsageSummary = () =>
  useQuery({ queryKey: ['openings', 'summary'], queryFn: () => get('/openings/summary') });
export const useLikely = () =>
  useQuery({
    queryKey: ['openings', 'likely'],
    queryFn: () => get('/reach/likely'),
    refetchInterval: 15 * 60_000,
  });
export const useCollections = () => useQuery({ queryKey: ['collections', 'list'], queryFn: () => get('/collections') });
export const useCollectionsBin = () =>
  useQuery({ queryKey: ['collections', 'bin'], queryFn: () => get('/collections', { from: 'bin' }) });
export const useBoards = () => useQuery({ queryKey: ['boards', 'list'], queryFn: () => get('/boards') });
export const useBoardsBin = () =>
  useQuery({ queryKey: ['boards', 'bin'], queryFn: () => get('/boards', { from: 'bin' }) });
export const useBoardLayout = (id: string | undefined) =>
  useQuery({
    queryKey: ['boards', 'layout', id],
    queryFn: () => get(`/boards/${id}`),
    enabled: id !== undefined,
  });
export const useMembers = (id: string | undefined) =>
  useQuery({
    queryKey: ['collections', 'members', id],
    queryFn: () => get(`/collections/${id}/members`),
    enabled: id !== undefined,
  });
export const useQuickFilters = () => useQuery({ queryKey: ['quick-filters'], queryFn: () => get('/quick-filters') });
export const useSearches = () => useQuery({ queryKey: ['searches', 'list'], queryFn: () => get('/searches') });
export const useSearchesBin = () =>
  useQuery({ queryKey: ['searches', 'bin'], queryFn: () => get('/searches', { from: 'bin' }) });
/** Kept sweeps, with what has gathered for each. */
export const useSweeps = () => useQuery({ queryKey: ['sweeps', 'list'], queryFn: () => get('/sweeps') });
/** Where these most likely belong together; nothing is asked of none. */
export const useBelongs = (originals: readonly OriginalRef[]) =>
  useQuery({
    queryKey: ['belongs', originals],
    queryFn: () => post('/belongs', { originals: [...originals] }),
    enabled: originals.length > 0,
    retry: false,
  });
export const useCheckUp = () => useQuery({ queryKey: ['check-up', 'view'], queryFn: () => get('/check-up') });
export const useReview = () => useQuery({ queryKey: ['check-up', 'review'], queryFn: () => get('/check-up/review') });
export const useTags = () => useQuery({ queryKey: ['tags', 'list'], queryFn: () => get('/tags') });
export const useTagged = (id: string | undefined) =>
  useQuery({
    queryKey: ['tags', 'bearers', id],
    queryFn: () => get(`/tags/${id}/bearers`),
    enabled: id !== undefined,
  });
/** `where` narrows by a condition in the language of saved searches. */
export const useFind = (query: string, where = '') =>
  useQuery({
    queryKey: ['find', query, where],
    queryFn: ({ signal }) => get('/find', { q: query, where: where || undefined }, signal),
    enabled: query.trim() !== '' || where !== '',
    placeholderData: (previous) => previous,
    staleTime: 5_000,
  });
