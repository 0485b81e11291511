/**
 * What a person chooses for their catalogue: how it is shown, pictures, programs, several pins; by pointer and by
 * keyboard.
 */
import { existsSync, readFileSync } from 'node:fs';
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

const rows = () => page.getByRole('row').and(page.locator('[data-index]'));
const row = (name: string) => rows().filter({ has: page.getByText(name, { exact: true }) });
const card = () => page.getByRole('complementary', { name: 'Card' });
const dialog = () => page.getByRole('dialog');
const notice = () => page.locator('.MuiSnackbar-root');
const undo = () => page.keyboard.press('Control+Z');
const catalogue = async (search = '') => {
  await page.goto(`${app.address}/catalogue${search}`);
  await page.getByRole('grid', { name: 'Shortcuts' }).waitFor();
};

test('narrows, keeps it as a quick filter with a key, and comes back to it by that key', async () => {
  await catalogue();
  await page.locator('.view-head').getByRole('button', { name: 'Kind' }).click();
  await page.getByRole('menuitem', { name: 'PDF' }).click();
  await page.getByRole('button', { name: 'Keep as quick filter…' }).click();
  await dialog().getByLabel('Name').fill('Papers');
  await page.keyboard.press('Enter');
  const chip = page.getByRole('button', { name: /^Papers/ });
  await expect(chip).toHaveAttribute('aria-pressed', 'true');
  await chip.focus();
  await page.keyboard.press('Shift+F10');
  await page.getByRole('menuitem', { name: 'Own key…' }).click();
  await page.keyboard.press('y');
  await dialog().getByRole('button', { name: 'Save' }).click();
  await expect(chip).toContainText('Y');
  // the page knows the key as soon as it knows the quick filters
  const known = page.waitForResponse((r) => r.url().endsWith('/api/quick-filters'));
  await page.goto(`${app.address}/reach`);
  await (await known).finished();
  await rows().first().waitFor();
  await page.keyboard.press('y');
  await expect(page).toHaveURL(/\/catalogue\?kind=pdf$/);
  await expect(rows()).toHaveCount(3);
  await page.keyboard.press('?');
  await expect(dialog()).toContainText('Papers');
  await page.keyboard.press('Escape');
});

test('chooses columns, draws one wider, and finds both again after a reload', async () => {
  await catalogue();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Size' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Folder of the original' }).click();
  await page.keyboard.press('Escape');
  // the menu takes the pointer until it is gone
  await expect(page.getByRole('menu')).toHaveCount(0);
  const head = page.getByRole('columnheader', { name: 'Kind' });
  const before = (await head.boundingBox())!.width;
  const edge = page.getByRole('separator', { name: 'Width of Kind' });
  const box = (await edge.boundingBox())!;
  await page.mouse.move(box.x + 4, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 54, box.y + 10, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => Math.round((await head.boundingBox())!.width - before)).toBe(50);
  await page.reload();
  await expect(page.getByRole('columnheader', { name: 'Size' })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Folder of the original' })).toHaveCount(0);
  await expect.poll(async () => Math.round((await head.boundingBox())!.width - before)).toBe(50);
  // the keyboard's way back
  await edge.focus();
  await page.keyboard.press('Shift+Home');
  await expect.poll(async () => Math.round((await head.boundingBox())!.width - before)).toBe(0);
});

