/** Which folders Rellin could look into: the desktop's standard ones, the home folder, and what is mounted. */
import { Inject, Injectable } from '@nestjs/common';
import { isNetwork, type Mount } from '@rellin/core/mounts';
import { isWithin, nameOf } from '@rellin/core/paths';
import { parseUserDirs } from '@rellin/core/desktop';
import type { OfferedFolder } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { systemText } from '../disk/systemFile.js';
import { PlaceRegistry } from './placeRegistry.js';
import { LookingService } from './looking.service.js';

/** Folders of these names hold what is made for others, or patterns of documents: seldom anything one opens. */
const NOT_PROPOSED = new Set(['PUBLICSHARE', 'TEMPLATES']);
/** Where drives and shares are mounted for people (Filesystem Hierarchy Standard 3.0, 3.11 and 3.12; udisks). */
const FOR_PEOPLE = ['/media', '/run/media', '/mnt'];
const SYSTEM = /^(tmpfs|overlay|squashfs|ramfs|autofs|devpts|fuse\.(portal|gvfsd-fuse|snapfuse))$/;

@Injectable()
export class OfferedFoldersService {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly places: PlaceRegistry,
    private readonly looking: LookingService,
  ) {}

  /** The folder that the desktop shows; null where the system does not say. */
  desktopFolder(): string | null {
    return this.userDirs().find((dir) => dir.name === 'DESKTOP')?.path ?? null;
  }

  /** Those that are there, the standard ones first. */
  async list(): Promise<OfferedFolder[]> {
    const { home } = this.config.xdg;
    const mounts = this.looking.mounts().filter((mount) => isForPeople(mount));
    const offered: Omit<OfferedFolder, 'placeId'>[] = [
      ...this.userDirs().map(({ name, path }) => ({
        path,
        name: nameOf(path),
        origin: 'standard' as const,
        proposed: !NOT_PROPOSED.has(name),
      })),
      { path: home, name: nameOf(home) || home, origin: 'home' as const, proposed: false },
      ...mounts.map((mount) => ({
        path: mount.at,
        name: nameOf(mount.at),
        origin: isNetwork(mount) ? ('share' as const) : ('drive' as const),
        proposed: false,
      })),
    ];
    const found = await this.looking.resolved(offered.map((folder) => folder.path));
    const seen = new Set<string>();
    const there = offered.filter(({ path }, i) => {
      const sight = found[i]?.sight;
      const isFolder = sight?.seen === 'entry' && sight.identity.type === 'folder';
      // standard folders may all be one, or be spelt in two ways
      return isFolder && !seen.has(found[i]!.path) && seen.add(found[i]!.path) && !this.looking.isOwn(path);
    });
    // where the system names no standard folders, the home folder is what there is
    const hasStandard = there.some((folder) => folder.origin === 'standard' && folder.proposed);
    return there.map((folder) => ({
      ...folder,
      proposed: folder.proposed || (!hasStandard && folder.origin === 'home'),
      placeId: this.places.placeOf(folder.path)?.entity.id ?? null,
    }));
  }

  private userDirs(): { name: string; path: string }[] {
    const { home, configHome } = this.config.xdg;
    return parseUserDirs(systemText(`${configHome}/user-dirs.dirs`) ?? '', home);
  }
}

const isForPeople = ({ at, type }: Mount) =>
  !SYSTEM.test(type) && FOR_PEOPLE.some((folder) => at !== folder && isWithin(folder, at));
