/** The page of the first steps: what is proposed, choosing by pointer and keyboard, and what is sent. */
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { OfferedFolder, SetUpView as View, UsedThing } from '@rellin/contract';
import { aShortcut, Refusal, renderPage, SETTINGS, type Answers } from '../testing/page';
import { readBookmarks } from './readBookmarks';
import SetUpView from './SetUpView';

const folder = (name: string, more: Partial<OfferedFolder> = {}): OfferedFolder => ({
  path: `/home/wren/${name}`,
  name,
  origin: 'standard',
  proposed: true,
  placeId: null,
  ...more,
});
const thing = (name: string, more: Partial<UsedThing> = {}): UsedThing => ({
  key: `path /home/wren/Documents/${name}`,
  name,
  kind: 'table',
  location: `/home/wren/Documents/${name}`,
  programId: null,
  folder: '/home/wren/Documents',
  sources: ['recent'],
  perWeek: 3,
  proposed: true,
  ...more,
});
const VIEW: View = {
  home: '/home/wren',
  folders: [
    folder('Documents'),
    folder('Music', { proposed: false }),
    folder('wren', { path: '/home/wren', origin: 'home', proposed: false }),
  ],
  things: [
    thing('tides.csv'),
    thing('map.png', { kind: 'picture', proposed: false, perWeek: 0.2 }),
    thing('song.ogg', { kind: 'sound', folder: '/home/wren/Music', proposed: false }),
  ],
  trouble: [],
};
const DONE = { places: 1, shortcuts: 2, pins: 1, keys: 0, collectionId: null, boardId: null, notMade: [] };

const show = (view: Partial<View> = {}, answers: Answers = {}) =>
  renderPage(
    <SetUpView />,
    {
      'GET /set-up': { ...VIEW, ...view },
      'GET /set-up/count': { entries: 1204, isAll: true, trouble: null },
      'GET /example': { state: 'none', trouble: '' },
      'POST /set-up': DONE,
      ...answers,
    },
    '/set-up',
  );
const list = (name: string) => screen.getByRole('listbox', { name });
const folders = () => list('Folders that Rellin may look into');
const things = () => list('Things that you use');
const isTicked = (within_: HTMLElement, name: RegExp) =>
  within(within_).getByRole('option', { name }).getAttribute('aria-selected') === 'true';
const begin = () => userEvent.click(screen.getByRole('button', { name: 'Set up' }));
const sent = (page: Awaited<ReturnType<typeof show>>) => page.sent('POST').find((a) => a.path === '/set-up')?.body;

