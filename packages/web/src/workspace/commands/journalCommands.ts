/** Undo and redo. */
import { readAgain } from '../../api/changes';
import { post, settled } from '../../api/client';
import type { CommandTools } from '../useAttempt';

export const journalCommands = ({ attempt, say }: CommandTools) => ({
  undo: () =>
    attempt(async () => {
      await settled();
      const line = await post('/journal/undo');
      await readAgain();
      say({ text: `Undone: ${line.summary}`, tone: 'plain' });
    }),
  redo: () =>
    attempt(async () => {
      await settled();
      const line = await post('/journal/redo');
      await readAgain();
      say({ text: `Done again: ${line.summary}`, tone: 'plain' });
    }),
});
