/** The plan: what the catalogue and its use come to, what would save time, and applying that as one act. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { checkKeys } from '@rellin/core/keys';
import type { ShortestQuery } from '@rellin/core/match';
import {
  suggest,
  type FreeKey,
  type OriginalWithoutShortcut,
  type Plan,
  type PlanItem,
  type PlanMenu,
  type Suggestion,
} from '@rellin/core/plan';
import { bestRoute, byOwnKey, comingBy, labelWidth, totalSeconds, withComing } from '@rellin/core/reach';
import { NO_WEIGHT, weightAt, WEEK } from '@rellin/core/usage';
import type { ForecastView, PlanView, ReachView, RouteView, ShortcutId, Topic } from '@rellin/contract';
import { CheckUpService } from '../checkUp/checkUp.service.js';
import { plainRows } from '../database/plainRows.js';
import { EventsService, type AfterTold } from '../events/events.service.js';
import { FinderService } from '../finder/finder.service.js';
import type { ActTx } from '../journal/actTx.js';
import { JournalService, type AfterAct } from '../journal/journal.service.js';
import { UsageEntity } from '../database/entities/usage.entity.js';
import { KeysService } from '../keys/keys.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PinsService } from '../pins/pins.service.js';
import { Refusal } from '../problems/refusal.js';
import { ReachService, type Reached } from '../reach/reach.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { ShortcutsService, type PreparedShortcut } from '../shortcuts/shortcuts.service.js';
import { TagsService } from '../tags/tags.service.js';
import { mergeInto } from './mergeInto.js';
import { readUsageRates, type OpenedWithoutShortcut } from './usageRates.js';
import { reasonOf, titleOf } from './suggestionWords.js';
import type { RowChange } from '../journal/rowChange.js';

export const PLAN_WEEKS = 12;
/** "Later" is after a week. */
const LATER_MS = WEEK;
const MOVE_PENALTY = 4;
/** A new pin is left alone for so long. */
const NEW_WEEKS = 1;
/** What was done to pins in the last four weeks, and holds. */
const PIN_CHANGES = `journal j, jsonb_array_elements(j.changes) c
  WHERE j.at > now() - interval '4 weeks' AND j.undone_at IS NULL AND c->>'table' = 'pin'`;
/** So long a plan is good where nothing but openings came. */
const KNOWN_MS = 10 * 60_000;
const LETTERS = [...'abcdefghijklmnopqrstuvwxyz'];
/** Pins with a key of their own. */
const KEYED = 9;

/** Of originals opened without a shortcut so many are looked at, those opened most first. */
const MOST_WITHOUT = 50;

interface WouldBe {
  asShortcuts: Reached[];
  typed(id: string): ShortestQuery | undefined;
  withoutShortcut(reach: ReadonlyMap<string, ReachView>): OriginalWithoutShortcut[];
}

interface CalculatedPlan {
  plan: Plan;
  names: Map<string, string>;
  idleOf: Map<string, PlanItem['idle']>;
  reach: Map<string, ReachView>;
  menus: PlanMenu[];
  /** Openings a week. */
  rates: Map<string, number>;
  withoutShortcut: OriginalWithoutShortcut[];
}

@Injectable()
export class PlanService implements AfterAct, AfterTold {
  private known: Promise<CalculatedPlan> | undefined;
  private knownAt = 0;

  constructor(
    private readonly db: DataSource,
    private readonly checkUp: CheckUpService,
    private readonly events: EventsService,
    private readonly finder: FinderService,
    private readonly journal: JournalService,
    private readonly keys: KeysService,
    private readonly originals: OriginalsService,
    private readonly pins: PinsService,
    private readonly reach: ReachService,
    private readonly settings: SettingsService,
    private readonly shortcuts: ShortcutsService,
    private readonly tags: TagsService,
  ) {}

  /** At once: who looks after an act sees what it made. */
  afterAct(changes: RowChange[]): void {
    if (changes.some((c) => c.table !== 'opening')) this.known = undefined;
  }

  afterTold(topics: readonly Topic[]): void {
    if (topics.includes('plan')) this.known = undefined;
  }

  /** CalculatedPlan anew when what it is about changed, and now and then; single openings hardly move it. */
  private calculated(): Promise<CalculatedPlan> {
    if (!this.known || performance.now() - this.knownAt > KNOWN_MS) {
      this.knownAt = performance.now();
      const known = (this.known = this.calculate());
      known.catch(() => (this.known = undefined));
    }
    return this.known;
  }

