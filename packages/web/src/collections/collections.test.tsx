import type { DialogRequest } from '../workspace/dialogRequest';
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import { useEffect } from 'react';
import { Route, Routes } from 'react-router';
import type { CollectionView, MemberView, TagView } from '@rellin/contract';
import { useWorkspaceActions } from '../workspace/workspace';
import { aCollection, aShortcut, Refusal, renderPage, type Answers } from '../testing/page';
import { endOfDay } from './CollectionDialog';
import CollectionsView from './CollectionsView';
import { outline } from './CollectionTree';
import { GatherDialogs } from './dialogs';
import { MEMBER_ORDERS, memberRows } from './memberRows';
import { gatheredName, reorderedMembers } from '../acts/useGather';

const shortcuts = [
  aShortcut({ id: 's1', name: 'Net 10', perWeek: 2, size: 10, kind: 'table', collections: ['c1'], tags: ['t1'] }),
  aShortcut({ id: 's2', name: 'Net 2', perWeek: 5, size: 30, kind: 'picture', collections: ['c1'] }),
  aShortcut({ id: 's3', name: 'Rota', lastOpenedAt: '2026-11-20T08:00:00Z' }),
];
const season = aCollection({ id: 'c1', name: 'Season', count: 2, revision: 7 });
const inner = aCollection({ id: 'c2', name: 'Inner', parents: ['c1'], count: 1, lastMembers: 3, type: 'working-set' });
const tag: TagView = { id: 't1', name: 'boat', colour: 'brick', count: 1, pinned: false };
const member = (id: string, itemId: string, more: Partial<MemberView> = {}): MemberView => ({
  id,
  type: 'shortcut',
  itemId,
  keepFirst: false,
  addedAt: '2026-11-01T00:00:00Z',
  ...more,
});
const ANSWERS: Answers = {
  'GET /shortcuts': shortcuts,
  'GET /collections': [season, inner],
  'GET /tags': [tag],
  'GET /tags/t1/bearers': { shortcutIds: ['s1'], originals: [] },
  'GET /collections/c1/members': { collectionId: 'c1', revision: 7, members: [member('m1', 's1'), member('m2', 's2')] },
  'GET /collections/c2/members': { collectionId: 'c2', revision: 1, members: [] },
};
const show = (at: string, answers: Answers = {}) =>
  renderPage(
    <Routes>
      <Route path="/collections" element={<CollectionsView />} />
      <Route path="/collections/tag/:tagId" element={<CollectionsView />} />
      <Route path="/collections/:collectionId/:folderId?" element={<CollectionsView />} />
    </Routes>,
    { ...ANSWERS, ...answers },
    at,
  );
const rowNames = () =>
  screen
    .getAllByRole('row')
    .filter((r) => r.hasAttribute('data-index'))
    .map((r) => r.querySelector('.name')!.textContent);

describe('the outline', () => {
  it('puts each collection below all that hold it, and at the top what lies in none', () => {
    const both = aCollection({ id: 'c3', name: 'Both', parents: ['c1', 'c2'] });
    const { top, below } = outline([season, inner, both]);
    expect(top.map((c) => c.name)).toEqual(['Season']);
    expect(below.get('c1')!.map((c) => c.name)).toEqual(['Inner', 'Both']);
    expect(below.get('c2')!.map((c) => c.name)).toEqual(['Both']);
    // a parent in the bin is no parent to be found below
    expect(outline([inner]).top).toEqual([inner]);
  });
});

