/**
 * Every endpoint of the API: what is asked and what is answered. `undefined` for an answer without a body, `RawBytes`
 * for what is no JSON. Paths are below /api; a part that begins with a colon is a parameter.
 *
 * Server, page, command and tests speak by this list: the OpenAPI document is made from it, and every answer in the
 * tests is held against it.
 */
import type {
  EntryCode,
  EventsQuery,
  FindQuery,
  FindView,
  HealthView,
  JournalLine,
  JournalQuery,
  NewPassphrase,
  OpeningRecord,
  OpeningResult,
  OpenRequest,
  Passphrase,
  Problem,
  SessionView,
  SettingsPatch,
  SettingsView,
  SignedIn,
  SignedInBrowser,
  Topic,
} from './acts.js';
import type { AliasView, FoundLinksView, NewAlias, PublicationView, PublishRequest, TakeLink } from './aliases.js';
import type { BelongsRequest, BelongsView } from './belongs.js';
import type {
  Arrange,
  BoardPatch,
  BoardView,
  BundlePatch,
  ItemIds,
  Laid,
  NewBoard,
  NewBundle,
  NewRegion,
  BoardLayout,
  RegionMove,
  RegionPatch,
} from './boards.js';
import type { CheckUpView, LeaveAlone, PointsRequest, ReviewGroupView, Silence } from './checkUp.js';
import type { ChooserQuery, ChooserStarts, ChooserView } from './choose.js';
import type {
  CollectionPatch,
  CollectionView,
  MemberIds,
  MemberKeep,
  MemberMove,
  MembersView,
  NewCollection,
  NewMembers,
} from './collections.js';
import type { DeleteRequest, DeleteView, DiskBin, ExpungeRequest, ExpungeView, RestoreRequest } from './deleted.js';
import type { ExampleView } from './example.js';
import type {
  FilingRequest,
  FilingTarget,
  FilingView,
  OriginalNames,
  OriginalRefs,
  Renamed,
  UploadQuery,
} from './filing.js';
import type {
  FolderQuery,
  FolderView,
  FromQuery,
  LocatedView,
  OriginalView,
  ProgramForKind,
  ProgramView,
  StandardFolderView,
  SuitedProgram,
  SuitedQuery,
  TellSystem,
  TypedPath,
} from './originals.js';
import type { ActivityView, NewPlace, PlacePatch, PlaceView } from './places.js';
import type { PlanChartsView, PlanView, SuggestionAnswer, SuggestionIds } from './plan.js';
import type { Forget, RecordedOpening, UsageSummary, LikelyView, LimitQuery } from './reach.js';
import type {
  AnswersQuery,
  AnswersView,
  NewSearch,
  SearchChangesView,
  SearchPatch,
  SearchQuestion,
  SearchView,
} from './searches.js';
import type { FolderCount, SetUpDone, SetUpRequest, SetUpView } from './setUp.js';
import type {
  GoesWith,
  MeantView,
  NewShortcuts,
  ShortcutsMade,
  NewNames,
  NewPin,
  NewPins,
  NewShortcut,
  OpenWith,
  PinPatch,
  PinView,
  QuickFilterChange,
  QuickFilterView,
  Repoint,
  ShortcutDetail,
  ShortcutIds,
  ShortcutPatch,
  ShortcutView,
} from './shortcuts.js';
import type {
  NewSweep,
  SweepPatch,
  SweepPlan,
  SweepQuestion,
  SweepRequest,
  SweepResult,
  SweepRunView,
  SweepView,
} from './sweeps.js';
import type { Bearers, NewTag, TaggedView, TagPatch, TagView } from './tags.js';

/** Not JSON: a picture, a file, a stream of events, and of a request the bytes themselves. */
export interface RawBytes {
  isBytes: true;
}

