/** Acts on collections and tags, each with its notice and undo. */
import { useMemo } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import type { CollectionChange, CollectionView, MemberId, MembersView, NewCollection, TagView } from '@rellin/contract';
import { patch, post, remove } from '../api/client';
import { useCommands } from '../workspace/useCommands';
import type { Gathered } from '../workspace/workspace';

/** What the server is told of things to be put somewhere. */
export function additionsOf(g: Gathered) {
  const targets = [
    ...(g.originals ?? []).map(({ placeId, originalId }) => ({ placeId, originalId })),
    ...(g.programs ?? []).map(({ programId }) => ({ programId })),
  ];
  return {
    shortcutIds: g.shortcuts.map((s) => s.id),
    ...(g.collections && { collectionIds: g.collections.map((c) => c.id) }),
    ...(g.searches && { searchIds: g.searches.map((s) => s.id) }),
    ...(targets.length > 0 && { targets }),
  };
}

export function gatheredCount(g: Gathered): number {
  return (
    g.shortcuts.length +
    (g.originals?.length ?? 0) +
    (g.programs?.length ?? 0) +
    (g.collections?.length ?? 0) +
    (g.searches?.length ?? 0)
  );
}

/** "“Tide table”" for one, "3 things" for more. */
export function gatheredName(g: Gathered): string {
  const all = [
    ...g.shortcuts,
    ...(g.originals ?? []),
    ...(g.programs ?? []),
    ...(g.collections ?? []),
    ...(g.searches ?? []),
  ];
  return all.length === 1 ? `“${all[0]!.name}”` : `${all.length} things`;
}

export function useGather() {
  const d = useCommands();
  const client = useQueryClient();
  return useMemo(() => {
    const { attempt, done } = d;
    return {
      make: (request: NewCollection) =>
        attempt(async () => {
          const made = await post('/collections', request);
          await done(`Made the collection “${made.name}”`);
          return made;
        }),
      change: (c: CollectionView, change: CollectionChange) =>
        attempt(async () => {
          const now = await patch(`/collections/${c.id}`, { ...change, revision: c.revision });
          await done(`Changed “${now.name}”`);
          return now;
        }),
      removeCollection: (c: CollectionView) =>
        attempt(async () => {
          await remove(`/collections/${c.id}`);
          await done(`Removed the collection “${c.name}”. What it held is untouched.`);
        }),
      putBack: (c: CollectionView) =>
        attempt(async () => {
          await post(`/collections/${c.id}/put-back`);
          await done(`Put back “${c.name}”`);
        }),
      addTo: (c: Pick<CollectionView, 'id' | 'name'>, gathered: Gathered, before?: string) =>
        attempt(async () => {
          const { added } = await post(`/collections/${c.id}/members`, {
            ...additionsOf(gathered),
            ...(before && { before }),
          });
          const what = gatheredName(gathered);
          await done(added === 0 ? `${what} is in “${c.name}” already` : `Added ${what} to “${c.name}”`);
          return added;
        }),
      takeOut: (c: CollectionView, memberIds: MemberId[], name: string) =>
        attempt(async () => {
          await post(`/collections/${c.id}/members/remove`, { memberIds });
          await done(`Removed ${name} from “${c.name}”`);
        }),
      /** Shown at once; put back where the server refuses, for example because another window was first. */
      move: (c: CollectionView, memberIds: MemberId[], before: string | null) =>
        attempt(async () => {
          const key = ['collections', 'members', c.id];
          const seen = client.getQueryData<MembersView>(key);
          if (seen) client.setQueryData(key, { ...seen, members: reorderedMembers(seen.members, memberIds, before) });
          try {
            const now = await post(`/collections/${c.id}/members/move`, {
              memberIds,
              before,
              ...(seen && { revision: seen.revision }),
            });
            client.setQueryData(key, now);
          } catch (error) {
            client.setQueryData(key, seen);
            await client.invalidateQueries({ queryKey: ['collections'] });
            throw error;
          }
          await done(`Reordered “${c.name}”`);
        }),
      keepFirst: (c: CollectionView, memberIds: MemberId[], keepFirst: boolean) =>
        attempt(async () => {
          await post(`/collections/${c.id}/members/keep-first`, { memberIds, keepFirst });
          await done(keepFirst ? 'Kept first' : 'No longer kept first');
        }),
      empty: (c: CollectionView) =>
        attempt(async () => {
          const { removed } = await post(`/collections/${c.id}/empty`);
          await done(`Emptied “${c.name}”: ${removed} removed from it; the shortcuts stay`);
        }),
      bringBack: (c: CollectionView) =>
        attempt(async () => {
          const { added } = await post(`/collections/${c.id}/bring-back`);
          await done(`Brought ${added} back into “${c.name}”`);
        }),
      makeTag: (name: string, gathered: Gathered) =>
        attempt(async () => {
          const tag = await post('/tags', { name, ...bearersOf(gathered) });
          await done(`Tagged ${gatheredName(gathered)} “${tag.name}”`);
          return tag;
        }),
      putTag: (tag: TagView, gathered: Gathered) =>
        attempt(async () => {
          await post(`/tags/${tag.id}/put`, bearersOf(gathered));
          await done(`Tagged ${gatheredName(gathered)} “${tag.name}”`);
        }),
      takeTag: (tag: TagView, gathered: Gathered) =>
        attempt(async () => {
          await post(`/tags/${tag.id}/take`, bearersOf(gathered));
          await done(`Removed the tag “${tag.name}” from ${gatheredName(gathered)}`);
        }),
      changeTag: (tag: TagView, change: { name?: string; colour?: string }) =>
        attempt(async () => {
          const now = await patch(`/tags/${tag.id}`, change);
          await done(`Changed the tag “${now.name}”`);
          return now;
        }),
      removeTag: (tag: TagView) =>
        attempt(async () => {
          await remove(`/tags/${tag.id}`);
          await done(`Removed the tag “${tag.name}”`);
        }),
      addGoesWith: (shortcut: { id: string; name: string }, what: { withId?: string; typed?: string }) =>
        attempt(async () => {
          await post(`/shortcuts/${shortcut.id}/goes-with`, what);
          await done(`Goes with “${shortcut.name}” now`);
          return true;
        }),
      removeGoesWith: (shortcut: { id: string; name: string }, companionId: string) =>
        attempt(async () => {
          await remove(`/shortcuts/${shortcut.id}/goes-with/${companionId}`);
          await done(`No longer goes with “${shortcut.name}”`);
        }),
    };
  }, [d, client]);
}

export type Gather = ReturnType<typeof useGather>;

function bearersOf(g: Gathered) {
  return {
    shortcutIds: g.shortcuts.map((s) => s.id),
    ...(g.searches && { searchIds: g.searches.map((s) => s.id) }),
    ...(g.originals && { originals: g.originals.map(({ placeId, originalId }) => ({ placeId, originalId })) }),
  };
}

/** Members with some moved, in their present order, before another or to the end. */
export function reorderedMembers<T extends { id: string }>(
  members: readonly T[],
  moved: readonly string[],
  before: string | null,
): T[] {
  const moving = members.filter((m) => moved.includes(m.id));
  const from = before === null ? members.length : members.findIndex((m) => m.id === before);
  const next = members.slice(from).find((m) => !moving.includes(m));
  const rest = members.filter((m) => !moving.includes(m));
  const at = next === undefined ? rest.length : rest.indexOf(next);
  return [...rest.slice(0, at), ...moving, ...rest.slice(at)];
}
