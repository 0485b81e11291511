/** Filing originals into folders: a clash is asked about once, for all, before anything is done. */
import { useCallback, useMemo, useRef } from 'react';
import type { ClashChoice } from '@rellin/core/filing';
import type { FilingRequest, FilingView } from '@rellin/contract';
import { post, upload as send } from '../api/client';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';
import type { FilingTarget } from '../workspace/dropAct';

/** As it is sent, and by which name the folder is told. */
interface NamedFiling extends FilingRequest {
  into: FilingTarget & { newFolder?: string };
}

function words(view: Extract<FilingView, { state: 'done' }>, verb: string): string {
  const things = view.filed === 1 ? 'one thing' : `${view.filed} things`;
  const skipped = view.skipped > 0 ? `; ${view.skipped} skipped, the name was taken` : '';
  const notes = view.notes.length > 0 ? `. ${view.notes.join(' ')}` : '';
  return view.filed === 0 ? `Nothing was filed${skipped}` : `${verb} ${things} into “${view.into}”${skipped}${notes}`;
}

export function useFiling() {
  const d = useCommands();
  const { openDialog } = useWorkspaceActions();
  return useMemo(() => {
    const { attempt, done } = d;
    const file = (request: NamedFiling, clash?: ClashChoice): Promise<boolean | undefined> =>
      attempt(async () => {
        const { name: _, ...into } = request.into;
        const originals = request.originals?.map(({ placeId, originalId }) => ({ placeId, originalId }));
        const view = await post('/filing', { ...request, originals, into, ...(clash && { clash }) });
        if (view.state === 'clashes') {
          openDialog({ kind: 'clashes', view, choose: (choice) => void file(request, choice) });
          return false;
        }
        // named as it was when it was dropped there, which may be by its shortcut
        const folder = into.newFolder === undefined ? request.into.name : view.into;
        await done(words({ ...view, into: folder }, request.how === 'move' ? 'Moved' : 'Copied'));
        return true;
      });
    /** Files from outside, one after another; the browser gives their bytes, never their paths. */
    const upload = (into: FilingTarget, files: readonly File[], clash?: ClashChoice): Promise<boolean | undefined> =>
      attempt(async () => {
        let filed = 0;
        for (const [i, bytes] of files.entries()) {
          const { name: _, ...folder } = into;
          const view = await send('/filing/upload', bytes, { name: bytes.name, ...folder, clash });
          if (view.state === 'clashes') {
            openDialog({ kind: 'clashes', view, choose: (choice) => void upload(into, files.slice(i), choice) });
            return false;
          }
          filed += view.filed;
        }
        await done(
          words({ state: 'done', filed, skipped: files.length - filed, into: into.name, notes: [] }, 'Copied'),
        );
        return true;
      });
    return { file, upload };
  }, [d, openDialog]);
}

/** How long files from outside rest on a folder before it opens under them. */
const OPEN_MS = 750;

/** Makes handlers for files dragged in from outside the browser onto a real folder; resting on it, they open it. */
export function useOutsideDrops(): (into: FilingTarget | undefined, open?: () => void) => OutsideDrop {
  const { upload } = useFiling();
  const resting = useRef<{ on: Element; timer: ReturnType<typeof setTimeout> } | undefined>(undefined);
  return useCallback(
    (into, open) => {
      if (!into) return {};
      const leave = (element: Element) => {
        element.removeAttribute('data-over');
        if (resting.current?.on !== element) return;
        clearTimeout(resting.current.timer);
        resting.current = undefined;
      };
      return {
        onDragOver: (event) => {
          if (!event.dataTransfer.types.includes('Files')) return;
          event.preventDefault();
          event.stopPropagation();
          event.dataTransfer.dropEffect = 'copy';
          const on = event.currentTarget;
          on.setAttribute('data-over', '');
          if (open && resting.current?.on !== on) {
            clearTimeout(resting.current?.timer);
            resting.current = { on, timer: setTimeout(open, OPEN_MS) };
          }
        },
        onDragLeave: (event) => {
          if (!event.currentTarget.contains(event.relatedTarget as Node | null)) leave(event.currentTarget);
        },
        onDrop: (event) => {
          leave(event.currentTarget);
          const files = [...event.dataTransfer.files];
          if (files.length === 0) return;
          event.preventDefault();
          event.stopPropagation();
          void upload(into, files);
        },
      };
    },
    [upload],
  );
}

export interface OutsideDrop {
  onDragOver?(event: React.DragEvent): void;
  onDragLeave?(event: React.DragEvent): void;
  onDrop?(event: React.DragEvent): void;
}

export const useOutsideDrop = (into: FilingTarget | undefined): OutsideDrop => useOutsideDrops()(into);
