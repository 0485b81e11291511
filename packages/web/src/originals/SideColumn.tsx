/**
 * Folders side by side: beside the list in hand, on its left a column for each folder on the way down, on its right
 * what lies in the folder that is selected. Whatever is pressed in one of them is selected, and its folder is the one
 * in hand.
 */
import { useEffect, useRef, type ReactNode } from 'react';
import type { EntrySort, EntryView, OriginalId, PlaceId } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { Grid } from '../parts/Grid';
import { KindIcon } from '../parts/KindIcon';
import { usePagedFolder } from './usePagedFolder';

/** `at`: another one is another way down. */
export function SideBySide({ at, children }: { at: string; children: ReactNode }) {
  const row = useRef<HTMLDivElement>(null);
  // the list in hand is in sight, however long the way
  useEffect(() => {
    if (row.current) row.current.scrollLeft = row.current.scrollWidth;
  }, [at]);
  return (
    <div ref={row} className="side-by-side">
      {children}
    </div>
  );
}

export function SideColumn(props: {
  placeId: PlaceId;
  folder: { id: OriginalId; name: string };
  /** On the way to what is in hand. */
  shownChild?: OriginalId;
  sort: EntrySort;
  order: 'up' | 'down';
  onPick(entry: EntryView): void;
}) {
  const { placeId, folder, shownChild, sort, order, onPick } = props;
  const { first, entry, onRange } = usePagedFolder(placeId, folder.id, sort, order, shownChild);
  return (
    <div className="side-column">
      <Grid
        label={`In ${shown(folder.name)}`}
        columns={[
          {
            id: 'name',
            title: shown(folder.name),
            width: 'minmax(0, 1fr)',
            cell: (e) => (
              <span className="entry-name">
                <KindIcon kind={e.kind} />
                <span className={`cut${e.type === 'folder' ? ' name' : ''}`} title={shown(e.name)}>
                  {shown(e.name)}
                </span>
              </span>
            ),
          },
        ]}
        rowHeight={37}
        skipsTab
        count={first.data?.total ?? 0}
        item={entry}
        keyOf={(e) => e.id}
        nameOf={(e) => shown(e.name)}
        selectedKey={shownChild}
        reveal={first.data?.atIndex ?? undefined}
        onRange={onRange}
        onSelect={onPick}
        onOpen={onPick}
        empty={first.data && <p className="small side-empty">Nothing lies in it.</p>}
      />
    </div>
  );
}
