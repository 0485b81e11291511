/** What the person seems to use already: traces put together, held against what is there and against the catalogue. */
import { Inject, Injectable } from '@nestjs/common';
import { programIn } from '@rellin/core/desktop';
import type { Identity } from '@rellin/core/identity';
import { piecesOf } from '@rellin/core/lists';
import { isWithin, nameOf, nameWithoutExtension, parentOf } from '@rellin/core/paths';
import { estimateUse, weightOfSpan, type Trace } from '@rellin/core/setUp';
import type { OfferedFolder, UsedThing } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { absolute } from '../disk/paths.js';
import { describe } from '../indexing/mimeTypes.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { AssociationsService } from '../programs/associations.service.js';
import { ProgramsService } from '../programs/programs.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { ShortcutsRepository } from '../shortcuts/shortcuts.repository.js';
import { LookingService } from '../places/looking.service.js';
import { TracesService, type Traces } from './traces.service.js';

/** So many of the likeliest paths are looked at on disk, so many at once, until there are enough. */
const MOST_LOOKED_AT = 4000;
const AT_ONCE = 400;
/** So many things are offered. */
const MOST_OFFERED = 120;
/** Of the MIME types that are there so many are asked for their program. */
const MOST_TYPES = 12;
/** So many names of a folder tell what kinds lie in it. */
const MOST_NAMES = 500;
/** Of so many weeks openings count, as they do later. */
const WEEKS = 12;
/** A program that was started with a file was seldom asked for itself: so much of that counts for it (from memory). */
const BY_FILE = 0.1;
/** What programs write beside people's files is nothing that people open. */
const TEMPORARY = ['/tmp', '/var/tmp', '/dev', '/proc', '/run/user'];

/** Something found, with what an act needs to know of it. */
export interface FoundThing extends UsedThing {
  /** Usage weight, as far as openings are told. */
  uses: number;
  identity: Identity | null;
}

/** The same before its use was estimated. */
type MadeThing = Omit<FoundThing, 'sources' | 'perWeek' | 'proposed' | 'uses'>;

export interface FoundThings {
  things: FoundThing[];
  trouble: string[];
}

