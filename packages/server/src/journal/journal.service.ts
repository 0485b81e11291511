/** Acts, undo and redo. */
import { Injectable } from '@nestjs/common';
import pLimit from 'p-limit';
import { DataSource, IsNull, MoreThan, Not, type EntityManager, type Repository } from 'typeorm';
import { invert, type Change } from '@rellin/core/journal';
import type { JournalLine, JournalLineId, OpeningId } from '@rellin/contract';
import { isInAct, transactionOfAct } from '../database/inAct.js';
import { EventsService } from '../events/events.service.js';
import { faultPoint } from '../faults/faultPoint.js';
import { Refusal } from '../problems/refusal.js';
import { ActTx, NEXT_LINE, nextLineId } from './actTx.js';
import { JournalEntity } from '../database/entities/journal.entity.js';
import type { RowChange } from './rowChange.js';
import { topicsOf } from './topics.js';

export interface ActOptions {
  act: string;
  /** What was done, in words, shown in the bottom line and the journal. */
  summary: string | (() => string);
  by?: 'person' | 'automatic';
  inStack?: boolean;
}

export interface ChangeContext {
  act: string;
  direction: 'do' | 'undo' | 'redo';
}

/** Keeps what is derived from journaled rows true: called in the act's own transaction, also of its undo and redo. */
export interface WithinAct {
  withinAct(changes: RowChange[], tx: ActTx, context: ChangeContext): Promise<void>;
}

/** For what lives in memory or on disk: called once the act can no longer fail. */
export interface AfterAct {
  afterAct(changes: RowChange[], context: ChangeContext): void;
}

@Injectable()
export class JournalService {
  /** What an act finds when it looks is still so when it ends: two at once could each close half of a circle. */
  private readonly turns = pLimit(1);
  private within: readonly WithinAct[] = [];
  private after: readonly AfterAct[] = [];

  constructor(
    private readonly db: DataSource,
    private readonly events: EventsService,
  ) {}

  /** What follows each act, in this order. */
  followedBy(within: readonly WithinAct[], after: readonly AfterAct[]): void {
    this.within = within;
    this.after = after;
  }

  /** Runs an act and writes its line in one transaction. An act that changed nothing leaves no line. */
  async act<T>(options: ActOptions, work: (tx: ActTx) => Promise<T>): Promise<T> {
    const context: ChangeContext = { act: options.act, direction: 'do' };
    const { result, changes } = await this.inTurn(options.act, async (manager) => {
      const tx = new ActTx(manager);
      const result = await work(tx);
      const changes = () => [...tx.changes, ...tx.rewritten];
      if (changes().length > 0) {
        for (const one of this.within) await one.withinAct(typed(changes()), tx, context);
        // plainly: what maps entities to rows looks through all the changes, of which there may be thousands
        await manager.query(
          `INSERT INTO journal (id, act, summary, by, in_stack, changes)
           VALUES (coalesce($1::bigint, ${NEXT_LINE}), $2, $3, $4, $5, $6)`,
          [
            tx.lineId,
            options.act,
            typeof options.summary === 'string' ? options.summary : options.summary(),
            options.by ?? 'person',
            options.inStack ?? true,
            JSON.stringify(tx.changes),
          ],
        );
        faultPoint('act written, not committed');
      }
      return { result, changes: changes() };
    });
    faultPoint('act committed, not told');
    this.tell(changes, context);
    return result;
  }

  /**
   * A transaction of an act, one at a time in the order they came. An act within an act would wait for itself.
   */
  private inTurn<T>(act: string, work: (manager: EntityManager) => Promise<T>): Promise<T> {
    if (isInAct()) throw new Error(`the act “${act}” was begun within another`);
    return this.turns(() => transactionOfAct(this.db, work));
  }

  /** Takes back the line with this id, or the latest one on the stack. */
  async undo(id?: JournalLineId): Promise<JournalLine> {
    return this.reverse('undo', id);
  }

  /** Does again what was undone last, unless something else was done since. */
  async redo(): Promise<JournalLine> {
    return this.reverse('redo');
  }

