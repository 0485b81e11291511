/**
 * Keeps each shortcut true to its original: has what the disk and the index say looked at, and applies what was
 * decided. Observations (away, lost, ready again) are written as they are; following is an act with a line in the
 * journal.
 */
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { Candidate, Identity } from '@rellin/core/identity';
import { grouped, piecesOf } from '@rellin/core/lists';
import { segmentsOf, shown } from '@rellin/core/paths';
import type { PlaceId } from '@rellin/contract';
import { folderMoves } from '@rellin/core/repair';
import { absolute } from '../disk/paths.js';
import { EventsService } from '../events/events.service.js';
import type { ActTx } from '../journal/actTx.js';
import { JournalService, type WithinAct, type AfterAct, type ChangeContext } from '../journal/journal.service.js';
import { OriginalsRepository, type OriginalRecord } from '../originals/originals.repository.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { PlaceRegistry, type LivePlace } from '../places/placeRegistry.js';
import { ProgramsService, type AfterPrograms } from '../programs/programs.service.js';
import { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { DigestsService } from './digests.service.js';
import { BEHIND, IdentityProbeService, type Decided, type Missing } from './identityProbe.service.js';
import type { RowChange } from '../journal/rowChange.js';
import { IdentityRepository } from './identity.repository.js';

/** So many are followed in one act at most. */
const AT_ONCE = 10_000;
/** So many are looked at together: while some are written, the next are looked at. */
const PIECE = 2000;
/** When to look again at what the index had not heard of, and how often before it is decided all the same. */
const LOOK_AGAIN_MS = 700;
const MOST_TRIES = 6;
/** After following, or after another file was met at a path, it is looked at once more. */
const ONCE_MORE_MS = 1000;
const RESTLESS: ReadonlySet<string> = new Set(['followed', 'saved-over', 'unsure', 'lost']);
/** So many of those followed together say whether it was one folder that moved. */
const TOLD_FROM = 200;

type Followed = Decided & { decision: { state: 'followed'; to: Candidate; evidence: string } };

/** What a first look says of shortcuts of one place. */
interface ProbedShortcut {
  place: LivePlace;
  decided: Decided[];
  missing: Missing[];
}

/** Writes in an act that some followed. */
type Write = (place: LivePlace, followed: readonly Followed[]) => Promise<void>;

/** What is to be written of a shortcut that was only looked at. */
interface Observed {
  shortcut: ShortcutEntity;
  state: ShortcutEntity['state'];
  reason: string;
  candidates?: Candidate[];
}

@Injectable()
export class IdentityService implements OnApplicationShutdown, WithinAct, AfterAct, AfterDisk, AfterPrograms {
  private readonly log = new Logger('identity');
  private queue: Promise<unknown> = Promise.resolve();
  /** Shortcuts that the index is waited for, with how often it was in vain. */
  private readonly behind = new Map<string, number>();
  private again: NodeJS.Timeout | undefined;
  /** Shortcuts that went elsewhere just now, to be looked at once more. */
  private readonly restless = new Set<string>();
  private onceMore: NodeJS.Timeout | undefined;
  private closing = false;
  /** Of each place the id that the next new original has: what is from there on came since. */
  private readonly nextId = new Map<number, number>();

  constructor(
    private readonly rows: IdentityRepository,
    private readonly looking: IdentityProbeService,
    private readonly digests: DigestsService,
    private readonly places: PlaceRegistry,
    private readonly originals: OriginalsRepository,
    private readonly programs: ProgramsService,
    private readonly journal: JournalService,
    private readonly events: EventsService,
  ) {}

  start(): Promise<void> {
    return this.examinePrograms();
  }

  /** Undoing a follow says that this is not it: it never goes there by itself again. */
  async withinAct(changes: RowChange[], tx: ActTx, { act, direction }: ChangeContext): Promise<void> {
    if (act !== 'follow' || direction !== 'undo') return;
    const left = changes.flatMap(({ table, id, before }) => {
      const to = table === 'shortcut' ? before?.identity : undefined;
      return to ? [{ id, rejected: [{ inode: to.inode, birth: to.birth }] }] : [];
    });
    await this.rows.reject(tx, left);
  }

  afterAct(changes: RowChange[], { direction }: ChangeContext): void {
    const ids = changes.filter((c) => c.table === 'shortcut' && c.after !== null).map((c) => c.id);
    if (direction !== 'do') this.examineAside(ids);
  }

  afterPrograms(): void {
    this.retried(() => this.examinePrograms());
  }

  async afterDisk(event: PlaceEvent): Promise<void> {
    const { placeId } = event;
    // a place that is here again is compared first; until then its shortcuts go by what stands at their paths
    if (event.kind === 'state') return this.examine(await this.rows.ofPlace(placeId));
    const { written, whole } = event;
    if (whole || written.foldersTouched || written.touched.length > 2000)
      await this.examine(await this.rows.ofPlace(placeId));
    else if (written.touched.length > 0) await this.examine(await this.rows.ofOriginals(placeId, written.touched));
    if (written.added + written.changed > 0) await this.examine(await this.waitingFor(event));
  }

  /** Lost and unsure shortcuts that what came may be: by inode, size or name; all of them after much came. */
  private async waitingFor({ placeId, written, whole }: Extract<PlaceEvent, { kind: 'written' }>): Promise<string[]> {
    const from = this.nextId.get(placeId);
    const nextId = await this.rows.nextId(placeId);
    if (nextId !== undefined) this.nextId.set(placeId, nextId);
    const few = from !== undefined && !whole && !written.foldersTouched && written.touched.length <= 2000;
    return this.rows.waiting(few ? { placeId, ids: written.touched, from } : undefined);
  }

  /** Every shortcut to a program: one may have been installed or removed, also while Rellin was stopped. */
  async examinePrograms(): Promise<void> {
    await this.examine(await this.rows.ofPrograms());
  }

  /** Looks again, in a moment, at those that the index had not heard of. */
  private lookAgainLater(ids: readonly string[]): void {
    for (const id of ids) this.behind.set(id, (this.behind.get(id) ?? 0) + 1);
    this.again ??= setTimeout(() => {
      this.again = undefined;
      this.examineAside([...this.behind.keys()]);
    }, LOOK_AGAIN_MS).unref();
  }

  /** What moved may go on while it is being followed: of that nobody need hear anything again. */
  private lookOnceMore(ids: readonly string[]): void {
    for (const id of ids) this.restless.add(id);
    this.onceMore ??= setTimeout(() => {
      this.onceMore = undefined;
      const ids = [...this.restless];
      this.restless.clear();
      this.examineAside(ids);
    }, ONCE_MORE_MS).unref();
  }

  private examineAside(ids: readonly string[]): void {
    this.retried(() => this.examine(ids));
  }

  /** Work that nobody waits for: where it fails (PostgreSQL may be away for a moment) it is done again. */
  private retried(work: () => Promise<void>, tries = 1): void {
    work().catch((error: Error) => {
      this.log.warn(error.message);
      if (this.closing || tries === MOST_TRIES) return;
      setTimeout(() => this.retried(work, tries + 1), LOOK_AGAIN_MS * 2 ** tries).unref();
    });
  }

  onApplicationShutdown(): void {
    this.closing = true;
    clearTimeout(this.onceMore);
    clearTimeout(this.again);
  }

  /** Looks at shortcuts anew; resolves when their states hold. */
  examine(ids: readonly string[]): Promise<void> {
    if (ids.length === 0) return Promise.resolve();
    const run = this.queue.then(async () => {
      for (const some of piecesOf(ids, AT_ONCE)) await this.examineNow(some);
    });
    this.queue = run.catch(() => undefined);
    return run;
  }

  private async examineNow(ids: readonly string[]): Promise<void> {
    const observed: Observed[] = [];
    const [first, ...rest] = piecesOf(ids, PIECE);
    let looked = await this.lookAt(first!, observed);
    const left: ProbedShortcut[] = [];
    const isMissing = ({ missing }: ProbedShortcut) => missing.length > 0;
    if (rest.length > 0 && !looked.some(isMissing)) {
      // thousands that moved together are written while the next are looked at; what takes longer comes after them
      await this.follow(async (write) => {
        for (const piece of [...rest, []]) {
          const next = this.lookAt(piece, observed);
          // where it fails it is told of below
          next.catch(() => undefined);
          for (const { place, decided } of looked) await write(place, await this.take(place, decided, observed));
          looked = await next;
          left.push(...looked.filter(isMissing).map((l) => ({ ...l, decided: [] })));
        }
      });
    } else {
      left.push(...looked);
      for (const piece of rest) left.push(...(await this.lookAt(piece, observed)));
    }
    const found: { place: LivePlace; followed: Followed[] }[] = [];
    for (const { place, decided, missing } of left) {
      const all = [...decided, ...(await this.looking.lookFor(place, missing))];
      found.push({ place, followed: await this.take(place, all, observed) });
    }
    if (found.some(({ followed }) => followed.length > 0))
      await this.follow(async (write) => {
        for (const { place, followed } of found) await write(place, followed);
      });
    await this.observe(observed);
  }

  /** What the disk and the index say at once; of what lies in no place that is all there is. */
  private async lookAt(ids: readonly string[], observed: Observed[]): Promise<ProbedShortcut[]> {
    if (ids.length === 0) return [];
    const shortcuts = await this.rows.some(ids);
    for (const shortcut of shortcuts) if (shortcut.target === 'program') observed.push(this.programOf(shortcut));
    const ofPlaces = grouped(
      shortcuts.filter((s) => s.target === 'original'),
      (s) => s.placeId!,
    );
    const out: ProbedShortcut[] = [];
    for (const [placeId, list] of ofPlaces) {
      const place = this.places.get(placeId);
      if (place) out.push({ place, ...(await this.looking.lookAt(place, list, this.impatient())) });
      else
        for (const shortcut of list)
          observed.push({ shortcut, state: 'away', reason: 'Rellin does not look into its place any more.' });
    }
    return out;
  }

  /** Those that were waited for long enough. */
  private impatient(): Set<string> {
    return new Set([...this.behind].filter(([, tries]) => tries >= MOST_TRIES).map(([id]) => id));
  }

  private programOf(shortcut: ShortcutEntity): Observed {
    return this.programs.find(shortcut.programId!)
      ? { shortcut, state: 'ready', reason: '' }
      : { shortcut, state: 'lost', reason: 'The program is not installed any more.' };
  }

  /**
   * Remembers what stands, looks later at what the index is behind with, adds to what was observed; gives what is to be
   * followed.
   */
  private async take(place: LivePlace, decided: readonly Decided[], observed: Observed[]): Promise<Followed[]> {
    for (const { shortcut, decision } of decided) if (decision !== BEHIND) this.behind.delete(shortcut.id);
    const behind = decided.filter((d) => d.decision === BEHIND).map((d) => d.shortcut.id);
    if (behind.length > 0) this.lookAgainLater(behind);
    const followed: Followed[] = [];
    const restless = decided.filter((d) => RESTLESS.has(d.decision.state) && d.shortcut.state !== d.decision.state);
    if (restless.length > 0 && restless.length <= PIECE) this.lookOnceMore(restless.map((d) => d.shortcut.id));
    for (const one of decided) {
      const { shortcut, decision, row } = one;
      switch (decision.state) {
        case 'ready':
          await this.remember(shortcut, decision.identity, place, row);
          if (shortcut.state !== 'followed' && shortcut.state !== 'saved-over')
            observed.push({ shortcut, state: 'ready', reason: '' });
          break;
        case 'saved-over':
          await this.remember(shortcut, decision.identity, place, row);
          observed.push({
            shortcut,
            state: 'saved-over',
            reason: 'Another file was saved under its path; the shortcut stays there.',
          });
          break;
        case 'followed':
          followed.push(one as Followed);
          break;
        case 'away':
          observed.push({
            shortcut,
            state: 'away',
            reason: `${place.entity.name} is away: ${place.awayReason || 'not connected'}.`,
          });
          break;
        case 'no-access':
          observed.push({ shortcut, state: 'no-access', reason: 'The system does not let Rellin look at it.' });
          break;
        case 'unsure':
          observed.push({
            shortcut,
            state: 'unsure',
            reason:
              decision.reason === 'several-alike'
                ? `Its file is gone; ${decision.candidates.length} with the same content remain.`
                : decision.reason === 'anothers-at-its-path'
                  ? 'The file of another shortcut stands at its path, and its own was not found.'
                  : decision.reason === 'named-like-a-backup'
                    ? 'Its file is there under a name that backups have; is that it?'
                    : 'Something of another type stands at its path.',
            candidates: decision.candidates,
          });
          break;
        case 'lost':
          observed.push({ shortcut, state: 'lost', reason: 'Not found in any place.' });
          break;
        case 'unchanged':
          break;
      }
    }
    return followed;
  }

  /** Follows originals to where they are now: one act of Rellin's own, with its evidence, that can be undone. */
  private async follow(work: (write: Write) => Promise<void>): Promise<void> {
    let count = 0;
    const told: Followed[] = [];
    await this.journal.act(
      { act: 'follow', summary: () => this.followedWords(told, count), by: 'automatic', inStack: false },
      (tx) =>
        work(async (place, followed) => {
          count += followed.length;
          told.push(...followed.slice(0, TOLD_FROM - told.length));
          await this.write(tx, place, followed);
        }),
    );
  }

  private async write(tx: ActTx, place: LivePlace, followed: readonly Followed[]): Promise<void> {
    const patches: [string, Record<string, unknown>][] = [];
    const moved: Record<'id' | 'path' | 'was_at' | 'reason' | 'state', string[]> = {
      id: [],
      path: [],
      was_at: [],
      reason: [],
      state: [],
    };
    const now = new Date().toISOString();
    for (const { shortcut, decision, row } of followed) {
      const recorded = shortcut.identity!;
      const { to } = decision;
      const identity: Identity = { ...to.identity };
      // a file that was only moved needs no reading
      const same =
        recorded.size === identity.size && recorded.mtime === identity.mtime && recorded.inode === identity.inode;
      if (identity.type === 'file') {
        identity.fingerprint =
          same && recorded.fingerprint !== undefined
            ? recorded.fingerprint
            : await this.looking.fingerprintOf(this.places.need(to.placeId), identity);
        if (recorded.digest && identity.fingerprint === recorded.fingerprint) identity.digest = recorded.digest;
      }
      const from = absolute(place.entity.root, recorded.path);
      // where it was before: a move that was undone leaves nothing to tell
      const isBack = shortcut.followedFrom === absolute(this.places.need(to.placeId).entity.root, identity.path);
      const reason = isBack ? '' : `Its original moved here from ${shown(from)}.`;
      const state = isBack ? 'ready' : 'followed';
      const found = row ?? (await this.originals.find(to.placeId, to.originalId));
      const isMovedOnly =
        to.placeId === shortcut.placeId &&
        to.originalId === shortcut.originalId &&
        (found?.kind ?? shortcut.kind) === shortcut.kind &&
        same &&
        recorded.type === identity.type &&
        recorded.birth === identity.birth &&
        recorded.fingerprint === identity.fingerprint &&
        recorded.digest === identity.digest;
      if (isMovedOnly) {
        moved.id.push(shortcut.id);
        moved.path.push(identity.path);
        moved.was_at.push(isBack ? '' : from);
        moved.reason.push(reason);
        moved.state.push(state);
        continue;
      }
      patches.push([
        shortcut.id,
        {
          place_id: to.placeId,
          original_id: to.originalId,
          kind: found?.kind ?? shortcut.kind,
          identity,
          state,
          state_reason: reason,
          state_since: now,
          followed_from: isBack ? null : from,
          candidates: [],
          left_alone: false,
        },
      ]);
    }
    await tx.updateMany('shortcut', patches);
    const { id, ...values } = moved;
    await tx.rewrite('shortcut', id, values, {
      identity: `t.identity || jsonb_build_object('path', v.path)`,
      state: 'v.state',
      state_reason: 'v.reason',
      state_since: `date_trunc('milliseconds', now())`,
      followed_from: `NULLIF(v.was_at, '')`,
      candidates: `'[]'`,
      left_alone: 'false',
    });
  }

  /** What the journal says of all of them, by the first few. */
  private followedWords(told: readonly Followed[], count: number): string {
    const [first] = told;
    const evidence = first!.decision.evidence.replaceAll('-', ' ');
    const from = ({ shortcut }: Followed) =>
      absolute(this.places.need(shortcut.placeId!).entity.root, shortcut.identity!.path);
    const to = ({ decision }: Followed) =>
      absolute(this.places.need(decision.to.placeId).entity.root, decision.to.identity.path);
    if (count === 1) return `Followed “${first!.shortcut.name}” to ${shown(to(first!))} (${evidence})`;
    const [move] = folderMoves(
      told.map((one) => ({ key: one.shortcut.id, path: segmentsOf(from(one)), found: [segmentsOf(to(one))] })),
      () => true,
    );
    const words = `Followed ${count} shortcuts (${evidence})`;
    if (!move || move.explains.length < told.length) return words;
    const [name, now] = [move.from.at(-1)!, move.to.at(-1)!];
    const parent = move.from.slice(0, -1).join('/');
    // what differs first: two long paths would be cut off before it
    return parent === move.to.slice(0, -1).join('/')
      ? `${words}: the folder “${shown(name)}” is “${shown(now)}” now, in ${shown(parent)}`
      : `${words}: ${shown(move.from.join('/'))} is now ${shown(move.to.join('/'))}`;
  }

  /** Keeps identity, content and the index's id after the file at the recorded path. */
  private async remember(s: ShortcutEntity, now: Identity, place: LivePlace, known?: OriginalRecord): Promise<void> {
    const recorded = s.identity!;
    const sameStat =
      recorded.inode === now.inode &&
      recorded.size === now.size &&
      recorded.mtime === now.mtime &&
      recorded.birth === now.birth;
    const complete = now.type !== 'file' || recorded.fingerprint !== undefined;
    if (sameStat && complete && known && known.id === s.originalId && known.kind === s.kind) return;
    const row = known ?? (await this.originals.at(place.entity.id, recorded.path));
    if (sameStat && complete && (row === undefined || (row.id === s.originalId && row.kind === s.kind))) return;
    const identity: Identity = { ...now };
    if (now.type === 'file') identity.fingerprint = await this.looking.fingerprintOf(place, now);
    await this.rows.saveIdentity(s.id, identity, row?.id ?? s.originalId, row?.kind ?? s.kind);
    s.identity = identity;
    this.events.changed('shortcuts');
    this.digests.forget(s.id);
    this.digests.fill();
  }

  /** Writes what differs from what stands there. */
  private async observe(observed: readonly Observed[]): Promise<void> {
    const rows = observed.flatMap(({ shortcut: s, state, reason, candidates = [] }) => {
      if (s.state === state && s.stateReason === reason && candidates.length === s.candidates.length) return [];
      const list = candidates.map((c) => ({
        placeId: c.placeId,
        originalId: c.originalId,
        path: absolute(this.places.need(c.placeId).entity.root, c.identity.path),
      }));
      return [{ id: s.id, state, reason, candidates: list }];
    });
    if (rows.length === 0) return;
    await this.rows.saveStands(rows);
    this.events.changed('shortcuts', 'pins', 'originals', 'check-up');
  }

  /** Whether the very file it is known by stands at its recorded path. */
  async stands(s: ShortcutEntity): Promise<boolean> {
    const place = s.placeId === null ? undefined : this.places.get(s.placeId);
    if (!place || !s.identity) return false;
    const [seen] = await this.looking.sights(place, [s.identity.path]);
    return seen!.seen === 'entry' && seen!.identity.inode === s.identity.inode;
  }

  /** Looks where shortcuts to these lead now, and to all below them: they were moved a moment ago. */
  async examineMoved(paths: readonly string[]): Promise<void> {
    const byPlace = new Map<PlaceId, Set<string>>();
    for (const path of paths) {
      const place = this.places.placeOf(path);
      if (!place) continue;
      const { id, root } = place.entity;
      const relative = path.slice(root === '/' ? 1 : root.length + 1);
      byPlace.set(id, (byPlace.get(id) ?? new Set()).add(relative));
    }
    for (const [placeId, relative] of byPlace) await this.examine(await this.rows.atOrBelow(placeId, relative));
  }

  /** What a new shortcut to this original is known by. */
  async identityOf(place: LivePlace, path: string): Promise<Identity | undefined> {
    return (await this.identitiesOf(place, [path]))[0];
  }

  /** The same of many at once, in their order. */
  async identitiesOf(place: LivePlace, paths: readonly string[]): Promise<(Identity | undefined)[]> {
    const seen = await this.looking.sights(place, paths);
    const identities = seen.map((s) => (s.seen === 'entry' ? s.identity : undefined));
    for (const identity of identities)
      if (identity?.type === 'file') identity.fingerprint = await this.looking.fingerprintOf(place, identity);
    return identities;
  }
}
