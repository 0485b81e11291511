/** SQL over boards, their regions, bundles and items. */
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { bundleHeight, type Lying, type RegionOrder, type Sorted } from '@rellin/core/board';
import type { Kind } from '@rellin/core/kinds';
import type {
  BoardId,
  BoardItemId,
  BoardItemView,
  BoardLayout,
  BoardView,
  BundleView,
  RegionId,
  ShortcutId,
  BundleId,
} from '@rellin/contract';

type Query = Pick<DataSource, 'query'>;

export interface RegionRow {
  id: string;
  boardId: BoardId;
  name: string;
  order: RegionOrder;
  sort: number;
}

/** An item with what its order goes by. */
export interface ItemRow extends BoardItemView {
  boardId: BoardId;
  name: string;
  kind: Kind;
  size: number | null;
  modified: number | null;
  opened: number | null;
  /** Its shortcut lies in the bin: its spot is kept, and it is not shown. */
  removed: boolean;
}

/** What lies in a region by itself: an item without a bundle, or a bundle. */
export type Thing = Lying & Sorted & ({ item: ItemRow; bundle?: undefined } | { bundle: BundleView; item?: undefined });

export interface BoardLayoutRows {
  regions: RegionRow[];
  bundles: BundleView[];
  items: ItemRow[];
}

const BOARDS = `
  SELECT b.id::text, b.name, b.columns, b.removed_at AS "removedAt",
    (SELECT count(*)::int FROM region r WHERE r.board_id = b.id) AS regions,
    (SELECT count(*)::int FROM board_item i JOIN shortcut s ON s.id = i.shortcut_id
     WHERE i.board_id = b.id AND s.removed_at IS NULL) AS count
  FROM board b`;

@Injectable()
export class BoardsRepository {
  constructor(private readonly db: DataSource) {}

  /** Gone for good after so many days in the bin. Returns how many. */
  async clearBin(manager: EntityManager, days: number): Promise<number> {
    const [, gone] = (await manager.query(`DELETE FROM board WHERE removed_at <= now() - make_interval(days => $1)`, [
      days,
    ])) as [unknown, number];
    return gone;
  }

  /** In their own order; the first is the one the view opens with. */
  async list(removed: boolean): Promise<BoardView[]> {
    return (await this.db.query(
      `${BOARDS} WHERE b.removed_at IS ${removed ? 'NOT NULL' : 'NULL'} ORDER BY b.sort, b.id`,
    )) as BoardView[];
  }

  async one(id: string, db: Query = this.db): Promise<BoardView | undefined> {
    return ((await db.query(`${BOARDS} WHERE b.id = $1`, [id])) as BoardView[])[0];
  }

  /** Of some boards, or of all that are not in the bin. */
  async layout(boardIds: readonly string[] | undefined, db: Query = this.db): Promise<BoardLayoutRows> {
    const some = boardIds ?? null;
    const regions = (await db.query(
      `SELECT r.id::text, r.board_id::text AS "boardId", r.name, r.sort_by AS order, r.sort FROM region r
       JOIN board b ON b.id = r.board_id WHERE CASE WHEN $1::uuid[] IS NULL THEN b.removed_at IS NULL ELSE b.id = ANY($1) END
       ORDER BY r.sort, r.id`,
      [some],
    )) as RegionRow[];
    const regionIds = regions.map((r) => r.id);
    const bundles = (await db.query(
      `SELECT id::text, region_id::text AS "regionId", name, sort, x, y FROM bundle WHERE region_id = ANY($1) ORDER BY sort, id`,
      [regionIds],
    )) as BundleView[];
    const items = (await db.query(
      `SELECT i.id::text, i.board_id::text AS "boardId", i.shortcut_id::text AS "shortcutId", i.region_id::text AS "regionId",
         i.bundle_id::text AS "bundleId", i.sort, i.x, i.y, s.name, s.kind,
         CASE WHEN s.identity ->> 'type' = 'file' THEN (s.identity ->> 'size')::float8 END AS size,
         (s.identity ->> 'mtime')::float8 AS modified, extract(epoch FROM u.last_opened)::float8 * 1000 AS opened,
         s.removed_at IS NOT NULL AS removed
       FROM board_item i JOIN shortcut s ON s.id = i.shortcut_id LEFT JOIN usage u ON u.shortcut_id = s.id
       WHERE i.region_id = ANY($1) ORDER BY i.sort, i.id`,
      [regionIds],
    )) as ItemRow[];
    return { regions, bundles, items };
  }

