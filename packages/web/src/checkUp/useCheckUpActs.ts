/** Acts of the check-up, each with its notice and undo. */
import { useMemo } from 'react';
import type { FolderMoveView, NeedView, ShortcutId, ShortcutView } from '@rellin/contract';
import { post } from '../api/client';
import { useCommands } from '../workspace/useCommands';

export function useCheckUpActs() {
  const d = useCommands();
  return useMemo(() => {
    const { attempt, done } = d;
    const many = (n: number) => (n === 1 ? 'one shortcut' : `${n} shortcuts`);
    return {
      checkNow: () =>
        attempt(async () => {
          await post('/check-up/now');
        }),
      /** This one is it. */
      point: (name: string, shortcutId: ShortcutId, to: NeedView['candidates'][number]) =>
        attempt(async () => {
          const point = { shortcutId, placeId: to.placeId, originalId: to.originalId };
          await post('/check-up/point', { points: [point] });
          await done(`“${name}” points to ${to.path.split('/').pop()} now`);
        }),
      followFolder: (move: FolderMoveView) =>
        attempt(async () => {
          await post('/check-up/point', {
            points: move.explains.map(({ shortcutId, placeId, originalId }) => ({
              shortcutId,
              placeId,
              originalId,
            })),
            moved: { from: move.from.path || move.from.placeName, to: move.to.path || move.to.placeName },
          });
          await done(`Followed ${many(move.explains.length)} to “${move.to.path || move.to.placeName}”`);
        }),
      leave: (shortcutIds: ShortcutId[], leftAlone: boolean) =>
        attempt(async () => {
          await post('/check-up/leave', { shortcutIds, leftAlone });
          const what = many(shortcutIds.length);
          await done(leftAlone ? `Left ${what} alone` : `Looks after ${what} again`);
        }),
      /** What was followed or saved over is seen. */
      note: (shortcuts: readonly ShortcutView[]) =>
        attempt(async () => {
          await post('/shortcuts/acknowledge', { ids: shortcuts.map((s) => s.id) });
          await done(`Marked as seen the change of ${many(shortcuts.length)}`);
        }),
      silence: (id: string) =>
        attempt(async () => {
          await post('/check-up/silence', { id });

          d.say('It is not brought up again');
        }),
    };
  }, [d]);
}
