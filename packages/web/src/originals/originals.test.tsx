import { describe, expect, it } from '@jest/globals';
import { cleanup, createEvent, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import type { EntryView, FolderView, PlaceView } from '@rellin/contract';
import { anEntry, aShortcut, Refusal, renderPage, SETTINGS, type Asked } from '../testing/page';
import OriginalsView from './OriginalsView';

const place: PlaceView = {
  id: 1,
  name: 'Marrowick',
  root: '/home/wren/Marrowick',
  type: 'fixed',
  state: 'here',
  awayReason: '',
  lastSeenAt: null,
  excludes: [],
  alwaysExcluded: [],
  slowed: [],
  entries: 3,
  freeBytes: 5_000_000_000,
  totalBytes: 9_000_000_000,
  scan: 'done',
  watching: 'all',
  standIn: false,
};
const records = anEntry(5, 'Records', { type: 'folder', kind: 'folder', children: 2 });
const log = anEntry(7, 'log.csv');
const folder = (id: number, entries: EntryView[], more: Partial<FolderView> = {}) =>
  ({
    placeId: 1,
    id,
    path: id === 1 ? place.root : `${place.root}/Records`,
    trail: [{ id: 1, name: 'Marrowick' }, ...(id === 1 ? [] : [{ id, name: 'Records' }])],
    total: entries.length,
    offset: 0,
    entries,
    atIndex: null,
    hidden: 0,
    trouble: '',
    ...more,
  }) as unknown as FolderView;

const show = (answers: object = {}, at = '/originals') =>
  renderPage(
    <Routes>
      <Route path="/originals/:placeId?/:folderId?" element={<OriginalsView />} />
    </Routes>,
    {
      'GET /places': [place],
      'GET /originals/1/folder/1': folder(1, [records, log]),
      'GET /originals/1/folder/5': folder(5, [anEntry(9, 'rings.csv')]),
      ...answers,
    },
    at,
  );
const row = (name: RegExp) => screen.findByRole('row', { name });
const where = () => screen.getByTestId('where').textContent;

describe('Originals', () => {
  it('opens in the first place, or in the folder chosen to start in', async () => {
    await show();
    expect(await row(/log\.csv/)).toBeTruthy();
    cleanup();
    await show({ 'GET /settings': { ...SETTINGS, startFolder: { placeId: 1, originalId: 5 } } });
    expect(await row(/rings\.csv/)).toBeTruthy();
  });

  it.each(['/originals/nowhere', '/originals/1/five', '/originals/1.5/1'])(
    'says that %s names no folder',
    async (at) => {
      await show({}, at);
      expect(await screen.findByText('This address names no folder')).toBeTruthy();
    },
  );

  it('goes into a folder by Enter and out of it by Backspace, which selects where one came from', async () => {
    await show();
    fireEvent.keyDown(await row(/Records/), { key: 'Enter' });
    expect(await row(/rings\.csv/)).toBeTruthy();
    expect(where()).toBe('/originals/1/5');
    fireEvent.keyDown(await row(/rings\.csv/), { key: 'Backspace' });
    expect(await row(/log\.csv/)).toBeTruthy();
    expect(where()).toBe('/originals/1/1?at=5');
    expect(screen.getByTestId('selected').textContent).toBe('original 5');
  });

  it('adds a shortcut from the row, and says where there is one', async () => {
    const made = { ...aShortcut({ id: 's1', name: 'log' }), candidates: [] };
    const page = await show({ 'POST /shortcuts': made });
    await userEvent.click(within(await row(/log\.csv/)).getByRole('button', { name: 'Add shortcut' }));
    expect(page.sent('POST').map((a) => a.body)).toEqual([{ placeId: 1, originalId: 7 }]);
    expect(await screen.findByText('Added “log”')).toBeTruthy();
    cleanup();
    const shortcut = { id: 's1', name: 'log', state: 'ready' };
    await show({ 'GET /originals/1/folder/1': folder(1, [{ ...log, shortcut }]) });
    expect((await row(/log\.csv/)).textContent).toContain('has a shortcut');
  });

  it('asks the server for another order, and keeps it in the address', async () => {
    const page = await show();
    await row(/log\.csv/);
    await userEvent.click(screen.getByRole('button', { name: /Size/ }));
    expect(where()).toBe('/originals?sort=size&order=down');
    expect(page.sent('GET').map((a) => a.path)).toContain(
      '/originals/1/folder/1?sort=size&order=down&offset=0&limit=200',
    );
  });

  it('tells an empty folder from one whose files are hidden, and from one that cannot be shown', async () => {
    await show({ 'GET /originals/1/folder/1': folder(1, []) });
    expect(await screen.findByText('This folder is empty')).toBeTruthy();
    cleanup();
    await show({ 'GET /originals/1/folder/1': folder(1, [], { hidden: 3 }) });
    expect(await screen.findByText('Everything in this folder is hidden')).toBeTruthy();
    cleanup();
    await show({ 'GET /originals/1/folder/1': new Refusal('no-access', 'The system does not let Rellin in.', 403) });
    expect(await screen.findByText('This folder cannot be shown', undefined, { timeout: 5000 })).toBeTruthy();
    expect(screen.getByText('The system does not let Rellin in.')).toBeTruthy();
  });

  it('asks for a first folder where there is none', async () => {
    const page = await show({
      'GET /places': [],
      'GET /places/complete': ({ path }: { path: string }) => (path.includes('Marr') ? ['/home/wren/Marrowick/'] : []),
      'POST /places': place,
    });
    await userEvent.type(await screen.findByRole('combobox', { name: 'Folder' }), '/home/wren/Marr');
    await userEvent.click(await screen.findByRole('option', { name: '/home/wren/Marrowick/' }));
    await userEvent.click(screen.getByRole('button', { name: 'Add folder' }));
    expect(page.sent('POST').map((a) => a.body)).toEqual([{ root: '/home/wren/Marrowick/' }]);
  });
});

describe('cut, copy and paste', () => {
  const DONE = { state: 'done', filed: 1, skipped: 0, into: 'Records', notes: [] };
  /** A clipboard as the browser hands it along with an event. */
  function clip(kind: 'cut' | 'copy' | 'paste', data: Map<string, string>) {
    const event = createEvent[kind](document.body, {
      clipboardData: {
        setData: (type: string, text: string) => data.set(type, text),
        getData: (type: string) => data.get(type) ?? '',
      },
    });
    fireEvent(document.body, event);
    return event;
  }

  it('move what was cut into the folder shown then, once; its path lies on the clipboard for others', async () => {
    const page = await show({ 'POST /filing': DONE });
    await userEvent.click(await row(/log\.csv/));
    const clipboard = new Map<string, string>();
    clip('cut', clipboard);
    expect(clipboard.get('text/plain')).toBe('/home/wren/Marrowick/log.csv');
    await userEvent.dblClick(await row(/Records/));
    await row(/rings\.csv/);
    expect(clip('paste', clipboard).defaultPrevented).toBe(true);
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toEqual({
      originals: [{ placeId: 1, originalId: 7 }],
      into: { placeId: 1, originalId: 5 },
      how: 'move',
    });
    expect(clip('paste', clipboard).defaultPrevented).toBe(false);
  });

  it('put a copy beside where it was copied, under a further name', async () => {
    const page = await show({ 'POST /filing': DONE });
    await userEvent.click(await row(/log\.csv/));
    const clipboard = new Map<string, string>();
    clip('copy', clipboard);
    clip('paste', clipboard);
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toMatchObject({ how: 'copy', clash: 'keep-both' });
  });

  it('take nothing from a clipboard that another page filled', async () => {
    const page = await show({ 'POST /filing': DONE });
    await userEvent.click(await row(/log\.csv/));
    clip('cut', new Map());
    for (const forged of ['', 'x', JSON.stringify({ how: 'move', originals: [{ placeId: 1, originalId: 7 }] })])
      clip('paste', new Map([['application/x-rellin-originals', forged]]));
    expect(page.sent('POST')).toEqual([]);
  });
});

describe('several originals', () => {
  it('are chosen together, and renamed by a pattern that leaves the endings', async () => {
    const entries = ['a.csv', 'b.csv', 'c'].map((name, i) => anEntry(20 + i, name, i === 2 ? { type: 'folder' } : {}));
    const page = await show({
      'GET /originals/1/folder/1': folder(1, entries),
      'POST /filing/rename': { renamed: 3 },
    });
    const { RenameOriginals } = await import('../filing/RenameOriginals');
    await userEvent.click(await row(/a\.csv/));
    await userEvent.keyboard('{Shift>}{ArrowDown}{ArrowDown}{/Shift}');
    expect((await screen.findByRole('toolbar', { name: 'With all chosen' })).textContent).toContain('3 chosen');
    page.unmount();
    const form = await renderPage(<RenameOriginals entries={entries} onClose={() => undefined} />, {
      'POST /filing/rename': { renamed: 3 },
    });
    await userEvent.clear(screen.getByLabelText('Pattern'));
    await userEvent.type(screen.getByLabelText('Pattern'), 'trap {{n}');
    await userEvent.click(screen.getByRole('button', { name: 'Rename 3' }));
    await waitFor(() => expect(form.sent('POST')).toHaveLength(1));
    const { names } = form.sent('POST')[0]!.body as { names: { name: string }[] };
    expect(names.map((n) => n.name)).toEqual(['trap 1.csv', 'trap 2.csv', 'trap 3']);
  });
});

describe('a folder too long to be read at once', () => {
  const all = Array.from({ length: 450 }, (_, i) => anEntry(100 + i, `scan ${i}.txt`));
  const pages = ({ path }: Asked) => {
    const asked = new URLSearchParams(path.split('?')[1]);
    const [offset, limit] = [Number(asked.get('offset')), Number(asked.get('limit'))];
    return folder(1, all.slice(offset, offset + limit), { total: all.length, offset });
  };

  it('is chosen whole by Ctrl+A, also what was never in sight', async () => {
    const page = await show({
      'GET /originals/1/folder/1': pages,
      'POST /bin/originals': { state: 'done', deleted: 450, notes: [] },
    });
    await userEvent.click(await row(/scan 0\.txt/));
    await userEvent.keyboard('{Control>}a{/Control}');
    const bar = await screen.findByRole('toolbar', { name: 'With all chosen' });
    await waitFor(() => expect(bar.textContent).toContain('450 chosen'));
    await userEvent.click(within(bar).getByRole('button', { name: 'Delete originals' }));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    const { originals } = page.sent('POST')[0]!.body as { originals: { originalId: number }[] };
    expect(new Set(originals.map((o) => o.originalId)).size).toBe(450);
  });
});
