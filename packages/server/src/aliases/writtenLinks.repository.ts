/** What Rellin wrote of links, and what it was about to: the table `written_link`, which no undo touches. */
import type { PlaceId } from '@rellin/contract';
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { LinkStep, SeenEntry, WantedLink, WrittenLink } from '@rellin/core/aliases';
import type { Rows } from '../database/rows.js';
import { absolute, below } from '../disk/paths.js';
import type { StepOutcome } from '../disk/diskMessages.js';
import { aliasKey, publicationKey, type Unit } from './linkKeys.js';

/** Marks what a person put into a published folder and took out of the catalogue again. */
const ASIDE = 'aside/';

type WrittenLinkRow = Pick<
  Rows['written_link'],
  | ('key' | 'form' | 'name' | 'inode' | 'is_foreign' | 'before_taken')
  | ('now_path' | 'now_content' | 'next_path' | 'next_content')
>;

function records(rows: readonly WrittenLinkRow[], root: string): WrittenLink[] {
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

/** How a link stands: where it lies now, and what stood in its way. */
export interface LinkStand {
  key: string;
  form: string;
  now_path: string | null;
  trouble: string | null;
}

@Injectable()
export class WrittenLinksRepository {
  constructor(private readonly db: DataSource) {}

  /** The records of a unit in a place, with absolute paths. */
  async of(placeId: PlaceId, root: string, unit: Unit): Promise<WrittenLink[]> {
    // a key that goes on has a slash next, which is before "0"
    const rows =
      'publication' in unit
        ? await this.db.query(
            `SELECT * FROM written_link WHERE place_id = $1 AND key ~>=~ $2 AND key ~<~ ($2 || '0') ORDER BY key`,
            [placeId, publicationKey(unit.publication)],
          )
        : await this.db.query(`SELECT * FROM written_link WHERE place_id = $1 AND key = ANY($2) ORDER BY key`, [
            placeId,
            unit.aliases.map(aliasKey),
          ]);
    return records(rows as WrittenLinkRow[], root);
  }

  /** What persons put into published folders and took out of the catalogue again. */
  async aside(placeId: PlaceId, root: string): Promise<WrittenLink[]> {
    const rows = (await this.db.query(
      `SELECT * FROM written_link WHERE place_id = $1 AND key ~>=~ 'aside/' AND key ~<~ 'aside0'`,
      [placeId],
    )) as WrittenLinkRow[];
    return records(rows, root);
  }

  /** Of some paths, those that a record tells of, be it to stand there now or soon. */
  async told(placeId: PlaceId, paths: readonly string[]): Promise<Set<string>> {
    const rows = (await this.db.query(
      `SELECT now_path, next_path FROM written_link
       WHERE place_id = $1 AND (now_path = ANY($2) OR next_path = ANY($2))`,
      [placeId, paths],
    )) as WrittenLinkRow[];
    return new Set(rows.flatMap((r) => [r.now_path ?? [], r.next_path ?? []].flat()));
  }

  /** Before steps are done: what is about to be. */
  async meant(
    placeId: PlaceId,
    root: string,
    steps: readonly LinkStep[],
    wanted: ReadonlyMap<string, WantedLink>,
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
              before_taken: wanted.get(s.key)?.before ?? null,
              fresh: s.do === 'make',
            },
          ]
        : [],
    );
    if (intents.length === 0) return;
    await this.db.query(
      `INSERT INTO written_link (key, place_id, form, name, next_path, next_content, now_path, now_content, before_taken)
       SELECT i.key, $1, i.form, i.name, i.next_path, i.next_content, i.now_path, i.now_content, i.before_taken
       FROM jsonb_to_recordset($2) AS i (key text, form text, name text, next_path text, next_content text,
         now_path text, now_content text, before_taken text)
       ON CONFLICT (key) DO UPDATE SET next_path = excluded.next_path, next_content = excluded.next_content,
         now_path = excluded.now_path, now_content = excluded.now_content, trouble = NULL`,
      [placeId, JSON.stringify(intents)],
    );
    // one that is made anew is not what was there before
    const fresh = intents.filter((i) => i.fresh).map((i) => i.key);
    if (fresh.length > 0) await this.db.query(`UPDATE written_link SET inode = NULL WHERE key = ANY($1)`, [fresh]);
  }

  /** After steps were done: what came of each. */
  async done(
    placeId: PlaceId,
    root: string,
    steps: readonly LinkStep[],
    outcomes: readonly StepOutcome[],
    foreign: ReadonlySet<string>,
  ): Promise<void> {
    const stand: { key: string; name: string; path: string; content: string; inode: number | null }[] = [];
    const gone: string[] = [];
    const adopted: Extract<LinkStep, { do: 'adopt' }>[] = [];
    const failed: { key: string; reason: string }[] = [];
    steps.forEach((step, i) => {
      const outcome = outcomes[i]!;
      if (!outcome.ok) failed.push({ key: step.key, reason: outcome.reason });
      else if (step.do === 'clear') return;
      else if (step.do === 'adopt') adopted.push(step);
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
      for (const key of gone.filter((key) => foreign.has(key)))
        await manager.query(`UPDATE written_link SET key = $2 WHERE key = $1`, [key, ASIDE + randomUUID()]);
      if (gone.length > 0) await manager.query(`DELETE FROM written_link WHERE key = ANY($1)`, [gone]);
      for (const { key, form, name, at, inode } of adopted)
        await manager.query(
          `INSERT INTO written_link (key, place_id, form, name, now_path, now_content, inode, before_taken)
           VALUES ($1, $2, $3, $4, $5, $6, $7, $6) ON CONFLICT DO NOTHING`,
          [key, placeId, form, name, below(root, at.path), at.content, inode],
        );
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

  /** A person moved it on disk, to this path below a place, with all that is recorded to lie in it. */
  async movedTo(key: string, placeId: PlaceId, path: string, name: string): Promise<void> {
    await this.db.query(
      `UPDATE written_link w SET place_id = $2, name = CASE WHEN w.key = $1 THEN $4 ELSE w.name END,
         now_path = $3 || substr(w.now_path, length(f.now_path) + 1), next_path = NULL
       FROM written_link f
       WHERE f.key = $1 AND (w.key = $1
         OR w.key ~>=~ ($1 || '/') AND w.key ~<~ ($1 || '0') AND starts_with(w.now_path, f.now_path || '/'))`,
      [key, placeId, path, name],
    );
  }

  /** A person's own link stands for a wanted one. */
  async addForeign(key: string, placeId: PlaceId, path: string, entry: SeenEntry): Promise<void> {
    await this.db.query(
      `INSERT INTO written_link (key, place_id, form, name, now_path, now_content, inode, is_foreign)
       VALUES ($1, $2, $3, $4, $5, $6, $7, true) ON CONFLICT DO NOTHING`,
      [key, placeId, entry.form, entry.name, path, entry.content, entry.inode],
    );
  }

  /** From now on it is Rellin's alone: there is nobody to give it back to. */
  async keep(key: string): Promise<void> {
    await this.db.query(`UPDATE written_link SET before_taken = NULL WHERE key = $1`, [key]);
  }

  async forget(key: string): Promise<void> {
    await this.db.query(`DELETE FROM written_link WHERE key = $1`, [key]);
  }

  /** Paths below a place of the links that Rellin wrote or took over. */
  async paths(placeId: PlaceId): Promise<Set<string>> {
    const rows = (await this.db.query(
      `SELECT now_path FROM written_link
       WHERE place_id = $1 AND form <> 'folder' AND now_path IS NOT NULL AND key NOT LIKE 'aside/%'`,
      [placeId],
    )) as { now_path: string }[];
    return new Set(rows.map((r) => r.now_path));
  }

  /** How these stand, by their keys. */
  async some(keys: readonly string[]): Promise<Map<string, LinkStand>> {
    const rows = (await this.db.query(`SELECT key, form, now_path, trouble FROM written_link WHERE key = ANY($1)`, [
      keys,
    ])) as LinkStand[];
    return new Map(rows.map((r) => [r.key, r]));
  }

  /** How many links lie in a published folder and could not be written, with one reason, and where the folder is. */
  async sumBelow(key: string): Promise<{ links: number; failed: number; trouble: string | null; path: string | null }> {
    const [sum] = (await this.db.query(
      `SELECT count(*) FILTER (WHERE form <> 'folder' AND now_path IS NOT NULL)::int AS links,
         count(*) FILTER (WHERE trouble IS NOT NULL)::int AS failed, max(trouble) AS trouble,
         max(now_path) FILTER (WHERE key = $1) AS path
       FROM written_link WHERE key ~>=~ $1 AND key ~<~ ($1 || '0')`,
      [key],
    )) as [{ links: number; failed: number; trouble: string | null; path: string | null }];
    return sum;
  }
}
