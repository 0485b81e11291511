/** What a search finds, in the shape it is kept in. */
import { lazy, Suspense, useMemo } from 'react';
import type { AnswersView, AnswerView, ListShape, SearchOrder } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { runKey, useActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import {
  useSelection,
  useWorkspaceActions,
  usePreviewOrder,
  type PreviewTarget,
  type SearchDraft,
} from '../workspace/workspace';
import { shortDate } from '../parts/dates';
import { DragHandle } from '../parts/DragRow';
import { EmptyState } from '../parts/EmptyState';
import { Grid, type Column } from '../parts/Grid';
import { picturedEntry } from '../parts/pictured';
import { KindIcon } from '../parts/KindIcon';
import { SHAPE_WORDS } from '../parts/listShapes';
import { ShapedList } from '../parts/ShapedList';
import { Tether } from '../parts/Tether';
import type { ShortcutState } from '@rellin/core/identity';
import { groupAnswers } from './groups';

const Preview = lazy(() => import('../preview/PreviewDialog').then((m) => ({ default: m.Preview })));

type Line = { id: string; title: string; count: number } | AnswerView;
const isHead = (line: Line): line is Extract<Line, { title: string }> => 'title' in line;
const idOf = (line: Line) => (isHead(line) ? `head ${line.id}` : `${line.placeId}/${line.id}`);

const isListShape = (shape: SearchDraft['showAs']): shape is ListShape => Object.hasOwn(SHAPE_WORDS, shape);
const dragIdOf = (answer: AnswerView) => `answer-${answer.placeId}-${answer.id}`;

/** What stands before the first mark, at most; the mark itself must be in sight. */
const BEFORE_MARK = 14;

/** A snippet with what was asked marked in it. */
function Snippet({ text }: { text: string }) {
  const mark = text.indexOf('«');
  const shownText = mark > BEFORE_MARK ? `…${text.slice(mark - BEFORE_MARK)}` : text;
  return (
    <span className="snippet small cut" title={text.replace(/[«»]/g, '')}>
      {shownText
        .split(/(«[^»]*»)/)
        .map((piece, i) => (piece.startsWith('«') ? <mark key={i}>{piece.slice(1, -1)}</mark> : piece))}
    </span>
  );
}

function Name({ answer }: { answer: AnswerView }) {
  return (
    <DragHandle id={dragIdOf(answer)} item={{ type: 'original', entry: answer }}>
      {answer.shortcut ? <Tether state={answer.shortcut.state as ShortcutState} /> : <KindIcon kind={answer.kind} />}
      <span className="name cut" title={shown(answer.name)}>
        {shown(answer.name)}
      </span>
    </DragHandle>
  );
}

const COLUMNS: Column<Line>[] = [
  {
    id: 'name',
    title: 'Name',
    width: 'minmax(150px, 1.7fr)',
    sortable: true,
    cell: (line) =>
      isHead(line) ? (
        <span className="answer-head cut">
          {line.title} <span className="small">{line.count}</span>
        </span>
      ) : (
        <Name answer={line} />
      ),
  },
  {
    id: 'kind',
    title: 'Kind',
    width: '58px',
    sortable: true,
    cell: (line) => !isHead(line) && <span className="small">{kindWord(line.kind)}</span>,
  },
  {
    id: 'size',
    title: 'Size',
    width: '58px',
    align: 'right',
    sortable: true,
    cell: (line) =>
      !isHead(line) && (
        <span className="small">{line.type === 'folder' ? `${line.children} in it` : formatBytes(line.size)}</span>
      ),
  },
  {
    id: 'modified',
    title: 'Modified',
    width: '76px',
    sortable: true,
    cell: (line) => !isHead(line) && <span className="small">{shortDate(new Date(line.modified).toISOString())}</span>,
  },
  {
    id: 'where',
    title: 'Where',
    width: 'minmax(70px, 1fr)',
    cell: (line) =>
      !isHead(line) && (
        <span className="small cut" title={line.trail.map(shown).join(' › ')}>
          {line.trail.slice(-2).map(shown).join(' › ')}
        </span>
      ),
  },
];

/** Where contents were asked, what they say matters more than kind and size. */
const SAYS: Column<Line> = {
  id: 'says',
  title: 'Says',
  width: 'minmax(150px, 1.6fr)',
  cell: (line) => !isHead(line) && line.snippet !== null && <Snippet text={line.snippet} />,
};
const SAYING = [COLUMNS[0]!, SAYS, ...COLUMNS.slice(3)];

function columnsFor(view: AnswersView, shape: SearchDraft['showAs']): Column<Line>[] {
  if (view.answers.some((a) => a.snippet !== null)) return SAYING;
  return shape === 'by-kind' ? COLUMNS.filter((c) => c.id !== 'kind') : COLUMNS;
}

export function Answers(props: {
  draft: SearchDraft;
  view: AnswersView;
  onSort(by: SearchOrder, descending: boolean): void;
}) {
  const { draft, view } = props;
  const { selected } = useSelection();
  const { select, openMenu } = useWorkspaceActions();
  const acts = useActs('search');
  const d = useCommands();
  const groups = useMemo(() => groupAnswers(view.answers, draft.showAs), [view.answers, draft.showAs]);
  const lines = useMemo((): Line[] => {
    if (isListShape(draft.showAs)) return view.answers;
    return groups.flatMap((g): Line[] => [{ id: g.id, title: g.title, count: g.answers.length }, ...g.answers]);
  }, [groups, view.answers, draft.showAs]);
  usePreviewOrder(
    useMemo(
      () =>
        lines.flatMap((a): PreviewTarget[] =>
          isHead(a)
            ? []
            : [
                {
                  placeId: a.placeId,
                  originalId: a.id,
                  name: shown(a.name),
                  selects: { type: 'original', placeId: a.placeId, id: a.id },
                },
              ],
        ),
      [lines],
    ),
  );
  const open = (a: AnswerView) => void d.open({ placeId: a.placeId, originalId: a.id, route: 'search' });
  const selectAnswer = (a: AnswerView) => select({ type: 'original', placeId: a.placeId, id: a.id });
  const selectedKey = selected?.type === 'original' ? `${selected.placeId}/${selected.id}` : undefined;
  const empty = (
    <EmptyState title="Nothing fits these conditions">
      {view.rows && view.rows.length > 1
        ? 'Each row says how many are excluded by it alone: the one with the highest number empties the answer.'
        : 'It fills itself as soon as something does.'}
    </EmptyState>
  );
  const list = {
    label: 'Found',
    count: lines.length,
    item: (i: number) => lines[i],
    keyOf: idOf,
    selectedKey,
    onSelect: (line: Line) => !isHead(line) && selectAnswer(line),
    onOpen: (line: Line) => !isHead(line) && open(line),
    onMenu: (line: Line, at: { x: number; y: number }) =>
      !isHead(line) && openMenu({ type: 'original', entry: line }, at),
    onKey: (event: React.KeyboardEvent, line: Line) =>
      !isHead(line) && runKey(acts({ type: 'original', entry: line }), event.key),
    empty,
  };
  const sort = { by: draft.sortBy, descending: draft.descending };
  const onSort = (by: string) => {
    const order = by as SearchOrder;
    props.onSort(order, order === draft.sortBy ? !draft.descending : order === 'size' || order === 'modified');
  };
  const columns = columnsFor(view, draft.showAs);
  if (isListShape(draft.showAs))
    return (
      <ShapedList<AnswerView>
        {...list}
        item={(i) => view.answers[i]}
        columns={columns}
        rowHeight={40}
        sort={sort}
        onSort={onSort}
        shape={draft.showAs}
        nameOf={(a) => shown(a.name)}
        pictureOf={picturedEntry}
        factsOf={(a) => shown(a.trail.at(-1) ?? '')}
        dragged={(a, content) => (
          <DragHandle id={dragIdOf(a)} item={{ type: 'original', entry: a }}>
            {content}
          </DragHandle>
        )}
        preview={(a) =>
          a && (
            <Suspense fallback={null}>
              <Preview placeId={a.placeId} originalId={a.id} name={a.name} />
            </Suspense>
          )
        }
      />
    );
  if (draft.showAs === 'folders' && lines.length > 0)
    return (
      <div className="answer-columns" role="group" aria-label="Found, a column for each folder">
        {groups.map((g) => (
          <section key={g.id} className="answer-column sheet" aria-label={g.title}>
            <h3 title={g.title}>
              <span className="cut">{g.title.split(' › ').at(-1)}</span>{' '}
              <span className="small">{g.answers.length}</span>
            </h3>
            <p className="small cut">{g.title.split(' › ').slice(0, -1).join(' › ') || ' '}</p>
            <ul>
              {g.answers.map((a) => (
                <li key={idOf(a)}>
                  <button
                    type="button"
                    className={idOf(a) === selectedKey ? 'on' : ''}
                    onClick={() => selectAnswer(a)}
                    onDoubleClick={() => open(a)}
                    onFocus={() => selectAnswer(a)}
                    onContextMenu={(event) => {
                      event.preventDefault();
                      openMenu({ type: 'original', entry: a }, { x: event.clientX, y: event.clientY });
                    }}
                    onKeyDown={(event) => {
                      const box = event.currentTarget.getBoundingClientRect();
                      if (event.key === 'Enter') open(a);
                      else if (event.key === 'F10' && event.shiftKey)
                        openMenu({ type: 'original', entry: a }, { x: box.left + 20, y: box.bottom });
                      else if (event.ctrlKey || event.altKey || !list.onKey(event, a)) return;
                      event.preventDefault();
                      event.stopPropagation();
                    }}
                  >
                    <KindIcon kind={a.kind} />
                    <span className="cut">{shown(a.name)}</span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    );
  return <Grid {...list} columns={columns} rowHeight={40} sort={sort} onSort={onSort} />;
}
