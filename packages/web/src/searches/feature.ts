/** What this room puts into the page. */
import type { SearchView } from '@rellin/contract';
import type { SearchDraft } from '../workspace/workspace';
import type { Feature } from '../workspace/feature';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    'save-search': { draft: SearchDraft };
    'change-search': { search: SearchView };
  }
}

export const searches: Feature = {
  dialogs: [
    {
      kinds: ['save-search', 'change-search'],
      load: () => import('./dialogs').then((m) => ({ default: m.SearchDialogs })),
      atIdle: true,
    },
  ],
};
