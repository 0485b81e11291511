/** Looking at the disk of a place, in a thread of the place's own and within a time limit. */
import type { PlaceId } from '@rellin/contract';
import { Worker } from 'node:worker_threads';
import { Readable } from 'node:stream';
import { Inject, Injectable, Optional, type OnApplicationShutdown } from '@nestjs/common';
import type { LinkStep, Listing } from '@rellin/core/aliases';
import type { Sight } from '@rellin/core/identity';
import { piecesOf } from '@rellin/core/lists';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { CONFIG, type Config } from '../config/config.js';
import { Refusal } from '../problems/refusal.js';
import { Questions, type Reply } from '../threads/questions.js';
import type { Bounds } from './inside.js';
import { refusalOf } from './refusals.js';
import type { DiskAnswers, DiskTask, FolderSight, StepOutcome } from './diskMessages.js';

/** A disk that does not answer within this time is taken for one that hangs. */
const ANSWER_MS = 8000;
/** So many at once, so that the limit holds for a slow disk too. */
const AT_ONCE = 500;
/** A count that takes longer says “more than”. */
const COUNT_MS = 1500;
/** Folders whose links are listed at once. */
const FOLDERS_AT_ONCE = 20;

export class DiskHangs extends Refusal {
  constructor() {
    super('original-away', 'The disk does not answer.', {
      remedy: 'Check its connection. Everything on it comes back by itself when it answers again.',
    });
  }
}

/** Bytes asked for at once while a file is sent. */
const CHUNK = 1 << 19;

/** A regular file that the thread of its place holds open. */
export interface OpenedFile {
  /** Bytes, as it was opened. */
  size: number;
  /** From a position; fewer than asked for where the file ends, none beyond. */
  read(position: number, length: number): Promise<Uint8Array>;
  close(): Promise<void>;
}

interface Thread {
  worker: Worker;
  questions: Questions;
  /** It has not answered in time: nothing more is asked of it until it does. */
  hangs: boolean;
}

@Injectable()
export class DiskService implements OnApplicationShutdown {
  private readonly threads = new Map<number, Thread>();

  private roots: () => readonly string[] = () => [];

  constructor(
    @Inject(CONFIG) private readonly config: Pick<Config, 'ownFolders' | 'linkMark'>,
    /** How long an answer is waited for, in milliseconds. */
    @Optional() private readonly limit = ANSWER_MS,
  ) {}

  /** Whoever knows the places says what may be reached. */
  reach(roots: () => readonly string[]): void {
    this.roots = roots;
  }

  /** What may be reached just now, for threads that read by themselves. */
  bounds(): Bounds {
    return { roots: this.roots(), own: this.config.ownFolders };
  }

  /** What stands at these absolute paths, in their order. The paths of what was seen are as they were asked. */
  async sights(placeId: PlaceId, paths: readonly string[]): Promise<Sight[]> {
    const out: Sight[] = [];
    for (const some of piecesOf(paths, AT_ONCE))
      out.push(...(await this.ask(placeId, { kind: 'sights', paths: some })));
    return out;
  }

  /** Of each file; null where it cannot be read. */
  async fingerprints(placeId: PlaceId, files: { path: string; size: number }[]): Promise<(string | null)[]> {
    const out: (string | null)[] = [];
    for (const file of files)
      out.push(...(await this.ask(placeId, { kind: 'fingerprints', files: [file], bounds: this.bounds() })));
    return out;
  }

  folder(placeId: PlaceId, path: string): Promise<FolderSight | null> {
    return this.ask(placeId, { kind: 'folder', path });
  }

  names(placeId: PlaceId, path: string): Promise<string[]> {
    return this.ask(placeId, { kind: 'names', path });
  }

  /** How many entries lie below a folder, looked for so long as somebody waits for a figure. */
  count(
    placeId: PlaceId,
    path: string,
    excludes: readonly string[],
    shut: readonly string[],
  ): Promise<{ entries: number; isAll: boolean }> {
    return this.ask(placeId, { kind: 'count', path, excludes, shut, ms: COUNT_MS });
  }

  /** Free and total bytes. */
  space(placeId: PlaceId, path: string): Promise<{ free: number; total: number }> {
    return this.ask(placeId, { kind: 'space', path });
  }

  /** Where each path leads, all links followed; null where nowhere. */
  async reals(placeId: PlaceId, paths: readonly string[]): Promise<(string | null)[]> {
    const out: (string | null)[] = [];
    for (const some of piecesOf(paths, AT_ONCE)) out.push(...(await this.ask(placeId, { kind: 'reals', paths: some })));
    return out;
  }

  /** What lies in each folder, as far as it may be a link of ours; null where a folder is not there. */
  async links(placeId: PlaceId, folders: readonly string[]): Promise<(Listing | null)[]> {
    const out: (Listing | null)[] = [];
    const { linkMark: mark } = this.config;
    for (const some of piecesOf(folders, FOLDERS_AT_ONCE))
      out.push(...(await this.ask(placeId, { kind: 'links', folders: some, bounds: this.bounds(), mark })));
    return out;
  }

