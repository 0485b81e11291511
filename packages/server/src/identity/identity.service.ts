/**
 * Keeps each shortcut true to its original: gathers what the disk and the index say, lets core decide, and applies it.
 * Observations (away, lost, ready again) are written as they are; following is an act with a line in the journal.
 */
import { lstat } from 'node:fs/promises';
import { Injectable, Logger } from '@nestjs/common';
import { DataSource, In, IsNull } from 'typeorm';
import {
  decide,
  FULL_FINGERPRINT,
  type Candidate,
  type Decision,
  type Identity,
  type Sight,
} from '@rellin/core/identity';
import { shown } from '@rellin/core/paths';
import { absolute, diskPath } from '../disk/paths.js';
import { entryStat } from '../disk/stat.js';
import { EventsService } from '../events/events.service.js';
import { JournalService } from '../journal/journal.service.js';
import { OriginalsRepository, type OriginalRecord } from '../originals/originals.repository.js';
import { PlacesService, type LivePlace, type PlaceEvent } from '../places/places.service.js';
import { ProgramsService } from '../programs/programs.service.js';
import { ShortcutEntity } from '../shortcuts/shortcut.entity.js';
import { digestOf, fingerprintOf } from './fingerprint.js';

/** What was copied and its original removed within this time counts as moved. */
const MOVE_WINDOW_MS = 120_000;
/** Larger files get their full digest in the background. */
const DIGEST_LIMIT = 512 * 1024 * 1024;
const ALIKE_LIMIT = 20;