  /** The routes to each shortcut that the plan goes by. */
  async reachOfAll(): Promise<Map<string, ReachView>> {
    return (await this.calculated()).reach;
  }

  /** Collections with what they hold, each thing by how often it is opened, whatever the way. */
  async crowds(): Promise<PlanMenu[]> {
    const { menus, rates } = await this.calculated();
    return menus.map((menu) => ({
      ...menu,
      items: menu.items.map((item) => ({ ...item, rate: rates.get(item.id) ?? 0 })),
    }));
  }

  async view(): Promise<PlanView> {
    const { plan, names, idleOf, rates, reach, withoutShortcut } = await this.calculated();
    const [row] = (await this.db.query(
      `SELECT count(*)::int AS n FROM opening WHERE at > now() - make_interval(weeks => $1)`,
      [PLAN_WEEKS],
    )) as [{ n: number }];
    const nameOf = (id: string) => names.get(id) ?? '';
    return {
      weeks: PLAN_WEEKS,
      openings: row.n,
      byFolders: plan.byFolders,
      now: plan.now,
      planned: plan.planned,
      bound: plan.bound,
      suggestions: plan.suggestions.map((s) => ({
        id: s.id,
        kind: s.kind,
        title: titleOf(s, nameOf),
        reason: reasonOf(s, idleOf.get(s.ids[0] ?? '') ?? null),
        before: s.before,
        after: s.after,
        gain: s.gain,
      })),
      forecasts: await this.forecasts(),
      rates: [...rates].map(([shortcutId, perWeek]) => ({
        shortcutId,
        perWeek,
        seconds: reach.get(shortcutId)?.best?.seconds ?? null,
        byFolders: reach.get(shortcutId)?.folderRoute?.seconds ?? null,
      })),
      withoutShortcut: withoutShortcut.map(({ placeId, originalId, rate, byFolders, after }) => ({
        placeId,
        originalId,
        perWeek: rate,
        seconds: byFolders,
        withShortcut: after,
      })),
    };
  }

