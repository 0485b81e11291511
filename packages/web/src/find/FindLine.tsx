/** The find line: one field that finds anything and can run any command. ARIA combobox with a grouped list. */
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useNavigate } from 'react-router';
import type { FindAnswerView } from '@rellin/contract';
import type { ShortcutState } from '@rellin/core/identity';
import { kindWord } from '@rellin/core/kinds';
import { formatSeconds } from '@rellin/core/units';
import { useCollections, useFind, useShortcuts } from '../api/queries';
import type { Act } from '../acts/acts';
import { useActs } from '../acts/useActs';
import { useDo } from '../acts/useDo';
import { useDesk, type Item } from '../frame/desk';
import { VIEWS } from '../frame/views';
import { KeyCap } from '../parts/KeyCap';
import { CollectionMark } from '../parts/CollectionMark';
import { KindIcon } from '../parts/KindIcon';
import { Tether } from '../parts/Tether';
import './FindLine.css';

interface Option {
  id: string;
  group: string;
  content: React.ReactNode;
  run(): void;
  acts(): Act[];
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
      id: answer.originalId ?? '',
      placeId: answer.placeId ?? 0,
      name: answer.name,
      type: answer.kind === 'folder' ? 'folder' : 'file',
      kind: answer.kind,
      mime: '',
      size: 0,
      modified: 0,
      children: null,
      shortcut: answer.shortcutId ? { id: answer.shortcutId, name: '', state: 'ready' } : null,
    },
  };
}

/** Commands that stand for themselves; matched by the words typed. */
function useCommands() {
  const d = useDo();
  const navigate = useNavigate();
  const { openDialog, quiet, setQuiet } = useDesk();
  return useMemo(
    () => [
      { name: 'Add shortcut…', run: () => openDialog({ kind: 'add' }) },
      { name: 'New collection…', run: () => openDialog({ kind: 'new-collection', collectionType: 'plain' }) },
      { name: 'New working set…', run: () => openDialog({ kind: 'new-collection', collectionType: 'working-set' }) },
      { name: 'Undo', run: () => void d.undo() },
      { name: 'Redo', run: () => void d.redo() },
      { name: quiet ? 'End the quiet screen' : 'Quiet screen', run: () => setQuiet(!quiet) },
      { name: 'Show the keys', run: () => openDialog({ kind: 'keys' }) },
      ...VIEWS.map((view) => ({ name: `Go to ${view.name}`, run: () => void navigate(view.path) })),
    ],
    [d, navigate, openDialog, quiet, setQuiet],
  );
}

const GROUP_WORDS = { shortcut: 'Shortcuts', collection: 'Collections', original: 'Originals' } as const;

const looksTyped = (text: string) => /^(\/|~\/|file:|https?:\/\/|mailto:)/i.test(text.trim()) && text.trim().length > 1;

