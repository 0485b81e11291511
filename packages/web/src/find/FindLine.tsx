/** The find line: one field that finds anything and can run any command. ARIA combobox with a grouped list. */
import { useEffect, useEffectEvent, useRef, useState, type KeyboardEvent } from 'react';
import { useSearchParams } from 'react-router';
import type { FindAnswerView } from '@rellin/contract';
import type { Chip } from '@rellin/core/chips';
import { useFind } from '../api/queries';
import type { Act } from '../acts/acts';
import { CommandKey, KeyCap } from '../parts/KeyCap';
import { useStateFor } from '../parts/useStateFor';
import { useChips } from './useChips';
import { looksTyped, useFindOptions } from './useFindOptions';
import './FindLine.css';

const NO_ANSWERS: FindAnswerView[] = [];

/** What Enter means: open it, with Shift list the acts, with Ctrl make a shortcut. */
type Entered = 'run' | 'acts' | 'add';

export function FindLine() {
  const input = useRef<HTMLInputElement>(null);
  const [query, setQuery] = useState('');
  const [open, setOpen] = useState(false);
  const [active, setActive] = useStateFor(query, 0);
  const [actsOf, setActsOf] = useState<{ name: string; acts: Act[] }>();
  /** Enter was pressed before the answers were here. */
  const [waiting, setWaiting] = useState<Entered>();
  /** Conditions taken from words typed, each with the chip's label. */
  const [taken, setTaken] = useState<{ label: string; where: string }[]>([]);
  const find = useFind(open ? query : '', taken.map((t) => t.where).join(' '));
  const offered = useChips(query);
  const take = (chip: Chip) => {
    setTaken((now) => [...now.filter((t) => t.where !== chip.where), { label: chip.label, where: chip.where }]);
    setQuery((now) => `${now.slice(0, chip.from)}${now.slice(chip.to)}`.replace(/\s+/g, ' ').trimStart());
    input.current?.focus();
  };

  const close = () => {
    setWaiting(undefined);
    setOpen(false);
    setActsOf(undefined);
    setActive(0);
  };

  const options = useFindOptions(query, taken.length > 0, find.data?.answers ?? NO_ANSWERS);

  useEffect(() => {
    const focus = () => {
      input.current?.focus();
      input.current?.select();
    };
    document.addEventListener('rellin:find', focus);
    return () => document.removeEventListener('rellin:find', focus);
  }, []);

  // as a desktop entry or a command asks for it
  const [params, setParams] = useSearchParams();
  const wanted = params.has('find');
  useEffect(() => {
    if (!wanted) return;
    input.current?.focus();
    setParams(
      (now) => {
        now.delete('find');
        return now;
      },
      { replace: true },
    );
  }, [wanted, setParams]);

  const shownRows = actsOf ? actsOf.acts.length : options.length;
  const choose = (index: number, how: 'run' | 'add' = 'run') => {
    const run = actsOf ? actsOf.acts[index]?.run : options[index]?.[how];
    if (!run) return;
    close();
    setQuery('');
    setTaken([]);
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

  // what is listed answers an earlier text until the answers to this one are here: Enter waits for them
  const text = query.trim();
  const stale =
    (text !== '' || taken.length > 0) &&
    !looksTyped(text) &&
    !find.isError &&
    (find.isPending || find.isPlaceholderData);
  const enter = (how: Entered) => {
    if (how === 'acts') showActs(active);
    else choose(active, how);
  };
  const enterWaiting = useEffectEvent((how: Entered) => {
    setWaiting(undefined);
    enter(how);
  });
  useEffect(() => {
    if (stale || waiting === undefined) return;
    let isCurrent = true;
    // leaving the field is an event of its own, which React does not take while it is at work
    queueMicrotask(() => isCurrent && enterWaiting(waiting));
    return () => {
      isCurrent = false;
    };
  }, [stale, waiting]);

  const onKeyDown = (event: KeyboardEvent) => {
    switch (event.key) {
      case 'ArrowDown':
        setOpen(true);
        setActive((a) => Math.min(shownRows - 1, a + 1));
        break;
      case 'ArrowUp':
        setActive((a) => Math.max(0, a - 1));
        break;
      case 'Enter': {
        const how = actsOf ? 'run' : event.shiftKey ? 'acts' : event.ctrlKey || event.metaKey ? 'add' : 'run';
        if (stale && !actsOf) setWaiting(how);
        else enter(how);
        break;
      }
      case 'Backspace':
        if (query !== '' || taken.length === 0) return;
        setTaken((now) => now.slice(0, -1));
        break;
      case 'Tab':
        if (event.shiftKey || !open || offered.length === 0) return;
        take(offered[0]!);
        break;
      case 'Escape':
        if (actsOf) {
          setActsOf(undefined);
          setActive(0);
        } else if (open && (query !== '' || taken.length > 0)) {
          setQuery('');
          setTaken([]);
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
  const showing = open && (options.length > 0 || query.trim() !== '' || taken.length > 0);
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
          setWaiting(undefined);
          setActsOf(undefined);
          setOpen(true);
        }}
        onKeyDown={onKeyDown}
      />
      <CommandKey of="/" />
      {showing && (
        <div className="find-panel">
          {!actsOf && (taken.length > 0 || offered.length > 0) && (
            <div className="find-chips" role="group" aria-label="Narrow by">
              {taken.map((t) => (
                <button
                  key={t.where}
                  type="button"
                  className="chip on"
                  tabIndex={-1}
                  aria-label={`No longer ${t.label}`}
                  onMouseDown={(e) => e.preventDefault()}
                  onClick={() => setTaken((now) => now.filter((x) => x !== t))}
                >
                  {t.label} ×
                </button>
              ))}
              {offered.map((chip, i) => (
                <button
                  key={chip.where}
                  type="button"
                  className="chip"
                  tabIndex={-1}
                  onMouseDown={(e) => e.preventDefault()}
                  onClick={() => take(chip)}
                >
                  Only {chip.label} {i === 0 && <KeyCap>Tab</KeyCap>}
                </button>
              ))}
            </div>
          )}
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
          {!actsOf && options.length === 0 && !find.isError && (find.isFetching || stale) && (
            <p className="find-none" role="status">
              Looking…
            </p>
          )}
          {!actsOf && options.length === 0 && find.isError && (
            <p className="find-none" role="alert">
              {find.error.message}
            </p>
          )}
          {!actsOf && options.length === 0 && find.isSuccess && !find.isFetching && (
            <p className="find-none">Nothing is called that, here or away. Try fewer letters, or paste a path.</p>
          )}
          <p className="find-foot small">
            <KeyCap>↵</KeyCap> {actsOf ? 'do it' : 'open'} <KeyCap>Shift ↵</KeyCap> acts{' '}
            {!actsOf && options[active]?.add && (
              <>
                <KeyCap>Ctrl ↵</KeyCap> add shortcut{' '}
              </>
            )}
            <KeyCap>Esc</KeyCap> back
          </p>
        </div>
      )}
    </div>
  );
}
