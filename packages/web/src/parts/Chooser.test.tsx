/** Choosing instead of typing: by pointer, by keyboard, in places and outside of them. */
import { useState } from 'react';
import { describe, expect, it } from '@jest/globals';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ChooserEntry, ChooserView } from '@rellin/contract';
import { Refusal, renderPage, type Answers, type Asked } from '../testing/page';
import { PathChooser } from './PathChooser';
import type { Wanted } from './Chooser';

const entry = (path: string, more: Partial<ChooserEntry> = {}): ChooserEntry => ({
  path,
  name: path.slice(path.lastIndexOf('/') + 1),
  type: 'folder',
  kind: 'folder',
  size: null,
  modified: null,
  placeId: 1,
  originalId: 2,
  ...more,
});
const file = (path: string) => entry(path, { type: 'file', kind: 'table', size: 1200, modified: 1_790_000_000_000 });
const view = (path: string, entries: ChooserEntry[], more: Partial<ChooserView> = {}): ChooserView => ({
  path,
  trail: path
    .split('/')
    .slice(1)
    .reduce<ChooserView['trail']>(
      (trail, name) => [...trail, { name, path: `${trail.at(-1)!.path}/${name}`.replace('//', '/') }],
      [{ name: '/', path: '/' }],
    ),
  entries,
  more: 0,
  hidden: 0,
  placeId: 1,
  folderId: 4,
  trouble: null,
  ...more,
});

const FOLDERS: Record<string, ChooserView> = {
  '~/': view('/home/wren', [entry('/home/wren/Documents'), entry('/home/wren/Music')], {
    placeId: null,
    folderId: null,
  }),
  '/home/wren/Documents': view('/home/wren/Documents', [
    entry('/home/wren/Documents/Survey'),
    file('/home/wren/Documents/tides.csv'),
  ]),
  '/home/wren/Documents/Survey': view('/home/wren/Documents/Survey', []),
  '/home/wren': view('/home/wren', [entry('/home/wren/Documents'), entry('/home/wren/Music')], {
    placeId: null,
    folderId: null,
  }),
};
const ANSWERS: Answers = {
  'GET /choose/starts': {
    home: '/home/wren',
    folders: [
      { path: '/home/wren/Documents', name: 'Documents', origin: 'standard', proposed: true, placeId: 1 },
      { path: '/home/wren', name: 'wren', origin: 'home', proposed: false, placeId: null },
    ],
    recent: ['/home/wren/Documents/Survey', '/home/wren/2025/Maps', '/home/wren/2026/Maps'],
  },
  'GET /choose/folder': ({ path }: Asked) =>
    FOLDERS[new URLSearchParams(path.split('?')[1]).get('path')!] ?? new Refusal('not-found', 'It is not there.', 404),
  'GET /programs': [{ id: 'p', name: 'Ringbook', comment: 'Rings', genericName: '', categories: [], shortcut: null }],
  'GET /places/complete': [],
  'GET /originals/complete': [],
};

function Field({ want }: { want: Wanted }) {
  const [value, setValue] = useState('');
  return <PathChooser want={want} title="Choose it" label="Points to" value={value} onChange={setValue} />;
}

const show = async (want: Wanted = 'anything', answers: Answers = {}) => {
  const page = await renderPage(<Field want={want} />, { ...ANSWERS, ...answers });
  await userEvent.click(screen.getByRole('button', { name: 'Browse…' }));
  await screen.findByRole('listbox');
  return page;
};
const list = (path: string) => screen.findByRole('listbox', { name: path });
const chosen = () => screen.getByLabelText<HTMLInputElement>('Points to').value;

