/** What this room puts into the page. */
import type { ClashChoice } from '@rellin/core/filing';
import type { EntryView, FilingView, OriginalRef } from '@rellin/contract';
import type { Gathered } from '../workspace/workspace';
import type { Feature } from '../workspace/feature';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    'file-into': { gathered: Gathered };
    'new-folder': { into: OriginalRef; name: string };
    'rename-originals': { entries: EntryView[] };
    clashes: { view: Extract<FilingView, { state: 'clashes' }>; choose(choice: ClashChoice): void };
  }
}

export const filing: Feature = {
  dialogs: [
    {
      kinds: ['file-into', 'clashes', 'new-folder', 'rename-originals'],
      load: () => import('./dialogs').then((m) => ({ default: m.FilingDialogs })),
      atIdle: true,
    },
  ],
};
