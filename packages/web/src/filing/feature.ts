/** What this room puts into the page. */
import type { ClashChoice } from '@rellin/core/filing';
import type { FilingView } from '@rellin/contract';
import type { Gathered } from '../workspace/workspace';
import type { Feature } from '../workspace/feature';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    'file-into': { gathered: Gathered };
    clashes: { view: Extract<FilingView, { state: 'clashes' }>; choose(choice: ClashChoice): void };
  }
}

export const filing: Feature = {
  dialogs: [
    {
      kinds: ['file-into', 'clashes'],
      load: () => import('./dialogs').then((m) => ({ default: m.FilingDialogs })),
      atIdle: true,
    },
  ],
};
