/** What is likely opened next: the person's openings as core's model reads them, kept up as things are opened. */
import { Injectable } from '@nestjs/common';
import { SYSTEM_ZONE } from '@rellin/core/query';
import { fitLikely, LikelyNext, likelyNext, partOfWeek, type LikelyFit, type Opened } from '@rellin/core/usage';
import type { LikelyView } from '@rellin/contract';
import type { AfterAct, ChangeContext } from '../journal/journal.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { ReachRepository } from './reach.repository.js';
import type { RowChange } from '../journal/rowChange.js';

/** So many of the latest openings are read. */
const MOST_READ = 20_000;
/** The mixture is fitted anew after so many openings. */
const FIT_EVERY = 25;
/** A few more than are asked for: some may lie in the bin. */
const SPARE = 20;

interface LikelyState {
  history: LikelyNext;
  openings: Opened[];
  fit: LikelyFit;
  /** Openings since the fit. */
  since: number;
}

@Injectable()
export class LikelyService implements AfterAct {
  private known: Promise<LikelyState> | undefined;

  constructor(
    private readonly rows: ReachRepository,
    private readonly settings: SettingsService,
  ) {}

  afterAct(changes: RowChange[], { direction }: ChangeContext): void {
    const touched = changes.filter((c) => c.table === 'opening');
    if (changes.some((c) => c.table === 'setting' && c.id === 'halfLifeDays')) this.known = undefined;
    if (touched.length === 0) return;
    // an opening that comes is added; one that goes changes what came after it
    const isPlain = direction === 'do' && touched.every((c) => c.before === null);
    if (!isPlain) this.known = undefined;
    else if (this.known)
      this.known = this.known.then(async (known) => {
        const { halfLifeDays } = await this.settings.all();
        for (const { after } of touched) {
          if (!after?.shortcut_id || after.at === undefined) continue;
          const opened = { item: after.shortcut_id, at: Date.parse(after.at) };
          known.history.add(opened);
          known.openings.push(opened);
          known.since++;
        }
        if (known.since < FIT_EVERY) return known;
        return { ...known, fit: fitLikely(known.openings, SYSTEM_ZONE, halfLifeDays), since: 0 };
      });
  }

  /** What it knows is no longer so. */
  forget(): void {
    this.known = undefined;
  }

  private async read(): Promise<LikelyState> {
    const { halfLifeDays } = await this.settings.all();
    const rows = await this.rows.openings(MOST_READ);
    const history = new LikelyNext(SYSTEM_ZONE, halfLifeDays);
    for (const opened of rows) history.add(opened);
    return { history, openings: rows, fit: fitLikely(rows, SYSTEM_ZONE, halfLifeDays), since: 0 };
  }

  /** The likeliest that are in the catalogue, first the likeliest. */
  async likely(most: number): Promise<LikelyView> {
    const known = (this.known ??= this.read());
    // a failure is not kept
    known.catch(() => {
      if (this.known === known) this.known = undefined;
    });
    const { history, fit } = await known;
    const now = Date.now();
    const guesses = likelyNext(history, now, fit, most + SPARE);
    const nameOf = await this.rows.names(
      guesses.flatMap((g) => [g.item, ...(g.reason.kind === 'after' ? [g.reason.item] : [])]),
    );
    const previous = history.previousAt(now);
    return {
      at: new Date(now).toISOString(),
      part: partOfWeek(now, SYSTEM_ZONE),
      after: previous === undefined ? null : (nameOf.get(previous) ?? null),
      use: fit.use,
      hit5: fit.hit5,
      tested: fit.tested,
      mixture: fit.mixture,
      items: guesses
        .filter((g) => nameOf.has(g.item))
        .slice(0, most)
        .map(({ item, probability, reason }) => ({
          shortcutId: item,
          probability,
          reason: reason.kind === 'after' ? { ...reason, item: nameOf.get(reason.item) ?? '' } : reason,
        })),
    };
  }
}
