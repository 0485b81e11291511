/** What the whole frame shares: the selected item, the open dialog, the context menu, notices. */
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';
import type { EntryView, OpeningResult, ProgramView, ShortcutView } from '@rellin/contract';

export type Item =
  | { type: 'shortcut'; shortcut: ShortcutView }
  | { type: 'original'; entry: EntryView }
  | { type: 'program'; program: ProgramView };

export type Selected =
  | { type: 'shortcut'; id: string }
  | { type: 'original'; placeId: number; id: string }
  | { type: 'program'; id: string };

export type DialogRequest =
  | { kind: 'add'; typed?: string; slot?: number }
  | { kind: 'rename'; shortcut: ShortcutView }
  | { kind: 'describe'; shortcut: ShortcutView }
  | { kind: 'repoint'; shortcut: ShortcutView }
  | { kind: 'keys' }
  | { kind: 'look'; placeId: number; originalId: string; name: string; argv?: string[] }
  | { kind: 'stand-in'; opened: OpeningResult };

export interface Notice {
  text: string;
  tone: 'plain' | 'trouble';
  /** Offers to take the last act back. */
  undo?: boolean;
}

interface Desk {
  selected: Selected | undefined;
  select(selected: Selected | undefined): void;
  dialog: DialogRequest | undefined;
  openDialog(request: DialogRequest): void;
  closeDialog(): void;
  notice: (Notice & { id: number }) | undefined;
  say(notice: Notice): void;
  silence(): void;
  menu: { item: Item; x: number; y: number } | undefined;
  openMenu(item: Item, at: { x: number; y: number }): void;
  closeMenu(): void;
  cardFolded: boolean;
  foldCard(folded: boolean): void;
}

const DeskContext = createContext<Desk | undefined>(undefined);
let nextNotice = 1;

export function DeskProvider({ children }: { children: ReactNode }) {
  const [selected, select] = useState<Selected>();
  const [dialog, setDialog] = useState<DialogRequest>();
  const [notice, setNotice] = useState<(Notice & { id: number }) | undefined>();
  const [menu, setMenu] = useState<Desk['menu']>();
  const [cardFolded, foldCard] = useState(false);
  const openDialog = useCallback((request: DialogRequest) => setDialog(request), []);
  const closeDialog = useCallback(() => setDialog(undefined), []);
  const say = useCallback((n: Notice) => setNotice({ ...n, id: nextNotice++ }), []);
  const silence = useCallback(() => setNotice(undefined), []);
  const openMenu = useCallback((item: Item, at: { x: number; y: number }) => setMenu({ item, ...at }), []);
  const closeMenu = useCallback(() => setMenu(undefined), []);
  const desk = useMemo(
    () => ({
      selected,
      select,
      dialog,
      openDialog,
      closeDialog,
      notice,
      say,
      silence,
      menu,
      openMenu,
      closeMenu,
      cardFolded,
      foldCard,
    }),
    [selected, dialog, openDialog, closeDialog, notice, say, silence, menu, openMenu, closeMenu, cardFolded],
  );
  return <DeskContext.Provider value={desk}>{children}</DeskContext.Provider>;
}

export function useDesk(): Desk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error('useDesk outside of the frame');
  return desk;
}
