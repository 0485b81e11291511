/** Saved searches over a million originals: asked in memory and in SQL, and kept up as one file changes. */
import { readFileSync } from 'node:fs';
import { askColumns, firstAnswers, LiveSearches, NO_FACTS } from '../packages/core/dist/memoryIndex/index.js';
import { parseQuery, SYSTEM_ZONE } from '../packages/core/dist/query/index.js';
import { createLoose, indexAndAttach, partitionName } from '../packages/server/dist/database/partition.js';
import { copyInto } from '../packages/server/dist/indexing/copyIn.js';
import { seeded } from '../packages/core/dist/random/index.js';
import { sqlOf } from '../packages/core/dist/oracles/index.js';
import { growth, median, timed } from './measure.mjs';
import { indexOf, manyNames, NOW, rowsOf } from './names.mjs';
import { newPlace, withCatalogue } from './index.walks.mjs';
import { withServer } from './server.mjs';

const MILLION = 1_000_000;
const p95 = (values) => [...values].sort((a, b) => a - b)[Math.ceil(values.length * 0.95) - 1];

const QUERIES = [
  'lib',
  'readme',
  'py',
  'x11',
  'config json',
  '*.py',
  '*.so*',
  'lib*.so.?',
  '*test*',
  '*.{png,svg}',
  'ext:py',
  'ext:md,txt,rst',
  'kind:picture',
  'kind:text,document',
  'kind:source -test',
  'size>1MB',
  'size:1kB..10kB',
  'size>100kB kind:picture',
  'modified:30d',
  'modified:2026-03',
  'modified<2025',
  'created:this-month',
  'created:2025 ext:py',
  'is:folder',
  'is:folder lib',
  'is:empty',
  '-is:folder -kind:source',
  'lib OR bin',
  '(png OR svg) size>10kB',
  '-(kind:picture OR kind:source)',
  'a',
  'e size>1MB',
  '2',
  'io',
  'qt',
  'in:python3',
  'in:share/doc',
  'in:icons kind:picture',
  'in:lib -*.so',
  'opened:never ext:py',
  'opened:7d',
  'is:shortcut',
  'tag:boat',
  '-tag:boat kind:pdf',
  'test modified:90d size>2kB',
  'gnome -icon',
  'linux kind:source size<5kB',
  '"read me"',
  'name:[a-f]*.h',
  'locale OR lang OR i18n',
];
const CONTENT = ['text:license', 'text:"free software"', 'text:license kind:text', 'text:zebra', 'text:python -test'];

const treeOf = (text) => {
  const parsed = parseQuery(text);
  if (!parsed.ok) throw new Error(`${text}: ${parsed.error.message}`);
  return parsed.tree;
};
const CONTEXT = { now: NOW, zone: SYSTEM_ZONE };
const SQL = { ...CONTEXT, away: [], places: [{ id: 1, folded: 'machine' }], tagIds: () => [] };

const asWritten = (r) => ({
  ...r,
  mime: 'text/plain',
  mtime: r.modified + 0.25,
  birth: r.created + 0.5,
  dev: 1,
  inode: r.id,
});

/** The same million in PostgreSQL. */
async function fill(client, names) {
  const placeId = await newPlace(client);
  await client.query(createLoose(placeId));
  const copy = copyInto(client, partitionName(placeId), placeId, new Date(NOW).toISOString());
  for (const r of rowsOf(names)) copy.write(asWritten(r));
  await copy.end();
  await client.query(indexAndAttach(placeId));
  await client.query('ANALYZE');
  return placeId;
}

function searchFigure(first) {
  return withCatalogue(async (client) => {
    const names = manyNames(MILLION);
    const index = indexOf(names);
    await fill(client, names);
    const ours = [];
    const theirs = [];
    const slow = [];
    for (const text of QUERIES) {
      const tree = treeOf(text);
      const ask = () => {
        const rows = askColumns(index, tree, { ...CONTEXT, facts: NO_FACTS });
        return first ? firstAnswers([{ index, rows, facts: NO_FACTS }], 'name', false, 0, 100).length : rows.count();
      };
      ask();
      const own = median([await timed(ask), await timed(ask), await timed(ask)]);
      ours.push(own);
      slow.push([text, own]);
      const { text: where, parameters } = sqlOf(tree, SQL);
      const sql = first
        ? `SELECT id FROM original o WHERE o.name <> '' AND ${where} ORDER BY name LIMIT 100`
        : `SELECT count(*) FROM original o WHERE o.name <> '' AND ${where}`;
      theirs.push(await timed(() => client.query(sql, parameters)));
    }
    slow.sort((a, b) => b[1] - a[1]);
    const grown = await growth(async (size) => {
      const smaller = indexOf(names.slice(0, size));
      const times = [];
      for (const text of QUERIES)
        times.push(
          await timed(() => {
            const rows = askColumns(smaller, treeOf(text), { ...CONTEXT, facts: NO_FACTS });
            if (first) firstAnswers([{ index: smaller, rows, facts: NO_FACTS }], 'name', false, 0, 100);
            else rows.count();
          }),
        );
      return median(times);
    });
    return [
      {
        value: p95(ours),
        unit: 'ms p95',
        reference: 'the same in SQL, p95',
        referenceValue: p95(theirs),
        ratio: median(ours) / median(theirs),
        note: `${QUERIES.length} queries over 1,000,000; median ${median(ours).toFixed(1)} ms, in SQL ${median(theirs).toFixed(0)} ms; bar 30 ms; slowest ${slow
          .slice(0, 3)
          .map(([q, ms]) => `${q} ${ms.toFixed(0)}`)
          .join(', ')}; ${grown}`,
      },
    ];
  });
}
export const searchCount = () => searchFigure(false);
export const searchFirst = () => searchFigure(true);

