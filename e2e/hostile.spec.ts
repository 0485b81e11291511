/** A hostile file is looked at, and the page goes on: what it shows is inert, and what would hold it up is given up. */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { App } from './app';

let app: App;
let page: Page;
test.describe.configure({ mode: process.env['LOOSE'] ? 'default' : 'serial' });

const uses = (id: string) => `<use href="#${id}"/>`.repeat(10);
const FILES = {
  // each part is ten of the one before
  'many shapes.svg':
    '<svg xmlns="http://www.w3.org/2000/svg"><g id="a0"><rect width="1" height="1"/></g>' +
    `${Array.from({ length: 30 }, (_, i) => `<g id="a${i + 1}">${uses(`a${i}`)}</g>`).join('')}${uses('a30')}</svg>`,
  // hours for whoever reads it
  'entangled.md': '**a*b '.repeat(30_000),
  'deep.md': '> '.repeat(20_000),
  'drawn.svg': '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><rect width="40" height="20"/></svg>',
  'written.md': '# Landing places\n\n<script>document.title = "taken"</script>\n\n- the slip',
};

test.beforeAll(async ({ browser }) => {
  app = await App.start();
  mkdirSync(join(app.place, 'Hostile'));
  for (const [name, text] of Object.entries(FILES)) writeFileSync(join(app.place, 'Hostile', name), text);
  page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 }, acceptDownloads: true }));
  const path = join(app.place, 'Hostile');
  await expect
    .poll(() => app.call('POST', '/originals/locate', { path }).then(({ originalId }) => originalId))
    .toBeGreaterThan(0);
  const { placeId, originalId } = await app.call('POST', '/originals/locate', { path });
  await page.goto(`${app.address}/originals/${placeId}/${originalId}`);
});
test.afterAll(() => app.end());

const dialog = () => page.getByRole('dialog');
/** Selects it, which shows a picture on its card at once, and looks at it. */
async function lookAt(name: string): Promise<void> {
  await page.getByRole('row', { name }).click();
  await page.keyboard.press('v');
  await expect(dialog()).toContainText(name);
}
const close = async () => {
  await dialog().getByRole('button', { name: 'Close' }).click();
  await expect(dialog()).toHaveCount(0);
};

test('a drawing of endless shapes is shown as its text', async () => {
  await lookAt('many shapes.svg');
  await expect(dialog()).toContainText('takes too long to draw');
  await close();
});

test('an entangled text is given up, a deep one is not laid out', async () => {
  for (const name of ['entangled.md', 'deep.md']) {
    await lookAt(name);
    await expect(dialog()).toContainText('takes too long to lay out');
    await close();
  }
});

test('a plain drawing and a plain text are shown', async () => {
  await lookAt('drawn.svg');
  const picture = dialog().getByRole('img', { name: 'drawn.svg' });
  await expect.poll(() => picture.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(2048);
  await close();
  await page.clock.install();
  await lookAt('written.md');
  const heading = dialog().getByRole('heading', { name: 'Landing places' });
  await expect(heading).toBeVisible();
  // and stays, when the time is over after which it would have been given up
  await page.clock.fastForward(60_000);
  await expect(heading).toBeVisible();
  await expect(dialog()).not.toContainText('takes too long');
  await expect(page).not.toHaveTitle('taken');
  await close();
});

test('a name that is a formula is none in a spreadsheet', async () => {
  const name = '=1+2.txt';
  writeFileSync(join(app.place, 'Hostile', name), 'three');
  await page.getByRole('row', { name }).waitFor();
  const { placeId, originalId } = await app.call('POST', '/originals/locate', {
    path: join(app.place, 'Hostile', name),
  });
  await app.call('POST', '/openings', { placeId, originalId, route: 'originals' });
  await page.goto(`${app.address}/usage`);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export as CSV' }).click();
  const text = readFileSync(await (await download).path(), 'utf8');
  expect(text).toContain(`'${name}`);
  expect(text).not.toMatch(/(^|,|")=1\+2/m);
});
