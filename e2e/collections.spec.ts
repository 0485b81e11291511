/**
 * Collections, working sets, mirrors, tags and menus as a person meets them: by pointer, and once by keyboard alone.
 */
import { renameSync, writeFileSync } from 'node:fs';
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
const pin = (name: string) => strip().getByRole('button', { name: new RegExp(name) });
const rows = () => page.getByRole('row').and(page.locator('[data-index]'));
const row = (name: string) => rows().filter({ has: page.getByText(name, { exact: true }) });
/** The label, not the whole branch below it. */
const tree = (name: string) =>
  page
    .locator('.tree-label')
    .filter({ has: page.getByText(name, { exact: true }) })
    .first();
const card = () => page.getByRole('complementary', { name: 'Card' });
const dialog = () => page.getByRole('dialog');
const notice = () => page.locator('.MuiSnackbar-root');
const names = () => rows().locator('.name').allTextContents();
const open = async (collection: string) => {
  await page.goto(`${app.address}/collections`);
  await tree(collection).click();
  await page
    .getByRole('grid', { name: `In ${collection}` })
    .locator('[data-index]')
    .first()
    .waitFor();
};
const undo = () => page.keyboard.press('Control+Z');

test('makes a collection from a selection; its members know it', async () => {
  await page.goto(`${app.address}/catalogue`);
  await row('Boat manual').click();
  await row('Boat papers').click({ modifiers: ['Control'] });
  await expect(page.getByRole('toolbar', { name: 'With all chosen' })).toContainText('2 chosen');
  await page.getByRole('button', { name: 'Collect…' }).click();
  await dialog().getByRole('combobox').fill('Harbour master');
  await page.keyboard.press('Enter');
  await expect(notice()).toContainText('Made the collection “Harbour master”');
  await open('Harbour master');
  expect(await names()).toEqual(['Boat manual', 'Boat papers']);
  await row('Boat manual').click();
  await expect(card().getByRole('link', { name: 'Harbour master' })).toBeVisible();
});

test('reorders by drag between rows and by Alt and the arrows; undo puts it back', async () => {
  await open('Ringing season');
  const before = await names();
  await row('Ring stock').click();
  await page.getByRole('row', { selected: true }).press('Alt+ArrowUp');
  await expect.poll(names).toEqual([before[0], before[2], before[1], ...before.slice(3)]);
  await undo();
  await expect.poll(names).toEqual(before);
  await row('Season plan').locator('.drag-handle').hover();
  const target = (await row('Net positions').locator('.member-name').boundingBox())!;
  await page.mouse.down();
  await page.mouse.move(target.x + 60, target.y + 60, { steps: 4 });
  await page.mouse.move(target.x + 40, target.y + target.height / 2, { steps: 4 });
  await expect(page.locator('.drag-label')).toContainText('Put “Season plan” before “Net positions”');
  await page.mouse.up();
  await expect.poll(async () => (await names()).slice(0, 3)).toEqual(['Ringing log', 'Season plan', 'Net positions']);
  await undo();
  await expect.poll(names).toEqual(before);
});

test('keeps one first in every order, and takes one out without touching it', async () => {
  await open('Ringing season');
  await row('Ring orders').click();
  await page.getByRole('row', { selected: true }).press('k');
  await expect.poll(async () => (await names())[0]).toBe('Ring orders');
  await page.getByRole('button', { name: /^Order:/ }).click();
  await page.getByRole('menuitem', { name: 'name', exact: true }).click();
  await expect
    .poll(async () => (await names()).slice(0, 3))
    .toEqual(['Ring orders', 'Logs, this year', 'Net positions']);
  await undo();
  await row('Ring orders').click();
  await page.getByRole('row', { selected: true }).press('x');
  await expect(row('Ring orders')).toHaveCount(0);
  await page.goto(`${app.address}/catalogue?kind=web`);
  await expect(row('Ring orders')).toBeVisible();
  await undo();
});

