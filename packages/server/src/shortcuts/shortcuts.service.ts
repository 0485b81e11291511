/** Making, naming and removing shortcuts. No act here touches an original. */
import type { NewShortcut, OriginalId, PlaceId, ProgramId, ShortcutId, ShortcutPatch } from '@rellin/contract';
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { Kind } from '@rellin/core/kinds';
import { grouped } from '@rellin/core/lists';
import { nameWithoutExtension } from '@rellin/core/paths';
import type { NewRows } from '../database/rows.js';
import { below } from '../disk/paths.js';
import { DigestsService } from '../identity/digests.service.js';
import { IdentityService } from '../identity/identity.service.js';
import { JournalService } from '../journal/journal.service.js';
import type { ActTx, Patch } from '../journal/actTx.js';
import { KeysService } from '../keys/keys.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { OriginalsRepository } from '../originals/originals.repository.js';
import { DiskService } from '../disk/disk.service.js';
import { PinsService } from '../pins/pins.service.js';
import { checkedPicture } from '../pictures/checkedPicture.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Refusal } from '../problems/refusal.js';
import { ProgramsService } from '../programs/programs.service.js';
import type { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { ShortcutsRepository, type LeadsTo } from './shortcuts.repository.js';

/** The columns that say what a shortcut points to. */
type TargetColumns = Pick<
  NewRows['shortcut'],
  'target' | 'kind' | 'place_id' | 'original_id' | 'program_id' | 'url' | 'identity'
>;

/** What a shortcut is to point to: its usual name, and the columns that say it. */
interface Target {
  name: string;
  row: TargetColumns;
}

/** A shortcut about to be added. */
export interface PreparedShortcut {
  id: string;
  name: string;
  description: string;
  /** What it points to, as columns. */
  row: TargetColumns;
}

const SCHEMES = ['http:', 'https:', 'mailto:'];

function checkAddress(text: string): string {
  let url: URL;
  try {
    url = new URL(text.trim());
  } catch {
    throw new Refusal('not-valid', `“${text.slice(0, 100)}” is not a web address.`, {
      remedy: 'A web address begins with https://, http:// or mailto:.',
    });
  }
  if (!SCHEMES.includes(url.protocol))
    throw new Refusal('not-valid', `Addresses that begin with “${url.protocol}” are not allowed.`, {
      remedy: 'Rellin opens http, https and mailto. For a file, give its path.',
    });
  return url.href;
}

/** So much of what was typed is told back. */
const MOST_TOLD = 80;

@Injectable()
export class ShortcutsService {
  constructor(
    private readonly rows: ShortcutsRepository,
    private readonly journal: JournalService,
    private readonly originals: OriginalsService,
    private readonly index: OriginalsRepository,
    private readonly places: PlaceRegistry,
    private readonly programs: ProgramsService,
    private readonly identity: IdentityService,
    private readonly digests: DigestsService,
    private readonly pins: PinsService,
    private readonly keys: KeysService,
    private readonly disk: DiskService,
  ) {}

  async add(request: NewShortcut): Promise<string> {
    const made = await this.prepare(request);
    const { id, name } = made;
    await this.journal.act(
      { act: 'add-shortcut', summary: `Added “${name}”${request.pin ? ' and pinned it' : ''}` },
      async (tx) => {
        await this.insert(tx, made);
        if (request.pin) await this.pins.insert(tx, { target: 'shortcut', id }, request.slot);
      },
    );
    this.inserted();
    return id;
  }

  /** All that must be known of a new shortcut, before an act begins. */
  async prepare(request: NewShortcut): Promise<PreparedShortcut> {
    return prepared(request, await this.targetOf(request));
  }

  /** What something typed leads to: its usual name, its kind, and the shortcut there is to it already. */
  async meant(typed: string): Promise<{ name: string; kind: Kind; location: string; id: ShortcutId | undefined }> {
    const read = await this.readTyped(typed);
    const { name, row } = await this.targetOf(read);
    const id = await this.rows.newestTo(leadsTo(read));
    const program = row.program_id ? 'an installed program' : '';
    const path = read.originalId === undefined ? '' : this.originals.typedPath(typed);
    return { name, kind: row.kind, location: row.url ?? (program || path), id };
  }

  /** Adds it within an act. */
  insert(tx: ActTx, made: PreparedShortcut): Promise<void> {
    return this.insertAll(tx, [made]);
  }

  /** Adds them within an act. */
  async insertAll(tx: ActTx, made: readonly PreparedShortcut[]): Promise<void> {
    const now = new Date().toISOString();
    // rows that point to different kinds of things have different columns
    for (const alike of grouped(made, (m) => Object.keys(m.row).sort().join()).values())
      await tx.insertMany(
        'shortcut',
        alike.map((m) => asRow(m, now)),
      );
  }

  /** Within an act: those of these that no shortcut leads to yet. */
  async withoutThere<T extends PreparedShortcut>(tx: ActTx, made: readonly T[]): Promise<T[]> {
    const there = await this.rows.targets(tx.manager);
    return made.filter(({ row }) => !there.has(targetKey(row)));
  }

  /** After the act: what takes its time and nobody waits for. */
  inserted(): void {
    this.digests.fill();
  }
  /** The shortcut there is to an original or program already, the newest first. */
  existing(request: NewShortcut): Promise<string | undefined> {
    return this.rows.newestTo(leadsTo(request));
  }

  /**
   * The shortcuts there are to these, and what is to be made for those without one; of several that point to the same,
   * one. Cost: a few queries for them all, and for each that is new a look at its disk.
   */
  async gather(asked: readonly NewShortcut[]): Promise<{ ids: string[]; made: PreparedShortcut[] }> {
    const targets: NewShortcut[] = [];
    for (const { typed, ...rest } of asked)
      targets.push(typed === undefined ? rest : { ...rest, ...(await this.readTyped(typed)) });
    const known = await this.existingAmong(targets);
    const isOriginal = (t: NewShortcut) => keyOf(t).startsWith('original') && t.placeId !== undefined;
    const looked = await this.originalTargets(targets.filter((t) => isOriginal(t) && !known.has(keyOf(t))));
    const fresh = new Map<string, PreparedShortcut>();
    const ids: string[] = [];
    for (const target of targets) {
      const key = keyOf(target);
      let id = known.get(key) ?? fresh.get(key)?.id;
      if (id === undefined) {
        const made = prepared(target, looked.get(key) ?? (await this.targetOf(target)));
        fresh.set(key, made);
        id = made.id;
      }
      ids.push(id);
    }
    return { ids: [...new Set(ids)], made: [...fresh.values()] };
  }

  /** The newest shortcut to each of these originals and programs, under their keys. */
  private async existingAmong(targets: readonly NewShortcut[]): Promise<Map<string, string>> {
    const rows = await this.rows.leadingTo(targets.map(leadsTo));
    return new Map(
      rows.map(({ id, placeId, originalId, programId }) => [
        keyOf({
          placeId: placeId ?? undefined,
          originalId: originalId ?? undefined,
          programId: programId ?? undefined,
        }),
        id,
      ]),
    );
  }

  private async targetOf(request: NewShortcut): Promise<Target> {
    if (request.typed !== undefined) return this.targetOf(await this.readTyped(request.typed));
    if (request.url !== undefined) return this.webTarget(request.url);
    if (request.programId !== undefined) {
      const program = this.programs.find(request.programId);
      if (!program) throw new Refusal('not-found', 'That program is not installed any more.');
      return { name: program.name, row: { target: 'program', kind: 'program', program_id: program.id } };
    }
    if (request.placeId !== undefined && request.originalId !== undefined)
      return this.originalTarget(request.placeId, request.originalId);
    throw new Refusal(
      'not-valid',
      'A shortcut needs something to point to: an original, a program, a path or an address.',
    );
  }

  /** What was typed or pasted, as the address or original it names. */
  private async readTyped(text: string): Promise<NewShortcut> {
    const typed = text.trim();
    const isPath = typed.startsWith('/') || typed.startsWith('~') || /^file:/i.test(typed) || /^["']/.test(typed);
    if (!isPath) return this.readWord(typed);
    const { placeId, originalId } = await this.originals.locate(text);
    return { placeId, originalId };
  }

  /** What is neither a path nor an address with its scheme: a host's name, or a program by its name. */
  private readWord(typed: string): NewShortcut {
    // a port after a name is no scheme
    if (/^[a-z][a-z\d+.-]*:(?!\d+(\/|$))/i.test(typed)) return { url: typed };
    const program = this.programs.named(typed);
    if (program) return { programId: program.id };
    // a host's name as people write it: labels with dots, a path behind it (RFC 1123 section 2.1)
    if (/^([a-z\d]([a-z\d-]*[a-z\d])?\.)+[a-z]{2,}(:\d+)?([/?#]\S*)?$/i.test(typed)) return { url: `https://${typed}` };
    const told = typed.length > MOST_TOLD ? `${typed.slice(0, MOST_TOLD)}…` : typed;
    throw new Refusal('not-valid', `“${told}” is no path, no address, and no program that is installed.`, {
      remedy: 'A path begins with / or ~, an address with https:// or www.; a program is called as in its menu.',
    });
  }

  private webTarget(text: string): Target {
    const url = checkAddress(text);
    const { hostname, pathname } = new URL(url);
    const last = pathname.split('/').filter(Boolean).pop();
    const name = hostname
      ? hostname.replace(/^www\./, '') + (last ? ` ${decodeURIComponentSafe(last)}` : '')
      : pathname;
    return { name, row: { target: 'web', kind: 'web', url } };
  }

  private async originalTarget(placeId: PlaceId, originalId: OriginalId): Promise<Target> {
    const ref = { placeId, originalId };
    return (await this.originalTargets([ref])).get(keyOf(ref))!;
  }

  /** Under their keys; refused where one of them cannot be pointed to. */
  private async originalTargets(requests: readonly NewShortcut[]): Promise<Map<string, Target>> {
    const refs = requests.map((r) => ({ placeId: r.placeId!, originalId: r.originalId! }));
    const found = await this.originals.wherever(refs);
    const out = new Map<string, Target>();
    for (const [placeId, some] of grouped([...refs.keys()], (i) => refs[i]!.placeId)) {
      const place = this.places.need(placeId);
      for (const i of some) {
        const { row, path } = found[i]!;
        if (row.type === 'link') await this.disk.real(placeId, path); // where it leads must be in a place, and lead somewhere
        if (row.type === 'other')
          throw new Refusal('not-valid', `${row.name} is a device or socket; it has nothing to open.`);
      }
      const paths = some.map((i) => below(place.entity.root, found[i]!.path));
      const identities = await this.identity.identitiesOf(place, paths);
      some.forEach((i, n) => {
        const { row } = found[i]!;
        const identity = identities[n];
        if (!identity) throw new Refusal('not-found', `${row.name} vanished just now; no shortcut was made.`);
        out.set(keyOf(refs[i]!), {
          name: row.name === '' ? place.entity.name : nameWithoutExtension(row.name, row.type === 'folder'),
          row: { target: 'original', kind: row.kind, place_id: placeId, original_id: refs[i]!.originalId, identity },
        });
      });
    }
    return out;
  }

  async need(id: ShortcutId): Promise<ShortcutEntity> {
    const found = await this.rows.one(id);
    if (!found) throw new Refusal('not-found', 'That shortcut is not in the catalogue any more.');
    return found;
  }

  async change(id: ShortcutId, change: ShortcutPatch): Promise<void> {
    const shortcut = await this.need(id);
    const patch = { ...change, ...(change.keys !== undefined && { keys: await this.keys.checked(change.keys, id) }) };
    if (patch.picture !== undefined) checkedPicture(patch.picture);
    const name = patch.name?.trim();
    if (name === '') throw new Refusal('not-valid', 'A shortcut needs a name.');
    const renamed = name !== undefined && name !== shortcut.name;
    const summary = renamed
      ? `Renamed “${shortcut.name}” to “${name}”`
      : patch.keys !== undefined
        ? patch.keys
          ? `Gave “${shortcut.name}” the key ${patch.keys}`
          : `Removed the key of “${shortcut.name}”`
        : patch.picture !== undefined
          ? `Gave “${shortcut.name}” another picture`
          : `Described “${shortcut.name}”`;
    await this.journal.act({ act: renamed ? 'rename-shortcut' : 'describe-shortcut', summary }, (tx) =>
      tx.update('shortcut', id, {
        ...(name !== undefined && { name }),
        ...(patch.description !== undefined && { description: patch.description }),
        ...(patch.alsoCalled && { also_called: patch.alsoCalled }),
        ...(patch.keys !== undefined && { keys: patch.keys }),
        ...(patch.picture !== undefined && { picture: patch.picture }),
      }),
    );
  }

  /** The program that opens them, whatever their kind's is; null leaves it to the kind and the system. */
  async setOpenWith(ids: string[], programId: ProgramId | null): Promise<void> {
    const program = programId === null ? undefined : this.programs.find(programId);
    if (programId !== null && !program) throw new Refusal('not-found', 'That program is not installed any more.');
    const found = (await this.rows.present(ids)).filter((s) => s.target === 'original');
    if (found.length === 0)
      throw new Refusal('not-valid', 'Only shortcuts to files and folders are opened with a program.');
    const what = found.length === 1 ? `“${found[0]!.name}”` : `${found.length} shortcuts`;
    const summary = program ? `${what} open with ${program.name}` : `${what} open as their kind does`;
    await this.journal.act({ act: 'set-program', summary }, async (tx) => {
      for (const { id } of found) await tx.update('shortcut', id, { open_with: programId });
    });
  }

  /** Many names in one act. */
  async renameMany(names: { id: string; name: string }[]): Promise<void> {
    const empty = names.find((n) => n.name.trim() === '');
    if (empty) throw new Refusal('not-valid', 'A shortcut needs a name; none was changed.');
    await this.journal.act({ act: 'rename-shortcut', summary: `Renamed ${names.length} shortcuts` }, async (tx) => {
      for (const { id, name } of names) await tx.update('shortcut', id, { name: name.trim() });
    });
  }

  /** Into the bin; its pin waits there with it. */
  async remove(ids: string[]): Promise<void> {
    const found = await this.rows.present(ids);
    if (found.length === 0) throw new Refusal('not-found', 'That shortcut is not in the catalogue any more.');
    const summary =
      found.length === 1 ? `Removed the shortcut “${found[0]!.name}”` : `Removed ${found.length} shortcuts`;
    await this.journal.act({ act: 'remove-shortcut', summary }, (tx) =>
      this.intoBin(
        tx,
        found.map((s) => s.id),
      ),
    );
  }

  async putBack(id: ShortcutId): Promise<void> {
    const shortcut = await this.need(id);
    await this.journal.act({ act: 'put-back-shortcut', summary: `Put back “${shortcut.name}”` }, async (tx) => {
      await this.pins.unpinWhereFull(tx, id);
      await tx.update('shortcut', id, { removed_at: null, keys: await this.keys.stillFree(shortcut.keys, id) });
    });
    await this.identity.examine([id]);
  }

  /** Within an act. */
  async intoBin(tx: ActTx, ids: readonly ShortcutId[]): Promise<void> {
    const removed_at = new Date().toISOString();
    for (const id of ids) await tx.update('shortcut', id, { removed_at });
  }

  /** Within an act; a key that was seen to be free. */
  giveKeys(tx: ActTx, id: ShortcutId, keys: string): Promise<void> {
    return tx.update('shortcut', id, { keys });
  }

  /**
   * Within an act that makes one of several shortcuts to one original: it takes over their names as other names, and a
   * key where it has none; they go into the bin.
   */
  async takeOver(tx: ActTx, kept: ShortcutId, others: readonly ShortcutId[]): Promise<void> {
    const own = await tx.need('shortcut', kept, 'That shortcut');
    const gone = [];
    for (const id of others) gone.push(await tx.need('shortcut', id, 'One of these shortcuts'));
    const names = new Set([...own.also_called, ...gone.flatMap((row) => [row.name, ...row.also_called])]);
    names.delete(own.name);
    // first the others, so that a key is free before it is given
    const removed_at = new Date().toISOString();
    for (const { id } of gone)
      await tx.update('shortcut', id, { removed_at, ...(own.keys === null && { keys: null }) });
    const keys = own.keys ?? gone.find((row) => row.keys !== null)?.keys ?? null;
    await tx.update('shortcut', kept, { also_called: [...names], keys });
  }

  /** The person has seen that these were followed or saved over. */
  async acknowledge(ids: string[]): Promise<void> {
    const found = (await this.rows.present(ids)).filter((s) => s.state === 'followed' || s.state === 'saved-over');
    if (found.length === 0) throw new Refusal('not-found', 'There is nothing to note any more.');
    const what = found.length === 1 ? `“${found[0]!.name}”` : `${found.length} shortcuts`;
    const noted = { state: 'ready', state_reason: '', followed_from: null } as const;
    await this.journal.act({ act: 'acknowledge', summary: `Marked as seen the change of ${what}` }, (tx) =>
      tx.updateMany(
        'shortcut',
        found.map(({ id }) => [id, noted]),
      ),
    );
  }

  /** Gives a shortcut another original. */
  async repoint(id: ShortcutId, typed: string): Promise<void> {
    const shortcut = await this.need(id);
    const row = await this.pointed({ typed });
    await this.journal.act({ act: 'repoint', summary: `Changed the target of “${shortcut.name}”` }, (tx) =>
      tx.update('shortcut', id, row),
    );
  }

  /** The columns of a shortcut that from now on points there. */
  async pointed(request: NewShortcut): Promise<Patch<'shortcut'>> {
    const { row } = await this.targetOf(request);
    return {
      ...{ place_id: null, original_id: null, program_id: null, url: null, identity: null },
      ...row,
      state: 'ready',
      state_reason: '',
      state_since: new Date().toISOString(),
      followed_from: null,
      candidates: [],
      left_alone: false,
    };
  }

  /** Those of these that are not in the bin. */
  present(ids: readonly ShortcutId[]): Promise<ShortcutEntity[]> {
    return this.rows.present(ids);
  }

  /** Within an act: some columns of each. */
  patch(tx: ActTx, patches: readonly [ShortcutId, Patch<'shortcut'>][]): Promise<void> {
    return tx.updateMany('shortcut', patches);
  }
}

function decodeURIComponentSafe(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

function prepared(request: NewShortcut, target: Target): PreparedShortcut {
  const name = (request.name ?? target.name).trim();
  if (!name) throw new Refusal('not-valid', 'A shortcut needs a name.');
  return { id: randomUUID(), name, description: request.description ?? '', row: target.row };
}

const leadsTo = ({ placeId, originalId, programId }: NewShortcut): LeadsTo => ({
  placeId: placeId ?? null,
  originalId: originalId ?? null,
  programId: programId ?? null,
});

/** What a shortcut leads to, by its columns; an original by where it stands. */
const targetKey = ({ program_id, url, place_id, identity }: TargetColumns) =>
  program_id ?? url ?? `${place_id} ${identity?.path}`;

/** What tells one thing to point to from another. */
function keyOf({ url, programId, placeId, originalId }: NewShortcut): string {
  if (url !== undefined) return `url ${url}`;
  return programId !== undefined ? `program ${programId}` : `original ${placeId}/${originalId}`;
}

function asRow({ id, name, description, row }: PreparedShortcut, now: string): NewRows['shortcut'] {
  return {
    id,
    name,
    description,
    also_called: [],
    state: 'ready',
    state_reason: '',
    state_since: now,
    candidates: [],
    rejected: [],
    added_at: now,
    ...row,
  };
}
