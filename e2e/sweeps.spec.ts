/** A cluttered folder is swept: looked at, changed by key and by drag, done in one act, undone exactly, and kept. */
import { existsSync, mkdirSync, readdirSync, readFileSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { App } from './app';

let app: App;
let page: Page;
test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  app = await App.start();
  page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
  const old = (path: string, text: string, days: number) => {
    writeFileSync(at(path), text);
    const then = Date.now() / 1000 - days * 86_400;
    utimesSync(at(path), then, then);
  };
  for (const folder of ['Arrivals', 'Scans', 'Scans/2026', 'Elsewhere']) mkdirSync(at(folder));
  for (let i = 1; i <= 12; i++) old(`Scans/2026/Scan 00${10 + i}.pdf`, `scan ${i}`, 300 - i * 20);
  for (let i = 1; i <= 3; i++) old(`Arrivals/Scan 00${30 + i}.pdf`, `new scan ${i}`, 3);
  for (const name of ['a.tmp', 'b.tmp', 'letter.txt']) old(`Arrivals/${name}`, name, 9);
  old('Arrivals/twin.pdf', 'scan 4', 2);
});
test.afterAll(() => app.end());

const at = (path: string) => join(app.place, path);
const arrivals = () => readdirSync(at('Arrivals')).sort();
const ALL = ['Scan 0031.pdf', 'Scan 0032.pdf', 'Scan 0033.pdf', 'a.tmp', 'b.tmp', 'letter.txt', 'twin.pdf'];
const row = (name: string) =>
  page
    .getByRole('row')
    .and(page.locator('[data-index]'))
    .filter({ has: page.getByText(name, { exact: true }) });
const notice = () => page.locator('.MuiSnackbar-root');
const grid = () => page.getByRole('grid', { name: 'Things by where they go' });
const chip = (name: string) => page.locator('.sweep-destination').filter({ hasText: name });
const dialog = () => page.getByRole('dialog');

test('from its list of files a folder is one step from being swept; the plan says what it would do and why', async () => {
  await page.goto(`${app.address}/originals`);
  await row('Arrivals').dblclick();
  await expect(row('letter.txt')).toBeVisible();
  await page.getByRole('link', { name: 'Sweep…' }).click();
  await expect(page.getByRole('heading', { name: 'Sweep Arrivals' })).toBeVisible();
  await expect(grid()).toBeVisible();
  await expect(row('Scan 0031.pdf')).toContainText('12 of 12 files there end in .pdf');
  await expect(row('twin.pdf')).toContainText('the same as “Scan 0014.pdf” in 2026');
  await expect(chip('Bin')).toContainText('1 ·');
  expect(arrivals()).toEqual(ALL);
});

test('each line is sent elsewhere by one key or by a drag, and nothing moves before it is swept', async () => {
  await row('a.tmp').click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('b');
  await expect(chip('Bin')).toContainText('3 ·');
  const from = (await row('letter.txt').locator('.drag-handle').boundingBox())!;
  const to = (await chip('Bin').boundingBox())!;
  await page.mouse.move(from.x + 60, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x + 80, from.y - 20, { steps: 4 });
  await page.mouse.move(to.x + 20, to.y + 12, { steps: 6 });
  await expect(page.locator('.drag-label')).toContainText('Nothing is moved before you sweep');
  await page.mouse.up();
  await expect(chip('Bin')).toContainText('4 ·');
  // and changed again
  await row('letter.txt').click();
  await page.keyboard.press('l');
  await expect(chip('Bin')).toContainText('3 ·');
  expect(arrivals()).toEqual(ALL);
});

