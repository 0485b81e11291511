/** What a level of a pin's menu holds: members of a collection, bearers of a tag, entries of a mirrored folder. */
import { useMemo } from 'react';
import { useQuery } from '@tanstack/react-query';
import type { EntryView, OriginalId, PlaceId, ShortcutView } from '@rellin/contract';
import { kindWord, type Kind } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { get } from '../api/client';
import { useCollections, useShortcuts, useTagged } from '../api/queries';
import { useCommands, type Commands } from '../workspace/useCommands';
import { taggedRows } from '../collections/taggedRows';
import { useMemberRows } from '../collections/useMemberRows';
import type { Item } from '../workspace/workspace';
import { STATE_WORDS } from '../parts/Tether';

export type MenuLevel =
  | { kind: 'collection' | 'tag' | 'search'; id: string; name: string }
  | { kind: 'folder'; id: OriginalId; placeId: PlaceId; name: string };

export interface MenuLine {
  id: string;
  name: string;
  kind: Kind;
  /** The state of a shortcut, for its colour. */
  state: string;
  note: string;
  item: Item | undefined;
  /** What opens in place of this level. */
  inside?: MenuLevel;
  run(): void;
}

const MOST_ENTRIES = 200;

function ofShortcut(s: ShortcutView, d: Commands): MenuLine {
  return {
    id: s.id,
    name: s.name,
    kind: s.kind,
    state: s.state,
    note:
      s.state === 'ready' || s.state === 'followed' || s.state === 'saved-over'
        ? kindWord(s.kind)
        : STATE_WORDS[s.state].toLowerCase(),
    item: { type: 'shortcut', shortcut: s },
    run: () => void d.open({ shortcutId: s.id, route: 'pin-menu' }),
  };
}

function ofEntry(e: EntryView, d: Commands): MenuLine {
  return {
    id: `${e.placeId}/${e.id}`,
    name: shown(e.name),
    kind: e.kind,
    state: '',
    note: e.children === null ? kindWord(e.kind) : `${e.children}`,
    item: { type: 'original', entry: e },
    ...(e.type === 'folder' && { inside: { kind: 'folder', id: e.id, placeId: e.placeId, name: shown(e.name) } }),
    run: () => void d.open({ placeId: e.placeId, originalId: e.id, route: 'pin-menu' }),
  };
}

/** `undefined` until it is known. */
export function useMenuLines(level: MenuLevel): MenuLine[] | undefined {
  const d = useCommands();
  const collections = useCollections().data;
  const shortcuts = useShortcuts().data;
  const collection = level.kind === 'collection' ? collections?.find((c) => c.id === level.id) : undefined;
  const rows = useMemberRows(collection);
  const bearing = useTagged(level.kind === 'tag' ? level.id : undefined).data;
  const folder =
    level.kind === 'folder'
      ? { placeId: level.placeId, id: level.id }
      : collection?.mirror
        ? { placeId: collection.mirror.placeId, id: collection.mirror.originalId }
        : undefined;
  const entries = useQuery({
    queryKey: ['originals', 'folder', folder?.placeId, folder?.id, 'menu'],
    queryFn: () => get(`/originals/${folder!.placeId}/folder/${folder!.id}`, { limit: MOST_ENTRIES }),
    enabled: folder !== undefined,
  }).data?.entries;
  const answers = useQuery({
    queryKey: ['searches', 'answers', 'menu', level.id],
    queryFn: () => get(`/searches/${level.id}/answers`, { limit: MOST_ENTRIES }),
    enabled: level.kind === 'search',
  }).data?.answers;
  return useMemo(() => {
    if (level.kind === 'search') return answers?.map((e) => ofEntry(e, d));
    if (folder) return entries?.map((e) => ofEntry(e, d));
    if (level.kind === 'tag')
      return (
        bearing &&
        shortcuts &&
        taggedRows(bearing, shortcuts).flatMap((r) =>
          r.item.type === 'shortcut'
            ? ofShortcut(r.item.shortcut, d)
            : r.item.type === 'original'
              ? ofEntry(r.item.entry, d)
              : [],
        )
      );
    return rows?.map((row): MenuLine =>
      row.type === 'shortcut'
        ? ofShortcut(row.shortcut, d)
        : row.type === 'search'
          ? {
              id: row.search.id,
              name: row.search.name,
              kind: 'folder',
              state: '',
              note: String(row.search.count),
              item: { type: 'search', search: row.search },
              inside: { kind: 'search', id: row.search.id, name: row.search.name },
              run: () => undefined,
            }
          : {
              id: row.collection.id,
              name: row.collection.name,
              kind: 'folder',
              state: '',
              note: String(row.collection.count),
              item: { type: 'collection', collection: row.collection },
              inside: { kind: 'collection', id: row.collection.id, name: row.collection.name },
              run: () => undefined,
            },
    );
    // the folder is part of the level
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [level, entries, answers, bearing, shortcuts, rows, d]);
}
