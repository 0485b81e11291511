/**
 * Keeps the links on disk in step with the catalogue, both ways. What is wanted is reckoned from the catalogue each time,
 * so that an undo, a follow and a start after a crash all end in the same: intent, act, done. What a person did to a
 * link on disk becomes an act of the catalogue.
 */
import { randomUUID } from 'node:crypto';
import { posix } from 'node:path';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { planLinks, type LinkPlan, type LinkStep, type SeenEntry, type WrittenLink } from '@rellin/core/aliases';
import { parseKeyFile, unescapeValue } from '@rellin/core/desktop';
import { nameOf, parentOf, shown } from '@rellin/core/paths';
import { CollectionsService } from '../collections/collections.service.js';
import { DiskHangs, DiskService } from '../disk/disk.service.js';
import { absolute } from '../disk/paths.js';
import type { StepOutcome } from '../disk/diskMessages.js';
import { EventsService } from '../events/events.service.js';
import { faultPoint } from '../faults/faultPoint.js';
import { IndexerService } from '../indexing/indexer.service.js';
import { JournalService } from '../journal/journal.service.js';
import { OriginalsRepository } from '../originals/originals.repository.js';
import { OriginalsService } from '../originals/originals.service.js';
import { realInside } from '../originals/resolve.js';
import { PlacesService, type LivePlace } from '../places/places.service.js';
import { Refusal } from '../problems/refusal.js';
import { ProgramsService } from '../programs/programs.service.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import { MenusService } from './menus.service.js';
import { sourceOf, WantedLinksService, type PublicationRow } from './wantedLinks.service.js';

/** What changes which links are wanted. */
const TABLES = new Set(['alias', 'publication', 'shortcut', 'member', 'collection', 'tag', 'tagging', 'saved_search']);
const SOON_MS = 30;
/** After a change on disk: the index, saved searches and shortcuts are brought after it first. */
const AFTER_DISK_MS = 250;
/** What a person undoes at once the index never hears of: what was written is looked at once more. */
const ONCE_MORE_MS = 1000;
/** So many steps between intent and done. */
const STEPS = 200;
/** Marks what a person put into a published folder and took out of the catalogue again. */
const ASIDE = 'aside/';

interface Row {
  key: string;
  form: WrittenLink['form'];
  name: string;
  now_path: string | null;
  now_content: string | null;
  next_path: string | null;
  next_content: string | null;
  inode: number | null;
  is_foreign: boolean;
  before_taken: string | null;
}

@Injectable()
export class LinksService implements OnApplicationShutdown {
  private readonly log = new Logger('links');
  private running: Promise<void> = Promise.resolve();
  private timer: NodeJS.Timeout | undefined;
  private started = false;
  private stopped = false;

