import { describe, expect, it } from '@jest/globals';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { UsageSummary } from '@rellin/contract';
import { renderPage } from '../testing/page';
import UsageView from './UsageView';

const USE: UsageSummary = {
  recording: true,
  recentFiles: true,
  total: 1946,
  items: [
    { shortcutId: 's1', name: 'Tide table', count: 80, lastAt: '2026-11-24T08:00:00Z' },
    { shortcutId: null, name: 'engine-hours.csv', count: 11, lastAt: '2026-11-23T08:00:00Z' },
  ],
  days: [{ day: '2026-11-24', count: 12 }],
  parts: [0, 900, 400, 0, 0, 0, 646, 0],
  routes: [{ route: 'pin-key', count: 1200 }],
};
const show = (use: Partial<UsageSummary> = {}) =>
  renderPage(<UsageView />, {
    'GET /openings/summary': { ...USE, ...use },
    'POST /openings/forget': { forgotten: 80 },
    'PATCH /settings': {},
  });
const button = (name: string | RegExp) => screen.getByRole('button', { name });

describe('what is known', () => {
  it('is told by thing, part of the week, way and day', async () => {
    await show();
    expect(screen.getByText('1,946 openings, on this machine only')).toBeTruthy();
    for (const name of ['Tide table', 'engine-hours.csv', 'work-day mornings', 'weekend afternoons', 'pin, by key'])
      expect(screen.getByRole('rowheader', { name })).toBeTruthy();
    expect(screen.queryByText('work-day nights')).toBeNull();
  });
  it('is paused by a switch', async () => {
    const page = await show();
    await userEvent.click(screen.getByRole('switch', { name: 'Openings are counted' }));
    await userEvent.click(screen.getByRole('switch', { name: /also in other programs/ }));
    expect(page.sent('PATCH').map((a) => a.body)).toEqual([{ recording: false }, { recentFiles: false }]);
  });
  it('is forgotten only after a question that says how much', async () => {
    const page = await show();
    await userEvent.click(button('Forget the openings of Tide table'));
    expect(screen.getByText(/Rellin forgets the 80 openings of “Tide table”/)).toBeTruthy();
    expect(page.sent('POST')).toEqual([]);
    await userEvent.click(button('Forget'));
    expect(page.sent('POST')[0]).toMatchObject({ path: '/openings/forget', body: { shortcutId: 's1' } });
  });
  it('is forgotten for a period, whose end must not lie before its beginning', async () => {
    const page = await show();
    await userEvent.click(button('Forget a period…'));
    await userEvent.type(screen.getByLabelText('From'), '2026-11-02');
    await userEvent.type(screen.getByLabelText('To, that day included'), '2026-11-01');
    expect(button('Go on').hasAttribute('disabled')).toBe(true);
    await userEvent.clear(screen.getByLabelText('To, that day included'));
    await userEvent.type(screen.getByLabelText('To, that day included'), '2026-11-03');
    await userEvent.click(button('Go on'));
    expect(screen.getByText(/what was opened from 2026-11-02 to 2026-11-03/)).toBeTruthy();
    await userEvent.click(button('Forget'));
    const { from, to } = page.sent('POST')[0]!.body as { from: string; to: string };
    expect(new Date(to).getTime() - new Date(from).getTime()).toBe(2 * 86_400_000 - 1);
  });
  it('says so where there is nothing', async () => {
    await show({ total: 0, items: [], days: [], parts: Array<number>(8).fill(0), routes: [] });
    expect(screen.getByText('No usage recorded yet')).toBeTruthy();
    expect(button('Forget everything…').hasAttribute('disabled')).toBe(true);
  });
});
