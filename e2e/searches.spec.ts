/** Saved searches as one makes and keeps them: by rows, as text, pinned, changing with the disk. */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { App } from './app';

let app: App;
let page: Page;
test.describe.configure({ mode: process.env['LOOSE'] ? 'default' : 'serial' });
test.beforeAll(async ({ browser }) => {
  app = await App.start();
  // room on the strip
  const pins = await app.get('/pins');
  for (const pin of pins.filter((p) => p.slot > 3)) await app.call('DELETE', `/pins/${pin.id}`);
  page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
});
test.afterAll(() => app.end());

const rows = () => page.getByRole('row').and(page.locator('[data-index]'));
const names = () => rows().locator('.name');
const notice = () => page.locator('.MuiSnackbar-root');
const dialog = () => page.getByRole('dialog');
const strip = () => page.getByRole('navigation', { name: 'Pin strip' });
const list = () => page.getByRole('navigation', { name: 'Saved searches' });
const card = () => page.getByRole('complementary', { name: 'Card' });
const text = () => page.getByLabel('What is asked, as text');

test('is built by rows, edited as text, saved, pinned, and changes as a file is written on disk', async () => {
  await page.goto(`${app.address}/searches/new`);
  await page.getByRole('button', { name: 'Add a row' }).click();
  await page.getByRole('button', { name: /^Field: / }).click();
  await page.getByRole('menuitem', { name: 'Lies in' }).click();
  await page.getByRole('textbox', { name: 'Lies in' }).fill('Boat/Engine');
  await expect(text()).toHaveValue('in:Boat/Engine');
  await expect(page.locator('.builder-count')).toContainText(/\d/);
  await page.getByRole('button', { name: 'Add a row' }).click();
  await page.getByRole('textbox', { name: 'Name holds' }).fill('zzz');
  // the row that empties the answer says so
  await expect(page.getByRole('heading', { name: 'Nothing fits these conditions' })).toBeVisible();
  await expect(page.locator('.builder-row').nth(1).locator('.alone')).toContainText(/−\d/);
  await page.getByRole('textbox', { name: 'Name holds' }).fill('hours');
  await expect(names()).toHaveText(['engine-hours.csv']);
  await text().fill('in:Boat/Engine (hours OR *.log)');
  await expect(page.getByRole('group', { name: 'any of these' })).toBeVisible();
  await page.getByRole('button', { name: 'Save search…' }).click();
  await dialog().getByLabel('Name').fill('Engine papers');
  await dialog().getByRole('button', { name: 'boat' }).click();
  await dialog().getByLabel('Place on the strip').click();
  await page.getByRole('option', { name: '2, before “Tide table”' }).click();
  await dialog().getByRole('button', { name: 'Save' }).click();
  await expect(notice()).toContainText('Saved the search “Engine papers”');
  await expect(strip().getByRole('button').nth(1)).toContainText('Engine papers');
  const link = list().getByRole('link', { name: /Engine papers/ });
  await expect(link).toContainText('1');
  writeFileSync(join(app.place, 'Boat/Engine/starter.log'), 'turned over');
  await expect(names()).toHaveText(['engine-hours.csv', 'starter.log']);
  await expect(link).toContainText('+1');
  await expect(strip().getByRole('button', { name: /Engine papers/ })).toContainText('+1');
  await expect(card().getByRole('heading', { name: /Came/ })).toBeVisible();
  await card().getByRole('button', { name: 'Mark as seen' }).click();
  await expect(link).not.toContainText('+1');
  rmSync(join(app.place, 'Boat/Engine/starter.log'));
  await expect(card().getByRole('heading', { name: /Went/ })).toBeVisible();
});

