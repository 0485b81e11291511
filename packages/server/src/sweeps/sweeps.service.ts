/** Kept sweeps: saved, changed, deleted; what has gathered for each, and those that run by themselves. */
import { randomUUID } from 'node:crypto';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { parseQuery } from '@rellin/core/query';
import { shown } from '@rellin/core/paths';
import { isDue } from '@rellin/core/sweep';
import type {
  NewSweep,
  OriginalRef,
  SweepBacklog,
  SweepId,
  SweepMove,
  SweepPatch,
  SweepPlan,
  SweepRule,
  SweepThing,
  SweepView,
  SweptFolder,
} from '@rellin/contract';
import { keyOf } from '../belongs/belongs.service.js';
import type { Rows } from '../database/rows.js';
import { EventsService } from '../events/events.service.js';
import { JournalService, type AfterAct } from '../journal/journal.service.js';
import type { RowChange } from '../journal/rowChange.js';
import { OriginalsService } from '../originals/originals.service.js';
import type { AfterDisk, PlaceEvent } from '../places/placeNews.js';
import { named } from '../problems/named.js';
import { Refusal } from '../problems/refusal.js';
import { SweepPlanService } from './sweepPlan.service.js';
import { SweepRunService } from './sweepRun.service.js';
import { SweepsRepository } from './sweeps.repository.js';

const LOOK_MS = 60_000;
const TOLD_MS = 2000;
/** What could not be swept by itself is not tried again at once. */
const REST_MS = 60 * 60_000;

type SweepRow = Rows['sweep'];

@Injectable()
export class SweepsService implements OnApplicationShutdown, AfterAct, AfterDisk {
  private readonly log = new Logger('sweeps');
  private timer: NodeJS.Timeout | undefined;
  private told: NodeJS.Timeout | undefined;
  private looking = false;
  /** Folders of all kept sweeps, as they were counted last. */
  private counted: ReadonlySet<string> | undefined;
  private readonly triedAt = new Map<SweepId, number>();

  constructor(
    private readonly rows: SweepsRepository,
    private readonly journal: JournalService,
    private readonly originals: OriginalsService,
    private readonly plans: SweepPlanService,
    private readonly runs: SweepRunService,
    private readonly events: EventsService,
  ) {}

  start(): void {
    this.timer = setInterval(() => {
      this.look().catch((error: Error) => this.log.warn(error.message));
    }, LOOK_MS).unref();
    this.soon();
  }

  afterAct(changes: RowChange[]): void {
    if (!changes.some((c) => c.table === 'sweep')) return;
    this.counted = undefined;
    this.soon();
  }

  /** Something came or went in a folder that is counted, or whole folders did. */
  afterDisk(event: PlaceEvent): void {
    if (event.kind === 'state') return this.soon();
    const { placeId, written, whole } = event;
    if (written.added + written.removed === 0) return;
    const { counted } = this;
    const isElsewhere =
      counted !== undefined &&
      !whole &&
      !written.foldersTouched &&
      !written.folders.some((originalId) => counted.has(keyOf({ placeId, originalId })));
    if (!isElsewhere) this.soon();
  }

  /** The pages count again, and so do those that run by themselves. */
  private soon(): void {
    this.told ??= setTimeout(() => {
      this.told = undefined;
      this.lookAgain().catch((error: Error) => this.log.warn(error.message));
    }, TOLD_MS).unref();
  }

  private async lookAgain(): Promise<void> {
    if ((await this.rows.all()).length > 0) this.events.changed('sweeps');
    await this.look();
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
    clearTimeout(this.told);
  }

  async list(): Promise<SweepView[]> {
    const views = await this.views(await this.rows.all());
    this.counted = new Set(views.flatMap((view) => view.folders.map(keyOf)));
    return views;
  }

  async one(id: SweepId): Promise<SweepView> {
    const [view] = await this.views([await this.need(id)]);
    return view!;
  }

