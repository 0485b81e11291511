/**
 * Keeps the links on disk in step with the catalogue, both ways. What is wanted is calculated from the catalogue each
 * time, so that an undo, a follow and a start after a crash all end in the same: intent, act, done. One alias or
 * publication is brought in step at a time, and only what a change concerns; what a person waits for goes before the
 * rest.
 */
import type { PlaceId } from '@rellin/contract';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { planLinks, type LinkPlan, type LinkStep, type Listing, type WantedLink } from '@rellin/core/aliases';
import { grouped } from '@rellin/core/lists';
import { nameOf, parentOf } from '@rellin/core/paths';
import { DiskService } from '../disk/disk.service.js';
import { below } from '../disk/paths.js';
import { EventsService } from '../events/events.service.js';
import { faultPoint } from '../faults/faultPoint.js';
import type { AfterAct } from '../journal/journal.service.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { PlaceRegistry, type LivePlace } from '../places/placeRegistry.js';
import type { AfterPrograms } from '../programs/programs.service.js';
import { ManualLinkChangesService } from './manualLinkChanges.service.js';
import { partsOf, unitOf, type Unit } from './linkKeys.js';
import { LinkScope } from './linkScope.js';
import { LinkScopeRepository } from './linkScope.repository.js';
import { MenusService } from './menus.service.js';
import { DesiredLinksService } from './desiredLinks.service.js';
import { WrittenLinksRepository } from './writtenLinks.repository.js';
import type { RowChange } from '../journal/rowChange.js';

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
/** So often is a unit looked at again in one go; what still changes then is left to the next pass. */
const MOST_LOOKS = 5;

@Injectable()
export class LinksService implements OnApplicationShutdown, AfterAct, AfterDisk, AfterPrograms {
  private readonly log = new Logger('links');
  private running: Promise<void> = Promise.resolve();
  private timer: NodeJS.Timeout | undefined;
  /** When the next look is due; a later wish does not put it off. */
  private due = Infinity;
  /** What the next look is for. */
  private scope = new LinkScope();
  private changes: RowChange[] = [];
  private placeEvents: PlaceEvent[] = [];
  /** What somebody waits for. */
  private readonly urgent: { scope: LinkScope; mayBeMenu: boolean; done: () => void }[] = [];
  /** Keys of links that are missing: since when, and from which folder. */
  private readonly missing = new Map<string, { since: number; folderInode: number }>();
  private started = false;
  private stopped = false;

  constructor(
    private readonly db: DataSource,
    private readonly scopes: LinkScopeRepository,
    private readonly wanted: DesiredLinksService,
    private readonly written: WrittenLinksRepository,
    private readonly byHand: ManualLinkChangesService,
    private readonly disk: DiskService,
    private readonly places: PlaceRegistry,
    private readonly menus: MenusService,
    private readonly pages: EventsService,
  ) {}

  afterAct(changes: RowChange[]): void {
    const some = changes.filter((c) => TABLES.has(c.table));
    if (some.length === 0) return;
    for (const change of some) this.changes.push(change);
    this.soon(SOON_MS);
  }

  afterDisk(event: PlaceEvent): void {
    this.placeEvents.push(event);
    this.soon(AFTER_DISK_MS);
  }

  afterPrograms(): void {
    this.soon(AFTER_DISK_MS, LinkScope.all());
  }

  /** Also what was cut short by the last end. */
  async start(): Promise<void> {
    this.started = true;
    this.scope = LinkScope.all();
    await this.pass();
  }

  private soon(ms: number, scope?: LinkScope): void {
    if (scope) this.scope.add(scope);
    const at = Date.now() + ms;
    if (!this.started || this.stopped || at >= this.due) return;
    clearTimeout(this.timer);
    this.due = at;
    this.timer = setTimeout(() => void this.pass(), ms).unref();
  }

  /** Brings one alias or publication in step, before all that can wait. */
  now(key: string): Promise<void> {
    const { kind, id } = partsOf(key);
    const scope = LinkScope.of(kind === 'alias' ? { aliases: [id] } : { publications: [id] });
    const done = new Promise<void>((resolve) =>
      this.urgent.push({ scope, mayBeMenu: kind === 'publication', done: resolve }),
    );
    void this.inTurn(async () => void (await this.urgentFirst()));
    return done;
  }

