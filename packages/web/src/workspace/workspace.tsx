/** What the whole frame shares: the selected item, the open dialog, the context menu, notices. */
import { useOwnChanges } from '../api/refresh';
import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
  type RefObject,
} from 'react';
import type { ClashChoice } from '@rellin/core/filing';
import type {
  BoardView,
  BundleView,
  CollectionView,
  EntryView,
  FilingView,
  OpeningResult,
  ProgramView,
  PublicationSource,
  RegionView,
  QuickFilterView,
  SearchView,
  CatalogueFilter,
  ShortcutView,
  TagView,
} from '@rellin/contract';

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
  memberId: string;
  keepFirst: boolean;
}

export type Selected =
  | { type: 'shortcut'; id: string }
  | { type: 'original'; placeId: number; id: string }
  | { type: 'program'; id: string }
  | { type: 'collection'; id: string }
  | { type: 'search'; id: string };

export type DialogRequest =
  | { kind: 'add'; typed?: string; slot?: number; outside?: boolean }
  | { kind: 'rename'; shortcut: ShortcutView }
  | { kind: 'describe'; shortcut: ShortcutView }
  | { kind: 'repoint'; shortcut: ShortcutView }
  | { kind: 'keys' }
  | { kind: 'preview'; placeId: number; originalId: string; name: string; argv?: string[] }
  | { kind: 'stand-in'; opened: OpeningResult }
  | {
      kind: 'new-collection';
      collectionType: CollectionView['type'];
      parentId?: string;
      name?: string;
      gathered?: Gathered;
    }
  | { kind: 'change-collection'; collection: CollectionView }
  | { kind: 'add-to-collection'; gathered: Gathered }
  | { kind: 'collect-folder'; folder: EntryView }
  | { kind: 'gather'; collection: CollectionView }
  | { kind: 'tags'; gathered: Gathered }
  | { kind: 'change-tag'; tag: TagView }
  | { kind: 'goes-with'; shortcut: ShortcutView }
  | { kind: 'rename-many'; shortcuts: ShortcutView[] }
  | { kind: 'empty-bin'; count: number }
  | {
      kind: 'own-key';
      target: 'shortcut' | 'collection' | 'quick-filter' | 'search';
      id: string;
      name: string;
      keys: string | null;
      revision?: number;
    }
  | { kind: 'quick-filter'; filter: QuickFilterView }
  | { kind: 'quick-filter'; now: CatalogueFilter }
  | { kind: 'save-search'; draft: SearchDraft }
  | { kind: 'change-search'; search: SearchView }
  | { kind: 'picture'; target: 'shortcut'; shortcut: ShortcutView }
  | { kind: 'picture'; target: 'collection'; collection: CollectionView }
  | { kind: 'open-with'; shortcuts: ShortcutView[] }
  | { kind: 'open-with'; original: EntryView }
  | { kind: 'alias'; shortcut: ShortcutView }
  | { kind: 'publish'; source: PublicationSource; id: string; name: string }
  | { kind: 'new-board'; gathered?: Gathered }
  | { kind: 'change-board'; board: BoardView }
  | { kind: 'new-region'; board: BoardView }
  | { kind: 'change-region'; board: BoardView; region: RegionView }
  | { kind: 'new-bundle'; board: BoardView; itemIds: string[] }
  | { kind: 'change-bundle'; board: BoardView; bundle: BundleView }
  | { kind: 'lay-on-board'; gathered: Gathered; boardId?: string }
  | { kind: 'file-into'; gathered: Gathered }
  | { kind: 'clashes'; view: Extract<FilingView, { state: 'clashes' }>; choose(choice: ClashChoice): void };

/** What a search asks and how its answer is laid out, saved or not. */
export type SearchDraft = Pick<SearchView, 'query' | 'places' | 'showAs' | 'sortBy' | 'descending' | 'most'>;

/** Things to put somewhere together. */
export interface Gathered {
  shortcuts: { id: string; name: string }[];
  originals?: { placeId: number; originalId: number; name: string }[];
  programs?: { programId: string; name: string }[];
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
  placeId: number;
  originalId: string;
  name: string;
  selects: Selected;
}

