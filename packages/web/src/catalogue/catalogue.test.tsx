/** The catalogue as a whole: quick filters, columns, shapes. */
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import type { QuickFilterView } from '@rellin/contract';
import { ShortcutDialogs } from '../shortcuts/dialogs';
import { OPENED, aShortcut, Refusal, renderPage, SETTINGS, type Answers } from '../testing/page';
import CatalogueView from './CatalogueView';
import { allColumns, resized, shownColumns, toggled, USUAL, widthsOf } from './columns';
import { isNow } from './FilterLine';

const shortcuts = [
  aShortcut({ id: 's1', name: 'Net 10', size: 10, kind: 'table', tags: ['t1'] }),
  aShortcut({ id: 's2', name: 'Net 2', size: 3000, kind: 'picture', lastOpenedAt: '2026-11-20T08:00:00Z' }),
  aShortcut({ id: 's3', name: 'Rota', target: 'program', kind: 'program', location: 'rota.desktop', size: null }),
];
const tables: QuickFilterView = { id: 'f1', name: 'Tables', keys: 'y', filter: { kind: 'table' } };
const show = (answers: Answers = {}, at = '/catalogue') =>
  renderPage(
    <>
      <CatalogueView />
      <ShortcutDialogs />
    </>,
    {
      'GET /shortcuts': shortcuts,
      'GET /tags': [{ id: 't1', name: 'nets', colour: 'brick', count: 1, pinned: false }],
      'GET /settings': SETTINGS,
      ...answers,
    },
    at,
  );
/** Also while a menu hides the rest from screen readers. */
const titles = () =>
  [...document.querySelectorAll('[role=columnheader]')].map((h) => h.textContent!.replace(/ [↑↓]/, ''));
const names = () => [...document.querySelectorAll('.grid-body .name')].map((n) => n.textContent);

describe('what could not be opened', () => {
  it('says why, with what helps: another program, a preview, where it is', async () => {
    const { sent } = await show({
      'POST /openings': { ...OPENED, pending: true },
      'GET /openings/o/outcome': new Refusal('cannot-open', '“Net 10” was not opened: no program for it.', 409),
      'GET /originals/1/7': { trail: [{ id: 1 }, { id: 5 }, { id: 7 }] },
    });
    const open = () => fireEvent.keyDown(document.querySelector('.grid-body [role=row]')!, { key: 'Enter' });
    open();
    expect(await screen.findByText('“Net 10” was not opened: no program for it.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Open with…' }));
    expect(screen.getByTestId('dialog').textContent).toBe('open-with');
    expect(sent('POST')).toHaveLength(1);
  });

  it('leads to where it is', async () => {
    await show({
      'POST /openings': new Refusal('cannot-open', '“Net 10” was not opened.', 409),
      'GET /originals/1/7': { trail: [{ id: 1 }, { id: 5 }, { id: 7 }] },
    });
    fireEvent.keyDown(document.querySelector('.grid-body [role=row]')!, { key: 'Enter' });
    await userEvent.click(await screen.findByRole('button', { name: 'Show where it is' }));
    await waitFor(() => expect(screen.getByTestId('where').textContent).toBe('/originals/1/5?at=7'));
  });
});

describe('several chosen', () => {
  const row = (i: number) => document.querySelectorAll<HTMLElement>('.grid-body [role=row]')[i]!;
  const chooseTwo = async () => {
    await userEvent.click(row(0));
    fireEvent.click(row(1), { ctrlKey: true });
    await waitFor(() =>
      expect(screen.getByRole('toolbar', { name: 'With all chosen' }).textContent).toContain('2 chosen'),
    );
  };

  it('are all removed by Delete, not the last alone', async () => {
    const { sent } = await show({ 'POST /shortcuts/remove': undefined });
    await chooseTwo();
    fireEvent.keyDown(row(1), { key: 'Delete' });
    await waitFor(() => expect(sent('POST').map((p) => p.path)).toEqual(['/shortcuts/remove']));
    expect((sent('POST')[0]!.body as { ids: string[] }).ids.sort()).toEqual(['s1', 's2']);
  });

  it('are what the other keys and the menu are about; what is for one thing says so', async () => {
    await show();
    await chooseTwo();
    fireEvent.keyDown(row(1), { key: 'T' });
    expect(screen.getByTestId('dialog').textContent).toBe('tags');
    fireEvent.keyDown(row(1), { key: 'F2' });
    expect(screen.getByTestId('dialog').textContent).toBe('rename-many');
    fireEvent.keyDown(row(1), { key: 'R' });
    expect(await screen.findByText('“Change target…” is for one thing; 2 are chosen.')).toBeTruthy();
    // a row that is none of them is by itself
    fireEvent.keyDown(row(2), { key: 'ArrowDown' });
  });

  it('are opened together by Enter', async () => {
    const { sent } = await show({ 'POST /openings': OPENED });
    await chooseTwo();
    fireEvent.keyDown(row(1), { key: 'Enter' });
    await waitFor(() => expect(sent('POST')).toHaveLength(2));
    expect(
      sent('POST')
        .map((p) => (p.body as { shortcutId: string }).shortcutId)
        .sort(),
    ).toEqual(['s1', 's2']);
  });
});

