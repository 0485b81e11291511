/** The server's side of the indexing thread: asks, and hears what changed. */
import type { OriginalId, PlaceId } from '@rellin/contract';
import { Worker } from 'node:worker_threads';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { CONFIG, type Config } from '../config/config.js';
import { Questions } from '../threads/questions.js';
import type { Written } from './differences.js';
import type { FromIndexer, ScanAnswer, ToIndexer } from './indexerMessages.js';

type WithoutAsk<T> = T extends unknown ? Omit<T, 'ask'> : never;

/** Hears of a place what looking at it tells. */
export interface AfterLook {
  progressed(placeId: PlaceId, done: number): void;
  written(placeId: PlaceId, written: Written): void;
  rootGone(placeId: PlaceId): void;
  /** More happened in the place than its watches could tell. */
  overflowed(placeId: PlaceId): void;
  /** Which of its folders are looked at more rarely, whenever that changes. */
  slowed(placeId: PlaceId, paths: readonly string[]): void;
}

@Injectable()
export class IndexerService implements OnApplicationShutdown {
  private readonly log = new Logger('indexer');
  private readonly worker: Worker;
  private readonly questions = new Questions();
  private closing = false;
  private after: readonly AfterLook[] = [];

  constructor(@Inject(CONFIG) config: Config) {
    this.worker = new Worker(new URL('./indexer.worker.js', import.meta.url), {
      workerData: { databaseUrl: config.databaseUrl, own: config.ownFolders },
    });
    this.worker.on('message', (message: FromIndexer) => this.hear(message));
    this.worker.on('error', (error) => {
      this.log.error(error.stack ?? error.message);
      this.questions.fail(error);
    });
  }

  followedBy(after: readonly AfterLook[]): void {
    this.after = after;
  }

  scan(placeId: PlaceId, root: string, excludes: string[]): Promise<ScanAnswer> {
    return this.ask({ kind: 'scan', placeId, root, excludes }) as Promise<ScanAnswer>;
  }
  stop(placeId: PlaceId): Promise<unknown> {
    return this.ask({ kind: 'stop', placeId });
  }
  watch(placeId: PlaceId, root: string, excludes: string[]): Promise<{ limited: boolean }> {
    return this.ask({ kind: 'watch', placeId, root, excludes }) as Promise<{ limited: boolean }>;
  }
  unwatch(placeId: PlaceId): Promise<unknown> {
    return this.ask({ kind: 'unwatch', placeId });
  }
  /** Waits until what the disk reported so far, and one folder as it is now, are in the index. */
  settle(placeId: PlaceId, folderId?: OriginalId): Promise<unknown> {
    return this.ask({ kind: 'settle', placeId, folderId });
  }

  /** Folders to be looked at though the system has no watch left for them. */
  poll(placeId: PlaceId, folderIds: number[]): Promise<unknown> {
    return this.ask({ kind: 'poll', placeId, folderIds });
  }

  private ask(message: WithoutAsk<ToIndexer>): Promise<unknown> {
    if (this.closing) return Promise.reject(new Error('Rellin is stopping'));
    return this.questions.ask((ask) => this.worker.postMessage({ ...message, ask }));
  }

  private hear(message: FromIndexer): void {
    switch (message.kind) {
      case 'answer':
      case 'failure':
        this.questions.hear(message);
        break;
      case 'progress':
        for (const one of this.after) one.progressed(message.placeId, message.done);
        break;
      case 'written':
        for (const one of this.after) one.written(message.placeId, message.written);
        break;
      case 'slowed':
        for (const one of this.after) one.slowed(message.placeId, message.paths);
        break;
      case 'overflow':
        for (const one of this.after) one.overflowed(message.placeId);
        break;
      case 'root-gone':
        for (const one of this.after) one.rootGone(message.placeId);
        break;
      case 'trouble':
        this.log.warn(`watching place ${message.placeId}: ${message.message}`);
        break;
    }
  }

  async onApplicationShutdown(): Promise<void> {
    const closed = this.ask({ kind: 'close' });
    this.closing = true;
    await Promise.race([closed, new Promise((resolve) => setTimeout(resolve, 2000).unref())]).catch(() => undefined);
    await this.worker.terminate();
  }
}
