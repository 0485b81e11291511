/** What this room puts into the page. */
import type { PublicationSource, ShortcutView } from '@rellin/contract';
import type { Feature } from '../workspace/feature';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    alias: { shortcut: ShortcutView };
    publish: { source: PublicationSource; id: string; name: string };
  }
}

export const aliases: Feature = {
  dialogs: [
    {
      kinds: ['alias', 'publish'],
      load: () => import('./dialogs').then((m) => ({ default: m.AliasDialogs })),
    },
  ],
};
