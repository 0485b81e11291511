import type { DialogRequest } from '../workspace/dialogRequest';
import { describe, expect, it } from '@jest/globals';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect } from 'react';
import { useWorkspaceActions } from '../workspace/workspace';
import { aCollection, aShortcut, Refusal, renderPage, type Answers, type Asked } from '../testing/page';
import { ShortcutDialogs } from './dialogs';

const shortcut = aShortcut({ id: 's1', name: 'Tide table', description: 'Heights.' });

function Opened({ request }: { request: DialogRequest }) {
  const { openDialog } = useWorkspaceActions();
  useEffect(() => openDialog(request), [openDialog, request]);
  return <ShortcutDialogs />;
}
const show = (request: DialogRequest, answers: Answers = {}) =>
  renderPage(<Opened request={request} />, {
    'GET /originals/complete': [],
    'GET /shortcuts/meant': { meant: null, trouble: { kind: 'not-found', text: 'Nothing is there.' } },
    ...answers,
  });
const button = (name: string) => screen.getByRole('button', { name });

describe('adding by a typed or pasted path', () => {
  it('refuses to send nothing, and says what is wanted', async () => {
    const page = await show({ kind: 'add' });
    await userEvent.click(button('Add shortcut'));
    expect(await screen.findByText('Say what the shortcut points to.')).toBeTruthy();
    expect(page.sent('POST')).toEqual([]);
  });

  it('sends what was filled in, leaves out what was not, and closes', async () => {
    const page = await show({ kind: 'add', typed: '/home/wren/tides.csv' }, { 'POST /shortcuts': shortcut });
    await userEvent.type(screen.getByLabelText('Name'), 'Tides');
    await userEvent.click(button('Add shortcut'));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(page.sent('POST').map((a) => a.body)).toEqual([{ typed: '/home/wren/tides.csv', name: 'Tides' }]);
  });

  it('pins it where it was dropped on the strip', async () => {
    const page = await show({ kind: 'add', typed: 'https://a.example/', slot: 3 }, { 'POST /shortcuts': shortcut });
    await userEvent.click(button('Add shortcut'));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toEqual({ typed: 'https://a.example/', pin: true, slot: 3 });
  });

  it('stays open with what was typed where it is refused', async () => {
    await show(
      { kind: 'add', typed: '/etc/passwd' },
      { 'POST /shortcuts': new Refusal('outside', '/etc/passwd lies outside every place.') },
    );
    await userEvent.click(button('Add shortcut'));
    expect(await screen.findByText('/etc/passwd lies outside every place.')).toBeTruthy();
    expect((screen.getByLabelText('Points to') as HTMLInputElement).value).toBe('/etc/passwd');
  });

  it('adds the folder of what is in none, waits until it is read, and goes on', async () => {
    let isAdded = false;
    let reads = 0;
    const page = await show(
      { kind: 'add', typed: '/home/wren/Moths/trap.csv', outside: true },
      {
        'POST /places': () => ((isAdded = true), { id: 4, scan: 'running' }),
        'GET /places': () => (isAdded ? [{ id: 4, scan: ++reads < 3 ? 'running' : 'done' }] : []),
        'POST /shortcuts': () => (isAdded ? shortcut : new Refusal('outside-places', 'It is outside.', 403)),
      },
    );
    await userEvent.click(button('Add this folder, then the shortcut'));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull(), { timeout: 3000 });
    expect(page.sent('POST').map((a) => a.body)).toEqual([
      { root: '/home/wren/Moths' },
      { typed: '/home/wren/Moths/trap.csv' },
    ]);
    expect(reads).toBeGreaterThanOrEqual(3);
  });

  it('offers that also where it turns out only when it is sent', async () => {
    await show(
      { kind: 'add', typed: '/etc/passwd' },
      { 'POST /shortcuts': new Refusal('outside-places', '/etc/passwd lies outside every place.', 403) },
    );
    expect(screen.queryByRole('button', { name: /Add this folder/ })).toBeNull();
    await userEvent.click(button('Add shortcut'));
    expect(await screen.findByRole('button', { name: /Add this folder/ })).toBeTruthy();
  });

  it('continues a path from the folders there are', async () => {
    await show({ kind: 'add' }, { 'GET /originals/complete': ['/home/wren/Boat', '/home/wren/Records'] });
    await userEvent.type(screen.getByLabelText('Points to'), '/home/wren/');
    await userEvent.click(await screen.findByRole('option', { name: '/home/wren/Boat' }));
    expect((screen.getByLabelText('Points to') as HTMLInputElement).value).toBe('/home/wren/Boat');
  });
});

