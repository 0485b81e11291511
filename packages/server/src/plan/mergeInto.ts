/** Makes one of several shortcuts to one original: the one that stays takes over what hangs on the others. */
import type { BoardId, CollectionId, ShortcutId, TagId } from '@rellin/contract';
import { randomUUID } from 'node:crypto';
import type { ActTx } from '../journal/actTx.js';

interface MergedRow {
  id: string;
  name: string;
  keys: string | null;
  also_called: string[];
}

/**
 * Tags, places in collections and on boards, the pin where it has none, its key, and the names as other names; then
 * they go to the bin.
 */
export async function mergeInto(tx: ActTx, kept: string, others: readonly string[]): Promise<void> {
  const read = async <T>(sql: string) => (await tx.manager.query(sql, [[kept, ...others]])) as T[];
  const rows = await read<MergedRow>(
    `SELECT id::text, name, keys, also_called FROM shortcut WHERE id = ANY($1::uuid[])`,
  );
  const own = rows.find((row) => row.id === kept)!;
  const gone = others.flatMap((id) => rows.find((row) => row.id === id) ?? []);
  const taggings = await read<{ tag_id: TagId; shortcut_id: ShortcutId }>(
    `SELECT tag_id::text, shortcut_id::text FROM tagging WHERE shortcut_id = ANY($1::uuid[])`,
  );
  const tags = new Set(taggings.flatMap((t) => (t.shortcut_id === kept ? t.tag_id : [])));
  for (const { tag_id } of taggings) {
    if (tags.has(tag_id)) continue;
    tags.add(tag_id);
    await tx.insert('tagging', { id: randomUUID(), tag_id, shortcut_id: kept });
  }
  const members = await read<{ id: string; collection_id: CollectionId; shortcut_id: ShortcutId }>(
    `SELECT id::text, collection_id::text, shortcut_id::text FROM member WHERE shortcut_id = ANY($1::uuid[]) ORDER BY sort`,
  );
  const collections = new Set(members.flatMap((m) => (m.shortcut_id === kept ? m.collection_id : [])));
  for (const member of members) {
    if (collections.has(member.collection_id)) continue;
    collections.add(member.collection_id);
    await tx.update('member', member.id, { shortcut_id: kept });
  }
  const laid = await read<{ id: string; board_id: BoardId; shortcut_id: ShortcutId }>(
    `SELECT id::text, board_id::text, shortcut_id::text FROM board_item WHERE shortcut_id = ANY($1::uuid[]) ORDER BY sort`,
  );
  const boards = new Set(laid.flatMap((l) => (l.shortcut_id === kept ? l.board_id : [])));
  for (const item of laid) {
    if (boards.has(item.board_id)) continue;
    boards.add(item.board_id);
    await tx.update('board_item', item.id, { shortcut_id: kept });
  }
  const pins = await read<{ id: string; shortcut_id: ShortcutId }>(
    `SELECT id::text, shortcut_id::text FROM pin WHERE shortcut_id = ANY($1::uuid[]) ORDER BY sort`,
  );
  if (pins[0] && !pins.some((pin) => pin.shortcut_id === kept))
    await tx.update('pin', pins[0].id, { shortcut_id: kept });
  const keys = own.keys ?? gone.find((row) => row.keys !== null)?.keys ?? null;
  const names = new Set([...own.also_called, ...gone.flatMap((row) => [row.name, ...row.also_called])]);
  names.delete(own.name);
  // first the others, so that a key is free before it is given
  for (const { id } of gone)
    await tx.update('shortcut', id, { removed_at: new Date().toISOString(), ...(own.keys === null && { keys: null }) });
  await tx.update('shortcut', kept, { also_called: [...names], keys });
}
