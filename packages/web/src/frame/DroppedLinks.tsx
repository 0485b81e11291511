/**
 * What is dropped from another window: addresses, and files that a file manager hands over as paths. What a part of the
 * page takes for itself is not met here.
 */
import { useEffect, useState } from 'react';
import { useDialogs, useWorkspaceActions } from '../workspace/workspace';

const hasLinks = (event: DragEvent) => event.dataTransfer?.types.includes('text/uri-list') ?? false;

export function DroppedLinks() {
  const { dialog } = useDialogs();
  const { openDialog } = useWorkspaceActions();
  const [isOver, setIsOver] = useState(false);
  useEffect(() => {
    if (dialog) return;
    let gone: ReturnType<typeof setTimeout> | undefined;
    const over = (event: DragEvent) => {
      if (event.defaultPrevented || !hasLinks(event)) return setIsOver(false);
      event.preventDefault();
      event.dataTransfer!.dropEffect = 'link';
      setIsOver(true);
      // nothing is told when a drag ends outside the window
      clearTimeout(gone);
      gone = setTimeout(() => setIsOver(false), 400);
    };
    const drop = (event: DragEvent) => {
      setIsOver(false);
      if (event.defaultPrevented || !hasLinks(event)) return;
      event.preventDefault();
      const typed = event.dataTransfer!.getData('text/uri-list').trim();
      if (typed !== '') openDialog({ kind: 'add', typed });
    };
    document.addEventListener('dragover', over);
    document.addEventListener('drop', drop);
    return () => {
      clearTimeout(gone);
      document.removeEventListener('dragover', over);
      document.removeEventListener('drop', drop);
    };
  }, [dialog, openDialog]);
  if (!isOver) return null;
  return (
    <div className="dropped-links" role="status">
      Add shortcut
    </div>
  );
}
