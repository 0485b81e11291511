import type { Seconds } from '@rellin/core/units';
import type { JournalLineId, OpeningId, OriginalId, PlaceId, ProgramId, SessionId, ShortcutId } from './ids.js';
import type { Kind } from '@rellin/core/kinds';
import type { Coming } from '@rellin/core/reach';
import type { PreviewKind, OriginalRef } from './originals.js';

export interface JournalLine {
  id: JournalLineId;
  at: string;
  act: string;
  summary: string;
  /** "automatic" for what Rellin did by itself. */
  by: 'person' | 'automatic';
  undoneAt: string | null;
  /** Whether Ctrl+Z comes to it. */
  inStack: boolean;
}

export interface OpeningResult {
  openingId: OpeningId;
  name: string;
  /** "viewer" where the stand-in shows it inside Rellin, "system" where the system's opener took it. */
  how: 'viewer' | 'system';
  /** The argument list that was, or would have been, started. */
  argv: string[];
  /** It is not known yet whether it went well: `GET /openings/ID/outcome` tells. */
  pending: boolean;
  /** Set where the viewer can show it. */
  preview: { placeId: PlaceId; originalId: OriginalId; kind: PreviewKind | null } | null;
  /** Set where the identity was followed on the way. */
  notice: string | null;
}

export interface OpeningRecord {
  id: OpeningId;
  at: string;
  name: string;
  how: 'viewer' | 'system';
  argv: string[];
  shortcutId: ShortcutId | null;
  /** The original that was opened, where it was one. */
  placeId: PlaceId | null;
  originalId: OriginalId | null;
}

export interface FindAnswerView {
  group: 'shortcut' | 'collection' | 'search' | 'original';
  id: string;
  name: string;
  kind: Kind;
  state: string | null;
  trail: string;
  ranges: [number, number][];
  placeId: PlaceId | null;
  originalId: OriginalId | null;
  shortcutId: ShortcutId | null;
  seconds: Seconds | null;
  steps: number | null;
  /** Members of a collection, answers of a saved search; left out for all others. */
  count?: number;
}

export interface FindView {
  query: string;
  answers: FindAnswerView[];
}

/** How a list of things is shown: a table, tiles, names in columns, or names beside one large preview. */
export type ListShape = 'table' | 'small-tiles' | 'medium-tiles' | 'large-tiles' | 'compact' | 'preview';

/** Folders also side by side: those on the way down to what is selected, a column for each. */
export type FolderShape = ListShape | 'side-by-side';

/** What can be changed in one act. */
export interface ChangeableSettings {
  pinLimit: number;
  /** Openings a week from which on the plan takes a pin or a key as worth its place. */
  pinWorth: number;
  appearance: 'system' | 'light' | 'dark';
  halfLifeDays: number;
  startView: 'reach' | 'catalogue' | 'originals' | 'boards';
  /** Whether the first steps are still to be done, were done, or were skipped. */
  setUp: 'open' | 'done' | 'skipped';
  /** The folder that Originals opens in; null for the first place. */
  startFolder: { placeId: PlaceId; originalId: OriginalId } | null;
  /** The columns shown in the catalogue's table, in order; empty for the usual ones. */
  catalogueColumns: { id: string; width?: number }[];
  /** When a letter typed in a list is a command: if none follows at once, always, or never. */
  letterKeys: 'when-alone' | 'at-once' | 'never';
  /** Rellin's letter → the one in its place; '' for none. */
  keyMap: Record<string, string>;
  /** Whether lists of originals show files and folders whose names begin with a dot. */
  showHidden: boolean;
  /** How originals and the members of collections are shown; a table where nothing was chosen. */
  listShapes: { originals?: FolderShape; members?: ListShape };
  catalogueShape: 'table' | 'small-tiles' | 'medium-tiles' | 'large-tiles' | 'compact';
  reachConstants: Record<string, number>;
  /** What comes before every route within Rellin. */
  coming: Coming;
  /** Whether openings are kept; paused, nothing of them is. */
  recording: boolean;
  /** Whether what other programs opened counts as well, by the desktop's recent-files list. */
  recentFiles: boolean;
  /** Kinds of files whose content can be found, and up to which size in bytes. */
  contentKinds: Kind[];
  contentLimit: number;
}

export interface SettingsView extends ChangeableSettings {
  /** Kind → the program that opens it. */
  openWith: Partial<Record<Kind, string>>;
}

/** Null for `startFolder` goes back to the first place. */
export type SettingsPatch = Partial<ChangeableSettings>;

export interface SessionView {
  signedIn: boolean;
  needsPassphrase: boolean;
  version: string;
  demo: boolean;
}

/** After the passphrase: where to go on, where the page was asked for under another name than its own. */
export interface SignedIn {
  goOnAt: string | null;
}

/** A code for one visit, and the address that brings it. */
export interface EntryCode {
  code: string;
  address: string;
}

/** A browser that is signed in. */
export interface SignedInBrowser {
  id: SessionId;
  cameBy: 'address' | 'passphrase';
  /** What the browser calls itself. */
  agent: string;
  since: string;
  lastSeen: string;
  /** It is the one that asks. */
  isThis: boolean;
}

/** RFC 9457 problem details, with Rellin's own members. */
export interface Problem {
  type: string;
  title: string;
  status: number;
  detail: string;
  /** What a person can do about it. */
  remedy?: string;
  [member: string]: unknown;
}

/** What a server-sent event says has changed. */
export type Topic =
  | 'shortcuts'
  | 'pins'
  | 'places'
  | 'originals'
  | 'journal'
  | 'activity'
  | 'settings'
  | 'programs'
  | 'openings'
  | 'collections'
  | 'boards'
  | 'tags'
  | 'quick-filters'
  | 'searches'
  | 'check-up'
  | 'aliases'
  | 'plan'
  | 'find'
  | 'deleted'
  | 'sweeps'
  | 'example';

/** What to open: a shortcut, an original or a program. */
export interface OpenRequest {
  shortcutId?: ShortcutId;
  placeId?: PlaceId;
  originalId?: OriginalId;
  programId?: ProgramId;
  /** Another program than the usual one, this once. */
  withProgramId?: ProgramId;
  /** For a program: originals to open with it. */
  files?: OriginalRef[];
  /** The way it was opened, "pin" or "find". */
  route: string;
  /** False on the quiet screen: it is opened, and nothing of it is kept. */
  record?: boolean;
  /** Answered only when it is known how it went, within about two seconds. */
  wait?: boolean;
}

export interface FindQuery {
  q: string;
  limit?: number;
  /** Narrows by a condition in the language of saved searches. */
  where?: string;
}

export interface JournalQuery {
  /** The line from which on older ones are listed. */
  before?: number;
  limit?: number;
}

export interface Passphrase {
  passphrase: string;
}

export interface NewPassphrase extends Passphrase {
  /** The one that holds now, where one is set and a browser asks. */
  current?: string;
}

export interface HealthView {
  server: 'up';
  database: 'up' | 'down';
}

/** The header by which a page names itself, so that it is not told of what its own answers tell. */
export const PAGE_HEADER = 'x-rellin-page';
/** The header of an answer that names the topics it changed, parted by blanks. */
export const CHANGED_HEADER = 'x-rellin-changed';

export interface EventsQuery {
  /** The page that listens, as it names itself. */
  page?: string;
}
