/** The decayed counts of shortcuts' openings, as they are kept beside them. */
import type { ShortcutId } from '@rellin/contract';
import type { EntityManager } from 'typeorm';
import { NO_WEIGHT, withOpening, type Weight } from '@rellin/core/usage';

type Queries = Pick<EntityManager, 'query'>;

export async function saveUsage(
  manager: Queries,
  shortcutId: ShortcutId,
  { w0, t0 }: Weight,
  last: number,
): Promise<void> {
  await manager.query(
    `INSERT INTO usage (shortcut_id, w0, t0, last_opened) VALUES ($1, $2, $3, to_timestamp($4 / 1000.0))
     ON CONFLICT (shortcut_id) DO UPDATE SET w0 = $2, t0 = $3,
       last_opened = GREATEST(usage.last_opened, EXCLUDED.last_opened)`,
    [shortcutId, w0, t0, last],
  );
}

/** From the openings there are; a shortcut without any has no count. */
export async function countAnew(manager: Queries, ids: readonly string[], halfLifeDays: number): Promise<void> {
  const rows = (await manager.query(
    `SELECT shortcut_id::text AS id, extract(epoch FROM at)::float8 * 1000 AS at FROM opening
     WHERE shortcut_id = ANY($1::uuid[]) ORDER BY at`,
    [ids],
  )) as { id: string; at: number }[];
  const counts = new Map<string, { weight: Weight; last: number }>();
  for (const { id, at } of rows)
    counts.set(id, { weight: withOpening(counts.get(id)?.weight ?? NO_WEIGHT, at, halfLifeDays), last: at });
  await manager.query(`DELETE FROM usage WHERE shortcut_id = ANY($1::uuid[])`, [ids]);
  for (const [id, { weight, last }] of counts) await saveUsage(manager, id, weight, last);
}