export interface Endpoints {
  GET: {
    '/activity': { answer: ActivityView[] };
    '/aliases': { answer: AliasView[] };
    '/aliases/found': { answer: FoundLinksView };
    '/aliases/publications': { answer: PublicationView[] };
    '/bin/originals': { answer: DiskBin[] };
    '/boards': { query?: FromQuery; answer: BoardView[] };
    '/boards/:id': { answer: BoardLayout };
    '/check-up': { answer: CheckUpView };
    '/check-up/review': { answer: ReviewGroupView[] };
    /** A folder to choose in: in a place all of it, elsewhere its folders. */
    '/choose/folder': { query: ChooserQuery; answer: ChooserView };
    '/choose/starts': { answer: ChooserStarts };
    '/collections': { query?: FromQuery; answer: CollectionView[] };
    '/collections/:id': { answer: CollectionView };
    '/collections/:id/members': { answer: MembersView };
    /** Server-sent events; `changed` carries topics. */
    '/events': { query?: EventsQuery; answer: RawBytes };
    '/example': { answer: ExampleView };
    '/find': { query: FindQuery; answer: FindView };
    '/health': { answer: HealthView };
    '/journal': { query?: JournalQuery; answer: JournalLine[] };
    '/openings': { query?: LimitQuery; answer: OpeningRecord[] };
    '/openings/all': { answer: RecordedOpening[] };
    '/openings/summary': { answer: UsageSummary };
    /** Answers when it is known that a pending opening went well; a problem where it did not. */
    '/openings/:id/outcome': { answer: undefined };
    '/originals/complete': { query: TypedPath; answer: string[] };
    /** Folders that continue a path, in a place or not; no files. */
    '/places/complete': { query: TypedPath; answer: string[] };
    '/originals/standard-folders': { answer: StandardFolderView[] };
    '/originals/:placeId/folder/:id': { query?: FolderQuery; answer: FolderView };
    '/originals/:placeId/:id': { answer: OriginalView };
    '/originals/:placeId/:id/content': { answer: RawBytes };
    '/pictures/:id': { answer: RawBytes };
    '/pictures/drawings/:placeId/:id': { query?: { v?: string }; answer: RawBytes };
    '/pictures/originals/:placeId/:id': { query?: { side?: number; v?: string }; answer: RawBytes };
    '/pictures/programs/:id': { answer: RawBytes };
    '/pins': { answer: PinView[] };
    '/places': { answer: PlaceView[] };
    '/plan': { answer: PlanView };
    '/plan/charts': { answer: PlanChartsView };
    '/programs': { answer: ProgramView[] };
    '/programs/suited': { query: SuitedQuery; answer: SuitedProgram[] };
    '/quick-filters': { answer: QuickFilterView[] };
    '/reach/likely': { query?: LimitQuery; answer: LikelyView };
    '/searches': { query?: FromQuery; answer: SearchView[] };
    '/searches/:id': { answer: SearchView };
    '/searches/:id/answers': { query?: AnswersQuery; answer: AnswersView };
    '/searches/:id/changes': { answer: SearchChangesView };
    '/session': { answer: SessionView };
    '/session/browsers': { answer: SignedInBrowser[] };
    '/set-up': { answer: SetUpView };
    '/set-up/count': { query: TypedPath; answer: FolderCount };
    '/settings': { answer: SettingsView };
    '/shortcuts': { query?: FromQuery; answer: ShortcutView[] };
    /** What something typed would lead to. */
    '/shortcuts/meant': { query: TypedPath; answer: MeantView };
    '/shortcuts/:id': { answer: ShortcutDetail };
    '/sweeps': { answer: SweepView[] };
    '/sweeps/log': { answer: SweepRunView[] };
    '/tags': { answer: TagView[] };
    '/tags/:id/bearers': { answer: TaggedView };
  };
  POST: {
    '/activity/:id/stop': { answer: undefined };
    '/aliases': { body: NewAlias; answer: AliasView };
    '/aliases/publications': { body: PublishRequest; answer: PublicationView };
    '/aliases/take': { body: TakeLink; answer: AliasView };
    /** The folders where these originals most likely belong together. */
    '/belongs': { body: BelongsRequest; answer: BelongsView[] };
    '/bin/empty': { answer: { removed: number } };
    /** Originals into the bin of their disk, in one act. */
    '/bin/originals': { body: DeleteRequest; answer: DeleteView };
    /** For good; it cannot be undone. */
    '/bin/originals/expunge': { body: ExpungeRequest; answer: ExpungeView };
    /** Where each lay, or into another folder, in one act. */
    '/bin/originals/restore': { body: RestoreRequest; answer: FilingView };
    '/boards': { body: NewBoard; answer: BoardLayout };
    '/boards/:id/bundles': { body: NewBundle; answer: { made: number; layout: BoardLayout } };
    '/boards/:id/bundles/:bundleId/ungather': { answer: BoardLayout };
    '/boards/:id/first': { answer: undefined };
    '/boards/:id/items': { body: Laid; answer: { added: number; layout: BoardLayout } };
    '/boards/:id/items/take-off': { body: ItemIds; answer: undefined };
    '/boards/:id/put-back': { answer: undefined };
    '/boards/:id/regions': { body: NewRegion; answer: BoardLayout };
    '/boards/:id/regions/:regionId/arrange': { body: Arrange; answer: BoardLayout };
    '/boards/:id/regions/:regionId/move': { body: RegionMove; answer: BoardLayout };
    '/boards/:id/tidy': { answer: { moved: number; layout: BoardLayout } };
    '/check-up/leave': { body: LeaveAlone; answer: undefined };
    /** Begins; how it goes on is told with the activity, where it can be stopped. */
    '/check-up/now': { answer: undefined };
    '/check-up/point': { body: PointsRequest; answer: undefined };
    '/check-up/silence': { body: Silence; answer: undefined };
    '/collections': { body: NewCollection; answer: CollectionView };
    '/collections/:id/bring-back': { answer: { added: number } };
    '/collections/:id/empty': { answer: { removed: number } };
    '/collections/:id/members': { body: NewMembers; answer: { added: number } };
    '/collections/:id/members/keep-first': { body: MemberKeep; answer: undefined };
    '/collections/:id/members/move': { body: MemberMove; answer: MembersView };
    '/collections/:id/members/remove': { body: MemberIds; answer: undefined };
    '/collections/:id/put-back': { answer: undefined };
    /** Answers when it has begun. */
    '/example': { answer: undefined };
    /** A fresh address that opens it. */
    '/example/address': { answer: EntryCode };
    '/filing': { body: FilingRequest; answer: FilingView };
    /** A copy of each beside it. */
    '/filing/duplicate': { body: OriginalRefs; answer: { copied: number } };
    /** Each in the folder where it lies. */
    '/filing/rename': { body: OriginalNames; answer: Renamed };
    /** A folder, empty, of the name `newFolder`. */
    '/filing/folder': { body: FilingTarget; answer: { path: string } };
    /** The body is the file. */
    '/filing/upload': { query: UploadQuery; body: RawBytes; answer: FilingView };
    '/journal/redo': { answer: JournalLine };
    '/journal/undo': { answer: JournalLine };
    '/journal/:id/undo': { answer: JournalLine };
    '/openings': { body: OpenRequest; answer: OpeningResult };
    '/openings/forget': { body: Forget; answer: { forgotten: number } };
    '/originals/locate': { body: TypedPath; answer: LocatedView };
    /** The body is the picture. */
    '/pictures': { body: RawBytes; answer: { id: string } };
    '/pins': { body: NewPin; answer: PinView[] };
    '/pins/many': { body: NewPins; answer: PinView[] };
    '/places': { body: NewPlace; answer: PlaceView };
    '/places/:id/connect': { answer: PlaceView };
    '/places/:id/disconnect': { answer: PlaceView };
    /** Answers when it has begun. */
    '/places/:id/scan': { answer: undefined };
    '/plan/answer': { body: SuggestionAnswer; answer: undefined };
    '/plan/apply': { body: SuggestionIds; answer: undefined };
    '/plan/ask-again': { answer: undefined };
    '/programs/for-kind': { body: ProgramForKind; answer: undefined };
    /** Into the user's mimeapps.list; the answer names the MIME types. */
    '/programs/tell-system': { body: TellSystem; answer: { mimes: string[] } };
    '/quick-filters': { body: QuickFilterChange; answer: QuickFilterView[] };
    '/searches': { body: NewSearch; answer: SearchView };
    '/searches/ask': { body: SearchQuestion; answer: AnswersView };
    '/searches/:id/mark-seen': { answer: undefined };
    '/searches/:id/put-back': { answer: undefined };
    '/session/code': { answer: EntryCode };
    '/session/leave': { answer: undefined };
    '/session/sign-in': { body: Passphrase; answer: SignedIn };
    '/set-up': { body: SetUpRequest; answer: SetUpDone };
    '/shortcuts': { body: NewShortcut; answer: ShortcutDetail };
    '/shortcuts/many': { body: NewShortcuts; answer: ShortcutsMade };
    '/shortcuts/acknowledge': { body: ShortcutIds; answer: undefined };
    '/shortcuts/open-with': { body: OpenWith; answer: undefined };
    '/shortcuts/remove': { body: ShortcutIds; answer: undefined };
    '/shortcuts/rename': { body: NewNames; answer: undefined };
    '/shortcuts/:id/goes-with': { body: GoesWith; answer: ShortcutDetail };
    '/shortcuts/:id/put-back': { answer: undefined };
    '/shortcuts/:id/repoint': { body: Repoint; answer: ShortcutDetail };
    '/sweeps': { body: NewSweep; answer: SweepView };
    /** What a sweep would do; nothing is done. */
    '/sweeps/plan': { body: SweepQuestion; answer: SweepPlan };
    /** In one act. */
    '/sweeps/run': { body: SweepRequest; answer: SweepResult };
    '/tags': { body: NewTag; answer: TagView };
    '/tags/:id/put': { body: Bearers; answer: { tagged: number } };
    '/tags/:id/take': { body: Bearers; answer: { taken: number } };
  };
  PUT: {
    '/session/passphrase': { body: NewPassphrase; answer: undefined };
  };
  PATCH: {
    '/boards/:id': { body: BoardPatch; answer: BoardLayout };
    '/boards/:id/bundles/:bundleId': { body: BundlePatch; answer: BoardLayout };
    '/boards/:id/regions/:regionId': { body: RegionPatch; answer: BoardLayout };
    '/collections/:id': { body: CollectionPatch; answer: CollectionView };
    '/pins/:id': { body: PinPatch; answer: PinView[] };
    '/places/:id': { body: PlacePatch; answer: PlaceView };
    '/quick-filters/:id': { body: QuickFilterChange; answer: QuickFilterView[] };
    '/searches/:id': { body: SearchPatch; answer: SearchView };
    '/settings': { body: SettingsPatch; answer: SettingsView };
    '/shortcuts/:id': { body: ShortcutPatch; answer: ShortcutDetail };
    '/sweeps/:id': { body: SweepPatch; answer: SweepView };
    '/tags/:id': { body: TagPatch; answer: TagView };
  };
  DELETE: {
    '/aliases/:id': { answer: undefined };
    '/aliases/publications/:id': { answer: undefined };
    '/boards/:id': { answer: undefined };
    '/boards/:id/regions/:regionId': { answer: undefined };
    '/collections/:id': { answer: undefined };
    /** Answers when nothing of it is left. */
    '/example': { answer: undefined };
    '/pins/:id': { answer: undefined };
    '/places/:id': { answer: undefined };
    '/quick-filters/:id': { answer: QuickFilterView[] };
    '/searches/:id': { answer: undefined };
    '/session/browsers': { answer: { ended: number } };
    '/session/browsers/:id': { answer: { ended: number } };
    '/shortcuts/:id': { answer: undefined };
    '/shortcuts/:id/goes-with/:companionId': { answer: undefined };
    '/sweeps/:id': { answer: undefined };
    '/tags/:id': { answer: undefined };
  };
}

