/** Shortcuts: added, changed, removed, put back. */
import type { NewShortcut, NewShortcuts, ShortcutsMade, ShortcutPatch } from '@rellin/contract';
import { shownKeys } from '@rellin/core/keys';
import { readAgain } from '../../api/changes';
import { type ProblemError, patch, post, remove } from '../../api/client';
import type { CommandTools } from '../useAttempt';

export const shortcutCommands = ({ attempt, done, say, select, deselect }: CommandTools) => ({
  /** `onRefused` takes what stands against it, where a form shows that at its field. */
  addShortcut: (request: NewShortcut, onRefused?: (refused: ProblemError) => void) =>
    attempt(async () => {
      const made = await post('/shortcuts', request);
      select({ type: 'shortcut', id: made.id });
      await done(request.pin ? `Added “${made.name}” and pinned it` : `Added “${made.name}”`);
      return made;
    }, onRefused),
  addShortcuts: (request: NewShortcuts, onRefused?: (refused: ProblemError) => void) =>
    attempt(async () => {
      const made = await post('/shortcuts/many', request);
      select({ type: 'shortcut', id: made.ids[0]! });
      await done(madeWords(made));
      return made;
    }, onRefused),
  change: (id: string, change: ShortcutPatch, onRefused?: (refused: ProblemError) => void) =>
    attempt(async () => {
      const now = await patch(`/shortcuts/${id}`, change);
      await done(change.name === undefined ? `Described “${now.name}”` : `Renamed to “${now.name}”`);
      return now;
    }, onRefused),
  removeShortcut: (shortcut: { id: string; name: string }) =>
    attempt(async () => {
      await remove(`/shortcuts/${shortcut.id}`);
      deselect(shortcut.id);
      await done(`Removed the shortcut “${shortcut.name}”. Its original is untouched.`);
    }),
  removeMany: (ids: string[]) =>
    attempt(async () => {
      await post('/shortcuts/remove', { ids });
      select(undefined);
      await done(`Removed ${ids.length} shortcuts. Their originals are untouched.`);
    }),
  renameMany: (names: { id: string; name: string }[]) =>
    attempt(async () => {
      await post('/shortcuts/rename', { names });
      await done(`Renamed ${names.length} shortcuts`);
      return true;
    }),
  putBack: (shortcut: { id: string; name: string }) =>
    attempt(async () => {
      await post(`/shortcuts/${shortcut.id}/put-back`);
      await done(`Put back “${shortcut.name}”`);
    }),
  repoint: (id: string, typed: string, onRefused?: (refused: ProblemError) => void) =>
    attempt(async () => {
      const now = await post(`/shortcuts/${id}/repoint`, { typed });
      await done(`Changed the target of “${now.name}”`);
      return now;
    }, onRefused),
  acknowledge: (id: string) =>
    attempt(async () => {
      await post('/shortcuts/acknowledge', { ids: [id] });
      await readAgain();
    }),
  setPicture: (target: 'shortcut' | 'collection', id: string, name: string, picture: string, revision?: number) =>
    attempt(async () => {
      await patch(`/${target}s/${id}`, { picture, ...(revision !== undefined && { revision }) });
      await done(picture === '' ? `“${name}” has no picture of its own any more` : `Gave “${name}” a picture`);
      return true;
    }),
  setKeys: (
    target: 'shortcut' | 'collection' | 'quick-filter' | 'search',
    id: string,
    keys: string | null,
    revision?: number,
  ) =>
    attempt(async () => {
      await patch(`/${target}${target === 'search' ? 'es' : 's'}/${id}`, {
        keys,
        ...(revision !== undefined && { revision }),
      });
      await done(keys ? `Its key is ${shownKeys(keys)} now` : 'It has no key of its own any more');
      return true;
    }),
  emptyBin: () =>
    attempt(async () => {
      const { removed } = await post('/bin/empty');
      await readAgain();
      say({ text: `The bin is empty: ${removed} gone for good`, tone: 'plain' });
      return true;
    }),
  copy: (text: string) =>
    attempt(async () => {
      await navigator.clipboard.writeText(text);
      say({ text: 'Copied', tone: 'plain' });
    }),
});

/** What was added, and what was not and why. */
function madeWords({ ids, added, pinned, notMade }: ShortcutsMade): string {
  const had = ids.length - added;
  const parts = [
    `Added ${added} shortcut${added === 1 ? '' : 's'}`,
    ...(had > 0 ? [`${had} ${had === 1 ? 'was' : 'were'} there already`] : []),
    ...(pinned > 0 ? [`${pinned} pinned`] : []),
  ].join(', ');
  const left = notMade.map(({ name, reason }) => `${name} (${reason})`);
  return left.length === 0 ? parts : `${parts}. Left out: ${left.join('; ')}`;
}
