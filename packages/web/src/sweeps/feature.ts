/** What this room puts into the page. */
import type { SweepRule, SweepView } from '@rellin/contract';
import type { Feature } from '../workspace/feature';
import type { SweepDraft } from './draft';

declare module '../workspace/dialogRequest' {
  interface DialogRequests {
    'sweep-rules': { rules: SweepRule[]; onSave(rules: SweepRule[]): void };
    'save-sweep': { draft: SweepDraft; sweep: SweepView | undefined };
  }
}

export const sweeps: Feature = {
  dialogs: [
    {
      kinds: ['sweep-rules', 'save-sweep'],
      load: () => import('./dialogs').then((m) => ({ default: m.SweepDialogs })),
    },
  ],
  commands: ({ navigate }) => [
    { name: 'Sweep a folder…', called: 'clean', run: () => void navigate('/sweeps?choose=1') },
  ],
};
