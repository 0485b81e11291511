/** Originals looked after in the list of their folder: chosen together, renamed, duplicated, moved; undone exactly. */
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
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
  mkdirSync(at('Scans'));
  for (const n of [1, 2, 3]) writeFileSync(at(`Scans/scan ${n}.txt`), `page ${n}`);
});
test.afterAll(() => app.end());

const at = (path: string) => join(app.place, path);
const inScans = () => readdirSync(at('Scans')).sort();
const row = (name: string) =>
  page
    .getByRole('row')
    .and(page.locator('[data-index]'))
    .filter({ has: page.getByText(name, { exact: true }) });
const dialog = () => page.getByRole('dialog');
const notice = () => page.locator('.MuiSnackbar-root');
const bar = () => page.getByRole('toolbar', { name: 'With all chosen' });
const press = async (...keys: string[]) => {
  for (const key of keys) await page.keyboard.press(key);
};
const open = async (name: string) => {
  await page.goto(`${app.address}/originals`);
  await row(name).dblclick();
  await expect(page.getByRole('list', { name: 'Trail' }).locator('[aria-current]')).toHaveText(name);
};
const undo = async () => {
  await press('Control+z');
  await expect(notice()).toContainText('Undone');
};

test('one is renamed by F2; the shortcut still opens it; undo gives the name back', async () => {
  await open('Scans');
  await row('scan 1.txt').click();
  await press('n');
  await expect(notice()).toContainText('Added “scan 1”');
  await open('Scans');
  await row('scan 1.txt').click();
  await press('F2');
  await expect(dialog()).toContainText('The file itself is renamed');
  await page.keyboard.type('net check');
  await press('Enter');
  await expect(notice()).toContainText('Renamed the original to “net check.txt”');
  await expect(row('net check.txt')).toBeVisible();
  expect(inScans()).toEqual(['net check.txt', 'scan 2.txt', 'scan 3.txt']);
  const shortcut = (await app.get('/shortcuts')).find((s) => s.name === 'scan 1')!;
  expect(shortcut).toMatchObject({ location: at('Scans/net check.txt'), state: 'followed' });
  await undo();
  await expect(row('scan 1.txt')).toBeVisible();
  expect(inScans()[0]).toBe('scan 1.txt');
});

test('a name that is taken is refused in the form, and nothing changes', async () => {
  await row('scan 1.txt').click();
  await press('F2');
  await dialog().getByLabel('Name').fill('scan 2.txt');
  await press('Enter');
  await expect(dialog()).toContainText('The name “scan 2.txt” is taken in “Scans”; nothing was renamed.');
  await press('Escape');
  expect(inScans()).toHaveLength(3);
});

test('several are chosen by keyboard and renamed by a pattern, with every name shown before', async () => {
  await row('scan 1.txt').click();
  await press('Shift+ArrowDown', 'Shift+ArrowDown');
  await expect(bar()).toContainText('3 chosen');
  await press('F2');
  await dialog().getByLabel('Pattern').fill('trap {nn}');
  await expect(dialog().getByRole('region', { name: 'Preview' })).toContainText('trap 03.txt');
  await press('Enter');
  await expect(notice()).toContainText('Renamed 3 originals');
  expect(inScans()).toEqual(['trap 01.txt', 'trap 02.txt', 'trap 03.txt']);
  await undo();
  expect(inScans()).toEqual(['scan 1.txt', 'scan 2.txt', 'scan 3.txt']);
});

test('duplicates them from the menu', async () => {
  await row('scan 1.txt').click();
  await row('scan 3.txt').click({ modifiers: ['Control'] });
  await row('scan 3.txt').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Duplicate the originals' }).click();
  await expect(notice()).toContainText('Duplicated 2 originals');
  expect(inScans()).toContain('scan 1 (2).txt');
  expect(readFileSync(at('Scans/scan 3 (2).txt'), 'utf8')).toBe('page 3');
  await press('Escape');
  await undo();
  expect(inScans()).toEqual(['scan 1.txt', 'scan 2.txt', 'scan 3.txt']);
});

