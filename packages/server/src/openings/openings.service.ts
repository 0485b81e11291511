/** Opening things, and counting each opening. */
import { randomUUID } from 'node:crypto';
import { Inject, Injectable, Logger } from '@nestjs/common';
import { shown } from '@rellin/core/paths';
import type { OpenRequest, OpeningRecord, OpeningResult, OriginalId, PlaceId, ProgramId } from '@rellin/contract';
import { IdentityService } from '../identity/identity.service.js';
import { IndexerService } from '../indexing/indexer.service.js';
import type { ActTx } from '../journal/actTx.js';
import { JournalService, type WithinAct } from '../journal/journal.service.js';
import { previewKindOf } from '../originals/previewKind.js';
import { OriginalsService } from '../originals/originals.service.js';
import { DiskService } from '../disk/disk.service.js';
import { PlaceMonitor } from '../places/placeMonitor.service.js';
import { absolute } from '../disk/paths.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { ScanScheduler } from '../places/scanScheduler.service.js';
import { Refusal } from '../problems/refusal.js';
import { AssociationsService } from '../programs/associations.service.js';
import { ProgramsService } from '../programs/programs.service.js';
import { SettingsService } from '../settings/settings.service.js';
import type { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import { OpeningsRepository } from './openings.repository.js';
import { OPENER, type Opener, type HandOver } from './opener.js';
import type { RowChange } from '../journal/rowChange.js';

/** So long an answer waits for a failure that comes at once. */
const SOON_MS = 250;
const OUTCOME_KEPT_MS = 30_000;

const after = <T>(ms: number, value: T) => new Promise<T>((resolve) => setTimeout(() => resolve(value), ms));

interface Target {
  request: HandOver;
  name: string;
  placeId: PlaceId | null;
  originalId: OriginalId | null;
  programId: ProgramId | null;
  preview: OpeningResult['preview'];
}

@Injectable()
export class OpeningsService implements WithinAct {
  private readonly log = new Logger('openings');
  /** Of openings of which it is not known yet how they go. */
  private readonly outcomes = new Map<string, Promise<Refusal | undefined>>();

  constructor(
    @Inject(OPENER) private readonly opener: Opener,
    private readonly rows: OpeningsRepository,
    private readonly journal: JournalService,
    private readonly shortcuts: ShortcutsService,
    private readonly originals: OriginalsService,
    private readonly places: PlaceRegistry,
    private readonly monitor: PlaceMonitor,
    private readonly scans: ScanScheduler,
    private readonly programs: ProgramsService,
    private readonly associations: AssociationsService,
    private readonly identity: IdentityService,
    private readonly indexer: IndexerService,
    private readonly settings: SettingsService,
    private readonly disk: DiskService,
  ) {}

  async open(what: OpenRequest): Promise<OpeningResult> {
    let notice: string | null = null;
    let shortcut: ShortcutEntity | undefined;
    if (what.shortcutId !== undefined) {
      shortcut = await this.shortcuts.need(what.shortcutId);
      const before = shortcut.identity?.path;
      shortcut = await this.true(shortcut);
      if (before !== shortcut.identity?.path) notice = shortcut.stateReason;
    }
    const once = what.withProgramId ?? null;
    const target = shortcut ? await this.targetOf(shortcut, once) : await this.targetWithout(what, once);
    if (what.files?.length) await this.addFiles(target, what.files);
    const { failed, ...opened } = await this.opener.open(target.request);
    const id = randomUUID();
    const at = new Date().toISOString();
    const keep = async () => {
      const { recording } = await this.settings.all();
      const isKept = recording && what.record !== false;
      const act = { act: 'open', summary: `Opened “${shown(target.name)}”`, inStack: false };
      if (isKept)
        await this.journal.act(act, (tx) =>
          tx.insert('opening', {
            id,
            at,
            shortcut_id: shortcut?.id ?? null,
            place_id: target.placeId,
            original_id: target.originalId,
            program_id: target.programId,
            name: target.name,
            how: opened.how,
            argv: opened.argv,
            route: what.route,
          }),
        );
    };
    // what could not be opened is no opening: it is neither counted nor told as one
    const outcome = failed.then(async (failure) => {
      if (!failure) await keep();
      return failure;
    });
    const known = what.wait ? outcome : Promise.race([outcome, after(SOON_MS, 'pending' as const)]);
    const first = await known;
    if (first instanceof Refusal) throw first;
    if (first === 'pending') this.remember(id, outcome);
    return {
      openingId: id,
      name: target.name,
      ...opened,
      pending: first === 'pending',
      preview: target.preview,
      notice,
    };
  }

  private remember(id: string, outcome: Promise<Refusal | undefined>): void {
    this.outcomes.set(id, outcome);
    outcome.catch((error: Error) => this.log.warn(error.message));
    setTimeout(() => this.outcomes.delete(id), OUTCOME_KEPT_MS).unref();
  }

  /** Resolves when it is known that something was opened; refused where it was not. */
  async outcomeOf(id: string): Promise<void> {
    const failure = await this.outcomes.get(id);
    if (failure) throw failure;
  }

  /** The shortcut after a look at the disk, following a move that the watcher has not told of yet. */
  private async true(s: ShortcutEntity): Promise<ShortcutEntity> {
    await this.identity.examine([s.id]);
    let now = await this.shortcuts.need(s.id);
    // what is away is connected first, where the system can do that
    if (now.state === 'away' && now.placeId !== null && (await this.monitor.connect(now.placeId))) {
      await this.identity.examine([s.id]);
      now = await this.shortcuts.need(s.id);
    }
    const looking = now.placeId !== null && this.places.get(now.placeId)?.scan === 'running';
    if (looking && !(await this.identity.stands(now))) {
      await this.scans.scan(now.placeId!);
      await this.identity.examine([s.id]);
      now = await this.shortcuts.need(s.id);
    }
    // what the disk reported a moment ago may not be in the index yet
    if (now.placeId !== null && now.state !== 'away' && !(await this.identity.stands(now))) {
      await this.indexer.settle(now.placeId);
      await this.identity.examine([s.id]);
      now = await this.shortcuts.need(s.id);
    }
    return now;
  }

  /** Where it really is, within the places; a pipe, socket or device is nothing that a program is handed. */
  private async openable(placeId: PlaceId, path: string): Promise<string> {
    const real = await this.disk.real(placeId, path);
    const [sight] = await this.disk.sights(placeId, [real]);
    if (sight?.seen === 'entry' && sight.identity.type === 'other')
      throw new Refusal('cannot-open', `${shown(path)} is a pipe, a socket or a device; no program opens that.`);
    return real;
  }

  /** Files to open with a program; each must lie in a place, links included. */
  private async addFiles(target: Target, files: { placeId: PlaceId; originalId: OriginalId }[]): Promise<void> {
    const { request } = target;
    if (request.kind !== 'program')
      throw new Refusal('not-valid', `“${target.name}” is no program; nothing can be opened with it.`);
    if (!/%[fFuU]/.test(request.program.exec))
      throw new Refusal('cannot-open', `${request.program.name} does not take files to open.`, {
        remedy: 'Start it, and open the file from within.',
      });
    request.files = [];
    for (const { placeId, originalId } of files) {
      const { path } = await this.originals.whereabouts(placeId, originalId);
      request.files.push(await this.openable(placeId, path));
    }
  }

  private async targetOf(s: ShortcutEntity, once: string | null): Promise<Target> {
    const refuse = (kind: 'original-away' | 'original-lost' | 'original-unsure' | 'no-access', remedy: string) => {
      throw new Refusal(kind, `“${s.name}” cannot open now. ${s.stateReason}`, { remedy, shortcutId: s.id });
    };
    switch (s.state) {
      case 'away':
        refuse('original-away', 'Rellin could not connect its place. Connect it; the shortcut works again by itself.');
        break;
      case 'lost':
        refuse('original-lost', 'Repoint it on its card, or leave it: if the original comes back, it works again.');
        break;
      case 'unsure':
        refuse('original-unsure', 'Choose on its card which of the candidates is meant.');
        break;
      case 'no-access':
        refuse('no-access', 'Change the permissions of the original or of a folder above it.');
        break;
      case 'ready':
      case 'followed':
      case 'saved-over':
        break;
    }
    const none = { placeId: null, originalId: null, programId: null, preview: null };
    if (s.target === 'web') return { ...none, name: s.name, request: { kind: 'address', url: s.url! } };
    if (s.target === 'program') return { ...this.programTarget(s.programId!), name: s.name };
    const target =
      s.originalId === null
        ? await this.unreadTarget(s, once ?? s.openWith)
        : await this.originalTarget(s.placeId!, s.originalId, once ?? s.openWith);
    return { ...target, name: s.name };
  }

  private async targetWithout(what: OpenRequest, once: string | null): Promise<Target> {
    if (what.programId !== undefined) return this.programTarget(what.programId);
    if (what.placeId !== undefined && what.originalId !== undefined)
      return this.originalTarget(what.placeId, what.originalId, once);
    throw new Refusal('not-valid', 'There is nothing named to open.');
  }

  private programTarget(programId: ProgramId): Target {
    const program = this.programs.find(programId);
    if (!program) throw new Refusal('original-lost', 'That program is not installed any more.');
    return {
      request: { kind: 'program', program },
      name: program.name,
      placeId: null,
      originalId: null,
      programId,
      preview: null,
    };
  }

  private async originalTarget(placeId: PlaceId, originalId: OriginalId, openWith: string | null): Promise<Target> {
    const { row, path } = await this.originals.whereabouts(placeId, originalId);
    const real = await this.openable(placeId, path);
    const program = await this.associations.chosen(openWith, row.kind);
    return {
      request: program ? { kind: 'program', program, files: [real] } : { kind: 'path', path: real },
      name: row.name || this.places.need(placeId).entity.name,
      placeId,
      originalId,
      programId: null,
      preview: { placeId, originalId: originalId, kind: previewKindOf(row.kind, row.name) },
    };
  }

  /** A file whose folder is still being read for the first time: known by what stands on the disk, not by the index. */
  private async unreadTarget(s: ShortcutEntity, openWith: string | null): Promise<Target> {
    const place = this.places.need(s.placeId!);
    if (!s.identity || !(await this.identity.stands(s)))
      throw new Refusal('not-found', `${place.entity.name} is still being read; “${s.name}” shows in a moment.`);
    const real = await this.openable(place.entity.id, absolute(place.entity.root, s.identity.path));
    const program = await this.associations.chosen(openWith, s.kind);
    return {
      request: program ? { kind: 'program', program, files: [real] } : { kind: 'path', path: real },
      name: s.name,
      placeId: place.entity.id,
      originalId: null,
      programId: null,
      preview: null,
    };
  }

  /** The decayed counts follow openings that come and, by undo, go. */
  async withinAct(changes: RowChange[], tx: ActTx): Promise<void> {
    const openings = changes.filter((c) => c.table === 'opening');
    if (openings.length === 0) return;
    const { halfLifeDays } = await this.settings.all();
    for (const { before, after } of openings) {
      const shortcutId = (after ?? before)?.shortcut_id;
      if (!shortcutId) continue;
      if (after?.at) await this.rows.count(tx.manager, shortcutId, Date.parse(after.at), halfLifeDays);
      else await this.rows.countAnew(tx.manager, [shortcutId], halfLifeDays);
    }
  }

  /** The latest openings, newest first. */
  async recent(limit: number): Promise<OpeningRecord[]> {
    const rows = await this.rows.recent(limit);
    return rows.map((o) => ({
      id: o.id,
      at: o.at.toISOString(),
      name: o.name,
      how: o.how,
      argv: o.argv,
      shortcutId: o.shortcutId,
      placeId: o.placeId,
      originalId: o.originalId,
    }));
  }
}
