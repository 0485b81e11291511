/** The card of a shortcut and of a collection: what it tells, and what its buttons do. */
import { describe, expect, it, jest } from '@jest/globals';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect } from 'react';
import type { ShortcutDetail, TagView } from '@rellin/contract';
import { useWorkspaceActions, type Selected } from '../workspace/workspace';
import { OPENED, aCollection, aShortcut, renderPage, type Answers } from '../testing/page';

// jsdom cannot draw; the chart is looked at in the browser
jest.unstable_mockModule('./WeeklyChart', () => ({ default: () => null }));
const { Card } = await import('./Card');

const tag: TagView = { id: 't1', name: 'boat', colour: 'brick', count: 1, pinned: false };
const boat = aCollection({ id: 'c1', name: 'Boat', count: 2, description: 'All of the boat.' });
const slipway = aCollection({ id: 'c2', name: 'Slipway', count: 1, parents: ['c1'] });
const detail = (more: Partial<ShortcutDetail> = {}): ShortcutDetail => ({
  ...aShortcut({
    id: 's1',
    name: 'Tide table',
    collections: ['c1'],
    tags: ['t1'],
    pinSlot: 2,
    alsoCalled: ['high water'],
  }),
  boards: [],
  steps: [
    { id: 1, name: 'Marrowick', among: 3 },
    { id: 7, name: 'tides.csv', among: 12 },
  ],
  weekly: [0, 1, 2, 0, 0, 3, 1, 0, 0, 2, 1, 4],
  preview: 'table',
  candidates: [],
  goesWith: [{ id: 'w1', shortcutId: 's2', name: 'Flares', kind: 'table', state: 'ready' }],
  ...more,
});
const opened = OPENED;

function Selected({ what }: { what: Selected }) {
  const { select } = useWorkspaceActions();
  useEffect(() => select(what), [select, what]);
  return <Card />;
}
const SHORTCUT: Selected = { type: 'shortcut', id: 's1' };
const show = (what: Selected | undefined, answers: Answers = {}) =>
  renderPage(what ? <Selected what={what} /> : <Card />, {
    'GET /shortcuts': [detail()],
    'GET /shortcuts/s1': detail(),
    'GET /collections': [boat, slipway],
    'GET /tags': [tag],
    ...answers,
  });

describe('the card of a shortcut', () => {
  it('tells where its original is, how many lie beside it, and where the shortcut stands', async () => {
    await show(SHORTCUT);
    expect(screen.getByRole('heading', { name: 'Tide table' })).toBeTruthy();
    expect(screen.getByText('1 of 12')).toBeTruthy();
    expect(screen.getByText('Also called high water')).toBeTruthy();
    expect(screen.getByText('Pin strip, 2')).toBeTruthy();
    expect(screen.getByRole('link', { name: /Boat/ }).getAttribute('href')).toBe('/collections/c1');
    expect(screen.getByRole('link', { name: /boat/ }).getAttribute('href')).toBe('/collections/tag/t1');
  });

  it('opens what goes with it alone, and all of it together, its own first', async () => {
    const page = await show(SHORTCUT, { 'POST /openings': opened });
    await userEvent.click(screen.getByRole('button', { name: /Flares.*table/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Open all 2' }));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(3));
    expect(page.sent('POST').map((a) => a.body)).toEqual([
      { shortcutId: 's2', route: 'goes-with' },
      { shortcutId: 's1', route: 'together' },
      { shortcutId: 's2', route: 'together' },
    ]);
  });

  it('parts what goes with it without removing it', async () => {
    const page = await show(SHORTCUT);
    await userEvent.click(screen.getByRole('button', { name: 'Flares no longer goes with it' }));
    expect(page.sent('DELETE').map((a) => a.path)).toEqual(['/shortcuts/s1/goes-with/w1']);
    expect(await screen.findByText('No longer goes with “Tide table”')).toBeTruthy();
  });

  it('leads to the forms for collections, tags and companions', async () => {
    await show(SHORTCUT);
    for (const [button, dialog] of [
      ['+ collection', 'add-to-collection'],
      ['+ tag', 'tags'],
      ['+ something', 'goes-with'],
    ] as const) {
      await userEvent.click(screen.getByRole('button', { name: button }));
      expect(screen.getByTestId('dialog').textContent).toBe(dialog);
    }
  });

  it.each([
    ['followed', 'Mark as seen'],
    ['lost', 'Change target…'],
  ] as const)('says what happened where it is %s, and what to do', async (state, act) => {
    await show(SHORTCUT, { 'GET /shortcuts/s1': detail({ state, stateReason: 'Its file moved about.' }) });
    expect(screen.getByText('Its file moved about.')).toBeTruthy();
    expect(screen.getByRole('button', { name: act })).toBeTruthy();
  });

  it('lists the candidates where it is unsure, and points to the one chosen', async () => {
    const page = await show(SHORTCUT, {
      'GET /shortcuts/s1': detail({
        state: 'unsure',
        stateReason: 'Two are alike.',
        candidates: [
          { placeId: 1, originalId: 8, path: '/home/wren/a.csv' },
          { placeId: 1, originalId: 9, path: '/home/wren/b.csv' },
        ],
      }),
      'POST /shortcuts/s1/repoint': detail(),
    });
    await userEvent.click(screen.getAllByRole('button', { name: 'Point here' })[1]!);
    expect(page.sent('POST')[0]!.body).toEqual({ typed: '/home/wren/b.csv' });
  });
});

describe('the card of a collection', () => {
  it('tells what it is, what it lies in, and shows what it holds', async () => {
    await show({ type: 'collection', id: 'c2' });
    expect(screen.getByText(/A collection · 1 thing/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Boat' }));
    expect(screen.getByTestId('where').textContent).toBe('/collections/c1');
  });

  it('takes nothing into a mirror', async () => {
    const mirror = aCollection({ id: 'c3', name: 'Folder', type: 'mirror', count: 9 });
    await show({ type: 'collection', id: 'c3' }, { 'GET /collections': [mirror] });
    expect(screen.getByText(/A mirror · 9 things/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Gather' })).toBeNull();
  });
});

describe('an empty card', () => {
  it('says what it is for', async () => {
    await show(undefined);
    expect(screen.getByText(/Select something/)).toBeTruthy();
  });
});