test('a collection on the strip opens downward: by its key, narrowed by typing, nested, by keyboard alone', async () => {
  await open('Boat');
  await row('Engine hours').click();
  await tree('Boat').click({ button: 'right' });
  await page.getByRole('menuitem', { name: /^Pin/ }).click();
  await expect(notice()).toContainText('Pinned “Boat”');
  await page.goto(`${app.address}/reach`);
  await rows().first().waitFor();
  const slot = (await app.get('/pins')).find((p) => p.name === 'Boat')!.key!;
  await page.keyboard.press(slot);
  const menu = page.getByRole('dialog', { name: 'Boat' });
  await expect(menu.getByRole('option')).toHaveCount(4);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowRight');
  await expect(menu.getByRole('option').first()).toContainText('Tide table');
  await expect(menu.locator('.pin-menu-trail')).toContainText('Boat › Slipway');
  await page.keyboard.press('Backspace');
  await expect(menu.getByRole('option').first()).toContainText('Engine hours');
  await page.keyboard.type('manu');
  await expect(menu.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(dialog()).toContainText('Boat manual');
  await page.keyboard.press('Escape');
  await expect(dialog()).toHaveCount(0);
  await undo();
});

test('a drag onto a collection says what it will do, acts after a rest, and opens it so that one can drop deeper', async () => {
  await page.goto(`${app.address}/catalogue`);
  await row('Code list').locator('.drag-handle').hover();
  const box = (await pin('Today').boundingBox())!;
  await page.mouse.down();
  await page.mouse.move(box.x + 300, box.y + 200, { steps: 4 });
  await page.mouse.move(box.x + box.width / 2, box.y + 20, { steps: 4 });
  await expect(page.locator('.drag-label')).toContainText('Add “Code list” to “Today”');
  await expect(page.getByRole('dialog', { name: 'Today' })).toBeVisible();
  await page.mouse.up();
  await expect(notice()).toContainText('Added “Code list” to “Today”');
  await page.keyboard.press('Escape');
  await undo();
  await expect(pin('Today')).toContainText('5');
});

test('gathers the morning’s things into the working set, empties it in one act, and brings last time’s back', async () => {
  await open('Today');
  await page.getByRole('button', { name: 'Add several…' }).first().click();
  await dialog().getByLabel('From').click();
  await page.getByRole('option', { name: 'the collection “Boat”' }).click();
  await dialog()
    .getByRole('option', { name: /Engine hours/ })
    .click();
  await dialog()
    .getByRole('option', { name: /Boat manual/ })
    .click();
  await dialog().getByRole('button', { name: 'Add 2' }).click();
  await expect.poll(async () => (await names()).length).toBe(7);
  await page.getByRole('button', { name: 'Empty' }).click();
  await expect(page.getByText('Nothing is gathered for now')).toBeVisible();
  await page.getByRole('button', { name: 'Bring last time’s 7 back' }).click();
  await expect.poll(async () => (await names()).length).toBe(7);
});

test('a mirror shows what its folder holds right now, to any depth', async () => {
  await page.goto(`${app.address}/collections`);
  await tree('Newsletter folder').click();
  await rows().first().waitFor();
  writeFileSync(join(app.place, 'Office/Newsletter/2026/fresh from outside.md'), '# Fresh\n');
  await expect(row('fresh from outside.md')).toBeVisible({ timeout: 2000 });
  await expect(page.getByRole('list', { name: 'Trail' })).toContainText('Newsletter');
  renameSync(join(app.place, 'Office/Newsletter/2026'), join(app.place, 'Office/This year’s newsletter'));
  await expect(page.getByRole('list', { name: 'Trail' })).toContainText('This year’s newsletter');
  await expect(row('fresh from outside.md')).toBeVisible();
});

test('makes a mirror and a collection of a folder from its menu', async () => {
  await page.goto(`${app.address}/originals`);
  await row('Boat').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Mirror this folder' }).click();
  await expect(page).toHaveURL(/collections/);
  await expect(row('Engine')).toBeVisible();
  await undo();
  await page.goto(`${app.address}/originals`);
  await row('Boat').dblclick();
  await row('Safety').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Make a collection of what is in it' }).click();
  await dialog().getByRole('button', { name: 'Make it' }).click();
  await expect(row('Slipway checklist')).toBeVisible();
  await undo();
});

test('tags many at once; the tag shows all that bears it, shortcuts and originals', async () => {
  await page.goto(`${app.address}/catalogue`);
  await row('Annual reports').click();
  await row('Boat papers').click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Tags…' }).click();
  await dialog().getByRole('combobox').fill('for the warden');
  await page.keyboard.press('Enter');
  await expect(dialog().getByRole('option', { name: /for the warden/ })).toContainText('in all');
  await dialog().getByRole('button', { name: 'Done' }).click();
  await page.goto(`${app.address}/originals`);
  await row('Office').dblclick();
  await row('Code of the kitchen.txt').click();
  await page.getByRole('row', { selected: true }).press('t');
  await dialog()
    .getByRole('option', { name: /for the warden/ })
    .click();
  await dialog().getByRole('button', { name: 'Done' }).click();
  await page.goto(`${app.address}/collections`);
  await tree('for the warden').click();
  await expect(row('Code of the kitchen.txt')).toBeVisible();
  await expect(row('Annual reports')).toBeVisible();
  await page.goto(`${app.address}/catalogue`);
  await page.getByRole('button', { name: 'Tag', exact: true }).click();
  await page.getByRole('menuitem', { name: 'for the warden' }).click();
  await expect.poll(names).toEqual(['Annual reports', 'Boat manual', 'Boat papers']);
});

test('renames by pattern with a preview, and undoes it as one', async () => {
  await page.goto(`${app.address}/catalogue`);
  await row('Grant attachments').click();
  await row('Grant draft').click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Rename…' }).click();
  await dialog().getByLabel('Pattern').fill('s/Grant/Fund/');
  await expect(dialog().getByRole('region', { name: 'Preview' })).toContainText('Fund budget');
  await dialog().getByRole('button', { name: 'Rename 3' }).click();
  await expect(row('Fund draft')).toBeVisible();
  await undo();
  await expect(row('Grant draft')).toBeVisible();
});

test('what goes with a shortcut is opened alone or together', async () => {
  await page.goto(`${app.address}/catalogue?sort=week&order=down`);
  await row('Ringing log').click();
  await expect(card()).toContainText('Recording manual');
  await card().getByRole('button', { name: '+ something' }).click();
  await dialog().getByLabel('Shortcut, path or address').fill('Ring stock');
  await dialog().getByRole('button', { name: 'Add' }).click();
  await expect(card().getByRole('button', { name: 'Open all 4' })).toBeVisible();
  await card()
    .getByRole('button', { name: /Ring stock/ })
    .first()
    .click();
  await expect(dialog()).toContainText('ring-stock-2026.csv');
  await page.keyboard.press('Escape');
});

test('a collection cannot be dropped into its own child; a removed one waits in the bin with its members', async () => {
  await open('Boat');
  await tree('Boat').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Add to collection…' }).click();
  await dialog()
    .getByRole('option', { name: /Slipway/ })
    .click();
  await expect(notice()).toContainText('lies in it already');
  await page.keyboard.press('Escape');
  await tree('Coastal fund').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Remove collection' }).click();
  await expect(tree('Coastal fund')).toHaveCount(0);
  await page.goto(`${app.address}/bin`);
  await row('Coastal fund').getByRole('button', { name: 'Put back' }).click();
  await open('Coastal fund');
  expect(await names()).toEqual(['Grant draft', 'Grant budget', 'Grant attachments', 'Annual reports']);
});

test('the strip hides and comes back by a key, and a pin can be put into its last menu for good', async () => {
  await page.goto(`${app.address}/reach`);
  await rows().first().waitFor();
  await page.keyboard.press('s');
  await expect(strip()).toHaveCount(0);
  await page.keyboard.press('s');
  await pin('Weather record').focus();
  await page.keyboard.press('e');
  await expect(pin('Weather record')).toHaveCount(0);
  await strip().getByRole('button', { name: /more/ }).click();
  await expect(page.getByRole('menuitem', { name: /Weather record/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await undo();
  await expect(pin('Weather record')).toBeVisible();
});

test('a key of one’s own opens its shortcut; the quiet screen hides every name and still opens pins by key', async () => {
  await page.goto(`${app.address}/catalogue`);
  await row('Boat manual').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Own key…' }).click();
  await dialog().getByLabel('Press it').press('j');
  await dialog().getByLabel('Press it').press('m');
  await dialog().getByRole('button', { name: 'Save' }).click();
  await expect(notice()).toContainText('Its key is J, M now');
  await page.keyboard.press('j');
  await page.keyboard.press('m');
  await expect(dialog()).toContainText('Boat manual');
  await page.keyboard.press('Escape');
  await expect(dialog()).toHaveCount(0);
  await page.keyboard.press('h');
  await expect(page.getByRole('heading', { name: 'Quiet screen', level: 2 })).toBeVisible();
  await expect(page.getByText('Boat manual')).toHaveCount(0);
  await expect(strip().getByText('Ringing log').first()).toBeHidden();
  await page.keyboard.press('h');
  await expect(row('Boat manual')).toBeVisible();
});

test('empties the bin only after asking', async () => {
  await page.goto(`${app.address}/catalogue?kind=program`);
  await row('Chartroom').click();
  await page.keyboard.press('Delete');
  await expect(notice()).toContainText('Removed the shortcut “Chartroom”');
  await page.goto(`${app.address}/bin`);
  await page.getByRole('button', { name: 'Empty…' }).click();
  await expect(dialog()).toContainText('cannot be undone');
  await dialog().getByRole('button', { name: 'Empty the bin' }).click();
  await expect(page.getByText('Nothing was removed', { exact: true })).toBeVisible();
});
