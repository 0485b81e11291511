/**
 * A list in which things are ticked: one stop of Tab, arrows move, Space ticks, letters jump to a name. WAI-ARIA
 * listbox in which several are chosen.
 */
import { useId, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import CheckBox from '@mui/icons-material/CheckBox';
import CheckBoxOutlineBlank from '@mui/icons-material/CheckBoxOutlineBlank';
import { listMove } from './listMoves';
import { indexOfName, useTypeAhead } from './typeAhead';
import './CheckList.css';

export interface CheckListProps<T> {
  label: string;
  items: readonly T[];
  keyOf(item: T): string;
  nameOf(item: T): string;
  isChecked(item: T): boolean;
  onToggle(item: T): void;
  /** Why it cannot be ticked just now. */
  disabled?(item: T): string | undefined;
  children(item: T): ReactNode;
}

export function CheckList<T>({
  label,
  items,
  keyOf,
  nameOf,
  isChecked,
  onToggle,
  disabled,
  children,
}: CheckListProps<T>) {
  const id = useId();
  const list = useRef<HTMLUListElement>(null);
  const [at, setAt] = useState(0);
  const active = Math.min(at, Math.max(0, items.length - 1));
  const go = (to: number) => {
    setAt(to);
    list.current?.children[to]?.scrollIntoView({ block: 'nearest' });
  };
  useTypeAhead(list, (typed) => {
    const found = indexOfName(items.length, (i) => items[i], nameOf, typed);
    if (found >= 0) go(found);
  });
  const toggle = (item: T | undefined) => {
    if (item !== undefined && disabled?.(item) === undefined) onToggle(item);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const to = listMove(event.key, active, items.length);
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    if (to !== undefined) go(to);
    else if (event.key === ' ' || event.key === 'Enter') toggle(items[active]);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <ul
      ref={list}
      className="check-list sheet"
      role="listbox"
      aria-multiselectable
      aria-label={label}
      tabIndex={0}
      aria-activedescendant={items.length > 0 ? `${id}-${active}` : undefined}
      onKeyDown={onKeyDown}
    >
      {items.map((item, i) => {
        const why = disabled?.(item);
        const Box = isChecked(item) ? CheckBox : CheckBoxOutlineBlank;
        return (
          <li
            key={keyOf(item)}
            id={`${id}-${i}`}
            role="option"
            aria-selected={isChecked(item)}
            aria-disabled={why !== undefined || undefined}
            title={why}
            className={i === active ? 'at' : ''}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => {
              list.current?.focus({ preventScroll: true });
              setAt(i);
              toggle(item);
            }}
          >
            <Box className="check-box" aria-hidden />
            {children(item)}
          </li>
        );
      })}
    </ul>
  );
}
