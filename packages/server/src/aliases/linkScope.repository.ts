/** Which aliases and publications a change concerns, so that the others are left alone. */
import type { PlaceId } from '@rellin/contract';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { piecesOf } from '@rellin/core/lists';
import { OriginalsRepository } from '../originals/originals.repository.js';
import type { Unit } from './linkKeys.js';
import { LinkScope } from './linkScope.js';
import type { RowChange } from '../journal/rowChange.js';

/** Of more changes than that it is not asked what they concern: all is looked through. */
const MOST_CHANGES = 2000;
const ALIASES_AT_ONCE = 1000;
/** What "publication/" and an id take in a key. */
const PUBLICATION_KEY = 'publication/'.length + 36;
const ALIAS_KEY = 'alias/'.length;

/** Publications whose tree of collections holds one of the collections `$1`, or that show one of the tags `$2`. */
const SHOWING = `
  WITH RECURSIVE holding (id) AS (
    SELECT unnest($1::uuid[]) UNION SELECT m.collection_id FROM member m JOIN holding h ON m.child_id = h.id)
  SELECT p.id::text FROM publication p
  WHERE p.collection_id IN (SELECT id FROM holding) OR p.tag_id = ANY($2::uuid[])`;

@Injectable()
export class LinkScopeRepository {
  constructor(
    private readonly db: DataSource,
    private readonly index: OriginalsRepository,
  ) {}

  async ofChanges(changes: readonly RowChange[]): Promise<LinkScope> {
    if (changes.length > MOST_CHANGES) return LinkScope.all();
    const ids = (table: RowChange['table']) => changes.filter((c) => c.table === table).map((c) => c.id);
    // where a member or a tag was, and where it is
    const collections = changes.flatMap((c) =>
      c.table === 'member' ? [c.before?.collection_id ?? [], c.after?.collection_id ?? []].flat() : [],
    );
    const tags = changes.flatMap((c) =>
      c.table === 'tagging' ? [c.before?.tag_id ?? [], c.after?.tag_id ?? []].flat() : [],
    );
    const shortcuts = ids('shortcut');
    const [held] = (await this.db.query(
      `SELECT
         ARRAY(SELECT id::text FROM alias WHERE shortcut_id = ANY($1::uuid[])) AS aliases,
         ARRAY(SELECT collection_id::text FROM member WHERE shortcut_id = ANY($1) OR id = ANY($2::uuid[])
           UNION SELECT id::text FROM collection WHERE mirror_of = ANY($1)) AS collections,
         ARRAY(SELECT tag_id::text FROM tagging WHERE shortcut_id = ANY($1) OR id = ANY($3::uuid[])) AS tags`,
      [shortcuts, ids('member'), ids('tagging')],
    )) as [{ aliases: string[]; collections: string[]; tags: string[] }];
    const scope = LinkScope.of({
      aliases: [...held.aliases, ...ids('alias')],
      publications: [
        ...ids('publication'),
        ...(await this.showing(
          [...held.collections, ...ids('collection'), ...collections],
          [...held.tags, ...ids('tag'), ...tags],
        )),
      ],
    });
    // what searches find depends on anything
    if (changes.some((c) => c.table === 'saved_search')) scope.add(await this.live());
    return scope;
  }

  /**
   * After a change on disk: what lies in folders whose entries changed; undefined for folders that themselves were
   * renamed or moved, with which all may have changed.
   */
  async ofFolders(placeId: PlaceId, folders: readonly number[] | undefined): Promise<LinkScope> {
    if (folders === undefined || folders.length > MOST_CHANGES) return LinkScope.all();
    const located = await this.index.located(placeId, [...folders]);
    const [rows] = (await this.db.query(
      `SELECT ARRAY(SELECT id::text FROM alias WHERE place_id = $1 AND folder_id = ANY($2::bigint[])) AS aliases,
         ARRAY(SELECT id::text FROM publication WHERE place_id = $1 AND folder_id = ANY($2)
           UNION SELECT substr(left(key, ${PUBLICATION_KEY}), 13) FROM written_link
           WHERE place_id = $1 AND form = 'folder' AND (now_path = ANY($3::text[]) OR next_path = ANY($3))
             AND starts_with(key, 'publication/')) AS publications`,
      [placeId, folders, [...located.values()].map((l) => l.path)],
    )) as [{ aliases: string[]; publications: string[] }];
    const scope = LinkScope.of(rows);
    scope.add(await this.live());
    return scope;
  }

  /** Publications that show what no person put there one by one, or originals themselves: those follow the disk. */
  private async live(): Promise<LinkScope> {
    const [rows] = (await this.db.query(
      `SELECT ARRAY(SELECT id::text FROM publication WHERE search_id IS NOT NULL) AS searches,
         ARRAY(SELECT DISTINCT collection_id::text FROM member WHERE search_id IS NOT NULL) AS collections,
         ARRAY(SELECT DISTINCT tag_id::text FROM tagging WHERE original_id IS NOT NULL) AS tags`,
    )) as [{ searches: string[]; collections: string[]; tags: string[] }];
    return LinkScope.of({
      publications: [...rows.searches, ...(await this.showing(rows.collections, rows.tags))],
    });
  }

  private async showing(collections: readonly string[], tags: readonly string[]): Promise<string[]> {
    if (collections.length + tags.length === 0) return [];
    return ((await this.db.query(SHOWING, [collections, tags])) as { id: string }[]).map((p) => p.id);
  }

  /** What of a scope there is to do in a place. What is wanted no more comes first: its names are free then. */
  async units(placeId: PlaceId, { aliases, publications }: LinkScope): Promise<Unit[]> {
    const some = (of: Set<string> | 'all') => (of === 'all' ? null : [...of]);
    const [rows] = (await this.db.query(
      `SELECT
         ARRAY(SELECT id::text FROM alias WHERE place_id = $1 AND ($2::text[] IS NULL OR id::text = ANY($2))
           UNION SELECT substr(key, ${ALIAS_KEY + 1}) FROM written_link WHERE place_id = $1 AND $2 IS NULL
             AND key ~>=~ 'alias/' AND key ~<~ 'alias0'
           UNION SELECT a FROM unnest($2) a JOIN written_link w ON w.key = 'alias/' || a AND w.place_id = $1) AS aliases,
         ARRAY(SELECT id::text FROM publication WHERE place_id = $1 AND ($3::text[] IS NULL OR id::text = ANY($3))
           ORDER BY added_at, id) AS publications,
         ARRAY(SELECT DISTINCT substr(left(key, ${PUBLICATION_KEY}), 13) FROM written_link
           WHERE place_id = $1 AND $3 IS NULL AND key ~>=~ 'publication/' AND key ~<~ 'publication0'
           UNION SELECT p FROM unnest($3) p WHERE EXISTS (SELECT FROM written_link WHERE place_id = $1
             AND key ~>=~ ('publication/' || p) AND key ~<~ ('publication/' || p || '0'))) AS written`,
      [placeId, some(aliases), some(publications)],
    )) as [{ aliases: string[]; publications: string[]; written: string[] }];
    const there = new Set(rows.publications);
    const gone = rows.written.filter((id) => !there.has(id));
    return [
      ...gone.map((publication) => ({ publication })),
      ...piecesOf(rows.aliases, ALIASES_AT_ONCE).map((aliases) => ({ aliases })),
      ...rows.publications.map((publication) => ({ publication })),
    ];
  }
}
