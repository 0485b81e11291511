/** The keys that work anywhere, and where they do not; and the line at the bottom. */
import { describe, expect, it } from '@jest/globals';
import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect } from 'react';
import { OPENED, aCollection, aPin, aShortcut, renderPage, type Answers } from '../testing/page';
import { BottomLine } from './BottomLine';
import { useFrame, useSelection, useWorkspaceActions } from '../workspace/workspace';
import { refresh } from '../api/refresh';
import { useKeys } from './useKeys';

const shortcuts = [
  aShortcut({ id: 's1', name: 'Tide table', size: 1000 }),
  aShortcut({ id: 's2', name: 'Rota', size: 2500 }),
];
const pins = [aPin(1, shortcuts[0]!), { ...aPin(2, shortcuts[1]!), target: 'collection' as const, targetId: 'c1' }];
const ANSWERS: Answers = {
  'GET /shortcuts': shortcuts,
  'GET /shortcuts/s1': { ...shortcuts[0], steps: [], weekly: [], goesWith: [], candidates: [] },
  'GET /pins': pins,
  'GET /journal?limit=30': [
    {
      id: '3',
      at: '2026-11-24T08:00:00Z',
      act: 'pin',
      summary: 'Pinned “Rota”',
      by: 'person',
      undoneAt: null,
      inStack: true,
    },
  ],
  'POST /openings': OPENED,
  'POST /journal/undo': { id: 3, summary: 'Pinned “Rota”' },
  'POST /journal/redo': { id: 3, summary: 'Pinned “Rota”' },
};

function Keys() {
  useKeys();
  const { pinOpen } = useSelection();
  const { cardFolded, stripHidden } = useFrame();
  return (
    <>
      <input aria-label="field" />
      <output data-testid="state">{JSON.stringify({ pinOpen: pinOpen ?? null, cardFolded, stripHidden })}</output>
    </>
  );
}
const state = () => JSON.parse(screen.getByTestId('state').textContent!) as Record<string, unknown>;

describe('keys', () => {
  it('open pins by their digit: a shortcut at once, a collection downward', async () => {
    const page = await renderPage(<Keys />, ANSWERS);
    await userEvent.keyboard('1');
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toEqual({ shortcutId: 's1', route: 'pin-key' });
    await userEvent.keyboard('2');
    expect(state()['pinOpen']).toBe('pin-2');
    expect(page.sent('POST')).toHaveLength(1);
  });

  it('on the quiet screen open what they open, and nothing of it is kept', async () => {
    const page = await renderPage(<Keys />, ANSWERS);
    await userEvent.keyboard('h1');
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toEqual({ shortcutId: 's1', route: 'pin-key', record: false });
  });

  it('undo and redo, fold the card, hide the strip, list the keys, begin a shortcut', async () => {
    const page = await renderPage(<Keys />, ANSWERS);
    await userEvent.keyboard('{Control>}z{/Control}');
    expect(await screen.findByText('Undone: Pinned “Rota”')).toBeTruthy();
    await userEvent.keyboard('{Control>}{Shift>}Z{/Shift}{/Control}');
    expect(await screen.findByText('Done again: Pinned “Rota”')).toBeTruthy();
    await userEvent.keyboard('is');
    expect(state()).toMatchObject({ cardFolded: true, stripHidden: true });
    await userEvent.keyboard('s');
    expect(state()).toMatchObject({ stripHidden: false });
    await userEvent.keyboard('n');
    expect(screen.getByTestId('dialog').textContent).toBe('add');
    expect(page.sent('POST').map((a) => a.path)).toEqual(['/journal/undo', '/journal/redo']);
  });

  it('of the person’s own open their thing: one key, two in a row, or with modifiers', async () => {
    const page = await renderPage(<Keys />, {
      ...ANSWERS,
      'GET /shortcuts': [
        { ...shortcuts[0]!, keys: 'j t' },
        { ...shortcuts[1]!, keys: 'q' },
      ],
      'GET /collections': [aCollection({ id: 'c1', name: 'Boat', keys: 'ctrl+alt+b' })],
    });
    const sent = () => page.sent('POST').map((a) => a.body);
    await userEvent.keyboard('q');
    await userEvent.keyboard('jt');
    await waitFor(() => expect(sent()).toHaveLength(2));
    expect(sent()).toEqual([
      { shortcutId: 's2', route: 'own-key' },
      { shortcutId: 's1', route: 'own-key' },
    ]);
    await userEvent.keyboard('jx');
    expect(sent()).toHaveLength(2);
    await userEvent.keyboard('{Control>}{Alt>}b{/Alt}{/Control}');
    expect(screen.getByTestId('where').textContent).toBe('/collections/c1');
  });

  it('make a shortcut of the original in hand where originals are in sight, and open the form elsewhere', async () => {
    function InHand() {
      const { select } = useWorkspaceActions();
      useEffect(() => select({ type: 'original', placeId: 1, id: 7 }), [select]);
      return <Keys />;
    }
    const there = await renderPage(<InHand />, { ...ANSWERS, 'POST /shortcuts': shortcuts[0] }, '/originals/1/3');
    await userEvent.keyboard('n');
    await waitFor(() => expect(there.sent('POST').map((a) => a.body)).toEqual([{ placeId: 1, originalId: 7 }]));
    there.unmount();
    const catalogue = await renderPage(<InHand />, ANSWERS, '/catalogue');
    await userEvent.keyboard('n');
    expect(catalogue.sent('POST')).toEqual([]);
    expect(screen.getByTestId('dialog').textContent).toBe('add');
  });

  it('are left to fields and to chords that are not theirs', async () => {
    const page = await renderPage(<Keys />, ANSWERS);
    await userEvent.click(screen.getByLabelText('field'));
    await userEvent.keyboard('1sn');
    await userEvent.click(document.body);
    await userEvent.keyboard('{Alt>}1{/Alt}{Control>}s{/Control}');
    expect(page.sent('POST')).toEqual([]);
    expect(screen.getByTestId('dialog').textContent).toBe('');
    expect(state()).toMatchObject({ stripHidden: false });
  });

  it('take a pasted path or address into the form, and nothing else', async () => {
    await renderPage(<Keys />, ANSWERS);
    // whether the browser is left to paste it as well
    const paste = (text: string) => {
      let isLeft = true;
      act(() => void (isLeft = fireEvent.paste(document.body, { clipboardData: { getData: () => text } })));
      return isLeft;
    };
    expect(paste('just words')).toBe(true);
    expect(screen.getByTestId('dialog').textContent).toBe('');
    expect(paste('/home/wren/tides.csv\n')).toBe(false);
    expect(screen.getByTestId('dialog').textContent).toBe('add');
  });
});

