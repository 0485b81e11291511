/**
 * The page in Chromium on a catalogue of 10,000 shortcuts and 1,000 collections six deep, one of them with 5,000
 * members. Key-to-paint is measured in the page: from the event to the second animation frame after it, when its paint
 * is done.
 */
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import pg from 'pg';
import { privateCluster } from '../scripts/lib/postgres.mjs';
import { launch } from '../scripts/lib/launch.mjs';
import { CHROMIUM, DATA, ensureChromium, postgresBin, ROOT } from '../scripts/lib/prepare.mjs';

const SHORTCUTS = 10_000;
const COLLECTIONS = 1_000;
const LARGE = 5_000;
const RUNS = 20;

const median = (values) => Math.round([...values].sort((a, b) => a - b)[values.length >> 1]);
const p95 = (values) => [...values].sort((a, b) => a - b)[Math.ceil(values.length * 0.95) - 1];

/** Rows as the server would have made them. */
const FILL = `
  INSERT INTO shortcut (id, name, target, kind, url, state, state_since, added_at)
    SELECT gen_random_uuid(), (ARRAY['Ringing','Tide','Boat','Moth','Survey','Grant'])[1 + n % 6] || ' page ' || n, 'web', 'web',
      'https://marrowick.example/' || n, 'ready', now(), now() - n * interval '1 minute'
    FROM generate_series(1, ${SHORTCUTS}) n;
  INSERT INTO usage (shortcut_id, w0, t0, last_opened)
    SELECT id, random() * 9, extract(epoch FROM now()) * 1000, now() - random() * interval '60 days' FROM shortcut;
  INSERT INTO collection (id, name, type, added_at)
    SELECT gen_random_uuid(), 'Gathering ' || n, 'plain', now() FROM generate_series(1, ${COLLECTIONS}) n;
  CREATE TEMP TABLE nth AS SELECT id, row_number() OVER (ORDER BY name) AS n FROM collection;
  -- a chain of six, again and again
  INSERT INTO member (id, collection_id, child_id, sort)
    SELECT gen_random_uuid(), p.id, c.id, 0 FROM nth p JOIN nth c ON c.n = p.n + 1 WHERE p.n % 6 <> 0;
  INSERT INTO member (id, collection_id, shortcut_id, sort)
    SELECT gen_random_uuid(), (SELECT id FROM nth WHERE nth.n = 1 + s.n % ${COLLECTIONS}), s.id, s.n
    FROM (SELECT id, row_number() OVER () AS n FROM shortcut) s WHERE s.n <= 8000;
  INSERT INTO collection (id, name, type, added_at) VALUES ('00000000-0000-4000-8000-000000000001', 'The large one', 'plain', now());
  INSERT INTO member (id, collection_id, shortcut_id, sort)
    SELECT gen_random_uuid(), '00000000-0000-4000-8000-000000000001', id, row_number() OVER () FROM shortcut LIMIT ${LARGE};
  INSERT INTO pin (id, collection_id, sort) VALUES (gen_random_uuid(), '00000000-0000-4000-8000-000000000001', 1);
  ANALYZE;`;

async function withPage(use) {
  ensureChromium();
  const folder = join(DATA, 'bench');
  mkdirSync(folder, { recursive: true });
  const cluster = await privateCluster({ bin: postgresBin(), folder });
  cluster.dropDatabase('benchpage');
  cluster.ensureDatabase('benchpage');
  const data = mkdtempSync(join(tmpdir(), 'rellin-bench-'));
  mkdirSync(join(data, 'place'));
  writeFileSync(join(data, 'place/one.txt'), '');
  const start = async () => {
    const { child, ended, listening } = launch({
      env: {
        PATH: process.env.PATH,
        HOME: data,
        DATABASE_URL: cluster.url('benchpage'),
        RELLIN_DATA: data,
        RELLIN_OPENER: 'viewer',
        RELLIN_WEB: join(ROOT, 'packages/web/dist'),
        RELLIN_PLACES: JSON.stringify([{ name: 'place', root: join(data, 'place'), type: 'fixed' }]),
      },
    });
    return { child, ended, ...(await listening) };
  };
  const stop = ({ child, ended }) => (child.kill('SIGTERM'), ended);
  await stop(await start());
  const client = new pg.Client({ connectionString: cluster.url('benchpage') });
  await client.connect();
  await client.query(FILL);
  await client.end();
  const server = await start();
  const token = readFileSync(join(data, 'command-token'), 'utf8').trim();
  const { address: entry } = await (
    await fetch(`${server.address}/api/session/code`, { method: 'POST', headers: { authorization: `Bearer ${token}` } })
  ).json();
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
  });
  try {
    const page = await (
      await browser.newContext({ viewport: { width: 1280, height: 800 }, bypassCSP: true })
    ).newPage();
    await page.goto(entry);
    await page.locator('[data-index]').first().waitFor({ timeout: 60_000 });
    return await use(page, server.page);
  } finally {
    await browser.close();
    await stop(server);
    cluster.dropDatabase('benchpage');
    cluster.stop();
    rmSync(data, { recursive: true, force: true });
  }
}