  constructor(
    private readonly db: DataSource,
    private readonly wanted: WantedLinksService,
    private readonly disk: DiskService,
    private readonly places: PlacesService,
    private readonly index: OriginalsRepository,
    private readonly indexer: IndexerService,
    private readonly originals: OriginalsService,
    private readonly shortcuts: ShortcutsService,
    private readonly collections: CollectionsService,
    private readonly menus: MenusService,
    private readonly journal: JournalService,
    private readonly events: EventsService,
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
    if (!this.started || this.stopped) return;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.settle(), ms).unref();
  }

  /** Brings the disk in step now, after what goes on already. */
  settle(): Promise<void> {
    clearTimeout(this.timer);
    const run = this.running.then(() => this.all());
    this.running = run.catch((error: Error) => this.log.warn(error.message));
    return this.running;
  }

  private async all(): Promise<void> {
    if (this.stopped) return;
    const [{ any }] = (await this.db.query(
      `SELECT EXISTS (SELECT FROM alias) OR EXISTS (SELECT FROM publication) OR EXISTS (SELECT FROM written_link) AS any`,
    )) as [{ any: boolean }];
    if (any)
      for (const place of this.places.all())
        if (place.state === 'here' && !this.stopped)
          await this.bring(place).catch((error: unknown) => {
            if (!(error instanceof DiskHangs)) throw error;
          });
    await this.menus.bring();
  }

  private async bring(place: LivePlace, again = true): Promise<void> {
    const placeId = place.entity.id;
    const { root } = place.entity;
    const wanted = await this.wanted.of(placeId);
    const records = await this.records(placeId, root);
    if (wanted.length === 0 && records.length === 0) return;
    const [written, aside] = [
      records.filter((r) => !r.key.startsWith(ASIDE)),
      records.filter((r) => r.key.startsWith(ASIDE)),
    ];
    const folders = new Set<string>();
    for (const w of wanted) if ('path' in w.in) folders.add(w.in.path);
    for (const { form, now, next } of written)
      for (const at of [now, next])
        if (at) {
          folders.add(parentOf(at.path));
          if (form === 'folder') folders.add(at.path);
        }
    const list = [...folders];
    const seen = await this.disk.links(placeId, list);
    const listed = new Map(list.map((folder, i) => [folder, seen[i]!]));
    const plan = planLinks(wanted, written, (folder) => listed.get(folder) ?? undefined);
    if (plan.deleted.length > 0 && again && (await this.moved(placeId, root, plan, written)))
      return this.bring(place, false);
    for (const steps of together(plan.steps)) if (!this.stopped) await this.carryOut(placeId, root, steps, written);
    if (plan.steps.length > 0) {
      this.events.changed('aliases');
      this.soon(ONCE_MORE_MS);
    }
    for (const key of plan.deleted) await this.wasDeleted(key);
    for (const drop of plan.dropped)
      if (!aside.some((a) => a.now?.path === drop.path && a.now.content === drop.entry.content))
        await this.wasDropped(placeId, root, drop.folderKey, drop.path, drop.entry);
    for (const { key, now } of aside)
      if (now && !listed.get(parentOf(now.path))?.some((e) => e.name === nameOf(now.path)))
        await this.db.query(`DELETE FROM written_link WHERE key = $1`, [key]);
  }

  private async records(placeId: number, root: string): Promise<WrittenLink[]> {
    const rows = (await this.db.query(`SELECT * FROM written_link WHERE place_id = $1 ORDER BY key`, [
      placeId,
    ])) as Row[];
    const at = (path: string | null, content: string | null) =>
      path === null ? null : { path: absolute(root, path), content: content ?? '' };
    return rows.map((r) => ({
      key: r.key,
      form: r.form,
      name: r.name,
      now: at(r.now_path, r.now_content),
      next: at(r.next_path, r.next_content),
      inode: r.inode,
      foreign: r.is_foreign,
      before: r.before_taken,
    }));
  }

  /** Intent, act, done: cut short anywhere, the next plan knows what stands there for ours. */
  private async carryOut(
    placeId: number,
    root: string,
    steps: LinkStep[],
    written: readonly WrittenLink[],
  ): Promise<void> {
    const intents = steps.flatMap((s) =>
      s.do === 'make' || s.do === 'change'
        ? [
            {
              key: s.key,
              form: s.form,
              name: s.name,
              next_path: below(root, s.to.path),
              next_content: s.to.content,
              // where it stands now; a folder above may have got another name since that was recorded
              now_path: s.do === 'make' ? null : below(root, s.from.path),
              now_content: s.do === 'make' ? null : s.from.content,
              fresh: s.do === 'make',
            },
          ]
        : [],
    );
    if (intents.length > 0)
      await this.db.query(
        `INSERT INTO written_link (key, place_id, form, name, next_path, next_content, now_path, now_content)
         SELECT i.key, $1, i.form, i.name, i.next_path, i.next_content, i.now_path, i.now_content
         FROM jsonb_to_recordset($2) AS i (key text, form text, name text, next_path text, next_content text,
           now_path text, now_content text)
         ON CONFLICT (key) DO UPDATE SET next_path = excluded.next_path, next_content = excluded.next_content,
           now_path = excluded.now_path, now_content = excluded.now_content, trouble = NULL`,
        [placeId, JSON.stringify(intents)],
      );
    // one that is made anew is not what was there before
    const fresh = intents.filter((i) => i.fresh).map((i) => i.key);
    if (fresh.length > 0) await this.db.query(`UPDATE written_link SET inode = NULL WHERE key = ANY($1)`, [fresh]);
    faultPoint('links meant');
    const outcomes = await this.disk.linkSteps(placeId, steps);
    faultPoint('links done, not recorded');
    await this.done(placeId, root, steps, outcomes, written);
  }

  private async done(
    placeId: number,
    root: string,
    steps: readonly LinkStep[],
    outcomes: readonly StepOutcome[],
    written: readonly WrittenLink[],
  ): Promise<void> {
    const stand: { key: string; name: string; path: string; content: string; inode: number | null }[] = [];
    const gone: string[] = [];
    const failed: { key: string; reason: string }[] = [];
    steps.forEach((step, i) => {
      const outcome = outcomes[i]!;
      if (!outcome.ok) failed.push({ key: step.key, reason: outcome.reason });
      else if (step.do === 'clear') return;
      else if (step.do === 'remove' || step.do === 'release' || step.do === 'forget') gone.push(step.key);
      else
        stand.push({
          key: step.key,
          name: step.name,
          path: below(root, step.to.path),
          content: step.to.content,
          inode: outcome.inode,
        });
    });
    await this.db.transaction(async (manager) => {
      // a person's own link that left the catalogue is not taken for a new one
      const foreign = gone.filter((key) => written.some((w) => w.key === key && w.foreign));
      for (const key of foreign)
        await manager.query(`UPDATE written_link SET key = $2 WHERE key = $1`, [key, ASIDE + randomUUID()]);
      if (gone.length > 0) await manager.query(`DELETE FROM written_link WHERE key = ANY($1)`, [gone]);
      // with a folder's new name goes what is recorded to lie in it
      for (const step of steps)
        if (
          (step.do === 'change' || step.do === 'note') &&
          step.form === 'folder' &&
          stand.some((s) => s.key === step.key)
        )
          await manager.query(
            `UPDATE written_link w SET now_path = $2 || substr(w.now_path, length(f.now_path) + 1)
             FROM written_link f WHERE f.key = $1 AND f.now_path <> $2 AND w.place_id = $3
               AND starts_with(w.now_path, f.now_path || '/')`,
            [step.key, below(root, step.to.path), placeId],
          );
      if (stand.length > 0)
        await manager.query(
          `UPDATE written_link w SET name = d.name, now_path = d.path, now_content = d.content, inode = d.inode,
             next_path = NULL, next_content = NULL, trouble = NULL
           FROM jsonb_to_recordset($1) AS d (key text, name text, path text, content text, inode double precision)
           WHERE w.key = d.key`,
          [JSON.stringify(stand)],
        );
      if (failed.length > 0)
        await manager.query(
          `UPDATE written_link w SET trouble = d.reason
           FROM jsonb_to_recordset($1) AS d (key text, reason text) WHERE w.key = d.key`,
          [JSON.stringify(failed)],
        );
    });
  }

  /** Of what is not where it was: aliases that a person moved to another folder. Whether there were any. */
  private async moved(
    placeId: number,
    root: string,
    plan: LinkPlan,
    written: readonly WrittenLink[],
  ): Promise<boolean> {
    await this.indexer.settle(placeId);
    let any = false;
    for (const key of plan.deleted) {
      const { kind, id } = WantedLinksService.partsOf(key);
      const record = written.find((w) => w.key === key);
      if (kind !== 'alias' || record?.inode == null) continue;
      const [row] = (await this.index.withInodes(placeId, [record.inode])).filter((r) => r.type !== 'folder');
      const path = row && (await this.index.pathOf(placeId, row.id));
      if (!row || path === undefined) continue;
      const [entries] = await this.disk.links(placeId, [parentOf(absolute(root, path))]);
      const entry = entries?.find((e) => e.name === row.name && e.inode === record.inode);
      if (entry?.form !== record.form || entry.content !== record.now?.content) continue;
      await this.journal.act(
        {
          act: 'alias-moved',
          summary: `The alias “${shown(row.name)}” was moved on disk`,
          by: 'automatic',
          inStack: false,
        },
        (tx) => tx.update('alias', id, { folder_id: row.parentId, name: row.name }),
      );
      await this.db.query(`UPDATE written_link SET now_path = $2, name = $3, next_path = NULL WHERE key = $1`, [
        key,
        path,
        row.name,
      ]);
      any = true;
    }
    return any;
  }

  /** A person took a link away on disk: the shortcut stays, what the link stood for ends. */
  private async wasDeleted(key: string): Promise<void> {
    const { kind, id, way } = WantedLinksService.partsOf(key);
    if (kind === 'alias') {
      const [alias] = (await this.db.query(`SELECT name FROM alias WHERE id = $1`, [id])) as { name: string }[];
      if (!alias) return;
      await this.journal.act(
        {
          act: 'alias-gone',
          summary: `The alias “${shown(alias.name)}” was deleted on disk; its shortcut stays`,
          by: 'automatic',
          inStack: false,
        },
        (tx) => tx.remove('alias', id),
      );
      return;
    }
    const publication = (await this.wanted.publications()).find((p) => p.id === id);
    if (!publication) return;
    const item = way[way.length - 1];
    if (item === undefined) {
      await this.journal.act(
        {
          act: 'unpublish',
          summary: `The folder “${shown(publication.name)}” was deleted on disk; it is published no more`,
          by: 'automatic',
          inStack: false,
        },
        (tx) => tx.remove('publication', id),
      );
      return;
    }
    const holder = this.holderOf(publication, way.slice(0, -1));
    const left = (what: string) => `“${what}” left “${shown(publication.name)}”: its link was deleted on disk`;
    if (holder.source === 'collection') {
      const [member] = (await this.db.query(
        `SELECT m.id::text, coalesce(s.name, c.name, q.name) AS name FROM member m
         LEFT JOIN shortcut s ON s.id = m.shortcut_id LEFT JOIN collection c ON c.id = m.child_id
         LEFT JOIN saved_search q ON q.id = m.search_id
         WHERE m.collection_id = $1 AND coalesce(m.shortcut_id, m.child_id, m.search_id)::text = $2`,
        [holder.sourceId, item],
      )) as { id: string; name: string }[];
      if (member)
        await this.journal.act(
          { act: 'remove-members', summary: left(member.name), by: 'automatic', inStack: false },
          (tx) => tx.remove('member', member.id),
        );
    } else if (holder.source === 'tag') {
      const [tagging] = (await this.db.query(
        `SELECT g.id::text, coalesce(s.name, '') AS name FROM tagging g LEFT JOIN shortcut s ON s.id = g.shortcut_id
         WHERE g.tag_id = $1 AND (g.shortcut_id::text = $2 OR g.place_id || '-' || g.original_id = $2)`,
        [holder.sourceId, item],
      )) as { id: string; name: string }[];
      if (tagging)
        await this.journal.act(
          { act: 'take-tag', summary: left(tagging.name || 'An original'), by: 'automatic', inStack: false },
          (tx) => tx.remove('tagging', tagging.id),
        );
    } // what a saved search finds is not a person's to take out: its link is written again
  }

  /** What a folder of a publication shows: the collection of the innermost group, or the source itself. */
  private holderOf(publication: PublicationRow, groups: readonly string[]) {
    const group = groups[groups.length - 1];
    return group === undefined ? sourceOf(publication) : { source: 'collection' as const, sourceId: group };
  }

  /** A person put a link into a published folder: what it leads to joins what the folder shows. */
  private async wasDropped(
    placeId: number,
    root: string,
    folderKey: string,
    path: string,
    entry: SeenEntry,
  ): Promise<void> {
    const { id, way } = WantedLinksService.partsOf(folderKey);
    const publication = (await this.wanted.publications()).find((p) => p.id === id);
    if (!publication) return;
    const holder = this.holderOf(publication, way);
    if (holder.source === 'search') return;
    try {
      const target = await this.targetOf(path, entry);
      if (!target) return;
      const shortcutId = (await this.shortcuts.existing(target)) ?? (await this.shortcuts.add(target));
      if (holder.source === 'collection')
        await this.collections.addMembers(holder.sourceId, { shortcutIds: [shortcutId] });
      else
        await this.journal.act({ act: 'put-tag', summary: `Tagged one thing by its link`, by: 'automatic' }, (tx) =>
          tx.insert('tagging', { id: randomUUID(), tag_id: holder.sourceId, shortcut_id: shortcutId }),
        );
      await this.db.query(
        `INSERT INTO written_link (key, place_id, form, name, now_path, now_content, inode, is_foreign)
         VALUES ($1, $2, $3, $4, $5, $6, $7, true) ON CONFLICT DO NOTHING`,
        [`${folderKey}/${shortcutId}`, placeId, entry.form, entry.name, below(root, path), entry.content, entry.inode],
      );
    } catch (error) {
      // it leads nowhere, or out of all places: it stays as it is, and the check-up lists it
      if (!(error instanceof Refusal)) throw error;
    }
  }

  private async targetOf(path: string, entry: SeenEntry) {
    if (entry.form === 'entry') {
      const group = parseKeyFile(entry.content).groups.get('Desktop Entry');
      const url = group?.get('URL');
      return group?.get('Type') === 'Link' && url ? { url: unescapeValue(url) } : undefined;
    }
    const roots = this.places.all().map((p) => p.entity.root);
    const real = await realInside(posix.resolve(parentOf(path), entry.content), roots);
    const { placeId, originalId } = await this.originals.locate(real);
    return { placeId, originalId: Number(originalId) };
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

export function below(root: string, path: string): string {
  return path === root ? '' : path.slice(root === '/' ? 1 : root.length + 1);
}