  private async calculate(): Promise<CalculatedPlan> {
    const now = Date.now();
    const [shortcuts, usage, settings, constants, pins, rated, unpinned, turns, placed, review, answers, tags] =
      await Promise.all([
        plainRows(this.db.getRepository(ShortcutEntity), 'WHERE removed_at IS NULL'),
        plainRows(this.db.getRepository(UsageEntity), ''),
        this.settings.all(),
        this.settings.reachConstants(),
        this.pins.list(),
        readUsageRates(this.db, now),
        this.unpinnedLately(),
        this.turnsLately(),
        this.db.query(
          `SELECT id::text, extract(epoch FROM now() - placed_at)::float8 * 1000 AS ms FROM pin`,
        ) as Promise<{ id: string; ms: number }[]>,
        this.checkUp.review(),
        this.db.query(`SELECT id FROM plan_answer WHERE until IS NULL OR until > now()`) as Promise<{ id: string }[]>,
        this.tags.ofShortcuts(undefined),
      ]);
    const usageOf = new Map(usage.map((u) => [u.shortcutId, u]));
    const weightOf = (id: string) => weightAt(usageOf.get(id) ?? NO_WEIGHT, now, settings.halfLifeDays);
    const habits = rated.shortcuts;
    const wouldBe = await this.wouldBe(rated.withoutShortcut.slice(0, MOST_WITHOUT));
    const reach = await this.reach.of([...shortcuts, ...wouldBe.asShortcuts], weightOf, wouldBe.typed);
    const pinOf = new Map(pins.map((p, slot) => [p.targetId, { ...p, slot }]));
    const placedMs = new Map(placed.map((p) => [p.id, p.ms]));
    const idleOf = new Map<string, PlanItem['idle']>();
    for (const group of review)
      if (group.kind === 'long-lost' || group.kind === 'never-opened')
        for (const id of group.items) idleOf.set(id, group.kind);
    const bestKind = new Map<string, RouteView['kind']>();
    const items = shortcuts.flatMap((s): PlanItem[] => {
      const { best, folderRoute, routes } = reach.get(s.id)!;
      if (!best) return [];
      bestKind.set(s.id, best.kind);
      const pin = pinOf.get(s.id);
      const isPin = (r: RouteView) => r.kind === 'pin-key' || r.kind === 'pin-click';
      const weight = weightOf(s.id);
      const habit = habits.get(s.id);
      const weeksThere = pin ? (placedMs.get(pin.id) ?? 0) / WEEK : 0;
      return [
        {
          id: s.id,
          name: s.name,
          rate: habit?.rate ?? 0,
          mean: habit?.mean ?? 0,
          uses: weight,
          without: (bestRoute(routes.filter((r) => !isPin(r))) ?? best).seconds,
          now: best.seconds,
          byFolders: folderRoute?.seconds ?? null,
          slot: pin?.slot ?? null,
          locked: pin?.kept ?? false,
          keys: s.keys,
          weeksThere,
          width: labelWidth(s.name),
          isNew: pin !== undefined && weeksThere < NEW_WEEKS,
          wasPinned: unpinned.has(s.id),
          turns: turns.get(s.id) ?? 0,
          idle: idleOf.get(s.id) ?? null,
        },
      ];
    });
    const withoutShortcut = wouldBe.withoutShortcut(reach);
    const takenKeys = await this.keys.taken();
    const menus = await this.menus(shortcuts, items, bestKind, tags);
    const plan = suggest({
      items,
      otherSlots: pins.flatMap((p, slot) => (p.target === 'shortcut' ? [] : [slot])),
      menus,
      withoutShortcut,
      same: review.filter((g) => g.kind === 'same-original').map((g) => g.items),
      keys: LETTERS.flatMap((letter): FreeKey[] => {
        const keys = [letter, `alt+shift+${letter}`].find((k) => checkKeys(k, takenKeys, settings.keyMap).ok);
        return keys === undefined
          ? []
          : [{ letter, keys, seconds: withComing(byOwnKey(keys, constants), settings.coming, constants).seconds }];
      }),
      worth: settings.pinWorth,
      rules: {
        constants,
        limit: settings.pinLimit,
        keys: KEYED,
        movePenalty: MOVE_PENALTY,
        before: totalSeconds(comingBy(settings.coming, constants)),
      },
    });
    const silenced = new Set(answers.map((a) => a.id));
    const left = plan.suggestions.filter((s) => !silenced.has(s.id));
    const gain = left.reduce((sum, s) => sum + s.gain, 0);
    for (const { id } of wouldBe.asShortcuts) reach.delete(id);
    const rates = new Map(items.map((item) => [item.id, item.rate]));
    const names = new Map(shortcuts.map((s) => [s.id, s.name]));
    for (const menu of menus) names.set(menu.id, menu.name);
    return {
      plan: { ...plan, suggestions: left, planned: plan.now - gain },
      names,
      idleOf,
      reach,
      menus,
      rates,
      withoutShortcut,
    };
  }

  /** What was taken off the strip by hand a while ago. */
  private async unpinnedLately(): Promise<Set<string>> {
    const rows = (await this.db.query(
      `SELECT DISTINCT c->'before'->>'shortcut_id' AS id FROM ${PIN_CHANGES} AND j.act = 'unpin' AND c->'after' = 'null'::jsonb`,
    )) as { id: string | null }[];
    return new Set(rows.flatMap((r) => r.id ?? []));
  }

  /** How often the plan put each shortcut on the strip or took it off, a while ago. */
  private async turnsLately(): Promise<Map<string, number>> {
    const rows = (await this.db.query(
      `SELECT coalesce(c->'before'->>'shortcut_id', c->'after'->>'shortcut_id') AS id, count(*)::int AS n
       FROM ${PIN_CHANGES} AND j.act = 'apply-plan' AND (c->'after' = 'null'::jsonb OR c->'before' = 'null'::jsonb)
       GROUP BY 1`,
    )) as { id: string | null; n: number }[];
    return new Map(rows.flatMap((r) => (r.id === null ? [] : [[r.id, r.n]])));
  }

