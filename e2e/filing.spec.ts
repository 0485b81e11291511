/** Filing by drag, by key and from outside: the real files move, and come back. */
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { App } from './app';

let app: App;
let page: Page;
test.describe.configure({ mode: process.env['LOOSE'] ? 'default' : 'serial' });
test.beforeAll(async ({ browser }) => {
  app = await App.start();
  page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
});
test.afterAll(() => app.end());

const strip = () => page.getByRole('navigation', { name: 'Pin strip' });
const rows = () => page.getByRole('row').and(page.locator('[data-index]'));
const row = (name: string) => rows().filter({ has: page.getByText(name, { exact: true }) });
const dialog = () => page.getByRole('dialog');
const notice = () => page.locator('.MuiSnackbar-root');
const at = (path: string) => join(app.place, path);
const walk = async (...folders: string[]) => {
  await page.goto(`${app.address}/originals`);
  for (const name of folders) {
    await row(name).dblclick();
    await page
      .getByRole('list', { name: 'Trail' })
      .locator('[aria-current]')
      .getByText(name, { exact: true })
      .waitFor();
  }
};

test('drags a file through a collection’s menu into a real folder; the label says move; undo brings it back', async () => {
  writeFileSync(at('Office/slipway again.png'), readFileSync(at('Survey/Maps/Chart of the headland.png')));
  await walk('Office');
  await row('slipway again.png').locator('.drag-handle').hover();
  const pin = (await strip()
    .getByRole('button', { name: /Filing targets/ })
    .boundingBox())!;
  await page.mouse.down();
  await page.mouse.move(pin.x, pin.y + 200, { steps: 4 });
  await page.mouse.move(pin.x + pin.width / 2, pin.y + 20, { steps: 4 });
  const menu = page.getByRole('dialog', { name: 'Filing targets' });
  const line = menu.getByRole('option', { name: /Boat papers/ });
  await line.waitFor();
  const target = (await line.boundingBox())!;
  await page.mouse.move(target.x + 120, target.y + target.height / 2, { steps: 5 });
  await expect(page.locator('.drag-label')).toContainText('Move “slipway again.png” into “Boat papers”');
  await page.mouse.up();
  await expect(notice()).toContainText('Moved one thing into “Boat papers”');
  expect([existsSync(at('Office/slipway again.png')), existsSync(at('Boat/Papers/slipway again.png'))]).toEqual([
    false,
    true,
  ]);
  await page.keyboard.press('Escape');
  await page.locator('body').press('Control+Z');
  await expect.poll(() => existsSync(at('Office/slipway again.png'))).toBe(true);
  expect(existsSync(at('Boat/Papers/slipway again.png'))).toBe(false);
});

test('files by key into a new folder, asks about a name that is taken, keeps both', async () => {
  await walk('Office');
  await row('slipway again.png').click();
  await page.getByRole('row', { selected: true }).press('m');
  await dialog().getByRole('radio', { name: 'Copy them' }).check();
  await dialog().getByLabel('In a new folder there').fill('From the office');
  await dialog()
    .getByRole('option', { name: /Boat papers/ })
    .click();
  await expect(notice()).toContainText('Copied one thing into “From the office”');
  await page.getByRole('row', { selected: true }).press('m');
  await dialog().getByRole('radio', { name: 'Copy them' }).check();
  await dialog().getByLabel('In a new folder there').fill('From the office');
  await dialog()
    .getByRole('option', { name: /Boat papers/ })
    .click();
  await expect(dialog()).toContainText('A name is taken in “From the office”');
  await dialog().getByRole('button', { name: 'Keep both' }).click();
  await expect
    .poll(() => readdirSync(at('Boat/Papers/From the office')).sort())
    .toEqual(['slipway again (2).png', 'slipway again.png']);
});

test('takes files dropped from outside the browser into the folder that is shown', async () => {
  await walk('Office', 'Rota');
  await page.locator('.outside-drop').evaluate((node) => {
    const data = new DataTransfer();
    data.items.add(new File(['day,name\n'], 'from outside.csv'));
    node.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
  });
  await expect(row('from outside.csv')).toBeVisible();
  expect(readFileSync(at('Office/Rota/from outside.csv'), 'utf8')).toBe('day,name\n');
  await page.locator('body').press('Control+Z');
  await expect(row('from outside.csv')).toHaveCount(0);
});

test('a file dropped on a program opens with that program', async () => {
  await app.call('POST', '/shortcuts', { programId: 'chartroom.desktop', pin: true, slot: 1 });
  await walk('Survey', 'Maps');
  const chartroom = strip().getByRole('button', { name: /Chartroom/ });
  await chartroom.waitFor();
  await row('Chart of the headland.png').locator('.drag-handle').hover();
  await page.mouse.down();
  await page.mouse.move(600, 300, { steps: 3 });
  const box = (await chartroom.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 20, { steps: 5 });
  await expect(page.locator('.drag-label')).toContainText('Open “Chart of the headland.png” with Chartroom');
  await page.mouse.up();
  await expect(dialog()).toContainText('would have started');
  await expect(dialog()).toContainText('Chart of the headland.png');
});
