/** Looking at the disk of a place, in a thread of the place's own and within a time limit. */
import { Worker } from 'node:worker_threads';
import { Injectable, Optional, type OnApplicationShutdown } from '@nestjs/common';
import type { LinkStep, SeenEntry } from '@rellin/core/aliases';
import type { Sight } from '@rellin/core/identity';
import { Questions, type Reply } from '../threads/questions.js';
import type { DiskAnswers, DiskTask, FolderSight, StepOutcome } from './diskMessages.js';

/** A disk that does not answer within this time is taken for one that hangs. */
const ANSWER_MS = 8000;
/** So many at once, so that the limit holds for a slow disk too. */
const AT_ONCE = 500;

export class DiskHangs extends Error {
  constructor() {
    super('The disk does not answer.');
  }
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

  /** How long an answer is waited for, in milliseconds. */
  constructor(@Optional() private readonly limit = ANSWER_MS) {}

  /** What stands at these absolute paths, in their order. The paths of what was seen are as they were asked. */
  async sights(placeId: number, paths: readonly string[]): Promise<Sight[]> {
    const out: Sight[] = [];
    for (let i = 0; i < paths.length; i += AT_ONCE)
      out.push(...(await this.ask(placeId, { kind: 'sights', paths: paths.slice(i, i + AT_ONCE) })));
    return out;
  }

  /** Of each file; null where it cannot be read. */
  async fingerprints(placeId: number, files: { path: string; size: number }[]): Promise<(string | null)[]> {
    const out: (string | null)[] = [];
    for (const file of files) out.push(...(await this.ask(placeId, { kind: 'fingerprints', files: [file] })));
    return out;
  }

  folder(placeId: number, path: string): Promise<FolderSight | null> {
    return this.ask(placeId, { kind: 'folder', path });
  }

  names(placeId: number, path: string): Promise<string[]> {
    return this.ask(placeId, { kind: 'names', path });
  }

  /** Free and total bytes. */
  space(placeId: number, path: string): Promise<{ free: number; total: number }> {
    return this.ask(placeId, { kind: 'space', path });
  }

  /** Where each path leads, all links followed; null where nowhere. */
  async reals(placeId: number, paths: readonly string[]): Promise<(string | null)[]> {
    const out: (string | null)[] = [];
    for (let i = 0; i < paths.length; i += AT_ONCE)
      out.push(...(await this.ask(placeId, { kind: 'reals', paths: paths.slice(i, i + AT_ONCE) })));
    return out;
  }

  /** What lies in each folder, as far as it may be a link of ours; null where a folder is not there. */
  async links(placeId: number, folders: readonly string[]): Promise<(SeenEntry[] | null)[]> {
    const out: (SeenEntry[] | null)[] = [];
    for (const folder of folders) out.push(...(await this.ask(placeId, { kind: 'links', folders: [folder] })));
    return out;
  }

  /** Does steps with links, in their order; one that cannot be done does not keep the others from it. */
  linkSteps(placeId: number, steps: LinkStep[]): Promise<StepOutcome[]> {
    return this.ask(placeId, { kind: 'link-steps', steps });
  }

  private async ask<T extends DiskTask>(placeId: number, task: T): Promise<DiskAnswers[T['kind']]> {
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

  private thread(placeId: number): Thread {
    const known = this.threads.get(placeId);
    if (known) return known;
    const worker = new Worker(new URL('./disk.worker.js', import.meta.url));
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

  /** The place is no longer looked at. */
  async drop(placeId: number): Promise<void> {
    const thread = this.threads.get(placeId);
    this.threads.delete(placeId);
    await thread?.worker.terminate();
  }

  async onApplicationShutdown(): Promise<void> {
    // one that hangs is not waited for
    const ended = [...this.threads.values()].map((t) => t.worker.terminate());
    await Promise.race([Promise.allSettled(ended), new Promise((resolve) => setTimeout(resolve, 500).unref())]);
  }
}
