/** The check-up: what went wrong at the observatory, and how a person sets it right. */
import { execFileSync } from 'node:child_process';
import { existsSync, lstatSync, readdirSync, readFileSync, renameSync } from 'node:fs';
import { join } from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { App } from './app';

let app: App;
let page: Page;
test.describe.configure({ mode: process.env['LOOSE'] ? 'default' : 'serial' });
test.beforeAll(async ({ browser }) => {
  app = await App.start(undefined, true);
  page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
});
test.afterAll(() => app.end());

const part = (name: string) => page.getByRole('tab', { name: new RegExp(`^${name}`) });
const card = (name: string) => page.getByRole('region', { name, exact: true });
const dialog = () => page.getByRole('dialog');
const notice = () => page.locator('.MuiSnackbar-root');
const navCount = () => page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: /^Check-up/ });

test('the start says how much needs a person, and leads there', async () => {
  await page.goto(`${app.address}/reach`);
  await page.getByRole('link', { name: '4 things need you' }).click();
  await expect(page.getByRole('heading', { name: 'Check-up', level: 1 })).toBeVisible();
  await expect(part('Needs you')).toContainText('4');
  await expect(navCount()).toContainText('4');
});

test('a folder that moved is followed in one act, shown each first, and undone', async () => {
  const moved = card('A folder seems to have moved');
  await expect(moved).toContainText('explains 7 of 8');
  await moved.getByRole('button', { name: 'Show each' }).click();
  await expect(moved).toContainText('transect 3 skerry.csv');
  await moved.getByRole('button', { name: 'Follow all 7' }).click();
  await expect(notice()).toContainText('Followed 7 shortcuts');
  await expect(moved).toBeHidden();
  await expect(part('Needs you')).toContainText('3');
  await page.keyboard.press('Control+Z');
  await expect(moved).toBeVisible();
  await page.keyboard.press('Control+Shift+Z');
  await expect(moved).toBeHidden();
});

test('of two that may be it the chosen one is pointed to, by keyboard', async () => {
  const form = card('Trap form');
  await expect(form).toContainText('same content, same name, same date, other folder');
  await form.getByRole('radio').first().focus();
  await page.keyboard.press('ArrowDown');
  await expect(form.getByRole('radio').nth(1)).toBeChecked();
  await page.keyboard.press('ArrowUp');
  await form.getByRole('button', { name: 'Point to the chosen' }).focus();
  await page.keyboard.press('Enter');
  await expect(notice()).toContainText('“Trap form” points to trap-form.odt now');
  await expect(form).toBeHidden();
});

test('what is gone for good is left alone or removed, and can be looked after again', async () => {
  await card('Rota 2025').getByRole('button', { name: 'Ignore' }).click();
  await expect(card('Rota 2025')).toBeHidden();
  await card('Transect Marram').getByRole('button', { name: 'Remove shortcut' }).click();
  await expect(page.getByRole('heading', { name: 'Nothing needs you' })).toBeVisible();
  await part('Left alone').click();
  await expect(page.getByRole('grid')).toContainText('Rota 2025');
  await page.getByRole('button', { name: 'Check all again' }).click();
  await part('Needs you').click();
  await expect(card('Rota 2025')).toBeVisible();
});

test('a drive is pulled and a folder renamed: away and followed, at once and here as everywhere', async () => {
  renameSync(join(app.files, 'media/Field drive'), join(app.files, 'drive elsewhere'));
  await expect(part('Away')).toContainText('2');
  renameSync(join(app.place, 'Survey/Maps/Tracks'), join(app.place, 'Survey/Tracks'));
  await part('Followed').click();
  await expect(page.getByRole('grid')).toContainText('was Marrowick › Survey › Maps › Tracks');
  renameSync(join(app.files, 'drive elsewhere'), join(app.files, 'media/Field drive'));
  await expect(part('Away')).toBeHidden();
  await page.getByRole('button', { name: 'Mark all as seen' }).click();
  await expect(notice()).toContainText('Marked as seen the change of one shortcut');
  expect(existsSync(join(app.place, 'Survey/Tracks'))).toBe(true);
});

test('all is looked at anew on command', async () => {
  await page.getByRole('button', { name: 'Check now' }).click();
  await expect(page.getByRole('button', { name: 'Check now' })).toBeEnabled();
  await expect(page.getByText(/checked today/)).toBeVisible();
});

test('a collection is published; the shell reads its links, and one that is dropped there joins', async () => {
  await page.goto(`${app.address}/collections`);
  await page.locator('.tree-label').getByText('Slipway', { exact: true }).first().click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Publish as links or a menu…' }).click();
  await dialog().getByLabel('In the folder').fill(join(app.place, 'Office'));
  await page.keyboard.press('Escape');
  await dialog()
    .getByRole('checkbox', { name: /^Numbered/ })
    .check();
  await dialog().getByRole('button', { name: 'Publish' }).click();
  await expect(notice()).toContainText('Published 4 links in');
  const folder = join(app.place, 'Office/Slipway');
  const shell = (command: string) => execFileSync('sh', ['-c', command], { cwd: folder, encoding: 'utf8' });
  expect(shell('ls').split('\n').filter(Boolean)).toHaveLength(4);
  // what is read through a link is the original
  const table = shell('ls | grep "Tide table"').trim();
  expect(readFileSync(join(folder, table), 'utf8')).toBe(readFileSync(shell(`readlink -f "${table}"`).trim(), 'utf8'));
  shell('ln -s ../../Boat/Safety "safety at sea"');
  await page.locator('.tree-label').getByText('Slipway', { exact: true }).first().click();
  await expect(page.getByRole('grid', { name: 'In Slipway' })).toContainText('Safety');
  await page.goto(`${app.address}/check-up?show=links`);
  const published = page.getByRole('region', { name: 'Published' });
  await expect(published).toContainText('Slipway');
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  await published
    .locator('.link-row')
    .filter({ hasText: 'Slipway' })
    .getByRole('button', { name: 'Unpublish' })
    .click();
  await expect(published).not.toContainText('Slipway');
  expect(shell('ls').trim()).toBe('safety at sea');
});

test('an alias is placed from the find line, and a link that led nowhere is repaired', async () => {
  await page.goto(`${app.address}/catalogue`);
  // keys are heard once the view is there
  await page.getByRole('row').nth(2).waitFor();
  await page.keyboard.press('/');
  await page.keyboard.type('engine hours');
  await page.getByRole('option').first().waitFor();
  await page.keyboard.press('Shift+Enter');
  await page.getByRole('option', { name: 'Put an alias in a folder…' }).click();
  await dialog().getByLabel('In the folder').fill(join(app.place, 'Office'));
  await page.keyboard.press('Escape');
  await dialog().getByLabel('Name of the file').fill('engine');
  await page.keyboard.press('Enter');
  await expect(notice()).toContainText('Placed the alias engine');
  const extension = readdirSync(join(app.place, 'Office')).find((name) => name.startsWith('engine.'))!;
  expect(lstatSync(join(app.place, 'Office', extension)).isSymbolicLink()).toBe(true);
  await page.goto(`${app.address}/check-up?show=links`);
  await page.getByRole('button', { name: 'Lead to Papers › licence.pdf' }).click();
  await expect(notice()).toContainText('Repaired the link licence');
  expect(readFileSync(join(app.place, 'Boat/licence')).subarray(0, 5).toString()).toBe('%PDF-');
});
