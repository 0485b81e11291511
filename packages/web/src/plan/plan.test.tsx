import { describe, expect, it, jest } from '@jest/globals';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { PlanChartsView, PlanView as Plan } from '@rellin/contract';
import { renderPage } from '../testing/page';

// jsdom cannot draw; the charts are looked at in the browser
jest.unstable_mockModule('react-chartjs-2', () => ({ Bar: () => null, Scatter: () => null }));
const { default: PlanView } = await import('./PlanView');

const PLAN: Plan = {
  weeks: 12,
  openings: 1946,
  byFolders: 1539,
  now: 421,
  planned: 364,
  bound: 320,
  suggestions: [
    {
      id: 'pin a',
      kind: 'pin',
      title: 'Pin “Net positions” as 3',
      reason: 'Often.',
      before: 3.1,
      after: 1.6,
      gain: 3.6,
    },
    {
      id: 'merge b c',
      kind: 'merge',
      title: 'Make one of “b” and “c”',
      reason: 'One.',
      before: null,
      after: null,
      gain: 0,
    },
    {
      id: 'key d',
      kind: 'key',
      title: 'Give “Tideplotter” the key T',
      reason: 'Free.',
      before: 2.8,
      after: 1.6,
      gain: 3.8,
    },
  ],
  rates: [],
  withoutShortcut: [],
  forecasts: [
    { at: '2026-05-03T12:00:00Z', said: 41, was: 37 },
    { at: '2026-11-20T12:00:00Z', said: 5, was: null },
  ],
};
const CHARTS: PlanChartsView = {
  weeks: [
    { start: '2026-11-05T12:00:00Z', parts: [1, 20, 30, 4], saved: 300.4 },
    { start: '2026-11-12T12:00:00Z', parts: [0, 25, 20, 0], saved: 61 },
  ],
  menus: [{ name: 'Ringing season', length: 9, seconds: 1.374 }],
  curve: [{ length: 10, unused: 1.8, daily: 1.4 }],
};
const show = (plan: Partial<Plan> = {}) =>
  renderPage(<PlanView />, { 'GET /plan': { ...PLAN, ...plan }, 'GET /plan/charts': CHARTS });
const row = (title: string) => screen.getByText(title).closest('li')!;

describe('the plan', () => {
  it('says what the week takes, what there is to gain, and what no plan can beat', async () => {
    await show();
    for (const text of ['25 min 39 s', '7 min 01 s', '6 min 04 s', '5 min 20 s', '57 s a week'])
      expect(screen.getByText(text)).toBeTruthy();
    expect(screen.getByText('from 12 weeks, 1,946 openings')).toBeTruthy();
    expect(within(row('Pin “Net positions” as 3')).getByText('3.1 s → 1.6 s')).toBeTruthy();
  });
  it('applies what is chosen at once: what moves nothing from the start, the rest when ticked', async () => {
    const page = await show();
    await userEvent.click(screen.getByRole('button', { name: 'Apply 2 chosen' }));
    expect(page.sent('POST')[0]).toMatchObject({ path: '/plan/apply', body: { ids: ['pin a', 'key d'] } });
    await userEvent.click(screen.getByRole('checkbox', { name: 'Make one of “b” and “c”' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Pin “Net positions” as 3' }));
    await userEvent.click(screen.getByRole('button', { name: 'Apply 2 chosen' }));
    expect(page.sent('POST')[1]).toMatchObject({ body: { ids: ['merge b c', 'key d'] } });
  });
  it('puts one off, refuses one, applies one', async () => {
    const page = await show();
    const press = (title: string, name: string) => userEvent.click(within(row(title)).getByRole('button', { name }));
    await press('Pin “Net positions” as 3', 'Later');
    await press('Make one of “b” and “c”', 'Never');
    await press('Give “Tideplotter” the key T', 'Apply');
    expect(page.sent('POST').map((a) => a.body)).toEqual([
      { id: 'pin a', answer: 'later' },
      { id: 'merge b c', answer: 'never' },
      { ids: ['key d'] },
    ]);
  });
  it('holds what was said against what it was', async () => {
    await show();
    expect(screen.getByText(/we said 41 s a week, it was 37 s/)).toBeTruthy();
    expect(screen.getByText(/we said 5 s a week; the week is not over yet/)).toBeTruthy();
  });
  it('explains itself, and says so where there is nothing to gain or to calculate from', async () => {
    await show({ suggestions: [] });
    expect(screen.getByText('Nothing to improve at the moment')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'How this is calculated' }));
    expect(screen.getByRole('dialog', { name: 'How this is calculated' })).toBeTruthy();
  });
  it('teaches what to do where nothing was opened yet', async () => {
    await show({ openings: 0, suggestions: [] });
    expect(screen.getByText('No usage recorded yet')).toBeTruthy();
  });
  it('tells each chart as a table as well, which can be shown in its place', async () => {
    await show();
    const openings = await screen.findByRole('region', { name: 'Openings by week' });
    expect(within(openings).getByText('100 in 2 weeks, by part of the day.')).toBeTruthy();
    const cells = (row: HTMLElement) =>
      within(row)
        .getAllByRole('cell')
        .map((cell) => cell.textContent);
    expect(cells(within(openings).getByRole('row', { name: /^5 Nov/ }))).toEqual(['1', '20', '30', '4']);
    const saved = screen.getByRole('region', { name: 'Time saved by week' });
    expect(within(saved).getByText('6 min 01 s in all, against going through the folders.')).toBeTruthy();
    const crowding = screen.getByRole('region', { name: 'Crowding' });
    expect(cells(within(crowding).getByRole('row', { name: /^Ringing season/ }))).toEqual(['9', '1.37']);
    await userEvent.click(within(crowding).getByRole('button', { name: 'Table: Crowding' }));
    expect(within(crowding).getByRole('button', { name: 'Chart: Crowding' })).toBeTruthy();
  });
});