  /** Collections with what they hold; only what is reached through them counts in them. */
  private async menus(
    shortcuts: readonly ShortcutEntity[],
    items: readonly PlanItem[],
    bestKind: ReadonlyMap<string, RouteView['kind']>,
    tags: ReadonlyMap<string, string[]>,
  ): Promise<PlanMenu[]> {
    const rows = (await this.db.query(
      `SELECT c.id::text, c.name, array_agg(m.shortcut_id::text ORDER BY m.sort) AS members
       FROM collection c JOIN member m ON m.collection_id = c.id JOIN shortcut s ON s.id = m.shortcut_id
       WHERE c.removed_at IS NULL AND c.type = 'plain' AND s.removed_at IS NULL GROUP BY c.id`,
    )) as { id: string; name: string; members: string[] }[];
    const byId = new Map(shortcuts.map((s) => [s.id, s]));
    const itemOf = new Map(items.map((i) => [i.id, i]));
    const names = await this.tags.names([...new Set([...tags.values()].flat())]);
    return rows.map(({ id, name, members }) => ({
      id,
      name,
      ways: ['tag', 'kind', 'sub-folder', 'first letter'],
      items: members.map((member) => {
        const s = byId.get(member)!;
        const folders = s.identity?.path.split('/') ?? [];
        return {
          id: member,
          rate: bestKind.get(member) === 'collection' ? (itemOf.get(member)?.rate ?? 0) : 0,
          uses: itemOf.get(member)?.uses ?? 0,
          groups: {
            tag: names.get(tags.get(member)?.[0] ?? ''),
            kind: s.kind,
            'sub-folder': folders[folders.length - 2],
            'first letter': s.name[0]?.toUpperCase(),
          },
        };
      }),
    }));
  }

  /** Originals without a shortcut that were opened through their folders, each as the shortcut that it might get. */
  private async wouldBe(all: readonly OpenedWithoutShortcut[]): Promise<WouldBe> {
    const found = await this.originals.many(all.map((w) => ({ placeId: w.placeId, id: w.originalId })));
    const known = all.flatMap((w) => {
      const entry = found.get(`${w.placeId}/${w.originalId}`);
      return entry ? [{ ...w, entry, id: `without ${w.placeId}/${w.originalId}` }] : [];
    });
    const ids = known.map((w) => w.id);
    const typed = await this.finder.wouldBe(
      known.map((w) => w.entry),
      ids,
    );
    return {
      asShortcuts: known.map(({ id, placeId, originalId }) => ({
        id,
        target: 'original',
        placeId,
        originalId,
        keys: null,
      })),
      typed: (id) => typed.get(id) ?? this.finder.shortestQuery(id),
      withoutShortcut: (reach) =>
        known.flatMap(({ id, placeId, originalId, times, rate, entry }) => {
          const { best, folderRoute } = reach.get(id) ?? { best: null, folderRoute: null };
          return best && folderRoute
            ? [
                {
                  placeId,
                  originalId,
                  name: entry.name,
                  times,
                  rate,
                  byFolders: folderRoute.seconds,
                  after: best.seconds,
                  steps: folderRoute.steps,
                },
              ]
            : [];
        }),
    };
  }

  private changed(): void {
    this.known = undefined;
    this.events.changed('plan');
  }

  /** Later: asked again in a week. Never: not again. */
  async answer(id: string, answer: 'later' | 'never'): Promise<void> {
    await this.db.query(
      `INSERT INTO plan_answer (id, until) VALUES ($1, $2) ON CONFLICT (id) DO UPDATE SET until = excluded.until`,
      [id, answer === 'later' ? new Date(Date.now() + LATER_MS) : null],
    );
    this.changed();
  }

  /** All that was put off or refused comes up again. */
  async askAgain(): Promise<void> {
    await this.db.query(`DELETE FROM plan_answer`);
    this.changed();
  }

  /** Some suggestions at once, in one act that can be undone. */
  async apply(ids: readonly string[]): Promise<void> {
    const { plan, names } = await this.calculate();
    const chosen = ids.map((id) => plan.suggestions.find((s) => s.id === id));
    if (chosen.length === 0 || chosen.some((s) => s === undefined))
      throw new Refusal('changed-since', 'The plan is another by now; that suggestion is not in it any more.', {
        remedy: 'Look at the plan again.',
      });
    const all = chosen as Suggestion[];
    const made = new Map<Suggestion, PreparedShortcut>();
    for (const s of all)
      if (s.original)
        made.set(s, await this.shortcuts.prepare({ placeId: s.original.placeId, originalId: s.original.originalId }));
    const nameOf = (id: string) => names.get(id) ?? '';
    const summary =
      all.length === 1 ? `Plan: ${titleOf(all[0]!, nameOf)}` : `Applied ${all.length} suggestions of the plan`;
    // what leaves the strip first, so that there is room
    const order = [...all].sort((a, b) => Number(b.kind === 'unpin') - Number(a.kind === 'unpin'));
    await this.journal.act({ act: 'apply-plan', summary }, async (tx) => {
      for (const s of order) await this.applyOne(tx, s, made.get(s));
      await this.keepForecast(tx, all, made);
    });
    if (made.size > 0) this.shortcuts.inserted();
    this.changed();
  }