test('it is swept in one act with links left behind; one undo puts everything back, one redo takes it again', async () => {
  await page.getByRole('combobox', { name: 'Links at the old spots' }).click();
  await page.getByRole('option', { name: 'for 7 days' }).click();
  await page.getByRole('button', { name: 'Sweep 6 originals' }).click();
  await expect(notice()).toContainText('Swept 6 originals out of “Arrivals”');
  expect(arrivals()).toEqual(['Scan 0031.pdf', 'Scan 0032.pdf', 'Scan 0033.pdf', 'letter.txt']);
  expect(readFileSync(at('Scans/2026/Scan 0031.pdf'), 'utf8')).toBe('new scan 1');
  await page
    .getByRole('navigation', { name: 'Views' })
    .getByRole('link', { name: /^Sweeps/ })
    .click();
  await expect(row('Arrivals')).toContainText('Scans › 2026 3');
  await page.keyboard.press('Control+z');
  await expect(notice()).toContainText('Undone: Swept 6 originals');
  await expect(row('Arrivals')).toContainText('undone');
  expect(arrivals()).toEqual(ALL);
  expect(existsSync(at('Scans/2026/Scan 0031.pdf'))).toBe(false);
  await page.keyboard.press('Control+Shift+z');
  await expect(notice()).toContainText('Done again');
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect(row('Arrivals')).toContainText('undone');
  await expect.poll(arrivals).toEqual(ALL);
});

test('it is kept with a rule; the start view says what has gathered, and leads to it', async () => {
  await page.goBack();
  await page.getByRole('button', { name: 'One rule…' }).click();
  await dialog().getByRole('button', { name: 'Add a rule' }).click();
  await page.keyboard.type('*.tmp');
  await dialog().getByRole('combobox', { name: 'Goes' }).last().click();
  await page.getByRole('option', { name: 'into the bin' }).click();
  await dialog().getByRole('button', { name: 'Use these rules' }).click();
  await expect(chip('Bin')).toContainText('3 ·');
  await expect(row('a.tmp')).toContainText('rule 2: *.tmp');
  await page.getByRole('button', { name: 'Keep this sweep…' }).click();
  await dialog().getByLabel('things').fill('5');
  await dialog().getByRole('button', { name: 'Save' }).click();
  await expect(notice()).toContainText('Saved the sweep “Arrivals”');
  await page.goto(`${app.address}/reach`);
  await page.getByRole('link', { name: /^Arrivals: 7 things/ }).click();
  await expect(page.getByRole('heading', { name: 'Sweep Arrivals' })).toBeVisible();
});

test('what a program opens meanwhile stays, and is said', async () => {
  await expect(row('a.tmp')).toContainText('rule 2');
  writeFileSync(at('Arrivals/a.tmp'), 'written to just now');
  await page.getByRole('button', { name: /^Sweep \d originals/ }).click();
  await expect(page.getByText('One thing stayed')).toBeVisible();
  await expect(page.getByText('it changed since it was shown')).toBeVisible();
  expect(existsSync(at('Arrivals/a.tmp'))).toBe(true);
  expect(existsSync(at('Arrivals/b.tmp'))).toBe(false);
});

test('where a file belongs comes first when it is moved, and while it is dragged', async () => {
  writeFileSync(at('Arrivals/Scan 0044.pdf'), 'another');
  await page.goto(`${app.address}/originals`);
  await row('Arrivals').dblclick();
  await row('Scan 0044.pdf').click();
  await page.keyboard.press('m');
  const likely = dialog().getByRole('toolbar', { name: 'Where it belongs' });
  await expect(likely.getByRole('button').first()).toContainText('Scans › 2026');
  await page.keyboard.press('Escape');
  const from = (await row('Scan 0044.pdf').locator('.drag-handle').boundingBox())!;
  await page.mouse.move(from.x + 50, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x + 90, from.y + 60, { steps: 4 });
  const target = page.locator('.likely-target').first();
  await expect(target).toContainText('Scans › 2026');
  const box = (await target.boundingBox())!;
  await page.mouse.move(box.x + 40, box.y + 20, { steps: 6 });
  await expect(page.locator('.drag-label')).toContainText('Move “Scan 0044.pdf” into “2026”');
  await page.mouse.up();
  await expect(notice()).toContainText('into “2026”');
  expect(existsSync(at('Scans/2026/Scan 0044.pdf'))).toBe(true);
});