@Injectable()
export class UsedThingsService {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly traces: TracesService,
    private readonly looking: LookingService,
    private readonly places: PlaceRegistry,
    private readonly programs: ProgramsService,
    private readonly associations: AssociationsService,
    private readonly settings: SettingsService,
    private readonly shortcuts: ShortcutsRepository,
  ) {}

  /** The likeliest first; what has a shortcut already is left out. */
  async find(folders: readonly OfferedFolder[], now: number): Promise<FoundThings> {
    const [traces, { halfLifeDays }, known] = await Promise.all([
      this.traces.read(),
      this.settings.all(),
      this.inCatalogue(),
    ]);
    const names = new Map<string, string>();
    const openings = new Map<string, number>();
    const list = await this.tracesOf(traces, folders, now, halfLifeDays, names);
    for (const { key, weight } of list) openings.set(key, (openings.get(key) ?? 0) + weight);
    const fresh = list.filter(({ key }) => !known.has(key));
    const made = new Map<string, MadeThing>();
    for (const some of piecesOf(estimateUse(fresh, halfLifeDays).slice(0, MOST_LOOKED_AT), AT_ONCE)) {
      await this.look(
        some.map(({ key }) => key),
        folders,
        names,
        made,
      );
      if (made.size >= MOST_OFFERED) break;
    }
    // what is proposed is said of what is there
    const things = new Map<string, FoundThing>();
    const there = fresh.flatMap((trace) => {
      const key = made.get(trace.key)?.key;
      return key === undefined ? [] : [{ ...trace, key }];
    });
    const byKey = new Map([...made.values()].map((thing) => [thing.key, thing]));
    for (const { key, sources, rate, proposed } of estimateUse(there, halfLifeDays).slice(0, MOST_OFFERED))
      if (!known.has(key))
        things.set(key, { ...byKey.get(key)!, sources, perWeek: rate, proposed, uses: openings.get(key) ?? 0 });
    return { things: [...things.values()], trouble: traces.trouble };
  }

  /** Adds what stands behind these keys, each under the key it was found by; two paths may lead to one thing. */
  private async look(
    keys: readonly string[],
    folders: readonly OfferedFolder[],
    names: ReadonlyMap<string, string>,
    made: Map<string, MadeThing>,
  ): Promise<void> {
    const paths = keys.flatMap((key) => pathIn(key) ?? []);
    const found = await this.looking.resolved(paths);
    const seen = new Map(paths.map((path, i) => [path, found[i]]));
    for (const key of keys) {
      const thing = this.thing(key, seen, folders, names);
      if (thing) made.set(key, thing);
    }
  }

  /** Keys of what has a shortcut. */
  private async inCatalogue(): Promise<Set<string>> {
    const keys = new Set<string>();
    for (const s of await this.shortcuts.list(false)) {
      if (s.programId) keys.add(`program ${s.programId}`);
      if (s.url) keys.add(`web ${s.url}`);
      const place = s.placeId === null ? undefined : this.places.get(s.placeId);
      if (place && s.identity) keys.add(`path ${absolute(place.entity.root, s.identity.path)}`);
    }
    return keys;
  }

  private async tracesOf(
    { opened, bookmarks, links }: Traces,
    folders: readonly OfferedFolder[],
    now: number,
    halfLifeDays: number,
    names: Map<string, string>,
  ): Promise<Trace[]> {
    const byExec = new Map(
      this.programs.list().flatMap((p) => (programIn(p.exec) ? [[programIn(p.exec)!, p.id]] : [])),
    );
    const programOf = (name: string, exec: string) =>
      this.programs.named(name)?.id ?? byExec.get(programIn(exec.replace(/^'(.*)'$/, '$1')) ?? '');
    const out: Trace[] = [];
    const types = new Map<string, number>();
    const since = now - WEEKS * 7 * 86_400_000;
    for (const { path, program, exec = '', at, since: first = at, times = 1 } of opened) {
      if (at < since || at > now) continue;
      const weight = weightOfSpan(times, Math.max(first, since), at, now, halfLifeDays);
      out.push({ key: `path ${path}`, source: 'recent', weight });
      const id = programOf(program, exec);
      if (id !== undefined) out.push({ key: `program ${id}`, source: 'recent', weight: weight * BY_FILE });
      const { mime } = describe('file', nameOf(path));
      if (mime) types.set(mime, (types.get(mime) ?? 0) + 1);
    }
    for (const path of bookmarks) out.push({ key: `path ${path}`, source: 'bookmark', weight: 0 });
    for (const link of links) {
      if (link.to === 'path') out.push({ key: `path ${link.path}`, source: 'desktop', weight: 0 });
      if (link.to === 'web') {
        names.set(`web ${link.url}`, link.name);
        out.push({ key: `web ${link.url}`, source: 'desktop', weight: 0 });
      }
      const id = link.to === 'program' ? (this.programs.find(link.id)?.id ?? programOf('', link.exec)) : undefined;
      if (id !== undefined) out.push({ key: `program ${id}`, source: 'desktop', weight: 0 });
    }
    for (const folder of folders.filter((f) => f.proposed))
      for (const name of (await this.looking.listed(folder.path)).names.slice(0, MOST_NAMES)) {
        const { mime } = describe('file', name);
        if (mime && !name.startsWith('.')) types.set(mime, (types.get(mime) ?? 0) + 1);
      }
    const common = [...types].sort((a, b) => b[1] - a[1]).slice(0, MOST_TYPES);
    for (const [mime] of common) {
      const program = (await this.associations.suited(mime)).find((p) => p.isDefault);
      if (program) out.push({ key: `program ${program.id}`, source: 'program', weight: 0 });
    }
    return out;
  }

  private thing(
    key: string,
    seen: ReadonlyMap<string, Found | undefined>,
    folders: readonly OfferedFolder[],
    names: ReadonlyMap<string, string>,
  ): MadeThing | undefined {
    const path = pathIn(key);
    if (path !== undefined) {
      const found = seen.get(path);
      if (found?.sight.seen !== 'entry' || this.isAside(found.path)) return undefined;
      const { identity } = found.sight;
      if (identity.type !== 'file' && identity.type !== 'folder') return undefined;
      const isFolder = identity.type === 'folder';
      const { kind } = describe(identity.type, nameOf(found.path));
      return {
        key: `path ${found.path}`,
        name: nameWithoutExtension(nameOf(found.path), isFolder),
        kind,
        location: found.path,
        programId: null,
        folder: this.places.placeOf(found.path) ? null : folderFor(found.path, isFolder, folders, this.config.xdg.home),
        identity,
      };
    }
    const [, sort, rest] = /^(\w+) (.*)$/s.exec(key)!;
    if (sort === 'web') {
      const name = names.get(key) ?? rest!;
      return { key, name, kind: 'web', location: rest!, programId: null, folder: null, identity: null };
    }
    const program = this.programs.find(rest!);
    if (!program?.listed) return undefined;
    const { id, name } = program;
    return { key, name, kind: 'program', location: '', programId: id, folder: null, identity: null };
  }

  /** Hidden below the home folder, temporary, or Rellin's own: nobody opens that on purpose. */
  private isAside(path: string): boolean {
    const { home } = this.config.xdg;
    const below = isWithin(home, path) ? path.slice(home.length) : path;
    return (
      /(^|\/)\./.test(below) ||
      // a home folder may lie below one of these
      (!isWithin(home, path) && TEMPORARY.some((folder) => isWithin(folder, path))) ||
      this.looking.isOwn(path)
    );
  }
}

type Found = NonNullable<Awaited<ReturnType<LookingService['resolved']>>[number]>;

const pathIn = (key: string) => (key.startsWith('path ') ? key.slice('path '.length) : undefined);

/**
 * The folder that would have to be looked into: of those offered the deepest that is no whole home folder; otherwise
 * the one at the top of the home folder, or the one it lies in.
 */
function folderFor(path: string, isFolder: boolean, folders: readonly OfferedFolder[], home: string): string {
  const around = folders
    .filter((folder) => folder.origin !== 'home' && isWithin(folder.path, path))
    .sort((a, b) => b.path.length - a.path.length)[0];
  if (around) return around.path;
  const top = isWithin(home, path) ? path.slice(home.length + 1).split('/') : [];
  if (isFolder && top.length === 1) return path;
  return top.length > 1 ? `${home}/${top[0]!}` : top.length === 1 ? home : parentOf(path) || '/';
}
