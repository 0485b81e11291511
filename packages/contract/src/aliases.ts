import type { AliasId, OriginalId, PlaceId, PublicationId, ShortcutId } from './ids.js';
import type { OriginalRef } from './originals.js';

/** How a link stands on the disk. "waiting": its place or folder is not there now; "failed": see `reason`. */
export type AliasState = 'there' | 'waiting' | 'failed';

/** A link file that Rellin keeps in a real folder for a shortcut. */
export interface AliasView {
  id: AliasId;
  shortcutId: ShortcutId;
  /** Of the file, as it is on disk. */
  name: string;
  placeId: PlaceId;
  folderId: OriginalId;
  /** Absolute. */
  path: string;
  state: AliasState;
  reason: string;
}

export type PublicationSource = 'collection' | 'tag' | 'search';

export interface PublishRequest {
  source: PublicationSource;
  sourceId: string;
  /** The folder in which the folder of links is made, as typed; left out for a menu. */
  folder?: string;
  name?: string;
  ordered?: boolean;
  asMenu?: boolean;
}

/** A folder of links, or a menu of the desktop, that is kept in step with what it shows. */
export interface PublicationView {
  id: PublicationId;
  source: PublicationSource;
  sourceId: string;
  name: string;
  /** The folder of links; null for a menu. */
  path: string | null;
  asMenu: boolean;
  ordered: boolean;
  /** How many links it holds. */
  links: number;
  /** How many could not be written. */
  failed: number;
  state: AliasState;
  reason: string;
}

/** A link that lies in a place and that Rellin did not write. */
export interface FoundLinkView {
  placeId: PlaceId;
  originalId: OriginalId;
  path: string;
  /** Where it says its original is. */
  target: string;
  /** It leads to something in a place, to something outside of all, or nowhere. */
  leads: 'inside' | 'outside' | 'nowhere';
  /** Of what has its name, where it leads nowhere; at most five. */
  candidates: { placeId: PlaceId; originalId: OriginalId; path: string }[];
}

export interface FoundLinksView {
  links: FoundLinkView[];
  /** How many there are in all. */
  total: number;
}

export interface NewAlias {
  shortcutId: ShortcutId;
  /** A path as typed. */
  folder: string;
  name?: string;
}

/** A link that Rellin did not write, to be kept by it from now on. */
export interface TakeLink extends OriginalRef {
  /** What it is to lead to instead. */
  to?: OriginalRef;
}
