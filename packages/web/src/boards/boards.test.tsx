/** A board on its own: keys, acts and what they ask of the server. */
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import type { BoardView, BoardLayout } from '@rellin/contract';
import { OPENED, aShortcut, Refusal, renderPage, type Answers } from '../testing/page';
import BoardsView from './BoardsView';
import { BoardDialogs } from './dialogs';

const board: BoardView = { id: 'b1', name: 'Net round', columns: 3, regions: 2, count: 6, removedAt: null };
const moths: BoardView = { ...board, id: 'b2', name: 'Moths', count: 0 };
const shortcuts = ['Tide table', 'Rota', 'Log', 'Map one', 'Map two', 'Map three', 'Map four'].map((name, i) =>
  aShortcut({ id: `s${i}`, name }),
);
const item = (i: number, regionId: string, x = 0, y = 0, bundleId: string | null = null) => ({
  id: `i${i}`,
  shortcutId: `s${i}`,
  regionId,
  bundleId,
  sort: i,
  x,
  y,
});
const layout: BoardLayout = {
  board,
  regions: [
    { id: 'r1', name: 'Before dawn', order: 'own' },
    { id: 'r2', name: 'Afterwards', order: 'free' },
  ],
  bundles: [{ id: 'u1', regionId: 'r2', name: 'Maps', sort: 3, x: 0, y: 1 }],
  items: [item(0, 'r1'), item(1, 'r1'), item(2, 'r2', 1, 0), ...[3, 4, 5, 6].map((i) => item(i, 'r2', 2, i, 'u1'))],
};
const show = (answers: Answers = {}, at = '/boards') =>
  renderPage(
    <>
      <Routes>
        <Route path="/boards/:boardId?" element={<BoardsView />} />
      </Routes>
      <BoardDialogs />
    </>,
    {
      'GET /shortcuts': shortcuts,
      'GET /boards': [board, moths],
      'GET /boards/b1': layout,
      'GET /boards/b2': { ...layout, board: moths, bundles: [], items: [] },
      'POST /boards/b1/items': { added: 0, layout },
      ...answers,
    },
    at,
  );
const option = (name: RegExp | string) => screen.getByRole('option', { name });
const sent = (asked: { method: string; path: string; body: unknown }[]) =>
  asked.filter((a) => a.method !== 'GET').map((a) => [a.method, a.path, a.body]);

