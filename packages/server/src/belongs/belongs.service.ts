/** Where originals belong, asked of a thread that is there while somebody asks. */
import { Worker } from 'node:worker_threads';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { together, WORTH_SAYING, type FileFacts, type Suggestion } from '@rellin/core/belongs';
import type { BelongsView, OriginalRef } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { OriginalsService } from '../originals/originals.service.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Questions } from '../threads/questions.js';
import type { FolderKey, FromBelongs, Suggested, ToBelongs } from './messages.js';

/** What nobody asks any more gives its memory back. */
const IDLE_MS = 10 * 60_000;

interface Thread {
  worker: Worker;
  questions: Questions;
}

const refOf = (key: FolderKey): OriginalRef => {
  const [placeId, originalId] = key.split('/').map(Number);
  return { placeId: placeId!, originalId: originalId! };
};
export const keyOf = ({ placeId, originalId }: OriginalRef): FolderKey => `${placeId}/${originalId}`;

@Injectable()
export class BelongsService implements OnApplicationShutdown, AfterDisk {
  private readonly log = new Logger('belongs');
  private thread: Thread | undefined;
  private idle: NodeJS.Timeout | undefined;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly places: PlaceRegistry,
    private readonly originals: OriginalsService,
  ) {}

  afterDisk(event: PlaceEvent): void {
    if (!this.thread) return;
    // what lies in places that came or went is counted anew
    if (event.kind === 'state') return this.end();
    const { placeId, written } = event;
    this.send(this.thread, { kind: 'changed', placeId, touched: written.touched, folders: written.foldersTouched });
  }

  /** For each file the likeliest folders but those in which all of them lie unsorted. */
  async suggest(files: FileFacts[], unsorted: readonly OriginalRef[]): Promise<Suggestion<FolderKey>[][]> {
    if (files.length === 0) return [];
    const thread = (this.thread ??= this.begin());
    clearTimeout(this.idle);
    try {
      return (await thread.questions.ask((ask) =>
        this.send(thread, { kind: 'ask', ask, files, unsorted: unsorted.map(keyOf) }),
      )) as Suggested;
    } finally {
      this.idle = setTimeout(() => this.end(), IDLE_MS).unref();
    }
  }

  /** The likeliest folders for these together, the best first. Folders belong nowhere by this. */
  async ask(refs: readonly OriginalRef[]): Promise<BelongsView[]> {
    const found = (await this.originals.wherever(refs)).filter(({ row }) => row.type === 'file');
    const files = found.map(({ row }): FileFacts => ({ name: row.name, size: row.size, modified: row.mtime }));
    const lies = new Map(
      found.map(({ row }) => {
        const ref = { placeId: row.placeId, originalId: row.parentId };
        return [keyOf(ref), ref];
      }),
    );
    const likely = together(await this.suggest(files, [...lies.values()]));
    return this.views(likely.filter((s) => s.probability >= WORTH_SAYING));
  }

  /** With names and trails; folders that are gone meanwhile are left out. */
  async views(suggestions: readonly Suggestion<FolderKey>[]): Promise<BelongsView[]> {
    const refs = suggestions.map((s) => refOf(s.folder));
    const known = await this.originals.many(refs.map(({ placeId, originalId }) => ({ placeId, id: originalId })));
    return suggestions.flatMap(({ folder, probability, reason }, i): BelongsView[] => {
      const entry = known.get(folder);
      if (!entry) return [];
      const isPlace = entry.name === '';
      const name = isPlace ? entry.trail[0]! : entry.name;
      return [{ ...refs[i]!, name, trail: isPlace ? [] : entry.trail, probability, reason }];
    });
  }

  private begin(): Thread {
    const places = this.places.all().filter((p) => p.state === 'here');
    const worker = new Worker(new URL('./belongs.worker.js', import.meta.url), {
      workerData: {
        databaseUrl: this.config.databaseUrl,
        places: places.map(({ entity }) => ({ id: entity.id, name: entity.name })),
      },
    });
    worker.unref();
    const thread: Thread = { worker, questions: new Questions() };
    worker.on('message', (message: FromBelongs) => thread.questions.hear(message));
    worker.on('error', (error) => {
      this.log.error(error.stack ?? error.message);
      thread.questions.fail(error);
      if (this.thread === thread) this.thread = undefined;
    });
    return thread;
  }

  private send({ worker }: Thread, message: ToBelongs): void {
    worker.postMessage(message);
  }

  /** Whoever still waits for its answer is told that it has to ask again. */
  private end(): void {
    clearTimeout(this.idle);
    const { thread } = this;
    this.thread = undefined;
    thread?.questions.fail(new Error('The places changed meanwhile.'));
    void thread?.worker.terminate();
  }

  async onApplicationShutdown(): Promise<void> {
    clearTimeout(this.idle);
    await this.thread?.worker.terminate();
  }
}