  async add(request: NewSweep): Promise<SweepView> {
    const id = randomUUID();
    const name = named(request.name, 'sweep');
    const folders = await this.swept(request.folders);
    checkRules(request.rules);
    await this.journal.act({ act: 'add-sweep', summary: `Saved the sweep “${name}”` }, (tx) =>
      tx.insert('sweep', {
        id,
        name,
        folders,
        rules: request.rules,
        recent_minutes: request.recentMinutes,
        link_days: request.linkDays,
        threshold: request.threshold,
        by_itself: request.byItself,
        added_at: new Date().toISOString(),
      }),
    );
    return this.one(id);
  }

  async change(id: SweepId, patch: SweepPatch): Promise<SweepView> {
    const before = await this.need(id);
    const name = patch.name === undefined ? undefined : named(patch.name, 'sweep');
    const folders = patch.folders && (await this.swept(patch.folders));
    if (patch.rules) checkRules(patch.rules);
    const isRenamed = name !== undefined && name !== before.name;
    const summary = isRenamed
      ? `Renamed the sweep “${before.name}” to “${name}”`
      : `Changed the sweep “${before.name}”`;
    await this.journal.act({ act: 'change-sweep', summary }, (tx) =>
      tx.update('sweep', id, {
        ...(name !== undefined && { name }),
        ...(folders && { folders }),
        ...(patch.rules && { rules: patch.rules }),
        ...(patch.recentMinutes !== undefined && { recent_minutes: patch.recentMinutes }),
        ...(patch.linkDays !== undefined && { link_days: patch.linkDays }),
        ...(patch.threshold && { threshold: patch.threshold }),
        ...(patch.byItself !== undefined && { by_itself: patch.byItself }),
      }),
    );
    return this.one(id);
  }

  /** No original is touched. */
  async remove(id: SweepId): Promise<void> {
    const { name } = await this.need(id);
    await this.journal.act({ act: 'remove-sweep', summary: `Deleted the sweep “${name}”` }, (tx) =>
      tx.remove('sweep', id),
    );
  }

  private async need(id: SweepId): Promise<SweepRow> {
    const row = await this.rows.one(id);
    if (!row) throw new Refusal('not-found', 'That sweep is not kept any more.');
    return row;
  }

  private async swept(refs: readonly OriginalRef[]): Promise<SweptFolder[]> {
    const found = await this.originals.wherever(refs);
    return found.map(({ row, path }) => {
      if (row.type !== 'folder') throw new Refusal('not-a-folder', `${shown(row.name)} is not a folder.`);
      return { placeId: row.placeId, originalId: row.id, path };
    });
  }

  private async views(rows: readonly SweepRow[]): Promise<SweepView[]> {
    const last = await this.rows.lastRuns();
    const out: SweepView[] = [];
    for (const row of rows) {
      const swept = last.get(row.id);
      const folders = await this.current(row.folders);
      const backlog = await this.backlog(folders, swept ?? new Date(row.added_at));
      out.push({
        id: row.id,
        name: row.name,
        folders: folders.map(({ placeId, originalId }) => ({ placeId, originalId })),
        folderNames: folders.map((folder) => folder.name),
        rules: row.rules,
        recentMinutes: row.recent_minutes,
        linkDays: row.link_days,
        threshold: row.threshold,
        byItself: row.by_itself,
        backlog,
        isDue: isDue(backlog, row.threshold, Date.now()),
        addedAt: row.added_at,
        sweptAt: swept?.toISOString() ?? null,
      });
    }
    return out;
  }

