/** What this room puts into the page. */
import type { BoardId, BoardItemId, BoardView, BundleView, RegionView } from '@rellin/contract';
import type { Gathered } from '../workspace/workspace';
import type { Feature } from '../workspace/feature';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    'new-board': { gathered?: Gathered };
    'change-board': { board: BoardView };
    'new-region': { board: BoardView };
    'change-region': { board: BoardView; region: RegionView };
    'new-bundle': { board: BoardView; itemIds: BoardItemId[] };
    'change-bundle': { board: BoardView; bundle: BundleView };
    'lay-on-board': { gathered: Gathered; boardId?: BoardId };
  }
}

export const boards: Feature = {
  dialogs: [
    {
      kinds: [
        ...(['new-board', 'change-board', 'new-region', 'change-region'] as const),
        ...(['new-bundle', 'change-bundle', 'lay-on-board'] as const),
      ],
      load: () => import('./dialogs').then((m) => ({ default: m.BoardDialogs })),
    },
  ],
  commands: ({ openDialog }) => [{ name: 'New board…', run: () => openDialog({ kind: 'new-board' }) }],
};
