import type { ProgramView } from '@rellin/contract';
import type { ShortcutState } from '@rellin/core/identity';
import { useState } from 'react';
import { usePrograms } from '../api/queries';
import { runKey, useActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { useSelection, useWorkspaceActions } from '../workspace/workspace';
import { DragHandle } from '../parts/DragRow';
import { EmptyState } from '../parts/EmptyState';
import { Loaded } from '../parts/Loaded';
import { FilterChip } from '../parts/FilterChip';
import { Picture } from '../parts/Picture';
import { asPictured } from '../parts/pictured';
import { compareNatural } from '@rellin/core/units';
import { useSearchParams } from 'react-router';
import { Grid, type Column } from '../parts/Grid';
import { Tether } from '../parts/Tether';

const COLUMNS: Column<ProgramView>[] = [
  {
    id: 'name',
    title: 'Name',
    width: 'minmax(160px, 1fr)',
    sortable: true,
    cell: (p) => (
      <DragHandle id={`program-${p.id}`} item={{ type: 'program', program: p }}>
        <span className="tether-slot">
          {p.shortcut && <Tether state={p.shortcut.state as ShortcutState} title="Has a shortcut" />}
        </span>
        <Picture of={asPictured(p.id)} size={20} />
        <span className="name cut">{p.name}</span>
      </DragHandle>
    ),
  },
  {
    id: 'what',
    title: 'What it does',
    width: 'minmax(160px, 1.4fr)',
    cell: (p) => <span className="small cut">{p.comment || p.genericName}</span>,
  },
  {
    id: 'categories',
    title: 'Categories',
    width: '170px',
    cell: (p) => <span className="small cut">{p.categories.join(', ')}</span>,
  },
  {
    id: 'shortcut',
    title: '',
    width: '100px',
    align: 'right',
    cell: (p) => <span className="small">{p.shortcut ? 'has a shortcut' : ''}</span>,
  },
];

/** Installed programs by name; what starts them need not be found by hand. */
export function ProgramList() {
  const programs = usePrograms();
  const [descending, setDescending] = useState(false);
  const { selected } = useSelection();
  const { select, openMenu, openDialog } = useWorkspaceActions();
  const acts = useActs('originals');
  const d = useCommands();
  const [params, setParams] = useSearchParams();
  const category = params.get('category') ?? undefined;
  const all = programs.data ?? [];
  const categories = [...new Set(all.flatMap((p) => p.categories))].sort(compareNatural);
  const list = category === undefined ? all : all.filter((p) => p.categories.includes(category));
  return (
    <>
      <div className="program-facets">
        <FilterChip
          title="Category"
          value={category}
          options={categories.map((c) => ({ value: c, label: c }))}
          onChange={(c) => setParams(c === undefined ? {} : { category: c }, { replace: true })}
        />
        {category !== undefined && list.length > 0 && (
          <button
            type="button"
            className="chip"
            onClick={() =>
              openDialog({
                kind: 'new-collection',
                collectionType: 'plain',
                name: category,
                gathered: { shortcuts: [], programs: list.map((p) => ({ programId: p.id, name: p.name })) },
              })
            }
          >
            Make a collection of {list.length === 1 ? 'this one' : `these ${list.length}`}…
          </button>
        )}
      </div>
      <Loaded of={programs} what="The list of programs">
        {() => (
          <Grid
            label="Programs"
            columns={COLUMNS}
            rowHeight={37}
            count={list.length}
            item={(i) => (descending ? list[list.length - 1 - i] : list[i])}
            keyOf={(p) => p.id}
            nameOf={(p) => p.name}
            sort={{ by: 'name', descending }}
            onSort={() => setDescending(!descending)}
            selectedKey={selected?.type === 'program' ? selected.id : undefined}
            onSelect={(p) => select({ type: 'program', id: p.id })}
            onOpen={(p) => void d.open({ programId: p.id, route: 'originals' })}
            onMenu={(p, at) => openMenu({ type: 'program', program: p }, at)}
            onKey={(event, p) => runKey(acts({ type: 'program', program: p }), event.key)}
            empty={
              <EmptyState title="No programs">No desktop entries were found in this machine’s data folders.</EmptyState>
            }
          />
        )}
      </Loaded>
    </>
  );
}
