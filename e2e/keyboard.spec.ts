/** Each capability of the catalogue once by keyboard alone: no pointer is touched in this file. */
import { existsSync, readdirSync } from 'node:fs';
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
const dialog = () => page.getByRole('dialog');
const notice = () => page.locator('.MuiSnackbar-root');
const names = () => rows().locator('.name').allTextContents();
const press = async (...keys: string[]) => {
  for (const key of keys) await page.keyboard.press(key);
};
/** Tab, and arrows within what is one stop, until something has the focus: as one does who does not know how many. */
async function tabTo(what: ReturnType<Page['locator']>, most = 60): Promise<void> {
  await what.first().waitFor();
  const where = () =>
    what.first().evaluate((node) => {
      if (node === document.activeElement) return 'there';
      const group = document.activeElement?.closest('[data-roving]');
      return group && group === node.closest('[data-roving]') ? 'beside' : 'elsewhere';
    });
  for (let i = 0; i < most; i++) {
    const now = await where();
    if (now === 'there') return;
    if (now === 'beside') {
      await press('Home');
      for (let j = 0; j < most && (await where()) === 'beside'; j++) await press('ArrowRight');
      if ((await where()) === 'there') return;
    }
    await press('Tab');
  }
  throw new Error('Tab does not come to it');
}
/** Into a view by the skip link's way: its name in the find line. */
async function go(view: string): Promise<void> {
  await press('Escape', '/');
  await page.keyboard.type(view);
  await press('Enter');
  await page.getByRole('main').waitFor();
}
/** The row with a name has the focus and is selected. */
async function toRow(name: string): Promise<void> {
  await tabTo(page.locator('[role=row][tabindex="0"]'));
  await press('Home');
  // which row has the focus, by its number; the focus follows a key in the next frame
  const at = () => page.evaluate(() => (document.activeElement as HTMLElement).dataset['index']);
  for (let i = 0; i < 80; i++) {
    await expect.poll(at).toBe(String(i));
    if ((await page.locator('[role=row]:focus [role=gridcell]').first().textContent())?.includes(name)) return;
    await press('ArrowDown');
  }
  throw new Error(`no row “${name}”`);
}
const chosenBar = () => page.getByRole('toolbar', { name: 'With all chosen' });

const VIEWS = ['reach', 'catalogue', 'originals', 'originals/programs', 'collections', 'searches', 'boards', 'journal'];
for (const view of VIEWS)
  test(`Tab reaches the list of ${view} in ten stops at most`, async () => {
    const found =
      view === 'searches'
        ? `/${(await app.get('/searches')).find((s) => s.count > 0 && s.showAs === 'table')!.id}`
        : '';
    await page.goto(`${app.address}/${view}${found}`);
    const list = page.getByRole('main').locator('[role=row][data-index], [role=treeitem], [role=option]');
    await list.first().waitFor();
    const stops: string[] = [];
    const isInList = () =>
      page.evaluate(() =>
        document.activeElement!.matches('main :is([role=row][data-index], [role=treeitem], [role=option])'),
      );
    while (!(await isInList())) {
      await press('Tab');
      stops.push(await page.evaluate(() => document.activeElement!.textContent!.slice(0, 20)));
      expect(stops.length, stops.join(' · ')).toBeLessThanOrEqual(10);
    }
  });

test('arrows go on within a stop, and Tab comes back to where they were', async () => {
  await page.goto(`${app.address}/catalogue`);
  await rows().first().waitFor();
  await tabTo(page.getByRole('button', { name: 'State' }));
  await press('ArrowRight');
  await expect(page.getByRole('button', { name: 'Add shortcut' })).toBeFocused();
  await press('Tab', 'Shift+Tab');
  await expect(page.getByRole('button', { name: 'Add shortcut' })).toBeFocused();
  await press('End', 'ArrowRight');
  await expect(page.getByRole('button', { name: /^Shown as/ })).toBeFocused();
});

test('a description shows where the focus comes to, until Escape', async () => {
  await page.goto(`${app.address}/catalogue`);
  await toRow('Tide table');
  await expect(page.getByRole('tooltip')).toContainText('This month’s tides');
  await press('Escape');
  await expect(page.getByRole('tooltip')).toHaveCount(0);
});

test('several shortcuts into a new collection, with one undo', async () => {
  await page.goto(`${app.address}/catalogue`);
  await toRow('Boat manual');
  await press('Shift+ArrowDown', 'Shift+ArrowDown');
  await expect(chosenBar()).toContainText('3 chosen');
  await tabTo(chosenBar().getByRole('button', { name: 'Collect…' }));
  await press('Enter');
  await dialog().getByRole('combobox').waitFor();
  await page.keyboard.type('Wheelhouse');
  await press('Enter');
  await expect(notice()).toContainText('Made the collection “Wheelhouse”');
  await press('Escape', 'Control+Z');
  await expect(notice()).toContainText('Undone');
});

test('tags, a description, other names and what goes with it', async () => {
  await page.goto(`${app.address}/catalogue`);
  await toRow('Flares');
  await press('t');
  await dialog().getByRole('combobox').waitFor();
  await page.keyboard.type('safety');
  await press('Enter');
  await expect(notice()).toContainText('safety');
  await press('Escape');
  await toRow('Flares');
  await press('d');
  await expect(dialog().getByLabel('Description')).toBeFocused();
  await page.keyboard.type('Six hand flares; two smoke.');
  await tabTo(dialog().getByRole('button', { name: 'Save' }));
  await press('Enter');
  await expect(page.getByRole('complementary', { name: 'Card' })).toContainText('Six hand flares');
  await toRow('Flares');
  await press('g');
  await dialog().getByRole('combobox').waitFor();
  await page.keyboard.type('Boat papers');
  await press('Enter');
  await press('Enter');
  await expect(page.getByRole('complementary', { name: 'Card' })).toContainText('Boat papers');
});

