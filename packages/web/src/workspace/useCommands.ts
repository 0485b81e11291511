/** Doing things on the server: each act tells what was done with an undo, or what stood against it. */
import { useMemo } from 'react';
import { deletedCommands } from './commands/deletedCommands';
import { filterCommands } from './commands/filterCommands';
import { journalCommands } from './commands/journalCommands';
import { openingCommands } from './commands/openingCommands';
import { originalCommands } from './commands/originalCommands';
import { pinCommands } from './commands/pinCommands';
import { programCommands } from './commands/programCommands';
import { shortcutCommands } from './commands/shortcutCommands';
import { useAttempt } from './useAttempt';

export function useCommands() {
  const tools = useAttempt();
  return useMemo(() => {
    const { attempt, done, shown, say } = tools;
    return {
      attempt,
      done,
      shown,
      say: (text: string) => say({ text, tone: 'plain' }),
      ...shortcutCommands(tools),
      ...originalCommands(tools),
      ...deletedCommands(tools),
      ...pinCommands(tools),
      ...programCommands(tools),
      ...filterCommands(tools),
      ...journalCommands(tools),
      ...openingCommands(tools),
    };
  }, [tools]);
}

export type Commands = ReturnType<typeof useCommands>;
