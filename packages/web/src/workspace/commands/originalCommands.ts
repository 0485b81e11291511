/** Originals, in the folder where they lie: renamed, duplicated, and a folder made among them. */
import type { OriginalName, OriginalRef } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { type ProblemError, post } from '../../api/client';
import type { CommandTools } from '../useAttempt';

const many = (n: number) => (n === 1 ? 'one original' : `${n} originals`);

export const originalCommands = ({ attempt, done }: CommandTools) => ({
  renameOriginals: (names: OriginalName[], onRefused?: (refused: ProblemError) => void) =>
    attempt(async () => {
      const { renamed } = await post('/filing/rename', { names });
      await done(
        names.length === 1 ? `Renamed the original to “${shown(names[0]!.name)}”` : `Renamed ${many(renamed)}`,
      );
      return true;
    }, onRefused),
  /** Its path. */
  newFolder: (into: OriginalRef, name: string, onRefused?: (refused: ProblemError) => void) =>
    attempt(async () => {
      const { path } = await post('/filing/folder', { ...into, newFolder: name });
      await done(`Made the folder “${name.trim()}”`);
      return path;
    }, onRefused),
  duplicateOriginals: (originals: readonly OriginalRef[]) =>
    attempt(async () => {
      const refs = originals.map(({ placeId, originalId }) => ({ placeId, originalId }));
      const { copied } = await post('/filing/duplicate', { originals: refs });
      await done(`Duplicated ${many(copied)}`);
    }),
});