describe('the bottom line', () => {
  function Chosen({ ids }: { ids: string[] }) {
    const { choose, select } = useWorkspaceActions();
    useEffect(() => {
      select({ type: 'shortcut', id: ids[0]! });
      choose(ids);
    }, [choose, select, ids]);
    return <BottomLine />;
  }
  const ONE = ['s1'];
  const TWO = ['s1', 's2'];

  it('tells what is selected with its size and path, and the last act with its undo', async () => {
    const page = await renderPage(<Chosen ids={ONE} />, ANSWERS);
    expect(await screen.findByText(/1 kB/)).toBeTruthy();
    expect(screen.getByText('/home/wren/Tide table.csv')).toBeTruthy();
    expect(screen.getByText('Pinned “Rota”')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(page.sent('POST').map((a) => a.path)).toEqual(['/journal/undo']);
  });

  it('adds up several', async () => {
    await renderPage(<Chosen ids={TWO} />, ANSWERS);
    expect(await screen.findByText('2 selected')).toBeTruthy();
    expect(screen.getByText(/3.5 kB/)).toBeTruthy();
  });
});

describe('what is gone', () => {
  /** Selects a shortcut. */
  function Selecting() {
    const { select } = useWorkspaceActions();
    return (
      <>
        <button type="button" onClick={() => select({ type: 'shortcut', id: 's1' })}>
          select
        </button>
        <BottomLine />
      </>
    );
  }

  it('is shown as selected no more, nor asked for once more, until it comes back', async () => {
    let there = shortcuts;
    const page = await renderPage(<Selecting />, { ...ANSWERS, 'GET /shortcuts': () => there });
    await userEvent.click(screen.getByRole('button', { name: 'select' }));
    expect(await screen.findByText('1 selected')).toBeTruthy();
    await waitFor(() => expect(page.sent('GET').filter((a) => a.path === '/shortcuts/s1')).toHaveLength(1));
    there = shortcuts.slice(1);
    await act(() => refresh(page.client, ['shortcuts']));
    expect(await screen.findByText('Nothing selected')).toBeTruthy();
    expect(page.sent('GET').filter((a) => a.path === '/shortcuts/s1')).toHaveLength(1);
    // with its undo it is what it was
    there = shortcuts;
    await act(() => refresh(page.client, ['shortcuts']));
    expect(await screen.findByText('1 selected')).toBeTruthy();
  });

  it('is not what was made just now and is not in the list yet', async () => {
    const page = await renderPage(<Selecting />, { ...ANSWERS, 'GET /shortcuts': shortcuts.slice(1) });
    await userEvent.click(screen.getByRole('button', { name: 'select' }));
    await act(() => refresh(page.client, ['shortcuts']));
    expect(screen.getByText('1 selected')).toBeTruthy();
  });
});
