import { existsSync, renameSync, unlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { App } from './app';

let app: App;
let page: Page;
test.describe.configure({ mode: process.env['LOOSE'] ? 'default' : 'serial' });
test.beforeAll(async ({ browser }) => {
  app = await App.start();
  // room on the strip: what is pinned here is to stand on it, not in its last menu
  for (const pin of await app.get('/pins')) if (pin.target !== 'shortcut') await app.call('DELETE', `/pins/${pin.id}`);
  page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
});
test.afterAll(() => app.end());

const strip = () => page.getByRole('navigation', { name: 'Pin strip' });
const rows = () => page.getByRole('row').and(page.locator('[data-index]'));
const row = (name: string) => rows().filter({ has: page.getByText(name, { exact: true }) });
const card = () => page.getByRole('complementary', { name: 'Card' });
const dialog = () => page.getByRole('dialog');
const view = (name: string) =>
  page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: new RegExp(`^${name}`) });
const notice = () => page.locator('.MuiSnackbar-root');
const find = () => page.getByRole('combobox', { name: 'Find anything, or type what to do' });
const closeDialog = async () => {
  await page.keyboard.press('Escape');
  await expect(dialog()).toHaveCount(0);
};

test('walks to a file, makes a shortcut, pins it, opens it by its key, and again after it was renamed outside', async () => {
  await view('Originals').click();
  for (const folder of ['Boat', 'Safety']) await row(folder).dblclick();
  await row('flares.csv').click();
  await expect(card()).toContainText('An original');
  await page.getByRole('row', { selected: true }).press('p');
  await expect(strip()).toContainText('flares');
  const slot = await strip().getByRole('button').filter({ hasText: 'flares' }).getAttribute('data-pin');
  await page.keyboard.press(slot!);
  await expect(dialog()).toContainText('Stand-in opener');
  await expect(dialog().getByRole('table')).toContainText('hand red');
  await closeDialog();

  const from = join(app.place, 'Boat/Safety/flares.csv');
  const to = join(app.place, 'Boat/flares and their dates.csv');
  renameSync(from, to);
  await expect(
    strip().getByRole('button').filter({ hasText: 'flares' }).getByRole('img', { name: 'Followed' }),
  ).toBeVisible({ timeout: 3000 });
  await page.keyboard.press(slot!);
  await expect(dialog()).toContainText('flares and their dates.csv');
  await expect(dialog().getByRole('table')).toContainText('hand red');
  await closeDialog();
});

test('says on the card what was followed, from where, and can be marked as seen', async () => {
  await view('Catalogue').click();
  await rows().first().waitFor();
  await find().fill('flares');
  await expect(page.getByRole('option').first()).toContainText('flares');
  await find().press('Escape');
  await find().press('Escape');
  await page.getByRole('button', { name: 'State' }).click();
  await page.getByRole('menuitem', { name: 'Followed' }).click();
  await rows().first().click();
  await expect(card()).toContainText('moved here from');
  await card().getByRole('button', { name: 'Mark as seen' }).click();
  await expect(card().getByRole('status')).toHaveCount(0);
  await page.goto(`${app.address}/catalogue`);
});

test('renames, describes and removes by keys, with undo and redo', async () => {
  await page.goto(`${app.address}/catalogue`);
  await row('Boat manual').click();
  await page.keyboard.press('F2');
  await dialog().getByLabel('Name').fill('');
  await dialog().getByRole('button', { name: 'Rename' }).click();
  await expect(dialog()).toContainText('A shortcut needs a name');
  await dialog().getByLabel('Name').fill('Engine handbook');
  await page.keyboard.press('Enter');
  await expect(row('Engine handbook')).toBeVisible();
  expect(existsSync(join(app.place, 'Boat/Engine/Boat manual.pdf'))).toBe(true);

  await row('Engine handbook').click();
  await page.keyboard.press('d');
  await dialog().getByLabel('Description').fill('Oil before every crossing.');
  await dialog().getByRole('button', { name: 'Save' }).click();
  await expect(card()).toContainText('Oil before every crossing.');

  await row('Engine handbook').click();
  await page.keyboard.press('Delete');
  await expect(row('Engine handbook')).toHaveCount(0);
  await expect(notice()).toContainText('Its original is untouched');
  await notice().getByRole('button', { name: 'Undo' }).click();
  await expect(row('Engine handbook')).toBeVisible();
  await page.keyboard.press('Control+Shift+Z');
  await expect(row('Engine handbook')).toHaveCount(0);
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('Control+Z');
    await expect(notice()).toContainText('Undone');
  }
  await expect(row('Boat manual')).toBeVisible();
});