describe('the rows of a collection', () => {
  const byId = new Map(shortcuts.map((s) => [s.id, s]));
  const names = (
    order: CollectionView['sortBy'],
    members = [member('m1', 's1'), member('m2', 's2'), member('m3', 's3')],
  ) =>
    memberRows(members, byId, new Map(), new Map(), order).map((r) => (r.type === 'shortcut' ? r.shortcut.name : ''));

  it('stand in the order asked for', () => {
    expect(names('own')).toEqual(['Net 10', 'Net 2', 'Rota']);
    expect(names('name')).toEqual(['Net 2', 'Net 10', 'Rota']);
    expect(names('size')[0]).toBe('Rota');
    expect(names('rate')[0]).toBe('Net 2');
    expect(names('opened')[0]).toBe('Rota');
  });
  it('leave out what the page does not know yet', () => {
    expect(names('own', [member('m0', 'unknown'), member('m1', 's1')])).toEqual(['Net 10']);
  });
  it.each(Object.keys(MEMBER_ORDERS) as CollectionView['sortBy'][])(
    '%s loses none and keeps first what is first',
    (order) => {
      const members = [member('m1', 's1'), member('m2', 's2', { keepFirst: true }), member('m3', 's3')];
      expect(names(order, members)[0]).toBe('Net 2');
      expect(names(order, members)).toHaveLength(3);
    },
  );
});

describe('moving members on the page', () => {
  const ids = fc.uniqueArray(fc.constantFrom(...'abcdefgh'), { minLength: 1, maxLength: 8 });
  it('keeps all, keeps the order among the moved and among the rest, and lands before the next that stays', () => {
    fc.assert(
      fc.property(
        ids,
        fc.subarray([...'abcdefgh']),
        fc.option(fc.constantFrom(...'abcdefgh')),
        (all, moved, before) => {
          const members = all.map((id) => ({ id }));
          const target = before !== null && all.includes(before) ? before : null;
          const out = reorderedMembers(members, moved, target).map((m) => m.id);
          const moving = all.filter((id) => moved.includes(id));
          const rest = all.filter((id) => !moved.includes(id));
          expect(out.filter((id) => moving.includes(id))).toEqual(moving);
          expect(out.filter((id) => rest.includes(id))).toEqual(rest);
          if (moving.length === 0) return;
          const from = target === null ? all.length : all.indexOf(target);
          const next = all.slice(from).find((id) => rest.includes(id));
          expect(out[out.indexOf(moving[moving.length - 1]!) + 1]).toBe(next);
        },
      ),
      { seed: 61, numRuns: 500 },
    );
  });
});

