/** Folders that cannot be a place: Rellin's own data, what the kernel shows of itself, what may not be read. */
import { Inject, Injectable } from '@nestjs/common';
import { isWithin, shown } from '@rellin/core/paths';
import { CONFIG, type Config } from '../config/config.js';
import { DiskService } from '../disk/disk.service.js';
import { kernelDevices } from '../disk/kernelFolders.js';
import { refusalOf } from '../disk/refusals.js';
import { Refusal } from '../problems/refusal.js';

/** Numbers of disk threads for folders that are no place yet, from here down: two asked about at once have each one. */
const NO_PLACE = -1000;

@Injectable()
export class UnfitFoldersService {
  private asked = 0;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly disk: DiskService,
  ) {}

  /** Whether a folder is Rellin's own data folder or lies in it, links resolved. */
  async isOwn(threadOf: number, root: string): Promise<boolean> {
    const [real, ...own] = await this.disk.reals(threadOf, [root, ...this.config.ownFolders]);
    return real != null && own.some((folder) => folder !== null && isWithin(folder, real));
  }

  /** Refuses what cannot be a place; in a thread that can be given up, for it may lie on a disk that hangs. */
  async refuse(root: string): Promise<void> {
    const where = shown(root);
    const thread = NO_PLACE - this.asked++;
    try {
      const seen = await this.disk.folder(thread, root).catch((error: unknown) => {
        throw refusalOf(error, root);
      });
      if (!seen) throw new Refusal('not-found', `There is no folder ${where}.`);
      const [real] = await this.disk.reals(thread, [root]);
      const there = real == null ? undefined : await this.disk.folder(thread, real);
      if (!there?.isFolder) throw new Refusal('not-a-folder', `${where} is not a folder. A place is a folder.`);
      if (await this.isOwn(thread, root))
        throw new Refusal('forbidden', `${where} lies in Rellin’s own data folder, which cannot be a place.`, {
          remedy: 'Choose another folder. A folder that contains it can be a place; Rellin leaves its own data out.',
        });
      if (kernelDevices().includes(there.device))
        throw new Refusal(
          'forbidden',
          `${where} belongs to the system, which shows its own state there as if it were files. It cannot be a place.`,
          {
            remedy: 'Choose a folder that holds files of yours.',
          },
        );
      await this.disk.names(thread, root).catch(() => {
        throw new Refusal('no-access', `Rellin may not read ${where}.`, {
          remedy: 'Change its permissions, then add it.',
        });
      });
    } finally {
      await this.disk.drop(thread);
    }
  }
}
