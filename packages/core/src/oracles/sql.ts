/**
 * A saved search as a condition of PostgreSQL: text and parameters, nothing of the person's ever in the text. It stands
 * behind WHERE, over the table `original` as `o`; a column means the same as in query/evaluate.ts, by which it is not
 * made: tests and the bench hold answers from memory against it.
 *
 * Folded names: `o.folded` where the name is not plain ASCII, else the lower-case name; both under the collation "C".
 */
import { fold } from '../match/index.js';
import { boundsOf, globRegex, type IsWord, type QueryContext, type QueryNode } from '../query/index.js';

interface Sql {
  text: string;
  parameters: unknown[];
}

/** The folded name of a row. */
const FOLDED = `coalesce(o.folded, lower(o.name))`;

const OPENED = `(SELECT max(u.last_opened) FROM shortcut s JOIN usage u ON u.shortcut_id = s.id
  WHERE s.place_id = o.place_id AND s.original_id = o.id AND s.removed_at IS NULL)`;

const SHORTCUT = `SELECT 1 FROM shortcut s WHERE s.place_id = o.place_id AND s.original_id = o.id AND s.removed_at IS NULL`;

const IS: Record<IsWord, string> = {
  file: `o.type = 'file'`,
  folder: `o.type = 'folder'`,
  link: `o.type = 'link'`,
  shortcut: `EXISTS (${SHORTCUT})`,
  pinned: `EXISTS (${SHORTCUT} AND EXISTS (SELECT 1 FROM pin WHERE pin.shortcut_id = s.id))`,
  tagged: `EXISTS (SELECT 1 FROM tagging g WHERE g.place_id = o.place_id AND g.original_id = o.id)`,
  away: `o.place_id = ANY(%away)`,
  empty: `CASE o.type WHEN 'file' THEN o.size = 0 WHEN 'folder' THEN NOT EXISTS
    (SELECT 1 FROM original c WHERE c.place_id = o.place_id AND c.parent_id = o.id) ELSE false END`,
};

interface SqlContext extends QueryContext {
  /** Places that are away just now. */
  away: readonly number[];
  /** The places, with their folded names: a place is the first folder of every trail. */
  places: readonly { id: number; folded: string }[];
  /** Ids of the tags of a name, case and accents aside. */
  tagIds(name: string): string[];
}

/** LIKE's own signs taken literally. */
const literal = (text: string) => text.replace(/[\\%_]/g, '\\$&');

/** Parameters are numbered from `first`. */
export function sqlOf(tree: QueryNode, context: SqlContext, first = 1): Sql {
  const parameters: unknown[] = [];
  const put = (value: unknown) => `$${first - 1 + parameters.push(value)}`;
  const write = (node: QueryNode): string => {
    switch (node.type) {
      case 'all':
        return node.of.length === 0 ? 'true' : `(${node.of.map(write).join(' AND ')})`;
      case 'any':
        return node.of.length === 0 ? 'false' : `(${node.of.map(write).join(' OR ')})`;
      case 'not':
        return `NOT ${write(node.of)}`;
      case 'word':
        return `${FOLDED} LIKE ${put(`%${literal(fold(node.text))}%`)}`;
      case 'name':
        return `${FOLDED} ~ ${put(globRegex(node.glob))}`;
      case 'ext':
        // as extensionOf: what follows the last dot, unless that is the first sign
        return `(o.type = 'file' AND coalesce(substring(${FOLDED} from '^.+\\.([^.]*)$'), '') = ANY(${put(node.values.map(fold))}::text[]))`;
      case 'kind':
        return `o.kind = ANY(${put(node.values)}::text[])`;
      case 'in':
        return below(node.folders.map(fold), context.places, put);
      case 'size': {
        const parts = [`o.type = 'file'`];
        if (node.min !== null) parts.push(`o.size >= ${put(node.min)}::bigint`);
        if (node.max !== null) parts.push(`o.size <= ${put(node.max)}::bigint`);
        return `(${parts.join(' AND ')})`;
      }
      case 'time':
      case 'time-range': {
        const { from, to } = boundsOf(node, context.now, context.zone);
        const column =
          node.field === 'modified'
            ? 'o.mtime'
            : node.field === 'created'
              ? 'o.birth'
              : `extract(epoch FROM ${OPENED})::float8 * 1000`;
        const parts = [
          ...(node.field === 'opened' ? [`${OPENED} IS NOT NULL`] : []),
          ...(from === null ? [] : [`${column} >= ${put(from)}::float8`]),
          ...(to === null ? [] : [`${column} < ${put(to)}::float8`]),
        ];
        return parts.length === 0 ? 'true' : `(${parts.join(' AND ')})`;
      }
      case 'never-opened':
        return `${OPENED} IS NULL`;
      case 'tag':
        return `EXISTS (SELECT 1 FROM tagging g WHERE g.place_id = o.place_id AND g.original_id = o.id
          AND g.tag_id = ANY(${put(context.tagIds(node.name))}::uuid[]))`;
      case 'text':
        return `EXISTS (SELECT 1 FROM content x WHERE x.place_id = o.place_id AND x.original_id = o.id
          AND x.words @@ phraseto_tsquery('simple', ${put(fold(node.text))}))`;
      case 'is':
        return IS[node.what].replace('%away', () => `${put([...context.away])}::int[]`);
    }
  };
  return { text: write(tree), parameters };
}

/** Below a run of folders: the last of them is found by name, the run upwards checked, and all below it gathered. */
function below(folders: readonly string[], places: SqlContext['places'], put: (value: unknown) => string): string {
  const last = folders.length - 1;
  const joins: string[] = [];
  const wheres: string[] = [];
  for (let i = last; i >= 0; i--) {
    const [f, child] = [`f${i}`, `f${i + 1}`];
    if (i < last)
      joins.push(
        `JOIN original ${f} ON ${f}.place_id = ${child}.place_id AND ${f}.id = ${child}.parent_id AND ${child}.name <> ''`,
      );
    const named = places.filter((p) => p.folded === folders[i]).map((p) => p.id);
    // the place itself stands in the index without a name
    wheres.push(
      `CASE WHEN ${f}.name = '' THEN ${f}.place_id = ANY(${put(named)}::int[])
        ELSE coalesce(${f}.folded, lower(${f}.name)) = ${put(folders[i])} END`,
    );
  }
  return `(o.place_id, o.id) IN (
    WITH RECURSIVE top AS (
      SELECT f${last}.place_id, f${last}.id FROM original f${last} ${joins.join(' ')}
      WHERE f${last}.type = 'folder' AND ${wheres.join(' AND ')}
    ), down AS (
      SELECT c.place_id, c.id FROM original c JOIN top ON c.place_id = top.place_id AND c.parent_id = top.id AND c.name <> ''
      UNION
      SELECT c.place_id, c.id FROM original c JOIN down ON c.place_id = down.place_id AND c.parent_id = down.id AND c.name <> ''
    ) SELECT place_id, id FROM down)`;
}