test('a removed shortcut waits in the bin and is put back with its pin', async () => {
  await page.goto(`${app.address}/catalogue?sort=week&order=down`);
  await row('Tide table').click();
  await page.keyboard.press('Delete');
  await expect(strip()).not.toContainText('Tide table');
  await view('Bin').click();
  await row('Tide table').getByRole('button', { name: 'Put back' }).click();
  await expect(strip().getByRole('button').nth(1)).toContainText('Tide table');
});

test('drags a row onto the strip; the label says first what the drop will do', async () => {
  await page.goto(`${app.address}/catalogue`);
  const handle = row('Annual reports').locator('.drag-handle');
  await handle.hover();
  const target = (await strip().getByRole('button').nth(2).boundingBox())!;
  await page.mouse.down();
  await page.mouse.move(target.x + 300, target.y + 200, { steps: 4 });
  await page.mouse.move(target.x + 8, target.y + 18, { steps: 6 });
  await expect(page.locator('.drag-label')).toContainText('Pin “Annual reports” as 3');
  await page.mouse.up();
  await expect(strip().getByRole('button').nth(2)).toContainText('Annual reports');
  await page.keyboard.press('Control+Z');
  await expect(strip()).not.toContainText('Annual reports');
});

test('reorders pins by drag and by keyboard, and unpins', async () => {
  const first = strip().getByRole('button').first();
  await expect(first).toContainText('Ringing log');
  await first.focus();
  await page.keyboard.press('Alt+ArrowRight');
  await expect(strip().getByRole('button').nth(1)).toContainText('Ringing log');
  const from = (await strip().getByRole('button').nth(1).boundingBox())!;
  const to = (await strip().getByRole('button').nth(0).boundingBox())!;
  await page.mouse.move(from.x + 40, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y + 24, { steps: 3 });
  await page.mouse.move(to.x + 30, to.y + 20, { steps: 6 });
  await expect(page.locator('.drag-label')).toContainText('to 1');
  await page.mouse.up();
  await expect(strip().getByRole('button').first()).toContainText('Ringing log');
  const count = await strip().getByRole('button').count();
  await strip().getByRole('button').last().focus();
  await page.keyboard.press('Delete');
  await expect(strip().getByRole('button')).toHaveCount(count - 1);
  await page.keyboard.press('Control+Z');
  await expect(strip().getByRole('button')).toHaveCount(count);
});

test('a pin dragged off the strip is unpinned; the label says so before', async () => {
  const count = await strip().getByRole('button').count();
  const pin = strip().getByRole('button').nth(1);
  const name = (await pin.locator('.cut').textContent())!;
  const from = (await pin.boundingBox())!;
  await page.mouse.move(from.x + 40, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y + 40, { steps: 3 });
  await page.mouse.move(60, 640, { steps: 8 });
  await expect(page.locator('.drag-label')).toContainText(`Unpin “${name}”`);
  // the label stands beside the pointer, not over what is below it
  const label = (await page.locator('.drag-label').boundingBox())!;
  expect([label.x > 60, label.y > 640]).toEqual([true, true]);
  await page.mouse.up();
  await expect(strip().getByRole('button')).toHaveCount(count - 1);
  await page.keyboard.press('Control+Z');
  await expect(strip().getByRole('button')).toHaveCount(count);
});

test('letters typed quickly go to a name and run nothing; one by itself is its command', async () => {
  await page.goto(`${app.address}/catalogue`);
  await rows().first().click();
  await page.keyboard.type('tide', { delay: 60 });
  await expect(page.getByRole('row', { selected: true })).toContainText('Tide table');
  await expect(dialog()).toHaveCount(0);
  // after a pause the next letter is a command again
  await page.waitForFunction((start) => performance.now() - start > 1100, await page.evaluate(() => performance.now()));
  await page.keyboard.press('t');
  await expect(dialog()).toContainText('Tags of “Tide table”');
  await page.keyboard.press('Escape');
});