test('renames several by a pattern', async () => {
  await page.goto(`${app.address}/catalogue?tag=&kind=folder`);
  await tabTo(page.locator('[role=row][tabindex="0"]'));
  await press('Home', 'Shift+ArrowDown');
  await tabTo(chosenBar().getByRole('button', { name: 'Rename…' }));
  await press('Enter');
  await dialog().getByRole('textbox').first().waitFor();
  await press('Control+A');
  await page.keyboard.type('{name}, kept');
  await tabTo(dialog().getByRole('button', { name: /^Rename/ }));
  await press('Enter');
  await expect(notice()).toContainText('Renamed 2 shortcuts');
  await press('Control+Z');
  await expect(notice()).toContainText('Undone');
});

test('files into a folder, and takes it back', async () => {
  await page.goto(`${app.address}/originals`);
  await toRow('Boat');
  await press('Enter');
  await toRow('Safety');
  await press('Enter');
  await expect(page.getByRole('list', { name: 'Trail' })).toContainText('Safety');
  const at = join(app.place, 'Boat/Safety');
  const before = readdirSync(at);
  await tabTo(page.locator('[role=row][tabindex="0"]'));
  await press('Home', 'm');
  await dialog().getByRole('combobox').first().waitFor();
  await page.keyboard.type('Boat papers');
  await dialog().getByRole('option').first().waitFor();
  await press('Enter');
  await expect(notice()).toContainText('Moved');
  expect(readdirSync(at).length).toBe(before.length - 1);
  await press('Control+Z');
  await expect(notice()).toContainText('Undone');
  expect(readdirSync(at)).toEqual(before);
});

test('gathers into the working set, orders it, keeps one first, takes one out, empties it', async () => {
  await page.goto(`${app.address}/reach`);
  await rows().first().waitFor();
  await go('Today');
  await expect(page).toHaveURL(/\/collections\//);
  await expect(rows()).toHaveCount(5);
  await tabTo(page.getByRole('button', { name: 'Add several…', exact: true }));
  await press('Enter');
  await dialog().getByRole('combobox').first().waitFor();
  await page.keyboard.type('flares');
  await expect(dialog().getByRole('option')).toContainText('look in the whole catalogue');
  await press('Enter');
  await expect(dialog().getByRole('option')).toContainText('Flares');
  await press('Enter');
  await tabTo(dialog().getByRole('button', { name: 'Add 1' }));
  await press('Enter');
  await expect(notice()).toContainText('Today');
  await expect(rows()).toHaveCount(6);
  await toRow('Flares');
  await press('Alt+ArrowUp');
  await expect.poll(async () => (await names()).indexOf('Flares')).toBe(4);
  await press('k');
  await expect.poll(async () => (await names())[0]).toBe('Flares');
  await press('x');
  await expect(rows()).toHaveCount(5);
  await tabTo(page.getByRole('button', { name: 'Empty', exact: true }));
  await press('Enter');
  await expect(page.getByText('Nothing is gathered for now')).toBeVisible();
  await press('Control+Z');
  await expect(rows()).toHaveCount(5);
});

test('a menu of the strip: opened by its key, narrowed, put back; a pin moved, put aside, hidden', async () => {
  await page.goto(`${app.address}/reach`);
  await rows().first().waitFor();
  await press('6');
  await page.getByRole('combobox', { name: /Filing targets/ }).waitFor();
  await page.keyboard.type('moth');
  await expect(page.getByRole('option')).toHaveCount(1);
  await press('Enter');
  await expect(page).toHaveURL(/\/originals\//);
  const strip = page.getByRole('navigation', { name: 'Pin strip' });
  await press('s');
  await expect(strip).toBeHidden();
  await press('s');
  await expect(strip).toBeVisible();
  await tabTo(strip.getByRole('button', { name: /Tide table/ }));
  await press('Alt+ArrowLeft');
  await expect(strip.getByRole('button').first()).toContainText('Tide table');
  await press('Control+Z');
  await expect(strip.getByRole('button').first()).toContainText('Ringing log');
});

test('removes, finds it in the bin, puts it back where it was', async () => {
  await page.goto(`${app.address}/catalogue`);
  await toRow('Engine hours');
  await press('Delete');
  await expect(notice()).toContainText('Its original is untouched');
  await go('Bin');
  await expect(page).toHaveURL(/\/bin$/);
  await toRow('Engine hours');
  await press('Enter');
  await expect(notice()).toContainText('Put back');
  await page.goto(`${app.address}/catalogue`);
  await toRow('Engine hours');
  expect(existsSync(join(app.place, 'Boat/Engine/engine-hours.csv'))).toBe(true);
});

test('makes a mirror of a folder and walks in it', async () => {
  await page.goto(`${app.address}/originals`);
  await toRow('Boat');
  await press('Shift+F10');
  // the menu has the focus when its first act has it
  await expect(page.getByRole('menuitem').first()).toBeFocused();
  const mirror = page.getByRole('menuitem', { name: 'Mirror this folder' });
  for (let i = 0; i < 20 && !(await mirror.evaluate((node) => node === document.activeElement)); i++)
    await press('ArrowUp');
  await expect(mirror).toBeFocused();
  await press('Enter');
  await expect(page).toHaveURL(/\/collections\//);
  await expect(page.getByRole('list', { name: 'Trail' })).toContainText('Boat');
  await page.getByRole('tree', { name: 'Collections' }).waitFor();
  await toRow('Engine');
  await press('Enter');
  await expect(page.getByRole('list', { name: 'Trail' })).toContainText('Engine');
});
