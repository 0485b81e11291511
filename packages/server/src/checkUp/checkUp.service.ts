/** The check-up: what needs a person, what may help, and looking at every shortcut anew. */
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { segmentsOf, shown } from '@rellin/core/paths';
import { folderMoves } from '@rellin/core/repair';
import { review } from '@rellin/core/review';
import type { CheckUpView, FolderMoveView, PointRequest, ReviewGroupView, ShortcutId, Topic } from '@rellin/contract';
import { ActivityService } from '../activity/activity.service.js';
import { DiskService } from '../disk/disk.service.js';
import { absolute } from '../disk/paths.js';
import { EventsService, type AfterTold } from '../events/events.service.js';
import { IdentityService } from '../identity/identity.service.js';
import type { Patch } from '../journal/actTx.js';
import { JournalService, type AfterAct } from '../journal/journal.service.js';
import { PinsService } from '../pins/pins.service.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Refusal } from '../problems/refusal.js';
import type { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import { CheckUpRepository } from './checkUp.repository.js';
import { CandidatesService, type Lost } from './candidates.service.js';
import type { RowChange } from '../journal/rowChange.js';
import { ShortcutsRepository } from '../shortcuts/shortcuts.repository.js';

/** A quiet look at everything so often; what is watched is heard of at once anyway. */
const EVERY_MS = 6 * 3_600_000;
const LOOK_MS = 60_000;
/** After files came, what may be lost ones among them is looked for this much later. */
const SOON_MS = 5000;
/** So many are looked at between two looks at whether to stop. */
const STEP = 200;
const ACTIVITY = 'check-up';

@Injectable()
export class CheckUpService implements OnApplicationShutdown, AfterAct, AfterDisk, AfterTold {
  private readonly log = new Logger('check-up');
  private known: Promise<CheckUpView> | undefined;
  private running: Promise<void> | undefined;
  private stopped = false;
  private timer: NodeJS.Timeout | undefined;
  private soon: NodeJS.Timeout | undefined;
  /** Whether there was anything to look for, the last time. */
  private hasNeeds = true;

  constructor(
    private readonly rows: CheckUpRepository,
    private readonly shortcutRows: ShortcutsRepository,
    private readonly activity: ActivityService,
    private readonly candidates: CandidatesService,
    private readonly disk: DiskService,
    private readonly events: EventsService,
    private readonly identity: IdentityService,
    private readonly pins: PinsService,
    private readonly places: PlaceRegistry,
    private readonly shortcuts: ShortcutsService,
    private readonly journal: JournalService,
  ) {}

  afterTold(topics: readonly Topic[]): void {
    if (topics.includes('check-up')) this.known = undefined;
  }

  afterAct(changes: RowChange[]): void {
    if (changes.some((c) => c.table === 'shortcut' && touchesCheckUp(c))) this.changed();
  }

  /** What was lost may lie in what came; each look goes through the whole index. */
  afterDisk(event: PlaceEvent): void {
    if (event.kind === 'state') this.changed();
    else if (this.hasNeeds && event.written.added + event.written.changed > 0)
      this.soon ??= setTimeout(() => this.changed(), SOON_MS).unref();
  }

  start(): void {
    this.timer = setInterval(() => void this.whenDue().catch((e: Error) => this.log.warn(e.message)), LOOK_MS).unref();
  }

  private changed(): void {
    clearTimeout(this.soon);
    this.soon = undefined;
    this.known = undefined;
    this.events.changed('check-up');
  }

  private async whenDue(): Promise<void> {
    const checkedAt = await this.rows.checkedAt();
    if (!checkedAt || Date.now() - checkedAt.getTime() >= EVERY_MS) await this.now();
  }

  /** Looks at every shortcut anew, as long as nobody stops it. */
  now(): Promise<void> {
    this.running ??= this.lookAtAll().finally(() => {
      this.running = undefined;
      this.activity.end(ACTIVITY);
      this.changed();
    });
    return this.running;
  }

  private async lookAtAll(): Promise<void> {
    const ids = await this.rows.shortcutIds();
    this.stopped = false;
    this.activity.begin(ACTIVITY, 'Checking shortcuts', ids.length, () => {
      this.stopped = true;
    });
    for (let i = 0; i < ids.length && !this.stopped; i += STEP) {
      await this.identity.examine(ids.slice(i, i + STEP));
      this.activity.progress(ACTIVITY, Math.min(ids.length, i + STEP));
    }
    if (!this.stopped) await this.rows.saveChecked();
  }

  async view(): Promise<CheckUpView> {
    const view = (this.known ??= this.calculate());
    // a failure is not kept
    view.catch(() => {
      if (this.known === view) this.known = undefined;
    });
    return view;
  }

  private async calculate(): Promise<CheckUpView> {
    const checkedAt = await this.rows.checkedAt();
    const wanting = await this.rows.wanting();
    const open = wanting.filter((s) => !s.leftAlone);
    this.hasNeeds = open.length > 0;
    const { lost, among } = await this.candidates.of(open.filter((s) => s.target === 'original'));
    const moves = await this.folderMoves(lost);
    const explained = new Set(moves.flatMap((m) => m.explains.map((e) => e.shortcutId)));
    const candidatesOf = new Map(lost.map((l) => [l.shortcut.id, l.candidates]));
    const likeliest = (s: ShortcutEntity) => candidatesOf.get(s.id)?.[0]?.sure ?? 0;
    const nameOfPlace = (id: number | null) => (id === null ? '' : (this.places.get(id)?.entity.name ?? ''));
    return {
      checkedAt: checkedAt?.toISOString() ?? null,
      nextAt: new Date((checkedAt?.getTime() ?? Date.now()) + EVERY_MS).toISOString(),
      among,
      folderMoves: moves,
      needs: open
        .filter((s) => !explained.has(s.id))
        // what can be helped at once comes first
        .sort((a, b) => likeliest(b) - likeliest(a))
        .map((s) => ({
          shortcutId: s.id,
          placeName: nameOfPlace(s.placeId),
          was: s.identity?.path ?? s.programId ?? '',
          candidates: (candidatesOf.get(s.id) ?? []).map(({ candidate, evidence, sure }) => ({
            placeId: candidate.placeId,
            originalId: candidate.originalId,
            placeName: nameOfPlace(candidate.placeId),
            path: candidate.path,
            evidence: evidence.map((e) => e.words),
            sure,
          })),
        })),
      leftAlone: wanting.filter((s) => s.leftAlone).map((s) => s.id),
    };
  }

  /** Places tell paths apart by their number, which stands in front. */
  private async folderMoves(lost: readonly Lost[]): Promise<FolderMoveView[]> {
    const of = new Map(lost.map((l) => [l.shortcut.id, l]));
    const items = lost.map(({ shortcut, candidates }) => ({
      key: shortcut.id,
      path: [String(shortcut.placeId), ...segmentsOf(shortcut.identity!.path)],
      found: candidates.map(({ candidate }) => [String(candidate.placeId), ...segmentsOf(candidate.path)]),
    }));
    const folders = new Map<string, readonly string[]>();
    for (const { path } of items)
      for (let n = 1; n < path.length; n++) folders.set(path.slice(0, n).join('/'), path.slice(0, n));
    const there = new Set<string>();
    for (const [key, [placeId, ...rest]] of folders) {
      const place = this.places.get(Number(placeId));
      const seen =
        place &&
        (await this.disk.folder(place.entity.id, absolute(place.entity.root, rest.join('/'))).catch(() => null));
      if (seen?.isFolder) there.add(key);
    }
    const where = ([placeId, ...rest]: readonly string[]) => ({
      placeName: this.places.get(Number(placeId))?.entity.name ?? '',
      path: rest.join('/'),
    });
    return folderMoves(items, (folder) => !there.has(folder.join('/'))).map((move) => ({
      id: `${move.from.join('/')} ${move.to.join('/')}`,
      from: where(move.from),
      to: where(move.to),
      of: move.of,
      explains: move.explains.map(({ key, found }) => {
        const { candidate, sure } = of.get(key)!.candidates[found]!;
        const { placeId, originalId, path } = candidate;
        return { shortcutId: key, placeId, originalId, path, sure };
      }),
    }));
  }

  /** Points shortcuts to what the person found to be theirs, in one act. */
  async point(points: readonly PointRequest[], moved?: { from: string; to: string }): Promise<void> {
    const patches: [ShortcutId, Patch<'shortcut'>][] = [];
    let first: ShortcutEntity | undefined;
    for (const { shortcutId, placeId, originalId } of points) {
      const shortcut = await this.shortcuts.need(shortcutId);
      first ??= shortcut;
      patches.push([shortcutId, await this.shortcuts.pointed({ placeId, originalId })]);
    }
    if (!first) throw new Refusal('not-valid', 'Nothing was chosen to be pointed anywhere.');
    const what = points.length === 1 ? `“${first.name}”` : `${points.length} shortcuts`;
    const summary = moved
      ? `Followed ${what} from ${shown(moved.from)} to ${shown(moved.to)}`
      : `Changed the target of ${what}`;
    await this.journal.act({ act: 'repoint', summary }, (tx) => this.shortcuts.patch(tx, patches));
  }

  /** Says that these are known to be lost and need nobody, or takes that back. */
  async leave(shortcutIds: readonly ShortcutId[], leftAlone: boolean): Promise<void> {
    const found = await this.shortcuts.present(shortcutIds);
    if (found.length === 0) throw new Refusal('not-found', 'That shortcut is not in the catalogue any more.');
    const what = found.length === 1 ? `“${found[0]!.name}”` : `${found.length} shortcuts`;
    const summary = leftAlone ? `Left ${what} alone` : `Looks after ${what} again`;
    await this.journal.act({ act: 'leave-alone', summary }, (tx) =>
      this.shortcuts.patch(
        tx,
        found.map(({ id }) => [id, { left_alone: leftAlone }]),
      ),
    );
  }

  /** What could go: nothing of it is wrong. What was silenced is left out. */
  async review(): Promise<ReviewGroupView[]> {
    const rows = await this.shortcutRows.list(false);
    const openedAt = await this.rows.opened();
    const parentOf = await this.rows.parents();
    const slots = await this.pins.slots();
    const members = await this.rows.collections();
    const groups = review(
      rows.map((s) => {
        const { identity } = s;
        const isFile = identity?.type === 'file' && identity.size > 0;
        const parent = parentOf.get(s.id);
        return {
          id: s.id,
          name: s.name,
          kind: s.kind,
          target:
            s.target === 'original' ? `${s.placeId}/${s.originalId}` : `${s.target} ${s.programId ?? s.url ?? s.id}`,
          content:
            isFile && identity.fingerprint ? `${identity.size} ${identity.digest ?? identity.fingerprint}` : null,
          size: isFile ? identity.size : null,
          folder: parent === undefined ? null : `${s.placeId}/${parent}`,
          pinned: slots.has(s.id),
          addedAt: s.addedAt.getTime(),
          openedAt: openedAt.get(s.id) ?? null,
          lostSince: s.state === 'lost' ? s.stateSince.getTime() : null,
        };
      }),
      members,
      Date.now(),
    );
    const quiet = await this.rows.silenced();
    const of = new Map(members.map((m) => [m.id, m]));
    return groups
      .filter((g) => !quiet.has(g.id))
      .map((g) => ({
        ...g,
        collections: g.collections.map((id) => ({ id, name: of.get(id)!.name, members: of.get(id)!.members.length })),
      }));
  }

  /** It is meant so: for good, as long as it is about the same things. */
  async silence(id: string): Promise<void> {
    await this.rows.silence(id);
    this.events.changed('check-up');
  }

  async onApplicationShutdown(): Promise<void> {
    clearInterval(this.timer);
    clearTimeout(this.soon);
    this.stopped = true;
    await this.running?.catch(() => undefined);
  }
}

/** Whether a change of a shortcut may be seen in the check-up. */
function touchesCheckUp({ before, after }: { before: object | null; after: object | null }): boolean {
  if (!before || !after) return true;
  return 'state' in after || 'removed_at' in after || 'left_alone' in after;
}
