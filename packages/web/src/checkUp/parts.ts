/** The parts of the check-up, in their order. */
import type { ShortcutState } from '@rellin/core/identity';
import type { ReviewKind } from '@rellin/core/review';

export type Part =
  | 'needs'
  | 'away'
  | 'followed'
  | 'saved-over'
  | 'no-access'
  | 'left'
  | 'duplicates'
  | 'collections'
  | 'unused'
  | 'links';

export const STATE_PARTS: readonly { part: Part; title: string; states: readonly ShortcutState[] }[] = [
  { part: 'away', title: 'Away', states: ['away'] },
  { part: 'followed', title: 'Followed', states: ['followed'] },
  { part: 'saved-over', title: 'Saved over', states: ['saved-over'] },
  { part: 'no-access', title: 'No access', states: ['no-access'] },
  { part: 'left', title: 'Left alone', states: [] },
];

export const REVIEW_PARTS: readonly { part: Part; title: string; kinds: readonly ReviewKind[] }[] = [
  { part: 'duplicates', title: 'Duplicates', kinds: ['same-original', 'same-content', 'alike', 'shadowed'] },
  { part: 'collections', title: 'Same members', kinds: ['same-members'] },
  { part: 'unused', title: 'Unused', kinds: ['long-lost', 'never-opened', 'stale'] },
];
