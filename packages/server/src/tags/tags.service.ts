/** Tags on shortcuts and on originals alike; what bears one is found wherever it lies. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { DataSource, In } from 'typeorm';
import { leastUsed } from '@rellin/core/palette';
import type { Bearers, OriginalId, SearchId, ShortcutId, TagId, TagView, TaggedView } from '@rellin/contract';
import type { ActTx } from '../journal/actTx.js';
import { JournalService } from '../journal/journal.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { Refusal } from '../problems/refusal.js';
import type { Rows } from '../database/rows.js';
import { TagEntity } from '../database/entities/tag.entity.js';

/** What a tag is on: one of these, the others null. */
type Bearer = Pick<Rows['tagging'], 'shortcut_id' | 'search_id' | 'place_id' | 'original_id'>;

/** As SQL gives it: large numbers are text. */
interface TaggingRow extends Omit<Bearer, 'original_id'> {
  id: string;
  original_id: OriginalId | null;
}

const keyOf = (r: Bearer | TaggingRow) => r.shortcut_id ?? r.search_id ?? `${r.place_id}/${r.original_id}`;

@Injectable()
export class TagsService {
  constructor(
    private readonly db: DataSource,
    private readonly journal: JournalService,
    private readonly originals: OriginalsService,
  ) {}

  async one(id: TagId): Promise<TagView> {
    const [tag] = await this.list(id);
    if (!tag) throw new Refusal('not-found', 'There is no such tag any more.');
    return tag;
  }

  /** All, or one. */
  async list(id?: string): Promise<TagView[]> {
    return (await this.db.query(
      `
      SELECT t.id::text, t.name, t.colour, p.id IS NOT NULL AS pinned,
        count(g.id) FILTER (WHERE g.original_id IS NOT NULL OR s.removed_at IS NULL AND s.id IS NOT NULL
          OR q.removed_at IS NULL AND q.id IS NOT NULL) AS count
      FROM tag t LEFT JOIN tagging g ON g.tag_id = t.id LEFT JOIN shortcut s ON s.id = g.shortcut_id
      LEFT JOIN saved_search q ON q.id = g.search_id LEFT JOIN pin p ON p.tag_id = t.id
      WHERE $1::uuid IS NULL OR t.id = $1 GROUP BY t.id, p.id ORDER BY lower(t.name)`,
      [id ?? null],
    )) as TagView[];
  }

  private async need(id: TagId): Promise<TagEntity> {
    const tag = await this.db.getRepository(TagEntity).findOneBy({ id });
    if (!tag) throw new Refusal('not-found', 'There is no such tag any more.');
    return tag;
  }

  async add(request: { name: string; colour?: string } & Bearers): Promise<string> {
    const name = await this.freeName(request.name);
    const id = randomUUID();
    const [{ used }] = (await this.db.query(`SELECT ARRAY(SELECT colour FROM tag) AS used`)) as [{ used: string[] }];
    await this.journal.act({ act: 'add-tag', summary: `Made the tag “${name}”` }, async (tx) => {
      await tx.insert('tag', { id, name, colour: request.colour ?? leastUsed(used) });
      for (const bearer of bearers(request)) await tx.insert('tagging', { id: randomUUID(), tag_id: id, ...bearer });
    });
    return id;
  }

  private async freeName(text: string, own?: string): Promise<string> {
    const name = text.trim();
    if (!name) throw new Refusal('not-valid', 'A tag needs a name.');
    const rows = (await this.db.query(`SELECT id::text FROM tag WHERE lower(name) = lower($1)`, [name])) as {
      id: string;
    }[];
    if (rows.some((r) => r.id !== own)) throw new Refusal('conflict', `There is a tag “${name}” already.`);
    return name;
  }

  async change(id: TagId, patch: { name?: string; colour?: string }): Promise<void> {
    const tag = await this.need(id);
    const name = patch.name === undefined ? undefined : await this.freeName(patch.name, id);
    const summary =
      name !== undefined && name !== tag.name
        ? `Renamed the tag “${tag.name}” to “${name}”`
        : `Changed the tag “${tag.name}”`;
    await this.journal.act({ act: 'change-tag', summary }, (tx) =>
      tx.update('tag', id, { ...(name !== undefined && { name }), ...(patch.colour && { colour: patch.colour }) }),
    );
  }

  /** Off everything and gone; undo brings it back onto everything it was on. */
  async remove(id: TagId): Promise<void> {
    const tag = await this.need(id);
    await this.journal.act({ act: 'remove-tag', summary: `Removed the tag “${tag.name}”` }, async (tx) => {
      for (const row of await this.rows(id)) await tx.remove('tagging', row.id);
      const pins = (await tx.manager.query(`SELECT id::text FROM pin WHERE tag_id = $1`, [id])) as { id: string }[];
      for (const pin of pins) await tx.remove('pin', pin.id);
      const published = (await tx.manager.query(`SELECT id::text FROM publication WHERE tag_id = $1`, [id])) as {
        id: string;
      }[];
      for (const one of published) await tx.remove('publication', one.id);
      await tx.remove('tag', id);
    });
  }