@Injectable()
export class IdentityService {
  private readonly log = new Logger('identity');
  private queue: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly db: DataSource,
    private readonly places: PlacesService,
    private readonly originals: OriginalsRepository,
    private readonly programs: ProgramsService,
    private readonly journal: JournalService,
    private readonly events: EventsService,
  ) {
    places.onEvent((event) => this.afterPlaceEvent(event));
    programs.onChange(() => void this.examinePrograms().catch((e: Error) => this.log.warn(e.message)));
    journal.onChange(async (changes, tx, { act, direction }) => {
      if (act !== 'follow' || direction !== 'undo') return;
      // the person says that this is not it: never go there by itself again
      for (const { id, before } of changes) {
        const to = before?.['identity'] as Identity | undefined;
        if (to)
          await tx.manager.query(`UPDATE shortcut SET rejected = rejected || $2::jsonb WHERE id = $1`, [
            id,
            JSON.stringify([{ inode: to.inode, birth: to.birth }]),
          ]);
      }
    });
    journal.onCommitted((changes, { direction }) => {
      const ids = changes.filter((c) => c.table === 'shortcut' && c.after !== null).map((c) => c.id);
      if (direction !== 'do' && ids.length > 0) void this.examine(ids).catch((e: Error) => this.log.warn(e.message));
    });
  }

  private async afterPlaceEvent(event: PlaceEvent): Promise<void> {
    const repository = this.db.getRepository(ShortcutEntity);
    const { placeId } = event;
    if (event.kind === 'state') {
      const ids = await repository.find({ select: { id: true }, where: { placeId, removedAt: IsNull() } });
      // a place that is here again is compared first; until then its shortcuts go by what stands at their paths
      await this.examine(ids.map((s) => s.id));
      return;
    }
    const { written, whole } = event;
    if (whole || written.foldersTouched || written.touched.length > 2000) {
      const ids = await repository.find({ select: { id: true }, where: { placeId, removedAt: IsNull() } });
      await this.examine(ids.map((s) => s.id));
    } else if (written.touched.length > 0) {
      const ids = await repository.find({
        select: { id: true },
        where: { placeId, originalId: In(written.touched), removedAt: IsNull() },
      });
      await this.examine(ids.map((s) => s.id));
    }
    if (written.added + written.changed > 0) {
      const waiting = await repository.find({
        select: { id: true },
        where: { state: In(['lost', 'unsure']), removedAt: IsNull() },
      });
      await this.examine(waiting.map((s) => s.id));
    }
  }

  /** Every shortcut to a program: one may have been installed or removed, also while Rellin was stopped. */
  async examinePrograms(): Promise<void> {
    const found = await this.db
      .getRepository(ShortcutEntity)
      .find({ select: { id: true }, where: { target: 'program', removedAt: IsNull() } });
    await this.examine(found.map((s) => s.id));
  }

  /** Looks at shortcuts anew, one after another; resolves when their states hold. */
  examine(ids: readonly string[]): Promise<void> {
    if (ids.length === 0) return Promise.resolve();
    const run = this.queue.then(() => this.examineNow(ids));
    this.queue = run.catch(() => undefined);
    return run;
  }

  private async examineNow(ids: readonly string[]): Promise<void> {
    const shortcuts = await this.db.getRepository(ShortcutEntity).findBy({ id: In([...ids]) });
    for (const shortcut of shortcuts) {
      if (shortcut.target === 'program') await this.examineProgram(shortcut);
      else if (shortcut.target === 'original') await this.examineOriginal(shortcut);
    }
  }

  private async examineProgram(shortcut: ShortcutEntity): Promise<void> {
    const program = this.programs.find(shortcut.programId!);
    if (program) await this.observe(shortcut, 'ready', '');
    else await this.observe(shortcut, 'lost', 'The program is not installed any more.');
  }

  private async examineOriginal(shortcut: ShortcutEntity): Promise<void> {
    const recorded = shortcut.identity!;
    const place = this.places.get(shortcut.placeId!);
    if (!place) return this.observe(shortcut, 'away', 'Rellin does not look into its place any more.');
    const decision = await this.decideFor(shortcut, recorded, place);
    await this.apply(shortcut, recorded, place, decision);
  }

  private async decideFor(shortcut: ShortcutEntity, recorded: Identity, place: LivePlace): Promise<Decision> {
    const nothing = { sameInode: [], sameSize: [], lastSeen: 0 };
    if (place.state === 'away') return decide(recorded, { place: 'away', atPath: { seen: 'nothing' }, ...nothing });
    const atPath = await this.sight(place, recorded.path);
    const samePlace = { place: 'here' as const, atPath };
    if (atPath.seen === 'entry' && atPath.identity.inode === recorded.inode)
      return decide(recorded, { ...samePlace, ...nothing });
    if (atPath.seen === 'denied' || atPath.seen === 'failed') return decide(recorded, { ...samePlace, ...nothing });
    // whoever is elsewhere is known only when the place has been looked through: on start, or when it came back
    if (place.scan === 'running') return { state: 'unchanged', reason: 'its place is being looked through' };
    const rejected = (c: Candidate) =>
      shortcut.rejected.some((r) => r.inode === c.identity.inode && r.birth === c.identity.birth);
    const sameInode = (await this.candidates(await this.originals.withInode(place.entity.id, recorded.inode)))
      .filter((c) => c.identity.path !== recorded.path)
      .filter((c) => !rejected(c));
    if (sameInode.some((c) => c.identity.birth === 0 && recorded.birth === 0))
      for (const c of sameInode) await this.addContent(c);
    const cameFrom = (await this.originals.at(place.entity.id, recorded.path))?.cameFrom ?? undefined;
    const lastSeen = place.verifiedAt - MOVE_WINDOW_MS;
    const found = decide(recorded, { ...samePlace, sameInode, sameSize: [], cameFrom, lastSeen });
    if (found.state !== 'lost' || recorded.type !== 'file' || recorded.size === 0) return found;
    // nothing by inode: the same content somewhere, perhaps in another place
    const here = this.places.all().filter((p) => p.state === 'here');
    const alike = await this.originals.withSize(
      here.map((p) => p.entity.id),
      recorded.size,
      ALIKE_LIMIT,
    );
    const sameSize = (await this.candidates(alike)).filter((c) => !rejected(c));
    for (const c of sameSize) await this.addContent(c, recorded.digest !== undefined);
    // a file older than the loss cannot be where it went, however late the index met it
    for (const c of sameSize) if (c.identity.birth > 0) c.firstSeen = Math.min(c.firstSeen, c.identity.birth);
    return decide(recorded, { ...samePlace, sameInode, sameSize, cameFrom, lastSeen });
  }

  private async sight(place: LivePlace, path: string): Promise<Sight> {
    try {
      const s = await lstat(diskPath(absolute(place.entity.root, path)));
      return { seen: 'entry', identity: { ...entryStat(s), path } };
    } catch (error) {
      const code = (error as NodeJS.ErrnoException).code;
      if (code === 'ENOENT' || code === 'ENOTDIR') return { seen: 'nothing' };
      if (code === 'EACCES' || code === 'EPERM') return { seen: 'denied' };
      return { seen: 'failed', reason: (error as Error).message };
    }
  }

  /** Index rows as candidates, each looked at on the disk: the index may be behind. */
  private async candidates(rows: OriginalRecord[]): Promise<Candidate[]> {
    const out: Candidate[] = [];
    for (const row of rows) {
      const place = this.places.get(row.placeId);
      const path = await this.originals.pathOf(row.placeId, row.id);
      if (!place || path === undefined) continue;
      const seen = await this.sight(place, path);
      if (seen.seen === 'entry')
        out.push({
          identity: seen.identity,
          firstSeen: row.firstSeen,
          placeId: row.placeId,
          originalId: String(row.id),
        });
    }
    return out;
  }

  private async addContent(candidate: Candidate, whole = false): Promise<void> {
    const { identity, placeId } = candidate;
    if (identity.type !== 'file') return;
    const path = absolute(this.places.need(placeId).entity.root, identity.path);
    identity.fingerprint = await fingerprintOf(path, identity.size);
    if (whole && identity.size > FULL_FINGERPRINT && identity.size <= DIGEST_LIMIT)
      identity.digest = await digestOf(path);
  }

  private async apply(s: ShortcutEntity, recorded: Identity, place: LivePlace, decision: Decision): Promise<void> {
    switch (decision.state) {
      case 'ready': {
        await this.remember(s, recorded, decision.identity, place);
        const stays = s.state === 'followed' || s.state === 'saved-over';
        return stays ? undefined : this.observe(s, 'ready', '');
      }
      case 'saved-over':
        await this.remember(s, recorded, decision.identity, place);
        return this.observe(s, 'saved-over', 'Another file was saved under its path; the shortcut stays there.');
      case 'followed':
        return this.follow(s, recorded, decision.to, decision.evidence);
      case 'away':
        return this.observe(s, 'away', `${place.entity.name} is away: ${place.awayReason || 'not connected'}.`);
      case 'no-access':
        return this.observe(s, 'no-access', 'The system does not let Rellin look at it.');
      case 'unsure':
        return this.observe(
          s,
          'unsure',
          decision.reason === 'several-alike'
            ? `Its file is gone; ${decision.candidates.length} with the same content remain.`
            : 'Something of another type stands at its path.',
          decision.candidates,
        );
      case 'lost':
        return this.observe(s, 'lost', 'Not found in any place.');
      case 'unchanged':
        return undefined;
    }
  }

  /** Follows the original to where it is now: an act of Rellin's own, with its evidence, that can be taken back. */
  private async follow(s: ShortcutEntity, recorded: Identity, to: Candidate, evidence: string): Promise<void> {
    const from = absolute(this.places.need(s.placeId!).entity.root, recorded.path);
    const target = this.places.need(to.placeId);
    const path = absolute(target.entity.root, to.identity.path);
    const identity: Identity = { ...to.identity };
    if (identity.type === 'file') {
      identity.fingerprint = await fingerprintOf(path, identity.size);
      if (recorded.digest && identity.fingerprint === recorded.fingerprint) identity.digest = recorded.digest;
    }
    const row = await this.originals.find(to.placeId, Number(to.originalId));
    await this.journal.act(
      {
        act: 'follow',
        summary: `Followed “${s.name}” to ${shown(path)} (${evidence.replaceAll('-', ' ')})`,
        by: 'automatic',
        inStack: false,
      },
      (tx) =>
        tx.update('shortcut', s.id, {
          place_id: to.placeId,
          original_id: Number(to.originalId),
          kind: row?.kind ?? s.kind,
          identity,
          state: 'followed',
          state_reason: `Its original moved here from ${shown(from)}.`,
          state_since: new Date().toISOString(),
          followed_from: from,
          candidates: [],
        }),
    );
  }

  /** Keeps identity, content and the index's id after the file at the recorded path. */
  private async remember(s: ShortcutEntity, recorded: Identity, now: Identity, place: LivePlace): Promise<void> {
    const row = await this.originals.at(place.entity.id, recorded.path);
    const sameStat =
      recorded.inode === now.inode &&
      recorded.size === now.size &&
      recorded.mtime === now.mtime &&
      recorded.birth === now.birth;
    const complete = now.type !== 'file' || recorded.fingerprint !== undefined;
    if (sameStat && complete && (row === undefined || row.id === s.originalId)) return;
    const identity: Identity = { ...now };
    if (now.type === 'file')
      identity.fingerprint = await fingerprintOf(absolute(place.entity.root, recorded.path), now.size);
    await this.db
      .getRepository(ShortcutEntity)
      .update(s.id, { identity, originalId: row?.id ?? s.originalId, kind: row?.kind ?? s.kind });
    s.identity = identity;
    this.events.changed('shortcuts');
    void this.digestLater(s.id, identity, place);
  }

  /** Adds the full digest of a file too large for its fingerprint to cover, when there is time. */
  async digestLater(id: string, identity: Identity, place: LivePlace): Promise<void> {
    if (identity.type !== 'file' || identity.size <= FULL_FINGERPRINT || identity.size > DIGEST_LIMIT) return;
    const digest = await digestOf(absolute(place.entity.root, identity.path));
    if (!digest) return;
    await this.db
      .query(
        `UPDATE shortcut SET identity = identity || jsonb_build_object('digest', $2::text)
         WHERE id = $1 AND identity->>'mtime' = $3 AND identity->>'inode' = $4`,
        [id, digest, JSON.stringify(identity.mtime), String(identity.inode)],
      )
      .catch(() => undefined);
  }

  private async observe(
    s: ShortcutEntity,
    state: ShortcutEntity['state'],
    reason: string,
    candidates: Candidate[] = [],
  ): Promise<void> {
    const list = candidates.map((c) => ({
      placeId: c.placeId,
      originalId: c.originalId,
      path: absolute(this.places.need(c.placeId).entity.root, c.identity.path),
    }));
    if (s.state === state && s.stateReason === reason && list.length === s.candidates.length) return;
    await this.db
      .getRepository(ShortcutEntity)
      .update(s.id, { state, stateReason: reason, stateSince: new Date(), candidates: list });
    this.events.changed('shortcuts', 'pins', 'originals');
  }

  /** Whether the very file it is known by stands at its recorded path. */
  async stands(s: ShortcutEntity): Promise<boolean> {
    const place = s.placeId === null ? undefined : this.places.get(s.placeId);
    if (!place || !s.identity) return false;
    const seen = await this.sight(place, s.identity.path);
    return seen.seen === 'entry' && seen.identity.inode === s.identity.inode;
  }

  /** What a new shortcut to this original is known by. */
  async identityOf(place: LivePlace, path: string): Promise<Identity | undefined> {
    const seen = await this.sight(place, path);
    if (seen.seen !== 'entry') return undefined;
    const identity = seen.identity;
    if (identity.type === 'file')
      identity.fingerprint = await fingerprintOf(absolute(place.entity.root, path), identity.size);
    return identity;
  }
}
