/** Which program opens what. */
import { kindWord, type Kind } from '@rellin/core/kinds';
import { post } from '../../api/client';
import type { CommandTools } from '../useAttempt';

export const programCommands = ({ attempt, done }: CommandTools) => ({
  setOpenWith: (shortcuts: readonly { id: string; name: string }[], program: { id: string; name: string } | null) =>
    attempt(async () => {
      await post('/shortcuts/open-with', { ids: shortcuts.map((s) => s.id), programId: program?.id ?? null });
      const what = shortcuts.length === 1 ? `“${shortcuts[0]!.name}” opens` : `${shortcuts.length} shortcuts open`;
      await done(program ? `${what} with ${program.name} from now on` : `${what} as usual from now on`);
      return true;
    }),
  setProgramFor: (kind: Kind, program: { id: string; name: string } | null) =>
    attempt(async () => {
      await post('/programs/for-kind', { kind, programId: program?.id ?? null });
      await done(
        program
          ? `Everything of the kind ${kindWord(kind)} opens with ${program.name}`
          : `The system chooses for the kind ${kindWord(kind)} again`,
      );
      return true;
    }),
  tellSystem: (kind: Kind, program: { id: string; name: string }, mime?: string) =>
    attempt(async () => {
      const { mimes } = await post('/programs/tell-system', {
        kind,
        programId: program.id,
        ...(mime && { mime }),
      });
      await done(`Told the system: ${mimes.join(', ')} open with ${program.name}`);
      return true;
    }),
});