  private async rows(tagId: TagId): Promise<TaggingRow[]> {
    return (await this.db.query(
      `SELECT id::text, shortcut_id::text, search_id::text, place_id, original_id FROM tagging WHERE tag_id = $1`,
      [tagId],
    )) as TaggingRow[];
  }

  /** Puts the tag on many in one act; what bears it already is left. */
  async put(id: TagId, request: Bearers): Promise<number> {
    const tag = await this.need(id);
    let count = 0;
    await this.journal.act(
      { act: 'put-tag', summary: () => `Tagged ${count === 1 ? 'one thing' : `${count} things`} “${tag.name}”` },
      async (tx) => {
        const there = new Set((await this.rows(id)).map(keyOf));
        const fresh = bearers(request).filter((bearer) => {
          const isNew = !there.has(keyOf(bearer));
          there.add(keyOf(bearer));
          return isNew;
        });
        await tx.insertMany(
          'tagging',
          fresh.map((bearer) => ({ id: randomUUID(), tag_id: id, ...bearer })),
        );
        count = fresh.length;
      },
    );
    return count;
  }

  /** Within the act that makes a saved search. */
  async putOnSearch(tx: ActTx, tagIds: readonly TagId[], searchId: SearchId): Promise<void> {
    for (const tag_id of new Set(tagIds)) {
      await tx.need('tag', tag_id, 'That tag');
      await tx.insert('tagging', { id: randomUUID(), tag_id, ...bearers({ searchIds: [searchId] })[0]! });
    }
  }

  async take(id: TagId, request: Bearers): Promise<number> {
    const tag = await this.need(id);
    const wanted = new Set(bearers(request).map(keyOf));
    const rows = (await this.rows(id)).filter((r) => wanted.has(keyOf(r)));
    const what = rows.length === 1 ? 'one thing' : `${rows.length} things`;
    await this.journal.act({ act: 'take-tag', summary: `Removed the tag “${tag.name}” from ${what}` }, async (tx) => {
      for (const row of rows) await tx.remove('tagging', row.id);
    });
    return rows.length;
  }

  async tagged(id: TagId): Promise<TaggedView> {
    await this.need(id);
    const rows = (await this.db.query(
      `SELECT g.id, g.shortcut_id::text, g.search_id::text, g.place_id, g.original_id FROM tagging g
       LEFT JOIN shortcut s ON s.id = g.shortcut_id LEFT JOIN saved_search q ON q.id = g.search_id
       WHERE g.tag_id = $1 AND s.removed_at IS NULL AND q.removed_at IS NULL`,
      [id],
    )) as TaggingRow[];
    const originals: TaggedView['originals'] = [];
    for (const r of rows) {
      if (r.original_id === null) continue;
      const found = await this.originals.original(r.place_id!, r.original_id).catch((error: unknown) => {
        if (error instanceof Refusal) return undefined; // gone from the index: it comes back with its original
        throw error;
      });
      if (!found) continue;
      const { path: _path, folderRoute: _folderRoute, preview: _preview, trail, ...entry } = found;
      originals.push({ ...entry, trail: trail.slice(0, -1).map((step) => step.name) });
    }
    return {
      shortcutIds: rows.filter((r) => r.shortcut_id !== null).map((r) => r.shortcut_id!),
      searchIds: rows.filter((r) => r.search_id !== null).map((r) => r.search_id!),
      originals,
    };
  }

  /** Shortcut id → tags on it. */
  async ofShortcuts(ids: string[] | undefined): Promise<Map<string, string[]>> {
    const rows = (await this.db.query(
      `SELECT g.shortcut_id::text, array_agg(t.id::text ORDER BY lower(t.name)) AS tags
       FROM tagging g JOIN tag t ON t.id = g.tag_id
       WHERE g.shortcut_id IS NOT NULL ${ids ? 'AND g.shortcut_id = ANY($1)' : ''} GROUP BY g.shortcut_id`,
      ids ? [ids] : [],
    )) as { shortcut_id: ShortcutId; tags: string[] }[];
    return new Map(rows.map((r) => [r.shortcut_id, r.tags]));
  }

  /** Names of tags by id, for the find line. */
  async names(ids: string[]): Promise<Map<string, string>> {
    const tags = await this.db.getRepository(TagEntity).findBy({ id: In(ids) });
    return new Map(tags.map((t) => [t.id, t.name]));
  }
}

const NONE = { shortcut_id: null, search_id: null, place_id: null, original_id: null };

function bearers({ shortcutIds = [], searchIds = [], originals = [] }: Bearers): Bearer[] {
  return [
    ...shortcutIds.map((shortcut_id) => ({ ...NONE, shortcut_id })),
    ...searchIds.map((search_id) => ({ ...NONE, search_id })),
    ...originals.map((o) => ({ ...NONE, place_id: o.placeId, original_id: o.originalId })),
  ];
}