export function FindLine() {
  const input = useRef<HTMLInputElement>(null);
  const [query, setQuery] = useState('');
  const [open, setOpen] = useState(false);
  const [active, setActive] = useState(0);
  const [actsOf, setActsOf] = useState<{ name: string; acts: Act[] }>();
  const find = useFind(open ? query : '');
  const shortcuts = useShortcuts();
  const collections = useCollections().data;
  const acts = useActs('find');
  const commands = useCommands();
  const d = useDo();
  const { openDialog, select, quiet } = useDesk();
  const navigate = useNavigate();

  const close = () => {
    setOpen(false);
    setActsOf(undefined);
    setActive(0);
  };

  const options = useMemo((): Option[] => {
    const list: Option[] = [];
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
    if (text === '') {
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
    for (const group of ['shortcut', 'collection', 'original'] as const)
      for (const a of (find.data?.answers ?? []).filter((x) => x.group === group)) {
        const shortcut = group === 'shortcut' ? shortcuts.data?.find((s) => s.id === a.shortcutId) : undefined;
        const collection = group === 'collection' ? collections?.find((c) => c.id === a.id) : undefined;
        list.push({
          id: a.id,
          group: GROUP_WORDS[group],
          name: a.name,
          content: (
            <>
              {a.state ? (
                <Tether state={a.state as ShortcutState} />
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
            if (group === 'collection') return void navigate(`/collections/${a.id}`);
            if (shortcut) select({ type: 'shortcut', id: shortcut.id });
            void d.open(
              group === 'shortcut'
                ? { shortcutId: a.id, route: 'find' }
                : { placeId: a.placeId!, originalId: Number(a.originalId), route: 'find' },
            );
          },
          acts: () =>
            acts(
              shortcut
                ? { type: 'shortcut', shortcut }
                : collection
                  ? { type: 'collection', collection }
                  : answerItem(a),
            ),
        });
      }
    const words = text.toLowerCase().split(/\s+/);
    for (const c of commands.filter((x) => words.every((w) => x.name.toLowerCase().includes(w))).slice(0, 4))
      list.push({
        id: `do-${c.name}`,
        group: 'Do',
        name: c.name,
        content: <span className="cut">{c.name}</span>,
        run: c.run,
        acts: () => [],
      });
    return list;
  }, [query, find.data, shortcuts.data, collections, acts, commands, d, openDialog, select, navigate, quiet]);

  useEffect(() => setActive(0), [query]);

  useEffect(() => {
    const focus = () => {
      input.current?.focus();
      input.current?.select();
    };
    document.addEventListener('rellin:find', focus);
    return () => document.removeEventListener('rellin:find', focus);
  }, []);

  const shownRows = actsOf ? actsOf.acts.length : options.length;
  const choose = (index: number) => {
    const run = actsOf ? actsOf.acts[index]?.run : options[index]?.run;
    if (!run) return;
    close();
    setQuery('');
    input.current?.blur();
    run();
  };
  const showActs = (index: number) => {
    const option = options[index];
    const acts = option?.acts() ?? [];
    if (!option || acts.length === 0) return;
    setActsOf({ name: option.name, acts });
    setActive(0);
  };

  const onKeyDown = (event: KeyboardEvent) => {
    switch (event.key) {
      case 'ArrowDown':
        setOpen(true);
        setActive((a) => Math.min(shownRows - 1, a + 1));
        break;
      case 'ArrowUp':
        setActive((a) => Math.max(0, a - 1));
        break;
      case 'Enter':
        if (event.shiftKey && !actsOf) showActs(active);
        else choose(active);
        break;
      case 'Escape':
        if (actsOf) {
          setActsOf(undefined);
          setActive(0);
        } else if (open && query !== '') {
          setQuery('');
        } else {
          close();
          input.current?.blur();
        }
        break;
      default:
        return;
    }
    event.preventDefault();
  };

  let group = '';
  const showing = open && (options.length > 0 || query.trim() !== '');
  return (
    <div
      className="find-line"
      role="search"
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) close();
      }}
    >
      <input
        ref={input}
        type="text"
        role="combobox"
        aria-label="Find anything, or type what to do"
        aria-expanded={showing}
        aria-controls="find-list"
        aria-autocomplete="list"
        aria-keyshortcuts="/ Control+K"
        aria-activedescendant={showing && shownRows > 0 ? `find-${active}` : undefined}
        placeholder="Find anything, or type what to do"
        value={query}
        autoComplete="off"
        spellCheck={false}
        onFocus={() => setOpen(true)}
        onChange={(event) => {
          setQuery(event.target.value);
          setActsOf(undefined);
          setOpen(true);
        }}
        onKeyDown={onKeyDown}
      />
      <KeyCap>/</KeyCap>
      {showing && (
        <div className="find-panel">
          <ul id="find-list" role="listbox" aria-label={actsOf ? `Acts on ${actsOf.name}` : 'Answers'}>
            {actsOf && (
              <li role="presentation" className="find-group">
                {actsOf.name}
              </li>
            )}
            {actsOf
              ? actsOf.acts.map((act, i) => (
                  <li
                    key={act.id}
                    id={`find-${i}`}
                    role="option"
                    aria-selected={i === active}
                    className={act.grave ? 'grave' : ''}
                    onPointerMove={() => setActive(i)}
                    onMouseDown={(e) => e.preventDefault()}
                    onClick={() => choose(i)}
                  >
                    {act.label}
                  </li>
                ))
              : options.flatMap((option, i) => {
                  const head = option.group !== group;
                  group = option.group;
                  return [
                    ...(head
                      ? [
                          <li key={`group-${option.group}`} role="presentation" className="find-group">
                            {option.group}
                          </li>,
                        ]
                      : []),
                    <li
                      key={option.id}
                      id={`find-${i}`}
                      role="option"
                      aria-selected={i === active}
                      onPointerMove={() => setActive(i)}
                      onMouseDown={(e) => e.preventDefault()}
                      onClick={() => choose(i)}
                    >
                      {option.content}
                    </li>,
                  ];
                })}
          </ul>
          {!actsOf && options.length === 0 && find.isSuccess && !find.isFetching && (
            <p className="find-none">Nothing is called that, here or away. Try fewer letters, or paste a path.</p>
          )}
          <p className="find-foot small">
            <KeyCap>↵</KeyCap> {actsOf ? 'do it' : 'open'} <KeyCap>Shift ↵</KeyCap> acts <KeyCap>Esc</KeyCap> back
          </p>
        </div>
      )}
    </div>
  );
}
