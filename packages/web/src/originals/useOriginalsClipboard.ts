/**
 * Cut, copy and paste of originals between folders, by the browser's own keys and menus. Their paths are put onto the
 * clipboard as text, for other programs; what they are stays in the page, so that no other page can have them moved.
 */
import { useEffect, useEffectEvent } from 'react';
import type { EntryView, OriginalId, PlaceId } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { useFiling } from '../filing/useFiling';
import { useCommands } from '../workspace/useCommands';
import { inField } from '../workspace/inField';
import { useDialogs } from '../workspace/workspace';

interface Held {
  /** Stands on the clipboard as well: what was copied since, here or elsewhere, has another or none. */
  token: string;
  how: 'move' | 'copy';
  originals: { placeId: PlaceId; originalId: OriginalId; name: string }[];
  from: string;
}

const TYPE = 'application/x-rellin-originals';
let held: Held | undefined;

export interface ShownFolder {
  placeId: PlaceId;
  folderId: OriginalId;
  path: string;
  name: string;
}

/** `inHand`: what a cut or copy takes, the chosen or the selected. */
export function useOriginalsClipboard(folder: ShownFolder | undefined, inHand: () => EntryView[]): void {
  const { dialog } = useDialogs();
  const { file } = useFiling();
  const d = useCommands();
  const take = useEffectEvent((event: ClipboardEvent, how: Held['how']) => {
    const entries = inHand();
    if (!folder || dialog || inField(event.target) || entries.length === 0) return;
    // text that is marked on the page is what is meant
    if (how === 'copy' && !document.getSelection()?.isCollapsed) return;
    const token = crypto.randomUUID();
    held = {
      token,
      how,
      originals: entries.map((e) => ({ placeId: e.placeId, originalId: e.id, name: e.name })),
      from: `${folder.placeId}/${folder.folderId}`,
    };
    event.clipboardData?.setData('text/plain', entries.map((e) => shown(`${folder.path}/${e.name}`)).join('\n'));
    event.clipboardData?.setData(TYPE, token);
    event.preventDefault();
    const what = entries.length === 1 ? `“${shown(entries[0]!.name)}”` : `${entries.length} originals`;
    d.say(
      how === 'move'
        ? `Cut ${what}. Ctrl V in another folder moves ${entries.length === 1 ? 'it' : 'them'} there.`
        : `Copied ${what}.`,
    );
  });
  const put = useEffectEvent((event: ClipboardEvent) => {
    if (!folder || !held || dialog || inField(event.target)) return;
    if (event.clipboardData?.getData(TYPE) !== held.token) return;
    event.preventDefault();
    // paths on the clipboard are otherwise taken for new shortcuts
    event.stopImmediatePropagation();
    const { how, originals, from } = held;
    const isHere = from === `${folder.placeId}/${folder.folderId}`;
    if (isHere && how === 'move') return d.say('They are in this folder already.');
    if (how === 'move') held = undefined;
    const into = { placeId: folder.placeId, originalId: folder.folderId, name: folder.name };
    void file({ originals, into, how }, isHere ? 'keep-both' : undefined);
  });
  useEffect(() => {
    const cut = (event: ClipboardEvent) => take(event, 'move');
    const copy = (event: ClipboardEvent) => take(event, 'copy');
    const paste = (event: ClipboardEvent) => put(event);
    document.addEventListener('cut', cut);
    document.addEventListener('copy', copy);
    document.addEventListener('paste', paste, true);
    return () => {
      document.removeEventListener('cut', cut);
      document.removeEventListener('copy', copy);
      document.removeEventListener('paste', paste, true);
    };
  }, []);
}
