import type { Bytes } from '@rellin/core/units';
import type { CollectionId, OriginalId, PinId, PlaceId, ProgramId, QuickFilterId, ShortcutId, TagId } from './ids.js';
import type { Kind } from '@rellin/core/kinds';
import type { ShortcutState } from '@rellin/core/identity';
import type { ReachView } from './reach.js';
import type { PreviewKind, TrailStep } from './originals.js';

export type TargetType = 'original' | 'program' | 'web';

export interface ShortcutView {
  id: ShortcutId;
  name: string;
  description: string;
  alsoCalled: string[];
  /** Its own key or chord, e.g. "t" or "g t"; null where it has none. */
  keys: string | null;
  /** As `parsePicture` of core reads it; empty where none was chosen. */
  picture: string;
  /** The id of the program that opens it; null leaves it to its kind and the system. */
  openWith: string | null;
  /** Ids of the collections it is a member of. */
  collections: CollectionId[];
  /** Ids of its tags. */
  tags: TagId[];
  target: TargetType;
  kind: Kind;
  state: ShortcutState;
  /** One sentence on the state, where there is something to say. */
  stateReason: string;
  stateSince: string;
  /** Absolute path at which it was before Rellin followed it. */
  followedFrom: string | null;
  /** Lost or unsure, and the person does not want to hear of it. */
  leftAlone: boolean;
  placeId: PlaceId | null;
  originalId: OriginalId | null;
  /** Absolute path, web address or program id. */
  location: string;
  /** The folders above, names only, from the place down. */
  trail: string[];
  size: Bytes | null;
  modified: number | null;
  addedAt: string;
  removedAt: string | null;
  weight: number;
  perWeek: number;
  lastOpenedAt: string | null;
  /** Slot on the strip, from 1; null where it is not pinned. */
  pinSlot: number | null;
  reach: ReachView;
}

export interface ShortcutDetail extends ShortcutView {
  /** Ids of the boards it lies on. */
  boards: string[];
  steps: TrailStep[];
  weekly: number[];
  preview: PreviewKind | null;
  candidates: { placeId: PlaceId; originalId: OriginalId; path: string }[];
  /** Further shortcuts it carries beside its main original, in order. */
  goesWith: { id: string; shortcutId: ShortcutId; name: string; kind: Kind; state: ShortcutState }[];
}

/** What a pin opens: a shortcut at once, the others downward as a menu. */
export type PinTarget = 'shortcut' | 'collection' | 'tag' | 'search';

export interface PinView {
  id: PinId;
  target: PinTarget;
  /** The id of what is pinned. */
  targetId: string;
  /** From 1; its key is the digit, where there is one. */
  slot: number;
  key: string | null;
  name: string;
  /** Null for a collection or tag. */
  kind: Kind | null;
  state: ShortcutState;
  /** Members of a collection, things with a tag, answers of a saved search; null for a shortcut. */
  count: number | null;
  /** Of a saved search: what came since last looked, unless it is muted; 0 for all others. */
  fresh: number;
  colour: string;
  /** Put by the person into the menu at the strip's end. */
  aside: boolean;
  /** The plan leaves it where it is. */
  kept: boolean;
}

/** What the catalogue is narrowed to; ids and words as in its address. */
export interface CatalogueFilter {
  kind?: string;
  state?: string;
  place?: string;
  tag?: string;
  collection?: string;
  used?: string;
  sort?: string;
  order?: string;
}

/** A combination of the catalogue's facets under a name, and a key if it has one. */
export interface QuickFilterView {
  id: QuickFilterId;
  name: string;
  keys: string | null;
  filter: CatalogueFilter;
}

/** What a shortcut is to point to: exactly one of an original, a program, a web address, or what was typed. */
export interface TargetRef {
  placeId?: PlaceId;
  originalId?: OriginalId;
  programId?: ProgramId;
  /** A path, file address or web address as typed or pasted. */
  typed?: string;
}

export interface NewShortcut extends TargetRef {
  /** A web address. */
  url?: string;
  name?: string;
  description?: string;
  pin?: boolean;
  /** Slot on the strip, from 1, where it is pinned; the end by default. */
  slot?: number;
}

/** Several at once, in one act; those there is a shortcut to already are taken along into collections and tags. */
export interface NewShortcuts {
  items: NewShortcut[];
  collectionIds?: CollectionId[];
  tagIds?: TagId[];
  /** As far as there is room. */
  pin?: boolean;
  /** Slot of the first on the strip, from 1, the others after it; the end by default. */
  slot?: number;
}

export interface ShortcutsMade {
  /** Of all that were asked for, in their order. */
  ids: ShortcutId[];
  added: number;
  pinned: number;
  notMade: { name: string; reason: string }[];
}

/** What something typed would lead to. */
export interface MeantView {
  /** Null where it leads nowhere. */
  meant: { kind: Kind; name: string; location: string; shortcut: { id: ShortcutId; name: string } | null } | null;
  /** What stands against it: the kind of the problem, and in words; null where nothing does. */
  trouble: { kind: string; text: string } | null;
}

export interface ShortcutPatch {
  name?: string;
  description?: string;
  alsoCalled?: string[];
  /** Its own key or chord; null takes it away. */
  keys?: string | null;
  /** As core's parsePicture reads it. */
  picture?: string;
}

export interface ShortcutIds {
  ids: ShortcutId[];
}

export interface OpenWith extends ShortcutIds {
  /** Null leaves it to the kind and the system. */
  programId: ProgramId | null;
}

/** A further shortcut that one carries: by its id, or made from a target. */
export interface GoesWith extends TargetRef {
  withId?: ShortcutId;
}

export interface NewNames {
  names: { id: ShortcutId; name: string }[];
}

export interface Repoint {
  /** A path as typed. */
  typed: string;
}

export interface NewPin {
  target: PinTarget;
  targetId: string;
  slot?: number;
}

export interface NewPins {
  targetIds: string[];
}

export interface PinPatch {
  slot?: number;
  aside?: boolean;
  kept?: boolean;
}

export interface QuickFilterChange {
  name?: string;
  keys?: string | null;
  filter?: CatalogueFilter;
}