  private async applyOne(tx: ActTx, s: Suggestion, made: PreparedShortcut | undefined): Promise<void> {
    const [first, second] = s.ids;
    const unpin = async (id: string) => {
      const pin = await this.pins.pinOf(id);
      if (pin) await tx.remove('pin', pin.id);
    };
    switch (s.kind) {
      case 'pin':
        return this.pins.insert(tx, { target: 'shortcut', id: first! }, s.slot! + 1);
      case 'exchange':
        await unpin(second!);
        return this.pins.insert(tx, { target: 'shortcut', id: first! }, s.slot! + 1);
      case 'unpin':
        return unpin(first!);
      case 'key':
        return tx.update('shortcut', first!, { keys: s.key!.keys });
      case 'merge':
        return mergeInto(tx, first!, s.ids.slice(1));
      case 'drop':
        return tx.update('shortcut', first!, { removed_at: new Date().toISOString() });
      case 'add':
        return this.shortcuts.insert(tx, made!);
      case 'split':
        return this.split(tx, s);
    }
  }

  /** Each group becomes a collection within it, before what stays. */
  private async split(tx: ActTx, s: Suggestion): Promise<void> {
    const [parent] = s.ids;
    const rows = (await tx.manager.query(
      `SELECT id::text, shortcut_id::text, sort FROM member WHERE collection_id = $1 ORDER BY sort`,
      [parent],
    )) as { id: string; shortcut_id: ShortcutId | null; sort: number }[];
    const groups = [...s.grouping!.groups];
    for (const [i, [name, ids]] of groups.entries()) {
      const id = randomUUID();
      await tx.insert('collection', {
        id,
        name,
        type: 'plain',
        description: '',
        colour: '',
        picture: '',
        sort_by: 'own',
        show_as: 'auto',
        last_members: [],
        revision: 1,
        added_at: new Date().toISOString(),
      });
      const moving = rows.filter((r) => r.shortcut_id !== null && ids.includes(r.shortcut_id));
      for (const row of moving) await tx.update('member', row.id, { collection_id: id });
      const sort = (rows[0]?.sort ?? 0) - groups.length + i;
      await tx.insert('member', { id: randomUUID(), collection_id: parent!, child_id: id, sort });
    }
  }

  /** What it is to save, by the shortcuts it is to save it with: an undo takes that back as well. */
  private async keepForecast(
    tx: ActTx,
    applied: readonly Suggestion[],
    made: ReadonlyMap<Suggestion, PreparedShortcut>,
  ): Promise<void> {
    const timed = applied.flatMap((s) => {
      const id = made.get(s)?.id ?? s.ids[0];
      return s.before === null || s.after === null || s.kind === 'split' || id === undefined
        ? []
        : [{ id, saved: s.before - s.after, gain: s.gain }];
    });
    if (timed.length === 0) return;
    await tx.insert('plan_forecast', {
      id: randomUUID(),
      at: new Date().toISOString(),
      shortcuts: timed.map(({ id, saved }) => ({ id, saved })),
      seconds: timed.reduce((sum, one) => sum + one.gain, 0),
    });
  }

  /** What applied plans were to save in the week after them, beside the openings there really were. */
  private async forecasts(): Promise<ForecastView[]> {
    const rows = (await this.db.query(
      `SELECT f.at, f.seconds, f.at + interval '1 week' < now() AS over,
         (SELECT coalesce(sum((x->>'saved')::float8), 0) FROM jsonb_array_elements(f.shortcuts) x
          JOIN opening o ON o.shortcut_id = (x->>'id')::uuid AND o.at > f.at AND o.at <= f.at + interval '1 week') AS was
       FROM plan_forecast f ORDER BY f.at DESC LIMIT 12`,
    )) as { at: Date; seconds: number; over: boolean; was: number }[];
    return rows.map((r) => ({ at: r.at.toISOString(), said: r.seconds, was: r.over ? r.was : null }));
  }
}
