/**
 * Buttons and links of which Tab stops at one only; arrows, Home and End go on among them. So a list below a row of
 * buttons is one press away, however many there are (WAI-ARIA Authoring Practices, toolbar pattern). Fields keep their
 * own stops, as does whatever lies in an element with `data-own-stops`.
 */
import { type KeyboardEvent, type ReactNode } from 'react';

const STOPS = 'button:not(:disabled), a[href], [role=separator][aria-valuenow]';

function stopsIn(node: HTMLElement): HTMLElement[] {
  return [...node.querySelectorAll<HTMLElement>(STOPS)].filter((stop) => {
    const own = stop.closest('[data-own-stops]');
    return stop.closest('[data-roving]') === node && !(own && node.contains(own));
  });
}

/** Keeps one stop among the buttons of an element for as long as it is there. */
function keepOneStop(node: HTMLElement | null): (() => void) | undefined {
  if (!node) return undefined;
  let here: HTMLElement | undefined;
  const settle = () => {
    const stops = stopsIn(node);
    const current =
      stops.find((stop) => stop === here) ??
      stops.find((stop) => stop.matches('[aria-current], [aria-selected=true]')) ??
      // an edge to be drawn is no place to begin
      stops.find((stop) => stop.matches('button, a')) ??
      stops[0];
    for (const stop of stops) {
      const tabIndex = stop === current ? 0 : -1;
      if (stop.getAttribute('tabindex') !== String(tabIndex)) stop.tabIndex = tabIndex;
    }
  };
  const onFocus = (event: FocusEvent) => {
    const stop = (event.target as HTMLElement).closest<HTMLElement>(STOPS);
    if (stop && stopsIn(node).includes(stop)) here = stop;
    settle();
  };
  settle();
  // buttons come, go and are disabled
  const observer = new MutationObserver(settle);
  const attributeFilter = ['disabled', 'tabindex', 'href', 'aria-current', 'aria-selected'];
  observer.observe(node, { childList: true, subtree: true, attributes: true, attributeFilter });
  node.addEventListener('focusin', onFocus);
  return () => {
    observer.disconnect();
    node.removeEventListener('focusin', onFocus);
  };
}

function goOn(event: KeyboardEvent<HTMLElement>): void {
  if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
  const stops = stopsIn(event.currentTarget);
  const at = stops.indexOf(document.activeElement as HTMLElement);
  if (at < 0) return;
  const moves: Record<string, number> = {
    ArrowRight: at + 1,
    ArrowDown: at + 1,
    ArrowLeft: at - 1,
    ArrowUp: at - 1,
    Home: 0,
    End: stops.length - 1,
  };
  const to = moves[event.key];
  if (to === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  stops[Math.max(0, Math.min(stops.length - 1, to))]!.focus();
}

/** Makes the buttons and links of an element one stop; to be spread over it. */
export const roving = { ref: keepOneStop, onKeyDown: goOn, 'data-roving': '' } as const;

/** The line above a view's list: its name, filters and acts. */
export function ViewHead({ children }: { children: ReactNode }) {
  return (
    <div className="view-head" role="toolbar" aria-label="Filters and acts" {...roving}>
      {children}
    </div>
  );
}

/** Several lines of them that are one stop together; a toolbar where they have a name. */
export function Roving({ label, children }: { label?: string; children: ReactNode }) {
  return (
    <div style={{ display: 'contents' }} role={label && 'toolbar'} aria-label={label} {...roving}>
      {children}
    </div>
  );
}