  private async reverse(direction: 'undo' | 'redo', id?: JournalLineId): Promise<JournalLine> {
    const { line, changes } = await this.inTurn(direction, async (manager) => {
      // one undo at a time, so that two pages cannot take back the same line twice
      await manager.query(`SELECT pg_advisory_xact_lock(7, 1)`);
      const repository = manager.getRepository(JournalEntity);
      const line = await this.pickLine(repository, direction, id);
      const tx = new ActTx(manager);
      const done = await this.changesOf(manager, line);
      const source = direction === 'undo' ? done : (line.undoChanges ?? invert(done));
      await tx.applyAll(invert(source));
      for (const one of this.within) await one.withinAct(typed(tx.changes), tx, { act: line.act, direction });
      if (direction === 'undo') {
        line.undoneAt = new Date();
        line.undoneOrder = await nextLineId(manager);
        line.undoChanges = tx.changes;
      } else {
        line.undoneAt = null;
        line.undoneOrder = null;
        line.undoChanges = null;
        line.changes = tx.changes;
        await manager.query(`DELETE FROM journal_rewritten WHERE journal_id = $1`, [line.id]);
      }
      await repository.save(line);
      faultPoint('undo written, not committed');
      return { line, changes: tx.changes };
    });
    faultPoint('undo committed, not told');
    this.tell(changes, { act: line.act, direction });
    return toLine(line);
  }

  /** All that a line changed, what it rewrote last. */
  private async changesOf(manager: EntityManager, line: JournalEntity): Promise<Change[]> {
    const rewritten = await manager.query<{ change: Change }[]>(
      `SELECT change FROM journal_rewritten WHERE journal_id = $1`,
      [line.id],
    );
    return [...line.changes, ...rewritten.map((r) => r.change)];
  }

  private async pickLine(
    repository: Repository<JournalEntity>,
    direction: 'undo' | 'redo',
    id?: JournalLineId,
  ): Promise<JournalEntity> {
    if (id !== undefined) {
      const line = await repository.findOneBy({ id });
      if (!line) throw new Refusal('not-found', 'The journal has no such line.');
      if (line.undoneAt) throw new Refusal('conflict', `“${line.summary}” is undone already.`);
      return line;
    }
    if (direction === 'undo') {
      const line = await repository.findOne({
        where: { inStack: true, undoneAt: IsNull() },
        order: { id: 'DESC' },
      });
      if (!line) throw new Refusal('not-found', 'There is nothing to undo.');
      return line;
    }
    const line = await repository.findOne({
      where: { inStack: true, undoneOrder: Not(IsNull()) },
      order: { undoneOrder: 'DESC' },
    });
    const later = line
      ? await repository.countBy({ inStack: true, undoneOrder: IsNull(), id: MoreThan(line.undoneOrder!) })
      : 0;
    if (!line || later > 0) throw new Refusal('not-found', 'There is nothing to do again.');
    return line;
  }

  async list(before: JournalLineId | undefined, limit: number): Promise<JournalLine[]> {
    const query = this.db.getRepository(JournalEntity).createQueryBuilder('j').orderBy('j.id', 'DESC').limit(limit);
    if (before) query.where('j.id < :before', { before });
    return (await query.getMany()).map(toLine);
  }

  /** Deletes the lines of openings that are themselves forgotten, for good. This is no act and cannot be undone. */
  async forgetOpenings(manager: EntityManager, ids: readonly OpeningId[]): Promise<void> {
    await manager.query(`DELETE FROM journal WHERE act = 'open' AND changes->0->>'id' = ANY($1)`, [ids]);
  }

  /** Undo begins anew: it takes back nothing done before now. Each earlier line can still be undone by itself. */
  async beginStackAnew(): Promise<void> {
    await this.db.query(`UPDATE journal SET in_stack = false`);
  }

  private tell(changes: Change[], context: ChangeContext): void {
    if (changes.length === 0) return;
    for (const one of this.after) one.afterAct(typed(changes), context);
    this.events.changed(...topicsOf(new Set(changes.map((c) => c.table))));
  }
}

/** What was recorded of a row has the types of its table: it went in through an act, or stood there as JSON. */
const typed = (changes: readonly Change[]) => changes as RowChange[];

function toLine(line: JournalEntity): JournalLine {
  return {
    id: line.id,
    at: line.at.toISOString(),
    act: line.act,
    summary: line.summary,
    by: line.by,
    undoneAt: line.undoneAt ? line.undoneAt.toISOString() : null,
    inStack: line.inStack,
  };
}
