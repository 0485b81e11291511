/**
 * Looks at folders that are no place yet. Each mount has a thread of its own: a drive that hangs, or goes away while it
 * is looked at, keeps nobody waiting who asked of another one.
 */
import { Inject, Injectable } from '@nestjs/common';
import type { Sight } from '@rellin/core/identity';
import { grouped } from '@rellin/core/lists';
import { isOfKernel, mountOf, type Mount } from '@rellin/core/mounts';
import { isWithin } from '@rellin/core/paths';
import type { FolderCount } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { DiskHangs, DiskService } from '../disk/disk.service.js';
import { readFileSystems } from './fileSystems.js';

/** Numbers of disk threads below those of other rooms for what is no place. */
const FIRST_THREAD = -100;
/** Further mounts share the last thread: nobody has as many disks. */
const MOST_THREADS = 8;
/** A thread that was not asked for so long ends. Longer than an answer may take. */
const REST_MS = 30_000;

/** Why something is neither listed nor counted. */
export const SHUT = 'It belongs to the system or to Rellin itself.';

@Injectable()
export class LookingService {
  private readonly threadOf = new Map<string, number>();
  private rest: NodeJS.Timeout | undefined;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly disk: DiskService,
  ) {}

  /** As the system has them now, without what the kernel shows of itself. */
  mounts(): Mount[] {
    return readFileSystems().mounts.filter((mount) => !isOfKernel(mount));
  }

  /** What stands at absolute paths, and where each leads, links followed. What hangs or fails counts as not there. */
  async resolved(paths: readonly string[]): Promise<({ path: string; sight: Sight } | undefined)[]> {
    const out = new Map<string, { path: string; sight: Sight }>();
    const mounts = this.mounts();
    const some = [...grouped([...new Set(paths)], (path) => this.thread(path, mounts))];
    await Promise.all(
      some.map(async ([thread, asked]) => {
        try {
          const reals = await this.disk.reals(thread, asked);
          const there = asked.flatMap((path, i) => (reals[i] == null ? [] : [{ path, real: reals[i] }]));
          const sights = await this.disk.sights(
            thread,
            there.map(({ real }) => real),
          );
          there.forEach(({ path, real }, i) => out.set(path, { path: real, sight: sights[i]! }));
        } catch (error) {
          if (!(error instanceof DiskHangs)) throw error;
        }
      }),
    );
    this.endAfterRest();
    return paths.map((path) => out.get(path));
  }

  /** The names in a folder, and what stands against listing it, in words. */
  async listed(path: string): Promise<{ names: string[]; trouble: string | null }> {
    try {
      return { names: await this.disk.names(this.thread(path, this.mounts()), path), trouble: null };
    } catch (error) {
      return { names: [], trouble: troubleOf(error) };
    } finally {
      this.endAfterRest();
    }
  }

  /** Whether the kernel shows its own state there. */
  isOfKernel(path: string): boolean {
    const mount = mountOf(readFileSystems().mounts, path);
    return mount !== undefined && isOfKernel(mount);
  }

  /** Whether a folder is the kernel's or Rellin's own, under whatever name: links are followed. */
  async isShut(path: string): Promise<boolean> {
    const [real] = await this.resolved([path]);
    return [path, ...(real ? [real.path] : [])].some((one) => this.isOfKernel(one) || this.isOwn(one));
  }

  /** Rellin's own, by its path. */
  isOwn(path: string): boolean {
    return this.config.ownFolders.some((own) => isWithin(own, path));
  }

  /** Counts for a moment what lies in a folder, as its index would have it. */
  async count(path: string, excludes: readonly string[]): Promise<FolderCount> {
    if (await this.isShut(path)) return { entries: 0, isAll: true, trouble: SHUT };
    const kernels = readFileSystems().mounts.flatMap((mount) => (isOfKernel(mount) ? [mount.at] : []));
    try {
      const thread = this.thread(path, this.mounts());
      const counted = await this.disk.count(thread, path, excludes, [...kernels, ...this.config.ownFolders]);
      return { ...counted, trouble: null };
    } catch (error) {
      return { entries: 0, isAll: true, trouble: troubleOf(error) };
    } finally {
      this.endAfterRest();
    }
  }

  private thread(path: string, mounts: readonly Mount[]): number {
    const at = mountOf(mounts, path)?.at ?? '/';
    const known = this.threadOf.get(at);
    if (known !== undefined) return known;
    const thread = FIRST_THREAD - Math.min(this.threadOf.size, MOST_THREADS - 1);
    this.threadOf.set(at, thread);
    return thread;
  }

  private endAfterRest(): void {
    clearTimeout(this.rest);
    this.rest = setTimeout(() => {
      for (const thread of new Set(this.threadOf.values())) void this.disk.drop(thread);
      this.threadOf.clear();
    }, REST_MS).unref();
  }
}

function troubleOf(error: unknown): string {
  if (error instanceof DiskHangs) return 'The disk does not answer.';
  const { code } = error as NodeJS.ErrnoException;
  if (code === 'EACCES' || code === 'EPERM') return 'Rellin may not read it.';
  return code === 'ENOTDIR' ? 'It is not a folder.' : 'It is not there.';
}
