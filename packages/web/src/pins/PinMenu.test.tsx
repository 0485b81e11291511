import { describe, expect, it } from '@jest/globals';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { MemberView, PinView } from '@rellin/contract';
import { OPENED, aCollection, aPin, aShortcut, renderPage } from '../testing/page';
import { PinStrip } from './PinStrip';

const shortcuts = ['Engine hours', 'Boat manual', 'Tide table'].map((name, i) => aShortcut({ id: `s${i}`, name }));
const boat = aCollection({ id: 'c1', name: 'Boat', count: 3 });
const slipway = aCollection({ id: 'c2', name: 'Slipway', count: 1, parents: ['c1'] });
const member = (id: string, type: MemberView['type'], itemId: string): MemberView => ({
  id,
  type,
  itemId,
  keepFirst: false,
  addedAt: '2026-11-01T00:00:00Z',
});
const pin: PinView = {
  ...aPin(1, shortcuts[0]!),
  target: 'collection',
  targetId: 'c1',
  name: 'Boat',
  kind: null,
  count: 3,
};
const ANSWERS = {
  'GET /shortcuts': shortcuts,
  'GET /collections': [boat, slipway],
  'GET /pins': [pin, { ...aPin(2, shortcuts[2]!), id: 'pin-2', aside: true }],
  'GET /collections/c1/members': {
    collectionId: 'c1',
    revision: 1,
    members: [member('m1', 'shortcut', 's0'), member('m2', 'shortcut', 's1'), member('m3', 'collection', 'c2')],
  },
  'GET /collections/c2/members': { collectionId: 'c2', revision: 1, members: [member('m4', 'shortcut', 's2')] },
  'POST /openings': OPENED,
};
const options = () => screen.queryAllByRole('option').map((o) => o.querySelector('.name')!.textContent);
const open = async () => {
  const page = await renderPage(<PinStrip />, ANSWERS);
  await userEvent.click(screen.getByRole('button', { name: /Boat/ }));
  await waitFor(() => expect(options()).toHaveLength(3));
  return page;
};

describe('a pinned collection', () => {
  it('opens downward in its own order; Enter opens what is chosen and closes the menu', async () => {
    const page = await open();
    expect(options()).toEqual(['Engine hours', 'Boat manual', 'Slipway']);
    await userEvent.keyboard('{ArrowDown}{Enter}');
    expect(page.sent('POST').map((a) => a.body)).toEqual([{ shortcutId: 's1', route: 'pin-menu' }]);
    await waitFor(() => expect(screen.queryByRole('dialog', { name: 'Boat' })).toBeNull());
  });

  it('opens what lies deeper in place, tells where one is, and leads back', async () => {
    await open();
    await userEvent.keyboard('{ArrowDown}{ArrowDown}{ArrowRight}');
    await waitFor(() => expect(options()).toEqual(['Tide table']));
    const menu = screen.getByRole('dialog', { name: 'Boat' });
    expect(menu.querySelector('.pin-menu-trail')!.textContent).toBe('Boat › Slipway');
    await userEvent.click(within(menu).getByRole('button', { name: 'Boat' }));
    await waitFor(() => expect(options()).toHaveLength(3));
    await userEvent.keyboard('{ArrowDown}{ArrowDown}{Enter}');
    await waitFor(() => expect(options()).toEqual(['Tide table']));
    await userEvent.keyboard('{Backspace}');
    await waitFor(() => expect(options()).toHaveLength(3));
  });

  it('narrows by typing, forgives a slip, and says where nothing is called that', async () => {
    await open();
    await userEvent.keyboard('mnaual');
    await waitFor(() => expect(options()).toEqual(['Boat manual']));
    await userEvent.keyboard('zzz');
    expect(await screen.findByText('Nothing in here is called that.')).toBeTruthy();
  });

  it('closes by Escape and by a press elsewhere', async () => {
    await open();
    await userEvent.keyboard('{Escape}');
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    await userEvent.click(screen.getByRole('button', { name: /Boat/ }));
    await screen.findByRole('dialog', { name: 'Boat' });
    await userEvent.click(document.body);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  });

  it('shows all of it in its view', async () => {
    await open();
    await userEvent.click(screen.getByRole('button', { name: 'Show all' }));
    expect(screen.getByTestId('where').textContent).toBe('/collections/c1');
  });
});

describe('the last tab of the strip', () => {
  it('holds what was put aside, opens it, and gives it back to the strip', async () => {
    const page = await renderPage(<PinStrip />, { ...ANSWERS, 'PATCH /pins/pin-2': ANSWERS['GET /pins'] });
    await userEvent.click(screen.getByRole('button', { name: /1 more/ }));
    const item = await screen.findByRole('menuitem', { name: /Tide table/ });
    item.focus();
    await userEvent.keyboard('{ArrowRight}');
    await userEvent.click(await screen.findByRole('menuitem', { name: 'Put it back on the strip' }));
    expect(page.sent('PATCH').map((a) => [a.path, a.body])).toEqual([['/pins/pin-2', { aside: false }]]);
  });
});
