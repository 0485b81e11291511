/** How many of a row of labels fit beside each other; the rest go into a menu at its end. */
import { useLayoutEffect, useState, type RefObject } from 'react';

/** Room kept for the menu's own label. */
const MORE_WIDTH = 104;
const GAP = 6;

/**
 * `widths` in pixels, `room` for all of them; how many from the first fit, the menu's label counted as soon as one does
 * not. Pure.
 */
export function fitting(widths: readonly number[], room: number, alwaysMore: boolean): number {
  const total = widths.reduce((sum, w) => sum + w + GAP, -GAP);
  if (!alwaysMore && total <= room) return widths.length;
  let used = MORE_WIDTH;
  for (const [i, width] of widths.entries()) {
    used += width + GAP;
    if (used > room) return i;
  }
  return widths.length;
}

/** Measures the children of `row` (laid out without wrapping or shrinking) against `frame`. */
export function useFitting(
  frame: RefObject<HTMLElement | null>,
  row: RefObject<HTMLElement | null>,
  alwaysMore: boolean,
  labels: string,
): number {
  const [fits, setFits] = useState(Infinity);
  useLayoutEffect(() => {
    const measure = () => {
      if (!frame.current || !row.current) return;
      const style = getComputedStyle(frame.current);
      const room =
        frame.current.clientWidth - parseFloat(style.paddingLeft || '0') - parseFloat(style.paddingRight || '0');
      const widths = [...row.current.children].map((child) => (child as HTMLElement).offsetWidth);
      setFits(fitting(widths, room, alwaysMore));
    };
    measure();
    void document.fonts?.ready.then(measure);
    const observer = new ResizeObserver(measure);
    if (frame.current) observer.observe(frame.current);
    return () => observer.disconnect();
  }, [frame, row, alwaysMore, labels]);
  return fits;
}
