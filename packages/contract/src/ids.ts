/**
 * Ids that say whose they are. A plain text or number can be used as any of them, but the id of one thing cannot be
 * used where that of another is meant: that does not compile.
 */

/** What an id is of stands in its type only; no value has it. */
type IdOf<Thing extends string, Base extends string | number = string> = Base & { readonly __of?: Thing };

export type AliasId = IdOf<'alias'>;
export type BoardId = IdOf<'board'>;
export type BoardItemId = IdOf<'board item'>;
export type BundleId = IdOf<'bundle'>;
export type CollectionId = IdOf<'collection'>;
/** Of an original in a bin of the disk. */
export type DeletedId = IdOf<'deleted original'>;
export type MemberId = IdOf<'member'>;
export type OpeningId = IdOf<'opening'>;
export type PinId = IdOf<'pin'>;
/** The name of a desktop entry's file. */
export type ProgramId = IdOf<'program'>;
export type PublicationId = IdOf<'publication'>;
export type QuickFilterId = IdOf<'quick filter'>;
export type RegionId = IdOf<'region'>;
export type SearchId = IdOf<'search'>;
export type SessionId = IdOf<'session'>;
export type ShortcutId = IdOf<'shortcut'>;
export type SweepId = IdOf<'sweep'>;
export type SweepRunId = IdOf<'sweep run'>;
export type TagId = IdOf<'tag'>;
export type JournalLineId = IdOf<'journal line', number>;
export type PlaceId = IdOf<'place', number>;
/** Of an original within its place. */
export type OriginalId = IdOf<'original', number>;
