/** One question, saved or not: its text, its rows, how it is laid out, and the answer, all live. */
import { useCallback, useEffect, useRef, useState } from 'react';
import Button from '@mui/material/Button';
import type { AnswersView, SearchShape, SearchView } from '@rellin/contract';
import { ANSWER_ORDERS } from '@rellin/core/memoryIndex';
import { parseQuery, type Group } from '@rellin/core/query';
import { usePlaces } from '../api/queries';
import { MoreButton } from '../acts/MoreButton';
import { useActs } from '../acts/useActs';
import { useWorkspaceActions, type SearchDraft } from '../workspace/workspace';
import { SearchMark } from '../parts/CollectionMark';
import { NotLoaded } from '../parts/Loaded';
import { Roving } from '../parts/Roving';
import { ChoiceChip } from '../parts/ChoiceChip';
import { EmptyState } from '../parts/EmptyState';
import { ChipMenu } from '../parts/ChipMenu';
import { Answers } from './Answers';
import { canonical, draftOf, EMPTY, groupOf, isSame, placesLabel, placesWith, SHAPE_WORDS, textOf } from './draft';
import { RowsBuilder } from './RowsBuilder';
import { useAnswers } from './useAnswers';
import { useSearchActs } from '../acts/useSearchActs';

const number = new Intl.NumberFormat('en-GB');
const MOSTS = [100, 500, 2000, 5000];
const EXAMPLES = [
  'modified:7d is:file',
  'kind:sound in:"North cliff"',
  'size>5MB -kind:picture',
  'opened:never is:shortcut',
];

/** Where a text goes wrong, in the page before it is sent; the server says the same. */
function Trouble({ text, onTake }: { text: string; onTake(text: string): void }) {
  const parsed = parseQuery(text);
  if (parsed.ok) return null;
  const { at, length, message, suggestion } = parsed.error;
  const part = text.slice(at, at + length);
  return (
    <p className="query-trouble small" role="status">
      {part && <b className="mono">{part}</b>} {message}
      {suggestion && (
        <button
          type="button"
          className="chip"
          onClick={() => onTake(text.slice(0, at) + suggestion + text.slice(at + length))}
        >
          Take “{suggestion}”
        </button>
      )}
    </p>
  );
}

