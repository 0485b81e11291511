/**
 * The right edge of a column's title: drawn by the pointer or moved by Shift and an arrow, as the arrows alone go
 * from title to title; Shift and Home, or a double press, gives its own width back.
 */
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';

const STEP = 16;
const MOST = 1000;

export function ColumnEdge(props: {
  title: string;
  width: number | undefined;
  least: number;
  onDraw(width: number | undefined): void;
  onResize(width: number | undefined): void;
}) {
  const { title, least, onDraw, onResize } = props;
  const edge = useRef<HTMLSpanElement>(null);
  const drawn = useRef<number | undefined>(undefined);
  const now = () => props.width ?? Math.round(edge.current!.parentElement!.getBoundingClientRect().width);
  const within = (width: number) => Math.max(least, Math.min(MOST, Math.round(width)));
  const onPointerDown = (event: PointerEvent) => {
    if (event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    const from = event.clientX;
    const start = now();
    const target = edge.current!;
    target.setPointerCapture(event.pointerId);
    target.onpointermove = (e) => onDraw((drawn.current = within(start + e.clientX - from)));
    target.onpointerup = target.onpointercancel = () => {
      target.onpointermove = target.onpointerup = target.onpointercancel = null;
      if (drawn.current !== undefined) onResize(drawn.current);
      drawn.current = undefined;
    };
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (!event.shiftKey) return;
    if (event.key === 'ArrowLeft') onResize(within(now() - STEP));
    else if (event.key === 'ArrowRight') onResize(within(now() + STEP));
    else if (event.key === 'Home') onResize(undefined);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <span
      ref={edge}
      className="column-edge"
      role="separator"
      aria-orientation="vertical"
      aria-label={`Width of ${title}`}
      aria-valuemin={least}
      aria-valuemax={MOST}
      aria-valuenow={props.width ?? least}
      aria-valuetext={props.width === undefined ? 'its own' : `${props.width} pixels`}
      aria-keyshortcuts="Shift+ArrowLeft Shift+ArrowRight Shift+Home"
      tabIndex={-1}
      onPointerDown={onPointerDown}
      onDoubleClick={() => onResize(undefined)}
      onKeyDown={onKeyDown}
    />
  );
}
