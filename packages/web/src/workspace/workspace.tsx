/** What the whole frame shares: the selected item, the open dialog, the context menu, notices. */
import { useOwnChanges } from '../api/refresh';
import { createContext, useContext, useEffect, useMemo, useRef, useState, type Context, type ReactNode } from 'react';
import type {
  BoardView,
  CollectionView,
  EntryView,
  MemberId,
  OriginalId,
  PlaceId,
  ProgramId,
  ProgramView,
  SearchView,
  ShortcutId,
  ShortcutView,
  TagView,
} from '@rellin/contract';

import type { DialogRequest } from './dialogRequest';

export type Item =
  | { type: 'shortcut'; shortcut: ShortcutView }
  | { type: 'original'; entry: EntryView }
  | { type: 'program'; program: ProgramView }
  | { type: 'collection'; collection: CollectionView }
  | { type: 'tag'; tag: TagView }
  | { type: 'search'; search: SearchView };

/** Where an item was met, where that adds acts of its own. */
export type Within = WithinCollection | WithinBoard;

/** The collection or board that things were met on. */
export type Met = Pick<WithinCollection, 'collection'> | Pick<WithinBoard, 'board'>;

export interface WithinBoard {
  board: Pick<BoardView, 'id' | 'name'>;
  itemId: string;
}

export interface WithinCollection {
  collection: CollectionView;
  memberId: MemberId;
  keepFirst: boolean;
}

export type Selected =
  | { type: 'shortcut'; id: string }
  | { type: 'original'; placeId: PlaceId; id: OriginalId }
  | { type: 'program'; id: string }
  | { type: 'collection'; id: string }
  | { type: 'search'; id: string };

/** What a search asks and how its answer is laid out, saved or not. */
export type SearchDraft = Pick<SearchView, 'query' | 'places' | 'showAs' | 'sortBy' | 'descending' | 'most'>;

/** Things to put somewhere together. */
export interface Gathered {
  shortcuts: { id: string; name: string }[];
  originals?: { placeId: PlaceId; originalId: OriginalId; name: string }[];
  programs?: { programId: ProgramId; name: string }[];
  collections?: { id: string; name: string }[];
  searches?: { id: string; name: string }[];
}

export interface Notice {
  text: string;
  tone: 'plain' | 'trouble';
  /** Offers to undo the last act. */
  undo?: boolean;
  /** What else helps, each as a button. */
  remedies?: readonly { label: string; run(): void }[];
}

/** Something that can be looked at, and what is selected with it. */
export interface PreviewTarget {
  placeId: PlaceId;
  originalId: OriginalId;
  name: string;
  selects: Selected;
}

/** What is selected and chosen. */
interface Selection {
  selected: Selected | undefined;
  /** Shortcuts chosen together in a list, the selected one among them. */
  chosen: readonly string[];
  /** The pin whose menu is open. */
  pinOpen: string | undefined;
}

/** What stands over the views. */
interface Dialogs {
  dialog: DialogRequest | undefined;
  menu: { item: Item; x: number; y: number; within?: Within } | undefined;
}

/** How the frame stands. */
interface FrameState {
  /** Names, recents and counts are hidden: others can see the screen. */
  quiet: boolean;
  stripHidden: boolean;
  cardFolded: boolean;
}

/** What changes any of it; the same functions always, so that who only acts is not drawn again. */
interface WorkspaceActions {
  select(selected: Selected | undefined): void;
  /** Nothing is selected any more, if it was this shortcut. */
  deselect(shortcutId: ShortcutId): void;
  choose(ids: readonly string[]): void;
  openPin(id: string | undefined): void;
  openDialog(request: DialogRequest): void;
  closeDialog(): void;
  openMenu(item: Item, at: { x: number; y: number }, within?: Within): void;
  closeMenu(): void;
  say(notice: Notice): void;
  silence(): void;
  setQuiet(quiet: boolean): void;
  hideStrip(hidden: boolean): void;
  foldCard(folded: boolean): void;
  /** What the view in sight lists, in its order: in which a preview goes on. */
  previewOrder(): readonly PreviewTarget[];
  setPreviewOrder(targets: readonly PreviewTarget[]): void;
}

