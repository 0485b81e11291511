/**
 * Who may touch which table. A table belongs to one room of the server, and is written by it alone; a room that joins
 * another's table into a list of its own says so here. SQL stands in repositories, in threads that have a connection of
 * their own, and where acts and the schema are made.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';
import { ROOT } from './prepare.mjs';

const SERVER = join(ROOT, 'packages/server/src');

/** Table → the room it belongs to. @type {Record<string, string[]>} */
const OWNERS = {
  alias: ['aliases'],
  board: ['boards'],
  board_item: ['boards'],
  bundle: ['boards'],
  check_up: ['checkUp'],
  collection: ['collections'],
  companion: ['shortcuts'],
  content: ['contents'],
  filing: ['filing'],
  filing_busy: ['filing'],
  journal: ['journal'],
  journal_rewritten: ['journal'],
  member: ['collections'],
  opening: ['openings'],
  // the thread that looks at the disk
  original: ['indexing'],
  passphrase: ['session'],
  picture: ['pictures'],
  pin: ['pins'],
  // what a person says of a place, and what its thread counts
  place: ['places'],
  place_status: ['places', 'indexing'],
  plan_answer: ['plan'],
  plan_forecast: ['plan'],
  publication: ['publications'],
  quick_filter: ['quickFilters'],
  recent_files: ['recentFiles'],
  region: ['boards'],
  review_silence: ['checkUp'],
  saved_search: ['searches'],
  search_change: ['searches'],
  search_size: ['searches'],
  search_status: ['searches'],
  session: ['session'],
  setting: ['settings'],
  // what a person says of a shortcut, and what is observed of it: its state, and what its file is known by
  shortcut: ['shortcuts', 'identity'],
  sweep: ['sweeps'],
  sweep_run: ['sweeps'],
  system_default: ['programs'],
  tag: ['tags'],
  tagging: ['tags'],
  usage: ['openings'],
  written_link: ['aliases'],
};

/** Room → tables of others that it joins into lists of its own. @type {Record<string, string[]>} */
const READS = {
  // what links are made from
  aliases: ['collection', 'member', 'publication', 'shortcut', 'tagging'],
  // what lies in which folder
  belongs: ['original'],
  // what lies on a board, in its order
  boards: ['shortcut', 'usage'],
  // all that is reviewed
  checkUp: ['collection', 'member', 'original', 'shortcut', 'usage'],
  // what is in a collection, and what a mirror shows
  collections: ['original', 'pin', 'saved_search', 'shortcut'],
  // as what a file was read
  contents: ['original'],
  // whether it can still be done again
  filing: ['journal'],
  // all that is found by name
  finder: ['collection', 'saved_search', 'shortcut', 'usage'],
  // what a lost one may be
  identity: ['original', 'place_status'],
  // what has a key
  keys: ['collection', 'quick_filter', 'saved_search', 'shortcut'],
  // all that a search asks for
  memoryIndex: ['content', 'pin', 'shortcut', 'tag', 'tagging', 'usage'],
  // names, and by which pin
  openings: ['pin', 'shortcut'],
  // what the thread wrote, and what there is to each
  originals: ['original', 'shortcut', 'tag', 'tagging'],
  // whether a picture is in use
  pictures: ['collection', 'shortcut'],
  // what is pinned, as the strip shows it
  pins: ['collection', 'member', 'original', 'saved_search', 'search_status', 'shortcut', 'tag', 'tagging'],
  // what is known of a tree
  places: ['original', 'shortcut'],
  // what is counted
  plan: ['collection', 'member', 'opening', 'pin', 'shortcut'],
  // which have a shortcut
  programs: ['shortcut'],
  // what is published
  publications: ['collection', 'saved_search'],
  // all ways there are
  reach: [
    'alias',
    'collection',
    'member',
    'opening',
    'original',
    'pin',
    'publication',
    'saved_search',
    'search_status',
    'shortcut',
    'tagging',
  ],
  // where a search stands, and what is left out of it
  searches: ['collection', 'content', 'member', 'pin', 'place', 'publication', 'tag', 'tagging'],
  // whether a mirror needs it
  shortcuts: ['collection'],
  // what is known of things in a folder, and what Rellin keeps there itself
  sweeps: [
    'content',
    'filing',
    'opening',
    'original',
    'pin',
    'publication',
    'shortcut',
    'tag',
    'tagging',
    'written_link',
  ],
  // what bears a tag, and whether it is pinned
  tags: ['pin', 'saved_search', 'shortcut'],
};

