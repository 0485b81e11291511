/** A rectangle drawn over a board with the pointer: all that it touches is chosen. */
import { useState, type PointerEvent, type RefObject } from 'react';

interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** So far the pointer moves in a click. */
const CLICK_PX = 4;

const isEmptyGround = (target: EventTarget | null) =>
  target instanceof Element && !target.closest('[data-slot], button, a, input, .region-side');

/**
 * `choose` is given the slots within the rectangle, in the order of the page, and what stays chosen beside them: with
 * Ctrl or Shift all that was chosen before.
 */
export function useLasso(
  scroller: RefObject<HTMLElement | null>,
  chosen: readonly string[],
  choose: (slotIds: string[], kept: readonly string[]) => void,
): { box: Box | undefined; onPointerDown(event: PointerEvent<HTMLElement>): void } {
  const [box, setBox] = useState<Box>();
  return {
    box,
    onPointerDown(event) {
      const board = scroller.current;
      if (!board || event.button !== 0 || !isEmptyGround(event.target)) return;
      // no text is selected meanwhile
      event.preventDefault();
      const kept = event.ctrlKey || event.metaKey || event.shiftKey ? chosen : [];
      const frame = board.getBoundingClientRect();
      const at = (e: { clientX: number; clientY: number }) => ({
        x: e.clientX - frame.left + board.scrollLeft,
        y: e.clientY - frame.top + board.scrollTop,
      });
      const from = at(event);
      let last: Box | undefined;
      const move = (e: globalThis.PointerEvent) => {
        const to = at(e);
        if (!last && Math.hypot(to.x - from.x, to.y - from.y) < CLICK_PX) return;
        last = {
          left: Math.min(from.x, to.x),
          top: Math.min(from.y, to.y),
          width: Math.abs(to.x - from.x),
          height: Math.abs(to.y - from.y),
        };
        setBox(last);
        choose(within(board, frame, last), kept);
      };
      const end = () => {
        window.removeEventListener('pointermove', move);
        window.removeEventListener('pointerup', end);
        window.removeEventListener('pointercancel', end);
        setBox(undefined);
        if (!last) choose([], kept);
      };
      window.addEventListener('pointermove', move);
      window.addEventListener('pointerup', end);
      window.addEventListener('pointercancel', end);
    },
  };
}

function within(board: HTMLElement, frame: DOMRect, box: Box): string[] {
  return [...board.querySelectorAll<HTMLElement>('[data-slot]')].flatMap((node) => {
    const rect = node.getBoundingClientRect();
    const left = rect.left - frame.left + board.scrollLeft;
    const top = rect.top - frame.top + board.scrollTop;
    const touches =
      left < box.left + box.width &&
      left + rect.width > box.left &&
      top < box.top + box.height &&
      top + rect.height > box.top;
    return touches ? [node.dataset['slot']!] : [];
  });
}
