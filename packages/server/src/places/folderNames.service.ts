/** Folders that continue a typed path, wherever they lie: what a person chooses a new place by. No file is told. */
import { Inject, Injectable } from '@nestjs/common';
import { typedPath } from '@rellin/core/paths';
import { compareNatural } from '@rellin/core/units';
import { CONFIG, type Config } from '../config/config.js';
import { DiskHangs, DiskService } from '../disk/disk.service.js';
import { kernelDevices } from '../disk/kernelFolders.js';
import { absolute } from '../disk/paths.js';
import { UnfitFoldersService } from './unfitFolders.service.js';

const MOST = 12;
/** So many names that fit are looked at, whether they are folders. */
const MOST_LOOKED_AT = 200;
/** Threads of the disk for folders that are no place: the next one is asked while a disk holds the one before. */
const THREADS = [-10, -11, -12, -13];
/** A thread that was not asked for so long ends. Longer than an answer may take. */
const REST_MS = 30_000;

@Injectable()
export class FolderNamesService {
  private thread = 0;
  private rest: NodeJS.Timeout | undefined;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly disk: DiskService,
    private readonly unfit: UnfitFoldersService,
  ) {}

  /** Absolute, with a stroke at their ends; none where the folder cannot be looked into. Hidden ones when asked for. */
  async complete(typed: string): Promise<string[]> {
    const cut = typed.lastIndexOf('/') + 1;
    const above = typedPath(typed.slice(0, cut) || '~/', this.config.xdg.home, { fromHome: true });
    if (!above.ok) return [];
    const asked = this.thread;
    try {
      return await this.folders(THREADS[asked]!, above.path, typed.slice(cut).toLowerCase());
    } catch (error) {
      if (error instanceof DiskHangs) this.leave(asked);
      return []; // not there, not readable, or a disk that hangs: nothing continues it
    } finally {
      this.endAfterRest();
    }
  }

  private async folders(thread: number, above: string, begun: string): Promise<string[]> {
    if (await this.unfit.isOwn(thread, above)) return [];
    const paths = (await this.disk.names(thread, above))
      .filter((name) => name.toLowerCase().startsWith(begun) && (begun !== '' || !name.startsWith('.')))
      .sort(compareNatural)
      .slice(0, MOST_LOOKED_AT)
      .map((name) => absolute(above, name));
    // also a link that leads to a folder, as a place may be one
    const reals = await this.disk.reals(thread, paths);
    const found: string[] = [];
    for (let i = 0; i < paths.length && found.length < MOST; i++)
      if (reals[i] != null && (await this.isFolder(thread, reals[i]!))) found.push(`${paths[i]}/`);
    return found;
  }

  private async isFolder(thread: number, real: string): Promise<boolean> {
    const seen = await this.disk.folder(thread, real).catch((error: unknown) => {
      if (error instanceof DiskHangs) throw error;
      return null;
    });
    return seen !== null && seen.isFolder && !kernelDevices().includes(seen.device);
  }

  /** The last one is kept: it answers when its disk does, and no more threads come to hang beside it. */
  private leave(asked: number): void {
    if (asked === this.thread && asked < THREADS.length - 1) this.thread++;
  }

  private endAfterRest(): void {
    clearTimeout(this.rest);
    const thread = THREADS[this.thread]!;
    this.rest = setTimeout(() => void this.disk.drop(thread), REST_MS).unref();
  }
}