type ShownNotice = (Notice & { id: number }) | undefined;

const SelectionContext = createContext<Selection | undefined>(undefined);
const DialogsContext = createContext<Dialogs | undefined>(undefined);
const FrameContext = createContext<FrameState | undefined>(undefined);
const NoticeContext = createContext<{ notice: ShownNotice } | undefined>(undefined);
const ActionsContext = createContext<WorkspaceActions | undefined>(undefined);
let nextNotice = 1;

export function WorkspaceProvider({ children }: { children: ReactNode }) {
  useOwnChanges();
  const [selected, select] = useState<Selected>();
  const [chosen, choose] = useState<readonly string[]>([]);
  const [pinOpen, openPin] = useState<string>();
  const [dialog, setDialog] = useState<DialogRequest>();
  const [menu, setMenu] = useState<Dialogs['menu']>();
  const [notice, setNotice] = useState<ShownNotice>();
  const [quiet, setQuiet] = useState(false);
  const [stripHidden, hideStrip] = useState(false);
  const [cardFolded, foldCard] = useState(false);
  const listed = useRef<readonly PreviewTarget[]>([]);
  const actions = useMemo(
    (): WorkspaceActions => ({
      select,
      deselect: (id) => select((now) => (now?.type === 'shortcut' && now.id === id ? undefined : now)),
      choose,
      openPin,
      openDialog: setDialog,
      closeDialog: () => setDialog(undefined),
      openMenu: (item, at, within) => setMenu({ item, ...at, within }),
      closeMenu: () => setMenu(undefined),
      say: (said) => setNotice({ ...said, id: nextNotice++ }),
      silence: () => setNotice(undefined),
      setQuiet,
      hideStrip,
      foldCard,
      previewOrder: () => listed.current,
      setPreviewOrder: (targets) => {
        listed.current = targets;
      },
    }),
    [],
  );
  const selection = useMemo(() => ({ selected, chosen, pinOpen }), [selected, chosen, pinOpen]);
  const dialogs = useMemo(() => ({ dialog, menu }), [dialog, menu]);
  const frame = useMemo(() => ({ quiet, stripHidden, cardFolded }), [quiet, stripHidden, cardFolded]);
  const told = useMemo(() => ({ notice }), [notice]);
  return (
    <ActionsContext value={actions}>
      <FrameContext value={frame}>
        <NoticeContext value={told}>
          <DialogsContext value={dialogs}>
            <SelectionContext value={selection}>{children}</SelectionContext>
          </DialogsContext>
        </NoticeContext>
      </FrameContext>
    </ActionsContext>
  );
}

function useWithin<T extends object>(context: Context<T | undefined>): T {
  const value = useContext(context);
  if (value === undefined) throw new Error('used outside of the frame');
  return value;
}

export const useSelection = (): Selection => useWithin(SelectionContext);
export const useDialogs = (): Dialogs => useWithin(DialogsContext);
export const useNotice = () => useWithin(NoticeContext);
export const useFrame = (): FrameState => useWithin(FrameContext);
export const useWorkspaceActions = (): WorkspaceActions => useWithin(ActionsContext);

/** Tells the workspace what a view lists, as long as the view is there. */
export function usePreviewOrder(targets: readonly PreviewTarget[]): void {
  const { setPreviewOrder } = useWorkspaceActions();
  useEffect(() => {
    setPreviewOrder(targets);
    return () => setPreviewOrder([]);
  }, [setPreviewOrder, targets]);
}

/** Shortcuts to originals, as targets to look at. */
export function previewTargets(shortcuts: readonly ShortcutView[]): PreviewTarget[] {
  return shortcuts.flatMap((s) =>
    s.target === 'original' && s.placeId !== null && s.originalId !== null
      ? [
          {
            placeId: s.placeId,
            originalId: s.originalId,
            name: s.name,
            selects: { type: 'shortcut', id: s.id } as const,
          },
        ]
      : [],
  );
}