describe('columns', () => {
  const all = allColumns({ tags: new Map(), collections: new Map() });
  const choice = fc.uniqueArray(fc.constantFrom(...all.map((c) => c.id)), { maxLength: all.length });

  it('the name is always among them, and they keep their order whatever was chosen', () => {
    fc.assert(
      fc.property(choice, (ids) => {
        const shown = shownColumns(
          all,
          ids.map((id) => ({ id })),
        ).map((c) => c.id);
        expect(shown[0]).toBe('name');
        expect(shown).toEqual(all.map((c) => c.id).filter((id) => shown.includes(id)));
      }),
      { seed: 3 },
    );
  });

  it('one more and one less is as it was; a width is kept by its own column alone', () => {
    fc.assert(
      fc.property(
        choice,
        fc.constantFrom(...all.map((c) => c.id)),
        fc.integer({ min: 40, max: 1000 }),
        (ids, id, width) => {
          const now = ids.map((x) => ({ id: x }));
          const twice = toggled(toggled(now, id), id);
          const set = (c: { id: string }[]) => new Set(c.map((x) => x.id));
          if (twice.length > 0) expect(set(twice)).toEqual(set(now.length === 0 ? USUAL.map((x) => ({ id: x })) : now));
          const widths = widthsOf(resized(now, id, width));
          expect(Object.keys(widths).filter((x) => x !== id)).toEqual([]);
          expect(widthsOf(resized(resized(now, id, width), id, undefined))).toEqual({});
        },
      ),
      { seed: 4 },
    );
  });

  it('are chosen from the menu, shown at once and remembered', async () => {
    const { sent } = await show({
      'PATCH /settings': ({ body }: { body: unknown }) => ({ ...SETTINGS, ...(body as object) }),
    });
    expect(titles()).toEqual(['Name', 'Kind', 'Folder of the original', 'a week', 'Reach · by folders']);
    await userEvent.click(screen.getByRole('button', { name: 'Columns' }));
    await userEvent.click(screen.getByRole('menuitemcheckbox', { name: 'Size' }));
    await waitFor(() => expect(titles()).toContain('Size'));
    expect(screen.getByRole('menuitemcheckbox', { name: 'Size' }).getAttribute('aria-checked')).toBe('true');
    expect(sent('PATCH')[0]!.body).toEqual({ catalogueColumns: [...USUAL, 'size'].map((id) => ({ id })) });
    await userEvent.click(screen.getByRole('menuitemcheckbox', { name: 'Kind' }));
    await waitFor(() => expect(titles()).not.toContain('Kind'));
    await userEvent.click(screen.getByRole('menuitem', { name: /^Back to the usual/ }));
    await waitFor(() => expect(titles()).toContain('Kind'));
  });

  it('are made wider by Shift and the arrows on their edge, and get their own width back by Shift+Home', async () => {
    const widths = [{ id: 'name' }, { id: 'kind', width: 100 }];
    const { sent } = await show({
      'GET /settings': { ...SETTINGS, catalogueColumns: widths },
      'PATCH /settings': ({ body }: { body: unknown }) => ({ ...SETTINGS, ...(body as object) }),
    });
    const edge = () => screen.getByRole('separator', { name: 'Width of Kind' });
    expect(edge().getAttribute('aria-valuenow')).toBe('100');
    fireEvent.keyDown(edge(), { key: 'ArrowRight', shiftKey: true });
    await waitFor(() => expect(edge().getAttribute('aria-valuenow')).toBe('116'));
    fireEvent.keyDown(edge(), { key: 'Home', shiftKey: true });
    await waitFor(() => expect(edge().getAttribute('aria-valuetext')).toBe('its own'));
    expect(sent('PATCH').map((p) => p.body)).toEqual([
      { catalogueColumns: [{ id: 'name' }, { id: 'kind', width: 116 }] },
      { catalogueColumns: [{ id: 'name' }, { id: 'kind' }] },
    ]);
  });

  it('sort by size, where what has none stands last', async () => {
    await show({ 'GET /settings': { ...SETTINGS, catalogueColumns: [{ id: 'name' }, { id: 'size' }] } });
    await userEvent.click(within(screen.getByRole('columnheader', { name: /Size/ })).getByRole('button'));
    await waitFor(() => expect(names()).toEqual(['Net 2', 'Net 10', 'Rota']));
  });
});

