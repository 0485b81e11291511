/** Nothing that can be pressed slips away while a view is loaded, however late each of its answers comes. */
import { expect, test, type Page } from '@playwright/test';
import { VIEWS } from '../packages/web/src/workspace/views';
import { App } from './app';

let app: App;
let page: Page;
test.describe.configure({ mode: process.env['LOOSE'] ? 'default' : 'serial' });
test.beforeAll(async ({ browser }) => {
  app = await App.start(undefined, true);
  page = await app.enter(await browser.newContext({ viewport: { width: 1280, height: 800 } }));
});
test.afterAll(() => app.end());

/** Answers come in an order of chance, each up to half a second late. */
async function late(seed: number): Promise<void> {
  let state = seed;
  const chance = () => (state = (state * 48271) % 2147483647) / 2147483647;
  await page.route('**/api/**', async (route) => {
    if (route.request().url().includes('/events')) return route.continue();
    await new Promise((resolve) => setTimeout(resolve, chance() * 500));
    await route.continue().catch(() => undefined);
  });
}

/** What can be pressed and moved while the page was loaded, as the browser tells it (Layout Instability, W3C draft). */
test.beforeAll(() =>
  page.addInitScript(() => {
    const moved = ((window as unknown as { moved: string[] }).moved = [] as string[]);
    new PerformanceObserver((list) => {
      const shifts = list.getEntries() as unknown as {
        sources: { node: Node | null; previousRect: DOMRect; currentRect: DOMRect }[];
      }[];
      for (const { node, previousRect: was, currentRect: is } of shifts.flatMap((shift) => shift.sources)) {
        const element = node instanceof Element ? node : node?.parentElement;
        const pressed = 'a, button, input, [role=row], [role=option]';
        const [x, y] = [Math.round(is.x - was.x), Math.round(is.y - was.y)];
        if (!element || (!element.closest(pressed) && !element.querySelector(pressed)) || (x === 0 && y === 0))
          continue;
        moved.push(`${element.className || element.tagName} “${element.textContent?.slice(0, 40)}” by ${x}, ${y}`);
      }
    }).observe({ type: 'layout-shift', buffered: true });
  }),
);

for (const view of [...VIEWS.map(({ path }) => path), '/usage'])
  test(`${view} stands still while it is loaded`, async () => {
    for (const seed of [1, 2, 3]) {
      await late(seed);
      await page.goto(`${app.address}${view}`);
      await page.waitForLoadState('networkidle');
      const moved = await page.evaluate(() => (window as unknown as { moved: string[] }).moved);
      await page.unroute('**/api/**');
      expect(moved).toEqual([]);
    }
  });