describe('the one field for adding', () => {
  const meant = (name: string, kind = 'table') => ({
    meant: { kind, name, location: `/home/wren/${name}`, shortcut: null },
    trouble: null,
  });
  const field = () => screen.getByRole<HTMLInputElement>('combobox', { name: 'Points to' });

  it('says what is meant, with its kind, before it is sent', async () => {
    await show({ kind: 'add' }, { 'GET /shortcuts/meant': meant('tides.csv') });
    await userEvent.type(field(), '/home/wren/tides.csv');
    expect(await screen.findByText('tides.csv', { selector: 'b' })).toBeTruthy();
    expect(screen.getByText(/^table/).textContent).toBe('table tides.csv · /home/wren/tides.csv');
  });

  it('says that there is a shortcut already, and what leads nowhere', async () => {
    await show(
      { kind: 'add' },
      {
        'GET /shortcuts/meant': ({ path }: Asked) =>
          path.includes('nowhere')
            ? { meant: null, trouble: { kind: 'not-found', text: 'There is nothing at nowhere.' } }
            : { ...meant('a'), meant: { ...meant('a').meant, shortcut: { id: 's1', name: 'Levels' } } },
      },
    );
    await userEvent.type(field(), '/a');
    expect(await screen.findByText(/has the shortcut “Levels” already/)).toBeTruthy();
    await userEvent.clear(field());
    await userEvent.type(field(), '/nowhere');
    expect(await screen.findByText('There is nothing at nowhere.')).toBeTruthy();
  });

  it('completes from programs and files by their names; a file is meant by where it is', async () => {
    const page = await show(
      { kind: 'add' },
      {
        'GET /programs': [{ id: 'ring.desktop', name: 'Ringbook', comment: 'Rings', genericName: '' }],
        'GET /shortcuts': [aShortcut({ id: 's8', name: 'Log', placeId: 1, originalId: 8 })],
        'GET /find': {
          query: 'ring',
          answers: [
            {
              ...{ group: 'original', id: '1/8', name: 'ringing log.csv', kind: 'table', state: null, trail: 'Survey' },
              ...{ ranges: [], placeId: 1, originalId: 8, shortcutId: null, seconds: 3, steps: 3 },
            },
            {
              ...{ group: 'original', id: '1/7', name: 'ringing.csv', kind: 'table', state: null, trail: 'Survey' },
              ...{ ranges: [], placeId: 1, originalId: 7, shortcutId: null, seconds: 3, steps: 3 },
            },
          ],
        },
        'GET /shortcuts/meant': { meant: null, trouble: { kind: 'not-valid', text: 'Nothing is called that.' } },
        'POST /shortcuts': shortcut,
      },
    );
    await userEvent.type(field(), 'ring');
    const options = await screen.findAllByRole('option');
    expect(options.map((o) => o.textContent)).toEqual([
      'RingbookRings',
      'ringing log.csvtable · Survey · has the shortcut “Log” already',
      'ringing.csvtable · Survey',
    ]);
    // a word half typed is no mistake
    expect(await screen.findByText('Choose one of these, or type on')).toBeTruthy();
    expect(field().getAttribute('aria-invalid')).toBe('false');
    await userEvent.click(options[2]!);
    await userEvent.click(button('Add shortcut'));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toEqual({ placeId: 1, originalId: 7 });
  });

  it('takes the first of what is offered by Enter, and sends it by the next', async () => {
    const page = await show(
      { kind: 'add' },
      {
        'GET /programs': [{ id: 'ring.desktop', name: 'Ringbook', comment: 'Rings', genericName: '' }],
        'GET /shortcuts/meant': ({ path }: Asked) =>
          path.includes('Ringbook')
            ? meant('Ringbook', 'program')
            : { meant: null, trouble: { kind: 'not-valid', text: 'Nothing is called that.' } },
        'POST /shortcuts': shortcut,
      },
    );
    await userEvent.type(field(), 'rin');
    await screen.findByText('Choose one of these, or type on');
    await userEvent.keyboard('{Enter}');
    expect(field().value).toBe('Ringbook');
    expect(page.sent('POST')).toEqual([]);
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(page.sent('POST').map((a) => a.body)).toEqual([{ typed: 'Ringbook' }]));
  });

  it('offers what was opened lately, by where it is, and what the clipboard holds', async () => {
    // a session of its own brings a clipboard
    const user = userEvent.setup();
    const opened = { id: 'o', at: '2026-11-30T10:00:00Z', how: 'viewer', argv: [], shortcutId: null };
    const page = await show(
      { kind: 'add' },
      {
        'GET /openings?limit=30': [
          { ...opened, name: 'levels.csv', placeId: 1, originalId: 9 },
          { ...opened, name: 'levels.csv', placeId: 1, originalId: 9 },
          { ...opened, name: 'Tideplotter', placeId: null, originalId: null },
        ],
        'GET /shortcuts/meant': meant('oars.csv'),
        'POST /shortcuts': shortcut,
      },
    );
    await user.keyboard('{ArrowDown}');
    const options = await screen.findAllByRole('option');
    expect(options.map((o) => o.textContent)).toEqual([
      'What the clipboard holdspaths or addresses',
      'levels.csvtable · opened lately',
    ]);
    await navigator.clipboard.writeText('  /home/wren/oars.csv\n');
    await user.click(options[0]!);
    await waitFor(() => expect(field().value).toBe('/home/wren/oars.csv'));
    await user.clear(field());
    await user.keyboard('{ArrowDown}');
    await user.click(await screen.findByRole('option', { name: /levels/ }));
    expect(await screen.findByText('table · opened lately')).toBeTruthy();
    await userEvent.click(button('Add shortcut'));
    await waitFor(() => expect(page.sent('POST').map((a) => a.body)).toEqual([{ placeId: 1, originalId: 9 }]));
  });

  it('pins before a pin that is chosen, also with a collection', async () => {
    const pin = { target: 'shortcut', kind: 'table', state: 'ready', count: null, fresh: 0, colour: '' };
    const pins = ['Levels', 'Tide table'].map((name, i) => ({
      ...pin,
      id: `p${i}`,
      targetId: `s${i}`,
      name,
      slot: i + 1,
    }));
    const page = await show(
      { kind: 'add', typed: '/a' },
      {
        'GET /shortcuts/meant': meant('a'),
        'GET /settings': { pinLimit: 9 },
        'GET /pins': pins,
        'GET /collections': [aCollection({ id: 'c1', name: 'Boat week' })],
        'POST /shortcuts/many': { ids: ['a'], added: 1, pinned: 1, notMade: [] },
      },
    );
    await userEvent.click(screen.getByLabelText('Pin it to the strip'));
    await userEvent.click(await screen.findByRole('combobox', { name: /^Where on the strip/ }));
    await userEvent.click(await screen.findByRole('option', { name: '2, before “Tide table”' }));
    await userEvent.click(screen.getByLabelText('Into collections'));
    await userEvent.click(await screen.findByRole('option', { name: 'Boat week' }));
    await userEvent.click(button('Add shortcut'));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toMatchObject({ collectionIds: ['c1'], pin: true, slot: 2 });
    localStorage.clear();
  });

  it('makes several of several lines, into collections and with tags, and remembers where', async () => {
    const answers = {
      'GET /shortcuts/meant': meant('x'),
      'GET /collections': [aCollection({ id: 'c1', name: 'Boat week' })],
      'GET /tags': [{ id: 't1', name: 'urgent', colour: '', count: 0 }],
      'POST /shortcuts/many': {
        ids: ['a', 'b'],
        added: 1,
        pinned: 0,
        notMade: [{ name: '/gone', reason: 'There is nothing there.' }],
      },
    };
    const page = await show({ kind: 'add', typed: '/a\n/b\n/gone\n/d' }, answers);
    expect(screen.getByRole('heading', { name: 'Add 4 shortcuts' })).toBeTruthy();
    await userEvent.click(screen.getAllByRole('button', { name: 'Leave out' })[3]!);
    await userEvent.click(screen.getByLabelText('Into collections'));
    await userEvent.click(await screen.findByRole('option', { name: 'Boat week' }));
    await userEvent.click(screen.getByLabelText('With tags'));
    await userEvent.click(await screen.findByRole('option', { name: 'urgent' }));
    await userEvent.click(button('Add 3 shortcuts'));
    expect(
      await screen.findByText('Added 1 shortcut, 1 was there already. Left out: /gone (There is nothing there.)'),
    ).toBeTruthy();
    expect(page.sent('POST').map((a) => a.body)).toEqual([
      {
        items: [{ typed: '/a' }, { typed: '/b' }, { typed: '/gone' }],
        collectionIds: ['c1'],
        tagIds: ['t1'],
      },
    ]);
    page.unmount();
    await show({ kind: 'add' }, answers);
    expect(screen.getByRole('button', { name: 'Boat week' })).toBeTruthy();
    localStorage.clear();
  });
});

