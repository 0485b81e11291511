/**
 * Full digests of files too large for their fingerprint to cover. Shortcuts' own are taken when there is time: what is
 * missing is found in the database, so that a stop loses no more than the file at hand.
 */
import { Worker } from 'node:worker_threads';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { FULL_FINGERPRINT, type Identity } from '@rellin/core/identity';
import type { FromDigests } from './digestMessages.js';
import { DiskService } from '../disk/disk.service.js';
import { absolute } from '../disk/paths.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Questions } from '../threads/questions.js';
import { IdentityRepository } from './identity.repository.js';

/** Larger files are known by their fingerprint alone. */
const DIGEST_LIMIT = 512 * 1024 * 1024;
/** A disk that gives nothing for so long is left. */
const SILENCE_MS = 20_000;

@Injectable()
export class DigestsService implements OnApplicationShutdown, AfterDisk {
  private readonly log = new Logger('digests');
  private worker: Worker | undefined;
  private questions = new Questions();
  private silence: NodeJS.Timeout | undefined;
  private open = 0;
  private filling: Promise<void> | undefined;
  private again = false;
  private stopped = false;
  /** Shortcuts whose file could not be read: not tried again until it changes or a place comes back. */
  private readonly failed = new Set<string>();

  constructor(
    private readonly rows: IdentityRepository,
    private readonly places: PlaceRegistry,
    private readonly disk: DiskService,
  ) {}

  start(): void {
    this.fill();
  }

  afterDisk(event: PlaceEvent): void {
    if (event.kind !== 'state' || event.state !== 'here') return;
    this.failed.clear();
    this.fill();
  }

  /** Whether a digest says more of a file than its fingerprint, and can be had. */
  static isFor({ type, size }: Identity): boolean {
    return type === 'file' && size > FULL_FINGERPRINT && size <= DIGEST_LIMIT;
  }

  /** Somebody waits for it; `undefined` where the file cannot be read. */
  of(path: string): Promise<string | undefined> {
    return this.ask(path, true);
  }

  /** Takes what is missing, one file after another, in the background. */
  fill(): void {
    this.again = true;
    this.filling ??= this.fillAll()
      .catch((error: Error) => this.log.warn(error.message))
      .finally(() => (this.filling = undefined));
  }

  private async fillAll(): Promise<void> {
    while (this.again && !this.stopped) {
      this.again = false;
      for (let next = await this.missing(); next && !this.stopped; next = await this.missing()) {
        const { id, identity, placeId } = next;
        const place = this.places.get(placeId);
        const digest = place && (await this.ask(absolute(place.entity.root, identity.path), false));
        if (!digest) this.failed.add(id);
        // read as it was, not as it is by now
        else if (!(await this.rows.saveDigest(id, identity, digest))) this.again = true;
      }
    }
  }

  private missing() {
    const here = this.places.all().flatMap((p) => (p.state === 'here' ? [p.entity.id] : []));
    return this.rows.withoutDigest(here, [...this.failed], FULL_FINGERPRINT, DIGEST_LIMIT);
  }

  private async ask(path: string, isWaitedFor: boolean): Promise<string | undefined> {
    const worker = (this.worker ??= this.startWorker());
    const bounds = this.disk.bounds();
    this.open++;
    this.heard();
    try {
      const answer = await this.questions.ask((ask) => worker.postMessage({ ask, path, bounds, isWaitedFor }));
      return (answer as string | null) ?? undefined;
    } catch {
      return undefined;
    } finally {
      this.open--;
      this.heard();
    }
  }

  private startWorker(): Worker {
    const worker = new Worker(new URL('./digest.worker.js', import.meta.url));
    worker.unref();
    worker.on('message', (message: FromDigests) => {
      this.heard();
      if (message.kind !== 'going') this.questions.hear(message);
    });
    worker.on('error', (error) => this.leave(worker, error));
    return worker;
  }

  /** The disk answers: the time of its silence begins anew. */
  private heard(): void {
    clearTimeout(this.silence);
    const { worker } = this;
    if (this.open > 0 && worker)
      this.silence = setTimeout(() => this.leave(worker, new Error('The disk does not answer.')), SILENCE_MS).unref();
  }

  /** A call into a disk that hangs cannot be ended: the thread stays behind, the next file gets a new one. */
  private leave(worker: Worker, error: Error): void {
    if (this.worker !== worker) return;
    this.worker = undefined;
    const { questions } = this;
    this.questions = new Questions();
    questions.fail(error);
    void worker.terminate();
  }

  /** What was unreadable may have changed. */
  forget(id: string): void {
    this.failed.delete(id);
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopped = true;
    const { worker } = this;
    if (worker) this.leave(worker, new Error('Rellin stops.'));
    await this.filling;
  }
}