describe('the chooser', () => {
  it('goes down by a double press, up by the trail, and takes a file', async () => {
    await show();
    await userEvent.dblClick(await screen.findByRole('option', { name: /Documents/ }));
    await list('/home/wren/Documents');
    const trail = screen.getByRole('group', { name: 'The way down to it' });
    await userEvent.click(within(trail).getByRole('button', { name: 'wren' }));
    await list('/home/wren');
    await userEvent.click(
      within(screen.getByRole('group', { name: 'This machine' })).getByRole('button', { name: 'Documents' }),
    );
    await userEvent.dblClick(await screen.findByRole('option', { name: /tides\.csv/ }));
    await waitFor(() => expect(chosen()).toBe('/home/wren/Documents/tides.csv'));
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  it('goes by the keyboard alone: arrows, Enter, Backspace', async () => {
    await show();
    expect(document.activeElement).toBe(await list('/home/wren'));
    await userEvent.keyboard('{ArrowDown}{Enter}');
    expect(document.activeElement).toBe(await list('/home/wren/Documents'));
    await userEvent.keyboard('{Backspace}');
    expect(document.activeElement).toBe(await list('/home/wren'));
    await userEvent.keyboard('{ArrowDown}{Enter}');
    await list('/home/wren/Documents');
    await userEvent.keyboard('{End}{Enter}');
    await waitFor(() => expect(chosen()).toBe('/home/wren/Documents/tides.csv'));
  });

  it('lists folders only where a folder is wanted, and takes the one that is shown or marked', async () => {
    await show('folder');
    await userEvent.dblClick(await screen.findByRole('option', { name: /Documents/ }));
    await list('/home/wren/Documents');
    expect(screen.queryByRole('option', { name: /tides/ })).toBeNull();
    expect(screen.getByRole('button', { name: 'Choose “Documents”' })).toBeTruthy();
    await userEvent.click(screen.getByRole('option', { name: /Survey/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Choose “Survey”' }));
    await waitFor(() => expect(chosen()).toBe('/home/wren/Documents/Survey'));
  });

  it('says why there are no files outside the places, and adds the folder there', async () => {
    let isAdded = false;
    const page = await show('anything', {
      'POST /places': () => ((isAdded = true), { id: 7 }),
      'GET /places': [{ id: 7, scan: 'done' }],
      'GET /choose/folder': () => (isAdded ? view('/home/wren', [file('/home/wren/list.csv')]) : FOLDERS['~/']),
    });
    expect(await screen.findByText(/so its files are not shown/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Add this folder' }));
    expect(await screen.findByRole('option', { name: /list\.csv/ })).toBeTruthy();
    expect(page.sent('POST').map((a) => a.body)).toEqual([{ root: '/home/wren' }]);
  });

  it('makes a folder where one is, goes into it, and says what stands against it', async () => {
    let isTaken = true;
    const page = await show('folder', {
      'POST /filing/folder': () =>
        isTaken
          ? new Refusal('conflict', 'There is a folder “Survey” in “Documents” already.')
          : { path: '/home/wren/Documents/Survey' },
    });
    expect(screen.queryByRole('button', { name: 'New folder…' })).toBeNull();
    await userEvent.dblClick(await screen.findByRole('option', { name: /Documents/ }));
    await list('/home/wren/Documents');
    await userEvent.click(screen.getByRole('button', { name: 'New folder…' }));
    await userEvent.type(screen.getByLabelText('Name of the new folder'), 'Survey{Enter}');
    expect(await screen.findByText('There is a folder “Survey” in “Documents” already.')).toBeTruthy();
    isTaken = false;
    await userEvent.click(screen.getByRole('button', { name: 'Make folder' }));
    await list('/home/wren/Documents/Survey');
    expect(page.sent('POST')[0]!.body).toEqual({ placeId: 1, originalId: 4, newFolder: 'Survey' });
  });

  it('goes where a path leads by Enter, and takes what is no folder; the form behind is not sent', async () => {
    let sent = 0;
    const page = await renderPage(
      <form onSubmit={(event) => (event.preventDefault(), void sent++)}>
        <Field want="anything" />
      </form>,
      ANSWERS,
    );
    await userEvent.click(screen.getByRole('button', { name: 'Browse…' }));
    await list('/home/wren');
    const path = screen.getByLabelText('Path');
    await userEvent.clear(path);
    await userEvent.type(path, '/home/wren/Documents/{Enter}');
    await screen.findByText('It is not there.');
    await userEvent.clear(path);
    await userEvent.type(path, '/home/wren/Documents/tides.csv{Enter}');
    await waitFor(() => expect(chosen()).toBe('/home/wren/Documents/tides.csv'));
    expect(sent).toBe(0);
    page.unmount();
    await show('folder');
    await userEvent.clear(screen.getByLabelText('Path'));
    await userEvent.type(screen.getByLabelText('Path'), '/home/wren/Documents{Enter}');
    await list('/home/wren/Documents');
    await userEvent.type(screen.getByLabelText('Path'), '{Enter}');
    await waitFor(() => expect(chosen()).toBe('/home/wren/Documents'));
  });

  it('tells recent folders of one name apart', async () => {
    await show();
    const recent = screen.getByRole('group', { name: 'Recent' });
    expect(
      within(recent)
        .getAllByRole('button')
        .map((b) => b.textContent),
    ).toEqual(['Survey', 'Maps in 2025', 'Maps in 2026']);
  });

  it('takes a program by its name', async () => {
    await show();
    await userEvent.click(screen.getByRole('button', { name: 'Programs' }));
    await userEvent.dblClick(await screen.findByRole('option', { name: /Ringbook/ }));
    await waitFor(() => expect(chosen()).toBe('Ringbook'));
  });

  it('says what stands against a folder, and takes a typed path', async () => {
    await show('anything', {
      'GET /choose/folder': () => new Refusal('no-access', 'Rellin may not read it.', 403),
    }).catch(() => undefined);
    expect(await screen.findByText('Rellin may not read it.')).toBeTruthy();
    await userEvent.type(screen.getByLabelText('Path'), '/srv/x');
    await userEvent.click(screen.getByRole('button', { name: 'Choose' }));
    await waitFor(() => expect(chosen()).toBe('/srv/x'));
  });
});
