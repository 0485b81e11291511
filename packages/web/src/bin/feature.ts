/** What this room puts into the page. */
import type { DeletedOriginal, DeleteView } from '@rellin/contract';
import type { Feature } from '../workspace/feature';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    'no-bin': { view: Extract<DeleteView, { state: 'no-bin' }>; onAgree(): void };
    expunge: { originals: DeletedOriginal[]; isAll: boolean };
  }
}

export const bin: Feature = {
  dialogs: [{ kinds: ['no-bin', 'expunge'], load: () => import('./dialogs').then((m) => ({ default: m.BinDialogs })) }],
};