/** Where SQL may stand besides repositories, and why. */
const SQL = [
  // acts themselves, for any journaled table
  /^journal\//,
  // the schema, and parts of SQL that several rooms put into theirs
  /^database\//,
  // threads with a connection of their own
  /^indexing\//,
  /^(memoryIndex|belongs)\/loading\.ts$/,
  /^contents\/content\.worker\.ts$/,
];

/** @param {string} folder @returns {string[]} */
function sources(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return entry.name === 'migrations' || entry.name === 'testing' ? [] : sources(path);
    return entry.name.endsWith('.ts') && !entry.name.endsWith('.test.ts') ? [path] : [];
  });
}

/** The texts of a file (strings and templates), what acts write, and whose entities are read. @param {string} path */
function mentions(path) {
  const source = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true);
  /** @type {string[]} */
  const texts = [];
  /** @type {string[]} */
  const written = [];
  /** @type {string[]} */
  const entities = [];
  /** @param {ts.Node} node */
  const visit = (node) => {
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) texts.push(node.text);
    if (ts.isTemplateExpression(node)) texts.push(node.getText());
    if (ts.isCallExpression(node) && ts.isPropertyAccessExpression(node.expression)) {
      const [first] = node.arguments;
      const method = node.expression.name.text;
      if (first && ts.isStringLiteral(first) && /^(insert|insertMany|update|updateMany|remove|rewrite)$/.test(method))
        written.push(first.text);
      if (first && method === 'getRepository') entities.push(first.getText());
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return { texts, written, entities };
}

/** Entity → table. */
function entityTables() {
  const out = new Map();
  for (const path of sources(join(SERVER, 'database/entities'))) {
    const text = readFileSync(path, 'utf8');
    const found = /@Entity\('(\w+)'\)\s+export class (\w+)/.exec(text);
    if (found) out.set(found[2], found[1]);
  }
  return out;
}

const STATEMENT = /\b(SELECT|INSERT INTO|UPDATE|DELETE FROM|WITH)\b[\s\S]*\b(FROM|INTO|SET|VALUES|SELECT)\b/;

/** What does not hold, a line each. @returns {string[]} */
export function tableTroubles() {
  const tables = Object.keys(OWNERS);
  const ofEntity = entityTables();
  /** @type {Set<string>} */
  const troubles = new Set();
  /** @type {Map<string, Set<string>>} */
  const reads = new Map();
  for (const path of sources(SERVER)) {
    const file = relative(SERVER, path);
    const room = file.split('/')[0] ?? '';
    if (room === 'database' || !file.includes('/')) continue;
    const { texts, written, entities } = mentions(path);
    /** @type {Set<string>} */
    const writes = new Set(written.filter((name) => tables.includes(name)));
    /** @type {Set<string>} */
    const read = new Set(entities.flatMap((name) => ofEntity.get(name) ?? []));
    const sql = texts.filter((text) => STATEMENT.test(text));
    if (sql.length > 0 && !file.endsWith('.repository.ts') && !SQL.some((pattern) => pattern.test(file)))
      troubles.add(`${file}: SQL stands in the room's repository`);
    for (const text of texts)
      for (const table of tables) {
        if (new RegExp(`(INSERT INTO|UPDATE|DELETE FROM)\\s+${table}\\b(?!\\()`).test(text)) writes.add(table);
        if (new RegExp(`((?<!DELETE )FROM|JOIN|USING)\\s+${table}\\b(?!\\()`).test(text)) read.add(table);
      }
    for (const table of writes)
      if (!OWNERS[table]?.includes(room))
        troubles.add(`${file}: writes “${table}”, which belongs to ${OWNERS[table]?.join(' and ')}`);
    for (const table of read) {
      if (OWNERS[table]?.includes(room)) continue;
      reads.set(room, (reads.get(room) ?? new Set()).add(table));
      if (!READS[room]?.includes(table))
        troubles.add(
          `${file}: reads “${table}” of ${OWNERS[table]?.join(' and ')}, and does not say so in scripts/lib/tables.mjs`,
        );
    }
  }
  for (const [room, list] of Object.entries(READS))
    for (const table of list)
      if (!reads.get(room)?.has(table)) troubles.add(`scripts/lib/tables.mjs: “${room}” reads “${table}” no more`);
  return [...troubles].sort();
}
