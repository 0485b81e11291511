/** Reach and plan: what is likely next, how far things are, and bringing them closer. */
import { readFile } from 'node:fs/promises';
import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Locator, type Page, test } from '@playwright/test';
import { App } from './app';

let app: App;
let page: Page;
test.describe.configure({ mode: process.env['LOOSE'] ? 'default' : 'serial' });
test.beforeAll(async ({ browser }) => {
  app = await App.start(undefined, false, new Date().toISOString().slice(0, 10));
  page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
});
test.afterAll(() => app.end());

const heading = (name: string) => page.getByRole('heading', { name, level: 1 });
const suggestion = (title: string) => page.getByRole('listitem').filter({ hasText: title });

test('the start says what is likely next, and counts what is opened', async () => {
  await page.goto(`${app.address}/reach`);
  await expect(heading('Likely next')).toBeVisible();
  const rows = page.getByRole('grid', { name: 'Likely next' }).getByRole('row');
  await expect(rows.nth(1)).toContainText(/openings a week|of the last|after|mostly/);
  await rows.filter({ hasText: 'Net positions' }).or(rows.nth(1)).first().click();
  const card = page.getByRole('complementary');
  const rate = card.getByText(/openings a week/);
  await expect(card.getByRole('heading', { name: 'Reach', exact: true })).toBeVisible();
  const before = await rate.first().textContent();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog').or(page.locator('.MuiSnackbar-root')).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(async () => expect(await rate.first().textContent()).not.toBe(before)).toPass();
});

test('a card tells all routes, each with what its time is added up from', async () => {
  const routes = page.locator('.routes li');
  await expect(routes.filter({ hasText: 'Through the folders' })).toBeVisible();
  await routes.filter({ hasText: 'Find line' }).locator('summary').click();
  await expect(routes.filter({ hasText: 'Find line' }).locator('p')).toContainText(/M 1\.35 \+ K for \/ 0\.28 \+/);
});

test('how one comes to Rellin is part of every figure', async () => {
  // the walk is the same whatever else becomes quicker
  const walk = page.locator('.routes li').filter({ hasText: 'Through the folders' }).locator('summary');
  const seconds = async () => Number(/· ([\d.]+) s/.exec((await walk.textContent())!)![1]);
  const before = await seconds();
  await app.call('PATCH', '/settings', { coming: 'entry' });
  await expect(async () => expect((await seconds()) - before).toBeCloseTo(1.7, 1)).toPass();
  await page.keyboard.press('Control+Z');
  await expect(async () => expect(await seconds()).toBeCloseTo(before, 1)).toPass();
});

test('the plan is applied in one act, moves the ruler, and is undone', async () => {
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Plan' }).click();
  await expect(heading('Plan')).toBeVisible();
  // which one it is depends on the day
  const pin = page.getByRole('listitem').filter({ hasText: /Pin “.+” as 9/ });
  await expect(pin).toContainText(/\d\.\d s → 1\.\d s/);
  const name = /Pin “(.+)” as 9/.exec((await pin.textContent())!)![1]!;
  await expect(suggestion('Add a shortcut to “weather-')).toContainText('6 steps each');
  await page.getByRole('button', { name: /^Apply \d chosen$/ }).click();
  await expect(pin).toBeHidden();
  await expect(page.getByText('What was said, and what it was')).toBeVisible();
  expect(((await app.get('/pins')) as { name: string }[]).map((p) => p.name)).toContain(name);
  await page.keyboard.press('Control+Z');
  await expect(pin).toContainText(`Pin “${name}”`);
  expect(((await app.get('/pins')) as { name: string }[]).map((p) => p.name)).not.toContain(name);
});

test('what is put off or refused is not asked again', async () => {
  await suggestion('Add a shortcut to').getByRole('button', { name: 'Never' }).click();
  await expect(suggestion('Add a shortcut to')).toBeHidden();
  await page.reload();
  await expect(suggestion('Pin “').first()).toBeVisible();
  await expect(suggestion('Add a shortcut to')).toBeHidden();
});

