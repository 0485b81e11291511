/** All shortcuts, as a table with quick filters. */
import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import Button from '@mui/material/Button';
import ExpandMore from '@mui/icons-material/ExpandMore';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import type { ShortcutView } from '@rellin/contract';
import { SHORTCUT_STATES } from '@rellin/core/identity';
import { KINDS, kindWord } from '@rellin/core/kinds';
import { useCollections, usePlaces, useShortcuts, useTags } from '../api/queries';
import { runKey, useActs } from '../acts/useActs';
import { useDo } from '../acts/useDo';
import { useDesk } from '../frame/desk';
import { BulkBar } from '../parts/BulkBar';
import { DragHandle } from '../parts/DragRow';
import { EmptyState } from '../parts/EmptyState';
import { Grid, type Column } from '../parts/Grid';
import { KeyCap } from '../parts/KeyCap';
import { ReachRuler } from '../parts/ReachRuler';
import { STATE_WORDS, Tether } from '../parts/Tether';
import { whereabouts } from '../parts/whereabouts';
import { filterShortcuts, nameRanks, sortShortcuts, SORTS, type Filter, type SortBy } from './order';

const NONE: ShortcutView[] = [];

const COLUMNS: Column<ShortcutView>[] = [
  {
    id: 'name',
    title: 'Name',
    width: 'minmax(150px, 1.5fr)',
    sortable: true,
    cell: (s) => (
      <DragHandle id={`row-${s.id}`} item={{ type: 'shortcut', shortcut: s }}>
        <Tether state={s.state} />
        <span className="name cut" title={s.name}>
          {s.name}
        </span>
        {s.pinSlot !== null && <KeyCap>{s.pinSlot}</KeyCap>}
      </DragHandle>
    ),
  },
  {
    id: 'kind',
    title: 'Kind',
    width: '84px',
    sortable: true,
    cell: (s) => <span className="small">{kindWord(s.kind)}</span>,
  },
  {
    id: 'place',
    title: 'Original lies in',
    width: 'minmax(100px, 1.3fr)',
    cell: (s) => {
      const text = whereabouts(s);
      return (
        <span className="small cut" title={text}>
          {text}
        </span>
      );
    },
  },
  {
    id: 'week',
    title: 'a week',
    width: '58px',
    align: 'right',
    sortable: true,
    cell: (s) => <span className="small">{s.perWeek.toFixed(1)}</span>,
  },
  {
    id: 'reach',
    title: 'Reach, and on foot',
    width: '150px',
    sortable: true,
    cell: (s) => <ReachRuler reach={s.reach} width={142} />,
  },
];

