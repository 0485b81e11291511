/**
 * The list of the house: an ARIA grid of rows, virtual, with one focused row that arrows move and one selected row.
 * Enter opens, Space selects, the menu key or a right click opens the acts.
 */
import { useEffect, useRef, useState, type KeyboardEvent, type MouseEvent, type ReactNode } from 'react';
import { useVirtualizer } from '@tanstack/react-virtual';
import './Grid.css';

export interface Column<T> {
  id: string;
  title: string;
  /** CSS grid track. */
  width: string;
  align?: 'right';
  /** Sorting by this column, where it can be. */
  sortable?: boolean;
  cell(item: T): ReactNode;
}

export interface GridProps<T> {
  label: string;
  columns: Column<T>[];
  count: number;
  /** Undefined while the row is on its way. */
  item(index: number): T | undefined;
  keyOf(item: T): string;
  selectedKey?: string;
  sort?: { by: string; descending: boolean };
  rowHeight?: number;
  /** A row to bring into sight when it changes: where something was just added, or where one was led. */
  reveal?: number;
  /** Takes the focus to the current row when the list appears: whoever came here by a key goes on by keys. */
  takeFocus?: boolean;
  onSort?(by: string): void;
  onSelect(item: T): void;
  onOpen(item: T): void;
  onMenu?(item: T, at: { x: number; y: number }): void;
  onRange?(first: number, last: number): void;
  /** Keys on a row beyond the grid's own; true where it was used. */
  onKey?(event: KeyboardEvent, item: T): boolean;
  /** Wraps a row, to make it draggable. */
  rowProps?(item: T): { ref?: (node: HTMLElement | null) => void; [attribute: string]: unknown };
  empty?: ReactNode;
}

export function Grid<T>(props: GridProps<T>) {
  const { columns, count, item, keyOf, selectedKey, sort, rowHeight = 42 } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const [focused, setFocused] = useState(0);
  const [height, setHeight] = useState(600);
  const rows = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 8,
    initialRect: { width: 800, height: 700 },
  });
  const visible = rows.getVirtualItems();
  const first = visible[0]?.index ?? 0;
  const last = visible[visible.length - 1]?.index ?? 0;
  const { onRange } = props;
  useEffect(() => onRange?.(first, last), [first, last, onRange]);
  useEffect(() => {
    const node = scroller.current;
    if (!node || typeof ResizeObserver === 'undefined') return;
    const observer = new ResizeObserver(() => setHeight(node.clientHeight));
    observer.observe(node);
    return () => observer.disconnect();
  }, []);

  const { reveal } = props;
  useEffect(() => {
    if (reveal !== undefined && reveal >= 0) rows.scrollToIndex(reveal, { align: 'auto' });
    // the virtualizer is the same object throughout
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [reveal]);

  const ready = count > 0;
  useEffect(() => {
    if (props.takeFocus && ready) scroller.current?.querySelector<HTMLElement>('[role=row][tabindex="0"]')?.focus();
    // only when the rows first appear
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ready]);

  // the selected row keeps the focus ring's place when the list changes under it
  const selectedIndex = visible.find((v) => {
    const it = item(v.index);
    return it !== undefined && keyOf(it) === selectedKey;
  })?.index;
  const current = Math.min(selectedIndex ?? focused, Math.max(0, count - 1));

  const goTo = (index: number) => {
    const next = Math.max(0, Math.min(count - 1, index));
    setFocused(next);
    rows.scrollToIndex(next, { align: 'auto' });
    const target = item(next);
    if (target !== undefined) props.onSelect(target);
    requestAnimationFrame(() => {
      scroller.current?.querySelector<HTMLElement>(`[data-index="${next}"]`)?.focus({ preventScroll: true });
    });
  };

  const onKeyDown = (event: KeyboardEvent) => {
    const here = item(current);
    const page = Math.max(1, Math.floor(height / rowHeight) - 1);
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const moves: Record<string, number> = {
      ArrowDown: current + 1,
      ArrowUp: current - 1,
      PageDown: current + page,
      PageUp: current - page,
      Home: 0,
      End: count - 1,
    };
    const to = moves[event.key];
    if (to !== undefined) goTo(to);
    else if (here === undefined) return;
    else if (event.key === 'Enter') props.onOpen(here);
    else if (event.key === ' ') props.onSelect(here);
    else if ((event.key === 'F10' && event.shiftKey) || event.key === 'ContextMenu') {
      const box = event.currentTarget.querySelector(`[data-index="${current}"]`)?.getBoundingClientRect();
      props.onMenu?.(here, { x: (box?.left ?? 0) + 60, y: (box?.bottom ?? 0) - 4 });
    } else if (!props.onKey?.(event, here)) return;
    event.preventDefault();
    event.stopPropagation();
  };

  const template = columns.map((c) => c.width).join(' ');
  return (
    <div
      className="grid sheet"
      role="grid"
      aria-label={props.label}
      aria-rowcount={count + 1}
      aria-colcount={columns.length}
    >
      <div role="rowgroup">
        <div className="grid-head" role="row" aria-rowindex={1} style={{ gridTemplateColumns: template }}>
          {columns.map((c, i) => (
            <div
              key={c.id}
              role="columnheader"
              aria-colindex={i + 1}
              className={c.align}
              aria-sort={sort?.by === c.id ? (sort.descending ? 'descending' : 'ascending') : undefined}
            >
              {c.sortable ? (
                <button type="button" onClick={() => props.onSort?.(c.id)}>
                  {c.title}
                  <span aria-hidden>{sort?.by === c.id ? (sort.descending ? ' ↓' : ' ↑') : ''}</span>
                </button>
              ) : (
                c.title || <span className="hidden-text">{c.id}</span>
              )}
            </div>
          ))}
        </div>
      </div>
      {count === 0 && props.empty ? (
        <div role="rowgroup">
          <div role="row">
            <div role="gridcell">{props.empty}</div>
          </div>
        </div>
      ) : (
        <div ref={scroller} className="grid-body" role="rowgroup" onKeyDown={onKeyDown}>
          <div role="presentation" style={{ height: rows.getTotalSize(), position: 'relative' }}>
            {visible.map((v) => {
              const it = item(v.index);
              const selected = it !== undefined && keyOf(it) === selectedKey;
              const extra = it === undefined ? {} : (props.rowProps?.(it) ?? {});
              return (
                <div
                  {...extra}
                  key={it === undefined ? v.index : keyOf(it)}
                  role="row"
                  aria-roledescription={undefined}
                  data-index={v.index}
                  aria-rowindex={v.index + 2}
                  aria-selected={selected}
                  tabIndex={v.index === current ? 0 : -1}
                  className={`grid-row${selected ? ' selected' : ''}`}
                  style={{ gridTemplateColumns: template, height: rowHeight, transform: `translateY(${v.start}px)` }}
                  onClick={() => {
                    setFocused(v.index);
                    if (it !== undefined) props.onSelect(it);
                  }}
                  onDoubleClick={() => it !== undefined && props.onOpen(it)}
                  onContextMenu={(event: MouseEvent) => {
                    if (it === undefined || !props.onMenu) return;
                    event.preventDefault();
                    props.onSelect(it);
                    props.onMenu(it, { x: event.clientX, y: event.clientY });
                  }}
                >
                  {columns.map((c, i) => (
                    <div key={c.id} role="gridcell" aria-colindex={i + 1} className={`cell ${c.align ?? ''}`}>
                      {it === undefined ? '' : c.cell(it)}
                    </div>
                  ))}
                </div>
              );
            })}
          </div>
        </div>
      )}
    </div>
  );
}