test('each chart is a table as well, and a file', async () => {
  const saved = page.getByRole('region', { name: 'Time saved by week' });
  await expect(saved.locator('canvas')).toBeVisible();
  await saved.getByRole('button', { name: 'Table' }).click();
  await expect(saved.locator('canvas')).toBeHidden();
  await expect(saved.getByRole('row')).toHaveCount(13);
  const download = page.waitForEvent('download');
  await saved.getByRole('button', { name: 'CSV' }).click();
  const text = await readFile((await (await download).path())!, 'utf8');
  expect(text.split(/\r?\n/)[0]).toBe('Week from,Seconds saved');
  expect(text.trim().split(/\r?\n/)).toHaveLength(13);
});

test('the plan has no fault that axe knows, light and dark', async () => {
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    await expect(heading('Plan')).toBeVisible();
    const found = await new AxeBuilder({ page }).analyze();
    expect(found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)).toEqual([]);
  }
  await page.getByRole('button', { name: 'How this is calculated' }).click();
  await expect(page.getByRole('dialog', { name: 'How this is calculated' })).toBeVisible();
  await page.keyboard.press('Escape');
});

test('one’s own times are measured, used, and taken back', async () => {
  await page.clock.install();
  await page.goto(`${app.address}/settings`);
  await page.getByRole('button', { name: 'Measure your own times…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Begin' }).click();
  // somebody who is slower to point than the average: the time is the page's own, which stands still and is set forward
  await page.clock.pauseAt(await page.evaluate(() => Date.now() + 1000));
  const target = dialog.getByRole('button', { name: 'Target' });
  type Place = { x: number; y: number };
  const middle = async (of: Locator) => {
    const { x, y, width, height } = (await of.boundingBox())!;
    return { x: x + width / 2, y: y + height / 2, size: Math.min(width, height) };
  };
  const pointing = (from: Place, to: Place & { size: number }) =>
    400 + 300 * Math.log2(Math.hypot(to.x - from.x, to.y - from.y) / to.size + 1);
  let last: Place | undefined;
  for (let i = 0; i < 25; i++) {
    const to = await middle(target);
    if (last) await page.clock.fastForward(Math.round(pointing(last, to)));
    await page.mouse.click(to.x, to.y);
    last = to;
  }
  await expect(dialog.getByRole('heading')).toContainText('part 2 of 3');
  for (let i = 0; i < 12; i++) {
    const word = (await dialog.locator('b').textContent())!;
    const show = await middle(dialog.getByRole('button', { name: 'Show the list' }));
    await page.mouse.click(show.x, show.y);
    const entries = dialog.getByRole('listitem');
    const entry = entries.getByText(word, { exact: true });
    const there = pointing(show, await middle(entry));
    await page.clock.fastForward(Math.round(there + 800 + 150 * (await entries.count())));
    await entry.click();
  }
  await expect(dialog.getByRole('heading')).toContainText('part 3 of 3');
  await page.clock.resume();
  await dialog.getByRole('button', { name: 'Skip this part' }).click();
  const row = (name: string) => dialog.getByRole('row', { name });
  await expect(dialog.locator('canvas')).toHaveCount(2);
  await expect(dialog.getByText('Skipped: its constants stay as they are.')).toBeVisible();
  const yours = async (name: string) => Number(/([\d.]+) s$/.exec((await row(name).textContent())!)![1]);
  expect(await yours('b, pointing, for each bit')).toBeCloseTo(0.3, 2);
  expect(await yours('Searching a list, for each entry')).toBeCloseTo(0.15, 2);
  await dialog.getByRole('button', { name: 'Use yours' }).click();
  await expect(dialog).toBeHidden();
  const field = page.getByLabel('b, pointing, for each bit');
  await expect(field).not.toHaveValue('0.15');
  await page.keyboard.press('Control+Z');
  await expect(field).toHaveValue('0.15');
});
