/** Sweeping, and what is kept of it; each an act with its undo. */
import { useMemo } from 'react';
import type { SweepRequest, SweepResult, SweepRunView, SweepView } from '@rellin/contract';
import { readAgain } from '../api/changes';
import { patch, post, remove } from '../api/client';
import { useCommands } from '../workspace/useCommands';
import type { SweepDraft } from './draft';
import { originals } from './words';

export function useSweepActs() {
  const { attempt, done, say } = useCommands();
  return useMemo(
    () => ({
      run: (request: SweepRequest, name: string): Promise<SweepResult | undefined> =>
        attempt(async () => {
          const result = await post('/sweeps/run', request);
          const went = result.moved + result.binned;
          const left = result.left.length > 0 ? `; ${result.left.length} stayed` : '';
          const notes = result.notes.length > 0 ? `. ${result.notes.join(' ')}` : '';
          await done(
            went === 0 ? `Nothing was swept${left}` : `Swept ${originals(went)} out of “${name}”${left}${notes}`,
          );
          return result;
        }),
      save: (draft: SweepDraft, sweep: SweepView | undefined): Promise<SweepView | undefined> =>
        attempt(async () => {
          const saved = await (sweep ? patch(`/sweeps/${sweep.id}`, draft) : post('/sweeps', draft));
          await done(sweep ? `Changed the sweep “${saved.name}”` : `Saved the sweep “${saved.name}”`);
          return saved;
        }),
      remove: (sweep: SweepView) =>
        attempt(async () => {
          await remove(`/sweeps/${sweep.id}`);
          await done(`Deleted the sweep “${sweep.name}”; no file was touched`);
          return true;
        }),
      undo: (run: SweepRunView) =>
        attempt(async () => {
          await post(`/journal/${run.journalId!}/undo`);
          await readAgain();
          say(`Undone: everything swept out of “${run.name}” is back`);
          return true;
        }),
    }),
    [attempt, done, say],
  );
}
