/** Opening, and going to where something is. */
import type { LocatedView, OpenRequest, ShortcutView } from '@rellin/contract';
import { readAgain } from '../../api/changes';
import { get, post } from '../../api/client';
import type { Notice } from '../workspace';
import type { CommandTools } from '../useAttempt';

export const openingCommands = ({ attempt, say, openDialog, navigate, client, quiet }: CommandTools) => {
  const goToOriginal = ({ placeId, folderId, originalId }: Pick<LocatedView, 'placeId' | 'folderId' | 'originalId'>) =>
    void navigate(`/originals/${placeId}/${folderId}?at=${originalId}`);
  /** What helps where something could not be opened: another program, a preview, or where it is. */
  const remediesFor = (what: OpenRequest, opened = ''): Notice['remedies'] => {
    const all = client.getQueryData<ShortcutView[]>(['shortcuts', 'list']);
    const shortcut = all?.find((s) => s.id === what.shortcutId);
    const placeId = shortcut?.placeId ?? what.placeId;
    const originalId = shortcut?.originalId ?? what.originalId;
    if (placeId == null || originalId == null) return [];
    const name = shortcut?.name ?? opened;
    const show = async () => {
      const { trail } = await get(`/originals/${placeId}/${originalId}`);
      goToOriginal({ placeId, originalId, folderId: trail.at(-2)?.id ?? originalId });
    };
    return [
      ...(shortcut
        ? [{ label: 'Open with…', run: () => openDialog({ kind: 'open-with', shortcuts: [shortcut] }) }]
        : []),
      { label: 'Preview', run: () => openDialog({ kind: 'preview', placeId, originalId, name }) },
      { label: 'Show where it is', run: () => void attempt(show) },
    ];
  };
  return {
    open: (what: OpenRequest) =>
      attempt(
        async () => {
          const opened = await post('/openings', quiet ? { ...what, record: false } : what);
          // told at once, and put right where it turns out otherwise
          if (opened.pending)
            void attempt(
              async () => {
                await get(`/openings/${opened.openingId}/outcome`);
                await readAgain();
              },
              (refused) => say({ text: refused.message, tone: 'trouble', remedies: remediesFor(what, opened.name) }),
            );
          if (opened.how === 'system') say({ text: `Opened ${opened.name}`, tone: 'plain' });
          else if (opened.preview?.kind === 'folder') {
            void navigate(`/originals/${opened.preview.placeId}/${opened.preview.originalId}`);
            say({ text: `Stand-in: would have started ${opened.argv.join(' ')}`, tone: 'plain' });
          } else if (opened.preview)
            openDialog({
              kind: 'preview',
              placeId: opened.preview.placeId,
              originalId: opened.preview.originalId,
              name: opened.name,
              argv: opened.argv,
            });
          else openDialog({ kind: 'stand-in', opened });
          if (opened.notice) say({ text: opened.notice, tone: 'plain' });
          return opened;
        },
        (refused) =>
          say({
            text: refused.message,
            tone: 'trouble',
            ...(refused.kind === 'cannot-open' && { remedies: remediesFor(what) }),
          }),
      ),
    /** Goes to where a typed or known path is. */
    goTo: (path: string) => attempt(async () => goToOriginal(await post('/originals/locate', { path }))),
    showWhereItIs: (shortcut: ShortcutView) => {
      if (shortcut.target === 'program') void navigate('/originals/programs');
      else void attempt(async () => goToOriginal(await post('/originals/locate', { path: shortcut.location })));
    },
  };
};
