import type { DialogRequest } from '../workspace/dialogRequest';
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect } from 'react';
import type { FilingView } from '@rellin/contract';
import { useWorkspaceActions } from '../workspace/workspace';
import { aShortcut, Refusal, renderPage, type Answers, type Asked } from '../testing/page';
import { FilingDialogs } from './dialogs';
import { useOutsideDrop } from './useFiling';

const folders = [
  aShortcut({ id: 'f1', name: 'Photographs', kind: 'folder' }),
  aShortcut({ id: 'f2', name: 'Photo archive', kind: 'folder', state: 'away' }),
  aShortcut({ id: 's1', name: 'Tide table' }),
];
const CLASHES: FilingView = {
  state: 'clashes',
  into: 'Photographs',
  total: 2,
  clashes: [
    { name: 'a.png', there: { size: 1_500_000, modified: Date.UTC(2025, 0, 2) }, coming: { size: 900, modified: 0 } },
    { name: 'b', there: { size: null, modified: 0 }, coming: { size: null, modified: 0 } },
  ],
};
const DONE: FilingView = { state: 'done', filed: 2, skipped: 0, into: 'Photographs', notes: [] };

function Opened({ request }: { request: DialogRequest }) {
  const { openDialog } = useWorkspaceActions();
  useEffect(() => openDialog(request), [openDialog, request]);
  return <FilingDialogs />;
}
const gathered = { shortcuts: [{ id: 's1', name: 'Tide table' }] };
const show = (answers: Answers = {}) =>
  renderPage(<Opened request={{ kind: 'file-into', gathered }} />, { 'GET /shortcuts': folders, ...answers });
/** What was asked of filing; where things belong is asked as well. */
const filed = (page: Awaited<ReturnType<typeof renderPage>>) =>
  page.sent('POST').filter((a) => a.path.startsWith('/filing'));
const button = (name: string) => screen.getByRole('button', { name });

