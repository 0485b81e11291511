/** What this room puts into the page. */
import type { CatalogueFilter, CollectionView, EntryView, QuickFilterView, ShortcutView } from '@rellin/contract';
import type { Feature } from '../workspace/feature';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    add: { typed?: string; slot?: number; outside?: boolean };
    rename: { shortcut: ShortcutView };
    describe: { shortcut: ShortcutView };
    repoint: { shortcut: ShortcutView };
    'goes-with': { shortcut: ShortcutView };
    'rename-many': { shortcuts: ShortcutView[] };
    'empty-bin': { count: number };
    'own-key': {
      target: 'shortcut' | 'collection' | 'quick-filter' | 'search';
      id: string;
      name: string;
      keys: string | null;
      revision?: number;
    };
    'quick-filter': { filter: QuickFilterView } | { now: CatalogueFilter };
    picture: { target: 'shortcut'; shortcut: ShortcutView } | { target: 'collection'; collection: CollectionView };
    'open-with': { shortcuts: ShortcutView[] } | { original: EntryView };
  }
}

export const shortcuts: Feature = {
  dialogs: [
    {
      kinds: [
        ...(['add', 'rename', 'describe', 'repoint', 'goes-with', 'rename-many', 'empty-bin', 'own-key'] as const),
        ...(['quick-filter', 'picture', 'open-with'] as const),
      ],
      load: () => import('./dialogs').then((m) => ({ default: m.ShortcutDialogs })),
      atIdle: true,
    },
  ],
  commands: ({ openDialog }) => [{ name: 'Add shortcut…', run: () => openDialog({ kind: 'add' }) }],
};
