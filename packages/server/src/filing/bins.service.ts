/** The bins of the disk as they are now: that of the home folder, and those of all volumes. */
import { createHash } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import { kindOf } from '@rellin/core/kinds';
import { isWithin, nameOf, shown } from '@rellin/core/paths';
import { momentOf } from '@rellin/core/trash';
import type { DeletedId, DeletedOriginal, DiskBin } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Refusal } from '../problems/refusal.js';
import { homeBin, type Bin } from '../trash/bins.js';
import type { BinContents, BinEntry } from '../trash/infoFiles.js';
import { MoverService } from './mover.service.js';
import type { WhereBins } from './moverMessages.js';

/** By which what Rellin put into a bin is known. */
export const DELETED_BY = 'Rellin';

/** A thing in a bin. */
export interface Binned {
  bin: Bin;
  entry: BinEntry;
}

/** One that cannot be read has no entries, and says why. */
interface ReadBin {
  bin: Bin;
  contents: BinContents;
  trouble: string;
}

@Injectable()
export class BinsService {
  /** Of the home folder: what lies on a volume without a bin can be copied there. */
  readonly home: Bin;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly mover: MoverService,
    private readonly places: PlaceRegistry,
  ) {
    this.home = homeBin(config.xdg.dataHome);
  }

  async list(): Promise<DiskBin[]> {
    const here = (await this.read()).map(({ bin, contents, trouble }): DiskBin => {
      const originals = contents.entries.map((entry) => viewOf(bin, entry));
      const takes = originals.reduce((sum, o) => sum + o.takes, 0);
      return { name: this.nameOf(bin), state: 'here', takes, trouble, originals };
    });
    const away = this.places.all().filter((p) => p.state === 'away' && p.entity.type !== 'fixed');
    return [
      ...here,
      ...away.map(({ entity }): DiskBin => ({
        name: entity.name,
        state: 'away',
        takes: 0,
        trouble: '',
        originals: [],
      })),
    ];
  }

  /** Those of these ids that still lie in a bin. */
  async those(ids: readonly DeletedId[]): Promise<Binned[]> {
    const wanted = new Set(ids);
    return (await this.read()).flatMap(({ bin, contents }) =>
      contents.entries.filter((entry) => wanted.has(idOf(bin, entry))).map((entry) => ({ bin, entry })),
    );
  }

  /** As `those`; refused where one of them is gone. */
  async all(ids: readonly DeletedId[]): Promise<Binned[]> {
    const found = await this.those(ids);
    if (found.length === new Set(ids).size) return found;
    throw new Refusal('not-found', 'It is not in the bin any more; nothing was changed.');
  }

  /** For each path the bin that it goes to by renaming; null where there is none. */
  forPaths(paths: string[]): Promise<(Bin | null)[]> {
    return this.mover.run({ kind: 'bins-for', paths, where: this.where() });
  }

  /** Each bin in a thread by itself: a volume that hangs keeps no other from being read. */
  private async read(): Promise<ReadBin[]> {
    const possible = await this.mover.run({ kind: 'possible-bins', where: this.where() });
    const read = await Promise.all(
      possible.map(async (bin): Promise<ReadBin[]> => {
        try {
          const contents = await this.mover.run({ kind: 'bin-list', bin });
          return contents ? [{ bin, contents, trouble: '' }] : [];
        } catch (error) {
          const contents = { key: bin.folder, entries: [] };
          return [{ bin, contents, trouble: (error as Error).message }];
        }
      }),
    );
    // a volume may be mounted twice
    return [...new Map(read.flat().map((one) => [one.contents.key, one])).values()];
  }

  private where(): WhereBins {
    const standIns = this.places.all().filter((p) => p.state === 'here' && p.entity.standInStore !== null);
    return { dataHome: this.config.xdg.dataHome, standIns: standIns.map((p) => p.entity.root) };
  }

  /** By the place that its volume is known by; a volume without one by its folder. */
  private nameOf({ top }: Bin): string {
    if (top === null) return 'Home';
    const roots = this.places.all().map(({ entity }) => entity);
    const own = roots.find((p) => p.root === top) ?? roots.find((p) => top !== '/' && isWithin(top, p.root));
    return own?.name ?? shown(nameOf(top) || '/');
  }
}

function viewOf(bin: Bin, entry: BinEntry): DeletedOriginal {
  const name = entry.path === null ? entry.name : nameOf(entry.path);
  return {
    id: idOf(bin, entry),
    name: shown(name),
    path: entry.path,
    deletedAt: entry.info?.deletedAt ? momentOf(entry.info.deletedAt) : null,
    kind: kindOf(entry.type, name),
    isFolder: entry.type === 'folder',
    takes: entry.takes,
    byRellin: entry.info?.by === DELETED_BY,
  };
}

/** The same as long as that very thing lies there. */
function idOf(bin: Bin, { name, info, inode }: BinEntry): DeletedId {
  const text = [bin.folder, name, inode, info?.path, info?.deletedAt].join('\n');
  return createHash('sha256').update(text).digest('base64url').slice(0, 24) as DeletedId;
}
