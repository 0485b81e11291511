/**
 * Browsing for a file or folder, also where Rellin does not look yet: there only names of folders are told, for as long
 * as somebody chooses among them.
 */
import { Inject, Injectable } from '@nestjs/common';
import { nameOf, parentOf, shown, typedPath } from '@rellin/core/paths';
import { compareNatural } from '@rellin/core/units';
import type { ChooserEntry, ChooserStarts, ChooserView } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { absolute } from '../disk/paths.js';
import { OpeningsRepository } from '../openings/openings.repository.js';
import { OriginalsService } from '../originals/originals.service.js';
import { LookingService, SHUT } from '../places/looking.service.js';
import { OfferedFoldersService } from '../places/offeredFolders.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Refusal } from '../problems/refusal.js';

/** More in one folder are not listed: nobody looks through them, and the path can be typed. */
const MOST_LISTED = 2000;
const MOST_RECENT = 6;

type Listed = Pick<ChooserView, 'entries' | 'folderId' | 'more' | 'hidden' | 'trouble'>;

@Injectable()
export class ChooseService {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly folders: OfferedFoldersService,
    private readonly looking: LookingService,
    private readonly places: PlaceRegistry,
    private readonly originals: OriginalsService,
    private readonly openings: OpeningsRepository,
  ) {}

  async starts(): Promise<ChooserStarts> {
    const { home } = this.config.xdg;
    const [folders, opened] = await Promise.all([this.folders.list(), this.openings.latestOriginals(50)]);
    const found = await this.originals.many(opened.map(({ placeId, originalId }) => ({ placeId, id: originalId })));
    const recent = opened.flatMap(({ placeId, originalId }) => {
      const entry = found.get(`${placeId}/${originalId}`);
      return entry ? [entry.type === 'folder' ? entry.path : parentOf(entry.path)] : [];
    });
    return { home, folders, recent: [...new Set(recent)].slice(0, MOST_RECENT) };
  }

  async folder(typed: string, showsHidden: boolean): Promise<ChooserView> {
    const read = typedPath(typed || '~/', this.config.xdg.home, { fromHome: true });
    if (!read.ok) throw new Refusal('not-valid', 'A folder is given by its path, like ~/Documents.');
    const { path } = read;
    const place = this.places.placeOf(path);
    const inPlace = place && (await this.inPlace(path, showsHidden, place.scan === 'running'));
    const listed = inPlace ?? (await this.outside(path, showsHidden));
    return { path, trail: trailOf(path), placeId: inPlace ? place.entity.id : null, ...listed };
  }

  /** As the index has it; a file's own folder is listed for it. Undefined where it is still to be looked through. */
  private async inPlace(path: string, showsHidden: boolean, isNew: boolean): Promise<Listed | undefined> {
    const located = await this.originals.locate(path).catch((error: unknown) => {
      if (isNew && error instanceof Refusal && error.kind === 'not-found') return undefined;
      throw error;
    });
    if (!located) return undefined;
    const { placeId, folderId } = located;
    const view = await this.originals.folder(placeId, folderId, {
      sort: 'name',
      descending: false,
      offset: 0,
      limit: MOST_LISTED,
      hidden: showsHidden,
    });
    const entries = view.entries.flatMap((entry): ChooserEntry[] =>
      entry.type === 'other'
        ? []
        : [
            {
              path: absolute(view.path, entry.name),
              name: entry.name,
              type: entry.type === 'folder' ? 'folder' : 'file',
              kind: entry.kind,
              size: entry.size,
              modified: entry.modified,
              placeId,
              originalId: entry.id,
            },
          ],
    );
    return { entries, folderId, more: view.total - view.entries.length, hidden: view.hidden, trouble: view.trouble };
  }

  private async outside(path: string, showsHidden: boolean): Promise<Listed> {
    const nothing = (trouble: string): Listed => ({ entries: [], folderId: null, more: 0, hidden: 0, trouble });
    if (await this.looking.isShut(path)) return nothing(SHUT);
    const { names, trouble } = await this.looking.listed(path);
    if (trouble !== null) return nothing(trouble);
    const all = names.sort(compareNatural);
    const seen = showsHidden ? all : all.filter((name) => !name.startsWith('.'));
    const paths = seen.slice(0, MOST_LISTED).map((name) => absolute(path, name));
    const found = await this.looking.resolved(paths);
    const entries = paths.flatMap((at, i): ChooserEntry[] => {
      const sight = found[i]?.sight;
      const isFolder = sight?.seen === 'entry' && sight.identity.type === 'folder';
      if (!isFolder || this.isShut(at) || this.isShut(found[i]!.path)) return [];
      const nowhere = { size: null, modified: null, placeId: null, originalId: null };
      return [{ path: at, name: nameOf(at), type: 'folder', kind: 'folder', ...nowhere }];
    });
    return {
      entries,
      folderId: null,
      more: Math.max(0, seen.length - MOST_LISTED),
      hidden: all.length - seen.length,
      trouble: null,
    };
  }

  /** What the kernel shows of itself, and Rellin's own folders. */
  private isShut(path: string): boolean {
    return this.looking.isOfKernel(path) || this.looking.isOwn(path);
  }
}

function trailOf(path: string): ChooserView['trail'] {
  const trail = [{ name: shown(nameOf(path)) || '/', path }];
  for (let at = path; at !== '/' && at !== '';) {
    at = parentOf(at) || '/';
    trail.unshift({ name: shown(nameOf(at)) || '/', path: at });
  }
  return trail;
}
