/** Many acts at once: each comes to its end, in the order they were asked. */
import pg from 'pg';
import { join } from 'node:path';
import { privateCluster } from '../scripts/lib/postgres.mjs';
import { DATA, postgresBin } from '../scripts/lib/prepare.mjs';
import { withServer } from './server.mjs';

const ACTS = 2000;

const p95 = (times) => times.toSorted((a, b) => a - b)[Math.floor(times.length * 0.95)];

/** The bare work: the same two rows in a transaction each, one after the other on one connection, nothing around it. */
async function bareActs(client) {
  const started = performance.now();
  const times = [];
  for (let i = 0; i < ACTS; i++) {
    await client.query('BEGIN');
    await client.query(`INSERT INTO bare_tag (name) VALUES ($1)`, [`tag ${i}`]);
    await client.query(`INSERT INTO bare_line (summary, changes) VALUES ($1, $2)`, [
      `Added the tag “tag ${i}”`,
      JSON.stringify([{ table: 'tag', id: i, before: null, after: { name: `tag ${i}` } }]),
    ]);
    await client.query('COMMIT');
    times.push(performance.now() - started);
  }
  return times;
}

export async function actsParallel() {
  const folder = join(DATA, 'bench');
  const ours = await withServer({}, async ({ call }) => {
    for (let i = 0; i < 50; i++) await call('POST', '/tags', { name: `warm ${i}` });
    const started = performance.now();
    return Promise.all(
      Array.from({ length: ACTS }, async (_, i) => {
        await call('POST', '/tags', { name: `tag ${i}` });
        return performance.now() - started;
      }),
    );
  });
  const cluster = await privateCluster({ bin: postgresBin(), folder });
  cluster.dropDatabase('benchacts');
  cluster.ensureDatabase('benchacts');
  const client = new pg.Client({ connectionString: cluster.url('benchacts') });
  await client.connect();
  try {
    await client.query(
      `CREATE TABLE bare_tag (id serial PRIMARY KEY, name text UNIQUE);
       CREATE TABLE bare_line (id serial PRIMARY KEY, at timestamptz DEFAULT now(), summary text, changes jsonb)`,
    );
    const bare = await bareActs(client);
    return [
      {
        value: p95(ours),
        unit: 'ms p95 of 2,000 acts asked at once',
        reference: 'bare transactions one after the other',
        referenceValue: p95(bare),
        ratio: p95(ours) / p95(bare),
        note: `${(ours.reduce((a, b) => Math.max(a, b), 0) / ACTS).toFixed(1)} ms an act`,
      },
    ];
  } finally {
    await client.end();
    cluster.stop();
  }
}
