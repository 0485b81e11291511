/** Pictures and programs: the dialogs that choose them. */
import type { DialogRequest } from '../workspace/dialogRequest';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect } from 'react';
import type { SuitedProgram } from '@rellin/contract';
import { useWorkspaceActions } from '../workspace/workspace';
import { pictureAddress } from '../parts/Picture';
import { asPictured } from '../parts/pictured';
import { OPENED, aShortcut, Refusal, renderPage, type Answers } from '../testing/page';
import { ShortcutDialogs } from './dialogs';

const tide = aShortcut({ id: 's1', name: 'Tide table' });
const gull = aShortcut({ id: 's2', name: 'Gull', kind: 'picture' });
const programs: SuitedProgram[] = [
  { id: 'tide.desktop', name: 'Tideplotter', comment: 'Tide curves', suits: true, isDefault: true },
  { id: 'quill.desktop', name: 'Plain Quill', comment: 'Plain text', suits: false, isDefault: false },
];

function Opens({ request }: { request: DialogRequest }) {
  const { openDialog } = useWorkspaceActions();
  useEffect(() => openDialog(request), [openDialog, request]);
  return <ShortcutDialogs />;
}
const show = (request: DialogRequest, answers: Answers = {}) =>
  renderPage(<Opens request={request} />, {
    'GET /originals/1/7': { ...tide, id: 7, placeId: 1, mime: 'text/csv', kind: 'table', type: 'file' },
    'GET /programs/suited': programs,
    'GET /icons/names.json': ['sailing', 'directions-boat', 'water', 'waves', 'mail'],
    ...answers,
  });

// jsdom has no scrolling
beforeAll(() => {
  Element.prototype.scrollIntoView ??= () => undefined;
});

describe('where a picture comes from', () => {
  it('what the person chose leads; a program has its icon, a photograph shows itself where there is room', () => {
    const of = (picture: string, size = 20, more: object = {}) => pictureAddress({ ...gull, ...more, picture }, size);
    const id = 'ab'.repeat(32);
    expect(of(`image:${id}`)).toBe(`/api/pictures/${id}`);
    expect(of('icon:mail')).toBeUndefined();
    expect(of('')).toBeUndefined();
    expect(of('', 56)).toMatch(/^\/api\/pictures\/originals\/1\/7\?side=256&v=\d+$/);
    expect(of('thumbnail')).toContain('/originals/1/7');
    expect(of('thumbnail', 56, { state: 'away' })).toBeUndefined();
    expect(pictureAddress(asPictured('a b.desktop'), 20)).toBe('/api/pictures/programs/a%20b.desktop');
  });
});

describe('the picture dialog', () => {
  it('finds an icon by search and gives it by Enter', async () => {
    const { sent } = await show({ kind: 'picture', target: 'shortcut', shortcut: tide });
    const field = screen.getByRole('combobox', { name: 'Icon' });
    await userEvent.type(field, 'boat');
    await waitFor(() => expect(screen.getAllByRole('option').map((o) => o.textContent)).toEqual(['directions boat']));
    await userEvent.keyboard('{Enter}');
    await waitFor(() =>
      expect(sent('PATCH')[0]).toMatchObject({ path: '/shortcuts/s1', body: { picture: 'icon:directions-boat' } }),
    );
  });

  it('takes a file, refuses one that is too large before it travels, and shows why the server refused one', async () => {
    const id = '0f'.repeat(32);
    let fine = false;
    const { sent } = await show(
      { kind: 'picture', target: 'shortcut', shortcut: tide },
      {
        'POST /pictures': () => (fine ? { id } : new Refusal('not-valid', 'That is no picture Rellin can read.', 400)),
      },
    );
    const field = screen.getByLabelText('Picture file');
    const large = new File(['x'], 'large.png', { type: 'image/png' });
    Object.defineProperty(large, 'size', { value: 100_000_000 });
    fireEvent.change(field, { target: { files: [large] } });
    expect((await screen.findByRole('alert')).textContent).toContain('20 MB');
    expect(sent('POST')).toEqual([]);
    fireEvent.change(field, { target: { files: [new File(['text'], 'no.png')] } });
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('no picture'));
    fine = true;
    fireEvent.change(field, { target: { files: [new File(['png'], 'yes.png')] } });
    await waitFor(() => expect(sent('PATCH')[0]!.body).toEqual({ picture: `image:${id}` }));
  });

  it('takes what is pasted and what is dropped', async () => {
    const { sent } = await show(
      { kind: 'picture', target: 'shortcut', shortcut: tide },
      { 'POST /pictures': { id: '1a'.repeat(32) }, 'PATCH /shortcuts/s1': new Refusal('conflict', 'once is enough') },
    );
    const file = new File(['png'], 'x.png', { type: 'image/png' });
    fireEvent.paste(document, { clipboardData: { files: [file] } });
    await waitFor(() => expect(sent('PATCH').length).toBe(1));
    fireEvent.drop(screen.getByRole('dialog'), { dataTransfer: { files: [file] } });
    await waitFor(() => expect(sent('PATCH').length).toBe(2));
  });

  it('a picture may show itself; one that was chosen can be taken away', async () => {
    const { sent } = await show({ kind: 'picture', target: 'shortcut', shortcut: { ...gull, picture: 'icon:mail' } });
    await userEvent.click(screen.getByRole('button', { name: 'No picture' }));
    await waitFor(() => expect(sent('PATCH')[0]!.body).toEqual({ picture: '' }));
  });
});

describe('open with', () => {
  const choose = async (name: string) => {
    fireEvent.mouseDown(screen.getByRole('combobox', { name: 'For' }));
    await userEvent.click(screen.getByRole('option', { name: new RegExp(name) }));
  };
  const program = (name: string) => screen.getAllByRole('option').find((o) => o.textContent!.includes(name))!;

  it('opens once with another program', async () => {
    const { sent } = await show(
      { kind: 'open-with', shortcuts: [tide] },
      {
        'POST /openings': OPENED,
      },
    );
    await waitFor(() => expect(program('Plain Quill').textContent).toContain('may not open this type'));
    await userEvent.click(program('Plain Quill'));
    await waitFor(() =>
      expect(sent('POST')[0]!.body).toEqual({ shortcutId: 's1', withProgramId: 'quill.desktop', route: 'open-with' }),
    );
  });

  it.each([
    ['always, for “Tide table”', '/shortcuts/open-with', { ids: ['s1'], programId: 'tide.desktop' }],
    ['every table$', '/programs/for-kind', { kind: 'table', programId: 'tide.desktop' }],
    ['whole system', '/programs/tell-system', { kind: 'table', programId: 'tide.desktop', mime: 'text/csv' }],
  ])('%s', async (purpose, path, body) => {
    const { sent } = await show(
      { kind: 'open-with', shortcuts: [tide] },
      { 'POST /programs/tell-system': { mimes: ['text/csv'] } },
    );
    await choose(purpose);
    await waitFor(() => expect(program('Tideplotter')).toBeTruthy());
    await userEvent.click(program('Tideplotter'));
    await waitFor(() => expect(sent('POST')[0]).toMatchObject({ path, body }));
    await waitFor(() => expect(screen.getByTestId('dialog').textContent).toBe(''));
  });

  it('for many there is only always; as usual takes it away again', async () => {
    const many = [tide, gull].map((s) => ({ ...s, openWith: 'quill.desktop' }));
    const { sent } = await show({ kind: 'open-with', shortcuts: many });
    await userEvent.click(program('As usual'));
    await waitFor(() => expect(sent('POST')[0]!.body).toEqual({ ids: ['s1', 's2'], programId: null }));
  });
});
