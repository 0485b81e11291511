/**
 * The list of the house: an ARIA grid of rows, virtual, with one focused row that arrows move and one selected row.
 * Enter opens, Space selects, the menu key or a right click opens the acts.
 */
import {
  memo,
  useEffect,
  useEffectEvent,
  useRef,
  useState,
  type HTMLAttributes,
  type KeyboardEvent,
  type MouseEvent,
  type ReactNode,
} from 'react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { roving } from './Roving';
import { ColumnEdge } from './ColumnEdge';
import { hint } from './hint';
import { indexOfName, useTypeAhead } from './typeAhead';
import { useChoice } from './useChoice';
import './Grid.css';

export interface Column<T> {
  id: string;
  title: string;
  /** CSS grid track, unless the person gave it a width. */
  width: string;
  /** Pixels below which it is not made narrower. */
  least?: number;
  align?: 'right';
  /** Sorting by this column, where it can be. */
  sortable?: boolean;
  cell(item: T): ReactNode;
}

export interface GridProps<T, K extends string | number = string> {
  label: string;
  columns: Column<T>[];
  count: number;
  /** Undefined while the row is on its way. */
  item(index: number): T | undefined;
  keyOf(item: T): K;
  /** What letters typed in the list go to. */
  nameOf?(item: T): string;
  /** What describes an item, shown beside its row where the pointer rests or the focus is. */
  hintOf?(item: T): string;
  selectedKey?: K;
  /** Rows chosen together; with `onChoose` Ctrl and Shift choose more than one. */
  chosen?: ReadonlySet<K>;
  onChoose?(keys: K[]): void;
  /** Reads rows that are chosen without having been in sight. */
  readRange?(from: number, to: number): Promise<T[]>;
  sort?: { by: string; descending: boolean };
  /** Widths in pixels that the person gave to columns; with `onResize` each has an edge to be drawn. */
  widths?: Readonly<Record<string, number>>;
  onResize?(id: string, width: number | undefined): void;
  rowHeight?: number;
  /** A row to bring into sight when it changes: where something was just added, or where one was led. */
  reveal?: number;
  /** Takes the focus to the current row when the list appears: whoever came here by a key goes on by keys. */
  takeFocus?: boolean;
  /** Tab goes past it: what is in it is reached from the list beside it. */
  skipsTab?: boolean;
  onSort?(by: string): void;
  onSelect(item: T): void;
  onOpen(item: T): void;
  onMenu?(item: T, at: { x: number; y: number }): void;
  onRange?(first: number, last: number): void;
  /** Keys on a row beyond the grid's own; true where it was used. */
  onKey?(event: KeyboardEvent, item: T): boolean;
  /** The same for chords with Ctrl or Alt. */
  onChord?(event: KeyboardEvent, item: T): boolean;
  /** What else a row takes: files from outside the page. */
  rowProps?(item: T): Pick<HTMLAttributes<HTMLElement>, 'onDragOver' | 'onDragLeave' | 'onDrop'>;
  empty?: ReactNode;
}

/** What stands in a row: drawn again only when it is another or is shown otherwise, not when the focus goes on. */
const Cells = memo(function Cells<T>({ columns, item }: { columns: readonly Column<T>[]; item: T | undefined }) {
  return columns.map((c, i) => (
    <div key={c.id} role="gridcell" aria-colindex={i + 1} className={`cell ${c.align ?? ''}`}>
      {item === undefined ? '' : c.cell(item)}
    </div>
  ));
}) as <T>(props: { columns: readonly Column<T>[]; item: T | undefined }) => ReactNode;

const GAP = 10;
const LEAST_WIDTH = 56;