interface WorkspaceState {
  selected: Selected | undefined;
  select(selected: Selected | undefined): void;
  dialog: DialogRequest | undefined;
  openDialog(request: DialogRequest): void;
  closeDialog(): void;
  notice: (Notice & { id: number }) | undefined;
  say(notice: Notice): void;
  silence(): void;
  menu: { item: Item; x: number; y: number; within?: Within } | undefined;
  openMenu(item: Item, at: { x: number; y: number }, within?: Within): void;
  closeMenu(): void;
  /** What the view in sight lists, in its order: in which a preview goes on. */
  previewOrder: RefObject<readonly PreviewTarget[]>;
  /** Shortcuts chosen together in a list, the selected one among them. */
  chosen: readonly string[];
  choose(ids: readonly string[]): void;
  /** The pin whose menu is open. */
  pinOpen: string | undefined;
  openPin(id: string | undefined): void;
  /** Names, recents and counts are hidden: others can see the screen. */
  quiet: boolean;
  setQuiet(quiet: boolean): void;
  stripHidden: boolean;
  hideStrip(hidden: boolean): void;
  cardFolded: boolean;
  foldCard(folded: boolean): void;
}

const WorkspaceContext = createContext<WorkspaceState | undefined>(undefined);
let nextNotice = 1;

export function WorkspaceProvider({ children }: { children: ReactNode }) {
  useOwnChanges();
  const [selected, select] = useState<Selected>();
  const [dialog, setDialog] = useState<DialogRequest>();
  const [notice, setNotice] = useState<(Notice & { id: number }) | undefined>();
  const [menu, setMenu] = useState<WorkspaceState['menu']>();
  const [cardFolded, foldCard] = useState(false);
  const [chosen, choose] = useState<readonly string[]>([]);
  const [pinOpen, openPin] = useState<string>();
  const [stripHidden, hideStrip] = useState(false);
  const [quiet, setQuiet] = useState(false);
  const previewOrder = useRef<readonly PreviewTarget[]>([]);
  const openDialog = useCallback((request: DialogRequest) => setDialog(request), []);
  const closeDialog = useCallback(() => setDialog(undefined), []);
  const say = useCallback((n: Notice) => setNotice({ ...n, id: nextNotice++ }), []);
  const silence = useCallback(() => setNotice(undefined), []);
  const openMenu = useCallback(
    (item: Item, at: { x: number; y: number }, within?: Within) => setMenu({ item, ...at, within }),
    [],
  );
  const closeMenu = useCallback(() => setMenu(undefined), []);
  const workspace = useMemo(
    () => ({
      selected,
      select,
      previewOrder,
      dialog,
      openDialog,
      closeDialog,
      notice,
      say,
      silence,
      menu,
      openMenu,
      closeMenu,
      chosen,
      choose,
      pinOpen,
      openPin,
      quiet,
      setQuiet,
      stripHidden,
      hideStrip,
      cardFolded,
      foldCard,
    }),
    [
      selected,
      dialog,
      openDialog,
      closeDialog,
      notice,
      say,
      silence,
      menu,
      openMenu,
      closeMenu,
      chosen,
      pinOpen,
      quiet,
      stripHidden,
      cardFolded,
    ],
  );
  return <WorkspaceContext.Provider value={workspace}>{children}</WorkspaceContext.Provider>;
}

export function useWorkspace(): WorkspaceState {
  const workspace = useContext(WorkspaceContext);
  if (!workspace) throw new Error('useWorkspace outside of the frame');
  return workspace;
}

/** Tells the workspace what a view lists, as long as the view is there. */
export function usePreviewOrder(targets: readonly PreviewTarget[]): void {
  const { previewOrder } = useWorkspace();
  useEffect(() => {
    previewOrder.current = targets;
    return () => {
      previewOrder.current = [];
    };
  }, [previewOrder, targets]);
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
