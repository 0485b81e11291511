/** The first steps: what is there to begin with, and all of what was chosen made in one act. No original is touched. */
import { randomUUID } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import type { Identity } from '@rellin/core/identity';
import { isWithin, nameOf, normalizeAbsolute, parentOf, segmentsOf, shown } from '@rellin/core/paths';
import { comingBy, totalSeconds } from '@rellin/core/reach';
import { compareNatural } from '@rellin/core/units';
import { firstStrip, tasksOf, type FirstStrip } from '@rellin/core/setUp';
import type {
  BoardId,
  CollectionId,
  FolderCount,
  NotMade,
  PlaceId,
  SetUpDone,
  SetUpRequest,
  SetUpView,
  ShortcutId,
} from '@rellin/contract';
import { BoardsService } from '../boards/boards.service.js';
import { CollectionsService } from '../collections/collections.service.js';
import { CONFIG, type Config } from '../config/config.js';
import { JournalService } from '../journal/journal.service.js';
import type { ActTx } from '../journal/actTx.js';
import { KeysService } from '../keys/keys.service.js';
import { PinsService } from '../pins/pins.service.js';
import { alwaysExcluded } from '../places/alwaysExcluded.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { PlacesService } from '../places/places.service.js';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from '../settings/settings.service.js';
import { ShortcutsService, type PreparedShortcut } from '../shortcuts/shortcuts.service.js';
import { LookingService } from '../places/looking.service.js';
import { OfferedFoldersService } from '../places/offeredFolders.service.js';
import { UsedThingsService, type FoundThing } from './usedThings.service.js';

/** Pins with a key of their own. */
const KEYED = 9;
/** The chosen folders themselves are opened now and then, a week (from memory). */
const FOLDER_RATE = 0.3;
/** An address that somebody took out of a file of bookmarks, a week (from memory). */
const ADDRESS_RATE = 0.5;
/** What was found is found again, so that what is offered can be asked for by its key. */
const KEPT_MS = 10 * 60_000;
const COLLECTION_NAME = 'Folders to move or copy to';
const BOARD_NAME = 'By task';

/** A shortcut about to be made, with what its place on strip and board is calculated from. */
interface Starting extends PreparedShortcut {
  /** Absolute path; empty for a program or an address. */
  path: string;
  rate: number;
  uses: number;
}

