import type { ShortcutView } from '@rellin/contract';
import { shown } from '@rellin/core/paths';

/** Where a shortcut's original lies, in one line: its folders, its web address, or the list of programs. */
export function locationText(s: Pick<ShortcutView, 'target' | 'location' | 'trail'>): string {
  if (s.target === 'web') return s.location;
  return s.target === 'program' ? 'Programs' : s.trail.map(shown).join(' › ');
}
