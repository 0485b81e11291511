/**
 * Boards as a person meets them: laid by pointer and by keys, tidied, bundled, taken back; and the route that they are.
 */
import { expect, type Locator, type Page, test } from '@playwright/test';
import { App } from './app';

let app: App;
let page: Page;
test.describe.configure({ mode: process.env['LOOSE'] ? 'default' : 'serial' });
test.beforeAll(async ({ browser }) => {
  app = await App.start();
  page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
});
test.afterAll(() => app.end());

const region = (name: string) => page.getByRole('region', { name });
const thing = (name: string) => page.getByRole('option', { name: new RegExp(name) });
const notice = () => page.locator('.MuiSnackbar-root');
const label = () => page.locator('.drag-label');
const dialog = () => page.getByRole('dialog');
const card = () => page.getByRole('complementary', { name: 'Card' });
const undo = async () => {
  await page.keyboard.press('Control+Z');
  await expect(notice()).toContainText('Undone');
};
const open = async (path = '/boards') => {
  await page.goto(app.address + path);
  await page.getByRole('option').first().waitFor();
};
const box = async (l: Locator) => (await l.boundingBox())!;
/** Where a thing lies on the window. */
const place = async (name: string) => {
  const { x, y } = await box(thing(name));
  return { x: Math.round(x), y: Math.round(y) };
};
const namesIn = (name: string) => region(name).locator('.laid .name').allTextContents();
/** Holds a thing by its middle and carries it to a point; the caller lets go. */
const carry = async (from: Locator, to: { x: number; y: number }) => {
  const at = await box(from);
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width / 2 + 20, at.y + at.height / 2 + 12, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 8 });
};

test('a drag lays it in the nearest free cell, says so before, and is undone', async () => {
  await open();
  const before = await place('Sightings board');
  const corner = await box(region('Afterwards').locator('.region-layout'));
  // over the third column, third row
  await carry(thing('Sightings board'), { x: corner.x + 2 * 190 + 90, y: corner.y + 2 * 48 + 20 });
  await expect(label()).toContainText('Move “Sightings board” in “Afterwards”');
  await expect(page.locator('.board-ghost')).toBeVisible();
  await page.mouse.up();
  await expect(notice()).toContainText('Moved “Sightings board” on “Net round”');
  expect(await place('Sightings board')).toEqual({ x: Math.round(corner.x) + 380, y: Math.round(corner.y) + 96 });
  await undo();
  await expect.poll(() => place('Sightings board')).toEqual(before);
});

test('a rectangle drawn over the board chooses what it touches; Delete removes that from the board only', async () => {
  await open();
  const corner = await box(region('Afterwards').locator('.region-layout'));
  const lying = region('Afterwards').locator('.laid');
  const count = await lying.count();
  await page.mouse.move(corner.x + corner.width - 6, corner.y + corner.height - 6);
  await page.mouse.down();
  await page.mouse.move(corner.x + corner.width - 40, corner.y + corner.height - 30, { steps: 3 });
  await page.mouse.move(corner.x + 2, corner.y + 2, { steps: 8 });
  await expect(page.locator('.lasso')).toBeVisible();
  await page.mouse.up();
  await expect(page.locator('.lasso')).toHaveCount(0);
  expect(await page.evaluate(() => String(getSelection()))).toBe('');
  const chosen = await region('Afterwards').locator('[aria-selected=true]').count();
  expect(chosen).toBeGreaterThan(1);
  await lying.first().press('Delete');
  await expect(notice()).toContainText(`Removed ${chosen} things from “Net round”. They stay in the catalogue.`);
  await undo();
  await expect(lying).toHaveCount(count);
  // beside all things, where the bar does not lie over it
  const above = await box(region('Before dawn').locator('.region-layout'));
  await page.mouse.click(above.x + above.width - 4, above.y + above.height - 4);
  await expect(page.getByRole('option', { selected: true })).toHaveCount(0);
});

