/** Somebody new: from the first address to the first thing opened by key, on a home folder as desktops leave one. */
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { byPinKey, choosing, pointing, REACH_CONSTANTS as c } from '@rellin/core/reach';
import { seeded } from '@rellin/core/random';
import { writeNewHome } from '../scripts/lib/newHome.mjs';
import { App } from './app';

type Next = { path: string; program: string }[];

let app: App;
let next: Next;
let files: string[];
test.afterEach(() => app?.end());

const start = async (seed: number) => {
  app = await App.startNew((home) => ({ next, files } = writeNewHome(home, seeded(seed), Date.now())));
};
const setUp = (page: Page) => page.getByRole('button', { name: 'Set up', exact: true });
const strip = (page: Page) => page.getByRole('navigation', { name: 'Pin strip' });

/** The share of the week's openings that these are. */
const coverage = (names: ReadonlySet<string>) =>
  next.filter(({ path, program }) => names.has(path || program)).length / next.length;

/** Those opened most in that week. */
function bestOf(most: number): string[] {
  const counts = new Map<string, number>();
  for (const { path, program } of next) counts.set(path || program, (counts.get(path || program) ?? 0) + 1);
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .slice(0, most)
    .map(([name]) => name);
}

test('has the first pinned thing opened by key within six acts and thirty seconds', async ({ browser }) => {
  await start(1);
  const page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
  await expect(page.getByRole('heading', { name: 'Begin with what is there' })).toBeVisible();
  await page.getByRole('option').first().waitFor();
  // what the person does, each with its predicted seconds by the keystroke-level model
  const acts: { act: string; seconds: number }[] = [
    { act: 'reads three questions and leaves what is proposed', seconds: 3 * c.M + choosing(9, 0, c) },
  ];
  const button = (await setUp(page).boundingBox())!;
  const distance = Math.hypot(button.x + button.width / 2 - 640, button.y + button.height / 2 - 400);
  acts.push({ act: 'presses Set up', seconds: c.M + c.H + pointing(distance, button.height, c) + 2 * c.B });
  const pressed = Date.now();
  await setUp(page).click();
  await expect(strip(page).getByRole('button').first()).toBeVisible();
  acts.push({ act: 'waits', seconds: (Date.now() - pressed) / 1000 });
  const first = (await app.get('/pins'))[0]!;
  acts.push({ act: 'presses 1', seconds: byPinKey(1, c).seconds });
  await page.keyboard.press('1');
  await expect(page.getByRole('dialog')).toContainText(first.name);
  const seconds = acts.reduce((sum, one) => sum + one.seconds, 0);
  test.info().annotations.push({ type: 'first minute', description: `${acts.length} acts, ${seconds.toFixed(1)} s` });
  expect(acts.length).toBeLessThanOrEqual(6);
  expect(seconds).toBeLessThanOrEqual(30);

  // one undo takes all of it back
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(strip(page).getByRole('button')).toHaveCount(0);
  // a moment later they are no longer looked into
  await expect.poll(async () => (await app.get('/places')).length).toBe(0);
});

test('lays a first strip that covers most of what is opened in the week after, far more than nine at random', async () => {
  const shares: number[] = [];
  const byChance: number[] = [];
  const hindsight: number[] = [];
  for (const seed of [11, 12, 13]) {
    await start(seed);
    const view = await app.get('/set-up');
    await app.call('POST', '/set-up', {
      folders: view.folders.filter((f) => f.proposed).map((f) => f.path),
      things: view.things.filter((t) => t.proposed).map((t) => t.key),
      way: 'rows',
    });
    const all = await app.get('/shortcuts');
    const pinned = all.filter((s) => s.pinSlot !== null);
    expect(pinned.length).toBeLessThanOrEqual(9);
    shares.push(coverage(new Set(pinned.map((s) => (s.target === 'original' ? s.location : s.name)))));
    const random = seeded(seed + 100);
    const nine = () => new Set(Array.from({ length: 9 }, () => random.pick(files)));
    byChance.push(Array.from({ length: 200 }, nine).reduce((sum, some) => sum + coverage(some), 0) / 200);
    hindsight.push(coverage(new Set(bestOf(9))));
    await app.end();
  }
  const told = shares
    .map(
      (share, i) => `${share.toFixed(2)} (at random ${byChance[i]!.toFixed(2)}, at best ${hindsight[i]!.toFixed(2)})`,
    )
    .join(', ');
  test.info().annotations.push({ type: 'first strip', description: told });
  process.stderr.write(`    first strip: ${told}\n`);
  for (const [i, share] of shares.entries()) {
    expect(share, told).toBeGreaterThanOrEqual(0.6);
    expect(share, told).toBeGreaterThan(2 * byChance[i]!);
  }
});

test('is done by the keyboard alone, chooses and leaves out, and axe finds nothing', async ({ browser }) => {
  await start(2);
  const page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
  const folders = page.getByRole('listbox', { name: 'Folders that Rellin may look into' });
  await folders.getByText('entries').first().waitFor();
  for (const scheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme: scheme });
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  }
  // the list is reached by Tab in ten stops at most
  await page.getByRole('link', { name: 'Settings' }).first().focus();
  let stops = 0;
  while (!(await folders.evaluate((list) => list === document.activeElement)) && stops < 30) {
    await page.keyboard.press('Tab');
    stops++;
  }
  const { length } = await folders.getByRole('option').all();
  await page.keyboard.press('Home');
  for (let i = 0; i < length; i++) {
    const option = folders.getByRole('option').nth(i);
    const isWanted = (await option.textContent())!.startsWith('Documents');
    if (((await option.getAttribute('aria-selected')) === 'true') !== isWanted) await page.keyboard.press('Space');
    await page.keyboard.press('ArrowDown');
  }
  await page.keyboard.press('Tab'); // the ways of working
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('radio', { name: /On a board/ })).toBeChecked();
  while (!(await setUp(page).evaluate((button) => button === document.activeElement))) await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/boards\//);
  await expect(
    page
      .getByRole('region', { name: 'Folders' })
      .or(page.getByText('Folders', { exact: true }))
      .first(),
  ).toBeVisible();
  const places = await app.get('/places');
  expect(places.map((p) => p.name)).toEqual(['Documents']);
  const all = await app.get('/shortcuts');
  expect(all.every((s) => s.target !== 'original' || s.location.includes('/Documents'))).toBe(true);
});

test('leads on where there is nothing to find, and comes back after it was skipped', async ({ browser }) => {
  app = await App.startNew(() => undefined);
  const page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
  await expect(page.getByText('No traces of use were found on this machine.', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Skip' }).click();
  await expect(page.getByRole('heading', { name: 'Nothing is within reach yet' })).toBeVisible();
  await page.goto(app.address);
  await expect(page).toHaveURL(/\/reach/);
  await page.getByRole('button', { name: 'Begin with what is there' }).click();
  await expect(page).toHaveURL(/\/set-up/);
});
