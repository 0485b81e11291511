/** What it takes to make a shortcut, and how soon somebody new sees the first page. */
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { addingRoutes, byFolderRoute, REACH_CONSTANTS } from '../packages/core/dist/reach/index.js';
import { launch } from '../scripts/lib/launch.mjs';
import { CHROMIUM, DATA, ensureChromium, postgresBin, ROOT } from '../scripts/lib/prepare.mjs';
import { privateCluster } from '../scripts/lib/postgres.mjs';
import { median } from './measure.mjs';

/** Of folders four deep with twenty entries each: what it takes to get there once, without a shortcut. */
const FOLDERS = [20, 20, 20, 20];
const TIMES = 7;

export async function reachAdd() {
  const once = byFolderRoute(1, FOLDERS, 0, REACH_CONSTANTS).seconds;
  return addingRoutes(REACH_CONSTANTS).map(({ from, steps, seconds }) => ({
    value: seconds,
    unit: 's',
    reference: 'by folders, once',
    referenceValue: once,
    ratio: seconds / once,
    note: `from ${from}: ${steps.length} steps (${steps.join(', ')}); bar 4 steps`,
  }));
}

/** A page that is painted as soon as it is there. */
const BARE = '<!doctype html><title>bare</title><p>words';

export async function pageEmpty() {
  ensureChromium();
  const folder = join(DATA, 'bench');
  mkdirSync(folder, { recursive: true });
  const cluster = await privateCluster({ bin: postgresBin(), folder });
  cluster.dropDatabase('benchempty');
  cluster.ensureDatabase('benchempty');
  const data = mkdtempSync(join(tmpdir(), 'rellin-bench-'));
  const { child, ended, listening } = launch({
    env: {
      PATH: process.env.PATH,
      HOME: data,
      DATABASE_URL: cluster.url('benchempty'),
      RELLIN_DATA: data,
      RELLIN_OPENER: 'viewer',
      RELLIN_WEB: join(ROOT, 'packages/web/dist'),
    },
  });
  const bare = createServer((_, answer) => answer.setHeader('content-type', 'text/html').end(BARE));
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
  });
  try {
    const { address, page: home } = await listening;
    await new Promise((resolve) => bare.listen(0, '127.0.0.1', () => resolve(undefined)));
    const token = readFileSync(join(data, 'command-token'), 'utf8').trim();
    const { address: entry } = await (
      await fetch(`${address}/api/session/code`, { method: 'POST', headers: { authorization: `Bearer ${token}` } })
    ).json();
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    await page.goto(entry);
    await page.getByRole('heading', { name: 'Begin with what is there' }).waitFor();
    const painted = async (at, ready) => {
      await page.goto(at);
      await ready();
      return page.evaluate(() => performance.getEntriesByName('first-contentful-paint')[0].startTime);
    };
    const ours = [];
    const theirs = [];
    for (let i = 0; i < TIMES; i++) {
      ours.push(await painted(home, () => page.getByRole('heading', { name: 'Begin with what is there' }).waitFor()));
      const { port } = /** @type {import('node:net').AddressInfo} */ (bare.address());
      theirs.push(await painted(`http://127.0.0.1:${port}/`, () => page.getByText('words').waitFor()));
    }
    const [value, referenceValue] = [median(ours), median(theirs)];
    return [
      {
        value,
        unit: 'ms',
        reference: 'a bare page',
        referenceValue,
        ratio: value / referenceValue,
        note: `first contentful paint of an empty catalogue, median of ${TIMES}; bar 1000`,
      },
    ];
  } finally {
    await browser.close();
    bare.close();
    child.kill('SIGTERM');
    await ended;
    cluster.dropDatabase('benchempty');
    cluster.stop();
    rmSync(data, { recursive: true, force: true });
  }
}