describe('renaming, describing, repointing', () => {
  it('refuses an empty name before it is sent', async () => {
    const page = await show({ kind: 'rename', shortcut });
    await userEvent.clear(screen.getByLabelText('Name'));
    await userEvent.click(button('Rename'));
    expect(await screen.findByText('A shortcut needs a name.')).toBeTruthy();
    expect(page.sent('PATCH')).toEqual([]);
  });

  it('says that the original keeps its name, and sends the new one', async () => {
    const page = await show({ kind: 'rename', shortcut }, { 'PATCH /shortcuts/s1': { ...shortcut, name: 'Heights' } });
    expect(screen.getByText(/its original keeps its name/)).toBeTruthy();
    await userEvent.clear(screen.getByLabelText('Name'));
    await userEvent.type(screen.getByLabelText('Name'), 'Heights{Enter}');
    expect(await screen.findByText('Renamed to “Heights”')).toBeTruthy();
    expect(page.sent('PATCH')[0]!.body).toEqual({ name: 'Heights' });
  });

  it('edits the description with room', async () => {
    const page = await show({ kind: 'describe', shortcut }, { 'PATCH /shortcuts/s1': shortcut });
    const field = screen.getByLabelText('Description');
    expect((field as HTMLTextAreaElement).value).toBe('Heights.');
    await userEvent.type(field, ' At the slip.');
    await userEvent.click(button('Save'));
    await waitFor(() => expect(page.sent('PATCH')).toHaveLength(1));
    expect(page.sent('PATCH')[0]!.body).toEqual({ description: 'Heights. At the slip.' });
  });

  it('changes the target from where it points now', async () => {
    const page = await show({ kind: 'repoint', shortcut }, { 'POST /shortcuts/s1/repoint': shortcut });
    const field = screen.getByLabelText('Points to') as HTMLInputElement;
    expect(field.value).toBe(shortcut.location);
    await userEvent.clear(field);
    await userEvent.type(field, '/home/wren/other.csv');
    await userEvent.click(button('Change target'));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toEqual({ typed: '/home/wren/other.csv' });
  });
});

