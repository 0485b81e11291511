/**
 * Making a shortcut from wherever one begins, in as many steps as the guide's table says; choosing instead of typing.
 */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { App } from './app';

let app: App;
let page: Page;
test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  app = await App.start();
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  page = await app.enter(context);
});
test.afterAll(() => app.end());

const dialog = () => page.getByRole('dialog');
const notice = () => page.locator('.MuiSnackbar-root');
const row = (name: string) => page.getByRole('row').filter({ has: page.getByText(name, { exact: true }) });
const names = async () => (await app.get('/shortcuts')).map((s) => s.name);

test('from a row: press it, N', async () => {
  await page.goto(`${app.address}/originals`);
  await row('Boat').dblclick();
  await row('Safety').dblclick();
  await row('flares.csv').click();
  await page.keyboard.press('n');
  await expect(notice()).toContainText('Added “flares”');
});

test('from the clipboard: Ctrl+V, Enter; several lines make several', async () => {
  await page.goto(`${app.address}/catalogue`);
  await page.getByRole('row').nth(1).waitFor();
  await page.evaluate(() => navigator.clipboard.writeText('https://tides.example/table'));
  await page.keyboard.press('Control+v');
  await expect(dialog()).toContainText('web address');
  await page.keyboard.press('Enter');
  await expect(notice()).toContainText('Added “tides.example table”');
  await expect(dialog()).toHaveCount(0);

  const [first, second] = ['oars.csv', 'ropes.csv'].map((name) => join(app.place, 'Boat', name));
  for (const path of [first!, second!]) writeFileSync(path, 'count\n2\n');
  const lines = [first!, second!, join(app.place, 'nowhere.csv')];
  await page.evaluate((text) => navigator.clipboard.writeText(text), lines.join('\n'));
  await page.keyboard.press('Control+v');
  await expect(dialog().getByRole('heading')).toHaveText('Add 3 shortcuts');
  await page.keyboard.press('Tab');
  await dialog().getByRole('button', { name: 'Add 3 shortcuts' }).click();
  await expect(notice()).toContainText('Left out');
  await expect(dialog()).toHaveCount(0);
  const before = await names();
  await page.keyboard.press('Control+z');
  await expect(notice()).toContainText('Undone');
  expect((await names()).length).toBeLessThan(before.length);
});

test('from a program’s name: N, its beginning, choose it, Enter', async () => {
  const program = (await app.get('/programs')).find((p) => p.shortcut === null)!;
  await page.goto(`${app.address}/catalogue`);
  await page.getByRole('row').nth(1).waitFor();
  await page.keyboard.press('n');
  await dialog().getByLabel('Points to').waitFor();
  await page.keyboard.type(program.name.slice(0, 3).toLowerCase());
  await page.getByRole('option').filter({ hasText: program.name }).first().click();
  await expect(dialog()).toContainText('program');
  await page.keyboard.press('Enter');
  await expect(notice()).toContainText(`Added “${program.name}”`);
});

test('by browsing: the keyboard alone goes down, up, and takes a file', async () => {
  await page.goto(`${app.address}/catalogue`);
  await page.getByRole('row').nth(1).waitFor();
  await page.keyboard.press('n');
  await dialog().getByRole('button', { name: 'Browse…' }).click();
  const chooser = page.getByRole('dialog', { name: 'Choose what it points to' });
  const list = chooser.getByRole('listbox');
  await expect(list).toBeFocused();
  await list.getByRole('option', { name: /Marrowick/ }).waitFor();
  await page.keyboard.press('Home');
  while (!(await list.getByRole('option', { selected: true }).textContent())!.startsWith('Marrowick'))
    await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(list.getByRole('option', { name: 'Boat', exact: true })).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(list.getByRole('option', { name: /Marrowick/ })).toBeVisible();
  await chooser.getByLabel('Path').fill(join(app.place, 'Boat/Safety'));
  await chooser.getByRole('button', { name: 'Choose', exact: true }).click();
  await expect(dialog()).toContainText('folder');
  await page.keyboard.press('Escape');
  await expect(dialog()).toHaveCount(0);
});

test('originals are shown as tiles, side by side and beside a preview; the choice is remembered', async () => {
  await page.goto(`${app.address}/originals`);
  await row('Boat').waitFor();
  const shape = page.getByRole('button', { name: /^Shown as/ });
  const choose = async (name: string) => {
    await shape.click();
    await page.getByRole('menuitem', { name, exact: true }).click();
    await expect(shape).toHaveText(name);
  };
  await choose('Large tiles');
  await expect(page.getByRole('gridcell', { name: /^Boat/ })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('gridcell', { name: /^Boat/ })).toBeVisible();
  await choose('Folders side by side');
  await row('Boat').click();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('grid', { name: /\/Boat$/ })).toBeVisible();
  await expect(page.getByRole('grid', { name: 'In Marrowick' }).getByRole('row', { name: /Boat/ })).toHaveAttribute(
    'aria-selected',
    'true',
  );
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('grid', { name: 'In Boat' })).toBeVisible();
  await page.getByRole('grid', { name: 'In Boat' }).getByText('Safety', { exact: true }).click();
  await expect(page.getByRole('grid', { name: 'In Safety' })).toBeVisible();
  await page.getByRole('grid', { name: 'In Marrowick' }).getByText('Records', { exact: true }).click();
  await expect(page.getByRole('grid', { name: 'In Records' })).toBeVisible();
  await choose('With preview');
  await row('Boat').click();
  await expect(page.getByRole('region', { name: 'Preview' })).toBeVisible();
  await choose('Table');
});