/** All of it, as the schema is made from it. */
export interface Api {
  endpoints: Endpoints;
  /** Every refusal. */
  problem: Problem;
  /** What an event carries. */
  changed: Topic[];
}

export type Method = keyof Endpoints;

/** The parts of a path: `/shortcuts/:id` is `['shortcuts', ':id']`. */
type Parts<Path extends string> = Path extends `/${infer First}/${infer Rest}`
  ? [First, ...Parts<`/${Rest}`>]
  : Path extends `/${infer Only}`
    ? [Only]
    : [];

/** Whether each part of a path is the endpoint's, or stands for its parameter. */
type Fits<Known extends string[], Asked extends string[]> = Known extends [
  infer K extends string,
  ...infer KnownRest extends string[],
]
  ? Asked extends [infer A extends string, ...infer AskedRest extends string[]]
    ? K extends `:${string}`
      ? Fits<KnownRest, AskedRest>
      : A extends K
        ? Fits<KnownRest, AskedRest>
        : false
    : false
  : Asked extends []
    ? true
    : false;

/** The endpoint that a path means, `/shortcuts/:id` for a path like `/shortcuts/8f…`; never where there is none. */
export type EndpointOf<M extends Method, Path extends string> = Path extends keyof Endpoints[M]
  ? Path
  : Path extends string
    ? {
        [Known in keyof Endpoints[M] & string]: Fits<Parts<Known>, Parts<Path>> extends true ? Known : never;
      }[keyof Endpoints[M] & string]
    : never;

