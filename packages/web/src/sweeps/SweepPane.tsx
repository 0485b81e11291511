/**
 * One sweep: what lies in the folders, where each thing would go and why, and the button that does it. Nothing is done
 * before that. What the person sends elsewhere holds until it is swept.
 */
import { useMemo, useState } from 'react';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import type { ClashChoice } from '@rellin/core/filing';
import { groupsOf, GROUPINGS, SURE_ENOUGH, type Grouping } from '@rellin/core/sweep';
import { nameOf, shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import type { OriginalRef, SweepFolder, SweepLeft, SweepPlan, SweepRequest, SweepView } from '@rellin/contract';
import { post } from '../api/client';
import { Chooser } from '../parts/Chooser';
import { EmptyState } from '../parts/EmptyState';
import { FilterChip } from '../parts/FilterChip';
import { Loading, NotLoaded } from '../parts/Loaded';
import { Roving, ViewHead } from '../parts/Roving';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';
import {
  folderKey,
  isFixed,
  isIn,
  keyOf,
  requestOf,
  sectionsOf,
  type Decisions,
  type Facet,
  type SweepDraft,
} from './draft';
import { Destinations } from './Destinations';
import { SweepTable } from './SweepTable';
import { useSweepActs } from './useSweepActs';
import { GROUPING_WORDS, groupWords, originals, percent, things } from './words';

const NONE: Decisions = new Map();
const NO_FOLDERS: readonly SweepFolder[] = [];
/** From how likely on; above 1 nothing is. */
const SURE = [0.9, 0.7, SURE_ENOUGH, 0.3, 0.15, 2];
const LINK_DAYS = [0, 7, 30, 90];

export interface SweepPaneProps {
  /** The kept sweep that this is one of. */
  sweep: SweepView | undefined;
  begin: SweepDraft;
}

export function SweepPane({ sweep, begin }: SweepPaneProps) {
  const [draft, setDraft] = useState(begin);
  const { folders, rules, recentMinutes } = draft;
  const plan = useQuery({
    queryKey: ['sweep-plan', folders, rules, recentMinutes],
    queryFn: ({ signal }) => post('/sweeps/plan', { folders, rules, recentMinutes }, signal),
    placeholderData: keepPreviousData,
    retry: false,
    // the disk changes all the time: a plan holds until the person looks again
    staleTime: Infinity,
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
  if (plan.isError)
    return (
      <NotLoaded title="These folders cannot be swept now" error={plan.error} onAgain={() => void plan.refetch()} />
    );
  if (!plan.data) return <Loading />;
  return (
    <Planned
      key={folders.map((f) => `${f.placeId}/${f.originalId}`).join()}
      plan={plan.data}
      isNew={plan.isFetching}
      lookAgain={() => void plan.refetch()}
      draft={draft}
      setDraft={setDraft}
      sweep={sweep}
    />
  );
}

interface PlannedProps {
  plan: SweepPlan;
  /** Another plan is on its way. */
  isNew: boolean;
  lookAgain(): void;
  draft: SweepDraft;
  setDraft(draft: SweepDraft): void;
  sweep: SweepView | undefined;
}

function Planned({ plan, isNew, lookAgain, draft, setDraft, sweep }: PlannedProps) {
  const [decisions, setDecisions] = useState<Decisions>(NONE);
  const [sure, setSure] = useState(SURE_ENOUGH);
  const decided = useMemo(() => ({ decisions, sure }), [decisions, sure]);
  const [more, setMore] = useState(NO_FOLDERS);
  const [facet, setFacet] = useState<Facet>();
  const [choosing, setChoosing] = useState<'folder' | readonly string[]>();
  const [left, setLeft] = useState<readonly SweepLeft[]>([]);
  const [search, setSearch] = useState<SweepRequest['search']>('none');
  const [clash, setClash] = useState<ClashChoice>('keep-both');
  const { openDialog } = useWorkspaceActions();
  const acts = useSweepActs();
  const d = useCommands();
  const navigate = useNavigate();
  // folders that were chosen for things stay destinations, whatever the next plan proposes
  const folders = useMemo(() => {
    const known = new Set(plan.folders.map(folderKey));
    return [...plan.folders, ...more.filter((folder) => !known.has(folderKey(folder)))];
  }, [plan.folders, more]);
  const all = useMemo(() => sectionsOf(plan.things, folders, decided), [plan.things, folders, decided]);
  const seen = useMemo(
    () =>
      facet
        ? sectionsOf(
            plan.things.filter((t) => isIn(t, facet, plan.at)),
            folders,
            decided,
          )
        : all,
    [plan, folders, decided, facet, all],
  );
  const going = all.filter((s) => s.to !== 'leave' && s.to !== 'stay');
  const count = going.reduce((sum, s) => sum + s.things.length, 0);
  const clashes = going.reduce((sum, s) => sum + s.clashes, 0);
  const name = plan.swept.map((s) => s.name).join(', ');
  const takes = plan.things.reduce((sum, t) => sum + t.size, 0);

  const send = (keys: readonly string[], to: SweepFolder | 'bin' | 'leave') => {
    if (typeof to === 'object') setMore((now) => [...now.filter((f) => folderKey(f) !== folderKey(to)), to]);
    const known = new Map(plan.things.map((t) => [keyOf(t), t]));
    setDecisions((now) => {
      const next = new Map(now);
      for (const key of keys) {
        const thing = known.get(key);
        if (thing && !isFixed(thing)) next.set(key, typeof to === 'object' ? folderKey(to) : to);
      }
      return next;
    });
  };
  /** Each where it most likely belongs, however likely that is. */
  const takeSuggestions = (keys: readonly string[]) => {
    const wanted = new Set(keys);
    for (const thing of plan.things) {
      const [first] = thing.suggestions;
      if (first && wanted.has(keyOf(thing))) send([keyOf(thing)], plan.folders[first.to]!);
    }
  };
  /** To a folder of the person's own choosing, which is a destination from then on. */
  const sendTo = (keys: readonly string[], path: string) =>
    d.attempt(async () => {
      const { placeId, folderId } = await post('/originals/locate', { path });
      setChoosing(undefined);
      const known = folders.find((f) => f.placeId === placeId && f.originalId === folderId);
      send(keys, known ?? { placeId, originalId: folderId, name: shown(nameOf(path)), trail: [], taken: [] });
    });
  const addFolder = (path: string) =>
    d.attempt(async () => {
      const { placeId, folderId } = await post('/originals/locate', { path });
      setChoosing(undefined);
      const there = draft.folders.some((f) => f.placeId === placeId && f.originalId === folderId);
      if (!there) setDraft({ ...draft, folders: [...draft.folders, { placeId, originalId: folderId }] });
    });
  const run = async () => {
    const options = { linkDays: draft.linkDays, search, clash, ...(sweep && { sweepId: sweep.id }) };
    const result = await acts.run(requestOf(plan, folders, decided, options), name);
    if (!result) return;
    setLeft(result.left);
    lookAgain();
  };
  return (
    <>
      <ViewHead>
        <h1 className="cut">Sweep {name}</h1>
        <span className="small" role="status">
          {isNew ? 'Looking…' : `${things(plan.things.length)}, ${formatBytes(takes)}`}
        </span>
        <span className="push" />
        <Button variant="outlined" onClick={lookAgain} disabled={isNew}>
          Look again
        </Button>
        <Button
          variant="outlined"
          onClick={() =>
            openDialog({
              kind: 'sweep-rules',
              rules: draft.rules,
              onSave: (rules) => setDraft({ ...draft, rules }),
            })
          }
        >
          {draft.rules.length === 1 ? 'One rule…' : `${draft.rules.length} rules…`}
        </Button>
        <Button
          variant="outlined"
          onClick={() => openDialog({ kind: 'save-sweep', draft: { ...draft, name: draft.name || name }, sweep })}
        >
          {sweep ? 'Change…' : 'Keep this sweep…'}
        </Button>
      </ViewHead>
      <div className="sweep-facets">
        <Roving label="What is swept, and what is shown of it">
          {plan.swept.map((s) => (
            <SweptChip
              key={`${s.placeId}/${s.originalId}`}
              swept={s}
              onRemove={
                draft.folders.length > 1
                  ? () =>
                      setDraft({
                        ...draft,
                        folders: draft.folders.filter((f) => f.placeId !== s.placeId || f.originalId !== s.originalId),
                      })
                  : undefined
              }
            />
          ))}
          <button type="button" className="chip" onClick={() => setChoosing('folder')}>
            + folder…
          </button>
          <span className="sweep-rule" />
          {GROUPINGS.map((by) => (
            <Groups key={by} by={by} plan={plan} facet={facet} onFacet={setFacet} />
          ))}
          {facet && (
            <button type="button" className="chip" onClick={() => setFacet(undefined)}>
              Show all
            </button>
          )}
        </Roving>
      </div>
      {plan.troubles.map(({ rule, message }) => (
        <p key={rule} className="sweep-trouble small" role="status">
          Rule {rule + 1} is not followed, and what it matches is left: {message}
        </p>
      ))}
      {left.length > 0 && <Stayed left={left} onClose={() => setLeft([])} />}
      {plan.things.length === 0 ? (
        <EmptyState
          title={`Nothing lies in ${name}`}
          action={
            <Button variant="contained" onClick={() => void navigate('/sweeps')}>
              All sweeps
            </Button>
          }
        >
          There is nothing to sweep. What comes there shows here when you look again.
        </EmptyState>
      ) : (
        <SweepTable
          sections={seen}
          folders={folders}
          rules={draft.rules}
          onSend={(keys, to) => {
            if (to !== 'stay') send(keys, typeof to === 'number' ? folders[to]! : to);
          }}
          onSuggested={takeSuggestions}
          onElsewhere={setChoosing}
          destinations={<Destinations sections={all} folders={folders} />}
        />
      )}
      {plan.things.length > 0 && (
        <div className="sweep-foot sheet">
          <TextField
            select
            size="small"
            label="Goes where it belongs"
            value={sure}
            onChange={(event) => setSure(Number(event.target.value))}
          >
            {SURE.map((least) => (
              <MenuItem key={least} value={least}>
                {least > 1 ? 'never by itself' : `from ${percent(least)} sure`}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label="Links at the old spots"
            value={draft.linkDays}
            onChange={(event) => setDraft({ ...draft, linkDays: Number(event.target.value) })}
          >
            {[...new Set([...LINK_DAYS, draft.linkDays])].map((days) => (
              <MenuItem key={days} value={days}>
                {days === 0 ? 'no' : `for ${days} days`}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label="Search for them"
            value={search}
            onChange={(event) => setSearch(event.target.value as typeof search)}
          >
            <MenuItem value="none">no</MenuItem>
            <MenuItem value="saved">save one</MenuItem>
            <MenuItem value="pinned">save and pin one</MenuItem>
          </TextField>
          {clashes > 0 && (
            <TextField
              select
              size="small"
              label={clashes === 1 ? 'One name is taken' : `${clashes} names are taken`}
              value={clash}
              onChange={(event) => setClash(event.target.value as ClashChoice)}
            >
              <MenuItem value="keep-both">keep both</MenuItem>
              <MenuItem value="replace">replace what is there</MenuItem>
              <MenuItem value="skip">leave those</MenuItem>
            </TextField>
          )}
          <span className="push small">{count === 0 ? 'Nothing goes anywhere yet' : 'One undo puts all back'}</span>
          <Button variant="contained" disabled={count === 0 || isNew} onClick={() => void run()}>
            Sweep {originals(count)}
          </Button>
        </div>
      )}
      {choosing !== undefined && (
        <Chooser
          title={choosing === 'folder' ? 'Sweep which folder as well?' : `Send ${things(choosing.length)} to…`}
          want="folder"
          onClose={() => setChoosing(undefined)}
          onChoose={(path) => void (choosing === 'folder' ? addFolder(path) : sendTo(choosing, path))}
        />
      )}
    </>
  );
}

function SweptChip({
  swept,
  onRemove,
}: {
  swept: OriginalRef & { name: string; trail: string[] };
  onRemove?: () => void;
}) {
  return (
    <span className="chip on sweep-swept" title={[...swept.trail, swept.name].join(' › ')}>
      {swept.name}
      {onRemove && (
        <button type="button" aria-label={`Do not sweep ${swept.name}`} onClick={onRemove}>
          ×
        </button>
      )}
    </span>
  );
}

/** What lies there by one property; choosing a group shows it alone. */
function Groups(props: {
  by: Grouping;
  plan: SweepPlan;
  facet: Facet | undefined;
  onFacet(facet: Facet | undefined): void;
}) {
  const { by, plan, facet, onFacet } = props;
  const groups = useMemo(
    () =>
      groupsOf(
        plan.things.map((t) => ({ ...t, isFolder: t.type === 'folder' })),
        by,
        plan.at,
      ),
    [plan, by],
  );
  // where all are alike there is nothing to choose
  if (groups.length < 2) return null;
  return (
    <FilterChip
      title={GROUPING_WORDS[by]}
      value={facet?.by === by ? facet.key : undefined}
      options={groups.map(({ key, count, size }) => ({
        value: key === '' ? ' ' : key,
        label: `${groupWords(by, key)} · ${count}${size > 0 ? ` · ${formatBytes(size)}` : ''}`,
      }))}
      onChange={(key) => onFacet(key === undefined ? undefined : { by, key: key.trim() })}
    />
  );
}

/** What was to go and did not, with why. */
function Stayed({ left, onClose }: { left: readonly SweepLeft[]; onClose(): void }) {
  const shownLeft = left.slice(0, 5);
  return (
    <div className="sweep-left sheet" role="status">
      <strong>{left.length === 1 ? 'One thing stayed' : `${left.length} things stayed`}</strong>
      <ul>
        {shownLeft.map(({ name, why }, i) => (
          <li key={i} className="small">
            <b>{name}</b>: {why}
          </li>
        ))}
        {left.length > shownLeft.length && <li className="small">and {left.length - shownLeft.length} more</li>}
      </ul>
      <Button size="small" onClick={onClose}>
        Close
      </Button>
    </div>
  );
}
