/** Every view, light and dark: no finding of axe, nothing wider than the window. */
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { App } from './app';

let app: App;
test.beforeAll(async () => {
  app = await App.start(undefined, true);
});
test.afterAll(() => app.end());

/** A row chosen, and its card there with all of it, the chart that comes last included. */
async function withCard(page: Page) {
  await first(page).click();
  await page.locator('.card canvas').waitFor();
}
const first = (page: Page) => page.getByRole('row').and(page.locator('[data-index]')).first();

const VIEWS: [string, string, (page: Page) => Promise<void>][] = [
  ['Reach', '/reach', withCard],
  ['Catalogue', '/catalogue', withCard],
  ['Originals', '/originals', (page) => first(page).click()],
  ['Programs', '/originals/programs', (page) => first(page).click()],
  ['Collections', '/collections', withCard],
  ['Boards', '/boards', (page) => page.getByRole('option', { name: /Moth trap form/ }).click()],
  ['Searches', '/searches', (page) => page.locator('canvas').waitFor()],
  [
    'a search by rows',
    '/searches/new',
    async (page) => {
      await page.getByLabel('What is asked, as text').fill('(tide OR -*.csv) size>1kB');
      await page.getByRole('row').nth(1).waitFor();
    },
  ],
  [
    'menu of a pin',
    '/reach',
    async (page) => {
      await first(page).waitFor();
      await page
        .getByRole('navigation', { name: 'Pin strip' })
        .getByRole('button', { name: /Filing targets/ })
        .click();
      await page.getByRole('option').first().waitFor();
    },
  ],
  [
    'gathering',
    '/collections',
    async (page) => {
      await first(page).waitFor();
      await page.getByRole('button', { name: 'Add several…' }).first().click();
      await page.getByRole('option').first().waitFor();
    },
  ],
  ['Check-up', '/check-up', (page) => page.getByRole('region', { name: 'Trap form' }).waitFor()],
  ['Check-up, away', '/check-up?show=away', (page) => page.getByRole('tab', { selected: true }).waitFor()],
  ['Plan', '/plan', (page) => page.locator('.charts canvas').first().waitFor()],
  ['Your usage', '/usage', (page) => page.getByRole('switch').first().waitFor()],
  ['Journal', '/journal', (page) => first(page).click()],
  ['Bin', '/bin', async (page) => void (await page.getByText('Nothing was removed').waitFor())],
  ['Bin, deleted originals', '/bin/originals', (page) => first(page).click()],
  ['Settings', '/settings', async (page) => void (await page.getByRole('heading', { name: 'Reach' }).waitFor())],
  [
    'find line',
    '/reach',
    async (page) => {
      await first(page).waitFor();
      await page.keyboard.press('/');
      await page.keyboard.type('tide');
      await page.getByRole('option').first().waitFor();
    },
  ],
  [
    'add dialog',
    '/catalogue',
    async (page) => {
      await first(page).waitFor();
      await page.keyboard.press('n');
      await page.getByRole('dialog').waitFor();
    },
  ],
  [
    'tiles',
    '/catalogue',
    async (page) => {
      await page.getByRole('button', { name: 'Shown as Table' }).click();
      await page.getByRole('menuitemradio', { name: 'Large tiles' }).click();
      await page.getByRole('gridcell').first().click();
      await page.locator('.card canvas').waitFor();
    },
  ],
  [
    'columns menu',
    '/catalogue',
    async (page) => {
      await page.getByRole('button', { name: /^Shown as/ }).click();
      await page.getByRole('menuitemradio', { name: 'Table' }).click();
      await first(page).waitFor();
      await page.getByRole('button', { name: 'Columns' }).click();
      await page.getByRole('menuitemcheckbox').first().waitFor();
    },
  ],
  [
    'picture',
    '/catalogue',
    async (page) => {
      await first(page).click();
      await page.keyboard.press('b');
      await page.getByRole('option').first().waitFor();
    },
  ],
  [
    'open with',
    '/catalogue',
    async (page) => {
      await page.goto(`${app.address}/catalogue?kind=table`);
      await first(page).click();
      await page.keyboard.press('o');
      await page.getByRole('option').first().waitFor();
    },
  ],
  [
    'keys',
    '/catalogue',
    async (page) => {
      await first(page).waitFor();
      await page.keyboard.press('?');
      await page.getByRole('dialog').waitFor();
    },
  ],
  [
    'viewer',
    '/reach',
    async (page) => {
      await first(page).waitFor();
      await page.keyboard.press('1');
      await page.getByRole('table').waitFor();
    },
  ],
];

for (const scheme of ['light', 'dark'] as const)
  test(`axe finds nothing on any view, ${scheme}`, async ({ browser }) => {
    test.setTimeout(420_000);
    const page = await app.enter(
      await browser.newContext({
        viewport: { width: 1280, height: 800 },
        colorScheme: scheme,
        reducedMotion: 'reduce',
      }),
    );
    const found: string[] = [];
    for (const [name, path, prepare] of VIEWS) {
      await page.goto(app.address + path);
      await prepare(page);
      await page.evaluate(() => Promise.all(document.getAnimations().map((a) => a.finished.catch(() => undefined))));
      // one document without frames: no second page to gather in, and of what passes nothing is asked
      const { violations } = await new AxeBuilder({ page })
        .setLegacyMode(true)
        .options({ resultTypes: ['violations'] })
        .analyze();
      for (const v of violations)
        found.push(
          `${name}: ${v.id} — ${v.nodes
            .map((n) => `${n.target.join(' ')} ${n.failureSummary?.split('\n')[1] ?? ''}`)
            .slice(0, 3)
            .join(' | ')}`,
        );
      const overflow = await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth);
      if (overflow) found.push(`${name}: wider than the window`);
    }
    expect(found).toEqual([]);
    await page.context().close();
  });

test('works from 1024 wide; narrower in one column', async ({ browser }) => {
  const page = await app.enter(await browser.newContext({ viewport: { width: 1024, height: 768 } }));
  for (const width of [1024, 700]) {
    await page.setViewportSize({ width, height: 768 });
    for (const path of ['/reach', '/catalogue', '/originals']) {
      await page.goto(app.address + path);
      await first(page).waitFor();
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
    }
  }
  await page.context().close();
});

test('a browser without a session is told how to get one', async ({ browser }) => {
  const page = await (await browser.newContext()).newPage();
  await page.goto(app.address);
  await expect(page.getByText('rellin address')).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => v.id)).toEqual([]);
  await page.context().close();
});
