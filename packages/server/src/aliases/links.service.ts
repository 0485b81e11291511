/**
 * Keeps the links on disk in step with the catalogue, both ways. What is wanted is reckoned from the catalogue each time,
 * so that an undo, a follow and a start after a crash all end in the same: intent, act, done.
 */
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { planLinks, type LinkStep, type WantedLink, type WrittenLink } from '@rellin/core/aliases';
import { nameOf, parentOf } from '@rellin/core/paths';
import { DiskService } from '../disk/disk.service.js';
import { EventsService } from '../events/events.service.js';
import { faultPoint } from '../faults/faultPoint.js';
import { JournalService } from '../journal/journal.service.js';
import { PlacesService, type LivePlace } from '../places/places.service.js';
import { ProgramsService } from '../programs/programs.service.js';
import { ByHandService } from './byHand.service.js';
import { MenusService } from './menus.service.js';
import { WantedLinksService } from './wantedLinks.service.js';
import { WrittenLinksRepository } from './writtenLinks.repository.js';

/** What changes which links are wanted. */
const TABLES = new Set(['alias', 'publication', 'shortcut', 'member', 'collection', 'tag', 'tagging', 'saved_search']);
const SOON_MS = 30;
/** After a change on disk: the index, saved searches and shortcuts are brought after it first. */
const AFTER_DISK_MS = 250;
/** What a person undoes at once the index never hears of: what was written is looked at once more. */
const ONCE_MORE_MS = 1000;
/** One that is missing may have been moved: the index hears of both halves within this time. */
const MISSING_MS = 600;
/** What the disk did not take is tried again. */
const RETRY_MS = 5000;
/** So many steps between intent and done. */
const STEPS = 200;

@Injectable()
export class LinksService implements OnApplicationShutdown {
  private readonly log = new Logger('links');
  private running: Promise<void> = Promise.resolve();
  private timer: NodeJS.Timeout | undefined;
  /** When the next look is due; a later wish does not put it off. */
  private due = Infinity;
  /** Keys of links that are missing, and since when. */
  private readonly missing = new Map<string, number>();
  private started = false;
  private stopped = false;

  constructor(
    private readonly db: DataSource,
    private readonly wanted: WantedLinksService,
    private readonly written: WrittenLinksRepository,
    private readonly byHand: ByHandService,
    private readonly disk: DiskService,
    private readonly places: PlacesService,
    private readonly menus: MenusService,
    private readonly events: EventsService,
    journal: JournalService,
    programs: ProgramsService,
  ) {
    journal.onCommitted((changes) => {
      if (changes.some((c) => TABLES.has(c.table))) this.soon(SOON_MS);
    });
    places.onEvent(async () => this.soon(AFTER_DISK_MS));
    programs.onChange(() => this.soon(AFTER_DISK_MS));
  }

  /** Also what was cut short by the last end. */
  async start(): Promise<void> {
    this.started = true;
    await this.settle();
  }

  private soon(ms: number): void {
    const at = Date.now() + ms;
    if (!this.started || this.stopped || at >= this.due) return;
    clearTimeout(this.timer);
    this.due = at;
    this.timer = setTimeout(() => void this.settle(), ms).unref();
  }

  /** Brings the disk in step now, after what goes on already. */
  settle(): Promise<void> {
    clearTimeout(this.timer);
    this.due = Infinity;
    const run = this.running.then(() => this.all());
    this.running = run.catch((error: Error) => this.log.warn(error.message));
    return this.running;
  }

  private async all(): Promise<void> {
    if (this.stopped) return;
    const [{ any }] = (await this.db.query(
      `SELECT EXISTS (SELECT FROM alias) OR EXISTS (SELECT FROM publication) OR EXISTS (SELECT FROM written_link) AS any`,
    )) as [{ any: boolean }];
    // one that fails, as a share does that hangs, does not keep the others from it
    const attempt = (work: Promise<void>) =>
      work.catch((error: Error) => {
        this.log.warn(error.message);
        this.soon(RETRY_MS);
      });
    if (any)
      for (const place of this.places.all())
        if (place.state === 'here' && !this.stopped) await attempt(this.bring(place));
    await attempt(this.menus.bring());
  }