/** `begin` is the text that a new search begins with. */
export function SearchPane({ search, begin = '' }: { search: SearchView | undefined; begin?: string }) {
  const [draft, setDraft] = useState<SearchDraft>(search ? draftOf(search) : { ...EMPTY, query: begin });
  const [group, setGroup] = useState<Group | undefined>(groupOf(draft.query));
  const [rowsOpen, setRowsOpen] = useState(search === undefined);
  const places = usePlaces().data ?? [];
  const { openDialog, select } = useWorkspaceActions();
  const searchActs = useSearchActs();
  const acts = useActs('search');
  const saved = search ? draftOf(search) : EMPTY;
  const same = isSame(draft, saved);

  // what is saved elsewhere shows here, unless it is being changed here
  const seen = useRef(saved);
  useEffect(() => {
    if (isSame(seen.current, saved)) return;
    setDraft((now) => {
      if (!isSame(now, seen.current)) return now;
      setGroup(groupOf(saved.query));
      return saved;
    });
    seen.current = saved;
  }, [saved]);
  const id = search?.id;
  useEffect(() => select(id === undefined ? undefined : { type: 'search', id }), [id, select]);

  const put = (more: Partial<SearchDraft>) => setDraft((now) => ({ ...now, ...more }));
  const setText = (query: string) => {
    put({ query });
    const next = groupOf(query);
    if (next && (!group || textOf(group) !== canonical(query))) setGroup(next);
  };
  const setRows = useCallback((next: Group) => {
    setGroup(next);
    setDraft((now) => ({ ...now, query: textOf(next) }));
  }, []);

  const readable = parseQuery(draft.query).ok;
  // while a word is half written the last answer stays
  const [asked, setAsked] = useState(draft);
  if (readable && asked !== draft) setAsked(draft);
  const answers = useAnswers(asked);
  const view: AnswersView | undefined = draft.query.trim() === '' ? undefined : answers.data;
  return (
    <section className="search" aria-label={search?.name ?? 'New search'}>
      <Roving label="What is asked, and how it is shown">
        <div className="view-head">
          <h2>
            <SearchMark colour={search?.colour ?? ''} /> {search?.name ?? 'New search'}
          </h2>
          {view && (
            <span className="small" role="status">
              {number.format(view.count)} found
              {view.count > draft.most && `, the first ${number.format(draft.most)} shown`}
            </span>
          )}
          <span className="head-acts">
            {search && !same && (
              <Button
                variant="outlined"
                onClick={() => {
                  setDraft(saved);
                  setGroup(groupOf(saved.query));
                }}
              >
                Discard changes
              </Button>
            )}
            {search && !same && readable && (
              <Button variant="contained" onClick={() => void searchActs.change(search, draft)}>
                Save
              </Button>
            )}
            {(!search || !same) && (
              <Button
                variant={search ? 'outlined' : 'contained'}
                disabled={!readable || draft.query.trim() === ''}
                onClick={() => openDialog({ kind: 'save-search', draft })}
              >
                {search ? 'Save as…' : 'Save search…'}
              </Button>
            )}
            {search && <MoreButton acts={acts({ type: 'search', search }).filter((act) => act.id !== 'open')} />}
          </span>
        </div>
        <div className="query-line">
          <input
            className="query-text mono"
            type="text"
            aria-label="What is asked, as text"
            aria-invalid={!readable}
            placeholder="for example  kind:table in:Ringing modified:30d"
            value={draft.query}
            spellCheck={false}
            autoComplete="off"
            // a new search is asked at once
            autoFocus={!search}
            onChange={(event) => setText(event.target.value)}
          />
          <button
            type="button"
            className={`chip${rowsOpen ? ' on' : ''}`}
            aria-pressed={rowsOpen}
            onClick={() => setRowsOpen(!rowsOpen)}
          >
            Rows
          </button>
        </div>
        {!readable && <Trouble text={draft.query} onTake={setText} />}
        {rowsOpen && group && <RowsBuilder group={group} rows={view?.rows ?? null} onChange={setRows} />}
        <div className="query-line">
          <ChipMenu
            label={placesLabel(draft.places, places)}
            ariaLabel={`Places looked into: ${placesLabel(draft.places, places)}`}
            on={draft.places !== null}
            several
            options={places.map((p) => ({ value: String(p.id), label: p.name }))}
            chosen={(draft.places ?? places.map((p) => p.id)).map(String)}
            onChoose={(id) => put({ places: placesWith(draft.places, places, Number(id)) })}
          />
          <ChoiceChip
            label="Shown as"
            value={draft.showAs}
            options={(Object.keys(SHAPE_WORDS) as SearchShape[]).map((s) => ({ value: s, label: SHAPE_WORDS[s] }))}
            onChange={(showAs) => put({ showAs })}
          />
          <ChoiceChip
            label="Order"
            value={draft.sortBy}
            options={ANSWER_ORDERS.map((o) => ({ value: o, label: `by ${o}` }))}
            onChange={(sortBy) => put({ sortBy })}
          />
          <button
            type="button"
            className="chip"
            title={draft.descending ? 'Last first' : 'First first'}
            onClick={() => put({ descending: !draft.descending })}
          >
            {draft.descending ? '↓ downward' : '↑ upward'}
          </button>
          <ChoiceChip
            label="At most"
            value={String(draft.most)}
            options={MOSTS.map((n) => ({ value: String(n), label: `${number.format(n)} at most` }))}
            onChange={(most) => put({ most: Number(most) })}
          />
        </div>
      </Roving>
      {view ? (
        <Answers draft={draft} view={view} onSort={(sortBy, descending) => put({ sortBy, descending })} />
      ) : answers.isError ? (
        <NotLoaded title="The search could not be run" error={answers.error} onAgain={() => void answers.refetch()} />
      ) : draft.query.trim() === '' ? (
        <EmptyState title="Ask for something">
          Write words and conditions above, or add rows; the answer shows as you go. Save it under a name and it keeps
          itself up to date.
          <span className="query-examples">
            {EXAMPLES.map((example) => (
              <button key={example} type="button" className="chip mono" onClick={() => setText(example)}>
                {example}
              </button>
            ))}
          </span>
        </EmptyState>
      ) : null}
    </section>
  );
}
