/** Below the facets: quick filters kept under a name, and how the catalogue is shown. */
import { useState } from 'react';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import ExpandMore from '@mui/icons-material/ExpandMore';
import { useQueryClient } from '@tanstack/react-query';
import type { CatalogueFilter, QuickFilterView, SettingsView } from '@rellin/contract';
import { shownKeys } from '@rellin/core/keys';
import { useQuickFilters, useSettings } from '../api/queries';
import { patch } from '../api/client';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';
import type { Column } from '../parts/Grid';
import { SHAPE_WORDS } from '../parts/listShapes';
import { KeyCap } from '../parts/KeyCap';
import { toggled, USUAL } from './columns';

// a preview stands in the card already
const { preview: _, ...SHAPES } = SHAPE_WORDS;

/** Remembers how the page is left; shown at once, before the server has it. */
export function useLayoutChoice() {
  const client = useQueryClient();
  const d = useCommands();
  return (choice: Pick<Partial<SettingsView>, 'catalogueColumns' | 'catalogueShape'>) => {
    client.setQueryData<SettingsView>(['settings'], (now) => now && { ...now, ...choice });
    void d.attempt(() => patch('/settings', choice));
  };
}

/** Whether a quick filter is what the catalogue is narrowed to now. */
export function isNow(filter: CatalogueFilter, now: CatalogueFilter): boolean {
  const keys = new Set([...Object.keys(filter), ...Object.keys(now)]) as Set<keyof CatalogueFilter>;
  return [...keys].every((key) => filter[key] === now[key]);
}

function QuickFilterChip(props: { filter: QuickFilterView; on: boolean; onApply(): void; onClear(): void }) {
  const { filter, on } = props;
  const d = useCommands();
  const { openDialog } = useWorkspaceActions();
  const [at, setAt] = useState<{ top: number; left: number }>();
  const run = (work: () => void) => () => {
    setAt(undefined);
    work();
  };
  return (
    <>
      <button
        type="button"
        className={`chip${on ? ' on' : ''}`}
        aria-pressed={on}
        title={on ? 'Show all again' : undefined}
        onClick={on ? props.onClear : props.onApply}
        onContextMenu={(event) => {
          event.preventDefault();
          setAt({ top: event.clientY, left: event.clientX });
        }}
        onKeyDown={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          if (event.key === 'Delete') void d.removeQuickFilter(filter);
          else if (event.key === 'F2') openDialog({ kind: 'quick-filter', filter });
          else if ((event.key === 'F10' && event.shiftKey) || event.key === 'ContextMenu')
            setAt({ top: box.bottom, left: box.left });
          else return;
          event.preventDefault();
        }}
      >
        {filter.name}
        {filter.keys && <KeyCap>{shownKeys(filter.keys)}</KeyCap>}
      </button>
      {at && (
        <Menu
          anchorReference="anchorPosition"
          anchorPosition={at}
          open
          onClose={() => setAt(undefined)}
          slotProps={{ list: { dense: true, 'aria-label': `Acts on ${filter.name}` } }}
        >
          <MenuItem onClick={run(() => openDialog({ kind: 'quick-filter', filter }))}>Rename…</MenuItem>
          <MenuItem
            onClick={run(() =>
              openDialog({
                kind: 'own-key',
                target: 'quick-filter',
                id: filter.id,
                name: filter.name,
                keys: filter.keys,
              }),
            )}
          >
            Own key…
          </MenuItem>
          <MenuItem className="grave" onClick={run(() => void d.removeQuickFilter(filter))}>
            Remove quick filter
          </MenuItem>
        </Menu>
      )}
    </>
  );
}

export function FilterLine<T>(props: {
  now: CatalogueFilter;
  columns: readonly Column<T>[];
  /** How many there are, narrowed or not. */
  total: number;
  onApply(filter: CatalogueFilter): void;
}) {
  const { now, columns } = props;
  const filters = useQuickFilters().data ?? [];
  const settings = useSettings().data;
  const choose = useLayoutChoice();
  const { openDialog } = useWorkspaceActions();
  const [shapeAnchor, setShapeAnchor] = useState<HTMLElement | null>(null);
  const [columnsAnchor, setColumnsAnchor] = useState<HTMLElement | null>(null);
  const shape = settings?.catalogueShape ?? 'table';
  const choice = settings?.catalogueColumns ?? [];
  const shown = choice.length === 0 ? USUAL : choice.map((c) => c.id);
  const narrowed = Object.keys(now).some((key) => key !== 'sort' && key !== 'order');
  const isKept = filters.some((f) => isNow(f.filter, now));
  return (
    <div className="filter-line">
      {filters.map((f) => (
        <QuickFilterChip
          key={f.id}
          filter={f}
          on={isNow(f.filter, now)}
          onApply={() => props.onApply(f.filter)}
          onClear={() => props.onApply({})}
        />
      ))}
      {narrowed && !isKept && (
        <button type="button" className="chip" onClick={() => openDialog({ kind: 'quick-filter', now })}>
          Keep as quick filter…
        </button>
      )}
      {narrowed && (
        <button type="button" className="chip" onClick={() => props.onApply({})}>
          Show all {props.total}
        </button>
      )}
      {filters.length === 0 && !narrowed && (
        <span className="small">Narrow by the facets above, and keep what you narrowed to under a name and a key.</span>
      )}
      <span className="push" />
      {shape === 'table' && (
        <button
          type="button"
          className="chip"
          aria-haspopup="menu"
          onClick={(event) => setColumnsAnchor(event.currentTarget)}
        >
          Columns
          <ExpandMore aria-hidden className="chevron" />
        </button>
      )}
      <button
        type="button"
        className="chip"
        aria-haspopup="menu"
        aria-label={`Shown as ${SHAPES[shape]}`}
        onClick={(event) => setShapeAnchor(event.currentTarget)}
      >
        {SHAPES[shape]}
        <ExpandMore aria-hidden className="chevron" />
      </button>
      {columnsAnchor && (
        <Menu
          anchorEl={columnsAnchor}
          open
          disablePortal
          onClose={() => setColumnsAnchor(null)}
          slotProps={{ list: { dense: true, 'aria-label': 'Columns' } }}
        >
          {columns
            .filter((c) => c.id !== 'name')
            .map((c) => (
              <MenuItem
                key={c.id}
                role="menuitemcheckbox"
                aria-checked={shown.includes(c.id)}
                onClick={() => choose({ catalogueColumns: toggled(choice, c.id) })}
              >
                <span className={`tick${shown.includes(c.id) ? ' on' : ''}`} />
                {c.title}
              </MenuItem>
            ))}
          <MenuItem
            onClick={() => {
              setColumnsAnchor(null);
              choose({ catalogueColumns: [] });
            }}
          >
            Back to the usual columns and widths
          </MenuItem>
        </Menu>
      )}
      {shapeAnchor && (
        <Menu
          anchorEl={shapeAnchor}
          open
          disablePortal
          onClose={() => setShapeAnchor(null)}
          slotProps={{ list: { dense: true, 'aria-label': 'Shown as' } }}
        >
          {Object.entries(SHAPES).map(([id, word]) => (
            <MenuItem
              key={id}
              role="menuitemradio"
              aria-checked={id === shape}
              selected={id === shape}
              onClick={() => {
                setShapeAnchor(null);
                choose({ catalogueShape: id as SettingsView['catalogueShape'] });
              }}
            >
              {word}
            </MenuItem>
          ))}
        </Menu>
      )}
    </div>
  );
}
