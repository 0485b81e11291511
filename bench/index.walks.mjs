/**
 * Walking and scanning beside GNU find with the same fields: path, size, mtime, birth, device, inode, type.
 * `walk.large` makes its own 200,000 entries from a seed; the others take the machine's own /usr.
 */
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { seeded } from '../packages/core/dist/random/index.js';
import { scanPlace } from '../packages/server/dist/indexing/scan.js';
import { walk } from '../packages/server/dist/indexing/walk.js';
import { dataSourceFor } from '../packages/server/dist/database/database.module.js';
import { privateCluster } from '../scripts/lib/postgres.mjs';
import { DATA, postgresBin } from '../scripts/lib/prepare.mjs';
import { beside, median, timed } from './measure.mjs';

const FIELDS = '%P\\t%s\\t%T@\\t%B@\\t%D\\t%i\\t%y\\n';

/** find with the same fields, its output read to the end; resolves with the number of lines. */
function find(root) {
  return new Promise((resolve, reject) => {
    const child = spawn('find', [root, '-mindepth', '1', '-printf', FIELDS], { stdio: ['ignore', 'pipe', 'ignore'] });
    let lines = 0;
    child.stdout.on('data', (chunk) => {
      for (let at = chunk.indexOf(10); at >= 0; at = chunk.indexOf(10, at + 1)) lines++;
    });
    child.once('error', reject);
    child.once('close', () => resolve(lines));
  });
}

/** Our walk to packed columns, counted. */
async function ourWalk(root) {
  let entries = 0;
  await walk({
    root,
    excludes: [],
    onBatch(batch) {
      entries += batch.types.length;
    },
  });
  return entries;
}

async function walkFigure(root) {
  const entries = await ourWalk(root);
  const lines = await find(root);
  const r = await beside(
    () => ourWalk(root),
    () => find(root),
  );
  return [
    {
      value: (1000 * entries) / r.ours,
      unit: 'entries/s',
      reference: 'find -printf',
      referenceValue: (1000 * lines) / r.reference,
      ratio: r.ratio,
      note: `${entries} entries, ratio by time`,
    },
  ];
}

export const walkUsr = () => walkFigure('/usr');

export async function walkLarge() {
  const root = mkdtempSync(join(tmpdir(), 'rellin-walk-'));
  try {
    const random = seeded(2);
    const folders = [root];
    for (let i = 0; i < 12_000; i++) {
      const folder = join(random.pick(folders), `folder ${i}`);
      mkdirSync(folder);
      folders.push(folder);
    }
    for (let i = 0; i < 188_000; i++) writeFileSync(join(random.pick(folders), `file-${i}.txt`), '');
    return await walkFigure(root);
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
}

/** A database of the bench's own, with the schema and one place; fsync as a user has it. */
export async function withCatalogue(use) {
  const folder = join(DATA, 'bench');
  mkdirSync(folder, { recursive: true });
  const cluster = await privateCluster({ bin: postgresBin(), folder });
  cluster.dropDatabase('bench');
  cluster.ensureDatabase('bench');
  const source = await dataSourceFor(cluster.url('bench')).initialize();
  await source.runMigrations();
  await source.destroy();
  const client = new pg.Client({ connectionString: cluster.url('bench') });
  await client.connect();
  try {
    return await use(client, cluster.url('bench'));
  } finally {
    await client.end();
    cluster.stop();
  }
}

const ROOT = '/usr';

/** A scan that came to its end; nothing else can be measured. */
export async function scanned(client, options) {
  const outcome = await scanPlace(client, options);
  if (outcome.outcome !== 'done') throw new Error(`the scan was ${outcome.outcome}`);
  return outcome;
}

export async function newPlace(client) {
  const { rows } = await client.query(
    `INSERT INTO place (name, root, type) VALUES ('bench', $1 || gen_random_uuid(), 'fixed') RETURNING id`,
    [ROOT],
  );
  await client.query(`INSERT INTO place_status (place_id) VALUES ($1)`, [rows[0].id]);
  return rows[0].id;
}

export function scanFirst() {
  return withCatalogue(async (client) => {
    await find(ROOT);
    const ours = [];
    const theirs = [];
    let entries = 0;
    for (let i = 0; i < 5; i++) {
      theirs.push(await timed(() => find(ROOT)));
      const placeId = await newPlace(client);
      ours.push(
        await timed(async () => {
          const outcome = await scanned(client, { placeId, root: ROOT, excludes: [] });
          entries = outcome.entries;
        }),
      );
      await client.query(`DROP TABLE original_p${placeId}`);
    }
    return [
      {
        value: (1000 * entries) / median(ours),
        unit: 'entries/s',
        reference: 'find -printf',
        referenceValue: (1000 * entries) / median(theirs),
        ratio: median(ours) / median(theirs),
        note: `${entries} entries into PostgreSQL, indexed and committed; ratio by time`,
      },
    ];
  });
}

export function scanAgain() {
  return withCatalogue(async (client) => {
    const placeId = await newPlace(client);
    const scan = () => scanned(client, { placeId, root: ROOT, excludes: [] });
    const first = await scan();
    let written = 0;
    const r = await beside(
      async () => {
        const outcome = await scan();
        written += outcome.written.added + outcome.written.changed + outcome.written.removed;
      },
      () => find(ROOT),
    );
    return [
      {
        value: (1000 * first.entries) / r.ours,
        unit: 'entries/s',
        reference: 'find -printf',
        referenceValue: (1000 * first.entries) / r.reference,
        ratio: r.ratio,
        rowsWritten: written,
        note: `${first.entries} entries, ${written} rows written; ratio by time`,
      },
    ];
  });
}
