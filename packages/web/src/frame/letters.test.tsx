/** Letters in lists: commands by themselves, names when typed quickly, others' letters where they were changed. */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen } from '@testing-library/react';
import { OPENED, aShortcut, renderPage, type Answers } from '../testing/page';
import { ShortcutDialogs } from '../shortcuts/dialogs';
import CatalogueView from '../catalogue/CatalogueView';
import { useKeys } from './useKeys';
import { useLetters } from './useLetters';

const shortcuts = [
  aShortcut({ id: 's1', name: 'Rota' }),
  aShortcut({ id: 's2', name: 'Tide table' }),
  aShortcut({ id: 's3', name: 'Trap log', keys: 'j t' }),
];

function Page() {
  useLetters();
  useKeys();
  return (
    <>
      <CatalogueView />
      <ShortcutDialogs />
      <button type="button">elsewhere</button>
    </>
  );
}

const ALONE = { letterKeys: 'when-alone', keyMap: {} };
const show = async (settings: object = ALONE, answers: Answers = {}) => {
  const page = await renderPage(
    <Page />,
    {
      'GET /shortcuts': shortcuts,
      'GET /settings': { catalogueColumns: [], catalogueShape: 'table', reachConstants: {}, openWith: {}, ...settings },
      'POST /pins': [],
      'POST /openings': OPENED,
      ...answers,
    },
    '/catalogue',
  );
  const row = document.querySelector<HTMLElement>('.grid-body [role=row]')!;
  act(() => row.focus());
  jest.useFakeTimers();
  return { ...page, row };
};
/** Presses keys, so many milliseconds apart; time stands still otherwise. */
async function press(keys: string, apart: number) {
  for (const key of keys) {
    fireEvent.keyDown(document.activeElement!, { key });
    await act(() => jest.advanceTimersByTimeAsync(apart));
  }
}
const dialog = () => screen.getByTestId('dialog').textContent;
const selected = () => screen.getByTestId('selected').textContent;

describe('a letter in a list', () => {
  // the events' own times are the page's, which fake timers do not hold
  let now = 0;
  beforeEach(() => {
    now = 1000;
    jest.spyOn(Event.prototype, 'timeStamp', 'get').mockImplementation(() => now + (jest.now() % 1e9));
  });
  afterEach(() => {
    jest.useRealTimers();
    jest.restoreAllMocks();
  });

  it('by itself runs its command, after a moment', async () => {
    await show();
    await press('t', 100);
    expect(dialog()).toBe('');
    await press('', 0);
    await act(() => jest.advanceTimersByTimeAsync(300));
    expect(dialog()).toBe('tags');
  });

  it('is not lost while lists are read again', async () => {
    const page = await show();
    await press('t', 100);
    await act(async () => page.client.setQueryData(['shortcuts', 'list'], [...shortcuts]));
    await act(() => jest.advanceTimersByTimeAsync(300));
    expect(dialog()).toBe('tags');
  });

  it('typed quickly is the beginning of a name, and runs nothing', async () => {
    const page = await show();
    await press('trap', 80);
    await act(() => jest.advanceTimersByTimeAsync(2000));
    expect(dialog()).toBe('');
    expect(page.sent('POST')).toEqual([]);
    expect(selected()).toBe('shortcut s3');
  });

  it('goes to a name at once where it stands for no command', async () => {
    await show({ letterKeys: 'when-alone', keyMap: { r: '' } });
    await press('r', 10);
    expect(selected()).toBe('shortcut s1');
    expect(dialog()).toBe('');
  });

  it('runs at once where the person wants that, and never where not', async () => {
    await show({ letterKeys: 'at-once', keyMap: {} });
    await press('t', 0);
    expect(dialog()).toBe('tags');
    jest.useRealTimers();
  });

  it('never runs where letters are no commands, digits neither', async () => {
    const page = await show({ letterKeys: 'never', keyMap: {} });
    await press('ti', 50);
    expect(selected()).toBe('shortcut s2');
    act(() => screen.getByRole('button', { name: 'elsewhere' }).focus());
    await press('n1?', 2000);
    expect(dialog()).toBe('');
    expect(page.sent('POST')).toEqual([]);
  });

  it('that was changed runs what it stands for, and the old one nothing', async () => {
    await show({ letterKeys: 'at-once', keyMap: { t: 'q' } });
    await press('t', 0);
    expect(dialog()).toBe('');
    await press('q', 0);
    expect(dialog()).toBe('tags');
  });

  it('of the person’s own comes first: the first of two is waited for, and opens', async () => {
    const page = await show();
    await press('jt', 80);
    await act(() => jest.advanceTimersByTimeAsync(0));
    expect(page.sent('POST').map((a) => a.body)).toEqual([{ shortcutId: 's3', route: 'own-key' }]);
    expect(dialog()).toBe('');
  });

  it('outside a list needs no waiting', async () => {
    await show();
    act(() => screen.getByRole('button', { name: 'elsewhere' }).focus());
    await press('n', 0);
    expect(dialog()).toBe('add');
  });
});
