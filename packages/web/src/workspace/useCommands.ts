/** Doing things on the server: each act tells what was done with an undo, or what stood against it. */
import { useCallback, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { useQueryClient } from '@tanstack/react-query';
import type {
  CatalogueFilter,
  LocatedView,
  NewShortcut,
  OpenRequest,
  PinTarget,
  PinView,
  QuickFilterView,
  ShortcutPatch,
  ShortcutView,
} from '@rellin/contract';
import { kindWord, type Kind } from '@rellin/core/kinds';
import { shownKeys } from '@rellin/core/keys';
import { get, ProblemError, patch, post, remove, settled } from '../api/client';
import { readAgain } from '../api/changes';
import { useWorkspace, type Notice } from './workspace';

export function useCommands() {
  const client = useQueryClient();
  const workspace = useWorkspace();
  const navigate = useNavigate();
  const { say, select, openDialog, quiet } = workspace;

  /** Runs an act; a refusal becomes a notice and `undefined`. */
  const attempt = useCallback(
    async <T>(work: () => Promise<T>, onRefused?: (refused: ProblemError) => void): Promise<T | undefined> => {
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
    [client, say],
  );

  return useMemo(() => {
    const done = async (text: string) => {
      await readAgain();
      say({ text, tone: 'plain', undo: true });
    };
    /** What was done is on the page already: told at once, so that an undo meanwhile is told after it. */
    const shown = async (text: string) => {
      say({ text, tone: 'plain', undo: true });
      await readAgain();
    };
    const goToOriginal = ({
      placeId,
      folderId,
      originalId,
    }: Pick<LocatedView, 'placeId' | 'folderId' | 'originalId'>) =>
      void navigate(`/originals/${placeId}/${folderId}?at=${originalId}`);
    /** What helps where something could not be opened: another program, a preview, or where it is. */
    const remediesFor = (what: OpenRequest, opened = ''): Notice['remedies'] => {
      const all = client.getQueryData<ShortcutView[]>(['shortcuts', 'list']);
      const shortcut = all?.find((s) => s.id === what.shortcutId);
      const placeId = shortcut?.placeId ?? what.placeId;
      const id = shortcut?.originalId ?? what.originalId;
      if (placeId == null || id == null) return [];
      const originalId = String(id);
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
      attempt,
      done,
      shown,
      say: (text: string) => say({ text, tone: 'plain' }),
      /** `onRefused` takes what stands against it, where a form shows that at its field. */
      addShortcut: (request: NewShortcut, onRefused?: (refused: ProblemError) => void) =>
        attempt(async () => {
          const made = await post('/shortcuts', request);
          select({ type: 'shortcut', id: made.id });
          await done(request.pin ? `Added “${made.name}” and pinned it` : `Added “${made.name}”`);
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
          if (workspace.selected?.type === 'shortcut' && workspace.selected.id === shortcut.id) select(undefined);
          await done(`Removed the shortcut “${shortcut.name}”. Its original is untouched.`);
        }),
      removeMany: (ids: string[]) =>
        attempt(async () => {
          await post('/shortcuts/remove', { ids });
          select(undefined);
          await done(`Removed ${ids.length} shortcuts. Their originals are untouched.`);
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
      /** The folder that Originals opens in from now on; null for the first place. */
      startHere: (startFolder: { placeId: number; originalId: number } | null, name: string) =>
        attempt(async () => {
          await patch('/settings', { startFolder });
          await done(
            startFolder ? `Originals opens in “${name}” from now on` : 'Originals opens in the first place again',
          );
          return true;
        }),
      keepQuickFilter: (name: string, filter: CatalogueFilter) =>
        attempt(async () => {
          await post('/quick-filters', { name, filter });
          await done(`Saved the quick filter “${name}”`);
          return true;
        }),
      renameQuickFilter: (filter: QuickFilterView, name: string) =>
        attempt(async () => {
          await patch(`/quick-filters/${filter.id}`, { name });
          await done(`The quick filter is called “${name}” now`);
          return true;
        }),
      removeQuickFilter: (filter: QuickFilterView) =>
        attempt(async () => {
          await remove(`/quick-filters/${filter.id}`);
          await done(`Removed the quick filter “${filter.name}”`);
        }),
      setPicture: (target: 'shortcut' | 'collection', id: string, name: string, picture: string, revision?: number) =>
        attempt(async () => {
          await patch(`/${target}s/${id}`, { picture, ...(revision !== undefined && { revision }) });
          await done(picture === '' ? `“${name}” has no picture of its own any more` : `Gave “${name}” a picture`);
          return true;
        }),
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
      pin: (target: PinTarget, targetId: string, name: string, slot?: number) =>
        attempt(async () => {
          const pins = await post('/pins', { target, targetId, ...(slot !== undefined && { slot }) });
          const at = pins.find((p) => p.targetId === targetId)?.slot;
          await done(`Pinned “${name}” as ${at}`);
        }),
      pinMany: (targetIds: string[]) =>
        attempt(async () => {
          await post('/pins/many', { targetIds });
          await done(`Pinned ${targetIds.length} shortcuts`);
        }),
      putPinAside: (pin: PinView, aside: boolean) =>
        attempt(async () => {
          await patch(`/pins/${pin.id}`, { aside });
          await done(aside ? `“${pin.name}” is in the menu at the end` : `“${pin.name}” is back on the strip`);
        }),
      keepPin: (pin: PinView, kept: boolean) =>
        attempt(async () => {
          await patch(`/pins/${pin.id}`, { kept });
          await done(kept ? `The pin “${pin.name}” stays where it is` : `The plan may move the pin “${pin.name}”`);
        }),
      movePin: (pin: PinView, slot: number) =>
        attempt(async () => {
          const before = client.getQueryData<PinView[]>(['pins']) ?? [];
          client.setQueryData(['pins'], reordered(before, pin.id, slot));
          try {
            await patch(`/pins/${pin.id}`, { slot });
          } catch (error) {
            client.setQueryData(['pins'], before);
            throw error;
          }
          await done(`Moved the pin “${pin.name}” to ${slot}`);
        }),
      unpin: (pinId: string, name: string) =>
        attempt(async () => {
          await remove(`/pins/${pinId}`);
          await done(`Unpinned “${name}”`);
        }),
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
      copy: (text: string) =>
        attempt(async () => {
          await navigator.clipboard.writeText(text);
          say({ text: 'Copied', tone: 'plain' });
        }),
    };
  }, [attempt, client, workspace.selected, navigate, openDialog, quiet, say, select]);
}

export type Commands = ReturnType<typeof useCommands>;

/** The pins with one moved to a slot (from 1), renumbered; shown at once, before the server answers. */
export function reordered(pins: readonly PinView[], id: string, slot: number): PinView[] {
  const own = pins.find((p) => p.id === id);
  if (!own) return [...pins];
  const rest = pins.filter((p) => p !== own);
  rest.splice(Math.max(0, Math.min(rest.length, slot - 1)), 0, own);
  return rest.map((p, i) => ({ ...p, slot: i + 1, key: i < 9 ? String(i + 1) : null }));
}
