/**
 * The rows of each table as JSON carries them. Made from the migrated database by `npm run rows`; a test holds it against
 * the database. Not to be edited by hand.
 */
import type { Change } from '@rellin/core/journal';
import type { CatalogueFilter, TargetType } from '@rellin/contract';
import type { Kind } from '@rellin/core/kinds';
import type { Identity, ShortcutState } from '@rellin/core/identity';

/** As they are read. */
export interface Rows {
  alias: {
    id: string;
    shortcut_id: string;
    place_id: number;
    folder_id: number;
    name: string;
    taken: string | null;
    added_at: string;
  };
  board: {
    id: string;
    name: string;
    columns: number;
    sort: number;
    added_at: string;
    removed_at: string | null;
  };
  board_item: {
    id: string;
    board_id: string;
    region_id: string;
    bundle_id: string | null;
    shortcut_id: string;
    sort: number;
    x: number;
    y: number;
  };
  bundle: {
    id: string;
    region_id: string;
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
    id: string;
    name: string;
    description: string;
    type: 'plain' | 'mirror' | 'working-set';
    colour: string;
    picture: string;
    sort_by: string;
    show_as: string;
    mirror_of: string | null;
    until: string | null;
    last_members: unknown;
    keys: string | null;
    revision: number;
    added_at: string;
    removed_at: string | null;
  };
  companion: {
    id: string;
    shortcut_id: string;
    with_id: string;
    sort: number;
  };
  content: {
    place_id: number;
    original_id: number;
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
    id: number;
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
    journal_id: number;
    change: Change;
  };
  member: {
    id: string;
    collection_id: string;
    shortcut_id: string | null;
    child_id: string | null;
    sort: number;
    keep_first: boolean;
    added_at: string;
    search_id: string | null;
  };
  opening: {
    id: string;
    at: string;
    shortcut_id: string | null;
    place_id: number | null;
    original_id: number | null;
    program_id: string | null;
    name: string;
    how: string;
    argv: string[];
    route: string;
  };
  original: {
    place_id: number;
    id: number;
    parent_id: number;
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
  picture: {
    id: string;
    bytes: string;
    added_at: string;
  };
  pin: {
    id: string;
    shortcut_id: string | null;
    sort: number;
    collection_id: string | null;
    tag_id: string | null;
    aside: boolean;
    search_id: string | null;
    placed_at: string;
    kept: boolean;
  };
  place: {
    id: number;
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
    place_id: number;
    next_id: number;
    entries: number;
    scan: string;
    scanned_at: string | null;
    verified_at: string | null;
    last_seen_at: string | null;
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
    id: string;
    collection_id: string | null;
    tag_id: string | null;
    search_id: string | null;
    place_id: number | null;
    folder_id: number | null;
    name: string;
    ordered: boolean;
    as_menu: boolean;
    added_at: string;
  };
  quick_filter: {
    id: string;
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
    id: string;
    board_id: string;
    name: string;
    sort_by: 'free' | 'own' | 'name' | 'kind' | 'size' | 'modified' | 'opened';
    sort: number;
  };
  review_silence: {
    id: string;
    at: string;
  };
  saved_search: {
    id: string;
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
    search_id: string;
    at: string;
    came: boolean;
    place_id: number;
    original_id: number;
    name: string;
    trail: string[];
  };
  search_size: {
    search_id: string;
    day: string;
    count: number;
  };
  search_status: {
    search_id: string;
    asked_at: string;
    looked_at: string;
    count: number;
  };
  session: {
    token_hash: string;
    created_at: string;
    last_seen_at: string;
    id: string;
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
    id: string;
    name: string;
    description: string;
    also_called: string[];
    target: TargetType;
    kind: Kind;
    place_id: number | null;
    original_id: number | null;
    program_id: string | null;
    url: string | null;
    identity: Identity | null;
    state: ShortcutState;
    state_reason: string;
    state_since: string;
    followed_from: string | null;
    candidates: { placeId: number; originalId: string; path: string }[];
    rejected: { inode: number; birth: number }[];
    added_at: string;
    removed_at: string | null;
    keys: string | null;
    picture: string;
    open_with: string | null;
    left_alone: boolean;
  };
  system_default: {
    id: string;
    mime: string;
    program_id: string;
    before: string | null;
    at: string;
  };
  tag: {
    id: string;
    name: string;
    colour: string;
  };
  tagging: {
    id: string;
    tag_id: string;
    shortcut_id: string | null;
    place_id: number | null;
    original_id: number | null;
    search_id: string | null;
  };
  usage: {
    shortcut_id: string;
    w0: number;
    t0: number;
    last_opened: string | null;
  };
  written_link: {
    key: string;
    place_id: number;
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

/** As they are written anew: what may be left out takes its default. */
export interface NewRows {
  alias: {
    id: string;
    shortcut_id: string;
    place_id: number;
    folder_id: number;
    name: string;
    taken?: string | null;
    added_at?: string | Date;
  };
  board: {
    id: string;
    name: string;
    columns?: number;
    sort: number;
    added_at?: string | Date;
    removed_at?: string | Date | null;
  };
  board_item: {
    id: string;
    board_id: string;
    region_id: string;
    bundle_id?: string | null;
    shortcut_id: string;
    sort: number;
    x: number;
    y: number;
  };
  bundle: {
    id: string;
    region_id: string;
    name: string;
    sort: number;
    x: number;
    y: number;
  };
  check_up: {
    id?: number;
    checked_at?: string | Date | null;
  };
  collection: {
    id: string;
    name: string;
    description?: string;
    type: 'plain' | 'mirror' | 'working-set';
    colour?: string;
    picture?: string;
    sort_by?: string;
    show_as?: string;
    mirror_of?: string | null;
    until?: string | Date | null;
    last_members?: unknown;
    keys?: string | null;
    revision?: number;
    added_at: string | Date;
    removed_at?: string | Date | null;
  };
  companion: {
    id: string;
    shortcut_id: string;
    with_id: string;
    sort: number;
  };
  content: {
    place_id: number;
    original_id: number;
    size: number;
    mtime: number;
    body: string;
    words: string;
  };
  filing: {
    id: string;
    state: 'intent' | 'done';
    made_folder?: string | null;
    items: unknown;
    at?: string | Date;
    filed?: number;
  };
  filing_busy: {
    filing_id: string;
  };
  journal: {
    id?: number;
    at?: string | Date;
    act: string;
    summary: string;
    by?: string;
    in_stack?: boolean;
    changes: Change[];
    undo_changes?: Change[] | null;
    undone_at?: string | Date | null;
    undone_order?: number | null;
  };
  journal_rewritten: {
    journal_id: number;
    change: Change;
  };
  member: {
    id: string;
    collection_id: string;
    shortcut_id?: string | null;
    child_id?: string | null;
    sort: number;
    keep_first?: boolean;
    added_at?: string | Date;
    search_id?: string | null;
  };
  opening: {
    id: string;
    at: string | Date;
    shortcut_id?: string | null;
    place_id?: number | null;
    original_id?: number | null;
    program_id?: string | null;
    name: string;
    how: string;
    argv: string[];
    route: string;
  };
  original: {
    place_id: number;
    id: number;
    parent_id: number;
    name: string;
    type: string;
    kind: string;
    mime: string;
    size: number;
    mtime: number;
    birth: number;
    dev: number;
    inode: number;
    first_seen: string | Date;
    came_from?: string | null;
    folded?: string | null;
  };
  picture: {
    id: string;
    bytes: string;
    added_at?: string | Date;
  };
  pin: {
    id: string;
    shortcut_id?: string | null;
    sort: number;
    collection_id?: string | null;
    tag_id?: string | null;
    aside?: boolean;
    search_id?: string | null;
    placed_at?: string | Date;
    kept?: boolean;
  };
  place: {
    id?: number;
    name: string;
    root: string;
    type: string;
    excludes?: string[];
    root_inode?: number | null;
    root_birth?: number | null;
    stand_in_store?: string | null;
    removed_at?: string | Date | null;
    file_system?: string | null;
    file_system_path?: string | null;
  };
  place_status: {
    place_id: number;
    next_id?: number;
    entries?: number;
    scan?: string;
    scanned_at?: string | Date | null;
    verified_at?: string | Date | null;
    last_seen_at?: string | Date | null;
  };
  plan_answer: {
    id: string;
    until?: string | Date | null;
  };
  plan_forecast: {
    id: string;
    at: string | Date;
    shortcuts: unknown;
    seconds: number;
  };
  publication: {
    id: string;
    collection_id?: string | null;
    tag_id?: string | null;
    search_id?: string | null;
    place_id?: number | null;
    folder_id?: number | null;
    name: string;
    ordered?: boolean;
    as_menu?: boolean;
    added_at?: string | Date;
  };
  quick_filter: {
    id: string;
    name: string;
    keys?: string | null;
    filter: CatalogueFilter;
    added_at?: string | Date;
  };
  recent_files: {
    only_row?: boolean;
    counted_until: string | Date;
  };
  region: {
    id: string;
    board_id: string;
    name: string;
    sort_by: 'free' | 'own' | 'name' | 'kind' | 'size' | 'modified' | 'opened';
    sort: number;
  };
  review_silence: {
    id: string;
    at?: string | Date;
  };
  saved_search: {
    id: string;
    name: string;
    description?: string;
    query: string;
    places?: number[] | null;
    show_as?: string;
    sort_by?: string;
    descending?: boolean;
    most?: number;
    colour?: string;
    keys?: string | null;
    muted?: boolean;
    added_at: string | Date;
    removed_at?: string | Date | null;
  };
  search_change: {
    id?: number;
    search_id: string;
    at: string | Date;
    came: boolean;
    place_id: number;
    original_id: number;
    name: string;
    trail: string[];
  };
  search_size: {
    search_id: string;
    day: string | Date;
    count: number;
  };
  search_status: {
    search_id: string;
    asked_at?: string | Date;
    looked_at?: string | Date;
    count?: number;
  };
  session: {
    token_hash: string;
    created_at?: string | Date;
    last_seen_at?: string | Date;
    id?: string;
    came_by: 'address' | 'passphrase';
    agent: string;
    token_since?: string | Date;
    former_hash?: string | null;
  };
  setting: {
    id: string;
    value: unknown;
  };
  shortcut: {
    id: string;
    name: string;
    description?: string;
    also_called?: string[];
    target: TargetType;
    kind: Kind;
    place_id?: number | null;
    original_id?: number | null;
    program_id?: string | null;
    url?: string | null;
    identity?: Identity | null;
    state: ShortcutState;
    state_reason?: string;
    state_since: string | Date;
    followed_from?: string | null;
    candidates?: { placeId: number; originalId: string; path: string }[];
    rejected?: { inode: number; birth: number }[];
    added_at: string | Date;
    removed_at?: string | Date | null;
    keys?: string | null;
    picture?: string;
    open_with?: string | null;
    left_alone?: boolean;
  };
  system_default: {
    id: string;
    mime: string;
    program_id: string;
    before?: string | null;
    at?: string | Date;
  };
  tag: {
    id: string;
    name: string;
    colour: string;
  };
  tagging: {
    id: string;
    tag_id: string;
    shortcut_id?: string | null;
    place_id?: number | null;
    original_id?: number | null;
    search_id?: string | null;
  };
  usage: {
    shortcut_id: string;
    w0: number;
    t0: number;
    last_opened?: string | Date | null;
  };
  written_link: {
    key: string;
    place_id: number;
    form: 'link' | 'entry' | 'folder';
    name: string;
    now_path?: string | null;
    now_content?: string | null;
    next_path?: string | null;
    next_content?: string | null;
    inode?: number | null;
    is_foreign?: boolean;
    before_taken?: string | null;
    trouble?: string | null;
  };
}
