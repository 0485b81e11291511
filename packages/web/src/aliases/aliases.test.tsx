import type { DialogRequest } from '../workspace/dialogRequest';
import { describe, expect, it } from '@jest/globals';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { aShortcut, renderPage } from '../testing/page';
import { AliasesOf, PublishedAt } from './CardParts';
import { AliasDialogs } from './dialogs';
import { LinksPart } from './LinksPart';
import { PublishedLine } from './PublishedLine';
import { useWorkspaceActions } from '../workspace/workspace';

const shortcut = aShortcut({ id: 's1', name: 'Ring stock' });
const folder = aShortcut({
  id: 's2',
  name: 'Boat papers',
  kind: 'folder',
  location: '/home/wren/Marrowick/Boat/Papers',
});
const place = { id: 1, name: 'Marrowick', root: '/home/wren/Marrowick' };
const alias = {
  id: 'a1',
  shortcutId: 's1',
  name: 'stock.csv',
  placeId: 1,
  folderId: 4,
  path: '/home/wren/Marrowick/Desk/stock.csv',
  state: 'there',
  reason: '',
};
const published = {
  id: 'p1',
  source: 'collection',
  sourceId: 'c1',
  name: 'Filing targets',
  path: '/home/wren/Marrowick/Desk/Filing targets',
  asMenu: false,
  ordered: false,
  links: 7,
  failed: 0,
  state: 'there',
  reason: '',
};
const menu = { ...published, id: 'p2', path: null, asMenu: true };
const broken = {
  placeId: 1,
  originalId: 9,
  path: '/home/wren/Marrowick/Boat/licence',
  target: '../old/licence.pdf',
  leads: 'nowhere',
  candidates: [{ placeId: 1, originalId: 12, path: '/home/wren/Marrowick/Boat/Papers/licence.pdf' }],
};
const whole = {
  ...broken,
  originalId: 10,
  path: '/home/wren/Marrowick/Office/news',
  leads: 'inside',
  candidates: [],
};

const answers = {
  'GET /places': [place],
  'GET /shortcuts': [shortcut, folder],
  'GET /aliases': [alias],
  'GET /aliases/publications': [published, menu],
  'GET /aliases/found': { links: [broken, whole], total: 5 },
};

function Opened({ request }: { request: DialogRequest }) {
  const { openDialog } = useWorkspaceActions();
  return (
    <>
      <button type="button" onClick={() => openDialog(request)}>
        open it
      </button>
      <AliasDialogs />
    </>
  );
}
const opened = async (request: DialogRequest, more: object) => {
  const page = await renderPage(<Opened request={request} />, { ...answers, ...more }, '/catalogue');
  await userEvent.click(screen.getByRole('button', { name: 'open it' }));
  return page.asked;
};

describe('links on disk', () => {
  it('stand by what they are, where they lie and where they lead', async () => {
    await renderPage(<LinksPart shortcutOf={() => shortcut} />, answers, '/check-up');
    const kept = await screen.findByRole('region', { name: 'Published' });
    expect(kept.textContent).toContain('Filing targetsMarrowick › Desk7 links, up to date');
    expect(kept.textContent).toContain('A menu of the desktopUp to date');
    expect(screen.getByRole('region', { name: 'Aliases' }).textContent).toContain(
      'stock.csvMarrowick › Deskof “Ring stock”',
    );
    expect(screen.getByText('3 more are in your folders.')).toBeTruthy();
  });

  it('are taken in, and led to what has the name', async () => {
    const { asked } = await renderPage(
      <LinksPart shortcutOf={() => shortcut} />,
      { ...answers, 'POST /aliases/take': alias },
      '/check-up',
    );
    const there = await screen.findByRole('region', { name: 'Links already there' });
    await userEvent.click(within(there).getByRole('button', { name: 'Add to catalogue' }));
    await userEvent.click(within(there).getByRole('button', { name: 'Lead to Papers › licence.pdf' }));
    expect(asked.filter((a) => a.path === '/aliases/take').map((a) => a.body)).toEqual([
      { placeId: 1, originalId: 10 },
      { placeId: 1, originalId: 9, to: { placeId: 1, originalId: 12 } },
    ]);
  });

  it('say what they are for where there are none', async () => {
    const none = {
      ...answers,
      'GET /aliases': [],
      'GET /aliases/publications': [],
      'GET /aliases/found': { links: [], total: 0 },
    };
    await renderPage(<LinksPart shortcutOf={() => undefined} />, none, '/check-up');
    expect(await screen.findByText('No links on disk')).toBeTruthy();
  });
});

