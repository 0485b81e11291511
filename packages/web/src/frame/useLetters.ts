/**
 * What a key without a modifier means, before anything else hears of it: a letter that the person changed stands for
 * Rellin's own, and in a list a letter waits a moment, since it may be the first of a name. What is a command goes on
 * as if it had been pressed then.
 */
import { useEffect, useMemo, useRef } from 'react';
import { meantKey } from '@rellin/core/keys';
import { useCollections, useQuickFilters, useSearches, useSettings, useShortcuts } from '../api/queries';
import { goToName, listOf } from '../parts/typeAhead';
import { useDialogs } from '../workspace/workspace';
import { inField } from '../workspace/inField';

/**
 * A second letter within this time makes both the beginning of a name (fast typists need half of it; common practice).
 */
const ALONE_MS = 300;
/** A name is typed on until so long nothing comes. */
const TYPED_MS = 1000;
/** How long the second of two own keys in a row is waited for. */
const SECOND_MS = 1200;

/** Where a key is being chosen it is not run. */
const takesKeys = (target: EventTarget | null) =>
  target instanceof Element && target.closest('[data-own-keys]') !== null;

const MODIFIERS = new Set(['Shift', 'Control', 'Alt', 'Meta', 'AltGraph', 'CapsLock']);

interface Rules {
  mode: 'when-alone' | 'at-once' | 'never';
  map: Readonly<Record<string, string>>;
  /** The person's own keys, as they are kept. */
  own: ReadonlySet<string>;
}

function useRules(): Rules {
  const settings = useSettings().data;
  const shortcuts = useShortcuts().data;
  const collections = useCollections().data;
  const searches = useSearches().data;
  const quickFilters = useQuickFilters().data;
  const own = useMemo(
    () =>
      new Set(
        [shortcuts, collections, searches, quickFilters].flatMap((list) => (list ?? []).flatMap((x) => x.keys ?? [])),
      ),
    [shortcuts, collections, searches, quickFilters],
  );
  const mode = settings?.letterKeys ?? 'when-alone';
  const map = settings?.keyMap;
  return useMemo(() => ({ mode, map: map ?? {}, own }), [mode, map, own]);
}

export function useLetters(): void {
  const rules = useRules();
  const latest = useRef(rules);
  // what waits to be a command goes on waiting while lists are read again
  useEffect(() => {
    latest.current = rules;
  }, [rules]);
  const { dialog, menu } = useDialogs();
  const isBusy = dialog !== undefined || menu !== undefined;
  useEffect(() => {
    if (isBusy) return;
    const passed = new WeakSet<Event>();
    let waiting: { key: string; timer: ReturnType<typeof setTimeout>; send(): void } | undefined;
    let typed = { text: '', at: -Infinity };
    let begun = { stroke: '', at: -Infinity };

    const stop = (event: Event) => {
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    const send = (event: KeyboardEvent, key: string, to = event.target ?? document.body) => {
      const { code, repeat, shiftKey } = event;
      const again = new KeyboardEvent('keydown', { key, code, repeat, shiftKey, bubbles: true, cancelable: true });
      passed.add(again);
      to.dispatchEvent(again);
    };
    const type = (list: Element, text: string, at: number) => {
      typed = { text, at };
      goToName(list, text);
    };
    /** Whether a key is one of the person's own, the first of two of them, or the second after the first. */
    const isOwn = (key: string, at: number) => {
      const { own } = latest.current;
      const isSecond = at - begun.at < SECOND_MS && own.has(`${begun.stroke} ${key}`);
      const begins = [...own].some((keys) => keys.startsWith(`${key} `));
      begun = begins && !isSecond ? { stroke: key, at } : { stroke: '', at: -Infinity };
      return isSecond || begins || own.has(key);
    };

    const onKey = (event: KeyboardEvent) => {
      // what waits to be a command comes before a key that is none of a name
      if (waiting && !passed.has(event) && event.key.length > 1 && !MODIFIERS.has(event.key)) {
        clearTimeout(waiting.timer);
        waiting.send();
      }
      if (passed.has(event) || event.ctrlKey || event.altKey || event.metaKey) return;
      if (event.key.length !== 1 || inField(event.target) || takesKeys(event.target)) return;
      const list = listOf(event.target);
      const now = event.timeStamp;
      if (list && typed.text !== '' && now - typed.at < TYPED_MS) {
        stop(event);
        return type(list, typed.text + event.key, now);
      }
      typed = { text: '', at: -Infinity };
      if (event.key === ' ') return;
      const { mode, map } = latest.current;
      if (mode === 'never') {
        stop(event);
        if (list) type(list, event.key, now);
        return;
      }
      const isLetter = /^\p{L}$/u.test(event.key);
      if (waiting && list && /^[\p{L}\p{N}]$/u.test(event.key)) {
        clearTimeout(waiting.timer);
        const { key } = waiting;
        waiting = undefined;
        stop(event);
        return type(list, key + event.key, now);
      }
      if (isOwn(event.key.toLowerCase(), now)) {
        // past the list, where the second of two may stand for something on a row
        stop(event);
        return send(event, event.key, document.body);
      }
      if (!isLetter) return;
      const meant = meantKey(event.key, map);
      if (meant === undefined) {
        stop(event);
        if (list && mode !== 'at-once') type(list, event.key, now);
        return;
      }
      if (mode === 'at-once' || !list || event.repeat) {
        if (meant === event.key) return;
        stop(event);
        return send(event, meant);
      }
      stop(event);
      const hold = () => {
        waiting = undefined;
        send(event, meant);
      };
      waiting = { key: event.key, timer: setTimeout(hold, ALONE_MS), send: hold };
    };
    document.addEventListener('keydown', onKey, true);
    return () => {
      document.removeEventListener('keydown', onKey, true);
      clearTimeout(waiting?.timer);
    };
  }, [isBusy]);
}
