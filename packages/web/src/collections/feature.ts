/** What this room puts into the page. */
import type { CollectionView, EntryView, TagView } from '@rellin/contract';
import type { Gathered } from '../workspace/workspace';
import type { Feature } from '../workspace/feature';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    'new-collection': {
      collectionType: CollectionView['type'];
      parentId?: string;
      name?: string;
      gathered?: Gathered;
    };
    'change-collection': { collection: CollectionView };
    'add-to-collection': { gathered: Gathered };
    'collect-folder': { folder: EntryView };
    gather: { collection: CollectionView };
    tags: { gathered: Gathered };
    'change-tag': { tag: TagView };
  }
}

export const collections: Feature = {
  dialogs: [
    {
      kinds: [
        ...(['new-collection', 'change-collection', 'add-to-collection', 'collect-folder'] as const),
        ...(['gather', 'tags', 'change-tag'] as const),
      ],
      load: () => import('./dialogs').then((m) => ({ default: m.GatherDialogs })),
      atIdle: true,
    },
  ],
  commands: ({ openDialog }) => [
    { name: 'New collection…', run: () => openDialog({ kind: 'new-collection', collectionType: 'plain' }) },
    { name: 'New working set…', run: () => openDialog({ kind: 'new-collection', collectionType: 'working-set' }) },
  ],
};