  private inTurn(work: () => Promise<void>): Promise<void> {
    this.running = this.running.then(work).catch((error: Error) => this.log.warn(error.message));
    return this.running;
  }

  private pass(): Promise<void> {
    clearTimeout(this.timer);
    this.due = Infinity;
    return this.inTurn(async () => {
      await this.urgentFirst();
      await this.attempt(
        this.concerned().then((scope) => this.bring(scope)),
        LinkScope.all(),
      );
      await this.bringMenus();
    });
  }

  private bringMenus(): Promise<void> {
    return this.attempt(this.menus.bring(), new LinkScope());
  }

  /** What has come together since the last pass. */
  private async concerned(): Promise<LinkScope> {
    const { scope, changes, placeEvents } = this;
    this.scope = new LinkScope();
    this.changes = [];
    this.placeEvents = [];
    if (changes.length > 0) scope.add(await this.scopes.ofChanges(changes));
    for (const [placeId, some] of grouped(placeEvents, (e) => e.placeId)) {
      const folders = new Set<number>();
      let all = false;
      for (const event of some)
        if (event.kind === 'state' || event.whole || event.written.foldersTouched) all = true;
        else for (const folder of event.written.folders) folders.add(folder);
      scope.add(await this.scopes.ofFolders(placeId, all ? undefined : [...folders]));
    }
    return scope;
  }

  /** Whether there was anything. */
  private async urgentFirst(): Promise<boolean> {
    const any = this.urgent.length > 0;
    for (let next = this.urgent.shift(); next; next = this.urgent.shift()) {
      // whoever waits is let go, whatever became of it: what failed is tried again, and its state says so
      await this.attempt(this.bring(next.scope), next.scope);
      if (next.mayBeMenu) await this.bringMenus();
      next.done();
    }
    return any;
  }

  private async bring(scope: LinkScope): Promise<void> {
    if (scope.isEmpty) return;
    for (const place of this.places.all()) {
      if (place.state !== 'here' || this.stopped) continue;
      for (const unit of await this.scopes.units(place.entity.id, scope)) {
        if (this.stopped) return;
        await this.attempt(this.bringUnit(place, unit), scopeOf(unit));
        await this.urgentFirst();
      }
    }
  }

  /** One that fails, as on a share that hangs, does not keep the others from it. */
  private attempt(work: Promise<void>, scope: LinkScope): Promise<void> {
    return work.catch((error: Error) => {
      this.log.warn(error.message);
      this.soon(RETRY_MS, scope);
    });
  }

  private async bringUnit(place: LivePlace, unit: Unit, looks = 0, again = true): Promise<void> {
    const placeId = place.entity.id;
    const { root } = place.entity;
    const { links: wanted, adrift } = await this.wanted.of(placeId, unit);
    const recorded = await this.written.of(placeId, root, unit);
    if (adrift.length > 0 && again && (await this.byHand.moved(placeId, root, adrift, recorded)))
      return this.bringUnit(place, unit, looks + 1, false);
    const isAdrift = new Set(adrift);
    const written = recorded.filter((w) => !isAdrift.has(unitOf(w.key)));
    if (wanted.length + written.length === 0) return;
    if (looks === MOST_LOOKS) return this.soon(ONCE_MORE_MS, scopeOf(unit));
    const listed = new Map<string, Listing | null>();
    let plan: LinkPlan;
    for (;;) {
      plan = planLinks(wanted, written, (folder) => listed.get(folder));
      const { unseen } = plan;
      if (unseen.length === 0) break;
      const seen = await this.disk.links(placeId, unseen);
      unseen.forEach((folder, i) => listed.set(folder, seen[i]!));
    }
    if (plan.missing.length > 0 && again && (await this.byHand.moved(placeId, root, plan.missing, written)))
      return this.bringUnit(place, unit, looks + 1, false);
    const early = this.missingLately(plan, written);
    // with a folder waits what lies in it
    const waits = (key: string): boolean =>
      early.has(key) || (key.includes('/') && waits(key.slice(0, key.lastIndexOf('/'))));
    const mayBeDone = ({ do: what, key }: LinkStep) => {
      if (what === 'forget' || what === 'make') return !waits(key);
      // into a folder that waits nothing can be put
      return what !== 'change' || !key.includes('/') || !waits(key.slice(0, key.lastIndexOf('/')));
    };
    const todo = plan.steps.filter(mayBeDone);
    const byKey = new Map(wanted.map((w) => [w.key, w]));
    const foreign = new Set(written.flatMap((w) => (w.foreign ? w.key : [])));
    for (const steps of together(todo)) {
      if (this.stopped) return;
      await this.carryOut(placeId, root, steps, byKey, foreign, unit);
      // what was done between may have changed what stands there
      if (await this.urgentFirst()) return this.bringUnit(place, unit, looks, again);
    }
    if (todo.length > 0) this.pages.changed('aliases');
    if (todo.some((s) => s.do === 'adopt')) return this.bringUnit(place, unit, looks + 1, again);
    for (const { key } of plan.deleted) if (!waits(key)) await this.byHand.wasDeleted(key);
    await this.takeUp(placeId, root, plan, listed);
  }

