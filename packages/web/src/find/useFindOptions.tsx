/** What the find line offers for what is typed. */
import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import type { FindAnswerView } from '@rellin/contract';
import type { ShortcutState } from '@rellin/core/identity';
import { kindWord } from '@rellin/core/kinds';
import { formatSeconds } from '@rellin/core/units';
import { useBoards, useCollections, useSearches, useShortcuts } from '../api/queries';
import type { Act } from '../acts/acts';
import { useActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { useFrame, useWorkspaceActions, type Item } from '../workspace/workspace';
import { useFeatures, type FindCommand } from '../workspace/feature';
import { VIEWS } from '../workspace/views';
import { CollectionMark, SearchMark } from '../parts/CollectionMark';
import { KindIcon } from '../parts/KindIcon';
import { Tether } from '../parts/Tether';

export interface FindOption {
  id: string;
  group: string;
  content: React.ReactNode;
  run(): void;
  acts(): Act[];
  /** Makes a shortcut of what has none. */
  add?(): void;
  /** What the second key's list is about. */
  name: string;
}

export function Marked({ text, ranges }: { text: string; ranges: [number, number][] }) {
  const parts: React.ReactNode[] = [];
  let at = 0;
  for (const [from, to] of ranges) {
    parts.push(text.slice(at, from), <mark key={from}>{text.slice(from, to)}</mark>);
    at = to;
  }
  parts.push(text.slice(at));
  return <>{parts}</>;
}

function answerItem(answer: FindAnswerView): Item {
  return {
    type: 'original',
    entry: {
      id: answer.originalId ?? 0,
      placeId: answer.placeId ?? 0,
      name: answer.name,
      type: answer.kind === 'folder' ? 'folder' : 'file',
      kind: answer.kind,
      mime: '',
      size: 0,
      modified: 0,
      children: null,
      shortcut: answer.shortcutId ? { id: answer.shortcutId, name: '', state: 'ready' } : null,
      tags: [],
    },
  };
}

/** Commands that stand for themselves: the features', the views and the boards; matched by the words typed. */
function useFindCommands(): FindCommand[] {
  const { all } = useFeatures();
  const d = useCommands();
  const navigate = useNavigate();
  const boards = useBoards().data;
  const { openDialog, setQuiet } = useWorkspaceActions();
  const { quiet } = useFrame();
  return useMemo(
    () => [
      ...all.flatMap((f) => f.commands?.({ d, openDialog, navigate, quiet, setQuiet }) ?? []),
      ...VIEWS.map((view) => ({ name: `Go to ${view.name}`, called: view.name, run: () => void navigate(view.path) })),
      ...(quiet ? [] : (boards ?? [])).map((b) => ({
        name: `Go to the board ${b.name}`,
        called: b.name,
        run: () => void navigate(`/boards/${b.id}`),
      })),
    ],
    [all, boards, d, navigate, openDialog, quiet, setQuiet],
  );
}

const GROUP_WORDS = {
  shortcut: 'Shortcuts',
  collection: 'Collections',
  search: 'Saved searches',
  original: 'Originals',
} as const;

export const looksTyped = (text: string) =>
  /^(\/|~\/|file:|https?:\/\/|mailto:)/i.test(text.trim()) && text.trim().length > 1;

/** `narrowed` says that conditions were taken: then only answers are offered, no commands and nothing lately opened. */
export function useFindOptions(query: string, narrowed: boolean, answers: readonly FindAnswerView[]): FindOption[] {
  const shortcuts = useShortcuts();
  const collections = useCollections().data;
  const searches = useSearches().data;
  const acts = useActs('find');
  const commands = useFindCommands();
  const d = useCommands();
  const { openDialog, select } = useWorkspaceActions();
  const { quiet } = useFrame();
  const navigate = useNavigate();
  return useMemo((): FindOption[] => {
    const list: FindOption[] = [];
    const text = query.trim();
    if (looksTyped(text)) {
      list.push({
        id: 'typed-add',
        group: 'Do',
        name: text,
        content: (
          <span className="cut">
            Add shortcut to <b>{text}</b>
          </span>
        ),
        run: () => openDialog({ kind: 'add', typed: text }),
        acts: () => [],
      });
      if (!/^(https?|mailto):/i.test(text))
        list.push({
          id: 'typed-go',
          group: 'Do',
          name: text,
          content: (
            <span className="cut">
              Show where <b>{text}</b> is
            </span>
          ),
          run: () => void d.goTo(text),
          acts: () => [],
        });
      return list;
    }
    if (text === '' && !narrowed) {
      if (quiet) return [];
      const recent = [...(shortcuts.data ?? [])]
        .filter((s) => s.lastOpenedAt !== null)
        .sort((a, b) => b.lastOpenedAt!.localeCompare(a.lastOpenedAt!))
        .slice(0, 7);
      return recent.map((s) => ({
        id: s.id,
        group: 'Opened lately',
        name: s.name,
        content: (
          <>
            <Tether state={s.state} />
            <span className="name cut">{s.name}</span>
            <span className="small cut">{s.trail.join(' › ')}</span>
            <span className="small figure">{s.reach.best ? formatSeconds(s.reach.best.seconds) : ''}</span>
          </>
        ),
        run: () => void d.open({ shortcutId: s.id, route: 'find' }),
        acts: () => acts({ type: 'shortcut', shortcut: s }),
      }));
    }
    const lower = text.toLowerCase();
    const asDo = (c: FindCommand): FindOption => ({
      id: `do-${c.name}`,
      group: 'Do',
      name: c.name,
      content: <span className="cut">{c.name}</span>,
      run: c.run,
      acts: () => [],
    });
    // what is called exactly that comes first, whatever else is called like it
    const exact =
      text === '' ? [] : commands.filter((c) => c.name.toLowerCase() === lower || c.called?.toLowerCase() === lower);
    list.push(...exact.map(asDo));
    // the groups stand in the order of their best answers
    for (const group of new Set(answers.map((a) => a.group)))
      for (const a of answers.filter((x) => x.group === group)) {
        const shortcut = group === 'shortcut' ? shortcuts.data?.find((s) => s.id === a.shortcutId) : undefined;
        const search = group === 'search' ? searches?.find((s) => s.id === a.id) : undefined;
        const collection = group === 'collection' ? collections?.find((c) => c.id === a.id) : undefined;
        list.push({
          id: a.id,
          group: GROUP_WORDS[group],
          name: a.name,
          content: (
            <>
              {a.state ? (
                <Tether state={a.state as ShortcutState} />
              ) : group === 'search' ? (
                <SearchMark colour={search?.colour ?? ''} />
              ) : group === 'collection' ? (
                <CollectionMark colour={collection?.colour ?? ''} />
              ) : (
                <KindIcon kind={a.kind} />
              )}
              <span className="name cut">
                <Marked text={a.name} ranges={a.ranges} />
              </span>
              <span className="small cut">
                {a.trail}
                {group === 'original'
                  ? ` · ${kindWord(a.kind)}`
                  : collection
                    ? `${collection.count} ${collection.count === 1 ? 'thing' : 'things'}`
                    : ''}
              </span>
              <span className="small figure">{a.seconds === null ? '' : formatSeconds(a.seconds)}</span>
            </>
          ),
          run: () => {
            if (group === 'search') return void navigate(`/searches/${a.id}`);
            if (group === 'collection') return void navigate(`/collections/${a.id}`);
            if (shortcut) select({ type: 'shortcut', id: shortcut.id });
            void d.open(
              group === 'shortcut'
                ? { shortcutId: a.id, route: 'find' }
                : { placeId: a.placeId!, originalId: a.originalId!, route: 'find' },
            );
          },
          ...(group === 'original' &&
            a.shortcutId === null && {
              add: () => void d.addShortcut({ placeId: a.placeId!, originalId: a.originalId! }),
            }),
          acts: () =>
            acts(
              shortcut
                ? { type: 'shortcut', shortcut }
                : search
                  ? { type: 'search', search }
                  : collection
                    ? { type: 'collection', collection }
                    : answerItem(a),
            ),
        });
      }
    const words = lower.split(/\s+/);
    const rest = (narrowed ? [] : commands).filter(
      (c) => !exact.includes(c) && words.every((w) => c.name.toLowerCase().includes(w)),
    );
    list.push(...rest.slice(0, 4).map(asDo));
    return list;
  }, [
    query,
    answers,
    shortcuts.data,
    collections,
    searches,
    acts,
    commands,
    d,
    openDialog,
    select,
    navigate,
    quiet,
    narrowed,
  ]);
}
