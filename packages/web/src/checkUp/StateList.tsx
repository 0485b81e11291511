/** Shortcuts in one state, by where they are. */
import { useMemo } from 'react';
import Button from '@mui/material/Button';
import type { PlaceView, ShortcutView } from '@rellin/contract';
import { usePlaces } from '../api/queries';
import { runKey, useActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { useSelection, useWorkspaceActions } from '../workspace/workspace';
import { shortDate } from '../parts/dates';
import { EmptyState } from '../parts/EmptyState';
import { Grid, type Column } from '../parts/Grid';
import { Tether } from '../parts/Tether';
import { trailOf } from '../parts/trailOf';
import { locationText } from '../parts/locationText';
import type { Part } from './parts';
import { useCheckUpActs } from './useCheckUpActs';

const columnsOf = (places: readonly PlaceView[]): Column<ShortcutView>[] => [
  {
    id: 'name',
    title: 'Name',
    width: 'minmax(150px, 1fr)',
    cell: (s) => (
      <>
        <Tether state={s.state} />
        <span className="name cut">{s.name}</span>
      </>
    ),
  },
  {
    id: 'where',
    title: 'Where it is',
    width: 'minmax(140px, 1fr)',
    cell: (s) => (
      <span className="small cut" title={s.location}>
        {locationText(s)}
      </span>
    ),
  },
  {
    id: 'why',
    title: 'Why',
    width: 'minmax(160px, 1.4fr)',
    cell: (s) => (
      <span className="small cut" title={s.stateReason}>
        {s.followedFrom === null ? s.stateReason : `was ${trailOf(s.followedFrom, places)}`}
      </span>
    ),
  },
  {
    id: 'since',
    title: 'Since',
    width: '92px',
    align: 'right',
    cell: (s) => <span className="small">{shortDate(s.stateSince, new Date())}</span>,
  },
];

export function StateList({ part, shortcuts }: { part: Part; shortcuts: readonly ShortcutView[] }) {
  const { selected } = useSelection();
  const { select, openMenu } = useWorkspaceActions();
  const acts = useActs('check-up');
  const checkUp = useCheckUpActs();
  const d = useCommands();
  const places = usePlaces().data;
  const columns = useMemo(() => columnsOf(places ?? []), [places]);
  const rows = [...shortcuts].sort((a, b) => a.location.localeCompare(b.location));
  const isNews = part === 'followed' || part === 'saved-over';
  return (
    <>
      {rows.length > 0 && (isNews || part === 'left') && (
        <div className="check-acts">
          <Button
            variant="outlined"
            onClick={() =>
              void (isNews
                ? checkUp.note(rows)
                : checkUp.leave(
                    rows.map((s) => s.id),
                    false,
                  ))
            }
          >
            {isNews ? 'Mark all as seen' : 'Check all again'}
          </Button>
          <span className="small">
            {part === 'followed'
              ? 'Their originals moved, and Rellin went along; each is a line in the journal and can be undone there.'
              : part === 'saved-over'
                ? 'Another file was saved under the same path; the shortcuts stay there.'
                : 'Lost, and meant to be left so.'}
          </span>
        </div>
      )}
      <div className="check-list">
        <Grid
          label="Shortcuts of this part"
          columns={columns}
          count={rows.length}
          item={(i) => rows[i]}
          keyOf={(s) => s.id}
          nameOf={(s) => s.name}
          hintOf={(s) => s.description}
          selectedKey={selected?.type === 'shortcut' ? selected.id : undefined}
          onSelect={(s) => select({ type: 'shortcut', id: s.id })}
          onOpen={(s) => void d.open({ shortcutId: s.id, route: 'check-up' })}
          onMenu={(s, at) => openMenu({ type: 'shortcut', shortcut: s }, at)}
          onKey={(event, s) => runKey(acts({ type: 'shortcut', shortcut: s }), event.key)}
          empty={<EmptyState title="None of them">There is nothing in this part.</EmptyState>}
        />
      </div>
    </>
  );
}
