/** The views on their own: empty, refused, filtered, and what their buttons ask of the server. */
import { describe, expect, it } from '@jest/globals';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { OpeningRecord } from '@rellin/contract';
import BinView from './bin/BinView';
import CatalogueView from './catalogue/CatalogueView';
import { KEY_LINES } from '@rellin/core/keys';
import { KeysDialog } from './frame/KeysDialog';
import ReachView, { latest } from './reach/ReachView';
import { SignIn } from './session/SignIn';
import { aShortcut, Refusal, renderPage } from './testing/page';

const all = [
  aShortcut({ id: 's1', name: 'Tide table', perWeek: 6, weight: 12 }),
  aShortcut({ id: 's2', name: 'Ringbook', kind: 'program', target: 'program', trail: [], weight: 3 }),
  aShortcut({ id: 's3', name: 'Old rota', state: 'lost', stateReason: 'Not found in any place.', weight: 0 }),
];
const rowNames = () =>
  screen
    .getAllByRole('row')
    .filter((r) => r.hasAttribute('data-index'))
    .map((r) => r.querySelector('.name')!.textContent);

describe('the Catalogue', () => {
  it('sorts by the address, and a press on a title changes it', async () => {
    await renderPage(<CatalogueView />, { 'GET /shortcuts': all }, '/catalogue?sort=week&order=down');
    expect(rowNames()[0]).toBe('Tide table');
    await userEvent.click(within(screen.getByRole('columnheader', { name: /Name/ })).getByRole('button'));
    expect(screen.getByTestId('where').textContent).toBe('/catalogue?sort=name');
    expect(rowNames()).toEqual(['Old rota', 'Ringbook', 'Tide table']);
  });

  it('narrows by a facet, and says how to widen again where nothing is left', async () => {
    await renderPage(<CatalogueView />, { 'GET /shortcuts': all }, '/catalogue?kind=program');
    expect(rowNames()).toEqual(['Ringbook']);
    await userEvent.click(screen.getByRole('button', { name: 'State' }));
    await userEvent.click(screen.getByRole('menuitem', { name: 'Lost' }));
    expect(screen.getByText('No shortcut fits these filters')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Show all' }));
    expect(rowNames()).toHaveLength(3);
  });

  it('teaches the first step where it is empty', async () => {
    await renderPage(<CatalogueView />);
    const empty = screen.getByRole('heading', { name: 'No shortcuts yet' }).closest('[role=gridcell]') as HTMLElement;
    await userEvent.click(within(empty).getByRole('button', { name: 'Add shortcut' }));
    expect(screen.getByTestId('dialog').textContent).toBe('add');
  });

  it('says why it cannot be read, and tries again', async () => {
    let away = true;
    await renderPage(<CatalogueView />, {
      'GET /shortcuts': () => (away ? new Refusal('database-away', 'PostgreSQL does not answer.', 503) : all),
    });
    expect(await screen.findByText('PostgreSQL does not answer.')).toBeTruthy();
    away = false;
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(await screen.findByText('Tide table')).toBeTruthy();
  });

  it('removes by a key on the row, and says that the original is untouched', async () => {
    const page = await renderPage(<CatalogueView />, { 'GET /shortcuts': all });
    await userEvent.click(screen.getByText('Old rota'));
    await userEvent.keyboard('{Delete}');
    expect(page.sent('DELETE').map((a) => a.path)).toEqual(['/shortcuts/s3']);
    expect(await screen.findByText(/Its original is untouched/)).toBeTruthy();
  });
});

describe('Reach', () => {
  const record = (id: string, name: string, shortcutId: string | null = null): OpeningRecord => ({
    id,
    at: '2026-11-24T08:00:00Z',
    name,
    how: 'viewer',
    argv: [],
    shortcutId,
    placeId: null,
    originalId: null,
  });

  it('begins with what is likely next and says why, in the order of the guess', async () => {
    const likely = {
      at: '2026-11-24T08:00:00',
      part: 1,
      after: 'Tide table',
      use: 'model',
      hit5: { model: 0.6, recent: 0.4, frequent: 0.5 },
      tested: 100,
      mixture: { rate: 0.4, part: 0.3, after: 0.3 },
      items: [
        { shortcutId: 's2', probability: 0.5, reason: { kind: 'after', item: 'Tide table', times: 14 } },
        { shortcutId: 's1', probability: 0.3, reason: { kind: 'weekday', weekday: 2, times: 9, of: 10 } },
      ],
    };
    await renderPage(<ReachView />, { 'GET /shortcuts': all, 'GET /reach/likely': likely });
    expect(rowNames().slice(0, 2)).toEqual(['Ringbook', 'Tide table']);
    expect(screen.getByText('after Tide table, 14 times')).toBeTruthy();
    expect(screen.getByText('9 of the last 10 Tuesdays')).toBeTruthy();
    expect(screen.getByText('Tuesday morning, after Tide table')).toBeTruthy();
  });

  it('begins with what is opened most before there is a guess, and counts what needs a person', async () => {
    const need = { shortcutId: 's9', placeName: 'Marrowick', was: 'a', candidates: [] };
    await renderPage(<ReachView />, {
      'GET /shortcuts': all,
      'GET /openings?limit=30': [record('o', 'Tide table', 's1')],
      'GET /check-up': { checkedAt: null, nextAt: '', among: 0, folderMoves: [], needs: [need], leftAlone: [] },
    });
    expect(rowNames().slice(0, 2)).toEqual(['Tide table', 'Ringbook']);
    expect(screen.getByRole('link', { name: 'One thing needs you' }).getAttribute('href')).toBe('/check-up');
  });

  it('shows each thing once among the recent, the latest first, no more than asked', () => {
    const records = [
      record('1', 'a', 'x'),
      record('2', 'b'),
      record('3', 'a', 'x'),
      record('4', 'b'),
      record('5', 'c'),
    ];
    expect(latest(records, 9).map((r) => r.id)).toEqual(['1', '2', '5']);
    expect(latest(records, 2).map((r) => r.id)).toEqual(['1', '2']);
  });

  it('leads a newcomer to the first steps', async () => {
    await renderPage(<ReachView />);
    await userEvent.click(screen.getByRole('button', { name: 'Begin with what is there' }));
    expect(screen.getByTestId('where').textContent).toBe('/set-up');
  });
});

describe('the Bin', () => {
  it('puts back what is chosen, newest removal first', async () => {
    const page = await renderPage(<BinView />, {
      'GET /shortcuts?from=bin': [
        { ...all[0]!, removedAt: '2026-11-01T08:00:00Z' },
        { ...all[2]!, removedAt: '2026-11-20T08:00:00Z' },
      ],
    });
    expect(rowNames()).toEqual(['Old rota', 'Tide table']);
    await userEvent.click(screen.getAllByRole('button', { name: 'Put back' })[0]!);
    expect(page.sent('POST').map((a) => a.path)).toEqual(['/shortcuts/s3/put-back']);
  });
});

describe('signing in', () => {
  const session = { signedIn: false, needsPassphrase: true, version: '0', demo: false };
  it('tells a used address from none, and how to get another', async () => {
    await renderPage(<SignIn />, { 'GET /session': { ...session, needsPassphrase: false } }, '/sign-in?used=1');
    expect(screen.getByText(/used already, or has expired/)).toBeTruthy();
    expect(screen.getByText('rellin address')).toBeTruthy();
    expect(screen.queryByLabelText('Passphrase')).toBeNull();
  });
  it('says that a passphrase is wrong', async () => {
    const page = await renderPage(<SignIn />, {
      'GET /session': session,
      'POST /session/sign-in': new Refusal('not-signed-in', 'That is not the passphrase.', 401),
    });
    await userEvent.type(screen.getByLabelText('Passphrase'), 'heron{Enter}');
    expect(await screen.findByText('That is not the passphrase.')).toBeTruthy();
    expect(page.sent('POST')[0]!.body).toEqual({ passphrase: 'heron' });
  });
});

describe('the keys', () => {
  it('are all listed, each with what it does, and the person’s own before them', async () => {
    await renderPage(<KeysDialog />, {
      'GET /shortcuts': [
        aShortcut({ id: 's1', name: 'Tide table', keys: 't t' }),
        aShortcut({ id: 's2', name: 'Log' }),
      ],
      'GET /searches': [{ id: 'q', name: 'Logs of the week', keys: 'l w' }],
      'GET /collections': [{ id: 'c', name: 'Boat', keys: 'b b' }],
      'GET /quick-filters': [{ id: 'f', name: 'Never opened', keys: 'n o' }],
    });
    const list = screen.getByRole('dialog', { name: 'Keys' });
    for (const name of ['Tide table', 'Logs of the week', 'Boat', 'Never opened'])
      expect(await within(list).findByText(name)).toBeTruthy();
    expect(within(list).queryByText('Log')).toBeNull();
    const said = [...list.querySelectorAll('dl > div')].map((row) => [
      row.querySelector('dt')!.textContent,
      row.querySelector('dd')!.textContent,
    ]);
    for (const { keys, what } of KEY_LINES) expect(said).toContainEqual([keys, what]);
    expect(said).toHaveLength(4 + KEY_LINES.length);
  });
});