function FilterChip<T extends string>(props: {
  title: string;
  value: T | undefined;
  options: readonly { value: T; label: string }[];
  onChange(value: T | undefined): void;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const chosen = props.options.find((o) => o.value === props.value);
  return (
    <>
      <button
        type="button"
        className={`chip${chosen ? ' on' : ''}`}
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {chosen ? `${props.title}: ${chosen.label}` : props.title}
        <ExpandMore aria-hidden sx={{ fontSize: 15, mr: '-4px' }} />
      </button>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        slotProps={{ list: { dense: true } }}
      >
        <MenuItem
          onClick={() => {
            setAnchor(null);
            props.onChange(undefined);
          }}
        >
          any
        </MenuItem>
        {props.options.map((o) => (
          <MenuItem
            key={o.value}
            selected={o.value === props.value}
            onClick={() => {
              setAnchor(null);
              props.onChange(o.value);
            }}
          >
            {o.label}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

export default function CatalogueView() {
  const shortcuts = useShortcuts();
  const collections = useCollections().data ?? [];
  const tags = useTags().data ?? [];
  const acts = useActs('catalogue');
  const places = usePlaces().data ?? [];
  const [params, setParams] = useSearchParams();
  const { selected, select, openMenu, openDialog, chosen, choose } = useDesk();
  const chosenSet = useMemo(() => new Set(chosen), [chosen]);
  const d = useDo();

  const sortBy = (params.get('sort') ?? 'name') as SortBy;
  const descending = params.get('order') === 'down';
  const kind = params.get('kind');
  const state = params.get('state');
  const place = params.get('place');
  const tag = params.get('tag');
  const collection = params.get('collection');
  const used = params.get('used');
  const rows = useMemo(() => {
    const filter: Filter = { kind, state, place, tag, collection, used };
    const all = shortcuts.data ?? NONE;
    return sortShortcuts(filterShortcuts(all, filter), sortBy, descending, nameRanks(all));
  }, [shortcuts.data, kind, state, place, tag, collection, used, sortBy, descending]);
  /** Several at once: the router's updates do not queue, a second one would undo the first. */
  const put = useCallback(
    (values: Record<string, string | undefined>) =>
      setParams(
        (now) => {
          const next = new URLSearchParams(now);
          for (const [name, value] of Object.entries(values)) {
            if (value === undefined) next.delete(name);
            else next.set(name, value);
          }
          return next;
        },
        { replace: true },
      ),
    [setParams],
  );
  const onSort = (by: string) => {
    if (by === sortBy) put({ order: descending ? undefined : 'down' });
    else put({ sort: by, order: SORTS[by as SortBy].firstDescending ? 'down' : undefined });
  };
  const kinds = KINDS.filter((k) => shortcuts.data?.some((s) => s.kind === k));
  const states = SHORTCUT_STATES.filter((x) => shortcuts.data?.some((s) => s.state === x));
  const filtered = [kind, state, place, tag, collection, used].some((x) => x !== null);
  return (
    <main className="view fills" id="view">
      <div className="view-head">
        <h1>Catalogue</h1>
        <FilterChip
          title="Kind"
          value={kind ?? undefined}
          options={kinds.map((k) => ({ value: k as string, label: kindWord(k) }))}
          onChange={(v) => put({ kind: v })}
        />
        <FilterChip
          title="Place"
          value={place ?? undefined}
          options={places.map((p) => ({ value: String(p.id), label: p.name }))}
          onChange={(v) => put({ place: v })}
        />
        {tags.length > 0 && (
          <FilterChip
            title="Tag"
            value={tag ?? undefined}
            options={tags.map((t) => ({ value: t.id, label: t.name }))}
            onChange={(v) => put({ tag: v })}
          />
        )}
        {collections.length > 0 && (
          <FilterChip
            title="Collection"
            value={collection ?? undefined}
            options={collections.map((c) => ({ value: c.id, label: c.name }))}
            onChange={(v) => put({ collection: v })}
          />
        )}
        <FilterChip
          title="Opened"
          value={used ?? undefined}
          options={[
            { value: 'lately', label: 'in the last four weeks' },
            { value: 'not-lately', label: 'not in four weeks' },
            { value: 'never', label: 'never' },
          ]}
          onChange={(v) => put({ used: v })}
        />
        <FilterChip
          title="State"
          value={state ?? undefined}
          options={states.map((x) => ({ value: x as string, label: STATE_WORDS[x] }))}
          onChange={(v) => put({ state: v })}
        />
        <Button
          className="push"
          variant="outlined"
          onClick={() => openDialog({ kind: 'add' })}
          endIcon={<KeyCap>N</KeyCap>}
        >
          Add shortcut
        </Button>
      </div>
      <BulkBar />
      {shortcuts.isError ? (
        <EmptyState
          title="The catalogue cannot be read just now"
          action={
            <Button variant="contained" onClick={() => void shortcuts.refetch()}>
              Try again
            </Button>
          }
        >
          {shortcuts.error.message}
        </EmptyState>
      ) : (
        shortcuts.data && (
          <Grid
            label="Shortcuts"
            columns={COLUMNS}
            count={rows.length}
            item={(i) => rows[i]}
            keyOf={(s) => s.id}
            selectedKey={selected?.type === 'shortcut' ? selected.id : undefined}
            reveal={selected?.type === 'shortcut' ? rows.findIndex((s) => s.id === selected.id) : undefined}
            sort={{ by: sortBy, descending }}
            onSort={onSort}
            onSelect={(s) => select({ type: 'shortcut', id: s.id })}
            onOpen={(s) => void d.open({ shortcutId: s.id, route: 'catalogue' })}
            onMenu={(s, at) => openMenu({ type: 'shortcut', shortcut: s }, at)}
            onKey={(event, s) => runKey(acts({ type: 'shortcut', shortcut: s }), event.key)}
            chosen={chosenSet}
            onChoose={choose}
            empty={
              filtered ? (
                <EmptyState
                  title="No shortcut fits these filters"
                  action={
                    <Button variant="contained" onClick={() => setParams({})}>
                      Show all
                    </Button>
                  }
                >
                  The catalogue holds {shortcuts.data.length} shortcuts.
                </EmptyState>
              ) : (
                <EmptyState
                  title="No shortcuts yet"
                  action={
                    <Button variant="contained" onClick={() => openDialog({ kind: 'add' })}>
                      Add shortcut
                    </Button>
                  }
                >
                  A shortcut points to a file, folder, program or web address; the original stays where it is. Walk your
                  places in Originals, or paste a path here.
                </EmptyState>
              )
            }
          />
        )
      )}
    </main>
  );
}