test('own order: before another by drag, on by Alt and an arrow; a pin is dropped onto a region', async () => {
  await open();
  const before = await namesIn('Before dawn');
  const tide = await box(thing('Tide table'));
  await carry(thing('Volunteer rota'), { x: tide.x + 60, y: tide.y + 20 });
  await expect(label()).toContainText('Move “Volunteer rota” before “Tide table”');
  await page.mouse.up();
  await expect.poll(async () => (await namesIn('Before dawn'))[0]).toBe('Volunteer rota');
  await thing('Volunteer rota').press('Alt+ArrowRight');
  await expect.poll(async () => (await namesIn('Before dawn')).slice(0, 2)).toEqual(['Tide table', 'Volunteer rota']);
  await undo();
  await undo();
  await expect.poll(() => namesIn('Before dawn')).toEqual(before);
  const corner = await box(region('Afterwards').locator('.region-layout'));
  await carry(page.getByRole('navigation', { name: 'Pin strip' }).getByRole('button', { name: /Grant draft/ }), {
    x: corner.x + 190 + 90,
    y: corner.y + 48 + 20,
  });
  await expect(label()).toContainText('Put “Grant draft” in “Afterwards”');
  await page.mouse.up();
  await expect(region('Afterwards').locator('.laid', { hasText: 'Grant draft' })).toBeVisible();
  await undo();
  await expect(region('Afterwards').locator('.laid', { hasText: 'Grant draft' })).toHaveCount(0);
});

test('Alt lays exactly, Tidy brings it into a cell with the least movement', async () => {
  await open();
  const corner = await box(region('Afterwards').locator('.region-layout'));
  await carry(thing('Newsletter drafts'), { x: corner.x + 190 + 130, y: corner.y + 4 * 48 + 34 });
  await page.keyboard.down('Alt');
  await page.mouse.move(corner.x + 190 + 131, corner.y + 4 * 48 + 34);
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await expect(notice()).toContainText('Moved “Newsletter drafts”');
  const { x } = await place('Newsletter drafts');
  expect((x - Math.round(corner.x)) % 190).not.toBe(0);
  await page.getByRole('button', { name: 'Tidy' }).click();
  await expect(notice()).toContainText('Tidied “Net round”: 1 moved');
  await expect
    .poll(() => place('Newsletter drafts'))
    .toEqual({ x: Math.round(corner.x) + 190, y: Math.round(corner.y) + 4 * 48 });
  await undo();
  await undo();
});

test('a bundle opens, lies again as it lay, and is made of what is chosen; by keys alone', async () => {
  await open();
  await thing('Survey').focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menu', { name: 'In the bundle Survey' }).getByRole('menuitem')).toHaveCount(5);
  await page.keyboard.press('Escape');
  await thing('Survey').press('u');
  await expect(notice()).toContainText('“Survey” lies again as it lay');
  await expect(region('Afterwards').locator('.laid')).toHaveCount(9);
  await undo();
  await expect(region('Afterwards').locator('.bundle')).toHaveCount(1);
  await thing('Ringing log').click();
  await thing('Ring stock').click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Bundle these 2…' }).click();
  await dialog().getByRole('textbox', { name: 'Name' }).fill('Every round');
  await page.keyboard.press('Enter');
  await expect(thing('Every round')).toContainText('bundle of 2');
  await undo();
});

test('a new board from the find line; things are laid on it from their card, and its route is priced', async () => {
  await open();
  await page.keyboard.press('/');
  await page.keyboard.type('new board');
  await page.keyboard.press('Enter');
  await dialog().getByRole('textbox', { name: 'Name' }).fill('Harbour');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Harbour' })).toBeVisible();
  await expect(region('Anything')).toContainText('0 here');
  const { id } = (await app.get('/shortcuts')).find((s) => s.name === 'Boat papers')!;
  await page.goto(`${app.address}/catalogue`);
  await page.getByRole('row').filter({ hasText: 'Boat papers' }).first().click();
  await card().getByRole('button', { name: '+ board' }).click();
  await dialog().getByRole('combobox', { name: /Board/ }).click();
  await page.getByRole('option', { name: 'Harbour' }).click();
  await dialog().getByRole('button', { name: 'Put it there' }).click();
  await expect(notice()).toContainText('Put “Boat papers” on “Harbour”');
  await card().getByRole('link', { name: 'Harbour' }).click();
  await expect(thing('Boat papers')).toBeVisible();
  const route = () => app.get(`/shortcuts/${id}`).then((s) => s.reach.routes.find((r) => r.kind === 'board')!);
  const before = await route();
  await expect(card().locator('.routes')).toContainText(`${before.steps} · ${before.seconds.toFixed(1)} s`);
  // the view opens with it: a step less
  const boards = await app.get('/boards');
  const harbour = boards.find((b) => b.name === 'Harbour')!;
  await app.call('POST', `/boards/${harbour.id}/first`);
  await expect.poll(async () => (await route()).steps).toBe(2);
  await page.goto(`${app.address}/boards`);
  await thing('Boat papers').dblclick();
  await expect.poll(async () => (await app.get('/openings/summary')).routes.map((r) => r.route)).toContain('board');
  await page.keyboard.press('Escape');
  expect((await app.get(`/boards/${harbour.id}`)).items).toHaveLength(1);
});