test('adds from a pasted path and address, and refuses what is outside or not allowed', async () => {
  await page.goto(`${app.address}/catalogue`);
  await rows().first().waitFor();
  await page.keyboard.press('n');
  await dialog().getByLabel('Points to').fill('/etc/passwd');
  await dialog().getByRole('button', { name: 'Add shortcut' }).click();
  // said at the field it concerns
  await expect(dialog()).toContainText('outside every place');
  await dialog().getByLabel('Points to').fill('javascript:alert(1)');
  await dialog().getByRole('button', { name: 'Add shortcut' }).click();
  await expect(dialog()).toContainText('not allowed');
  await dialog().getByLabel('Points to').fill(join(app.place, 'Records/Species codes.csv'));
  await dialog().getByLabel('Name').fill('Codes again');
  await dialog().getByRole('button', { name: 'Add shortcut' }).click();
  await expect(row('Codes again')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', 'https://tides.example/today');
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
  });
  await expect(dialog().getByLabel('Points to')).toHaveValue('https://tides.example/today');
  await dialog().getByRole('button', { name: 'Add shortcut' }).click();
  await expect(row('tides.example today')).toBeVisible();
});

test('the find line opens with Enter, lists acts with the second key, runs commands, goes to paths', async () => {
  await page.goto(`${app.address}/reach`);
  await rows().first().waitFor();
  await page.keyboard.press('/');
  await expect(page.getByRole('option').first()).toBeVisible(); // opened lately, before a letter
  await page.keyboard.type('tdie tab'); // one slip
  await expect(page.getByRole('option').first()).toContainText('Tide table');
  await page.keyboard.press('Enter');
  await expect(dialog()).toContainText('tides-nov-2026.csv');
  await closeDialog();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('capture-effort-2026');
  await expect(page.getByRole('option').first()).toContainText('capture-effort-2026.csv');
  await page.keyboard.press('Shift+Enter');
  await expect(page.getByRole('listbox')).toContainText('Add shortcut');
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('option', { name: 'Add shortcut', exact: true })).toHaveAttribute(
    'aria-selected',
    'true',
  );
  await page.keyboard.press('Enter');
  await expect(notice()).toContainText('Added “capture-effort-2026”');
  await page.keyboard.press('/');
  await page.keyboard.type('go to journal');
  await page.getByRole('option', { name: 'Go to Journal' }).click();
  await expect(page).toHaveURL(/journal/);
  await expect(row('Added “capture-effort-2026”')).toBeVisible();
  await page.keyboard.press('/');
  await page.keyboard.type(join(app.place, 'Moths/Forms/moth-form.odt'));
  await page.getByRole('option', { name: /Show where/ }).click();
  await expect(page.getByRole('row', { selected: true })).toContainText('moth-form.odt');
});

test('shows each kind of thing: text, Markdown, table, picture, PDF, sound', async () => {
  const look = async (path: string) => {
    await page.keyboard.press('/');
    await find().fill(join(app.place, path));
    await page.getByRole('option', { name: /Show where/ }).click();
    // not the row selected in the folder before
    const shown = page.getByRole('row', { selected: true }).filter({ hasText: path.split('/').pop()! });
    await expect(shown).toBeVisible();
    await shown.press('v');
    await expect(dialog()).toBeVisible();
  };
  await look('Office/Code of the kitchen.txt');
  await expect(dialog()).toContainText('Tea is counted.');
  await closeDialog();
  await look('Records/Sightings board.md');
  await expect(dialog().getByRole('heading', { name: 'Sightings board', level: 1 })).toBeVisible();
  await closeDialog();
  await look('Records/Species codes.csv');
  await expect(dialog().getByRole('cell', { name: 'wheatear' })).toBeVisible();
  await closeDialog();
  await look('Survey/Maps/Chart of the headland.png');
  const picture = dialog().getByRole('img');
  await expect(picture).toBeVisible();
  expect(await picture.evaluate((img: HTMLImageElement) => img.decode().then(() => img.naturalWidth))).toBe(480);
  await closeDialog();
  await look('Boat/Engine/Boat manual.pdf');
  await expect(dialog().getByRole('img', { name: 'Page 1 of 1' })).toBeVisible();
  await closeDialog();
  await look('Sound/North cliff/2026-11/roost-2026-11-21.wav');
  await expect
    .poll(() =>
      dialog()
        .locator('audio')
        .evaluate((a: HTMLAudioElement) => a.duration),
    )
    .toBeGreaterThan(0.5);
  await closeDialog();
});