describe('the view', () => {
  it('shows the outline and what the chosen one holds', async () => {
    await show('/collections/c1');
    expect(screen.getAllByRole('treeitem').length).toBeGreaterThanOrEqual(2);
    expect(rowNames()).toEqual(['Net 10', 'Net 2']);
  });

  it('takes the keys of collections in the outline, and never letters for the beginnings of names by itself', async () => {
    const page = await show('/collections/c2', { 'POST /pins': [] });
    const item = (name: RegExp) => screen.getAllByRole('treeitem', { name })[0]!;
    fireEvent.keyDown(item(/^Season/), { key: 'F2' });
    expect(screen.getByTestId('dialog').textContent).toBe('change-collection');
    fireEvent.keyDown(item(/^Season/), { key: 'p' });
    await waitFor(() =>
      expect(page.sent('POST').map((a) => a.body)).toEqual([{ target: 'collection', targetId: 'c1' }]),
    );
    // none of the outline's: it is left to the page
    expect(fireEvent.keyDown(item(/^Season/), { key: 's' })).toBe(true);
    fireEvent.keyDown(item(/^boat/), { key: 'F2' });
    expect(screen.getByTestId('dialog').textContent).toBe('change-tag');
  });

  it('changes the order for good, saying which state it has seen', async () => {
    const page = await show('/collections/c1', { 'PATCH /collections/c1': { ...season, sortBy: 'name' } });
    await userEvent.click(screen.getByRole('button', { name: 'Order: own order' }));
    await userEvent.click(await screen.findByRole('menuitem', { name: 'name' }));
    expect(page.sent('PATCH')[0]!.body).toEqual({ sortBy: 'name', revision: 7 });
  });

  it('moves by Alt and the arrows at once, and back where another window was first', async () => {
    const page = await show('/collections/c1', {
      'POST /collections/c1/members/move': new Refusal('changed-since', '“Season” was changed in another window.'),
    });
    screen
      .getAllByRole('row')
      .find((r) => r.getAttribute('data-index') === '0')!
      .focus();
    await userEvent.keyboard('{Alt>}{ArrowDown}{/Alt}');
    expect(page.sent('POST')[0]!.body).toEqual({ memberIds: ['m1'], before: null, revision: 7 });
    expect(await screen.findByText(/changed in another window/)).toBeTruthy();
    expect(rowNames()).toEqual(['Net 10', 'Net 2']);
  });

  it('offers to gather and to bring last time’s back where a working set is empty', async () => {
    const page = await show('/collections/c2', { 'POST /collections/c2/bring-back': { added: 3 } });
    await userEvent.click(screen.getByRole('button', { name: 'Bring last time’s 3 back' }));
    expect(page.sent('POST').map((a) => a.path)).toEqual(['/collections/c2/bring-back']);
    expect(await screen.findByText('Brought 3 back into “Inner”')).toBeTruthy();
  });

  it('works on all that is chosen', async () => {
    const page = await show('/collections/c1', { 'POST /collections/c1/members/remove': undefined });
    const rows = () => screen.getAllByRole('row').filter((r) => r.hasAttribute('data-index'));
    await userEvent.click(rows()[0]!);
    fireEvent.click(rows()[1]!, { shiftKey: true });
    expect(screen.getByText('2 chosen')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Remove from “Season”' }));
    expect(page.sent('POST')[0]).toMatchObject({
      path: '/collections/c1/members/remove',
      body: { memberIds: ['m1', 'm2'] },
    });
  });

  it('shows what bears a tag', async () => {
    await show('/collections/tag/t1');
    expect(rowNames()).toEqual(['Net 10']);
    expect(screen.getByRole('heading', { name: /boat/ })).toBeTruthy();
  });

  it('says so where a collection is not there any more', async () => {
    await show('/collections/gone');
    await userEvent.click(screen.getByRole('button', { name: 'Look in the bin' }));
    expect(screen.getByTestId('where').textContent).toBe('/bin');
  });

  it('teaches what collections are for while there is none', async () => {
    await show('/collections', { 'GET /collections': [], 'GET /tags': [] });
    expect(screen.getByText('Nothing is gathered yet')).toBeTruthy();
  });
});

describe('the forms', () => {
  function Opened({ request }: { request: DialogRequest }) {
    const { openDialog } = useWorkspaceActions();
    useEffect(() => openDialog(request), [openDialog, request]);
    return <GatherDialogs />;
  }
  const form = (request: DialogRequest, answers: Answers = {}) =>
    renderPage(<Opened request={request} />, { ...ANSWERS, ...answers });
  const one = { shortcuts: [{ id: 's1', name: 'Net 10' }] };

  it('make a collection of a name, a colour and what was gathered', async () => {
    const page = await form(
      { kind: 'new-collection', collectionType: 'plain', gathered: one },
      { 'POST /collections': season },
    );
    await userEvent.click(screen.getByRole('button', { name: 'Make it' }));
    expect(await screen.findByText('A collection needs a name.')).toBeTruthy();
    await userEvent.type(screen.getByLabelText('Name'), 'Autumn');
    await userEvent.click(screen.getByRole('radio', { name: 'heather' }));
    await userEvent.click(screen.getByRole('button', { name: 'Make it' }));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toMatchObject({
      name: 'Autumn',
      colour: 'heather',
      type: 'plain',
      shortcutIds: ['s1'],
    });
  });

  it('end a working set with the person’s own day', async () => {
    expect(endOfDay(new Date(2026, 10, 24, 15))).toBe(new Date(2026, 10, 25).toISOString());
    const page = await form({ kind: 'new-collection', collectionType: 'working-set' }, { 'POST /collections': inner });
    await userEvent.type(screen.getByLabelText('Name'), 'Today{Enter}');
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toMatchObject({ type: 'working-set', until: endOfDay(new Date()) });
  });

  it('add to a collection found by typing, or to a new one; what it is in already cannot be chosen', async () => {
    const page = await form(
      { kind: 'add-to-collection', gathered: one },
      { 'POST /collections/c2/members': { added: 1 }, 'POST /collections': season },
    );
    const season1 = screen.getByRole('option', { name: /Season/ });
    expect(season1.getAttribute('aria-disabled')).toBe('true');
    await userEvent.click(season1);
    expect(page.sent('POST')).toEqual([]);
    await userEvent.type(screen.getByRole('combobox'), 'inn');
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]).toMatchObject({ path: '/collections/c2/members', body: { shortcutIds: ['s1'] } });
  });

  it('gather many from a source, with what is in already shown and left out', async () => {
    const page = await form({ kind: 'gather', collection: season }, { 'POST /collections/c1/members': { added: 1 } });
    await userEvent.click(screen.getByLabelText('From'));
    await userEvent.click(await screen.findByRole('option', { name: 'the whole catalogue' }));
    const options = () => screen.getAllByRole('option').map((o) => o.textContent);
    await waitFor(() => expect(options()).toHaveLength(3));
    expect(screen.getByRole('option', { name: /Net 2/ }).getAttribute('aria-disabled')).toBe('true');
    await userEvent.click(screen.getByRole('button', { name: 'Tick all 1' }));
    await userEvent.click(screen.getByRole('button', { name: 'Add 1' }));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toEqual({ shortcutIds: ['s3'] });
  });

  it('put a tag on, take it off, and make a new one', async () => {
    const page = await form(
      { kind: 'tags', gathered: { shortcuts: [...one.shortcuts, { id: 's2', name: 'Net 2' }] } },
      { 'POST /tags/t1/put': { tagged: 1 }, 'POST /tags': tag },
    );
    expect(screen.getByRole('option', { name: /boat/ }).textContent).toContain('on 1 of 2');
    await userEvent.click(screen.getByRole('option', { name: /boat/ }));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]).toMatchObject({ path: '/tags/t1/put', body: { shortcutIds: ['s1', 's2'] } });
    await userEvent.type(screen.getByRole('combobox'), 'nets{Enter}');
    await waitFor(() => expect(page.sent('POST')).toHaveLength(2));
    expect(page.sent('POST')[1]!.body).toEqual({ name: 'nets', shortcutIds: ['s1', 's2'] });
  });

  it('take a tag off an original that has it, and tell so', async () => {
    const original = { id: 9, placeId: 1, name: 'tides.csv', tags: ['t1'] };
    const page = await form(
      { kind: 'tags', gathered: { shortcuts: [], originals: [{ placeId: 1, originalId: 9, name: 'tides.csv' }] } },
      { 'GET /originals/1/9': original, 'POST /tags/t1/take': { taken: 1 } },
    );
    await waitFor(() => expect(screen.getByRole('option', { name: /boat/ }).querySelector('.tick.on')).toBeTruthy());
    await userEvent.click(screen.getByRole('option', { name: /boat/ }));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]).toMatchObject({
      path: '/tags/t1/take',
      body: { originals: [{ placeId: 1, originalId: 9 }] },
    });
  });

  it('change a tag’s name and colour', async () => {
    const page = await form({ kind: 'change-tag', tag }, { 'PATCH /tags/t1': tag });
    await userEvent.clear(screen.getByLabelText('Name'));
    await userEvent.type(screen.getByLabelText('Name'), 'boats');
    await userEvent.click(screen.getByRole('radio', { name: 'tide' }));
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(page.sent('PATCH')).toHaveLength(1));
    expect(page.sent('PATCH')[0]!.body).toEqual({ name: 'boats', colour: 'tide' });
  });

  it('name what is gathered', () => {
    expect(gatheredName(one)).toBe('“Net 10”');
    expect(gatheredName({ shortcuts: shortcuts, programs: [{ programId: 'x', name: 'X' }] })).toBe('4 things');
  });
});