describe('a board', () => {
  it('opens with the first, each region named with its order and how much lies there', async () => {
    await show();
    const region = screen.getByRole('region', { name: 'Afterwards' });
    expect(region.textContent).toContain('free');
    expect(region.textContent).toContain('5 here, 1 bundle');
    expect(
      within(region)
        .getAllByRole('option')
        .map((o) => o.textContent),
    ).toEqual([
      expect.stringContaining('Log'),
      'Mapsbundle of 4',
      ...['one', 'two', 'three'].map((n) => expect.stringContaining(`Map ${n}`)),
    ]);
    expect(region.textContent).toContain('and 1 more');
  });

  it('is walked by arrows, opened by Enter, and its things are moved by Alt and an arrow', async () => {
    const { asked } = await show({
      'POST /openings': { ...OPENED, name: 'Rota' },
    });
    const first = option(/Tide table/);
    await userEvent.click(first);
    fireEvent.keyDown(first, { key: 'ArrowRight' });
    expect(document.activeElement).toBe(option(/Rota/));
    expect(screen.getByTestId('selected').textContent).toBe('shortcut s1');
    fireEvent.keyDown(document.activeElement!, { key: 'ArrowDown' });
    expect(document.activeElement).toBe(option(/Log/));
    fireEvent.keyDown(document.activeElement!, { key: 'ArrowRight', altKey: true });
    fireEvent.keyDown(option(/Log/), { key: 'ArrowUp' });
    fireEvent.keyDown(option(/Rota/), { key: 'ArrowLeft', altKey: true });
    await waitFor(() =>
      expect(sent(asked)).toEqual([
        ['POST', '/boards/b1/items', { shortcutIds: ['s2'], regionId: 'r2', x: 2, y: 0 }],
        ['POST', '/boards/b1/items', { shortcutIds: ['s1'], regionId: 'r1', before: 'i0' }],
      ]),
    );
    fireEvent.keyDown(option(/Rota/), { key: 'Enter' });
    await waitFor(() =>
      expect(sent(asked).at(-1)).toMatchObject(['POST', '/openings', { shortcutId: 's1', route: 'board' }]),
    );
  });

  it('shows all of a bundle, lays it out again by U, and bundles what is chosen', async () => {
    const { asked } = await show({
      'POST /boards/b1/bundles/u1/ungather': layout,
      'POST /boards/b1/bundles': { made: 1, layout },
    });
    const head = option(/Maps/);
    await userEvent.click(head);
    fireEvent.keyDown(head, { key: 'Enter' });
    const menu = await screen.findByRole('menu', { name: 'In the bundle Maps' });
    expect(within(menu).getAllByRole('menuitem')).toHaveLength(4);
    await userEvent.keyboard('{Escape}');
    await waitFor(() => expect(screen.queryByRole('menu')).toBeNull());
    fireEvent.keyDown(option(/Maps/), { key: 'U' });
    await waitFor(() => expect(sent(asked)).toEqual([['POST', '/boards/b1/bundles/u1/ungather', undefined]]));
    await userEvent.click(option(/Tide table/));
    fireEvent.click(option(/Rota/), { ctrlKey: true });
    await userEvent.click(screen.getByRole('button', { name: 'Bundle these 2…' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'Morning');
    await userEvent.click(screen.getByRole('button', { name: 'Bundle them' }));
    await waitFor(() =>
      expect(sent(asked).at(-1)).toEqual(['POST', '/boards/b1/bundles', { itemIds: ['i0', 'i1'], name: 'Morning' }]),
    );
  });

  it('is tidied, and says so where nothing was to be moved; a refusal is told', async () => {
    let moved = 0;
    await show({
      'POST /boards/b1/tidy': () =>
        moved < 0 ? new Refusal('not-found', 'That board is not there any more.', 404) : { moved, layout },
    });
    const tidy = screen.getByRole('button', { name: 'Tidy' });
    await userEvent.click(tidy);
    expect(await screen.findByText('“Net round” is tidy already')).toBeTruthy();
    moved = 2;
    await userEvent.click(tidy);
    expect(await screen.findByText('Tidied “Net round”: 2 moved')).toBeTruthy();
    moved = -1;
    await userEvent.click(tidy);
    expect(await screen.findByText('That board is not there any more.')).toBeTruthy();
  });

  it('has acts for a region behind its button, and for the board', async () => {
    const { asked } = await show({ 'POST /boards/b1/regions/r2/arrange': layout, 'POST /boards/b2/first': undefined });
    await userEvent.click(screen.getByRole('button', { name: 'More about Afterwards' }));
    await userEvent.click(screen.getByRole('menuitem', { name: 'Arrange by name once' }));
    await waitFor(() => expect(sent(asked)).toEqual([['POST', '/boards/b1/regions/r2/arrange', { by: 'name' }]]));
    await userEvent.click(screen.getByRole('link', { name: 'Moths' }));
    await userEvent.click(screen.getByRole('button', { name: 'More' }));
    await userEvent.click(screen.getByRole('menuitem', { name: 'Open this board first' }));
    await waitFor(() => expect(sent(asked).at(-1)).toEqual(['POST', '/boards/b2/first', undefined]));
  });

  it('files what is dropped from outside into a folder that lies on it', async () => {
    const folder = { ...shortcuts[2]!, name: 'Logs', kind: 'folder' as const };
    const { sent: asked } = await show({
      'GET /shortcuts': [folder],
      'POST /filing/upload': { state: 'done', filed: 1, skipped: 0, into: 'Logs', notes: [] },
    });
    fireEvent.drop(option(/Logs/), { dataTransfer: { types: ['Files'], files: [new File(['x'], 'a.csv')] } });
    await waitFor(() => expect(asked('POST').map((a) => a.path)).toEqual(['/filing/upload?name=a.csv&shortcutId=s2']));
  });

  it('teaches the first step where there is none, and makes one', async () => {
    const { asked } = await show({
      'GET /boards': [],
      'POST /boards': { ...layout, board: { ...board, id: 'b9', name: 'Boat' } },
    });
    await userEvent.click(screen.getByRole('button', { name: 'New board' }));
    await userEvent.click(screen.getByRole('button', { name: 'Make it' }));
    expect(screen.getByText('It needs a name.')).toBeTruthy();
    await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'Boat');
    await userEvent.click(screen.getByRole('button', { name: 'Make it' }));
    await waitFor(() => expect(screen.getByTestId('where').textContent).toBe('/boards/b9'));
    expect(sent(asked)).toEqual([['POST', '/boards', { name: 'Boat' }]]);
    // it was removed in another window
    expect(screen.getByText('That board is not here any more')).toBeTruthy();
  });
});
