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
  /** Reads what lies between two rows, both included, where some of it is not on the page; none where too much. */
  readRange?: ((from: number, to: number) => Promise<T[]>) | undefined;
}

export function useChoice<T, K extends string | number>({
  item,
  keyOf,
  selectedKey,
  chosen,
  onSelect,
  onChoose,
  readRange,
}: ChoiceOf<T, K>) {
  // where a range begins: the one chosen last without Shift
  const anchor = useRef(0);
  const swept = useRef<number | undefined>(undefined);
  const reached = useRef<number | undefined>(undefined);
  const asked = useRef(0);
  const range = (from: number, to: number) => {
    const [first, last] = [Math.min(from, to), Math.max(from, to)];
    const mine = ++asked.current;
    const keys: K[] = [];
    for (let i = first; i <= last; i++) {
      const it = item(i);
      if (it !== undefined) keys.push(keyOf(it));
    }
    if (keys.length === last - first + 1 || !readRange) return onChoose?.(keys);
    // a range drawn meanwhile is what is meant
    void readRange(first, last).then(
      (items) => mine === asked.current && items.length > 0 && onChoose?.(items.map(keyOf)),
    );
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
