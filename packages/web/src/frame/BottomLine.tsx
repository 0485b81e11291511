import { useOriginal, usePlaces, useJournal, useShortcut, useShortcuts } from '../api/queries';
import type { ShortcutView } from '@rellin/contract';
import { useLocation } from 'react-router';
import { formatBytes } from '@rellin/core/units';
import { shown } from '@rellin/core/paths';
import { useCommands } from '../workspace/useCommands';
import { useShownSelection } from '../parts/useShownSelection';
import { useSelection } from '../workspace/workspace';

/** The size of all that is chosen and has one. */
function sizeOf(all: readonly ShortcutView[] | undefined, ids: readonly string[]): number {
  const chosen = new Set(ids);
  return (all ?? []).reduce((sum, s) => sum + (chosen.has(s.id) ? (s.size ?? 0) : 0), 0);
}

/** What is selected, the space of its place, the last act with its undo. */
export function BottomLine() {
  const { chosen } = useSelection();
  const selected = useShownSelection();
  const all = useShortcuts().data;
  const d = useCommands();
  const places = usePlaces().data ?? [];
  const last = useJournal(30).data?.find((line) => line.inStack && line.undoneAt === null);
  const shortcut = useShortcut(selected?.type === 'shortcut' ? selected.id : undefined).data;
  const original = useOriginal(
    selected?.type === 'original' ? selected.placeId : undefined,
    selected?.type === 'original' ? selected.id : undefined,
  ).data;
  // in Originals the space is that of the folder in sight, whatever is selected
  const inSight = /^\/originals\/(\d+)/.exec(useLocation().pathname)?.[1];
  const placeId = inSight !== undefined ? Number(inSight) : (shortcut?.placeId ?? original?.placeId);
  const place = places.find((p) => p.id === placeId) ?? places[0];
  const size = shortcut ? shortcut.size : original?.type === 'file' ? original.size : null;
  const path = shortcut?.location ?? original?.path;
  return (
    <footer className="bottom-line">
      <span className="selected-part">
        {chosen.length > 1 ? (
          <>
            <b>{chosen.length} selected</b>
            {sizeOf(all, chosen) > 0 && ` · ${formatBytes(sizeOf(all, chosen))}`}
          </>
        ) : selected ? (
          <>
            <b>1 selected</b>
            {size !== null && size !== undefined && ` · ${formatBytes(size)}`}
          </>
        ) : (
          'Nothing selected'
        )}
      </span>
      {path && chosen.length < 2 && <span className="mono cut path">{shown(path)}</span>}
      {place && place.freeBytes !== null && (
        <span className="space">
          {place.name}: {formatBytes(place.freeBytes)} free of {formatBytes(place.totalBytes ?? 0)}
        </span>
      )}
      {last && (
        <span className="last-act">
          <span className="cut">{last.summary}</span>
          <button type="button" className="undo" onClick={() => void d.undo()} title="Ctrl+Z">
            Undo
          </button>
        </span>
      )}
    </footer>
  );
}