  /** To the end of the transaction. */
  async lock(id: BoardId, db: Query): Promise<void> {
    await db.query(`SELECT 1 FROM board WHERE id = $1 FOR UPDATE`, [id]);
  }

  /** The first and the last point on the line of boards; of all, or of those not in the bin but for one. */
  async ends(db: Query, but?: BoardId): Promise<[first: number, last: number]> {
    const [row] = (await db.query(
      `SELECT coalesce(min(sort), 1) AS first, coalesce(max(sort), 0) AS last FROM board
       WHERE $1::uuid IS NULL OR removed_at IS NULL AND id <> $1`,
      [but ?? null],
    )) as [{ first: number; last: number }];
    return [row.first, row.last];
  }

  /** The boards that these items and bundles lie on. */
  async boardsOf(ids: readonly string[], db: Query): Promise<BoardId[]> {
    const rows = (await db.query(
      `SELECT DISTINCT r.board_id::text AS id FROM region r WHERE r.id IN
         (SELECT region_id FROM board_item WHERE id = ANY($1) UNION SELECT region_id FROM bundle WHERE id = ANY($1))`,
      [ids],
    )) as { id: BoardId }[];
    return rows.map((r) => r.id);
  }

  /** Bundles that hold nothing, not even what lies in the bin. */
  async emptyBundles(boardId: BoardId, db: Query): Promise<BundleId[]> {
    const rows = (await db.query(
      `SELECT b.id::text FROM bundle b JOIN region r ON r.id = b.region_id
       WHERE r.board_id = $1 AND NOT EXISTS (SELECT 1 FROM board_item i WHERE i.bundle_id = b.id)`,
      [boardId],
    )) as { id: BundleId }[];
    return rows.map((r) => r.id);
  }

  /** Where they lie, those in the bin included, in own order. */
  async itemsOfShortcuts(
    shortcutIds: readonly ShortcutId[],
    db: Query,
  ): Promise<{ id: BoardItemId; board_id: BoardId; shortcut_id: ShortcutId }[]> {
    return (await db.query(
      `SELECT id::text, board_id::text, shortcut_id::text FROM board_item
       WHERE shortcut_id = ANY($1::uuid[]) ORDER BY sort`,
      [shortcutIds],
    )) as { id: BoardItemId; board_id: BoardId; shortcut_id: ShortcutId }[];
  }

  /** Shortcut → the boards it lies on. */
  async ofShortcuts(ids: readonly string[]): Promise<Map<string, string[]>> {
    const rows = (await this.db.query(
      `SELECT i.shortcut_id::text AS id, array_agg(b.id::text ORDER BY b.sort, b.id) AS boards FROM board_item i
       JOIN board b ON b.id = i.board_id AND b.removed_at IS NULL WHERE i.shortcut_id = ANY($1) GROUP BY i.shortcut_id`,
      [ids],
    )) as { id: string; boards: string[] }[];
    return new Map(rows.map((r) => [r.id, r.boards]));
  }
}

/** As the page shows it: without what lies in the bin. */
export function layoutView(board: BoardView, { regions, bundles, items }: BoardLayoutRows): BoardLayout {
  return {
    board,
    regions: regions.map(({ id, name, order }) => ({ id, name, order })),
    bundles,
    items: items
      .filter((i) => !i.removed)
      .map(({ id, shortcutId, regionId, bundleId, sort, x, y }) => ({
        id,
        shortcutId,
        regionId,
        bundleId,
        sort,
        x,
        y,
      })),
  };
}

/** What lies in a region by itself; of items in the bin too where their spots are to be kept. */
export function thingsOf({ bundles, items }: BoardLayoutRows, regionId: RegionId, withRemoved = false): Thing[] {
  const here = items.filter((i) => i.regionId === regionId && (withRemoved || !i.removed));
  const held = new Map<string, number>();
  for (const { bundleId } of here) if (bundleId) held.set(bundleId, (held.get(bundleId) ?? 0) + 1);
  return [
    ...here.flatMap((item): Thing[] => (item.bundleId ? [] : [{ ...item, height: 1, item }])),
    ...bundles.flatMap((bundle): Thing[] =>
      bundle.regionId === regionId ? [{ ...bundle, height: bundleHeight(held.get(bundle.id) ?? 0), bundle }] : [],
    ),
  ];
}
