/** The mark of a shortcut: a line to its original, drawn after its state. */
import type { ShortcutState } from '@rellin/core/identity';
import './Tether.css';

export const STATE_WORDS: Record<ShortcutState, string> = {
  ready: 'Ready',
  followed: 'Followed',
  away: 'Away',
  unsure: 'Unsure',
  lost: 'Lost',
  'no-access': 'No access',
  'saved-over': 'Saved over',
};

const SHAPES: Record<ShortcutState, React.ReactNode> = {
  ready: (
    <>
      <path d="M1 8h11" />
      <circle className="dot" cx="14" cy="8" r="3.4" />
    </>
  ),
  'saved-over': (
    <>
      <path d="M1 8h11" />
      <circle className="dot" cx="14" cy="8" r="3.4" />
    </>
  ),
  followed: (
    <>
      <path d="M1 4h6v6h5" />
      <circle className="dot" cx="14" cy="10" r="3.4" />
    </>
  ),
  away: (
    <>
      <path d="M1 8h10" strokeDasharray="2.2 1.8" />
      <circle cx="14" cy="8" r="2.8" />
    </>
  ),
  unsure: (
    <>
      <path d="M1 8h9" />
      <circle className="dot" cx="14" cy="4.2" r="2.7" />
      <circle className="dot" cx="14" cy="11.8" r="2.7" />
    </>
  ),
  lost: (
    <>
      <path d="M1 8h3.4M6.6 8h3.4" />
      <path d="M12 5.6l4.6 4.8M16.6 5.6L12 10.4" />
    </>
  ),
  'no-access': (
    <>
      <path d="M1 8h9.6" />
      <circle cx="14" cy="8" r="3.2" />
      <path d="M11.8 8h4.4" />
    </>
  ),
};

/** With an empty title the mark is decoration beside words that say the same. */
export function Tether({ state, title }: { state: ShortcutState; title?: string }) {
  const words = title ?? STATE_WORDS[state];
  const spoken = words === '' ? { 'aria-hidden': true } : { role: 'img', 'aria-label': words };
  return (
    <svg className={`tether ${state}`} viewBox="0 0 18 16" width="18" height="16" {...spoken}>
      {words !== '' && <title>{words}</title>}
      {SHAPES[state]}
    </svg>
  );
}
