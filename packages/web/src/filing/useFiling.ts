/** Filing originals into folders: a clash is asked about once, for all, before anything is done. */
import { useMemo } from 'react';
import type { ClashChoice } from '@rellin/core/filing';
import type { FilingView } from '@rellin/contract';
import { post, send } from '../api/client';
import { useDo } from '../acts/useDo';
import { useDesk } from '../frame/desk';
import type { FilingTarget } from '../frame/dropAct';

export interface FilingRequest {
  shortcutIds?: string[];
  originals?: { placeId: number; originalId: number }[];
  into: FilingTarget & { newFolder?: string };
  how: 'move' | 'copy';
}

const TOPICS = ['originals', 'shortcuts', 'collections', 'journal', 'pins'];

function words(view: Extract<FilingView, { state: 'done' }>, verb: string): string {
  const things = view.filed === 1 ? 'one thing' : `${view.filed} things`;
  const skipped = view.skipped > 0 ? `; ${view.skipped} skipped, the name was taken` : '';
  const notes = view.notes.length > 0 ? `. ${view.notes.join(' ')}` : '';
  return view.filed === 0 ? `Nothing was filed${skipped}` : `${verb} ${things} into “${view.into}”${skipped}${notes}`;
}

export function useFiling() {
  const d = useDo();
  const { openDialog } = useDesk();
  return useMemo(() => {
    const { attempt, done } = d;
    const file = (request: FilingRequest, clash?: ClashChoice): Promise<boolean | undefined> =>
      attempt(async () => {
        const { name: _, ...into } = request.into;
        const originals = request.originals?.map(({ placeId, originalId }) => ({ placeId, originalId }));
        const view = await post<FilingView>('/filing', { ...request, originals, into, ...(clash && { clash }) });
        if (view.state === 'clashes') {
          openDialog({ kind: 'clashes', view, choose: (choice) => void file(request, choice) });
          return false;
        }
        await done(words(view, request.how === 'move' ? 'Moved' : 'Copied'), TOPICS);
        return true;
      });
    /** Files from outside, one after another; the browser gives their bytes, never their paths. */
    const upload = (into: FilingTarget, files: readonly File[], clash?: ClashChoice): Promise<boolean | undefined> =>
      attempt(async () => {
        let filed = 0;
        for (const [i, bytes] of files.entries()) {
          const query = new URLSearchParams({ name: bytes.name, ...(clash && { clash }) });
          for (const key of ['shortcutId', 'placeId', 'originalId'] as const)
            if (into[key] !== undefined) query.set(key, String(into[key]));
          const view = await send<FilingView>(`/filing/upload?${query.toString()}`, bytes);
          if (view.state === 'clashes') {
            openDialog({ kind: 'clashes', view, choose: (choice) => void upload(into, files.slice(i), choice) });
            return false;
          }
          filed += view.filed;
        }
        await done(
          words({ state: 'done', filed, skipped: files.length - filed, into: into.name, notes: [] }, 'Filed'),
          TOPICS,
        );
        return true;
      });
    return { file, upload };
  }, [d, openDialog]);
}

/** Handlers for files dragged in from outside the browser onto a real folder. */
export function useOutsideDrop(into: FilingTarget | undefined) {
  const { upload } = useFiling();
  if (!into) return {};
  return {
    onDragOver: (event: React.DragEvent) => {
      if (event.dataTransfer.types.includes('Files')) {
        event.preventDefault();
        event.dataTransfer.dropEffect = 'copy' as const;
      }
    },
    onDrop: (event: React.DragEvent) => {
      const files = [...event.dataTransfer.files];
      if (files.length === 0) return;
      event.preventDefault();
      event.stopPropagation();
      void upload(into, files);
    },
  };
}