/** Milliseconds from doing something in the page until its paint is done and `ready` holds. */
const paint = (page, action, ready) =>
  page.evaluate(
    ([act, holds]) =>
      new Promise((resolve, reject) => {
        const started = performance.now();
        new Function(act)();
        const look = () => {
          if (!new Function(`return ${holds}`)()) {
            // what never comes is not waited for for ever
            if (performance.now() - started > 30_000) return reject(new Error(`in vain waited for: ${holds}`));
            return requestAnimationFrame(look);
          }
          requestAnimationFrame(() => resolve(performance.now() - started));
        };
        requestAnimationFrame(look);
      }),
    [action, ready],
  );

const row = `document.querySelector('[data-index="0"] .name')`;
const view = (name) =>
  `[...document.querySelectorAll('.side-nav a')].find((a) => a.textContent.startsWith('${name}')).click()`;
const shows = (heading) => `document.querySelector('h1')?.textContent === '${heading}' && ${row}`;

export function catalogueOpen() {
  return withPage(async (page) => {
    const times = [];
    for (let i = 0; i < RUNS; i++) {
      await paint(page, view('Reach'), shows('Likely next'));
      times.push(await paint(page, view('Catalogue'), shows('Catalogue')));
    }
    return [
      {
        value: p95(times.slice(2)),
        unit: 'ms',
        note: `p95 of ${RUNS - 2}, from a click on the view to its rows; bar 300`,
      },
    ];
  });
}

export function catalogueFilter() {
  return withPage(async (page) => {
    await paint(page, view('Catalogue'), shows('Catalogue'));
    const sort = (title) =>
      `window.before = ${row}.textContent; [...document.querySelectorAll('[role=columnheader] button')].find((b) => b.textContent.startsWith('${title}')).click()`;
    const times = [];
    for (let i = 0; i < RUNS; i++)
      times.push(await paint(page, sort(i % 2 ? 'a week' : 'Name'), `${row} && ${row}.textContent !== window.before`));
    return [
      {
        value: p95(times.slice(2)),
        unit: 'ms',
        note: `p95 of ${RUNS - 2}, median ${median(times.slice(2))}, from a press on a title to the sorted rows; bar 100`,
      },
    ];
  });
}

export function menuType() {
  return withPage(async (page) => {
    await page.keyboard.press('1');
    const options = `document.querySelectorAll('.pin-menu [role=option]').length`;
    await page.locator('.pin-menu [role=option]').first().waitFor();
    const times = [];
    for (const word of ['tide page 4', 'moth', 'boat 77']) {
      for (let n = 1; n <= word.length; n++)
        times.push(
          await paint(
            page,
            `const f = document.querySelector('.pin-menu input');
             Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(f, ${JSON.stringify(word.slice(0, n))});
             f.dispatchEvent(new Event('input', { bubbles: true }))`,
            `document.querySelector('.pin-menu input').value === ${JSON.stringify(word.slice(0, n))} && ${options} >= 0`,
          ),
        );
    }
    return [
      {
        value: p95(times),
        unit: 'ms',
        note: `p95 of ${times.length}, median ${median(times)}, letters typed into a menu of ${LARGE}; bar 100`,
      },
    ];
  });
}

export function pageLoad() {
  return withPage(async (page, address) => {
    const times = [];
    for (let i = 0; i < 8; i++) {
      const started = performance.now();
      await page.goto(`${address}/catalogue`, { waitUntil: 'commit' });
      await page.locator('[data-index]').first().waitFor();
      times.push(performance.now() - started);
    }
    return [
      {
        value: p95(times),
        unit: 'ms',
        note: `p95 of 8, median ${median(times)}, the catalogue’s rows after opening its address with 10,000 shortcuts; ${times.map((t) => t.toFixed(0))}`,
      },
    ];
  });
}

/** The script that the start view needs: the entry and what it imports at once, and the view itself. */
export async function pageScript() {
  const folder = join(ROOT, 'packages/web/dist/assets');
  const html = readFileSync(join(ROOT, 'packages/web/dist/index.html'), 'utf8');
  const wanted = new Set([...html.matchAll(/assets\/([\w.-]+\.js)/g)].map((m) => m[1]));
  for (const name of readdirSync(folder)) if (/^ReachView-.*\.js$/.test(name)) wanted.add(name);
  for (const name of wanted)
    for (const [, other] of readFileSync(join(folder, name), 'utf8').matchAll(
      /(?:import|from)\s*["']\.\/([\w.-]+\.js)["']/g,
    ))
      wanted.add(other);
  const bytes = [...wanted].reduce(
    (sum, name) => sum + gzipSync(readFileSync(join(folder, name)), { level: 9 }).length,
    0,
  );
  return [{ value: bytes, unit: 'bytes gzip', note: `${wanted.size} files; bar 250,000` }];
}