type Of<M extends Method, Path extends string> = Endpoints[M][EndpointOf<M, Path>];

export type Answer<M extends Method, Path extends string> = Of<M, Path> extends { answer: infer A } ? A : never;
export type Body<M extends Method, Path extends string> = Of<M, Path> extends { body: infer B } ? B : undefined;
export type Query<M extends Method, Path extends string> = Of<M, Path> extends { query?: infer Q } ? Q : undefined;

/** What follows the path in a call that sends a body: nothing where the endpoint takes none. */
export type BodyOf<M extends Method, Path extends string> = [EndpointOf<M, Path>] extends [never]
  ? [error: 'there is no such endpoint']
  : Of<M, Path> extends { body: infer B }
    ? [body: B]
    : [];

/** What follows the path in a question: what narrows it, where the endpoint takes that. */
export type QueryOf<M extends Method, Path extends string> = [EndpointOf<M, Path>] extends [never]
  ? [error: 'there is no such endpoint']
  : Of<M, Path> extends { query: infer Q }
    ? [query: Q]
    : Of<M, Path> extends { query?: infer Q }
      ? [query?: Q]
      : [];

/** How whoever speaks to the server asks: the answer is the endpoint's. */
export type Call = <M extends Method, P extends string>(
  method: M,
  path: P,
  ...body: BodyOf<M, P>
) => Promise<Answer<M, P>>;
export type Get = <P extends string>(path: P, ...query: QueryOf<'GET', P>) => Promise<Answer<'GET', P>>;