describe('what goes with a shortcut', () => {
  it('is one of the catalogue by name, or a path; anything else is said to be neither', async () => {
    const page = await show(
      { kind: 'goes-with', shortcut },
      {
        'GET /shortcuts': [shortcut, aShortcut({ id: 's2', name: 'Manual' })],
        'POST /shortcuts/s1/goes-with': shortcut,
      },
    );
    const field = screen.getByLabelText('Shortcut, path or address');
    await userEvent.type(field, 'Nothing like it');
    expect(await screen.findByText(/No shortcut is called that/)).toBeTruthy();
    expect(button('Add')).toHaveProperty('disabled', true);
    await userEvent.clear(field);
    await userEvent.type(field, 'Manual');
    await userEvent.click(button('Add'));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]!.body).toEqual({ withId: 's2' });
  });
});

describe('renaming many', () => {
  const many = [shortcut, aShortcut({ id: 's2', name: 'Tide notes' })];

  it('shows every name before it is done, and sends them in one act', async () => {
    const page = await show({ kind: 'rename-many', shortcuts: many });
    const field = screen.getByLabelText('Pattern');
    await userEvent.clear(field);
    await userEvent.paste('{nn} {name}');
    expect(screen.getAllByRole('cell').map((c) => c.textContent)).toEqual([
      'Tide table',
      '01 Tide table',
      'Tide notes',
      '02 Tide notes',
    ]);
    await userEvent.click(button('Rename 2'));
    await waitFor(() => expect(page.sent('POST')).toHaveLength(1));
    expect(page.sent('POST')[0]).toMatchObject({
      path: '/shortcuts/rename',
      body: {
        names: [
          { id: 's1', name: '01 Tide table' },
          { id: 's2', name: '02 Tide notes' },
        ],
      },
    });
  });

  it('says what is wrong with a pattern and does nothing', async () => {
    await show({ kind: 'rename-many', shortcuts: many });
    await userEvent.clear(screen.getByLabelText('Pattern'));
    await userEvent.paste('{size}');
    expect(await screen.findByText(/\{size\} is no field/)).toBeTruthy();
    expect(button('Rename 0')).toHaveProperty('disabled', true);
  });
});

