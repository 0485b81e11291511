/**
 * Choosing several of a list: Ctrl for one more or less, Shift for all from the last one, a sweep over what lies
 * between.
 */
import { useRef } from 'react';

export interface ChoiceOf<T, K> {
  item(index: number): T | undefined;
  keyOf(item: T): K;
  selectedKey: K | undefined;
  chosen: ReadonlySet<K> | undefined;
  onSelect(item: T): void;
  onChoose: ((keys: K[]) => void) | undefined;
}

export function useChoice<T, K extends string | number>({
  item,
  keyOf,
  selectedKey,
  chosen,
  onSelect,
  onChoose,
}: ChoiceOf<T, K>) {
  // where a range begins: the one chosen last without Shift
  const anchor = useRef(0);
  const swept = useRef<number | undefined>(undefined);
  const reached = useRef<number | undefined>(undefined);
  const range = (from: number, to: number) => {
    const keys: K[] = [];
    for (let i = Math.min(from, to); i <= Math.max(from, to); i++) {
      const it = item(i);
      if (it !== undefined) keys.push(keyOf(it));
    }
    onChoose?.(keys);
  };
  return {
    range,
    /** A click or Space on one. */
    pick(index: number, it: T, how: { ctrl: boolean; shift: boolean }) {
      onSelect(it);
      if (!onChoose) return;
      if (how.shift) return range(anchor.current, index);
      anchor.current = index;
      if (!how.ctrl) return onChoose([keyOf(it)]);
      const next = new Set(chosen?.size ? chosen : selectedKey === undefined ? [] : [selectedKey]);
      if (!next.delete(keyOf(it))) next.add(keyOf(it));
      onChoose([...next]);
    },
    /** The keys came to one; with `extend` all from the anchor are chosen. */
    moveTo(index: number, extend: boolean) {
      const target = item(index);
      if (target === undefined) return;
      onSelect(target);
      if (extend) return range(anchor.current, index);
      anchor.current = index;
      onChoose?.([keyOf(target)]);
    },
    /** A press beside a name begins a sweep … */
    beginSweep(index: number) {
      swept.current = index;
      reached.current = index;
      window.addEventListener('pointerup', () => (swept.current = undefined), { once: true });
    },
    /**
     * … and whatever the pointer comes over meanwhile belongs to it. `within` gives those of a rectangle, where it is
     * one.
     */
    sweepTo(index: number, within?: (from: number, to: number) => number[]) {
      if (swept.current === undefined || reached.current === index) return;
      reached.current = index;
      anchor.current = swept.current;
      if (!within) return range(swept.current, index);
      onChoose?.(
        within(swept.current, index).flatMap((i) => {
          const it = item(i);
          return it === undefined ? [] : [keyOf(it)];
        }),
      );
    },
  };
}
