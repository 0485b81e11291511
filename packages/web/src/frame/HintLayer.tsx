/**
 * The one tooltip of the page: shows the description of what the pointer rests on or the focus came to by key. It stays
 * while the pointer is on it, and goes with Escape, a press, a scroll or when what it is of goes (WCAG 2.2, 1.4.13).
 */
import { useEffect, useRef, useState } from 'react';
import Popper from '@mui/material/Popper';
import './hint.css';

const REST_MS = 500;
/** Time to go from the thing to its hint. */
const LEAVE_MS = 150;

export function HintLayer() {
  const [of, setOf] = useState<{ node: HTMLElement; text: string }>();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    const later = (ms: number, work: () => void) => {
      clearTimeout(timer.current);
      timer.current = setTimeout(work, ms);
    };
    const hintedAt = (target: EventTarget | null) =>
      target instanceof Element ? target.closest<HTMLElement>('[data-hint]') : null;
    const show = (node: HTMLElement) =>
      later(REST_MS, () => node.isConnected && setOf({ node, text: node.dataset['hint'] ?? '' }));
    const hide = () => {
      clearTimeout(timer.current);
      setOf(undefined);
    };
    const onOver = (event: PointerEvent) => {
      if (event.pointerType === 'touch' || event.buttons !== 0) return;
      if (event.target instanceof Element && event.target.closest('.hint')) return clearTimeout(timer.current);
      const node = hintedAt(event.target);
      if (node) show(node);
      else later(LEAVE_MS, hide);
    };
    const onFocus = (event: FocusEvent) => {
      const node = hintedAt(event.target);
      if (node && node === event.target && node.matches(':focus-visible')) show(node);
      else hide();
    };
    const onKey = (event: KeyboardEvent) => event.key === 'Escape' && hide();
    document.addEventListener('pointerover', onOver);
    document.addEventListener('focusin', onFocus);
    document.addEventListener('keydown', onKey, true);
    document.addEventListener('pointerdown', hide, true);
    // a list that follows the keys scrolls while the hint of the next row is on its way
    const onScroll = () => setOf(undefined);
    document.addEventListener('scroll', onScroll, true);
    return () => {
      hide();
      document.removeEventListener('pointerover', onOver);
      document.removeEventListener('focusin', onFocus);
      document.removeEventListener('keydown', onKey, true);
      document.removeEventListener('pointerdown', hide, true);
      document.removeEventListener('scroll', onScroll, true);
    };
  }, []);
  if (!of?.node.isConnected) return null;
  return (
    <Popper open anchorEl={of.node} placement="bottom-start" className="hint" modifiers={[{ name: 'flip' }]}>
      <div className="hint-text">{of.text}</div>
    </Popper>
  );
}