describe('on a card', () => {
  it('an alias that could not be written says why, and is taken away', async () => {
    const failed = { ...alias, state: 'failed', reason: 'It could not be written: the disk is full.' };
    const { asked } = await renderPage(
      <AliasesOf shortcut={shortcut} />,
      { ...answers, 'GET /aliases': [failed], 'DELETE /aliases/a1': undefined },
      '/catalogue',
    );
    expect(await screen.findByText('It could not be written: the disk is full.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Take the alias stock.csv away' }));
    expect(asked.some((a) => a.method === 'DELETE' && a.path === '/aliases/a1')).toBe(true);
  });

  it('a collection tells where it is published, and ends that', async () => {
    const { asked } = await renderPage(
      <PublishedAt source="collection" id="c1" name="Filing targets" />,
      { ...answers, 'DELETE /aliases/publications/p1': undefined },
      '/collections',
    );
    expect(await screen.findByText('/home/wren/Marrowick/Desk/Filing targets')).toBeTruthy();
    await userEvent.click(screen.getAllByRole('button', { name: 'Unpublish' })[0]!);
    expect(asked.some((a) => a.method === 'DELETE' && a.path === '/aliases/publications/p1')).toBe(true);
  });
});

describe('a collection’s view', () => {
  it('says in a line where it is published, and nothing of others', async () => {
    await renderPage(
      <>
        <PublishedLine source="collection" id="c1" />
        <PublishedLine source="tag" id="c1" />
      </>,
      answers,
      '/collections',
    );
    const line = await screen.findByText(/^Published as “Filing targets” in Marrowick › Desk, and as a menu/);
    expect(within(line).getByRole('link', { name: 'Links on disk' })).toBeTruthy();
    expect(screen.getAllByText(/^Published/)).toHaveLength(1);
  });
});

describe('the forms', () => {
  it('place an alias in a folder that is offered', async () => {
    const asked = await opened({ kind: 'alias', shortcut }, { 'POST /aliases': alias });
    expect((screen.getByRole('button', { name: 'Place it' }) as HTMLButtonElement).disabled).toBe(true);
    await userEvent.click(await screen.findByRole('button', { name: 'Boat papers' }));
    await userEvent.click(screen.getByRole('button', { name: 'Place it' }));
    expect(asked.filter((a) => a.method === 'POST').map((a) => a.body)).toEqual([
      { shortcutId: 's1', folder: '/home/wren/Marrowick/Boat/Papers' },
    ]);
  });

  it('publish as a numbered folder, and as a menu, which needs none', async () => {
    const asked = await opened(
      { kind: 'publish', source: 'collection', id: 'c1', name: 'Filing targets' },
      { 'POST /aliases/publications': published },
    );
    await userEvent.click(await screen.findByRole('button', { name: 'Boat papers' }));
    await userEvent.click(screen.getByRole('checkbox', { name: /^Numbered/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Publish' }));
    await userEvent.click(screen.getByRole('button', { name: 'open it' }));
    await userEvent.click(await screen.findByRole('radio', { name: 'As a menu of the desktop' }));
    await userEvent.click(screen.getByRole('button', { name: 'Publish' }));
    expect(asked.filter((a) => a.method === 'POST').map((a) => a.body)).toEqual([
      { source: 'collection', sourceId: 'c1', folder: '/home/wren/Marrowick/Boat/Papers', ordered: true },
      { source: 'collection', sourceId: 'c1', asMenu: true },
    ]);
  });
});
