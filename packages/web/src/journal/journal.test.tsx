import { describe, expect, it } from '@jest/globals';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { JournalLine } from '@rellin/contract';
import { Refusal, renderPage } from '../testing/page';
import JournalView from './JournalView';

const line = (id: number, summary: string, more: Partial<JournalLine> = {}): JournalLine => ({
  id,
  at: '2026-11-24T08:00:00Z',
  act: 'add-shortcut',
  summary,
  by: 'person',
  undoneAt: null,
  inStack: true,
  ...more,
});
const LINES = [
  line(3, 'Opened “Tide table”', { act: 'open', inStack: false }),
  line(2, 'Followed “Ringing log”', { act: 'follow', by: 'automatic' }),
  line(1, 'Added “Tide table”', { undoneAt: '2026-11-24T09:00:00Z' }),
];
const show = (answers: object = {}) =>
  renderPage(<JournalView />, { 'GET /journal?limit=500': LINES, 'POST /journal/2/undo': LINES[1], ...answers });
const row = (name: RegExp) => screen.findByRole('row', { name });

describe('the journal', () => {
  it('lists what was done, by whom, and what is undone; openings only when asked for', async () => {
    await show();
    expect((await row(/Followed “Ringing log”/)).textContent).toContain('Rellin');
    expect((await row(/Added “Tide table”/)).textContent).toContain('undone');
    expect(screen.queryByText('Opened “Tide table”')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Openings too' }));
    expect((await row(/Opened “Tide table”/)).textContent).toContain('Forget');
  });

  it('undoes a line wherever it stands, says so, and reads the journal again', async () => {
    const page = await show();
    await userEvent.click(within(await row(/Followed/)).getByText('Undo'));
    expect(page.sent('POST').map((a) => a.path)).toEqual(['/journal/2/undo']);
    expect(await screen.findByText('Undone: Followed “Ringing log”')).toBeTruthy();
    expect(page.sent('GET').filter((a) => a.path === '/journal?limit=500').length).toBeGreaterThan(1);
  });

  it('says what stands against an undo, and changes nothing', async () => {
    await show({
      'POST /journal/2/undo': new Refusal('changed-since', 'It cannot be undone: name was changed again.'),
    });
    await userEvent.click(within(await row(/Followed/)).getByText('Undo'));
    expect(await screen.findByText('It cannot be undone: name was changed again.')).toBeTruthy();
    expect(within(await row(/Followed/)).getByText('Undo')).toBeTruthy();
  });

  it('says that nothing was done yet', async () => {
    await show({ 'GET /journal?limit=500': [] });
    expect(await screen.findByText('Nothing was done yet')).toBeTruthy();
  });

  it('says that it could not be loaded, and tries again', async () => {
    let tries = 0;
    const answer = () => (tries++ === 0 ? new Refusal('failed', 'PostgreSQL has stopped.', 503) : LINES);
    await show({ 'GET /journal?limit=500': answer });
    expect(await screen.findByText('The journal could not be loaded')).toBeTruthy();
    expect(screen.getByText('PostgreSQL has stopped.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(await row(/Followed/)).toBeTruthy();
  });
});
