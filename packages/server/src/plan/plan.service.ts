/** The plan: what the catalogue and its use come to, what would save time, and applying that as one act. */
import { Injectable } from '@nestjs/common';
import { suggest, type Plan, type PlanMenu, type Suggestion } from '@rellin/core/plan';
import { WEEK } from '@rellin/core/usage';
import type { PlanView, ReachView, ShortcutId, Topic } from '@rellin/contract';
import { EventsService, type AfterTold } from '../events/events.service.js';
import { JournalService, type AfterAct } from '../journal/journal.service.js';
import type { RowChange } from '../journal/rowChange.js';
import { Refusal } from '../problems/refusal.js';
import { PlanApplier } from './planApplier.service.js';
import { PlanInputsService, type GatheredPlan } from './planInputs.service.js';
import { PlanRepository } from './plan.repository.js';
import { reasonOf, titleOf } from './suggestionWords.js';

export const PLAN_WEEKS = 12;
/** "Later" is after a week. */
const LATER_MS = WEEK;
/** So long a plan is good where nothing but openings came. */
const KNOWN_MS = 10 * 60_000;

interface CalculatedPlan extends GatheredPlan {
  plan: Plan;
}

@Injectable()
export class PlanService implements AfterAct, AfterTold {
  private known: Promise<CalculatedPlan> | undefined;
  private knownAt = 0;

  constructor(
    private readonly inputs: PlanInputsService,
    private readonly applier: PlanApplier,
    private readonly rows: PlanRepository,
    private readonly events: EventsService,
    private readonly journal: JournalService,
  ) {}

  /** At once: who looks after an act sees what it made. */
  afterAct(changes: RowChange[]): void {
    if (changes.some((c) => c.table !== 'opening')) this.known = undefined;
  }

  afterTold(topics: readonly Topic[]): void {
    if (topics.includes('plan')) this.known = undefined;
  }

  /** Calculated anew when what it is about changed, and now and then; single openings hardly move it. */
  private calculated(): Promise<CalculatedPlan> {
    if (!this.known || performance.now() - this.knownAt > KNOWN_MS) {
      this.knownAt = performance.now();
      const known = (this.known = this.calculate());
      known.catch(() => (this.known = undefined));
    }
    return this.known;
  }

  private async calculate(): Promise<CalculatedPlan> {
    const gathered = await this.inputs.gather(Date.now());
    const silenced = await this.rows.silenced();
    const plan = suggest(gathered.input);
    const suggestions = plan.suggestions.filter((s) => !silenced.has(s.id));
    const gain = suggestions.reduce((sum, s) => sum + s.gain, 0);
    return { ...gathered, plan: { ...plan, suggestions, planned: plan.now - gain } };
  }

  /** The routes to each shortcut that the plan goes by. */
  async reachOfAll(): Promise<Map<ShortcutId, ReachView>> {
    return (await this.calculated()).reach;
  }

  /** Collections with what they hold, each thing by how often it is opened, whatever the way. */
  async crowds(): Promise<PlanMenu[]> {
    const { items, menus } = (await this.calculated()).input;
    const rates = new Map(items.map((item) => [item.id, item.rate]));
    return menus.map((menu) => ({
      ...menu,
      items: menu.items.map((item) => ({ ...item, rate: rates.get(item.id) ?? 0 })),
    }));
  }

  async view(): Promise<PlanView> {
    const { plan, input, names, reach } = await this.calculated();
    const idleOf = new Map(input.items.map((item) => [item.id, item.idle]));
    const nameOf = (id: string) => names.get(id) ?? '';
    const forecasts = await this.rows.forecasts();
    return {
      weeks: PLAN_WEEKS,
      openings: await this.rows.countOpenings(PLAN_WEEKS),
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
      forecasts: forecasts.map(({ at, seconds, was }) => ({ at: at.toISOString(), said: seconds, was })),
      rates: input.items.map(({ id, rate }) => ({
        shortcutId: id,
        perWeek: rate,
        seconds: reach.get(id)?.best?.seconds ?? null,
        byFolders: reach.get(id)?.folderRoute?.seconds ?? null,
      })),
      withoutShortcut: input.withoutShortcut.map(({ placeId, originalId, rate, byFolders, after }) => ({
        placeId,
        originalId,
        perWeek: rate,
        seconds: byFolders,
        withShortcut: after,
      })),
    };
  }

  /** Later: asked again in a week. Never: not again. */
  async answer(id: string, answer: 'later' | 'never'): Promise<void> {
    await this.rows.silence(id, answer === 'later' ? new Date(Date.now() + LATER_MS) : null);
    this.changed();
  }

  /** All that was put off or refused comes up again. */
  async askAgain(): Promise<void> {
    await this.rows.askAgain();
    this.changed();
  }

  /** Some suggestions at once, in one act that can be undone. */
  async apply(ids: readonly string[]): Promise<void> {
    const { plan, names } = await this.calculate();
    const found = ids.map((id) => plan.suggestions.find((s) => s.id === id));
    if (found.length === 0 || found.some((s) => s === undefined))
      throw new Refusal('changed-since', 'The plan is another by now; that suggestion is not in it any more.', {
        remedy: 'Look at the plan again.',
      });
    const chosen = await this.applier.prepare(found as Suggestion[]);
    const [first] = chosen.suggestions;
    const summary =
      chosen.suggestions.length === 1
        ? `Plan: ${titleOf(first!, (id) => names.get(id) ?? '')}`
        : `Applied ${chosen.suggestions.length} suggestions of the plan`;
    await this.journal.act({ act: 'apply-plan', summary }, (tx) => this.applier.apply(tx, chosen));
    this.applier.applied(chosen);
    this.changed();
  }

  private changed(): void {
    this.known = undefined;
    this.events.changed('plan');
  }
}
