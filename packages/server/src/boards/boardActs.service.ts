/** An act on a board: the board locked and read, what changes on it written, so that nothing ever overlaps. */
import { Injectable } from '@nestjs/common';
import { freeSpot, makeRoom, overlaps, snap, type Lying, type Spot } from '@rellin/core/board';
import type { BoardId, BoardView } from '@rellin/contract';
import type { ActTx } from '../journal/actTx.js';
import { JournalService, type ActOptions } from '../journal/journal.service.js';
import { Refusal } from '../problems/refusal.js';
import { BoardsRepository, thingsOf, type BoardLayoutRows, type Thing } from './boards.repository.js';
import { tableOf } from './layoutRows.js';

/** A board with what lies on it. */
export interface KnownBoard {
  board: BoardView;
  layout: BoardLayoutRows;
}

/** The same within an act: as it is once nobody else changes it. */
export interface BoardInAct extends KnownBoard {
  tx: ActTx;
  columns: number;
}

@Injectable()
export class BoardActs {
  constructor(
    private readonly repository: BoardsRepository,
    private readonly journal: JournalService,
  ) {}

  async known(id: BoardId, tx?: ActTx): Promise<KnownBoard> {
    // one act on a board at a time, so that no two take the same spot
    if (tx) await this.repository.lock(id, tx.manager);
    const board = await this.repository.one(id, tx?.manager);
    if (!board) throw new Refusal('not-found', 'That board is not there any more.');
    return { board, layout: await this.repository.layout([id], tx?.manager) };
  }

  /** `said` tells what it is from the board as it was found; `work` sees it as it is then. */
  async act<T>(
    id: BoardId,
    said: (known: KnownBoard) => ActOptions,
    work: (now: BoardInAct) => Promise<T>,
  ): Promise<T> {
    const options = said(await this.known(id));
    return this.journal.act(options, async (tx) => work(await this.inAct(id, tx)));
  }

  private async inAct(id: BoardId, tx: ActTx): Promise<BoardInAct> {
    const known = await this.known(id, tx);
    return { ...known, tx, columns: known.board.columns };
  }

  /** Writes the spots of those that move; how many did. */
  async lay(tx: ActTx, things: readonly Thing[], spots: ReadonlyMap<string, Spot>): Promise<number> {
    let moved = 0;
    for (const thing of things) {
      const spot = spots.get(thing.id);
      if (!spot || (spot.x === thing.x && spot.y === thing.y)) continue;
      await tx.update(tableOf(thing), thing.id, { x: spot.x, y: spot.y });
      moved++;
    }
    return moved;
  }

  /** Gives things their places in own order. */
  async sort(tx: ActTx, things: readonly Thing[]): Promise<void> {
    for (const [i, thing] of things.entries()) await tx.update(tableOf(thing), thing.id, { sort: i + 1 });
  }

  /** `back` to their own spots; of those that share one, the later finds another near. Others move out of the way. */
  async comeBack({ tx, columns }: BoardInAct, back: readonly Lying[], others: readonly Thing[]): Promise<void> {
    const lying: Lying[] = [];
    for (const thing of back) {
      const spot = freeSpot(thing, columns, lying);
      if (spot.x !== thing.x || spot.y !== thing.y) await tx.update('board_item', thing.id, { x: spot.x, y: spot.y });
      lying.push({ ...thing, ...spot });
    }
    await this.lay(tx, others, makeRoom(lying, others, columns));
  }

  /** What lies where these came back, or where a bundle grew, moves aside. */
  async makeRoomFor(tx: ActTx, back: ReadonlySet<string>): Promise<void> {
    for (const id of await this.repository.boardsOf([...back], tx.manager)) {
      const { layout, columns } = await this.inAct(id, tx);
      for (const region of layout.regions) {
        if (region.order !== 'free') continue;
        const things = thingsOf(layout, region.id, true);
        if (overlaps(things).length === 0) continue;
        const coming = things.filter((t) => back.has(t.id));
        const stays = overlaps(coming).length === 0;
        const others = stays ? things.filter((t) => !back.has(t.id)) : things;
        await this.lay(tx, things, stays ? makeRoom(coming, others, columns) : snap(things, columns));
      }
    }
  }

  /** A bundle that holds nothing any more, not even in the bin, is none. */
  async dropEmptyBundles(tx: ActTx, boardId: BoardId): Promise<void> {
    for (const id of await this.repository.emptyBundles(boardId, tx.manager)) await tx.remove('bundle', id);
  }
}