/** Contents of 50,000 files in full-text search, asked as the server asks: the ids by SQL, the rest in memory. */
export function searchContent() {
  return withCatalogue(async (client) => {
    const names = manyNames(MILLION);
    const index = indexOf(names);
    const placeId = await fill(client, names);
    const random = seeded(3);
    const words = [
      ...new Set(names.flatMap((n) => n.toLowerCase().split(/[^a-z]+/)).filter((w) => w.length > 3)),
    ].slice(0, 30_000);
    for (let i = 0; i < 50; i++) {
      const bodies = Array.from({ length: 1000 }, () =>
        [
          ...Array.from({ length: 60 }, () => random.pick(words)),
          random.int(0, 9) < 2 ? 'license' : '',
          random.int(0, 9) < 1 ? 'free software' : '',
        ].join(' '),
      );
      await client.query(
        `INSERT INTO content (place_id, original_id, size, mtime, body, words)
         SELECT $1, $2 + n, 1, 1, b, to_tsvector('simple', b) FROM unnest($3::text[]) WITH ORDINALITY AS x (b, n)`,
        [placeId, i * 1000 + 2, bodies],
      );
    }
    await client.query('ANALYZE content');
    const times = [];
    for (const text of CONTENT)
      for (let i = 0; i < 5; i++) {
        const tree = treeOf(text);
        times.push(
          await timed(async () => {
            const asked = (/text:("?)([^"]+)\1(?: |$)/.exec(text)?.[2] ?? '').split(' -')[0];
            const { rows } = await client.query(
              `SELECT original_id FROM content WHERE words @@ phraseto_tsquery('simple', $1)`,
              [asked],
            );
            const ids = rows.map((r) => Number(r.original_id));
            const found = askColumns(index, tree, { ...CONTEXT, facts: NO_FACTS, holding: () => ids });
            firstAnswers([{ index, rows: found, facts: NO_FACTS }], 'name', false, 0, 100);
          }),
        );
      }
    return [
      {
        value: p95(times),
        unit: 'ms p95',
        note: `contents of 50,000 files, count and first 100; median ${median(times).toFixed(1)} ms; bar 100 ms`,
      },
    ];
  });
}

/** One file changes: a thousand saved searches tried in memory, beside asking each of them anew in SQL. */
export function searchesUpdate() {
  return withCatalogue(async (client) => {
    const names = manyNames(MILLION);
    const index = indexOf(names);
    await fill(client, names);
    const random = seeded(9);
    const live = new LiveSearches(SYSTEM_ZONE);
    const place = { index, facts: NO_FACTS, holding: () => new Set() };
    const trees = Array.from({ length: 1000 }, (_, i) => {
      const text = QUERIES[i % QUERIES.length];
      return treeOf(
        i < QUERIES.length
          ? text
          : `${text} -${
              random
                .pick(names)
                .replace(/[^a-z]/gi, '')
                .slice(0, 6) || 'x'
            }`,
      );
    });
    trees.forEach((tree, i) => live.put({ id: String(i), tree, places: null }, [place], NOW));
    const change = () => {
      const row = random.int(1, index.rows - 1);
      index.put({
        id: index.ids[row],
        parentId: index.ids[index.parents[row]],
        name: `${random.pick(names)}`,
        type: 'file',
        kind: 'source',
        size: random.int(0, 1e6),
        modified: NOW,
        created: NOW,
      });
      live.rowsChanged(place, [row], NOW);
    };
    for (let i = 0; i < 5; i++) change();
    const ours = [];
    for (let i = 0; i < 20; i++) ours.push(await timed(change));
    // a sample of the thousand is run, and taken for all
    let all = 0;
    for (let i = 0; i < 50; i++) {
      const { text, parameters } = sqlOf(trees[i], SQL);
      all += await timed(() =>
        client.query(`SELECT count(*) FROM original o WHERE o.name <> '' AND ${text}`, parameters),
      );
    }
    const theirs = (all / 50) * 1000;
    return [
      {
        value: median(ours),
        unit: 'ms a change, 1,000 saved searches',
        reference: 'all of them anew in SQL (of a sample of 50)',
        referenceValue: theirs,
        ratio: median(ours) / theirs,
        note: 'bar 0.05',
      },
    ];
  });
}

