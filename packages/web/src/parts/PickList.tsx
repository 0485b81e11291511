/**
 * A list of which one is picked: arrows mark, Enter or a double press takes it, letters jump to a name. WAI-ARIA
 * listbox in which one is chosen.
 */
import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { listMove } from './listMoves';
import { indexOfName, useTypeAhead } from './typeAhead';
import './PickList.css';

export interface PickListProps<T> {
  label: string;
  items: readonly T[];
  keyOf(item: T): string;
  nameOf(item: T): string;
  onMark(item: T): void;
  onEnter(item: T): void;
  /** Keys beyond the list's own; true where it was used. */
  onKey?(event: KeyboardEvent): boolean;
  empty: string;
  children(item: T): ReactNode;
}

export function PickList<T>(props: PickListProps<T>) {
  const { label, items, keyOf, nameOf, onMark, onEnter, onKey, empty, children } = props;
  const id = useId();
  const list = useRef<HTMLUListElement>(null);
  const [at, setAt] = useState(-1);
  const go = (to: number) => {
    const item = items[to];
    if (item === undefined) return;
    setAt(to);
    onMark(item);
    list.current?.children[to]?.scrollIntoView({ block: 'nearest' });
  };
  // whoever goes into a folder is in its list
  useEffect(() => list.current?.focus({ preventScroll: true }), []);
  useTypeAhead(list, (typed) => go(indexOfName(items.length, (i) => items[i], nameOf, typed)));
  const onKeyDown = (event: KeyboardEvent) => {
    const to = listMove(event.key, at, items.length);
    if (onKey?.(event)) {
      // used
    } else if (event.ctrlKey || event.altKey || event.metaKey) return;
    else if (to !== undefined) go(to);
    else if (event.key === 'Enter' && items[at] !== undefined) onEnter(items[at]);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <ul
      ref={list}
      className="pick-list sheet"
      role="listbox"
      aria-label={label}
      tabIndex={0}
      aria-activedescendant={at >= 0 ? `${id}-${at}` : undefined}
      onKeyDown={onKeyDown}
    >
      {items.length === 0 && (
        <li className="small pick-none" role="option" aria-selected={false} aria-disabled>
          {empty}
        </li>
      )}
      {items.map((item, i) => (
        <li
          key={keyOf(item)}
          id={`${id}-${i}`}
          role="option"
          aria-selected={i === at}
          onClick={() => {
            list.current?.focus({ preventScroll: true });
            go(i);
          }}
          onDoubleClick={() => onEnter(item)}
        >
          {children(item)}
        </li>
      ))}
    </ul>
  );
}