  /** Does steps with links, in their order; one that cannot be done does not keep the others from it. */
  linkSteps(placeId: PlaceId, steps: LinkStep[]): Promise<StepOutcome[]> {
    return this.ask(placeId, { kind: 'link-steps', steps, bounds: this.bounds(), mark: this.config.linkMark });
  }

  /** Where a path leads, links followed; refused where that is outside the places. */
  async real(placeId: PlaceId, path: string): Promise<string> {
    return this.ask(placeId, { kind: 'real', path, bounds: this.bounds() }).catch((error: unknown) => {
      throw refusalOf(error, path);
    });
  }

  /** Refused where a folder cannot be listed. */
  async readable(placeId: PlaceId, path: string): Promise<void> {
    await this.ask(placeId, { kind: 'readable', path, bounds: this.bounds() }).catch((error: unknown) => {
      throw refusalOf(error, path);
    });
  }

  /**
   * Whether something stands at a path below the places; told only where no link is on the way, which may lead outside.
   */
  async stands(placeId: PlaceId, path: string): Promise<boolean> {
    return this.ask(placeId, { kind: 'stands', path, bounds: this.bounds() }).catch((error: unknown) => {
      throw refusalOf(error, path);
    });
  }

  /** Opens a regular file below the places, links followed as long as they stay there. Close it. */
  async open(placeId: PlaceId, path: string): Promise<OpenedFile> {
    const { file, size } = await this.ask(placeId, { kind: 'open', path, bounds: this.bounds() }).catch(
      (error: unknown) => {
        throw refusalOf(error, path);
      },
    );
    return {
      size,
      read: (position, length) => this.ask(placeId, { kind: 'read', file, position, length }),
      close: () =>
        this.ask(placeId, { kind: 'close', file }).then(
          () => undefined,
          () => undefined,
        ),
    };
  }

  /** A file's bytes from `start` to `end`, both counted; it is closed at the end, whatever that is. */
  stream(file: OpenedFile, start: number, end: number): Readable {
    async function* bytes(): AsyncGenerator<Uint8Array> {
      try {
        for (let at = start; at <= end;) {
          const chunk = await file.read(at, Math.min(CHUNK, end + 1 - at));
          // cut short while it is sent: whoever waits for the rest learns that it does not come
          if (chunk.length === 0) throw new Error('the file was cut short while it was sent');
          at += chunk.length;
          yield chunk;
        }
      } finally {
        await file.close();
      }
    }
    return Readable.from(bytes(), { objectMode: false });
  }

  /** The whole of a file; refused where it is larger than `limit` bytes. */
  async whole(placeId: PlaceId, path: string, limit: number): Promise<Buffer> {
    const file = await this.open(placeId, path);
    try {
      if (file.size > limit)
        throw new Refusal(
          'too-large',
          `${shown(path)} is ${formatBytes(file.size)}; up to ${formatBytes(limit)} are read.`,
        );
      const chunks: Uint8Array[] = [];
      for (let at = 0; at < file.size;) {
        const chunk = await file.read(at, Math.min(CHUNK, file.size - at));
        if (chunk.length === 0) break;
        chunks.push(chunk);
        at += chunk.length;
      }
      return Buffer.concat(chunks);
    } finally {
      await file.close();
    }
  }

  private async ask<T extends DiskTask>(placeId: PlaceId, task: T): Promise<DiskAnswers[T['kind']]> {
    const thread = this.thread(placeId);
    if (thread.hangs) throw new DiskHangs();
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<never>((_, reject) => {
      timer = setTimeout(() => {
        // a call into a file system that hangs cannot be ended, and a second thread would only hang beside it
        thread.hangs = true;
        thread.worker.unref();
        reject(new DiskHangs());
      }, this.limit);
    });
    try {
      const answer = thread.questions.ask((ask) => thread.worker.postMessage({ ...task, ask }));
      return (await Promise.race([answer, late])) as DiskAnswers[T['kind']];
    } finally {
      clearTimeout(timer);
    }
  }

  private thread(placeId: PlaceId): Thread {
    const known = this.threads.get(placeId);
    if (known) return known;
    const worker = new Worker(new URL('./disk.worker.js', import.meta.url), { env: process.env });
    const thread: Thread = { worker, questions: new Questions(), hangs: false };
    worker.on('message', (reply: Reply) => {
      thread.hangs = false;
      thread.questions.hear(reply);
    });
    worker.on('error', (error) => thread.questions.fail(error));
    worker.on('exit', () => {
      if (this.threads.get(placeId) === thread) this.threads.delete(placeId);
      thread.questions.fail(new DiskHangs());
    });
    this.threads.set(placeId, thread);
    return thread;
  }

  /** The place is no longer looked at. A thread that hangs ends when its disk answers; it is not waited for. */
  async drop(placeId: PlaceId): Promise<void> {
    const thread = this.threads.get(placeId);
    this.threads.delete(placeId);
    const ended = thread?.worker.terminate();
    if (!thread?.hangs) await ended;
  }

  async onApplicationShutdown(): Promise<void> {
    // one that hangs is not waited for
    const ended = [...this.threads.values()].map((t) => t.worker.terminate());
    await Promise.race([Promise.allSettled(ended), new Promise((resolve) => setTimeout(resolve, 500).unref())]);
  }
}