describe('a key of one’s own', () => {
  const request: DialogRequest = { kind: 'own-key', target: 'shortcut', id: 's1', name: 'Tide table', keys: null };

  it('is pressed, refused at once where it clashes, and sent as it is kept', async () => {
    const page = await show(request, {
      'GET /shortcuts': [shortcut, aShortcut({ id: 's2', name: 'Manual', keys: 'q' })],
      'PATCH /shortcuts/s1': shortcut,
    });
    const field = screen.getByLabelText('Press it');
    await userEvent.type(field, 'n');
    expect(await screen.findByText(/Rellin's own: Add a shortcut/)).toBeTruthy();
    expect(button('Save')).toHaveProperty('disabled', true);
    await userEvent.type(field, '{Backspace}q');
    expect(await screen.findByText(/opens “Manual” already/)).toBeTruthy();
    await userEvent.type(field, '{Backspace}jt');
    expect((field as HTMLInputElement).value).toBe('J, T');
    await userEvent.click(button('Save'));
    await waitFor(() => expect(page.sent('PATCH')).toHaveLength(1));
    expect(page.sent('PATCH')[0]!.body).toEqual({ keys: 'j t' });
  });

  it('can be taken away', async () => {
    const page = await show({ ...request, keys: 'j t' }, { 'PATCH /shortcuts/s1': shortcut });
    await userEvent.click(button('Remove its key'));
    await waitFor(() => expect(page.sent('PATCH')).toHaveLength(1));
    expect(page.sent('PATCH')[0]!.body).toEqual({ keys: null });
  });
});

describe('emptying the bin', () => {
  it('asks, says that it cannot be undone, and does it only then', async () => {
    const page = await show({ kind: 'empty-bin', count: 2 }, { 'POST /bin/empty': { removed: 2 } });
    expect(screen.getByText(/cannot be undone/)).toBeTruthy();
    expect(page.sent('POST')).toEqual([]);
    await userEvent.click(button('Empty the bin'));
    expect(await screen.findByText('The bin is empty: 2 gone for good')).toBeTruthy();
  });
});