  /** What persons put into published folders, and those records of it that nothing stands behind any more. */
  private async takeUp(
    placeId: PlaceId,
    root: string,
    plan: LinkPlan,
    listed: ReadonlyMap<string, Listing | null>,
  ): Promise<void> {
    const aside = await this.written.aside(placeId, root);
    const putAside = new Map(aside.flatMap(({ now }) => (now ? [[now.path, now.content] as const] : [])));
    const told = await this.written.told(
      placeId,
      plan.dropped.map((d) => below(root, d.path)),
    );
    for (const { folderKey, path, entry } of plan.dropped)
      if (putAside.get(path) !== entry.content && !told.has(below(root, path)))
        await this.byHand.wasDropped(placeId, root, folderKey, path, entry);
    for (const { key, now } of aside) {
      const folder = now && listed.get(parentOf(now.path));
      if (folder && !folder.entries.some((e) => e.name === nameOf(now.path))) await this.written.forget(key);
    }
  }

  /**
   * Of the links that are missing, those that have not been for long enough to be sure, and from the same folder: one
   * that is under way would be taken for deleted, or made a second time where it left.
   */
  private missingLately({ deleted, remade }: LinkPlan, written: readonly { key: string }[]): Set<string> {
    const now = Date.now();
    const gone = new Map([...deleted, ...remade].map((d) => [d.key, d.folderInode]));
    const early = new Set<string>();
    for (const { key } of written) {
      const folderInode = gone.get(key);
      const known = this.missing.get(key);
      if (folderInode === undefined) this.missing.delete(key);
      else if (known?.folderInode !== folderInode) {
        this.missing.set(key, { since: now, folderInode });
        early.add(key);
      } else if (now - known.since < MISSING_MS) early.add(key);
      else this.missing.delete(key);
    }
    for (const key of early) {
      const { kind, id } = partsOf(key);
      this.soon(MISSING_MS, LinkScope.of(kind === 'alias' ? { aliases: [id] } : { publications: [id] }));
    }
    return early;
  }

  /** Intent, act, done: cut short anywhere, the next plan knows what stands there for ours. */
  private async carryOut(
    placeId: PlaceId,
    root: string,
    steps: LinkStep[],
    wanted: ReadonlyMap<string, WantedLink>,
    foreign: ReadonlySet<string>,
    unit: Unit,
  ): Promise<void> {
    await this.written.meant(placeId, root, steps, wanted);
    faultPoint('links meant');
    const outcomes = await this.disk.linkSteps(placeId, steps);
    faultPoint('links done, not recorded');
    await this.written.done(placeId, root, steps, outcomes, foreign);
    this.soon(outcomes.some((o) => o.ok) ? ONCE_MORE_MS : RETRY_MS, scopeOf(unit));
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopped = true;
    clearTimeout(this.timer);
    await this.running;
    for (const { done } of this.urgent.splice(0)) done();
  }
}

const scopeOf = (unit: Unit) => LinkScope.of('publication' in unit ? { publications: [unit.publication] } : unit);

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