test('lists programs by name; one is pinned and opens as a stand-in', async () => {
  await page.goto(`${app.address}/originals/programs`);
  await row('Chartroom').click();
  await expect(card()).toContainText('Maps and tracks');
  await page.keyboard.press('Enter');
  await expect(dialog()).toContainText('would have started');
  await expect(dialog()).toContainText('chartroom');
  await closeDialog();
});

test('a drive pulled and plugged in again: away at once, ready by itself, connected by opening', async () => {
  await page.goto(`${app.address}/catalogue`);
  await page.goto(`${app.address}/settings`);
  const drive = page.locator('.place-row').filter({ hasText: 'Field drive' });
  await drive.getByRole('button', { name: 'Disconnect' }).click();
  await expect(page.getByRole('link', { name: 'Field drive away' })).toBeVisible();
  const pin = strip().getByRole('button').filter({ hasText: 'Wavescope takes' });
  await expect(pin.getByRole('img', { name: 'Away' })).toBeVisible();
  await drive.getByRole('button', { name: 'Connect', exact: true }).click();
  await expect(pin.getByRole('img', { name: 'Ready' })).toBeVisible();
  await drive.getByRole('button', { name: 'Disconnect' }).click();
  await expect(pin.getByRole('img', { name: 'Away' })).toBeVisible();
  // opening connects what is away first
  await pin.click();
  await expect(notice()).toContainText('would have started');
  await expect(pin.getByRole('img', { name: 'Ready' })).toBeVisible();
});

test('a change on disk reaches an open folder by itself', async () => {
  await page.goto(`${app.address}/originals`);
  await row('Moths').dblclick();
  await row('Forms').dblclick();
  await expect(row('moth-form.odt')).toBeVisible();
  writeFileSync(join(app.place, 'Moths/Forms/new sheet.csv'), 'a,b\n');
  // how soon is for the bench to say (watch.event)
  await expect(row('new sheet.csv')).toBeVisible();
});

test('the session survives a restart of the server; the page goes on by itself', async () => {
  await app.stopServer('SIGKILL');
  unlinkSync(join(app.place, 'Moths/Forms/new sheet.csv'));
  await expect(page.getByText('Rellin does not answer; trying again')).toBeVisible();
  await app.serve();
  await expect(page.getByText('Rellin does not answer; trying again')).toHaveCount(0, { timeout: 15_000 });
  await page.reload();
  await expect(row('moth-form.odt')).toBeVisible();
  await expect(row('new sheet.csv')).toHaveCount(0);
});

test('keeps to the keyboard alone: walk, add, pin, open, undo', async () => {
  await page.goto(`${app.address}/originals`);
  await rows().first().waitFor();
  await rows().first().focus();
  await page.keyboard.press('End');
  await expect(page.getByRole('row', { selected: true })).toContainText('Survey');
  await page.keyboard.press('Enter');
  await expect(row('Maps')).toBeVisible();
  await expect(page.locator('[role=row]:focus')).toHaveCount(1);
  await page.keyboard.press('Home');
  await page.keyboard.press('n');
  await expect(notice()).toContainText('Added');
  await page.keyboard.press('Control+Z');
  await expect(notice()).toContainText('Undone: Added');
  await page.locator('[role=row]:focus').press('Backspace');
  await expect(row('Boat')).toBeVisible();
  await expect(page.getByRole('row', { selected: true })).toContainText('Survey');
  await page.keyboard.press('?');
  await expect(dialog()).toContainText('Open the pin with that key');
  await closeDialog();
});

