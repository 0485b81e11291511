/** Settings: loading, an error, the index, letters, an error at its field. */
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { aShortcut, Refusal, renderPage, SETTINGS, type Answers } from '../testing/page';
import { SECTIONS } from './sections';
import SettingsView from './SettingsView';

const program = { id: 'p', name: 'Ringbook', takesFiles: true, categories: [], shortcut: null };
const show = (answers: Answers = {}) =>
  renderPage(
    <SettingsView />,
    {
      'GET /settings': SETTINGS,
      'GET /session': { needsPassphrase: false },
      'GET /session/browsers': [],
      'GET /programs': [program],
      ...answers,
    },
    '/settings',
  );
const letter = (what: RegExp) => screen.getByLabelText(what);

describe('settings', () => {
  it('say what failed, and try again', async () => {
    let times = 0;
    await show({
      'GET /settings': () => (++times === 1 ? new Refusal('unexpected', 'The database is away.') : SETTINGS),
    });
    expect(screen.getByRole('heading', { name: 'The settings could not be loaded' })).toBeTruthy();
    expect(screen.getByText('The database is away.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(await screen.findByRole('heading', { name: 'Keys' })).toBeTruthy();
  });

  it('have an index that leads to every section', async () => {
    await show();
    const index = screen.getByRole('navigation', { name: 'Sections of Settings' });
    for (const { id, title } of SECTIONS) {
      expect(within(index).getByRole('link', { name: title }).getAttribute('href')).toBe(`/settings#${id}`);
      expect(screen.getByRole('heading', { name: title })).toBeTruthy();
    }
    await userEvent.click(within(index).getByRole('link', { name: 'Keys' }));
    expect(document.activeElement).toBe(screen.getByRole('heading', { name: 'Keys' }));
  });

  it('show what stands against a folder at its field', async () => {
    const page = await show({ 'POST /places': new Refusal('not-found', 'There is no folder /nowhere.', 404) });
    await userEvent.type(screen.getByLabelText('Folder'), '/nowhere');
    await userEvent.click(screen.getByRole('button', { name: 'Add folder' }));
    const field = await screen.findByText('There is no folder /nowhere.');
    expect(screen.getByLabelText('Folder').getAttribute('aria-describedby')).toBe(field.id);
    expect(page.sent('POST').map((a) => a.body)).toEqual([{ root: '/nowhere' }]);
  });
});

describe('letters', () => {
  const sentMaps = (page: Awaited<ReturnType<typeof show>>) =>
    page.sent('PATCH').map((a) => (a.body as { keyMap: unknown }).keyMap);
  const kept = { 'PATCH /settings': ({ body }: { body: object }) => ({ ...SETTINGS, ...body }) };

  it('are changed by pressing another, left without one by Backspace, and put back together', async () => {
    const page = await show(kept);
    await userEvent.click(letter(/^Tags: T/));
    fireEvent.keyDown(letter(/^Tags/), { key: 'q' });
    await waitFor(() => expect(letter(/^Tags: Q/)).toBeTruthy());
    await userEvent.click(letter(/^Picture: B/));
    fireEvent.keyDown(letter(/^Picture/), { key: 'Backspace' });
    await waitFor(() => expect(letter(/^Picture: no key/)).toBeTruthy());
    await userEvent.click(screen.getByRole('button', { name: 'Back to the usual letters' }));
    await waitFor(() => expect(letter(/^Tags: T/)).toBeTruthy());
    expect(sentMaps(page)).toEqual([{ t: 'q' }, { t: 'q', b: '' }, {}]);
  });

  it('are refused at once where they would mean two things', async () => {
    const page = await show({ ...kept, 'GET /shortcuts': [aShortcut({ id: 's1', name: 'Rota', keys: 'y' })] });
    await userEvent.click(letter(/^Tags: T/));
    fireEvent.keyDown(letter(/^Tags/), { key: 'p' });
    expect((await screen.findByRole('alert')).textContent).toContain('P would mean two things');
    fireEvent.keyDown(letter(/^Tags/), { key: 'y' });
    expect(screen.getByRole('alert').textContent).toBe('Y opens “Rota” already.');
    fireEvent.keyDown(letter(/^Tags/), { key: 'Escape' });
    expect(page.sent('PATCH')).toEqual([]);
  });
});
