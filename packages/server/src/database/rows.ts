/**
 * The rows of each table as JSON carries them. Made from the migrated database by `npm run rows`; a test holds it
 * against the database. Not to be edited by hand.
 */
import type {
  AliasId,
  BoardId,
  BoardItemId,
  BundleId,
  CatalogueFilter,
  CollectionId,
  JournalLineId,
  MemberId,
  OpeningId,
  OriginalId,
  PinId,
  PlaceId,
  PublicationId,
  QuickFilterId,
  RegionId,
  SearchId,
  SessionId,
  ShortcutId,
  SweepId,
  SweepRule,
  SweepRunId,
  SweptFolder,
  SweptTo,
  TagId,
  TargetType,
} from '@rellin/contract';
import type { Change } from '@rellin/core/journal';
import type { Kind } from '@rellin/core/kinds';
import type { Identity, ShortcutState } from '@rellin/core/identity';
import type { Threshold } from '@rellin/core/sweep';

/** As they are read. */
export interface Rows {
  alias: {
    id: AliasId;
    shortcut_id: ShortcutId;
    place_id: PlaceId;
    folder_id: OriginalId;
    name: string;
    /** What a link led to that was taken into the catalogue. */
    taken: string | null;
    added_at: string;
  };
  board: {
    id: BoardId;
    name: string;
    columns: number;
    sort: number;
    added_at: string;
    removed_at: string | null;
  };
  board_item: {
    id: BoardItemId;
    board_id: BoardId;
    region_id: RegionId;
    bundle_id: BundleId | null;
    shortcut_id: ShortcutId;
    sort: number;
    x: number;
    y: number;
  };
  bundle: {
    id: BundleId;
    region_id: RegionId;
    name: string;
    sort: number;
    x: number;
    y: number;
  };
  check_up: {
    id: number;
    checked_at: string | null;
  };
  collection: {
    id: CollectionId;
    name: string;
    description: string;
    type: 'plain' | 'mirror' | 'working-set';
    colour: string;
    picture: string;
    sort_by: string;
    show_as: string;
    mirror_of: ShortcutId | null;
    until: string | null;
    last_members: unknown;
    keys: string | null;
    revision: number;
    added_at: string;
    removed_at: string | null;
  };
  companion: {
    id: string;
    shortcut_id: ShortcutId;
    with_id: ShortcutId;
    sort: number;
  };
  content: {
    place_id: PlaceId;
    original_id: OriginalId;
    size: number;
    mtime: number;
    body: string;
    words: string;
  };
  filing: {
    id: string;
    state: 'intent' | 'done';
    made_folder: string | null;
    items: unknown;
    at: string;
    filed: number;
  };
  filing_busy: {
    filing_id: string;
  };
  journal: {
    id: JournalLineId;
    at: string;
    act: string;
    summary: string;
    by: string;
    in_stack: boolean;
    changes: Change[];
    undo_changes: Change[] | null;
    undone_at: string | null;
    undone_order: number | null;
  };
  journal_rewritten: {
    journal_id: JournalLineId;
    change: Change;
  };
  member: {
    id: MemberId;
    collection_id: CollectionId;
    shortcut_id: ShortcutId | null;
    child_id: CollectionId | null;
    sort: number;
    keep_first: boolean;
    added_at: string;
    search_id: SearchId | null;
  };
  opening: {
    id: OpeningId;
    at: string;
    shortcut_id: ShortcutId | null;
    place_id: PlaceId | null;
    original_id: OriginalId | null;
    program_id: string | null;
    name: string;
    how: string;
    argv: string[];
    route: string;
  };
  original: {
    place_id: PlaceId;
    id: OriginalId;
    parent_id: OriginalId;
    name: string;
    type: string;
    kind: string;
    mime: string;
    size: number;
    mtime: number;
    birth: number;
    dev: number;
    inode: number;
    first_seen: string;
    came_from: string | null;
    folded: string | null;
  };
  passphrase: {
    only_row: boolean;
    hash: string;
  };
  picture: {
    id: string;
    bytes: string;
    added_at: string;
  };
  pin: {
    id: PinId;
    shortcut_id: ShortcutId | null;
    sort: number;
    collection_id: CollectionId | null;
    tag_id: TagId | null;
    aside: boolean;
    search_id: SearchId | null;
    placed_at: string;
    kept: boolean;
  };
  place: {
    id: PlaceId;
    name: string;
    root: string;
    type: string;
    excludes: string[];
    root_inode: number | null;
    root_birth: number | null;
    stand_in_store: string | null;
    removed_at: string | null;
    file_system: string | null;
    file_system_path: string | null;
  };
  place_status: {
    place_id: PlaceId;
    next_id: number;
    entries: number;
    scan: string;
    scanned_at: string | null;
    verified_at: string | null;
    last_seen_at: string | null;
    kinds: string | null;
  };
  plan_answer: {
    id: string;
    until: string | null;
  };
  plan_forecast: {
    id: string;
    at: string;
    shortcuts: unknown;
    seconds: number;
  };
  publication: {
    id: PublicationId;
    /** One of these is its source; the others are null. */
    collection_id: CollectionId | null;
    tag_id: TagId | null;
    search_id: SearchId | null;
    /** Null for a menu, which lies in no place. */
    place_id: PlaceId | null;
    folder_id: OriginalId | null;
    name: string;
    ordered: boolean;
    as_menu: boolean;
    added_at: string;
  };
  quick_filter: {
    id: QuickFilterId;
    name: string;
    keys: string | null;
    filter: CatalogueFilter;
    added_at: string;
  };
  recent_files: {
    only_row: boolean;
    counted_until: string;
  };
  region: {
    id: RegionId;
    board_id: BoardId;
    name: string;
    sort_by: 'free' | 'own' | 'name' | 'kind' | 'size' | 'modified' | 'opened';
    sort: number;
  };
  review_silence: {
    id: string;
    at: string;
  };
  saved_search: {
    id: SearchId;
    name: string;
    description: string;
    query: string;
    places: number[] | null;
    show_as: string;
    sort_by: string;
    descending: boolean;
    most: number;
    colour: string;
    keys: string | null;
    muted: boolean;
    added_at: string;
    removed_at: string | null;
  };
  search_change: {
    id: number;
    search_id: SearchId;
    at: string;
    came: boolean;
    place_id: PlaceId;
    original_id: OriginalId;
    name: string;
    trail: string[];
  };
  search_size: {
    search_id: SearchId;
    day: string;
    count: number;
  };
  search_status: {
    search_id: SearchId;
    asked_at: string;
    looked_at: string;
    count: number;
  };
  session: {
    token_hash: string;
    created_at: string;
    last_seen_at: string;
    id: SessionId;
    came_by: 'address' | 'passphrase';
    agent: string;
    token_since: string;
    former_hash: string | null;
  };
  setting: {
    id: string;
    value: unknown;
  };
  shortcut: {
    id: ShortcutId;
    name: string;
    description: string;
    also_called: string[];
    target: TargetType;
    kind: Kind;
    place_id: PlaceId | null;
    original_id: OriginalId | null;
    program_id: string | null;
    url: string | null;
    identity: Identity | null;
    state: ShortcutState;
    state_reason: string;
    state_since: string;
    followed_from: string | null;
    candidates: { placeId: number; originalId: number; path: string }[];
    rejected: { inode: number; birth: number }[];
    added_at: string;
    removed_at: string | null;
    keys: string | null;
    picture: string;
    open_with: string | null;
    left_alone: boolean;
  };
  sweep: {
    id: SweepId;
    name: string;
    folders: SweptFolder[];
    rules: SweepRule[];
    recent_minutes: number;
    link_days: number;
    threshold: Threshold;
    by_itself: boolean;
    added_at: string;
  };
  sweep_run: {
    id: SweepRunId;
    sweep_id: SweepId | null;
    at: string;
    name: string;
    by: 'person' | 'automatic';
    went: SweptTo[];
    left_there: number;
    journal_id: JournalLineId | null;
    undone_at: string | null;
    links: { at: string; to: string }[];
    links_until: string | null;
  };
  system_default: {
    id: string;
    mime: string;
    program_id: string;
    before: string | null;
    at: string;
  };
  tag: {
    id: TagId;
    name: string;
    colour: string;
  };
  tagging: {
    id: string;
    tag_id: TagId;
    shortcut_id: ShortcutId | null;
    place_id: PlaceId | null;
    original_id: OriginalId | null;
    search_id: SearchId | null;
  };
  usage: {
    shortcut_id: ShortcutId;
    w0: number;
    t0: number;
    last_opened: string | null;
  };
  written_link: {
    key: string;
    place_id: PlaceId;
    form: 'link' | 'entry' | 'folder';
    name: string;
    now_path: string | null;
    now_content: string | null;
    next_path: string | null;
    next_content: string | null;
    inode: number | null;
    is_foreign: boolean;
    before_taken: string | null;
    trouble: string | null;
  };
}

