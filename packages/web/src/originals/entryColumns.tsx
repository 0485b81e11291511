/** The columns of a list of originals. */
import { useMemo } from 'react';
import { useDroppable } from '@dnd-kit/core';
import Button from '@mui/material/Button';
import type { EntryView } from '@rellin/contract';
import type { ShortcutState } from '@rellin/core/identity';
import { kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { useTags } from '../api/queries';
import { shortDate } from '../parts/dates';
import { DragHandle } from '../parts/DragRow';
import type { Column } from '../parts/Grid';
import { KindIcon } from '../parts/KindIcon';
import { TagLabels } from '../parts/TagLabel';
import { Tether } from '../parts/Tether';

/** A row's name carries the entry; a folder's takes what is dropped on it, and opens under what rests there. */
export function EntryName({ entry, open, children }: { entry: EntryView; open(): void; children: React.ReactNode }) {
  const item = { type: 'original', entry } as const;
  const { setNodeRef, isOver } = useDroppable({
    id: `onto-${entry.placeId}-${entry.id}`,
    data: { kind: 'into', item, open },
    disabled: entry.type !== 'folder',
  });
  return (
    <span ref={setNodeRef} className={`entry-name${isOver ? ' over' : ''}`}>
      <DragHandle id={`entry-${entry.placeId}-${entry.id}`} item={item}>
        {children}
      </DragHandle>
    </span>
  );
}

export function useEntryColumns(
  add: (entry: EntryView) => void,
  open: (entry: EntryView) => void,
): Column<EntryView>[] {
  const tags = useTags().data;
  return useMemo(
    () => [
      {
        id: 'name',
        title: 'Name',
        width: 'minmax(180px, 2fr)',
        sortable: true,
        cell: (e) => (
          <EntryName entry={e} open={() => open(e)}>
            <span className="tether-slot">
              {e.shortcut && <Tether state={e.shortcut.state as ShortcutState} title="Has a shortcut" />}
            </span>
            <KindIcon kind={e.kind} />
            <span className={`cut${e.type === 'folder' ? ' name' : ''}`} title={shown(e.name)}>
              {shown(e.name)}
            </span>
            {e.tags.length > 0 && <TagLabels tags={(tags ?? []).filter((t) => e.tags.includes(t.id))} />}
          </EntryName>
        ),
      },
      {
        id: 'kind',
        title: 'Kind',
        width: '128px',
        sortable: true,
        cell: (e) => (
          <span className="small cut">
            {kindWord(e.kind)}
            {e.children !== null && `, ${e.children} ${e.children === 1 ? 'item' : 'items'}`}
          </span>
        ),
      },
      {
        id: 'size',
        title: 'Size',
        width: '74px',
        align: 'right',
        sortable: true,
        cell: (e) => <span className="small">{e.type === 'file' ? formatBytes(e.size) : ''}</span>,
      },
      {
        id: 'modified',
        title: 'Modified',
        width: '92px',
        align: 'right',
        sortable: true,
        cell: (e) => <span className="small">{shortDate(e.modified)}</span>,
      },
      {
        id: 'shortcut',
        title: '',
        width: '112px',
        align: 'right',
        cell: (e) =>
          e.shortcut ? (
            <span className="small">has a shortcut</span>
          ) : (
            <Button
              className="row-act"
              variant="outlined"
              tabIndex={-1}
              onClick={(event) => {
                event.stopPropagation();
                add(e);
              }}
            >
              Add shortcut
            </Button>
          ),
      },
    ],
    [add, open, tags],
  );
}

/** Beside the tree of collections there is less room. */
export function narrowed(columns: readonly Column<EntryView>[]): Column<EntryView>[] {
  const widths: Record<string, string> = { name: 'minmax(140px, 2fr)', kind: '100px' };
  return columns.filter((c) => c.id !== 'size').map((c) => ({ ...c, width: widths[c.id] ?? c.width }));
}
