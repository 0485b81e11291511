/** The keys that work anywhere; fields and dialogs keep theirs. */
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { useLocation, useNavigate } from 'react-router';
import type { CatalogueFilter } from '@rellin/contract';
import { strokeOf } from '@rellin/core/keys';
import { useCollections, usePins, useQuickFilters, useSearches, useShortcuts } from '../api/queries';
import { inField } from '../workspace/inField';
import { useCommands } from '../workspace/useCommands';
import { useDialogs, useFrame, useSelection, useWorkspaceActions } from '../workspace/workspace';

/** A filter as the catalogue's address holds it. */
const addressOf = (filter: CatalogueFilter) => new URLSearchParams(filter as Record<string, string>).toString();

/** How long the second of two keys in a row is waited for. */
const SECOND_MS = 1200;

/** The person's own keys: what a press means, `begun` for the first of two, `undefined` where it is none of them. */
function useOwnKeys(): (event: KeyboardEvent) => (() => void) | 'begun' | undefined {
  const shortcuts = useShortcuts().data;
  const collections = useCollections().data;
  const quickFilters = useQuickFilters().data;
  const searches = useSearches().data;
  const d = useCommands();
  const navigate = useNavigate();
  const first = useRef<{ stroke: string; at: number } | undefined>(undefined);
  const own = useMemo(
    () =>
      new Map<string, () => void>([
        ...(shortcuts ?? []).flatMap((s) =>
          s.keys ? [[s.keys, () => void d.open({ shortcutId: s.id, route: 'own-key' })] as const] : [],
        ),
        ...(collections ?? []).flatMap((c) =>
          c.keys ? [[c.keys, () => void navigate(`/collections/${c.id}`)] as const] : [],
        ),
        ...(searches ?? []).flatMap((s) =>
          s.keys ? [[s.keys, () => void navigate(`/searches/${s.id}`)] as const] : [],
        ),
        ...(quickFilters ?? []).flatMap((f) =>
          f.keys ? [[f.keys, () => void navigate(`/catalogue?${addressOf(f.filter)}`)] as const] : [],
        ),
      ]),
    [shortcuts, collections, quickFilters, searches, d, navigate],
  );
  return useCallback(
    (event) => {
      const stroke = strokeOf(event);
      if (stroke === undefined || own.size === 0) return undefined;
      const begun = first.current && event.timeStamp - first.current.at < SECOND_MS ? first.current.stroke : undefined;
      first.current = undefined;
      const run = (begun !== undefined ? own.get(`${begun} ${stroke}`) : undefined) ?? own.get(stroke);
      if (run) return run;
      if (![...own.keys()].some((keys) => keys.startsWith(`${stroke} `))) return undefined;
      first.current = { stroke, at: event.timeStamp };
      return 'begun';
    },
    [own],
  );
}

/** Views in which N is about the original in hand; in the others it opens the form, as their button does. */
const WITH_ORIGINALS = /^\/(originals|searches|collections)/;

export function useKeys(): void {
  const ownKey = useOwnKeys();
  const d = useCommands();
  const pins = usePins().data;
  const showsOriginals = WITH_ORIGINALS.test(useLocation().pathname);
  const { selected } = useSelection();
  const { dialog, menu } = useDialogs();
  const { openDialog, foldCard, openPin, hideStrip, setQuiet } = useWorkspaceActions();
  const { cardFolded, stripHidden, quiet } = useFrame();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const command = event.ctrlKey || event.metaKey;
      if (command && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        document.dispatchEvent(new Event('rellin:find'));
        return;
      }
      if (dialog || menu || inField(event.target) || event.defaultPrevented) return;
      const own = ownKey(event);
      if (own) {
        event.preventDefault();
        if (own !== 'begun') own();
        return;
      }
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
      else if (event.key === 'h') setQuiet(!quiet);
      else if (event.key === '/') document.dispatchEvent(new Event('rellin:find'));
      else if (event.key === '?') openDialog({ kind: 'keys' });
      else if (event.key === 'i') foldCard(!cardFolded);
      else if (event.key === 'n') {
        if (selected?.type === 'original' && showsOriginals)
          void d.addShortcut({ placeId: selected.placeId, originalId: selected.id });
        else if (selected?.type === 'program' && showsOriginals) void d.addShortcut({ programId: selected.id });
        else openDialog({ kind: 'add' });
      } else return;
      event.preventDefault();
    };
    const onPaste = (event: ClipboardEvent) => {
      if (dialog || inField(event.target)) return;
      const typed = (
        event.clipboardData?.getData('text/plain') || event.clipboardData?.getData('text/uri-list')
      )?.trim();
      if (!typed || !/^(\/|~\/|file:|https?:|mailto:)/i.test(typed)) return;
      // the form's field has the focus by the time the browser pastes: it would be there twice
      event.preventDefault();
      openDialog({ kind: 'add', typed });
    };
    document.addEventListener('keydown', onKey);
    document.addEventListener('paste', onPaste);
    return () => {
      document.removeEventListener('keydown', onKey);
      document.removeEventListener('paste', onPaste);
    };
  }, [
    d,
    ownKey,
    pins,
    showsOriginals,
    selected,
    dialog,
    menu,
    openDialog,
    cardFolded,
    foldCard,
    openPin,
    stripHidden,
    hideStrip,
    quiet,
    setQuiet,
  ]);
}