/** The columns that may be left out of a new row: they take their default, or null. */
interface MayBeLeftOut {
  alias: 'taken' | 'added_at';
  board: 'columns' | 'added_at' | 'removed_at';
  board_item: 'bundle_id';
  bundle: never;
  check_up: 'id' | 'checked_at';
  collection:
    | 'description'
    | 'colour'
    | 'picture'
    | 'sort_by'
    | 'show_as'
    | 'mirror_of'
    | 'until'
    | 'last_members'
    | 'keys'
    | 'revision'
    | 'removed_at';
  companion: never;
  content: never;
  filing: 'made_folder' | 'at' | 'filed';
  filing_busy: never;
  journal: 'id' | 'at' | 'by' | 'in_stack' | 'undo_changes' | 'undone_at' | 'undone_order';
  journal_rewritten: never;
  member: 'shortcut_id' | 'child_id' | 'keep_first' | 'added_at' | 'search_id';
  opening: 'shortcut_id' | 'place_id' | 'original_id' | 'program_id';
  original: 'came_from' | 'folded';
  passphrase: 'only_row';
  picture: 'added_at';
  pin: 'shortcut_id' | 'collection_id' | 'tag_id' | 'aside' | 'search_id' | 'placed_at' | 'kept';
  place:
    | 'id'
    | 'excludes'
    | 'root_inode'
    | 'root_birth'
    | 'stand_in_store'
    | 'removed_at'
    | 'file_system'
    | 'file_system_path';
  place_status: 'next_id' | 'entries' | 'scan' | 'scanned_at' | 'verified_at' | 'last_seen_at' | 'kinds';
  plan_answer: 'until';
  plan_forecast: never;
  publication: 'collection_id' | 'tag_id' | 'search_id' | 'place_id' | 'folder_id' | 'ordered' | 'as_menu' | 'added_at';
  quick_filter: 'keys' | 'added_at';
  recent_files: 'only_row';
  region: never;
  review_silence: 'at';
  saved_search:
    | 'description'
    | 'places'
    | 'show_as'
    | 'sort_by'
    | 'descending'
    | 'most'
    | 'colour'
    | 'keys'
    | 'muted'
    | 'removed_at';
  search_change: 'id';
  search_size: never;
  search_status: 'asked_at' | 'looked_at' | 'count';
  session: 'created_at' | 'last_seen_at' | 'id' | 'token_since' | 'former_hash';
  setting: never;
  shortcut:
    | 'description'
    | 'also_called'
    | 'place_id'
    | 'original_id'
    | 'program_id'
    | 'url'
    | 'identity'
    | 'state_reason'
    | 'followed_from'
    | 'candidates'
    | 'rejected'
    | 'removed_at'
    | 'keys'
    | 'picture'
    | 'open_with'
    | 'left_alone';
  sweep: never;
  sweep_run: 'sweep_id' | 'at' | 'journal_id' | 'undone_at' | 'links' | 'links_until';
  system_default: 'before' | 'at';
  tag: never;
  tagging: 'shortcut_id' | 'place_id' | 'original_id' | 'search_id';
  usage: 'last_opened';
  written_link:
    'now_path' | 'now_content' | 'next_path' | 'next_content' | 'inode' | 'is_foreign' | 'before_taken' | 'trouble';
}

/** As they are written anew. */
export type NewRows = {
  [T in keyof Rows]: Omit<Rows[T], MayBeLeftOut[T]> & Partial<Pick<Rows[T], MayBeLeftOut[T] & keyof Rows[T]>>;
};