test('makes a folder, cuts here and pastes there; undo carries them back', async () => {
  await page.getByRole('button', { name: 'New folder…' }).click();
  await dialog().getByLabel('Name').fill('Done');
  await press('Enter');
  await expect(notice()).toContainText('Made the folder “Done”');
  await row('scan 1.txt').click();
  await press('Shift+ArrowDown', 'Control+x');
  await expect(notice()).toContainText('Cut 2 originals');
  await row('Done').dblclick();
  await expect(page.getByText('This folder is empty')).toBeVisible();
  await press('Control+v');
  await expect(notice()).toContainText('Moved 2 things into “Done”');
  expect(readdirSync(at('Scans/Done')).sort()).toEqual(['scan 1.txt', 'scan 2.txt']);
  await undo();
  expect(inScans()).toEqual(['Done', 'scan 1.txt', 'scan 2.txt', 'scan 3.txt']);
});

test('copies, and pastes beside them as further ones', async () => {
  await open('Scans');
  await row('scan 2.txt').click();
  await press('Control+c');
  await expect(notice()).toContainText('Copied “scan 2.txt”');
  await press('Control+v');
  await expect(notice()).toContainText('Copied one thing into “Scans”');
  expect(inScans()).toContain('scan 2 (2).txt');
  await undo();
});

test('drags all that are chosen into a folder', async () => {
  await row('scan 1.txt').click();
  await row('scan 3.txt').click({ modifiers: ['Shift'] });
  await expect(bar()).toContainText('3 chosen');
  await row('scan 2.txt').locator('.drag-handle').hover();
  await page.mouse.down();
  const target = (await row('Done').boundingBox())!;
  await page.mouse.move(target.x + 120, target.y + target.height / 2, { steps: 6 });
  await page.mouse.move(target.x + 124, target.y + target.height / 2, { steps: 2 });
  await expect(page.locator('.drag-label')).toContainText('Move 3 things into “Done”');
  await page.mouse.up();
  await expect(notice()).toContainText('Moved 3 things into “Done”');
  expect(readdirSync(at('Scans/Done')).sort()).toEqual(['scan 1.txt', 'scan 2.txt', 'scan 3.txt']);
  await undo();
  expect(inScans()).toHaveLength(4);
});

test('deletes to the bin of the disk, restores, and deletes for good; a shortcut says where its original is', async () => {
  await open('Scans');
  const left = inScans();
  const [one, other] = left;
  await row(one!).click();
  await press('n');
  await expect(notice()).toContainText('Added');
  await open('Scans');
  await row(one!).click();
  await press('Delete');
  await expect(notice()).toContainText(`Deleted “${one}”; it is in the bin`);
  await expect(row(one!)).toHaveCount(0);
  expect(inScans()).toEqual(left.slice(1));
  // its shortcut says so, and brings it back
  const lost = await expect
    .poll(async () => (await app.get('/shortcuts')).find((s) => s.location === at(`Scans/${one}`)))
    .toMatchObject({ state: 'lost' })
    .then(async () => (await app.get('/shortcuts')).find((s) => s.location === at(`Scans/${one}`))!);
  await page.goto(`${app.address}/catalogue`);
  await row(lost.name).click();
  const card = page.getByRole('complementary');
  await expect(card).toContainText('Its original is in the bin');
  await card.getByRole('button', { name: 'Restore' }).click();
  await expect(notice()).toContainText(`Restored “${one}” where it was`);
  expect(inScans()).toEqual(left);
  // and one for good, which is asked about
  await open('Scans');
  await row(other!).click();
  await press('Delete');
  await expect(notice()).toContainText('it is in the bin');
  await page.goto(`${app.address}/bin/originals`);
  await row(other!).click();
  await press('Delete');
  await expect(dialog()).toContainText('cannot be undone');
  await dialog().getByRole('button', { name: 'Delete for good' }).click();
  await expect(notice()).toContainText('for good');
  await expect(row(other!)).toHaveCount(0);
  // another volume keeps its own, also what another program put there
  await row('read me.txt').getByRole('button', { name: 'Restore' }).click();
  await expect(notice()).toContainText('Restored “read me.txt”');
});
