/** What this room puts into the page. */
import type { Feature } from '../workspace/feature';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    keys: object;
  }
}

export const frame: Feature = {
  dialogs: [{ kinds: ['keys'], load: () => import('./KeysDialog').then((m) => ({ default: m.KeysDialog })) }],
  commands: ({ d, openDialog, quiet, setQuiet }) => [
    { name: 'Undo', run: () => void d.undo() },
    { name: 'Redo', run: () => void d.redo() },
    { name: quiet ? 'End the quiet screen' : 'Quiet screen', run: () => setQuiet(!quiet) },
    { name: 'Show the keys', run: () => openDialog({ kind: 'keys' }) },
  ],
};