  private async bring(place: LivePlace, again = true): Promise<void> {
    const placeId = place.entity.id;
    const { root } = place.entity;
    const wanted = await this.wanted.of(placeId);
    const { written, aside } = await this.written.of(placeId, root);
    if (wanted.length + written.length + aside.length === 0) return;
    const folders = new Set<string>();
    for (const w of wanted) if ('path' in w.in) folders.add(w.in.path);
    for (const { form, now, next } of [...written, ...aside])
      for (const at of [now, next])
        if (at) {
          folders.add(parentOf(at.path));
          if (form === 'folder') folders.add(at.path);
        }
    const list = [...folders];
    const seen = await this.disk.links(placeId, list);
    const listed = new Map(list.map((folder, i) => [folder, seen[i]!]));
    const plan = planLinks(wanted, written, (folder) => listed.get(folder) ?? undefined);
    if (plan.deleted.length > 0 && again && (await this.byHand.moved(placeId, root, plan, written)))
      return this.bring(place, false);
    const early = this.missingLately(plan.deleted, written);
    const waits = (key: string) => early.some((k) => key === k || key.startsWith(`${k}/`));
    const todo = plan.steps.filter((s) => s.do !== 'forget' || !waits(s.key));
    const byKey = new Map(wanted.map((w) => [w.key, w]));
    const isForeign = (key: string) => written.some((w) => w.key === key && w.foreign);
    for (const steps of together(todo)) if (!this.stopped) await this.carryOut(placeId, root, steps, byKey, isForeign);
    if (todo.length > 0) this.events.changed('aliases');
    if (todo.some((s) => s.do === 'adopt')) return this.bring(place, again);
    for (const key of plan.deleted) if (!waits(key)) await this.byHand.wasDeleted(key);
    for (const drop of plan.dropped)
      if (!aside.some((a) => a.now?.path === drop.path && a.now.content === drop.entry.content))
        await this.byHand.wasDropped(placeId, root, drop.folderKey, drop.path, drop.entry);
    for (const { key, now } of aside)
      if (now && !listed.get(parentOf(now.path))?.some((e) => e.name === nameOf(now.path)))
        await this.written.forget(key);
  }

  /** Of the links of a place that are missing, those that have not been for long enough to be sure. */
  private missingLately(deleted: readonly string[], written: readonly WrittenLink[]): string[] {
    const now = Date.now();
    for (const { key } of written) if (!deleted.includes(key)) this.missing.delete(key);
    for (const key of deleted) if (!this.missing.has(key)) this.missing.set(key, now);
    const early = deleted.filter((key) => now - this.missing.get(key)! < MISSING_MS);
    if (early.length > 0) this.soon(MISSING_MS);
    for (const key of deleted) if (!early.includes(key)) this.missing.delete(key);
    return early;
  }

  /** Intent, act, done: cut short anywhere, the next plan knows what stands there for ours. */
  private async carryOut(
    placeId: number,
    root: string,
    steps: LinkStep[],
    wanted: ReadonlyMap<string, WantedLink>,
    isForeign: (key: string) => boolean,
  ): Promise<void> {
    await this.written.meant(placeId, root, steps, wanted);
    faultPoint('links meant');
    const outcomes = await this.disk.linkSteps(placeId, steps);
    faultPoint('links done, not recorded');
    await this.written.done(placeId, root, steps, outcomes, isForeign);
    this.soon(outcomes.some((o) => o.ok) ? ONCE_MORE_MS : RETRY_MS);
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopped = true;
    clearTimeout(this.timer);
    await this.running;
  }
}

/** Steps whose intents are recorded together: what follows a folder's new name when that is done, one for each link. */
function together(steps: readonly LinkStep[]): LinkStep[][] {
  const out: LinkStep[][] = [];
  for (const step of steps) {
    const last = out[out.length - 1];
    const before = last?.[last.length - 1];
    const opens =
      !before ||
      last!.length === STEPS ||
      (before.do === 'change' && before.form === 'folder') ||
      last!.some((s) => s.key === step.key);
    if (opens) out.push([step]);
    else last!.push(step);
  }
  return out;
}
