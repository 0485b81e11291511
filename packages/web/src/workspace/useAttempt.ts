/** What every command is made of: trying, telling what was done with an undo, or what stood against it. */
import type { ShortcutId } from '@rellin/contract';
import type { DialogRequest } from './dialogRequest';
import { useMemo } from 'react';
import { useNavigate, type NavigateFunction } from 'react-router';
import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { readAgain } from '../api/changes';
import { ProblemError } from '../api/client';
import { useFrame, useWorkspaceActions, type Notice, type Selected } from './workspace';

export interface CommandTools {
  /** Runs an act; a refusal becomes a notice and `undefined`, unless `onRefused` takes it. */
  attempt<T>(work: () => Promise<T>, onRefused?: (refused: ProblemError) => void): Promise<T | undefined>;
  /** Says what was done, with its undo, once the page shows it. */
  done(text: string): Promise<void>;
  /** What was done is on the page already: told at once, so that an undo meanwhile is told after it. */
  shown(text: string): Promise<void>;
  say(notice: Notice): void;
  select(selected: Selected | undefined): void;
  deselect(shortcutId: ShortcutId): void;
  openDialog(request: DialogRequest): void;
  navigate: NavigateFunction;
  client: QueryClient;
  /** Others can see the screen: nothing opened is recorded. */
  quiet: boolean;
}

export function useAttempt(): CommandTools {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { say, select, deselect, openDialog } = useWorkspaceActions();
  const { quiet } = useFrame();
  return useMemo(() => {
    const told = (text: string) => say({ text, tone: 'plain', undo: true });
    return {
      attempt: async (work, onRefused) => {
        try {
          return await work();
        } catch (error) {
          if (error instanceof ProblemError && error.kind === 'not-signed-in')
            void client.invalidateQueries({ queryKey: ['session'] });
          if (onRefused && error instanceof ProblemError) onRefused(error);
          else say({ text: (error as Error).message, tone: 'trouble' });
          return undefined;
        }
      },
      done: async (text) => {
        await readAgain();
        told(text);
      },
      shown: async (text) => {
        told(text);
        await readAgain();
      },
      say,
      select,
      deselect,
      openDialog,
      navigate,
      client,
      quiet,
    };
  }, [client, navigate, say, select, deselect, openDialog, quiet]);
}