/** The server with a million originals in its index: resident memory once all are loaded and asked. */
export function serverMemory() {
  return withCatalogue(async (client, url) => {
    await fill(client, manyNames(MILLION));
    return withServer({ url }, async ({ call, until, pid }) => {
      const ask = (query) => call('POST', '/searches/ask', { query, limit: 100 });
      // the index is loaded behind the first questions
      const loaded = await timed(() =>
        until(
          () => ask(''),
          (found) => found.count === MILLION,
        ),
      );
      for (const query of QUERIES) await ask(query);
      const status = readFileSync(`/proc/${pid}/status`, 'utf8');
      const kilobytes = (name) => Number(new RegExp(`${name}:\\s+(\\d+)`).exec(status)?.[1]);
      return [
        {
          value: kilobytes('VmRSS') * 1024,
          unit: 'bytes resident',
          note: `${MILLION} originals, ${QUERIES.length} questions asked; most ever ${Math.round(kilobytes('VmHWM') / 1024)} MiB; loaded in ${(loaded / 1000).toFixed(1)} s; bar 450 MB`,
        },
      ];
    });
  });
}

const BATCH = 2000;

/** Rows as the walk hands them over: names as one text, numbers in one array; a row is made where it is written. */
function packed(names) {
  /** @typedef {{ names: string[], types: string[], kinds: string[], numbers: Float64Array }} Batch */
  /** @type {Batch[]} */
  const batches = [];
  /** @type {Batch | undefined} */
  let batch;
  for (const row of rowsOf(names)) {
    if (!batch || batch.types.length === BATCH) {
      batch = { names: [], types: [], kinds: [], numbers: new Float64Array(5 * BATCH) };
      batches.push(batch);
    }
    batch.numbers.set([row.id, row.parentId, row.size, row.modified, row.created], 5 * batch.types.length);
    batch.names.push(row.name);
    batch.types.push(row.type);
    batch.kinds.push(row.kind);
  }
  return batches.map((batch) => ({ ...batch, names: batch.names.join('/') }));
}

function eachOf({ names, types, kinds, numbers }, visit) {
  names.split('/').forEach((name, i) => {
    const at = 5 * i;
    visit({
      id: numbers[at],
      parentId: numbers[at + 1],
      name,
      type: types[i],
      kind: kinds[i],
      mime: 'text/plain',
      size: numbers[at + 2],
      mtime: numbers[at + 3] + 0.25,
      birth: numbers[at + 4] + 0.5,
      dev: 1,
      inode: numbers[at],
    });
  });
}

/** Rows into PostgreSQL, indexes and attachment included, beside a server-side COPY of the same rows from a file. */
export function indexLoad() {
  return withCatalogue(async (client) => {
    const names = manyNames(MILLION / 2);
    const batches = packed(names);
    await fill(client, names.slice(0, 10_000));
    const ours = [];
    const theirs = [];
    await client.query(`SET client_min_messages = error`);
    for (let i = 0; i < 3; i++) {
      const placeId = await newPlace(client);
      const now = new Date(NOW).toISOString();
      await client.query(createLoose(placeId));
      ours.push(
        await timed(async () => {
          const copy = copyInto(client, partitionName(placeId), placeId, now);
          for (const batch of batches) {
            eachOf(batch, (row) => copy.write(row));
            // what is written goes out between batches
            await new Promise((resolve) => setImmediate(resolve));
          }
          await copy.end();
        }),
      );
      await client.query(`CREATE TABLE again (LIKE ${partitionName(placeId)})`);
      const dump = `/tmp/rellin-bench-copy-${process.pid}`;
      await client.query(`COPY ${partitionName(placeId)} TO '${dump}'`);
      theirs.push(await timed(() => client.query(`COPY again FROM '${dump}'`)));
      await client.query(`COPY (SELECT 1) TO PROGRAM 'rm -f ${dump}'`);
      await client.query(`DROP TABLE again`);
      await client.query(`DROP TABLE ${partitionName(placeId)}`);
    }
    const rows = names.length + 1;
    return [
      {
        value: (1000 * rows) / median(ours),
        unit: 'rows/s',
        reference: 'server-side COPY of the same rows',
        referenceValue: (1000 * rows) / median(theirs),
        ratio: median(theirs) / median(ours),
        note: 'ratio by rows/s; bar 0.75',
      },
    ];
  });
}
