/** Originals into the bin of their disk, back from it, or deleted for good. */
import type { ClashChoice } from '@rellin/core/filing';
import { piecesOf } from '@rellin/core/lists';
import { shown } from '@rellin/core/paths';
import type { DeletedOriginal, ExpungeView, FilingTarget, OriginalRef } from '@rellin/contract';
import { readAgain } from '../../api/changes';
import { post } from '../../api/client';
import type { CommandTools } from '../useAttempt';

/** So many are named in one request. */
const AT_ONCE = 10_000;

const many = (n: number) => (n === 1 ? 'one original' : `${n} originals`);
const named = (of: readonly { name: string }[]) => (of.length === 1 ? `“${shown(of[0]!.name)}”` : many(of.length));

export function deletedCommands({ attempt, done, say, openDialog }: CommandTools) {
  /** Into the bin of their disk; where there is none it is asked whether they go to that of the home folder. */
  const deleteOriginals = (
    originals: readonly (OriginalRef & { name: string })[],
    acrossVolumes = false,
  ): Promise<boolean | undefined> =>
    attempt(async () => {
      const refs = originals.map(({ placeId, originalId }) => ({ placeId, originalId }));
      const view = await post('/bin/originals', { originals: refs, ...(acrossVolumes && { acrossVolumes }) });
      if (view.state === 'no-bin') {
        openDialog({ kind: 'no-bin', view, onAgree: () => void deleteOriginals(originals, true) });
        return false;
      }
      const notes = view.notes.length > 0 ? `. ${view.notes.join(' ')}` : '';
      const words = originals.length === 1 ? 'it is in the bin' : 'they are in the bin';
      await done(`Deleted ${named(originals)}; ${words}${notes}`);
      return true;
    });

  /** Where each lay, or into another folder; a name that is taken is asked about. */
  const restore = (
    deleted: readonly DeletedOriginal[],
    into?: FilingTarget,
    clash?: ClashChoice,
  ): Promise<boolean | undefined> =>
    attempt(async () => {
      const ids = deleted.map((d) => d.id);
      const view = await post('/bin/originals/restore', { ids, ...(into && { into }), ...(clash && { clash }) });
      if (view.state === 'clashes') {
        openDialog({ kind: 'clashes', view, choose: (choice) => void restore(deleted, into, choice) });
        return false;
      }
      const where = into ? `into “${view.into}”` : view.filed === 1 ? 'where it was' : 'where they were';
      const skipped = view.skipped > 0 ? `; ${view.skipped} skipped, the name was taken` : '';
      await done(
        view.filed === 0
          ? `Nothing was restored${skipped}`
          : `Restored ${view.filed === 1 ? named(deleted.slice(0, 1)) : many(view.filed)} ${where}${skipped}`,
      );
      return true;
    });

  return {
    deleteOriginals,
    restore,
    /** It cannot be undone. */
    expunge: (deleted: readonly DeletedOriginal[]) =>
      attempt(async () => {
        let gone = 0;
        const kept: ExpungeView['kept'] = [];
        for (const some of piecesOf(deleted, AT_ONCE)) {
          const view = await post('/bin/originals/expunge', { ids: some.map((d) => d.id) });
          gone += view.deleted;
          kept.push(...view.kept);
        }
        await readAgain();
        const left = kept.length === 0 ? '' : `; ${keptWords(kept)}`;
        say({ text: `Deleted ${many(gone)} for good${left}`, tone: kept.length > 0 ? 'trouble' : 'plain' });
        return true;
      }),
  };
}

function keptWords(kept: readonly { name: string; why: string }[]): string {
  const [first, ...rest] = kept;
  const others = rest.length === 0 ? '' : ` and ${rest.length} more`;
  return `“${first!.name}”${others} stayed: ${first!.why}`;
}
