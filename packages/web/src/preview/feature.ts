/** What this room puts into the page. */
import type { OpeningResult, OriginalId, PlaceId } from '@rellin/contract';
import type { Feature } from '../workspace/feature';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    preview: { placeId: PlaceId; originalId: OriginalId; name: string; argv?: string[] };
    'stand-in': { opened: OpeningResult };
  }
}

export const preview: Feature = {
  dialogs: [
    {
      kinds: ['preview', 'stand-in'],
      load: () => import('./PreviewDialog').then((m) => ({ default: m.PreviewDialogs })),
    },
  ],
};