export function Grid<T, K extends string | number = string>(props: GridProps<T, K>) {
  const { columns, count, item, keyOf, selectedKey, chosen, sort, rowHeight = 42 } = props;
  const grid = useRef<HTMLDivElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const [focused, setFocused] = useState(0);
  const [height, setHeight] = useState(600);
  const rows = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 4,
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
  const { scrollToIndex } = rows;
  useEffect(() => {
    if (reveal !== undefined && reveal >= 0) scrollToIndex(reveal, { align: 'auto' });
  }, [reveal, scrollToIndex]);

  const ready = count > 0;
  const takeFocus = useEffectEvent(() => {
    if (props.takeFocus) scroller.current?.querySelector<HTMLElement>('[role=row][tabindex="0"]')?.focus();
  });
  // only when the rows first appear
  useEffect(() => {
    if (ready) takeFocus();
  }, [ready]);

  // the selected row keeps the focus ring's place when the list changes under it
  const selectedIndex = visible.find((v) => {
    const it = item(v.index);
    return it !== undefined && keyOf(it) === selectedKey;
  })?.index;
  const current = Math.min(selectedIndex ?? focused, Math.max(0, count - 1));
  // whoever comes by Tab finds a row also where the current one was scrolled away
  const top = Math.ceil((rows.scrollOffset ?? 0) / rowHeight);
  const tabbable = visible.some((v) => v.index === current) ? current : Math.min(Math.max(first, top), last);

  const choice = useChoice({
    item,
    keyOf,
    selectedKey,
    chosen,
    onSelect: props.onSelect,
    onChoose: props.onChoose,
    readRange: props.readRange,
  });
  const onPick = (index: number, it: T, how: { ctrl: boolean; shift: boolean }) => {
    setFocused(index);
    choice.pick(index, it, how);
  };

  const goTo = (index: number, extend = false) => {
    const next = Math.max(0, Math.min(count - 1, index));
    setFocused(next);
    rows.scrollToIndex(next, { align: 'auto' });
    choice.moveTo(next, extend);
    requestAnimationFrame(() => {
      scroller.current?.querySelector<HTMLElement>(`[data-index="${next}"]`)?.focus({ preventScroll: true });
    });
  };

  const { nameOf } = props;
  useTypeAhead(
    grid,
    nameOf &&
      ((typed) => {
        const at = indexOfName(count, item, nameOf, typed);
        if (at >= 0) goTo(at);
      }),
  );

  const onKeyDown = (event: KeyboardEvent) => {
    const here = item(current);
    const page = Math.max(1, Math.floor(height / rowHeight) - 1);
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'a' && props.onChoose) {
      choice.range(0, count - 1);
      event.preventDefault();
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) {
      if (here === undefined || !props.onChord?.(event, here)) return;
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    const moves: Record<string, number> = {
      ArrowDown: current + 1,
      ArrowUp: current - 1,
      PageDown: current + page,
      PageUp: current - page,
      Home: 0,
      End: count - 1,
    };
    const to = moves[event.key];
    if (to !== undefined) goTo(to, event.shiftKey);
    else if (here === undefined) return;
    else if (event.key === 'Enter') props.onOpen(here);
    else if (event.key === ' ') onPick(current, here, { ctrl: props.onChoose !== undefined, shift: event.shiftKey });
    else if ((event.key === 'F10' && event.shiftKey) || event.key === 'ContextMenu') {
      const box = event.currentTarget.querySelector(`[data-index="${current}"]`)?.getBoundingClientRect();
      props.onMenu?.(here, { x: (box?.left ?? 0) + 60, y: (box?.bottom ?? 0) - 4 });
    } else if (!props.onKey?.(event, here)) return;
    event.preventDefault();
    event.stopPropagation();
  };

  const [drawn, setDrawn] = useState<{ id: string; width: number }>();
  const widthOf = (c: Column<T>) => (drawn?.id === c.id ? drawn.width : props.widths?.[c.id]);
  const template = columns
    .map((c) => {
      const width = widthOf(c);
      return width === undefined ? c.width : `${width}px`;
    })
    .join(' ');
  // too many or too wide columns are scrolled to, not squeezed
  const least = columns.reduce((sum, c) => sum + (widthOf(c) ?? Number(/\d+/.exec(c.width)?.[0] ?? 0)) + GAP, GAP);
  return (
    <div
      ref={grid}
      className="grid sheet"
      role="grid"
      aria-multiselectable={props.onChoose ? true : undefined}
      aria-label={props.label}
      aria-rowcount={count + 1}
      aria-colcount={columns.length}
    >
      <div role="rowgroup" style={{ minWidth: least }}>
        <div className="grid-head" role="row" aria-rowindex={1} style={{ gridTemplateColumns: template }} {...roving}>
          {columns.map((c, i) => (
            <div
              key={c.id}
              role="columnheader"
              aria-colindex={i + 1}
              aria-label={props.onResize ? c.title : undefined}
              className={c.align}
              aria-sort={sort?.by === c.id ? (sort.descending ? 'descending' : 'ascending') : undefined}
            >
              {props.onResize && (
                <ColumnEdge
                  title={c.title}
                  width={widthOf(c)}
                  least={c.least ?? LEAST_WIDTH}
                  onDraw={(width) => setDrawn(width === undefined ? undefined : { id: c.id, width })}
                  onResize={(width) => {
                    setDrawn(undefined);
                    props.onResize!(c.id, width);
                  }}
                />
              )}
              {c.sortable ? (
                <button type="button" onClick={() => props.onSort?.(c.id)}>
                  {c.title}
                  <span aria-hidden>{sort?.by === c.id ? (sort.descending ? ' ↓' : ' ↑') : ''}</span>
                </button>
              ) : (
                <div className="cut">{c.title || <span className="hidden-text">{c.id}</span>}</div>
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
        <div ref={scroller} className="grid-body" role="rowgroup" style={{ minWidth: least }} onKeyDown={onKeyDown}>
          <div role="presentation" style={{ height: rows.getTotalSize(), position: 'relative' }}>
            {visible.map((v) => {
              const it = item(v.index);
              const lead = it !== undefined && keyOf(it) === selectedKey;
              const selected = lead || (it !== undefined && chosen !== undefined && chosen.has(keyOf(it)));
              return (
                <div
                  key={it === undefined ? v.index : keyOf(it)}
                  role="row"
                  data-index={v.index}
                  aria-rowindex={v.index + 2}
                  aria-selected={selected}
                  tabIndex={v.index === tabbable && !props.skipsTab ? 0 : -1}
                  onFocus={() => setFocused(v.index)}
                  className={`grid-row${selected ? ' selected' : ''}`}
                  style={{ gridTemplateColumns: template, height: rowHeight, transform: `translateY(${v.start}px)` }}
                  onClick={(event: MouseEvent) => {
                    if (it === undefined) setFocused(v.index);
                    else onPick(v.index, it, { ctrl: event.ctrlKey || event.metaKey, shift: event.shiftKey });
                  }}
                  // drawn over the rows beside their names, the pointer chooses all it passes
                  onPointerDown={(event) => {
                    if (!props.onChoose || event.button !== 0 || event.shiftKey || event.ctrlKey) return;
                    if ((event.target as HTMLElement).closest('.drag-handle, button, a')) return;
                    choice.beginSweep(v.index);
                  }}
                  onPointerEnter={(event) => {
                    if (event.buttons === 1) choice.sweepTo(v.index);
                  }}
                  {...(it !== undefined && props.rowProps?.(it))}
                  {...(it !== undefined && props.hintOf && hint(props.hintOf(it)))}
                  onDoubleClick={() => it !== undefined && props.onOpen(it)}
                  onContextMenu={(event: MouseEvent) => {
                    if (it === undefined || !props.onMenu) return;
                    event.preventDefault();
                    if (!chosen?.has(keyOf(it))) props.onChoose?.([keyOf(it)]);
                    props.onSelect(it);
                    props.onMenu(it, { x: event.clientX, y: event.clientY });
                  }}
                >
                  <Cells columns={columns} item={it} />
                </div>
              );
            })}
          </div>
        </div>
      )}
    </div>
  );
}