test('shows tiles; a rectangle is drawn over them; arrows go in both directions', async () => {
  await catalogue();
  await page.getByRole('button', { name: /^Shown as/ }).click();
  await page.getByRole('menuitemradio', { name: 'Small tiles' }).click();
  const cells = page.getByRole('gridcell').and(page.locator('[data-index]'));
  await cells.first().click();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('.tile-cell:focus')).toHaveAttribute('data-index', '5');
  // from the first to the second of the third row: two columns, three rows
  const corner = async (i: number) => {
    const b = (await page.locator(`[data-index="${i}"]`).boundingBox())!;
    return [b.x + 2, b.y + 2] as const;
  };
  await page.mouse.move(...(await corner(0)));
  await page.mouse.down();
  await page.mouse.move(...(await corner(4)), { steps: 4 });
  await page.mouse.move(...(await corner(9)), { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('toolbar', { name: 'With all chosen' })).toContainText('6 chosen');
  const chosen = await page
    .locator('.tile-cell.selected')
    .evaluateAll((all) => all.map((c) => Number((c as HTMLElement).dataset['index'])));
  expect(chosen.sort((a, b) => a - b)).toEqual([0, 1, 4, 5, 8, 9]);
  // a program's own icon, from the icon theme, is really there
  const icon = page.getByRole('gridcell', { name: /^Chartroom/ }).locator('img');
  await expect.poll(() => icon.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBe(128);
  await page.getByRole('button', { name: /^Shown as/ }).click();
  await page.getByRole('menuitemradio', { name: 'Table' }).click();
});

test('pins several and gives several a program, each in one act and one undo', async () => {
  await app.call('PATCH', '/settings', { pinLimit: 20 });
  await catalogue();
  await row('Boat manual').click();
  await row('Engine hours').click({ modifiers: ['Control'] });
  const bar = page.getByRole('toolbar', { name: 'With all chosen' });
  await bar.getByRole('button', { name: 'Pin' }).click();
  await expect(notice()).toContainText('Pinned 2 shortcuts');
  await undo();
  await expect(notice()).toContainText('Undone');
  await bar.getByRole('button', { name: 'Program…' }).click();
  await dialog().getByRole('option').nth(2).waitFor();
  await dialog().getByRole('combobox', { name: 'Program' }).fill('sheet');
  await page.keyboard.press('Enter');
  await expect(notice()).toContainText('2 shortcuts open with Sheet Anchor from now on');
  await row('Engine hours').dblclick();
  await expect(dialog()).toContainText('Would have started: sheetanchor');
  await page.keyboard.press('Escape');
});

test('tells the system which program opens a kind, by keyboard, and takes it back', async () => {
  const list = join(app.files, 'home/.config/mimeapps.list');
  const before = readFileSync(list, 'utf8');
  await catalogue();
  await row('Flares').click();
  await page.keyboard.press('o');
  await dialog().getByRole('combobox', { name: 'For' }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await dialog().getByRole('combobox', { name: 'Program' }).fill('tideplotter');
  await page.keyboard.press('Enter');
  await expect(notice()).toContainText('Told the system: text/csv open with Tideplotter');
  expect(readFileSync(list, 'utf8')).toContain('text/csv=tideplotter.desktop;sheetanchor.desktop;');
  await undo();
  await expect(notice()).toContainText('Undone');
  expect(readFileSync(list, 'utf8').replace(';tideplotter.desktop', '')).toBe(before);
});

test('gives a picture from the icon set by keyboard, one from a file by pointer, and keeps it through the bin', async () => {
  await catalogue();
  await row('Flares').click();
  await page.keyboard.press('b');
  await dialog().getByRole('combobox', { name: 'Icon' }).pressSequentially('fire ext');
  await expect(page.getByRole('option', { name: 'fire extinguisher' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(card().locator('.set-icon')).toBeVisible();
  await page.keyboard.press('b');
  await dialog().getByLabel('Picture file').setInputFiles(join(app.place, 'Survey/Maps/Chart of the headland.png'));
  await expect(notice()).toContainText('Gave “Flares” a picture');
  const shown = card().locator('.card-head img');
  await expect.poll(() => shown.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBeGreaterThan(10);
  await page.keyboard.press('b');
  await dialog().getByLabel('Picture file').setInputFiles(join(app.place, 'Records/Species codes.csv'));
  await expect(dialog().getByRole('alert')).toContainText('no picture');
  await page.keyboard.press('Escape');
  await row('Flares').click();
  await page.keyboard.press('Delete');
  await undo();
  await row('Flares').click();
  await expect.poll(() => shown.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBeGreaterThan(10);
});

test('looks, walks on by the arrows, and comes closer to a picture', async () => {
  await catalogue('?kind=picture');
  await row('Chart of the headland').click();
  await page.keyboard.press('v');
  const picture = dialog().getByRole('img', { name: 'Chart of the headland' });
  await picture.waitFor();
  await expect(dialog()).toContainText('1 of 2');
  const height = async () => (await picture.boundingBox())!.height;
  const fitted = await height();
  await page.keyboard.press('+');
  await expect.poll(async () => (await height()) / fitted).toBeCloseTo(1.25, 1);
  await page.keyboard.press('0');
  await expect.poll(async () => (await height()) / fitted).toBeCloseTo(1, 1);
  await page.keyboard.press('ArrowRight');
  await expect(dialog().getByRole('img', { name: 'Net positions' })).toBeVisible();
  await dialog()
    .getByRole('button', { name: /The one before/ })
    .click();
  await expect(picture).toBeVisible();
  await page.keyboard.press('Escape');
});

test('Originals opens where one chose, from a folder’s menu and back in Settings', async () => {
  await page.goto(`${app.address}/originals`);
  await row('Boat').click();
  await page.keyboard.press('Shift+F10');
  await page.getByRole('menuitem', { name: 'Start here' }).click();
  await expect(notice()).toContainText('Originals opens in “Boat”');
  await page.goto(`${app.address}/originals`);
  await expect(page.getByRole('list', { name: 'Trail' })).toContainText('Boat');
  await page.goto(`${app.address}/settings`);
  await page.getByRole('button', { name: 'The first place' }).click();
  await expect(notice()).toContainText('first place');
  expect(existsSync(join(app.place, 'Boat'))).toBe(true);
});

test('a suite’s programs become a collection by their category; a folder’s files do by a choice', async () => {
  await page.goto(`${app.address}/originals/programs`);
  await page.getByRole('button', { name: 'Category' }).click();
  await page.getByRole('menuitem', { name: 'Geography' }).click();
  await expect(rows()).toHaveCount(2);
  await page.getByRole('button', { name: 'Make a collection of these 2…' }).click();
  await expect(dialog().getByLabel('Name')).toHaveValue('Geography');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/collections\//);
  await expect(rows().locator('.name')).toHaveText(['Chartroom', 'Tideplotter']);
  await page.goto(`${app.address}/originals`);
  await row('Boat').click();
  await page.keyboard.press('Shift+F10');
  await page.getByRole('menuitem', { name: 'Make a collection of what is in it…' }).click();
  await dialog().getByRole('combobox', { name: 'Shortcuts to' }).click();
  await page.getByRole('option', { name: 'the folders in it' }).click();
  await dialog().getByRole('button', { name: 'Make it' }).click();
  await expect(page).toHaveURL(/\/collections\//);
  await expect(rows().locator('.name')).toHaveText(['Engine', 'Boat papers', 'Safety']);
});
