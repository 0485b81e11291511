/**
 * TypeScript types of the database's rows, as JSON carries them, from a migrated database: what acts may write into a
 * table, and what they read from it. A test holds the written file against the database, so that the two cannot drift.
 */
import { format, resolveConfig } from 'prettier';

/**
 * Types of columns that say more than the database knows, by table and column: the type, and where its name comes from.
 */
const KNOWN_TYPES = {
  'shortcut.target': ['TargetType', '@rellin/contract'],
  'shortcut.kind': ['Kind', '@rellin/core/kinds'],
  'shortcut.identity': ['Identity', '@rellin/core/identity'],
  'shortcut.state': ['ShortcutState', '@rellin/core/identity'],
  'shortcut.candidates': ['{ placeId: number; originalId: number; path: string }[]'],
  'shortcut.rejected': ['{ inode: number; birth: number }[]'],
  'opening.argv': ['string[]'],
  'region.order': ['RegionOrder', '@rellin/core/board'],
  'quick_filter.filter': ['CatalogueFilter', '@rellin/contract'],
  'sweep.folders': ['SweptFolder[]', '@rellin/contract'],
  'sweep.rules': ['SweepRule[]', '@rellin/contract'],
  'sweep.threshold': ['Threshold', '@rellin/core/sweep'],
  'sweep_run.went': ['SweptTo[]', '@rellin/contract'],
  'sweep_run.links': ['{ at: string; to: string }[]'],
  'journal.changes': ['Change[]', '@rellin/core/journal'],
  'journal.undo_changes': ['Change[]', '@rellin/core/journal'],
  'journal_rewritten.change': ['Change', '@rellin/core/journal'],
};

/** The id of each table, as the contract calls it; what refers to a table has the same. */
const IDS = {
  alias: 'AliasId',
  board: 'BoardId',
  board_item: 'BoardItemId',
  bundle: 'BundleId',
  collection: 'CollectionId',
  journal: 'JournalLineId',
  member: 'MemberId',
  opening: 'OpeningId',
  original: 'OriginalId',
  pin: 'PinId',
  place: 'PlaceId',
  publication: 'PublicationId',
  quick_filter: 'QuickFilterId',
  region: 'RegionId',
  saved_search: 'SearchId',
  session: 'SessionId',
  shortcut: 'ShortcutId',
  sweep: 'SweepId',
  sweep_run: 'SweepRunId',
  tag: 'TagId',
};
/**
 * Columns that refer to a row without a foreign key: originals lie in partitions, some rows outlive what they tell of.
 */
const REFERENCES = {
  original_id: 'original',
  folder_id: 'original',
  parent_id: 'original',
  place_id: 'place',
  shortcut_id: 'shortcut',
  search_id: 'saved_search',
  journal_id: 'journal',
  sweep_id: 'sweep',
};

/** What a column's name does not say. */
const COMMENTS = {
  'alias.taken': 'What a link led to that was taken into the catalogue.',
  'publication.collection_id': 'One of these is its source; the others are null.',
  'publication.place_id': 'Null for a menu, which lies in no place.',
};

const SCALARS = {
  int2: 'number',
  int4: 'number',
  int8: 'number',
  float4: 'number',
  float8: 'number',
  numeric: 'number',
  bool: 'boolean',
  jsonb: 'unknown',
  json: 'unknown',
};

const scalar = (type) => SCALARS[type] ?? 'string';

/** The words a column may hold, where a check of its own names them. */
function words(column, checks) {
  for (const { definition, columns } of checks) {
    if (columns.length !== 1 || columns[0] !== column) continue;
    const list = /^CHECK \(\(\(?\w+\)? = ANY \(ARRAY\[(.+)\]\)\)\)$/.exec(definition.replace(/\((\w+)\)::text/g, '$1'));
    if (list) return [...list[1].matchAll(/'((?:[^']|'')*)'/g)].map((m) => `'${m[1]}'`).join(' | ');
  }
  return undefined;
}

/**
 * The text of `database/rows.ts`.
 * @param {import('pg').Client} client to a migrated database
 */
export async function rowTypes(client) {
  const { rows: columns } = await client.query(
    `SELECT c.relname AS "table", a.attname AS column, t.typname AS type, a.attnotnull AS required,
            a.atthasdef OR a.attidentity <> '' AS has_default,
            (SELECT k.confrelid::regclass::text FROM pg_constraint k
             WHERE k.contype = 'f' AND k.conrelid = c.oid AND k.conkey = ARRAY[a.attnum] LIMIT 1) AS refers
     FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid JOIN pg_type t ON t.oid = a.atttypid
     WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p') AND NOT c.relispartition
       AND a.attnum > 0 AND NOT a.attisdropped AND c.relname <> 'migrations'
     ORDER BY c.relname, a.attnum`,
  );
  const { rows: checks } = await client.query(
    `SELECT conrelid::regclass::text AS "table", pg_get_constraintdef(oid) AS definition,
            (SELECT array_agg(attname::text) FROM pg_attribute WHERE attrelid = conrelid AND attnum = ANY(conkey)) AS columns
     FROM pg_constraint WHERE contype = 'c' AND connamespace = 'public'::regnamespace`,
  );
  const tables = new Map();
  const imports = new Map();
  for (const { table, column, type, required, has_default, refers } of columns) {
    const isArray = type.startsWith('_');
    const id = IDS[column === 'id' ? table : (refers ?? REFERENCES[column])];
    const known = KNOWN_TYPES[`${table}.${column}`] ?? (id && [id, '@rellin/contract']);
    if (known?.[1]) {
      const names = imports.get(known[1]) ?? new Set();
      imports.set(known[1], names.add(known[0].replace('[]', '')));
    }
    const base =
      known?.[0] ??
      words(
        column,
        checks.filter((c) => c.table === table),
      ) ??
      (isArray ? `${scalar(type.slice(1))}[]` : scalar(type));
    const list = tables.get(table) ?? [];
    tables.set(table, list);
    list.push({ column, type: base, required, hasDefault: has_default });
  }
  const rows = [...tables].map(([table, list]) => {
    const lines = list.map(({ column, type, required }) => {
      const comment = COMMENTS[`${table}.${column}`];
      return `${comment ? `/** ${comment} */\n` : ''}${column}: ${type}${required ? '' : ' | null'};`;
    });
    return `${table}: {\n${lines.join('\n')}\n};`;
  });
  const optional = [...tables].map(([table, list]) => {
    const names = list.flatMap(({ column, required, hasDefault }) => (required && !hasDefault ? [] : `'${column}'`));
    return `${table}: ${names.join(' | ') || 'never'};`;
  });
  const text = `/**
 * The rows of each table as JSON carries them. Made from the migrated database by \`npm run rows\`; a test holds it
 * against the database. Not to be edited by hand.
 */
${[...imports].map(([from, names]) => `import type { ${[...names].sort().join(', ')} } from '${from}';`).join('\n')}

/** As they are read. */
export interface Rows {
${rows.join('\n')}
}

/** The columns that may be left out of a new row: they take their default, or null. */
interface MayBeLeftOut {
${optional.join('\n')}
}

/** As they are written anew. */
export type NewRows = {
  [T in keyof Rows]: Omit<Rows[T], MayBeLeftOut[T]> & Partial<Pick<Rows[T], MayBeLeftOut[T] & keyof Rows[T]>>;
};
`;
  const options = await resolveConfig(import.meta.filename);
  return format(text, { ...options, parser: 'typescript' });
}
