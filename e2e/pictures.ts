/**
 * One picture a main view at 1280×800, into docs/screenshots; RELLIN_PICTURES names another folder for trying things
 * out.
 */
import { rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { seeded } from '@rellin/core/random';
import { writeNewHome } from '../scripts/lib/newHome.mjs';
import { App } from './app';

const FOLDER = process.env['RELLIN_PICTURES'] ?? join(import.meta.dirname, '../docs/screenshots');

// its paths stand in the pictures
const BASE = join(tmpdir(), 'observatory');

let app: App;
test.describe.configure({ timeout: 90_000 });
test.beforeAll(async () => {
  rmSync(BASE, { recursive: true, force: true });
  app = await App.start(BASE, true);
  const places = await app.get('/places');
  await app.call('POST', `/places/${places.find((p) => p.name === 'Station share')!.id}/disconnect`);
});
test.afterAll(() => app.end());

const rows = (page: Page) => page.getByRole('row').and(page.locator('[data-index]'));
const row = (page: Page, name: string) => rows(page).filter({ has: page.getByText(name, { exact: true }) });

const PICTURES: [name: string, scheme: 'light' | 'dark', path: string, prepare: (page: Page) => Promise<void>][] = [
  ['reach', 'light', '/reach', (page) => rows(page).first().click()],
  ['reach-dark', 'dark', '/reach', (page) => rows(page).first().click()],
  ['catalogue', 'light', '/catalogue', (page) => row(page, 'Net positions').click()],
  [
    'sweep',
    'light',
    '/sweeps',
    async (page) => {
      await page.getByRole('link', { name: 'Look at it' }).click();
      await rows(page).first().waitFor();
      await rows(page).nth(2).click();
    },
  ],
  [
    'originals',
    'light',
    '/originals',
    async (page) => {
      for (const name of ['Ringing', '2026', 'Logs']) await row(page, name).dblclick();
      await rows(page).nth(2).click();
    },
  ],
  [
    'find-line',
    'light',
    '/reach',
    async (page) => {
      await rows(page).first().waitFor();
      await page.keyboard.press('/');
      await page.keyboard.type('tdie');
      await page.getByRole('option').first().waitFor();
    },
  ],
  [
    'preview',
    'dark',
    '/reach',
    async (page) => {
      await rows(page).first().waitFor();
      await page.keyboard.press('2');
      await page.getByRole('table').waitFor();
    },
  ],
  [
    'collections',
    'light',
    '/collections',
    async (page) => {
      await page.locator('.tree-label').filter({ hasText: 'Ringing season' }).click();
      await row(page, 'Net positions').click();
    },
  ],
  [
    'check-up',
    'dark',
    '/check-up',
    async (page) => {
      await page.getByRole('button', { name: 'Trap form' }).click();
      await page.getByRole('heading', { name: 'Trap form', level: 2 }).nth(1).waitFor();
    },
  ],
  [
    'menu',
    'light',
    '/reach',
    async (page) => {
      // which things are likely next depends on the hour
      await rows(page).first().click();
      await page
        .getByRole('navigation', { name: 'Pin strip' })
        .getByRole('button', { name: /Filing targets/ })
        .click();
      await page.getByRole('option').nth(1).hover();
    },
  ],
  ['boards', 'light', '/boards', (page) => page.getByRole('option', { name: /Sightings board/ }).click()],
  [
    'searches',
    'light',
    '/searches',
    async (page) => {
      await page.getByRole('link', { name: /North cliff since May/ }).click();
      await rows(page).nth(1).waitFor();
      await page.getByRole('heading', { name: 'How many there were' }).waitFor();
      await page.locator('canvas').waitFor();
    },
  ],
  [
    'search-rows',
    'dark',
    '/searches/new',
    async (page) => {
      await page
        .getByLabel('What is asked, as text')
        .fill('(kind:table OR kind:text) in:Ringing modified:2026 -in:Archive size>700');
      await rows(page).first().waitFor();
      await rows(page).nth(1).click();
    },
  ],
  ['journal', 'light', '/journal', (page) => rows(page).first().click()],
  [
    'bin',
    'light',
    '/catalogue',
    async (page) => {
      const bin = async (path: '/shortcuts' | '/collections' | '/searches' | '/boards', names: string[]) => {
        for (const { id, name } of await app.get(path))
          if (names.includes(name)) await app.call('DELETE', `${path}/${id}`);
      };
      await bin('/shortcuts', ['Flares', 'Reserve by-laws']);
      await bin('/collections', ['Coastal fund']);
      await page.goto(`${app.address}/bin/originals`);
      await rows(page).nth(1).click();
    },
  ],
  ['plan', 'light', '/plan', (page) => page.getByRole('button', { name: /^Apply \d+ chosen$/ }).waitFor()],
  ['settings', 'light', '/settings', (page) => page.getByRole('heading', { name: 'Reach' }).waitFor()],
  // last: the shape stays
  [
    'tiles',
    'light',
    '/catalogue',
    async (page) => {
      await page.getByRole('button', { name: /^Shown as/ }).click();
      await page.getByRole('menuitemradio', { name: 'Medium tiles' }).click();
      await page.getByRole('gridcell', { name: /^Chartroom/ }).click();
    },
  ],
];

for (const [name, scheme, path, prepare] of PICTURES)
  test(name, async ({ browser }) => {
    const page = await app.enter(
      await browser.newContext({
        viewport: { width: 1280, height: 800 },
        colorScheme: scheme,
        reducedMotion: 'reduce',
      }),
    );
    await page.goto(app.address + path);
    await prepare(page);
    await page.evaluate(() => document.fonts.ready);
    await page.waitForLoadState('networkidle');
    // a kind of card is fetched when the first of its kind is chosen
    for (const card of await page.locator('aside.card').all()) await expect(card).not.toBeEmpty();
    await page.evaluate(() => Promise.all(document.getAnimations().map((a) => a.finished.catch(() => undefined))));
    await page.screenshot({ path: join(FOLDER, `${name}.png`) });
    await page.context().close();
  });

test('the first steps', async ({ browser }) => {
  const fresh = await App.startNew((home) => void writeNewHome(home, seeded(3), Date.now()));
  try {
    const page = await fresh.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
    await page.getByText('entries').first().waitFor();
    await page.getByRole('listbox', { name: 'Things that you use' }).waitFor();
    await expect(page.getByText('…', { exact: true })).toHaveCount(0);
    await page.screenshot({ path: join(FOLDER, 'set-up.png') });
  } finally {
    await fresh.end();
  }
});
