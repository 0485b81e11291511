/** What the disk and the index say of a shortcut's original, and what core decides from that. */
import { Injectable } from '@nestjs/common';
import {
  decide,
  type Candidate,
  type Decision,
  type Observation,
  type Identity,
  type ShortcutState,
  type Sight,
} from '@rellin/core/identity';
import { grouped } from '@rellin/core/lists';
import { nameOf } from '@rellin/core/paths';
import type { ShortcutId } from '@rellin/contract';
import { DiskHangs, DiskService } from '../disk/disk.service.js';
import { absolute } from '../disk/paths.js';
import { OriginalsRepository, type OriginalRecord } from '../originals/originals.repository.js';
import { PlaceRegistry, type LivePlace } from '../places/placeRegistry.js';
import type { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { DigestsService } from './digests.service.js';
import { IdentityRepository } from './identity.repository.js';

const ALIKE_LIMIT = 20;
/** In these states the recorded original stood at its path when the state began. */
const STANDS: ReadonlySet<ShortcutState> = new Set(['ready', 'followed', 'saved-over']);
const NOTHING_ELSE = { sameInode: [], sameSize: [], lastSeen: 0 };

const isFound = ({ state }: Decision) => state === 'ready' || state === 'followed' || state === 'saved-over';

/** One shortcut with what was decided of it. */
export interface Decided {
  shortcut: ShortcutEntity;
  decision: Decision;
  /** The index's row for what stands at the recorded path, where that is known already. */
  row?: OriginalRecord;
}

/** Decided when the index has heard. */
export const BEHIND: Decision = { state: 'unchanged', reason: 'the index has not heard of it yet' };

/** A shortcut whose original does not stand at its recorded path. */
export interface Missing {
  shortcut: ShortcutEntity;
  /** What stands there now. */
  atPath: Sight;
  /** Whether the index may be waited for. */
  waits: boolean;
  /** Where the index has its original. */
  knownPath: string | undefined;
}

@Injectable()
export class IdentityProbeService {
  /** Until when each that is missing was known to stand: its place goes on being verified without it. */
  private readonly stoodUntil = new Map<ShortcutId, number>();

  constructor(
    private readonly rows: IdentityRepository,
    private readonly disk: DiskService,
    private readonly places: PlaceRegistry,
    private readonly originals: OriginalsRepository,
    private readonly digests: DigestsService,
  ) {}

  /**
   * Shortcuts of one place. What stands where it stood, and what the index saw move within the place, is decided at
   * once; what is missing is to be looked for. While the index has not heard of what the disk shows, a shortcut is left
   * as it is: what seems to be nowhere, or the only one alike, may be one of many that just moved. `impatient` ones are
   * decided all the same.
   */
  async lookAt(
    place: LivePlace,
    shortcuts: readonly ShortcutEntity[],
    impatient: ReadonlySet<string>,
  ): Promise<{ decided: Decided[]; missing: Missing[] }> {
    if (place.state === 'away') {
      const away = { place: 'away', atPath: { seen: 'nothing' }, ...NOTHING_ELSE } as const;
      const decided = shortcuts.map((shortcut) => ({ shortcut, decision: decide(shortcut.identity!, away) }));
      return { decided, missing: [] };
    }
    const [sights, rows] = await Promise.all([
      this.sights(
        place,
        shortcuts.map((s) => s.identity!.path),
      ),
      this.originals.located(
        place.entity.id,
        shortcuts.flatMap((s) => (s.originalId === null ? [] : [s.originalId])),
      ),
    ]);
    const decided: Decided[] = [];
    const moved: (Missing & { row: OriginalRecord; path: string })[] = [];
    const missing: Missing[] = [];
    shortcuts.forEach((shortcut, i) => {
      const recorded = shortcut.identity!;
      const atPath = sights[i]!;
      const known = shortcut.originalId === null ? undefined : rows.get(shortcut.originalId);
      const waits = place.watching === 'all' && !impatient.has(shortcut.id);
      const one: Missing = { shortcut, atPath, waits, knownPath: known?.path };
      if (atPath.seen === 'entry' && atPath.identity.inode === recorded.inode)
        decided.push({
          shortcut,
          decision: decide(recorded, { place: 'here', atPath, ...NOTHING_ELSE }),
          ...(known?.path === recorded.path && { row: known.row }),
        });
      else if (atPath.seen === 'failed' && !impatient.has(shortcut.id)) decided.push({ shortcut, decision: BEHIND });
      else if (atPath.seen === 'denied' || atPath.seen === 'failed')
        decided.push({ shortcut, decision: decide(recorded, { place: 'here', atPath, ...NOTHING_ELSE }) });
      // whoever is elsewhere is known only when the place has been looked through: on start, or when it came back
      else if (place.scan === 'running')
        decided.push({ shortcut, decision: { state: 'unchanged', reason: 'its place is being looked through' } });
      else if (atPath.seen === 'nothing' && waits && known?.path === recorded.path)
        decided.push({ shortcut, decision: BEHIND });
      else if (atPath.seen === 'nothing' && known && wasMoved(recorded, known) && !isRejected(shortcut, known.row))
        moved.push({ ...one, ...known });
      else missing.push(one);
    });
    const now = await this.sights(
      place,
      moved.map((m) => m.path),
    );
    moved.forEach(({ row, path: _, ...one }, i) => {
      const { shortcut, atPath } = one;
      const there = now[i]!;
      const sameInode: Candidate[] =
        there.seen === 'entry'
          ? [{ identity: there.identity, firstSeen: row.firstSeen, placeId: row.placeId, originalId: row.id }]
          : [];
      const decision = decide(shortcut.identity!, { ...NOTHING_ELSE, place: 'here', atPath, sameInode });
      if (decision.state === 'followed') decided.push({ shortcut, decision, row });
      else missing.push(one);
    });
    this.forgetFound(decided);
    return { decided, missing };
  }

  /** One that stands somewhere is missing anew when it is missing again. */
  private forgetFound(decided: readonly Decided[]): void {
    for (const { shortcut, decision } of decided) if (isFound(decision)) this.stoodUntil.delete(shortcut.id);
  }

  /** Until when it was known to stand; from then on something alike may be where it went. */
  private lastSeen(place: LivePlace, { id, state, stateSince }: ShortcutEntity): number {
    const since = STANDS.has(state) ? Infinity : stateSince.getTime();
    const until = Math.min(this.stoodUntil.get(id) ?? Infinity, place.verifiedAt, since);
    this.stoodUntil.set(id, until);
    return until;
  }

  /** Those that do not stand where they stood, and that the index did not see move. */
  async lookFor(place: LivePlace, missing: readonly Missing[]): Promise<Decided[]> {
    if (missing.length === 0) return [];
    const out: Decided[] = [];
    const rows = await this.originals.withInodes(
      place.entity.id,
      missing.map((m) => m.shortcut.identity!.inode),
    );
    const rowsOf = grouped(rows, (r) => r.inode);
    const seenOf = grouped(await this.candidates(rows), (c) => c.identity.inode);
    const namesakes = await this.namesakes(place, missing);
    const isAnothers = await this.othersOf(place, [
      ...missing.flatMap(({ atPath }) => (atPath.seen === 'entry' ? [atPath.identity] : [])),
      ...[...namesakes.values()].map((c) => c.identity),
    ]);
    const lost: { shortcut: ShortcutEntity; waits: boolean; observation: Observation }[] = [];
    for (const { shortcut, atPath, waits, knownPath } of missing) {
      const recorded = shortcut.identity!;
      const seen = seenOf.get(recorded.inode) ?? [];
      const occupant = atPath.seen === 'entry' ? await this.originals.at(place.entity.id, recorded.path) : undefined;
      if (waits && (seen.length < (rowsOf.get(recorded.inode)?.length ?? 0) || isNew(atPath, occupant, knownPath))) {
        out.push({ shortcut, decision: BEHIND });
        continue;
      }
      const sameInode = seen.filter((c) => c.identity.path !== recorded.path && !isRejected(shortcut, c.identity));
      if (sameInode.some((c) => c.identity.birth === 0 && recorded.birth === 0))
        for (const c of sameInode) await this.addContent(c);
      const namesake = namesakes.get(shortcut.id);
      const observation: Observation = {
        place: 'here',
        atPath,
        sameInode,
        sameSize: [],
        cameFrom: occupant?.cameFrom,
        isAnothers: atPath.seen === 'entry' && isAnothers(shortcut, atPath.identity),
        ...(namesake && !isAnothers(shortcut, namesake.identity) && { namesake }),
        ...(STANDS.has(shortcut.state) && { stoodSince: shortcut.stateSince.getTime() }),
        lastSeen: this.lastSeen(place, shortcut),
      };
      const decision = decide(recorded, observation);
      const isMissed =
        decision.state === 'lost' || (decision.state === 'unsure' && decision.reason === 'anothers-at-its-path');
      if (isMissed && recorded.type === 'file' && recorded.size > 0) lost.push({ shortcut, waits, observation });
      else out.push({ shortcut, decision });
    }
    // nothing by inode: the same content somewhere, perhaps in another place
    const here = this.places.all().filter((p) => p.state === 'here');
    const bySize = grouped(
      await this.originals.withSizes(
        here.map((p) => p.entity.id),
        lost.map((l) => l.shortcut.identity!.size),
      ),
      (r) => r.size,
    );
    const hasTwin = await this.twinsOf(lost.map((l) => l.shortcut));
    for (const { shortcut, waits, observation } of lost) {
      const recorded = shortcut.identity!;
      const ofSize = (bySize.get(recorded.size) ?? []).filter(
        (r) => r.placeId !== shortcut.placeId || r.id !== shortcut.originalId,
      );
      const some = ofSize.slice(0, ALIKE_LIMIT);
      const alike = await this.candidates(some);
      const sameSize = alike.filter((c) => !isRejected(shortcut, c.identity));
      for (const c of sameSize) {
        await this.addContent(c, recorded.digest !== undefined);
        // a file older than the loss cannot be where it went, however late the index met it
        if (c.identity.birth > 0) c.firstSeen = Math.min(c.firstSeen, c.identity.birth);
      }
      for (const [placeId, some] of grouped(sameSize, (c) => c.placeId)) {
        const isKnownByAnother = await this.othersOf(
          this.places.need(placeId),
          some.map((c) => c.identity),
        );
        for (const c of some) c.isAnothers = isKnownByAnother(shortcut, c.identity);
      }
      const decision = decide(recorded, { ...observation, sameSize, hasTwin: hasTwin(shortcut) });
      const isUnread = alike.length < some.length || sameSize.some((c) => c.identity.fingerprint === undefined);
      // "the only one" holds only where all that might be alike were looked at
      const isOnly = alike.length === ofSize.length;
      if (waits && isUnread) out.push({ shortcut, decision: BEHIND });
      else if (decision.state !== 'followed' || decision.evidence !== 'same-digest' || isOnly)
        out.push({ shortcut, decision });
      else out.push({ shortcut, decision: { state: 'unsure', candidates: [decision.to], reason: 'several-alike' } });
    }
    this.forgetFound(out);
    return out;
  }

  /**
   * Tells which of some files of a place another shortcut is known by: one that is recorded elsewhere, or came to the
   * same path from elsewhere. A second shortcut to the same original is none, wherever it has been followed to.
   */
  private async othersOf(
    place: LivePlace,
    files: readonly Identity[],
  ): Promise<(s: ShortcutEntity, now: Identity) => boolean> {
    const rows = await this.rows.withInodes(
      place.entity.id,
      files.flatMap((f) => (f.birth === 0 ? [] : [f.inode])),
    );
    const byInode = grouped(rows, (r) => r.inode);
    return (s, now) => {
      const at = this.pathOf(s);
      return (byInode.get(now.inode) ?? []).some(
        (o) =>
          o.id !== s.id &&
          o.birth === now.birth &&
          o.followedFrom !== at &&
          (o.path !== s.identity!.path || place.entity.id !== s.placeId || o.state === 'followed'),
      );
    };
  }

  /** Tells of some shortcuts whether another original of the catalogue has the same content as far as it was read. */
  private async twinsOf(shortcuts: readonly ShortcutEntity[]): Promise<(s: ShortcutEntity) => boolean> {
    const rows = await this.rows.withFingerprints(shortcuts.flatMap((s) => s.identity!.fingerprint ?? []));
    const byFingerprint = grouped(rows, (r) => r.fingerprint);
    return (s) => {
      const at = this.pathOf(s);
      return (byFingerprint.get(s.identity!.fingerprint ?? '') ?? []).some(
        (o) => (o.placeId !== s.placeId || o.path !== s.identity!.path) && o.followedFrom !== at,
      );
    };
  }

  /** Where a shortcut's original was recorded, as an absolute path. */
  private pathOf(s: ShortcutEntity): string | undefined {
    const root = this.places.get(s.placeId!)?.entity.root;
    return root === undefined ? undefined : absolute(root, s.identity!.path);
  }

  /** For each shortcut whose file is gone: what stands under its name where the index has gone with its folder. */
  private async namesakes(place: LivePlace, missing: readonly Missing[]): Promise<Map<string, Candidate>> {
    const asked = missing.flatMap(({ shortcut, atPath, knownPath: path }) => {
      const recorded = shortcut.identity!.path;
      const isElsewhere = path !== undefined && path !== recorded && nameOf(path) === nameOf(recorded);
      return atPath.seen === 'nothing' && isElsewhere ? [{ shortcut, path }] : [];
    });
    const out = new Map<string, Candidate>();
    const sights = await this.sights(
      place,
      asked.map(({ path }) => path),
    );
    for (const [i, { shortcut, path }] of asked.entries()) {
      const sight = sights[i]!;
      if (sight.seen !== 'entry' || isRejected(shortcut, sight.identity)) continue;
      // one that is known from elsewhere went there, and is not what was saved under the name
      const row = await this.originals.at(place.entity.id, path);
      if (row && row.cameFrom.length > 0) continue;
      const { id: placeId } = place.entity;
      out.set(shortcut.id, {
        identity: sight.identity,
        firstSeen: 0,
        placeId,
        originalId: shortcut.originalId!,
      });
    }
    return out;
  }

  /** What stands at paths below a place. A disk that hangs says nothing of any. */
  async sights(place: LivePlace, paths: readonly string[]): Promise<Sight[]> {
    const { id, root } = place.entity;
    try {
      const seen = await this.disk.sights(
        id,
        paths.map((path) => absolute(root, path)),
      );
      return seen.map((s, i) =>
        s.seen === 'entry' ? { seen: 'entry', identity: { ...s.identity, path: paths[i]! } } : s,
      );
    } catch (error) {
      if (!(error instanceof DiskHangs)) throw error;
      return paths.map(() => ({ seen: 'failed', reason: error.message }));
    }
  }

  /** Index rows as candidates, each looked at on the disk: the index may be behind. */
  private async candidates(rows: readonly OriginalRecord[]): Promise<Candidate[]> {
    const out: Candidate[] = [];
    for (const placeId of new Set(rows.map((r) => r.placeId))) {
      const place = this.places.get(placeId);
      const located =
        place &&
        (await this.originals.located(
          placeId,
          rows.flatMap((r) => (r.placeId === placeId ? [r.id] : [])),
        ));
      if (!place || !located) continue;
      const list = [...located.values()];
      const seen = await this.sights(
        place,
        list.map((l) => l.path),
      );
      list.forEach(({ row }, i) => {
        const s = seen[i]!;
        if (s.seen === 'entry')
          out.push({ identity: s.identity, firstSeen: row.firstSeen, placeId, originalId: row.id });
      });
    }
    return out;
  }

  private async addContent({ identity, placeId }: Candidate, whole = false): Promise<void> {
    if (identity.type !== 'file') return;
    const place = this.places.need(placeId);
    identity.fingerprint = await this.fingerprintOf(place, identity);
    if (whole && DigestsService.isFor(identity))
      identity.digest = await this.digests.of(absolute(place.entity.root, identity.path));
  }

  async fingerprintOf(place: LivePlace, { path, size }: Identity): Promise<string | undefined> {
    const { id, root } = place.entity;
    const found = await this.disk.fingerprints(id, [{ path: absolute(root, path), size }]).catch(() => [null]);
    return found[0] ?? undefined;
  }
}

/** Whether what stands at a path is another than the index knows there, or one it does not know while ours went on. */
function isNew(atPath: Sight, occupant: OriginalRecord | undefined, knownPath: string | undefined): boolean {
  if (atPath.seen !== 'entry') return false;
  return occupant ? occupant.inode !== atPath.identity.inode : knownPath !== undefined;
}

/** Whether the index went along with it to another path: the row is the same, and so is the file. */
function wasMoved(recorded: Identity, { path, row }: { path: string; row: OriginalRecord }): boolean {
  return path !== recorded.path && row.inode === recorded.inode && recorded.birth !== 0 && row.birth === recorded.birth;
}

/** Where the person said that this is not it. */
function isRejected(shortcut: ShortcutEntity, found: { inode: number; birth: number }): boolean {
  return shortcut.rejected.some((r) => r.inode === found.inode && r.birth === found.birth);
}
