/** Where a place is that is not at its path: its file system mounted elsewhere, or its tree met again beside it. */
import { dirname, join } from 'node:path';
import { Injectable } from '@nestjs/common';
import { identityOf, isNetwork, pathsOf, type FileSystemIdentity, type Mount } from '@rellin/core/mounts';
import { DiskService } from '../disk/disk.service.js';
import { absolute } from '../disk/paths.js';
import { readFileSystems } from './fileSystems.js';
import { PlacesRepository } from './places.repository.js';
import type { PlaceEntity } from '../database/entities/place.entity.js';

/** Where drives and shares are mounted by custom (Filesystem Hierarchy Standard 3.0, 3.11 and 3.12). */
const CUSTOM = /^\/(media|mnt|run\/media)\//;
/**
 * So much of what is known must be met again, in names and in a sample of files: a drive is worked on elsewhere, too.
 */
const ENOUGH = 0.6;
const SAMPLE = 30;
const MOST_LOOKED_AT = 60;
/** The disk thread that looks at what is no place (yet): a share there may hang, and no place with it. */
const ELSEWHERE = 0;

@Injectable()
export class PlaceSearchService {
  constructor(
    private readonly rows: PlacesRepository,
    private readonly disk: DiskService,
  ) {}

  /** By what the place is known again where it is now; undefined where only its contents tell. */
  identityOf(root: string): FileSystemIdentity | undefined {
    const { mounts, numberOf } = readFileSystems();
    return identityOf(mounts, root, numberOf);
  }

  /** Another path at which this very place is found now. `taken` are roots of other places. */
  async elsewhere(place: PlaceEntity, taken: readonly string[]): Promise<string | undefined> {
    const { mounts, numberOf } = readFileSystems();
    // a stand-in lies in its store while it is disconnected
    const free = (path: string) => path !== place.root && path !== place.standInStore && !taken.includes(path);
    if (place.fileSystem !== null) {
      const identity = { id: place.fileSystem, within: place.fileSystemPath ?? '' };
      for (const path of pathsOf(mounts, identity, numberOf).filter(free))
        if ((await this.disk.folder(ELSEWHERE, path).catch(() => null))?.isFolder) return path;
      return undefined;
    }
    if (place.type === 'fixed') return undefined;
    const known = await this.rows.knownNames(place.id);
    if (known.length === 0) return undefined;
    for (const path of (await this.likely(place, mounts)).filter(free).slice(0, MOST_LOOKED_AT))
      if (await this.isSameTree(place, path, known)) return path;
    return undefined;
  }

  /** Beside where it was, and where drives are mounted. */
  private async likely(place: PlaceEntity, mounts: readonly Mount[]): Promise<string[]> {
    const beside = await this.disk.names(ELSEWHERE, dirname(place.root)).catch(() => [] as string[]);
    return [
      ...beside.map((name) => join(dirname(place.root), name)),
      ...mounts.filter((m) => CUSTOM.test(m.at) || isNetwork(m)).map((m) => m.at),
    ];
  }

  /** Most names are there, and of a sample of files most have their inode, size and date: a copy has not. */
  private async isSameTree(place: PlaceEntity, path: string, known: readonly string[]): Promise<boolean> {
    const names = new Set(await this.disk.names(ELSEWHERE, path).catch(() => [] as string[]));
    if (known.filter((name) => names.has(name)).length < ENOUGH * known.length) return false;
    const sample = await this.rows.sampleOfFiles(place.id, SAMPLE);
    if (sample.length === 0) return false;
    const seen = await this.disk
      .sights(
        ELSEWHERE,
        sample.map((s) => absolute(path, s.path)),
      )
      .catch(() => []);
    const met = sample.filter((s, i) => {
      const there = seen[i];
      if (there?.seen !== 'entry') return false;
      const { inode, size, mtime } = there.identity;
      return inode === s.inode && size === s.size && mtime === s.mtime;
    });
    return met.length >= ENOUGH * sample.length;
  }
}