test('opens fifty times by key while the file is renamed and moved behind its back; each shows the real bytes', async () => {
  await page.goto(`${app.address}/catalogue`);
  const names = [
    'Office/rota a.csv',
    'rota b.csv',
    'Boat/Safety/rota c.csv',
    'Office/Grants/rota d.csv',
    'Moths/rota.csv',
  ];
  writeFileSync(join(app.place, names[0]!), 'day,who\nMonday,Ishbel\n');
  await rows().first().waitFor();
  await page.keyboard.press('n');
  await dialog().getByLabel('Points to').fill(join(app.place, names[0]!));
  await dialog().getByLabel('Name').fill('Fifty times');
  await dialog().getByLabel('Pin it to the strip').check();
  await dialog().getByRole('button', { name: 'Add shortcut' }).click();
  const pin = strip().getByRole('button').filter({ hasText: 'Fifty times' });
  const key = (await pin.getAttribute('data-pin'))!;
  for (let i = 0; i < 50; i++) {
    const now = names[Math.floor(i / 10)]!;
    if (i % 10 === 0 && i > 0) renameSync(join(app.place, names[i / 10 - 1]!), join(app.place, now));
    await page.keyboard.press(key);
    await expect(dialog()).toContainText(now);
    await expect(dialog().getByRole('cell', { name: 'Ishbel' })).toBeVisible();
    await closeDialog();
  }
  const made = (await app.get('/shortcuts')).find((s) => s.name === 'Fifty times')!;
  expect(made.weight).toBeGreaterThan(49.9);
});

test('makes a shortcut from the context menu and from the button on the row', async () => {
  await page.goto(`${app.address}/originals`);
  await row('Records').dblclick();
  await row('Sightings board.md').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Add another shortcut' }).click();
  await expect(notice()).toContainText('Added “Sightings board”');
  await page.goto(`${app.address}/originals`);
  await row('Office').dblclick();
  await row('Code of the kitchen.txt').hover();
  await row('Code of the kitchen.txt').getByRole('button', { name: 'Add shortcut' }).click();
  await expect(notice()).toContainText('Added “Code of the kitchen”');
  await expect(row('Code of the kitchen.txt')).toContainText('has a shortcut');
});

test('installs as its own window: manifest, icons, fonts of its own', async () => {
  const manifest = await page.evaluate(
    async () => (await (await fetch('/manifest.webmanifest')).json()) as { display: string; icons: { src: string }[] },
  );
  expect(manifest.display).toBe('standalone');
  for (const { src } of manifest.icons)
    expect(await page.evaluate(async (at) => (await fetch(at)).status, src)).toBe(200);
  expect(await page.evaluate(() => document.fonts.check("14px 'Atkinson Hyperlegible Next Variable'"))).toBe(true);
});

test('a part that cannot be fetched takes only itself down, and comes when the page is loaded again', async () => {
  const other = await page.context().newPage();
  await other.goto(`${app.address}/catalogue`);
  await other.getByRole('row').nth(1).waitFor();
  await other.route(/\/assets\/(PlanView|ShortcutCard)-/, (route) => route.abort());
  const links = other.getByRole('navigation', { name: 'Views' });
  const failed = (what: string) => other.getByRole('heading', { name: `This ${what} has failed` });
  await links.getByRole('link', { name: /^Plan/ }).click();
  await expect(failed('view')).toBeVisible();
  await links.getByRole('link', { name: /^Catalogue/ }).click();
  await other.getByRole('row', { name: /Chartroom/ }).click();
  await expect(failed('card')).toBeVisible();
  await links.getByRole('link', { name: /^Originals/ }).click();
  await other.getByRole('row', { name: /^Boat/ }).click();
  await expect(other.getByRole('heading', { name: 'Boat' })).toBeVisible();
  await links.getByRole('link', { name: /^Catalogue/ }).click();
  await other.getByRole('row', { name: /Chartroom/ }).click();
  await other.unroute(/\/assets\/(PlanView|ShortcutCard)-/);
  await other.getByRole('button', { name: 'Load the page again' }).click();
  await other.getByRole('row', { name: /Chartroom/ }).click();
  await expect(other.getByRole('heading', { name: 'Where it is' })).toBeVisible();
  await other.close();
});
