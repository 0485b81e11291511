import { describe, expect, it } from '@jest/globals';
import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { FindAnswerView, OpeningResult } from '@rellin/contract';
import { OPENED, aShortcut, renderPage, type Answers } from '../testing/page';
import { FindLine } from './FindLine';
import { Marked } from './useFindOptions';

const answer = (more: Partial<FindAnswerView> & { id: string; name: string }): FindAnswerView => ({
  group: 'original',
  kind: 'table',
  state: null,
  trail: 'Marrowick › Records',
  ranges: [],
  placeId: 1,
  originalId: 9,
  shortcutId: null,
  seconds: null,
  steps: null,
  ...more,
});
const tides = aShortcut({ id: 's1', name: 'Tide table', lastOpenedAt: '2026-11-20T08:00:00Z' });
const engine = aShortcut({ id: 's2', name: 'Engine hours', lastOpenedAt: '2026-11-22T08:00:00Z' });
const opened: OpeningResult = { ...OPENED, name: 'Tide table' };
const ANSWERS: Answers = {
  'GET /shortcuts': [tides, engine, aShortcut({ id: 's3', name: 'Never opened' })],
  'GET /find': {
    query: 'tide',
    answers: [
      answer({ group: 'shortcut', id: 's1', shortcutId: 's1', name: 'Tide table', state: 'ready', ranges: [[0, 4]] }),
      answer({ id: '1/9', name: 'tides-apr.csv', ranges: [[0, 4]] }),
    ],
  },
  'POST /openings': opened,
  'POST /shortcuts': { ...engine, id: 's9', name: 'tides-apr' },
};

const field = () => screen.getByRole('combobox');
const options = () => screen.queryAllByRole('option').map((o) => o.textContent);
const active = () => screen.getAllByRole('option').find((o) => o.getAttribute('aria-selected') === 'true')!;