describe('quick filters', () => {
  it('keep what the catalogue is narrowed to under a name', async () => {
    const { sent } = await show({ 'POST /quick-filters': [] }, '/catalogue?kind=table&sort=size&order=down');
    await userEvent.click(screen.getByRole('button', { name: 'Keep as quick filter…' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'Tables{Enter}');
    await waitFor(() =>
      expect(sent('POST')[0]).toMatchObject({
        path: '/quick-filters',
        body: { name: 'Tables', filter: { kind: 'table', sort: 'size', order: 'down' } },
      }),
    );
  });

  it('narrow at a press, and show all at the next', async () => {
    await show({ 'GET /quick-filters': [tables] });
    const chip = () => screen.getByRole('button', { name: /^Tables/ });
    await userEvent.click(chip());
    await waitFor(() => expect(names()).toEqual(['Net 10']));
    expect(screen.getByTestId('where').textContent).toBe('/catalogue?kind=table');
    expect(chip().getAttribute('aria-pressed')).toBe('true');
    expect(screen.queryByRole('button', { name: 'Keep as quick filter…' })).toBeNull();
    await userEvent.click(chip());
    await waitFor(() => expect(names().length).toBe(3));
  });

  it('are renamed, given a key and removed by keys on their chip', async () => {
    const { sent } = await show({ 'GET /quick-filters': [tables], 'DELETE /quick-filters/f1': [] });
    const chip = screen.getByRole('button', { name: /^Tables/ });
    fireEvent.keyDown(chip, { key: 'F10', shiftKey: true });
    await userEvent.click(screen.getByRole('menuitem', { name: 'Own key…' }));
    expect(screen.getByTestId('dialog').textContent).toBe('own-key');
    await userEvent.keyboard('{Escape}');
    fireEvent.keyDown(chip, { key: 'Delete' });
    await waitFor(() => expect(sent('DELETE')[0]!.path).toBe('/quick-filters/f1'));
  });

  it('are what is shown now only where every facet agrees', () => {
    expect(isNow({ kind: 'table' }, { kind: 'table' })).toBe(true);
    expect(isNow({ kind: 'table' }, { kind: 'table', used: 'never' })).toBe(false);
    expect(isNow({ kind: 'table', used: 'never' }, { kind: 'table' })).toBe(false);
  });
});

describe('shapes', () => {
  const cells = () => screen.getAllByRole('gridcell').map((c) => c.getAttribute('aria-label')!);
  it('tiles hold the same things in the same order; the choice is remembered', async () => {
    const { sent } = await show({
      'PATCH /settings': ({ body }: { body: unknown }) => ({ ...SETTINGS, ...(body as object) }),
    });
    await userEvent.click(screen.getByRole('button', { name: 'Shown as Table' }));
    await userEvent.click(screen.getByRole('menuitemradio', { name: 'Small tiles' }));
    await waitFor(() =>
      expect(cells()).toEqual(['Net 2, picture, Ready', 'Net 10, table, Ready', 'Rota, program, Ready']),
    );
    expect(sent('PATCH')[0]!.body).toEqual({ catalogueShape: 'small-tiles' });
  });

  it.each(['small-tiles', 'medium-tiles', 'large-tiles', 'compact'] as const)(
    'in %s arrows move, Space with more chooses, Enter opens, keys act',
    async (catalogueShape) => {
      const { sent } = await show({
        'GET /settings': { ...SETTINGS, catalogueShape },
        'POST /openings': OPENED,
      });
      const cell = (i: number) => screen.getAllByRole('gridcell')[i]!;
      fireEvent.keyDown(cell(0), { key: 'ArrowRight' });
      await waitFor(() => expect(cell(1).getAttribute('aria-selected')).toBe('true'));
      expect(screen.getByTestId('selected').textContent).toBe('shortcut s1');
      fireEvent.keyDown(cell(1), { key: 'ArrowRight', shiftKey: true });
      await waitFor(() =>
        expect(screen.getByRole('toolbar', { name: 'With all chosen' }).textContent).toContain('2 chosen'),
      );
      fireEvent.keyDown(cell(2), { key: 'Enter' });
      await waitFor(() =>
        expect(sent('POST').map((p) => p.body)).toContainEqual({ shortcutId: 's3', route: 'catalogue' }),
      );
      fireEvent.keyDown(cell(2), { key: 'F2' });
      expect(screen.getByTestId('dialog').textContent).toBe('rename-many');
    },
  );
});

describe('an address from outside', () => {
  it('selects the shortcut it names, and is an ordinary address then', async () => {
    await show({}, '/catalogue?select=s2&kind=picture');
    expect(screen.getByTestId('selected').textContent).toBe('shortcut s2');
    expect(screen.getByTestId('where').textContent).toBe('/catalogue?kind=picture');
  });
});
