/** The find line: one field that finds anything and can run any command. ARIA combobox with a grouped list. */
import { useEffect, useEffectEvent, useRef, useState, type KeyboardEvent, type RefObject } from 'react';
import { useSearchParams } from 'react-router';
import type { FindAnswerView } from '@rellin/contract';
import type { Chip } from '@rellin/core/chips';
import type { Act } from '../acts/acts';
import { useFind } from '../api/queries';
import { CommandKey } from '../parts/KeyCap';
import { useStateFor } from '../parts/useStateFor';
import { FindPanel, type FindStand, type TakenChip } from './FindPanel';
import { useChips } from './useChips';
import { looksTyped, useFindOptions, type FindOption } from './useFindOptions';
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
  const [taken, setTaken] = useState<TakenChip[]>([]);
  /** Enter was pressed before the answers were here. */
  const [waiting, setWaiting] = useState<Entered>();
  const find = useFind(open ? query : '', taken.map((t) => t.where).join(' '));
  const offered = useChips(query);
  const options = useFindOptions(query, taken.length > 0, find.data?.answers ?? NO_ANSWERS);
  useAskedFor(input);

  const text = query.trim();
  const hasAsked = text !== '' || taken.length > 0;
  // what is listed answers an earlier text until the answers to this one are here
  const isStale = hasAsked && !looksTyped(text) && !find.isError && (find.isPending || find.isPlaceholderData);
  const lines = actsOf ? actsOf.acts.length : options.length;
  const showing = open && (options.length > 0 || hasAsked);

  const clear = () => {
    setQuery('');
    setTaken([]);
  };
  const close = () => {
    setWaiting(undefined);
    setOpen(false);
    setActsOf(undefined);
    setActive(0);
  };
  const take = (chip: Chip) => {
    setTaken((now) => [...now.filter((t) => t.where !== chip.where), { label: chip.label, where: chip.where }]);
    setQuery((now) => `${now.slice(0, chip.from)}${now.slice(chip.to)}`.replace(/\s+/g, ' ').trimStart());
    input.current?.focus();
  };
  const choose = (index: number, how: 'run' | 'add' = 'run') => {
    const run = actsOf ? actsOf.acts[index]?.run : options[index]?.[how];
    if (!run) return;
    close();
    clear();
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
  const enter = (how: Entered) => {
    if (how === 'acts') showActs(active);
    else choose(active, how);
  };
  const mustWait = isStale && !actsOf;
  useWaitingEnter(mustWait ? undefined : waiting, (how) => {
    setWaiting(undefined);
    enter(how);
  });
  const back = () => {
    if (actsOf) {
      setActsOf(undefined);
      setActive(0);
    } else if (open && (query !== '' || taken.length > 0)) clear();
    else {
      close();
      input.current?.blur();
    }
  };

  /** What a key does; undefined for one that is the field's own. */
  const actOfKey = (event: KeyboardEvent): (() => void) | undefined => {
    switch (event.key) {
      case 'ArrowDown':
        return () => {
          setOpen(true);
          setActive((a) => Math.min(lines - 1, a + 1));
        };
      case 'ArrowUp':
        return () => setActive((a) => Math.max(0, a - 1));
      case 'Enter':
        return () => (mustWait ? setWaiting(how(event)) : enter(actsOf ? 'run' : how(event)));
      case 'Backspace':
        return query === '' && taken.length > 0 ? () => setTaken((now) => now.slice(0, -1)) : undefined;
      case 'Tab': {
        const [first] = offered;
        return !event.shiftKey && open && first ? () => take(first) : undefined;
      }
      case 'Escape':
        return back;
      default:
        return undefined;
    }
  };

  return (
    <div
      className="find-line"
      data-own-stops
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
        aria-activedescendant={showing && lines > 0 ? `find-${active}` : undefined}
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
        onKeyDown={(event) => {
          const act = actOfKey(event);
          if (!act) return;
          event.preventDefault();
          act();
        }}
      />
      <CommandKey of="/" />
      {showing && (
        <FindPanel
          options={options}
          actsOf={actsOf}
          stand={standOf(options, find, isStale)}
          taken={taken}
          offered={offered}
          active={active}
          onTake={take}
          onDrop={(chip) => setTaken((now) => now.filter((t) => t !== chip))}
          onActive={setActive}
          onChoose={choose}
        />
      )}
    </div>
  );
}

function standOf(options: readonly FindOption[], find: ReturnType<typeof useFind>, isStale: boolean): FindStand {
  if (options.length > 0) return { kind: 'there' };
  if (find.isError) return { kind: 'failed', message: find.error.message };
  if (find.isFetching || isStale) return { kind: 'looking' };
  return { kind: find.isSuccess ? 'none' : 'there' };
}

/** Takes the caret where a key, the command, or a desktop entry asks for it. */
function useAskedFor(input: RefObject<HTMLInputElement | null>): void {
  useEffect(() => {
    const focus = () => {
      input.current?.focus();
      input.current?.select();
    };
    document.addEventListener('rellin:find', focus);
    return () => document.removeEventListener('rellin:find', focus);
  }, [input]);
  const [params, setParams] = useSearchParams();
  const isWanted = params.has('find');
  useEffect(() => {
    if (!isWanted) return;
    input.current?.focus();
    setParams(
      (now) => {
        now.delete('find');
        return now;
      },
      { replace: true },
    );
  }, [input, isWanted, setParams]);
}

const how = (event: KeyboardEvent): Entered =>
  event.shiftKey ? 'acts' : event.ctrlKey || event.metaKey ? 'add' : 'run';

/** Does what Enter was pressed for, once it need not wait any more. */
function useWaitingEnter(ready: Entered | undefined, act: (how: Entered) => void): void {
  const actNow = useEffectEvent(act);
  useEffect(() => {
    if (ready === undefined) return;
    let isCurrent = true;
    // leaving the field is an event of its own, which React does not take while it is at work
    queueMicrotask(() => isCurrent && actNow(ready));
    return () => {
      isCurrent = false;
    };
  }, [ready]);
}
