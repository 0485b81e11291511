import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import type { DeletedOriginal, DiskBin } from '@rellin/contract';
import { Refusal, renderPage, type Answers, type Asked } from '../testing/page';
import { FilingDialogs } from '../filing/dialogs';
import { useCommands } from '../workspace/useCommands';
import BinView from './BinView';
import { BinDialogs } from './dialogs';
import { InBin, inBin } from './InBin';

const deleted = (name: string, more: Partial<DeletedOriginal> = {}): DeletedOriginal => ({
  ...{ id: `id of ${name}`, name, path: `/home/kit/Office/${name}`, deletedAt: '2026-11-20T08:00:00Z' },
  ...{ kind: 'text', isFolder: false, takes: 4096, byRellin: true },
  ...more,
});
const BINS: DiskBin[] = [
  {
    ...{ name: 'Home', state: 'here', takes: 8192, trouble: '' },
    originals: [deleted('old.txt', { deletedAt: '2026-10-01T08:00:00Z' }), deleted('new.txt', { byRellin: false })],
  },
  {
    ...{ name: 'Stick', state: 'here', takes: 4096, trouble: '' },
    originals: [deleted('lone', { path: null, deletedAt: null, takes: 9000 })],
  },
  { name: 'Share', state: 'away', takes: 0, trouble: '', originals: [] },
];

const show = (answers: Answers = {}) =>
  renderPage(
    <>
      <Routes>
        <Route path="bin/:part?" element={<BinView />} />
      </Routes>
      <BinDialogs />
      <FilingDialogs />
    </>,
    { 'GET /bin/originals': BINS, ...answers },
    '/bin/originals',
  );
const row = (name: string) => screen.getByText(name).closest<HTMLElement>('[role=row]')!;
const names = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((r) => r.querySelector('.cut')!.textContent);

describe('deleted originals', () => {
  it('are told by disk and one by one: since when, from where, what they take, and who put them there', async () => {
    await show();
    expect(screen.getByText(/2 originals/).textContent).toContain('Home 2 originals, 8.2 kB');
    expect(screen.getByText(/is away/).textContent).toContain('Share is away');
    expect(names()).toEqual(['new.txt', 'old.txt', 'lone']);
    expect(row('new.txt').textContent).toContain('another program');
    expect(row('old.txt').textContent).toContain('Rellin');
    expect(row('lone').textContent).toContain('not known');
    await userEvent.click(screen.getByRole('columnheader', { name: /Takes/ }));
    expect(names()[2]).toBe('lone');
  });

  it('are restored where they lay; a name that is taken is asked about', async () => {
    const page = await show({
      'POST /bin/originals/restore': ({ body }: Asked) =>
        (body as { clash?: string }).clash
          ? { state: 'done', filed: 1, skipped: 0, into: 'Office', notes: [] }
          : { state: 'clashes', into: 'Office', total: 1, clashes: [{ name: 'new.txt', there: null, coming: null }] },
    });
    await userEvent.click(row('new.txt').querySelector('button')!);
    await userEvent.click(await screen.findByRole('button', { name: 'Keep both' }));
    expect(await screen.findByText('Restored “new.txt” where it was')).toBeTruthy();
    expect(page.sent('POST').map((a) => a.body)).toEqual([
      { ids: ['id of new.txt'] },
      { ids: ['id of new.txt'], clash: 'keep-both' },
    ]);
  });

  it('go for good only after it was asked; what stayed is said', async () => {
    const page = await show({
      'POST /bin/originals/expunge': { deleted: 2, kept: [{ name: 'lone', why: 'a program has it open' }] },
    });
    fireEvent.click(row('new.txt'));
    fireEvent.click(row('lone'), { ctrlKey: true });
    await userEvent.click(screen.getByRole('button', { name: 'Delete 2 for good…' }));
    expect(screen.getByRole('dialog').textContent).toContain('cannot be undone');
    expect(page.sent('POST')).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Delete for good' }));
    expect(await screen.findByText(/“lone” stayed: a program has it open/)).toBeTruthy();
    expect(page.sent('POST')[0]!.body).toEqual({ ids: ['id of new.txt', 'id of lone'] });
    await userEvent.click(screen.getByRole('button', { name: 'Empty all…' }));
    await userEvent.click(screen.getByRole('button', { name: 'Delete for good' }));
    const all = ['new.txt', 'old.txt', 'lone'].map((name) => `id of ${name}`);
    await waitFor(() => expect(page.sent('POST')[1]!.body).toEqual({ ids: all }));
  });

  it('says what stands against it', async () => {
    await show({ 'POST /bin/originals/restore': new Refusal('outside-places', 'It lies outside every place.', 409) });
    await userEvent.click(row('old.txt').querySelector('button')!);
    expect(await screen.findByText('It lies outside every place.')).toBeTruthy();
  });
});

function Deleting() {
  const d = useCommands();
  const one = [{ placeId: 1, originalId: 2, name: 'a.txt' }];
  return (
    <>
      <button type="button" onClick={() => void d.deleteOriginals(one)}>
        Go
      </button>
      <BinDialogs />
    </>
  );
}

describe('deleting where there is no bin', () => {
  it('is asked about before anything is done', async () => {
    const page = await renderPage(<Deleting />, {
      'POST /bin/originals': ({ body }: Asked) =>
        (body as { acrossVolumes?: boolean }).acrossVolumes
          ? { state: 'done', deleted: 1, notes: [] }
          : { state: 'no-bin', originals: 1, name: 'Stick' },
    });
    await userEvent.click(screen.getByRole('button', { name: 'Go' }));
    expect((await screen.findByRole('dialog')).textContent).toContain('“Stick” has no bin');
    await userEvent.click(screen.getByRole('button', { name: 'Copy it into the bin at home' }));
    expect(await screen.findByText('Deleted “a.txt”; it is in the bin')).toBeTruthy();
    expect(page.sent('POST').map((a) => a.body)).toEqual([
      { originals: [{ placeId: 1, originalId: 2 }] },
      { originals: [{ placeId: 1, originalId: 2 }], acrossVolumes: true },
    ]);
  });
});

describe('a lost shortcut', () => {
  it('knows the latest that lay at its path, or the folder above it', () => {
    const all = [
      deleted('a.txt', { deletedAt: '2026-01-01T00:00:00Z', id: 'first' }),
      deleted('a.txt', { deletedAt: '2026-02-01T00:00:00Z', id: 'second' }),
      deleted('deep', { isFolder: true }),
    ];
    expect(inBin(all, '/home/kit/Office/a.txt')?.id).toBe('second');
    expect(inBin(all, '/home/kit/Office/deep/er/b.txt')?.name).toBe('deep');
    expect(inBin(all, '/home/kit/Office/deeper')).toBeUndefined();
  });

  it('says that its original is in the bin, and restores it in one act', async () => {
    const page = await renderPage(<InBin path="/home/kit/Office/new.txt" />, {
      'GET /bin/originals': BINS,
      'POST /bin/originals/restore': { state: 'done', filed: 1, skipped: 0, into: 'Office', notes: [] },
    });
    expect(screen.getByText(/Its original is in the bin, deleted/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Restore' }));
    expect(page.sent('POST')[0]!.body).toEqual({ ids: ['id of new.txt'] });
  });
});
