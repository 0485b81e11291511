/** All shortcuts, as a table with quick filters. */
import { useCallback, useEffect, useMemo } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import Button from '@mui/material/Button';
import type { CatalogueFilter, CollectionView, SettingsView, ShortcutView, TagView } from '@rellin/contract';
import { SHORTCUT_STATES } from '@rellin/core/identity';
import { KINDS, kindWord } from '@rellin/core/kinds';
import { useCollections, usePlaces, useSettings, useShortcuts, useTags } from '../api/queries';
import { useRowActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { previewTargets, useSelection, useWorkspaceActions, usePreviewOrder } from '../workspace/workspace';
import { BulkBar } from '../acts/BulkBar';
import { useKnown, Loaded, Loading } from '../parts/Loaded';
import { EmptyState } from '../parts/EmptyState';
import { FilterChip } from '../parts/FilterChip';
import { Roving } from '../parts/Roving';
import { Grid, type GridProps } from '../parts/Grid';
import { CommandKey } from '../parts/KeyCap';
import { STATE_WORDS } from '../parts/Tether';
import { allColumns, resized, shownColumns, widthsOf } from './columns';
import { FilterLine, useLayoutChoice } from './FilterLine';
import { filterShortcuts, sortShortcuts, SORTS, type Filter, type SortBy } from './order';
import { ShortcutTiles } from './ShortcutTiles';

const NONE: ShortcutView[] = [];
const NO_TAGS: TagView[] = [];
const NO_COLLECTIONS: CollectionView[] = [];
const NO_CHOICE: SettingsView['catalogueColumns'] = [];
const FACETS = ['kind', 'state', 'place', 'tag', 'collection', 'used', 'sort', 'order'] as const;

/** Whether all is there that the head and the list are made of: they stand still from then on. */
const useFacetsKnown = () => useKnown(useShortcuts(), useCollections(), useTags(), usePlaces(), useSettings());

export default function CatalogueView() {
  const navigate = useNavigate();
  const shortcuts = useShortcuts();
  const collections = useCollections().data ?? NO_COLLECTIONS;
  const tags = useTags().data ?? NO_TAGS;
  const settings = useSettings().data;
  const facets = useFacetsKnown();
  const shape = settings?.catalogueShape ?? 'table';
  const columnChoice = settings?.catalogueColumns ?? NO_CHOICE;
  const chooseLayout = useLayoutChoice();
  const columns = useMemo(
    () =>
      allColumns({
        tags: new Map(tags.map((t) => [t.id, t])),
        collections: new Map(collections.map((c) => [c.id, c])),
      }),
    [tags, collections],
  );
  const acts = useRowActs('catalogue');
  const places = usePlaces().data ?? [];
  const [params, setParams] = useSearchParams();
  const { selected, chosen } = useSelection();
  const { select, openMenu, openDialog, choose } = useWorkspaceActions();
  const shown = useMemo(() => shownColumns(columns, columnChoice), [columns, columnChoice]);
  const chosenSet = useMemo(() => new Set(chosen), [chosen]);
  const d = useCommands();

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
    return filterShortcuts(sortShortcuts(shortcuts.data ?? NONE, sortBy, descending), filter);
  }, [shortcuts.data, kind, state, place, tag, collection, used, sortBy, descending]);
  usePreviewOrder(useMemo(() => previewTargets(rows), [rows]));
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
  // the shortcut that a command or a desktop entry just made
  const wanted = params.get('select');
  useEffect(() => {
    if (wanted === null) return;
    select({ type: 'shortcut', id: wanted });
    put({ select: undefined });
  }, [wanted, select, put]);
  // what a command could not add, since it is in no folder of Rellin's
  const toAdd = params.get('add');
  useEffect(() => {
    if (toAdd === null) return;
    openDialog({ kind: 'add', typed: toAdd, outside: true });
    put({ add: undefined });
  }, [toAdd, openDialog, put]);
  const onSort = (by: string) => {
    if (by === sortBy) put({ order: descending ? undefined : 'down' });
    else put({ sort: by, order: SORTS[by as SortBy].firstDescending ? 'down' : undefined });
  };
  const kinds = KINDS.filter((k) => shortcuts.data?.some((s) => s.kind === k));
  const states = SHORTCUT_STATES.filter((x) => shortcuts.data?.some((s) => s.state === x));
  const now: CatalogueFilter = Object.fromEntries(
    FACETS.flatMap((name) => (params.has(name) ? [[name, params.get(name)]] : [])),
  );
  const filtered = [kind, state, place, tag, collection, used].some((x) => x !== null);
  const all = shortcuts.data ?? NONE;
  const list: Omit<GridProps<ShortcutView>, 'columns'> = {
    label: 'Shortcuts',
    count: rows.length,
    item: (i) => rows[i],
    keyOf: (s) => s.id,
    nameOf: (s) => s.name,
    hintOf: (s) => s.description,
    selectedKey: selected?.type === 'shortcut' ? selected.id : undefined,
    reveal: selected?.type === 'shortcut' ? rows.findIndex((s) => s.id === selected.id) : undefined,
    onSelect: (s) => select({ type: 'shortcut', id: s.id }),
    onOpen: (s) =>
      acts.open({ type: 'shortcut', shortcut: s }, () => void d.open({ shortcutId: s.id, route: 'catalogue' })),
    onMenu: (s, at) => openMenu({ type: 'shortcut', shortcut: s }, at),
    onKey: (event, s) => acts.runKey(event.key, { type: 'shortcut', shortcut: s }),
    chosen: chosenSet,
    onChoose: choose,
    empty: filtered ? (
      <EmptyState
        title="No shortcut fits these filters"
        action={
          <Button variant="contained" onClick={() => setParams({})}>
            Show all
          </Button>
        }
      >
        The catalogue holds {all.length} shortcuts.
      </EmptyState>
    ) : (
      <EmptyState
        title="No shortcuts yet"
        action={
          <>
            <Button variant="contained" onClick={() => void navigate('/set-up')}>
              Begin with what is there
            </Button>
            <Button variant="outlined" onClick={() => openDialog({ kind: 'add' })}>
              Add shortcut
            </Button>
          </>
        }
      >
        A shortcut points to a file, folder, program or web address; the original stays where it is. Rellin can begin
        with what you use already, or paste a path here.
      </EmptyState>
    ),
  };
  return (
    <main className="view fills" id="view">
      <Roving label="Filters and acts">
        <div className="view-head">
          <h1>Catalogue</h1>
          {facets && (
            <>
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
            </>
          )}
          <Button
            className="push"
            variant="outlined"
            onClick={() => openDialog({ kind: 'add' })}
            endIcon={<CommandKey of="N" />}
          >
            Add shortcut
          </Button>
        </div>
        <FilterLine
          now={now}
          columns={columns}
          total={all.length}
          onApply={(filter) => setParams(Object.entries(filter) as [string, string][], { replace: true })}
        />
      </Roving>
      <Loaded of={shortcuts} what="The catalogue">
        {() =>
          !facets ? (
            <Loading />
          ) : shape === 'table' ? (
            <Grid
              {...list}
              columns={shown}
              widths={widthsOf(columnChoice)}
              onResize={(id, width) => chooseLayout({ catalogueColumns: resized(columnChoice, id, width) })}
              sort={{ by: sortBy, descending }}
              onSort={onSort}
            />
          ) : (
            <ShortcutTiles {...list} shape={shape} />
          )
        }
      </Loaded>
      <BulkBar />
    </main>
  );
}