describe('the find line', () => {
  it('shows what was opened lately before a letter is typed', async () => {
    await renderPage(<FindLine />, ANSWERS);
    await userEvent.click(field());
    expect(options()).toEqual([expect.stringContaining('Engine hours'), expect.stringContaining('Tide table')]);
  });

  it('makes a shortcut of an original by one key, and says which only where there is none yet', async () => {
    const { asked } = await renderPage(<FindLine />, ANSWERS);
    await userEvent.type(field(), 'tide');
    await waitFor(() => expect(options().length).toBe(2));
    expect(screen.queryByText('Ctrl ↵')).toBeNull();
    await userEvent.keyboard('{ArrowDown}');
    expect(screen.getByText('Ctrl ↵')).toBeTruthy();
    await userEvent.keyboard('{Control>}{Enter}{/Control}');
    await waitFor(() =>
      expect(asked.find((a) => a.method === 'POST' && a.path === '/shortcuts')?.body).toEqual({
        placeId: 1,
        originalId: 9,
      }),
    );
    expect(asked.some((a) => a.path === '/openings')).toBe(false);
  });

  it('offers conditions as chips: Tab takes one, Backspace gives it up', async () => {
    const { asked } = await renderPage(<FindLine />, ANSWERS);
    await userEvent.type(field(), 'tide pdf');
    expect(await screen.findByText(/Only PDF/)).toBeTruthy();
    await userEvent.keyboard('{Tab}');
    await waitFor(() => expect(asked.at(-1)?.path).toContain('where=kind%3Apdf'));
    expect((field() as HTMLInputElement).value).toBe('tide ');
    await userEvent.clear(field());
    await userEvent.keyboard('{Backspace}');
    expect(screen.queryByText('PDF ×')).toBeNull();
  });

  it('what is called exactly that comes first: a view, a collection before a shortcut that is only like it', async () => {
    await renderPage(<FindLine />, {
      ...ANSWERS,
      'GET /find': {
        query: 'bin',
        answers: [
          answer({ group: 'collection', id: 'c1', name: 'Bin' }),
          answer({ group: 'shortcut', id: 's1', shortcutId: 's1', name: 'Tide table' }),
        ],
      },
    });
    await userEvent.type(field(), 'bin');
    await waitFor(() => expect(options().length).toBe(3));
    expect(options()).toEqual(['Go to Bin', expect.stringContaining('Bin'), expect.stringContaining('Tide table')]);
  });

  it('Enter pressed before the answers are here waits for them, and never opens what an earlier text found', async () => {
    let answered: (view: unknown) => void = () => undefined;
    const page = await renderPage(<FindLine />, {
      ...ANSWERS,
      'GET /find': ({ path }: { path: string }) =>
        path.endsWith('q=engine')
          ? new Promise((resolve) => (answered = resolve))
          : { query: 'e', answers: [answer({ group: 'shortcut', id: 's1', shortcutId: 's1', name: 'Tide table' })] },
    });
    await userEvent.click(field());
    await userEvent.paste('e');
    await waitFor(() => expect(options()[0]).toContain('Tide table'));
    await userEvent.paste('ngine');
    await userEvent.keyboard('{Enter}');
    expect(page.sent('POST')).toEqual([]);
    await act(async () => {
      answered({
        query: 'engine',
        answers: [answer({ group: 'shortcut', id: 's2', shortcutId: 's2', name: 'Engine hours' })],
      });
    });
    await waitFor(() => expect(page.sent('POST').map((p) => p.body)).toEqual([{ shortcutId: 's2', route: 'find' }]));
  });

  it('groups the answers, marks the letters, and Enter opens the first', async () => {
    const page = await renderPage(<FindLine />, ANSWERS);
    await userEvent.type(field(), 'tide');
    await waitFor(() => expect(options()).toHaveLength(2));
    expect(screen.getByText('Shortcuts')).toBeTruthy();
    expect(screen.getByText('Originals')).toBeTruthy();
    expect(active().querySelector('mark')!.textContent).toBe('Tide');
    expect(field().getAttribute('aria-activedescendant')).toBe(active().id);
    await userEvent.keyboard('{Enter}');
    expect(page.sent('POST')).toEqual([
      { method: 'POST', path: '/openings', body: { shortcutId: 's1', route: 'find' } },
    ]);
    expect(screen.queryByRole('listbox')).toBeNull();
    expect(screen.getByTestId('selected').textContent).toBe('shortcut s1');
  });

  it('lists the acts with the second key; one makes a shortcut of an original', async () => {
    const page = await renderPage(<FindLine />, ANSWERS);
    await userEvent.type(field(), 'tide');
    await waitFor(() => expect(options()).toHaveLength(2));
    await userEvent.keyboard('{ArrowDown}{Shift>}{Enter}{/Shift}');
    expect(screen.getByRole('listbox', { name: 'Acts on tides-apr.csv' })).toBeTruthy();
    await userEvent.click(screen.getByRole('option', { name: 'Add shortcut' }));
    expect(page.sent('POST')).toEqual([{ method: 'POST', path: '/shortcuts', body: { placeId: 1, originalId: 9 } }]);
    expect(await screen.findByText('Added “tides-apr”')).toBeTruthy();
  });

  it('goes back step by step with Escape: acts, text, field', async () => {
    await renderPage(<FindLine />, ANSWERS);
    await userEvent.type(field(), 'tide');
    await waitFor(() => expect(options()).toHaveLength(2));
    await userEvent.keyboard('{Shift>}{Enter}{/Shift}');
    expect(screen.getByRole('listbox', { name: /Acts on/ })).toBeTruthy();
    await userEvent.keyboard('{Escape}');
    expect(screen.getByRole('listbox', { name: 'Answers' })).toBeTruthy();
    await userEvent.keyboard('{Escape}');
    expect((field() as HTMLInputElement).value).toBe('');
    await userEvent.keyboard('{Escape}');
    expect(document.activeElement).not.toBe(field());
  });

  it('runs commands by any of their words', async () => {
    await renderPage(<FindLine />, { ...ANSWERS, 'GET /find': { query: '', answers: [] } });
    await userEvent.type(field(), 'go jour');
    await userEvent.click(await screen.findByRole('option', { name: 'Go to Journal' }));
    expect(screen.getByTestId('where').textContent).toBe('/journal');
  });

  it('takes a path or an address for what it is', async () => {
    await renderPage(<FindLine />, ANSWERS);
    await userEvent.type(field(), '/home/wren/tides.csv');
    expect(options()).toEqual(['Add shortcut to /home/wren/tides.csv', 'Show where /home/wren/tides.csv is']);
    await userEvent.clear(field());
    await userEvent.type(field(), 'https://tides.example/');
    expect(options()).toEqual(['Add shortcut to https://tides.example/']);
    await userEvent.keyboard('{Enter}');
    expect(screen.getByTestId('dialog').textContent).toBe('add');
  });

  it('says so where nothing is found', async () => {
    await renderPage(<FindLine />, { ...ANSWERS, 'GET /find': { query: 'zzz', answers: [] } });
    await userEvent.type(field(), 'zzz');
    expect(await screen.findByText(/Nothing is called that/)).toBeTruthy();
  });

  it('is entered from anywhere', async () => {
    await renderPage(<FindLine />, ANSWERS);
    act(() => void document.dispatchEvent(new Event('rellin:find')));
    await waitFor(() => expect(document.activeElement).toBe(field()));
  });

  it('is entered by an address from outside, which is an ordinary one then', async () => {
    await renderPage(<FindLine />, ANSWERS, '/reach?find');
    await waitFor(() => expect(document.activeElement).toBe(field()));
    expect(screen.getByTestId('where').textContent).toBe('/reach');
  });
});

describe('marked letters', () => {
  it('leave the text whole', async () => {
    const { container } = await renderPage(
      <Marked
        text="Net positions"
        ranges={[
          [0, 1],
          [4, 7],
        ]}
      />,
    );
    expect(container.textContent).toContain('Net positions');
    expect([...container.querySelectorAll('mark')].map((m) => m.textContent)).toEqual(['N', 'pos']);
  });
});