@Injectable()
export class SetUpService {
  private found: { at: number; things: ReadonlyMap<string, FoundThing> } | undefined;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly folders: OfferedFoldersService,
    private readonly used: UsedThingsService,
    private readonly looking: LookingService,
    private readonly places: PlacesService,
    private readonly registry: PlaceRegistry,
    private readonly shortcuts: ShortcutsService,
    private readonly collections: CollectionsService,
    private readonly boards: BoardsService,
    private readonly pins: PinsService,
    private readonly keys: KeysService,
    private readonly settings: SettingsService,
    private readonly journal: JournalService,
  ) {}

  async view(): Promise<SetUpView> {
    const folders = await this.folders.list();
    const { things, trouble } = await this.used.find(folders, Date.now());
    this.found = { at: Date.now(), things: new Map(things.map((t) => [t.key, t])) };
    const offered = new Set(folders.map((folder) => folder.path));
    const needed = [...new Set(things.flatMap((t) => t.folder ?? []))].filter((path) => !offered.has(path));
    return {
      home: this.config.xdg.home,
      folders: [
        ...folders,
        ...needed.map((path) => ({
          path,
          name: nameOf(path) || path,
          origin: 'used' as const,
          proposed: things.some((t) => t.proposed && t.folder === path),
          placeId: null,
        })),
      ],
      things: things.map(({ uses: _, identity: __, ...thing }) => thing),
      trouble,
    };
  }

  count(path: string): Promise<FolderCount> {
    const root = normalizeAbsolute(path);
    if (!root) throw new Refusal('not-valid', 'A folder is given by its path.');
    return this.looking.count(root, alwaysExcluded(root, this.config.xdg.home));
  }

  /** What was offered; found anew where that was long ago. */
  private async things(): Promise<ReadonlyMap<string, FoundThing>> {
    if (!this.found || Date.now() - this.found.at > KEPT_MS) await this.view();
    return this.found!.things;
  }

  /** All of it is one act, and one undo takes all of it back. What cannot be made is left out and told. */
  async setUp(request: SetUpRequest): Promise<SetUpDone> {
    const notMade: NotMade[] = [];
    const fit = await this.fitFolders(request.folders, notMade);
    const chosen = await this.chosen(request, notMade);
    const { pinLimit, pinWorth, reachConstants, coming } = await this.settings.all();
    const constants = reachConstants as never;
    const done: SetUpDone = {
      places: 0,
      shortcuts: 0,
      pins: 0,
      keys: 0,
      collectionId: null,
      boardId: null,
      notMade,
    };
    const summary = () => `Set up Rellin: ${counted(done.places, 'folder')}, ${counted(done.shortcuts, 'shortcut')}`;
    await this.journal.act({ act: 'set-up', summary }, async (tx) => {
      // another window may have set up meanwhile
      const places = await this.places.insertAll(
        tx,
        fit.map((f) => f.root),
      );
      const fresh = fit.filter((f) => places.has(f.root));
      done.places = fresh.length;
      const all = this.starting(chosen, fresh, places, notMade);
      const made = await this.shortcuts.withoutThere(tx, all);
      await this.shortcuts.insertAll(tx, made);
      done.shortcuts = made.length;
      const pinned = (await this.pins.list()).length;
      const strip = firstStrip(
        made.map((s) => ({ id: s.id, name: s.name, trail: trailOf(s.path), rate: s.rate, uses: s.uses })),
        {
          constants,
          limit: Math.max(0, pinLimit - pinned),
          keys: Math.max(0, KEYED - pinned),
          movePenalty: 0,
          before: totalSeconds(comingBy(coming, constants)),
        },
        await this.keys.free(constants, coming),
        pinWorth,
      );
      await this.applyStrip(tx, strip);
      done.pins = strip.pins.length;
      done.keys = strip.keys.length;
      done.collectionId = await this.collect(tx, made);
      if (request.way === 'board') done.boardId = await this.board(tx, made);
      await this.settings.set(tx, {
        setUp: 'done',
        ...(done.boardId !== null && { startView: 'boards' as const }),
      });
    });
    this.found = undefined;
    await this.places.brought();
    this.shortcuts.inserted();
    return done;
  }

  /** Those that can be looked into, of nested ones the outermost; what is looked into already needs nothing. */
  private async fitFolders(asked: readonly string[], notMade: NotMade[]): Promise<FitFolder[]> {
    const roots: string[] = [];
    for (const text of [...new Set(asked)].sort((a, b) => a.length - b.length)) {
      const root = normalizeAbsolute(text);
      if (!root) notMade.push({ name: shown(text), reason: 'A folder is given by its path.' });
      else if (!roots.some((r) => isWithin(r, root)) && !this.registry.placeOf(root)) roots.push(root);
    }
    const looked = await this.looking.resolved(roots);
    const fit: FitFolder[] = [];
    await Promise.all(
      roots.map(async (root, i) => {
        try {
          await this.places.refuseUnfit(root);
          const sight = looked[i]?.sight;
          if (sight?.seen !== 'entry') throw new Refusal('not-found', `${shown(root)} went away.`);
          fit.push({ root, identity: sight.identity });
        } catch (error) {
          if (!(error instanceof Refusal)) throw error;
          notMade.push({ name: shown(root), reason: error.message });
        }
      }),
    );
    return fit.sort((a, b) => compareNatural(a.root, b.root));
  }

  private async chosen(request: SetUpRequest, notMade: NotMade[]): Promise<Omit<Starting, 'id' | 'description'>[]> {
    const things = await this.things();
    const out: Omit<Starting, 'id' | 'description'>[] = [];
    const keys = [...new Set(request.things)];
    // it may have changed, moved or gone since it was offered
    const paths = keys.flatMap((key) => (things.get(key)?.identity ? [things.get(key)!.location] : []));
    const now = new Map((await this.looking.resolved(paths)).map((found, i) => [paths[i]!, found?.sight]));
    for (const key of keys) {
      const thing = things.get(key);
      const sight = thing?.identity ? now.get(thing.location) : undefined;
      if (!thing || (thing.identity && sight?.seen !== 'entry')) {
        notMade.push({ name: shown(key.slice(key.indexOf(' ') + 1)), reason: 'It is not there any more.' });
        continue;
      }
      const { name, perWeek: rate, uses, kind, programId, location } = thing;
      if (sight?.seen === 'entry') {
        const row = { target: 'original', kind, original_id: null, identity: sight.identity } as const;
        out.push({ name, rate, uses, path: location, row });
      } else if (programId !== null)
        out.push({ name, rate, uses, path: '', row: { target: 'program', kind, program_id: programId } });
      else out.push({ name, rate, uses, path: '', row: (await this.address(location)).row });
    }
    for (const { url, name } of request.addresses ?? [])
      try {
        const to = await this.address(url);
        out.push({ rate: ADDRESS_RATE, uses: 0, path: '', row: to.row, name: name.trim() || to.name });
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        notMade.push({ name, reason: error.message });
      }
    return out;
  }

  private async address(url: string): Promise<Pick<PreparedShortcut, 'name' | 'row'>> {
    const { name, row } = await this.shortcuts.prepare({ url });
    return { name, row };
  }

  /** Each with its place; the new folders themselves come along, to be opened and to be moved to. */
  private starting(
    chosen: readonly Omit<Starting, 'id' | 'description'>[],
    fresh: readonly FitFolder[],
    places: ReadonlyMap<string, PlaceId>,
    notMade: NotMade[],
  ): Starting[] {
    const out: Starting[] = [];
    const add = (one: Omit<Starting, 'id' | 'description'>) => out.push({ ...one, id: randomUUID(), description: '' });
    for (const one of chosen) {
      if (one.path === '') {
        add(one);
        continue;
      }
      const root =
        [...places.keys()].find((r) => isWithin(r, one.path)) ?? this.registry.placeOf(one.path)?.entity.root;
      const placeId = root === undefined ? undefined : (places.get(root) ?? this.registry.placeOf(one.path)!.entity.id);
      if (root === undefined || placeId === undefined) {
        notMade.push({ name: one.name, reason: 'It lies in no folder that was chosen.' });
        continue;
      }
      const path = one.path === root ? '' : one.path.slice(root === '/' ? 1 : root.length + 1);
      const identity = { ...(one.row.identity as Identity), path };
      add({ ...one, row: { ...one.row, place_id: placeId, identity } });
    }
    for (const { root, identity } of fresh) {
      if (out.some((one) => one.path === root)) continue;
      const row = {
        target: 'original',
        kind: 'folder',
        original_id: null,
        place_id: places.get(root)!,
        identity: { ...identity, path: '' },
      } as const;
      add({ name: nameOf(root) || root, path: root, rate: FOLDER_RATE, uses: 0, row });
    }
    return out;
  }

  private async applyStrip(tx: ActTx, { pins, keys }: FirstStrip): Promise<void> {
    for (const id of pins) await this.pins.insert(tx, { target: 'shortcut', id });
    for (const { id, key } of keys) await this.shortcuts.giveKeys(tx, id, key.keys);
  }

  private async collect(tx: ActTx, made: readonly Starting[]): Promise<CollectionId | null> {
    const folders = made.filter((s) => s.row.kind === 'folder').map((s): ShortcutId => s.id);
    if (folders.length === 0) return null;
    // at a second set-up there is one already
    const there = (await this.collections.list()).find((c) => c.name === COLLECTION_NAME && c.type === 'plain');
    if (!there) return this.collections.insertPlain(tx, COLLECTION_NAME, folders);
    await this.collections.putWithin(tx, there.id, folders);
    return there.id;
  }

  private async board(tx: ActTx, made: readonly Starting[]): Promise<BoardId | null> {
    const tasks = tasksOf(
      made.map((s) => ({ id: s.id, kind: s.row.kind, folder: s.path === '' ? '' : nameOf(parentOf(s.path)) || '/' })),
    );
    return tasks.length === 0 ? null : this.boards.insertLaid(tx, BOARD_NAME, tasks);
  }
}

/** A folder that may become a place, as it stands. */
export interface FitFolder {
  root: string;
  identity: Identity;
}

const counted = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`;

const trailOf = (path: string) => (path === '' ? '' : segmentsOf(parentOf(path)).map(shown).join(' › '));
