/** The server's side of the indexing thread: asks, and hears what changed. */
import { Worker } from 'node:worker_threads';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { CONFIG, type Config } from '../config/config.js';
import { Questions } from '../threads/questions.js';
import type { Written } from './differences.js';
import type { FromIndexer, ScanAnswer, ToIndexer } from './indexerMessages.js';

type WithoutAsk<T> = T extends unknown ? Omit<T, 'ask'> : never;

@Injectable()
export class IndexerService implements OnApplicationShutdown {
  private readonly log = new Logger('indexer');
  private readonly worker: Worker;
  private readonly questions = new Questions();
  private closing = false;
  private readonly listeners: ((placeId: number, written: Written) => void)[] = [];
  private readonly rootGoneListeners: ((placeId: number) => void)[] = [];
  private readonly overflowListeners: ((placeId: number) => void)[] = [];
  private readonly slowedListeners: ((placeId: number, paths: readonly string[]) => void)[] = [];
  private readonly progressListeners: ((placeId: number, done: number) => void)[] = [];

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

  onWritten(listener: (placeId: number, written: Written) => void): void {
    this.listeners.push(listener);
  }
  /** More happened in a place than its watches could tell. */
  onOverflow(listener: (placeId: number) => void): void {
    this.overflowListeners.push(listener);
  }

  onRootGone(listener: (placeId: number) => void): void {
    this.rootGoneListeners.push(listener);
  }
  /** Which folders of a place are looked at more rarely, whenever that changes. */
  onSlowed(listener: (placeId: number, paths: readonly string[]) => void): void {
    this.slowedListeners.push(listener);
  }
  onProgress(listener: (placeId: number, done: number) => void): void {
    this.progressListeners.push(listener);
  }

  scan(placeId: number, root: string, excludes: string[]): Promise<ScanAnswer> {
    return this.ask({ kind: 'scan', placeId, root, excludes }) as Promise<ScanAnswer>;
  }
  stop(placeId: number): Promise<unknown> {
    return this.ask({ kind: 'stop', placeId });
  }
  watch(placeId: number, root: string, excludes: string[]): Promise<{ limited: boolean }> {
    return this.ask({ kind: 'watch', placeId, root, excludes }) as Promise<{ limited: boolean }>;
  }
  unwatch(placeId: number): Promise<unknown> {
    return this.ask({ kind: 'unwatch', placeId });
  }
  /** Waits until what the disk reported so far, and one folder as it is now, are in the index. */
  settle(placeId: number, folderId?: number): Promise<unknown> {
    return this.ask({ kind: 'settle', placeId, folderId });
  }

  /** Folders to be looked at though the system has no watch left for them. */
  poll(placeId: number, folderIds: number[]): Promise<unknown> {
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
        for (const listener of this.progressListeners) listener(message.placeId, message.done);
        break;
      case 'written':
        for (const listener of this.listeners) listener(message.placeId, message.written);
        break;
      case 'slowed':
        for (const listener of this.slowedListeners) listener(message.placeId, message.paths);
        break;
      case 'overflow':
        for (const listener of this.overflowListeners) listener(message.placeId);
        break;
      case 'root-gone':
        for (const listener of this.rootGoneListeners) listener(message.placeId);
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
