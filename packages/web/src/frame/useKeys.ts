/** The keys that work anywhere; fields and dialogs keep theirs. */
import { useEffect } from 'react';
import { usePins } from '../api/queries';
import { useDo } from '../acts/useDo';
import { useDesk } from './desk';

export const inField = (target: EventTarget | null) =>
  target instanceof HTMLElement && (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable);

export function useKeys(): void {
  const d = useDo();
  const pins = usePins().data;
  const { selected, dialog, openDialog, menu, cardFolded, foldCard, openPin, stripHidden, hideStrip } = useDesk();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const command = event.ctrlKey || event.metaKey;
      if (command && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        document.dispatchEvent(new Event('rellin:find'));
        return;
      }
      if (dialog || menu || inField(event.target) || event.defaultPrevented) return;
      if (command && event.key.toLowerCase() === 'z') {
        event.preventDefault();
        void (event.shiftKey ? d.redo() : d.undo());
        return;
      }
      if (command || event.altKey) return;
      const pin = pins?.find((p) => p.key === event.key);
      if (pin?.target === 'shortcut') void d.open({ shortcutId: pin.targetId, route: 'pin-key' });
      else if (pin) openPin(pin.id);
      else if (event.key === 's') hideStrip(!stripHidden);
      else if (event.key === '/') document.dispatchEvent(new Event('rellin:find'));
      else if (event.key === '?') openDialog({ kind: 'keys' });
      else if (event.key === 'i') foldCard(!cardFolded);
      else if (event.key === 'n') {
        if (selected?.type === 'original')
          void d.addShortcut({ placeId: selected.placeId, originalId: Number(selected.id) });
        else if (selected?.type === 'program') void d.addShortcut({ programId: selected.id });
        else openDialog({ kind: 'add' });
      } else return;
      event.preventDefault();
    };
    const onPaste = (event: ClipboardEvent) => {
      if (dialog || inField(event.target)) return;
      const typed = event.clipboardData?.getData('text/plain').trim().split('\n')[0];
      if (typed && /^(\/|~\/|file:|https?:|mailto:)/i.test(typed)) openDialog({ kind: 'add', typed });
    };
    document.addEventListener('keydown', onKey);
    document.addEventListener('paste', onPaste);
    return () => {
      document.removeEventListener('keydown', onKey);
      document.removeEventListener('paste', onPaste);
    };
  }, [d, pins, selected, dialog, menu, openDialog, cardFolded, foldCard, openPin, stripHidden, hideStrip]);
}