test('opens downward from the strip, and its answers open from there', async () => {
  await strip()
    .getByRole('button', { name: /Engine papers/ })
    .click();
  await expect(page.getByRole('option', { name: /engine-hours/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(dialog()).toContainText('engine-hours.csv');
  await page.keyboard.press('Escape');
});

test('says where a text goes wrong, and takes what was meant', async () => {
  await page.goto(`${app.address}/searches/new`);
  await text().fill('tide modfied:2026');
  await expect(page.getByRole('status').filter({ hasText: 'modfied' })).toBeVisible();
  await page.getByRole('button', { name: 'Take “modified”' }).click();
  await expect(text()).toHaveValue('tide modified:2026');
  await expect(rows().first()).toBeVisible();
});

test('is shown as tiles, by kind and in columns; what is changed is saved or put back', async () => {
  await page.goto(`${app.address}/searches`);
  await list()
    .getByRole('link', { name: /Logs of the last four weeks/ })
    .click();
  await expect(rows().first()).toBeVisible();
  const shape = async (to: string) => {
    await page.getByRole('button', { name: /^Shown as/ }).click();
    await page.getByRole('menuitem', { name: to, exact: true }).click();
  };
  await shape('By kind');
  await expect(rows().first()).toContainText('Table');
  await shape('By folder');
  await expect(page.getByRole('group', { name: /a column for each folder/ })).toContainText('Logs');
  await shape('Small tiles');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(notice()).toContainText('Changed');
  await expect(page.getByRole('button', { name: 'Discard changes' })).toHaveCount(0);
  await text().fill('*.csv in:Logs');
  await page.getByRole('button', { name: 'Discard changes' }).click();
  await expect(text()).toHaveValue('name:*.csv in:Logs modified:28d');
});

test('finds what files hold, with the words marked, also in a file written a moment ago', async () => {
  await page.goto(`${app.address}/searches/new`);
  await text().fill('text:"capstan pawl"');
  await expect(page.getByRole('heading', { name: 'Nothing fits these conditions' })).toBeVisible();
  mkdirSync(join(app.place, 'Boat/Deck'));
  writeFileSync(join(app.place, 'Boat/Deck/deck notes.md'), 'Oil the capstan pawl before every launch.\n');
  await expect(names()).toHaveText(['deck notes.md']);
  await expect(page.locator('.snippet mark')).toHaveText(['capstan', 'pawl']);
});

test('is muted, renamed, tagged, put into a collection, removed and put back', async () => {
  await page.goto(`${app.address}/searches`);
  const link = (name: RegExp) => list().getByRole('link', { name });
  await link(/Changed this week/).click();
  await card().getByRole('button', { name: 'Do not count what is new' }).click();
  await expect(card().getByRole('button', { name: 'Show how many are new' })).toBeVisible();
  await link(/Changed this week/).focus();
  await page.keyboard.press('F2');
  await dialog().getByLabel('Name').fill('New this week');
  await page.keyboard.press('Enter');
  await expect(link(/New this week/)).toBeVisible();
  await link(/New this week/).focus();
  await page.keyboard.press('a');
  await dialog().getByRole('combobox').fill('Coastal fund');
  await page.keyboard.press('Enter');
  await expect(notice()).toContainText('Added “New this week” to “Coastal fund”');
  await page.keyboard.press('Escape');
  await link(/New this week/).focus();
  await page.keyboard.press('Delete');
  await expect(notice()).toContainText('What it found is untouched');
  await expect(link(/New this week/)).toHaveCount(0);
  await page.goto(`${app.address}/bin`);
  await rows().filter({ hasText: 'New this week' }).getByRole('button', { name: 'Put back' }).click();
  await page.goto(`${app.address}/collections`);
  await page.locator('.tree-label').filter({ hasText: 'Coastal fund' }).click();
  await rows().filter({ hasText: 'New this week' }).dblclick();
  await expect(page).toHaveURL(/\/searches\//);
});

test('the find line narrows by chips, and finds saved searches', async () => {
  await page.goto(`${app.address}/reach`);
  await rows().first().waitFor();
  await page.keyboard.press('/');
  await page.keyboard.type('tide pdf');
  const chips = page.getByRole('group', { name: 'Narrow by' });
  await expect(chips).toContainText('Only PDF');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('combobox', { name: /Find anything/ })).toHaveValue('tide ');
  await expect(chips.getByRole('button', { name: /No longer/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.type('engine papers');
  await expect(page.getByRole('option', { name: /Engine papers/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Engine papers' }).first()).toBeVisible();
});
