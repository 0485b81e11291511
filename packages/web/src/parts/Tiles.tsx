/**
 * A list as tiles: an ARIA grid whose rows hold as many as fit, virtual, arrows going in both directions. Its acts are
 * those of the table: Enter opens, Space selects, the menu key or a right click opens the acts.
 */
import {
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type MouseEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { GridProps } from './Grid';
import { hint } from './hint';
import { indexOfName, useTypeAhead } from './typeAhead';
import { useChoice } from './useChoice';
import './Tiles.css';

interface TilesProps<T, K extends string | number> extends Pick<
  GridProps<T, K>,
  | 'label'
  | 'count'
  | 'item'
  | 'keyOf'
  | 'hintOf'
  | 'selectedKey'
  | 'chosen'
  | 'onChoose'
  | 'readRange'
  | 'onSelect'
  | 'onOpen'
  | 'onMenu'
  | 'onKey'
  | 'reveal'
  | 'empty'
> {
  /** Pixels of the smallest tile; they widen to fill a row. */
  tile: { width: number; height: number };
  gap?: number;
  nameOf(item: T): string;
  content(item: T): ReactNode;
}

export function Tiles<T, K extends string | number = string>(props: TilesProps<T, K>) {
  const { count, item, keyOf, selectedKey, chosen, tile, gap = 10 } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(720);
  const [focused, setFocused] = useState(0);
  useLayoutEffect(() => {
    const node = scroller.current;
    if (!node || typeof ResizeObserver === 'undefined') return;
    const observer = new ResizeObserver(() => setWidth(node.clientWidth));
    observer.observe(node);
    return () => observer.disconnect();
  }, []);
  const across = Math.max(1, Math.floor((width - gap) / (tile.width + gap)));
  const rows = useVirtualizer({
    count: Math.ceil(count / across),
    getScrollElement: () => scroller.current,
    estimateSize: () => tile.height + gap,
    overscan: 4,
    paddingStart: gap,
    initialRect: { width: 800, height: 700 },
  });
  useEffect(() => rows.measure(), [rows, tile.height, gap]);
  const { reveal } = props;
  const { scrollToIndex } = rows;
  useEffect(() => {
    if (reveal !== undefined && reveal >= 0) scrollToIndex(Math.floor(reveal / across), { align: 'auto' });
  }, [reveal, across, scrollToIndex]);
  const { onSelect, onChoose, readRange } = props;
  const choice = useChoice({ item, keyOf, selectedKey, chosen, onSelect, onChoose, readRange });
  const selectedIndex = rows
    .getVirtualItems()
    .flatMap((row) => Array.from({ length: across }, (_, i) => row.index * across + i))
    .find((i) => {
      const it = item(i);
      return it !== undefined && keyOf(it) === selectedKey;
    });
  const current = Math.min(selectedIndex ?? focused, Math.max(0, count - 1));
  // whoever comes by Tab finds a tile also where the current one was scrolled away
  const inSight = rows.getVirtualItems().some((row) => row.index === Math.floor(current / across));
  const top = Math.ceil((rows.scrollOffset ?? 0) / (tile.height + gap)) * across;
  const tabbable = inSight ? current : Math.min(top, Math.max(0, count - 1));

  const goTo = (index: number, extend: boolean) => {
    const next = Math.max(0, Math.min(count - 1, index));
    setFocused(next);
    rows.scrollToIndex(Math.floor(next / across), { align: 'auto' });
    choice.moveTo(next, extend);
    requestAnimationFrame(() => {
      scroller.current?.querySelector<HTMLElement>(`[data-index="${next}"]`)?.focus({ preventScroll: true });
    });
  };
  useTypeAhead(scroller, (typed) => {
    const at = indexOfName(count, item, props.nameOf, typed);
    if (at >= 0) goTo(at, false);
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const here = item(current);
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'a' && props.onChoose) {
      choice.range(0, count - 1);
      event.preventDefault();
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 600) / (tile.height + gap))) * across;
    const moves: Record<string, number> = {
      ArrowRight: current + 1,
      ArrowLeft: current - 1,
      ArrowDown: current + across > count - 1 ? current : current + across,
      ArrowUp: current - across < 0 ? current : current - across,
      PageDown: current + page,
      PageUp: current - page,
      Home: 0,
      End: count - 1,
    };
    const to = moves[event.key];
    if (to !== undefined) goTo(to, event.shiftKey);
    else if (here === undefined) return;
    else if (event.key === 'Enter') props.onOpen(here);
    else if (event.key === ' ')
      choice.pick(current, here, { ctrl: props.onChoose !== undefined, shift: event.shiftKey });
    else if ((event.key === 'F10' && event.shiftKey) || event.key === 'ContextMenu') {
      const box = scroller.current?.querySelector(`[data-index="${current}"]`)?.getBoundingClientRect();
      props.onMenu?.(here, { x: (box?.left ?? 0) + 30, y: (box?.bottom ?? 0) - 4 });
    } else if (!props.onKey?.(event, here)) return;
    event.preventDefault();
    event.stopPropagation();
  };
  /** The tiles of the rectangle between two corners. */
  const rectangle = (from: number, to: number) => {
    const [top, bottom] = [Math.floor(from / across), Math.floor(to / across)].sort((a, b) => a - b) as [
      number,
      number,
    ];
    const [left, right] = [from % across, to % across].sort((a, b) => a - b) as [number, number];
    const out: number[] = [];
    for (let row = top; row <= bottom; row++)
      for (let column = left; column <= right; column++) out.push(row * across + column);
    return out.filter((i) => i < count);
  };

  /** The tile at a point, or the nearest: a rectangle may begin and end between tiles. */
  const indexAt = (event: PointerEvent): number => {
    const box = scroller.current!.getBoundingClientRect();
    const x = event.clientX - box.left - gap / 2;
    const y = event.clientY - box.top + scroller.current!.scrollTop - gap / 2;
    const column = Math.max(0, Math.min(across - 1, Math.floor(x / ((width - gap) / across))));
    const row = Math.max(0, Math.floor(y / (tile.height + gap)));
    return Math.min(count - 1, row * across + column);
  };

  if (count === 0 && props.empty) return <div className="tiles sheet">{props.empty}</div>;
  return (
    <div
      ref={scroller}
      className="tiles sheet"
      role="grid"
      aria-label={props.label}
      aria-multiselectable={props.onChoose ? true : undefined}
      aria-rowcount={Math.ceil(count / across)}
      aria-colcount={across}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        if (!props.onChoose || event.button !== 0 || event.shiftKey || event.ctrlKey) return;
        if (!(event.target as HTMLElement).closest('.drag-handle, button, a')) choice.beginSweep(indexAt(event));
      }}
      onPointerMove={(event) => {
        if (event.buttons === 1) choice.sweepTo(indexAt(event), rectangle);
      }}
    >
      <div role="presentation" style={{ height: rows.getTotalSize() + gap, position: 'relative' }}>
        {rows.getVirtualItems().map((row) => (
          <div
            key={row.index}
            role="row"
            aria-rowindex={row.index + 1}
            className="tile-row"
            style={{
              transform: `translateY(${row.start}px)`,
              height: tile.height,
              gap,
              padding: `0 ${gap}px`,
              gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))`,
            }}
          >
            {Array.from({ length: across }, (_, i) => row.index * across + i)
              .filter((index) => index < count)
              .map((index) => {
                const it = item(index);
                if (it === undefined) return <div key={index} role="gridcell" className="tile-cell" />;
                const selected = keyOf(it) === selectedKey || (chosen?.has(keyOf(it)) ?? false);
                return (
                  <div
                    key={keyOf(it)}
                    role="gridcell"
                    data-index={index}
                    aria-colindex={(index % across) + 1}
                    aria-label={props.nameOf(it)}
                    aria-selected={selected}
                    tabIndex={index === tabbable ? 0 : -1}
                    {...(props.hintOf && hint(props.hintOf(it)))}
                    onFocus={() => setFocused(index)}
                    className={`tile-cell${selected ? ' selected' : ''}`}
                    onClick={(event: MouseEvent) => {
                      setFocused(index);
                      choice.pick(index, it, { ctrl: event.ctrlKey || event.metaKey, shift: event.shiftKey });
                    }}
                    onDoubleClick={() => props.onOpen(it)}
                    onContextMenu={(event: MouseEvent) => {
                      if (!props.onMenu) return;
                      event.preventDefault();
                      if (!chosen?.has(keyOf(it))) props.onChoose?.([keyOf(it)]);
                      props.onSelect(it);
                      props.onMenu(it, { x: event.clientX, y: event.clientY });
                    }}
                  >
                    {props.content(it)}
                  </div>
                );
              })}
          </div>
        ))}
      </div>
    </div>
  );
}