  /** The folders as they are now: by their rows, or where they were when the index was made anew since. */
  private async current(folders: readonly SweptFolder[]): Promise<(OriginalRef & { name: string })[]> {
    const known = await this.originals.located(folders);
    const out: (OriginalRef & { name: string })[] = [];
    for (const { placeId, originalId, path } of folders) {
      const found = known.get(`${placeId}/${originalId}`);
      if (found?.row.type === 'folder') {
        const trail = found.row.name === '' ? await this.originals.trail(placeId, originalId) : [found.row];
        out.push({ placeId, originalId, name: shown(trail.at(-1)!.name) });
        continue;
      }
      const located = await this.originals.locate(path).catch(() => undefined);
      if (located?.type === 'folder')
        out.push({
          placeId: located.placeId,
          originalId: located.originalId,
          name: shown(path.slice(path.lastIndexOf('/') + 1)),
        });
    }
    return out;
  }

  private async backlog(folders: readonly OriginalRef[], since: Date): Promise<SweepBacklog> {
    const out: SweepBacklog = { things: 0, size: 0, oldest: null, fresh: 0, freshKind: null };
    const kinds = new Map<SweepBacklog['freshKind'], number>();
    for (const folder of folders) {
      const { things, size, oldest } = await this.rows.backlog(folder);
      out.things += things;
      out.size += size;
      if (oldest !== null) out.oldest = Math.min(oldest, out.oldest ?? Infinity);
      for (const { kind, count } of await this.rows.fresh(folder, since)) {
        out.fresh += count;
        kinds.set(kind, (kinds.get(kind) ?? 0) + count);
      }
    }
    const [most] = [...kinds].sort((a, b) => b[1] - a[1]);
    out.freshKind = most && most[1] * 2 > out.fresh ? most[0] : null;
    return out;
  }

  /** Links whose time is over go, and sweeps whose owner switched that on run by their rules alone. */
  async look(): Promise<void> {
    if (this.looking) return;
    this.looking = true;
    try {
      await this.runs.clearLinks();
      for (const sweep of await this.list()) if (sweep.byItself && sweep.isDue) await this.runByItself(sweep);
    } finally {
      this.looking = false;
    }
  }

  private async runByItself(sweep: SweepView): Promise<void> {
    if (Date.now() - (this.triedAt.get(sweep.id) ?? 0) < REST_MS) return;
    this.triedAt.set(sweep.id, Date.now());
    const { id, folders, rules, recentMinutes, linkDays } = sweep;
    const plan = await this.plans.plan({ folders, rules, recentMinutes });
    const moves = movesByRules(plan);
    if (moves.length === 0) return;
    await this.runs.run({ sweepId: id, folders, at: plan.at, moves, linkDays, search: 'none' }, 'automatic');
  }
}

/** What the rules decided; what is only likely is left for its owner to see. */
function movesByRules(plan: SweepPlan): SweepMove[] {
  const moves = new Map<SweepThing['to'], SweepMove>();
  for (const { to, why, placeId, id } of plan.things) {
    if (why.by !== 'rule' || to === 'leave' || to === 'stay') continue;
    const folder = typeof to === 'number' ? plan.folders[to]! : undefined;
    const move = moves.get(to) ?? {
      to: folder ? 'folder' : 'bin',
      ...(folder && { placeId: folder.placeId, originalId: folder.originalId }),
      things: [],
    };
    moves.set(to, move);
    const own = move.things.find((t) => t.placeId === placeId);
    if (own) own.ids.push(id);
    else move.things.push({ placeId, ids: [id] });
  }
  return [...moves.values()];
}

function checkRules(rules: readonly SweepRule[]): void {
  for (const { name, when, query, to, shortcutId } of rules) {
    if (to === 'folder' && shortcutId === undefined)
      throw new Refusal('not-valid', `The rule “${name}” needs a folder to move things into.`);
    if (when === 'duplicate') continue;
    const parsed = parseQuery(query);
    if (query.trim() === '' || !parsed.ok)
      throw new Refusal(
        'not-valid',
        parsed.ok
          ? `The rule “${name}” needs a condition.`
          : `The condition of “${name}” cannot be read at character ${parsed.error.at + 1}: ${parsed.error.message}`,
      );
  }
}
