import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { shownKeys } from '@rellin/core/keys';
import { useCollections, useQuickFilters, useSearches, useShortcuts } from '../api/queries';
import { KeyCap } from '../parts/KeyCap';
import { useDesk } from './desk';

/** All of them, by where they count. */
export const KEYS: [string, [string, string][]][] = [
  [
    'Anywhere',
    [
      ['1 … 9', 'Open the pin with that key'],
      ['/ or Ctrl K', 'Find line'],
      ['N', 'Add a shortcut (to the selected original, or by path and address)'],
      ['Ctrl V', 'Add a shortcut to the path or address in the clipboard'],
      ['Ctrl Z', 'Undo'],
      ['Ctrl Shift Z', 'Redo'],
      ['I', 'Fold the card away, or bring it back'],
      ['S', 'Hide the strip, or bring it back'],
      ['H', 'Quiet screen: hide names, recents and counts'],
      ['?', 'These keys'],
    ],
  ],
  [
    'On a row',
    [
      ['↑ ↓ PgUp PgDn Home End', 'Move'],
      ['Enter', 'Open'],
      ['Space', 'Select'],
      ['V', 'Look in place'],
      ['O', 'Open with another program'],
      ['W', 'Show where it is'],
      ['C', 'Copy path'],
      ['P', 'Pin, unpin; for an original: add shortcut and pin'],
      ['F2', 'Rename the shortcut'],
      ['D', 'Describe; other names'],
      ['A', 'Add to a collection'],
      ['T', 'Tags'],
      ['G', 'Goes with'],
      ['M', 'File into a folder: move or copy'],
      ['R', 'Repoint'],
      ['B', 'Picture'],
      ['Del', 'Remove the shortcut'],
      ['Shift ↑ ↓, Ctrl A', 'Choose several'],
      ['Shift F10', 'All acts'],
    ],
  ],
  [
    'Originals',
    [
      ['G', 'Type or paste a path'],
      ['Backspace', 'One folder up'],
    ],
  ],
  [
    'In a collection',
    [
      ['Alt ↑ ↓', 'Move it in the own order'],
      ['K', 'Keep it first, whatever the order'],
      ['X', 'Take it out'],
    ],
  ],
  [
    'On a board',
    [
      ['← → ↑ ↓', 'From thing to thing'],
      ['Alt and an arrow', 'Move it to the next free cell, or one place on'],
      ['U', 'Lay a bundle out again as it lay'],
      ['X', 'Take it off the board'],
      ['Alt in a drag', 'Lay it exactly there'],
    ],
  ],
  [
    'Pin strip, find line',
    [
      ['Alt ← →', 'Move the pin that has the focus'],
      ['Del', 'Unpin it'],
      ['E', 'Put it into the menu at the end'],
      ['→ ←, Backspace', 'In a menu: go deeper, come back'],
      ['Shift Enter', 'In the find line: what can be done with the answer'],
    ],
  ],
];

export function KeysDialog() {
  const { closeDialog } = useDesk();
  const shortcuts = useShortcuts().data ?? [];
  const collections = useCollections().data ?? [];
  const quickFilters = useQuickFilters().data ?? [];
  const searches = useSearches().data ?? [];
  const own = [...shortcuts, ...collections, ...searches, ...quickFilters].filter((x) => x.keys !== null);
  return (
    <Dialog open onClose={closeDialog} maxWidth="md" aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys</DialogTitle>
      <DialogContent tabIndex={0}>
        <div className="keys-list">
          {own.length > 0 && (
            <section>
              <h3>Your own</h3>
              <dl>
                {own.map((x) => (
                  <div key={x.id}>
                    <dt>
                      <KeyCap>{shownKeys(x.keys!)}</KeyCap>
                    </dt>
                    <dd>{x.name}</dd>
                  </div>
                ))}
              </dl>
            </section>
          )}
          {KEYS.map(([title, keys]) => (
            <section key={title}>
              <h3>{title}</h3>
              <dl>
                {keys.map(([key, what]) => (
                  <div key={key + what}>
                    <dt>
                      <KeyCap>{key}</KeyCap>
                    </dt>
                    <dd>{what}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </div>
      </DialogContent>
    </Dialog>
  );
}