describe('the first steps', () => {
  it('propose what is likely, say how much lies where, and make it by one press', async () => {
    const page = await show();
    expect(isTicked(folders(), /^Documents/)).toBe(true);
    expect(within(folders()).getByRole('option', { name: /^Documents/ }).textContent).toContain('1,204 entries');
    expect(isTicked(things(), /^tides/)).toBe(true);
    expect(isTicked(things(), /^map/)).toBe(false);
    expect(within(things()).getByRole('option', { name: /^tides/ }).textContent).toContain(
      'opened about 3 times a week',
    );
    await begin();
    expect(sent(page)).toEqual({
      folders: ['/home/wren/Documents'],
      things: ['path /home/wren/Documents/tides.csv'],
      addresses: [],
      way: 'rows',
    });
    expect(await screen.findByText('Set up: 1 folder, 2 shortcuts, 1 pin')).toBeTruthy();
    await waitFor(() => expect(screen.getByTestId('where').textContent).toBe('/reach'));
  });

  it('take the folder along with what lies in it, and leave with the folder what lay in it', async () => {
    const page = await show();
    await userEvent.click(within(things()).getByRole('option', { name: /^song/ }));
    expect(isTicked(folders(), /^Music/)).toBe(true);
    await userEvent.click(within(folders()).getByRole('option', { name: /^Documents/ }));
    expect(isTicked(things(), /^tides/)).toBe(false);
    await begin();
    expect(sent(page)).toMatchObject({
      folders: ['/home/wren/Music'],
      things: ['path /home/wren/Documents/song.ogg'],
    });
  });

  it('ask for a folder once where it lies in another that is chosen', async () => {
    const page = await show();
    await userEvent.click(within(folders()).getByRole('option', { name: /^wren/ }));
    const inHome = within(folders()).getByRole('option', { name: /^Documents/ });
    expect(inHome.getAttribute('aria-disabled')).toBe('true');
    expect(inHome.getAttribute('title')).toBe('It lies in wren, which is chosen.');
    await begin();
    expect(sent(page)).toMatchObject({ folders: ['/home/wren'] });
  });

  it('go by the keyboard alone: one stop a list, arrows move, Space ticks, Home and End', async () => {
    const page = await show();
    const items = things();
    items.focus();
    const at = () => document.getElementById(items.getAttribute('aria-activedescendant')!)!.textContent;
    expect(at()).toContain('tides');
    await userEvent.keyboard('{ArrowDown} ');
    expect(at()).toContain('map');
    expect(isTicked(items, /^map/)).toBe(true);
    await userEvent.keyboard('{End}');
    expect(at()).toContain('song');
    await userEvent.keyboard('{Home} ');
    expect(isTicked(items, /^tides/)).toBe(false);
    await userEvent.click(screen.getByRole('button', { name: 'None' }));
    await userEvent.click(screen.getByRole('button', { name: 'All' }));
    await userEvent.click(screen.getByRole('radio', { name: /On a board/ }));
    await begin();
    expect(sent(page)).toMatchObject({ way: 'board', folders: ['/home/wren/Documents', '/home/wren/Music'] });
    expect((sent(page) as { things: string[] }).things).toHaveLength(3);
  });

  it('add addresses from a file of bookmarks, and say where there are none', async () => {
    const page = await show();
    const field = screen.getByLabelText('A file of bookmarks');
    // the test's page has files without a way to read them
    const choose = (text: string) =>
      fireEvent.change(field, { target: { files: [{ name: 'marks.html', text: async () => text }] } });
    choose('<p>nothing</p>');
    expect(await screen.findByText('There is no web address in marks.html.')).toBeTruthy();
    choose('<a href="https://tides.example/">Tides</a><a href="javascript:alert(1)">Trick</a>');
    await userEvent.click(await within(things()).findByRole('option', { name: /^Tides/ }));
    expect(within(things()).queryByText('Trick')).toBeNull();
    await begin();
    expect(sent(page)).toMatchObject({ addresses: [{ url: 'https://tides.example/', name: 'Tides' }] });
  });

  it('tell what could not be made and why, and what could not be read', async () => {
    await show(
      { trouble: ['The desktop’s list of recent files is damaged and was left out.'] },
      { 'POST /set-up': { ...DONE, notMade: [{ name: 'map', reason: 'It lies in no folder that was chosen.' }] } },
    );
    expect(screen.getByText(/is damaged and was left out/)).toBeTruthy();
    await begin();
    expect(await screen.findByText(/Left out: map \(It lies in no folder that was chosen\.\)/)).toBeTruthy();
  });

  it('stay as they are where it is refused', async () => {
    await show({}, { 'POST /set-up': new Refusal('unexpected', 'The database is away.', 503) });
    await begin();
    expect(await screen.findByText('The database is away.')).toBeTruthy();
    expect(screen.getByTestId('where').textContent).toBe('/set-up');
    await waitFor(() => expect(screen.getByRole('button', { name: 'Set up' }).hasAttribute('disabled')).toBe(false));
  });

  it('say that nothing was found, and lead on by hand; skipped they come back from the empty states', async () => {
    const page = await show(
      { things: [], folders: [folder('wren', { path: '/home/wren', origin: 'home' })] },
      { 'PATCH /settings': { ...SETTINGS, setUp: 'skipped' } },
    );
    expect(screen.getByText(/No traces of use were found/)).toBeTruthy();
    expect(screen.queryByText(/has its shortcuts already/)).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Skip' }));
    await waitFor(() => expect(screen.getByTestId('where').textContent).toBe('/reach'));
    expect(page.sent('PATCH').map((a) => a.body)).toEqual([{ setUp: 'skipped' }]);
  });

  it('say it otherwise where all that was found has its shortcuts', async () => {
    await show({ things: [] }, { 'GET /shortcuts': [aShortcut({ id: 's', name: 'Tides' })] });
    expect(screen.getByText(/what you use has its shortcuts already/)).toBeTruthy();
  });

  it('say why a folder could not be counted, and that there are more than were counted', async () => {
    await show(
      {},
      {
        'GET /set-up/count': ({ path }: { path: string }) =>
          path.includes('Music')
            ? { entries: 0, isAll: true, trouble: 'Rellin may not read it.' }
            : { entries: 90_000, isAll: false, trouble: null },
      },
    );
    expect(within(folders()).getByRole('option', { name: /^Music/ }).textContent).toContain('Rellin may not read it.');
    expect(within(folders()).getByRole('option', { name: /^Documents/ }).textContent).toContain('more than 90,000');
  });

  it('begin the example, open it, and leave it', async () => {
    let state = 'none';
    const page = await show(
      {},
      {
        'GET /example': () => ({ state, trouble: '' }),
        'POST /example': () => void (state = 'running'),
        'POST /example/address': { code: 'x', address: 'http://example.localhost/enter?code=x' },
        'DELETE /example': () => void (state = 'none'),
      },
    );
    const opened: unknown[] = [];
    globalThis.open = ((...args: unknown[]) => void opened.push(args[0])) as unknown as typeof window.open;
    await userEvent.click(screen.getByRole('button', { name: 'Show me with made-up files' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Open the example' }));
    await waitFor(() => expect(opened).toEqual(['http://example.localhost/enter?code=x']));
    await userEvent.click(screen.getByRole('button', { name: 'Leave it' }));
    expect(await screen.findByRole('button', { name: 'Show me with made-up files' })).toBeTruthy();
    expect(page.sent('DELETE').map((a) => a.path)).toEqual(['/example']);
  });
});

describe('a file of bookmarks', () => {
  it('gives each address once, with its name, and whether it stood on the bar', () => {
    const text = `<!DOCTYPE NETSCAPE-Bookmark-file-1><DL><p>
      <DT><H3 PERSONAL_TOOLBAR_FOLDER="true">Bar</H3><DL><p><DT><A HREF="https://a.example/">A</A></DL><p>
      <DT><H3>Others</H3><DL><p><DT><A HREF="https://b.example/"></A><DT><A HREF="https://a.example/">again</A></DL></DL>`;
    expect(readBookmarks(text)).toEqual([
      { url: 'https://a.example/', name: 'A', isOnBar: true },
      { url: 'https://b.example/', name: 'https://b.example/', isOnBar: false },
    ]);
  });
  it('runs and fetches nothing, and may be anything', () => {
    expect(
      readBookmarks('<script>globalThis.hit = 1</script><img src=x onerror="globalThis.hit = 1">'),
    ).toBeUndefined();
    expect((globalThis as { hit?: number }).hit).toBeUndefined();
    expect(readBookmarks('')).toBeUndefined();
  });
});