describe('filing into a folder', () => {
  it('offers the folders that have a shortcut; one that is away cannot be chosen', async () => {
    const page = await show();
    const options = screen.getAllByRole('option');
    expect(options.map((o) => o.querySelector('.name')!.textContent)).toEqual(['Photographs', 'Photo archive']);
    expect(options[1]!.getAttribute('aria-disabled')).toBe('true');
    await userEvent.click(options[1]!);
    expect(filed(page)).toEqual([]);
  });

  it('begins with the first that can be chosen', async () => {
    const page = await show({ 'GET /shortcuts': [folders[1], folders[0], folders[2]], 'POST /filing': DONE });
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(filed(page)).toHaveLength(1));
    expect(filed(page)[0]!.body).toMatchObject({ into: { shortcutId: 'f1' }, how: 'move' });
  });

  it('moves or copies as was said, into a new folder where one was named', async () => {
    const page = await show({ 'POST /filing': DONE });
    await userEvent.click(screen.getByRole('radio', { name: 'Copy them' }));
    await userEvent.type(screen.getByLabelText('In a new folder there'), 'For the warden');
    await userEvent.click(screen.getByRole('option', { name: /Photographs/ }));
    await waitFor(() => expect(filed(page)).toHaveLength(1));
    expect(filed(page)[0]!.body).toEqual({
      shortcutIds: ['s1'],
      into: { shortcutId: 'f1', newFolder: 'For the warden' },
      how: 'copy',
    });
    expect(await screen.findByText('Copied 2 things into “Photographs”')).toBeTruthy();
  });

  it('asks about names that are taken, once for all, and does then what was chosen', async () => {
    const page = await show({
      'POST /filing': ({ body }: Asked) => ((body as { clash?: string }).clash ? DONE : CLASHES),
    });
    await userEvent.click(screen.getByRole('option', { name: /Photographs/ }));
    expect(await screen.findByText('2 names are taken in “Photographs”')).toBeTruthy();
    expect(screen.getByText(/Nothing was moved or copied yet/)).toBeTruthy();
    expect(
      screen
        .getAllByRole('cell')
        .map((c) => c.textContent)
        .slice(0, 2),
    ).toEqual(['a.png', '1.5 MB, 2 Jan 2025']);
    await userEvent.click(button('Keep both'));
    await waitFor(() => expect(filed(page)).toHaveLength(2));
    expect(filed(page)[1]!.body).toMatchObject({ clash: 'keep-both' });
    expect(await screen.findByText('Moved 2 things into “Photographs”')).toBeTruthy();
  });

  it('says what stood against it, and keeps the form', async () => {
    await show({ 'POST /filing': new Refusal('no-room', 'There is no room left at /mnt/drive.', 507) });
    await userEvent.click(screen.getByRole('option', { name: /Photographs/ }));
    expect(await screen.findByText('There is no room left at /mnt/drive.')).toBeTruthy();
    expect(screen.getByRole('dialog', { name: /Move or copy “Tide table” to/ })).toBeTruthy();
  });

  it('offers where the thing belongs in a line above, which never becomes what Enter means', async () => {
    const reason = { by: 'ending', ending: 'csv', count: 12, of: 14 };
    const page = await renderPage(
      <Opened
        request={{
          kind: 'file-into',
          gathered: { shortcuts: [], originals: [{ placeId: 1, originalId: 9, name: 'may.csv' }] },
        }}
      />,
      {
        'GET /shortcuts': folders,
        'POST /belongs': [
          { placeId: 1, originalId: 40, name: '2026', trail: ['Home', 'Tides'], probability: 0.64, reason },
        ],
        'POST /filing': DONE,
      },
    );
    const chip = await screen.findByRole('button', { name: 'Tides › 2026 64 %' });
    expect(chip.title).toBe('Home › Tides › 2026: 12 of 14 files there end in .csv');
    expect(screen.getAllByRole('option')[0]!.textContent).toContain('Photographs');
    await userEvent.click(chip);
    await waitFor(() => expect(filed(page)).toHaveLength(1));
    expect(filed(page)[0]!.body).toMatchObject({ into: { placeId: 1, originalId: 40 }, how: 'move' });
  });

  it('teaches what a filing target is where there is none', async () => {
    await show({ 'GET /shortcuts': [folders[2]] });
    expect(screen.getByText(/No folder has a shortcut yet/)).toBeTruthy();
  });
});

describe('files from outside the browser', () => {
  function Folder() {
    const drop = useOutsideDrop({ shortcutId: 'f1', name: 'Photographs' });
    return (
      <>
        <div data-testid="folder" {...drop} />
        <FilingDialogs />
      </>
    );
  }
  const dropped = (...names: string[]) => ({
    dataTransfer: { types: ['Files'], files: names.map((name) => new File(['x'], name)) },
  });

  it('are sent one by one, by name, as bytes; a clash is asked about and the rest goes on', async () => {
    const page = await renderPage(<Folder />, {
      'POST /filing/upload': ({ path }: Asked) =>
        path.includes('b.png') && !path.includes('clash')
          ? CLASHES
          : { state: 'done', filed: 1, skipped: 0, into: 'Photographs', notes: [] },
    });
    fireEvent.drop(screen.getByTestId('folder'), dropped('a.png', 'b.png', 'c & d.png'));
    await userEvent.click(await screen.findByRole('button', { name: 'Skip them' }));
    await waitFor(() => expect(filed(page)).toHaveLength(4));
    expect(filed(page).map((a) => a.path.replace('/filing/upload?', ''))).toEqual([
      'name=a.png&shortcutId=f1',
      'name=b.png&shortcutId=f1',
      'name=b.png&shortcutId=f1&clash=skip',
      'name=c%20%26%20d.png&shortcutId=f1&clash=skip',
    ]);
    expect(await screen.findByText(/Copied 2 things into “Photographs”/)).toBeTruthy();
  });

  it('are left alone where what is dragged is no file', async () => {
    const page = await renderPage(<Folder />);
    fireEvent.drop(screen.getByTestId('folder'), { dataTransfer: { types: ['text/plain'], files: [] } });
    expect(filed(page)).toEqual([]);
  });
});
