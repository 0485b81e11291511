import { describe, expect, it } from '@jest/globals';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { aShortcut, renderPage } from '../testing/page';
import CheckUpView from './CheckUpView';

const lost = aShortcut({ id: 's1', name: 'Rota', state: 'lost', stateReason: 'Not found in any place.' });
const followed = aShortcut({
  id: 's2',
  name: 'Ring stock',
  state: 'followed',
  stateReason: 'Its original moved here.',
});
const twin = aShortcut({ id: 's3', name: 'Ring stock, again' });
const empty = {
  checkedAt: null,
  nextAt: '2026-05-03T12:00:00Z',
  among: 4000,
  folderMoves: [],
  needs: [],
  leftAlone: [],
};
const candidate = {
  placeId: 1,
  originalId: 7,
  placeName: 'Marrowick',
  path: 'Office/rota.ods',
  evidence: ['same name'],
  sure: 0.42,
};

async function show(checkUp: object, more: object = {}, at = '/check-up') {
  const answers = { 'GET /shortcuts': [lost, followed, twin], 'GET /check-up': { ...empty, ...checkUp }, ...more };
  const page = await renderPage(<CheckUpView />, answers, at);
  return {
    asked: (method: string, path: string) =>
      page.asked.filter((a) => a.method === method && a.path === path).map((a) => a.body),
  };
}

describe('the check-up', () => {
  it('says that nothing needs a person', async () => {
    await show({});
    expect(await screen.findByText('Nothing needs you')).toBeTruthy();
    expect(screen.getAllByRole('tab').map((t) => t.textContent)).toEqual(['Needs you 0', 'Followed 1']);
  });

  it('offers what may be it with how sure it is, and points there', async () => {
    const need = { shortcutId: 's1', placeName: 'Marrowick', was: 'Office/Old/rota.ods', candidates: [candidate] };
    const { asked } = await show({ needs: [need] }, { 'POST /check-up/point': undefined });
    const card = await screen.findByRole('region', { name: 'Rota' });
    expect(card.textContent).toContain('was Marrowick › Office › Old › rota.ods');
    expect(card.textContent).toContain('42.0 %');
    await userEvent.click(within(card).getByRole('button', { name: 'Point to it' }));
    expect(asked('POST', '/check-up/point')).toEqual([{ points: [{ shortcutId: 's1', placeId: 1, originalId: 7 }] }]);
  });

  it('offers only to choose, remove or leave where nothing is alike', async () => {
    const need = { shortcutId: 's1', placeName: 'Marrowick', was: 'Office/rota.ods', candidates: [] };
    const { asked } = await show({ needs: [need] }, { 'POST /check-up/leave': undefined });
    const card = await screen.findByRole('region', { name: 'Rota' });
    expect(card.textContent).toContain('Nothing alike in 4,000 originals');
    expect(
      within(card)
        .getAllByRole('button')
        .map((b) => b.textContent),
    ).toEqual(['Rota', 'Choose by hand', 'Remove shortcut', 'Ignore']);
    await userEvent.click(within(card).getByRole('button', { name: 'Ignore' }));
    expect(asked('POST', '/check-up/leave')).toEqual([{ shortcutIds: ['s1'], leftAlone: true }]);
  });

  it('follows a folder as one act', async () => {
    const move = {
      id: 'm',
      from: { placeName: 'Marrowick', path: 'Survey/2025' },
      to: { placeName: 'Station share', path: 'Survey 2025' },
      explains: [{ shortcutId: 's1', placeId: 2, originalId: 9, path: 'Survey 2025/a.csv', sure: 0.9 }],
      of: 2,
    };
    const { asked } = await show({ folderMoves: [move] }, { 'POST /check-up/point': undefined });
    const card = await screen.findByRole('region', { name: 'A folder seems to have moved' });
    expect(card.textContent).toContain('explains 1 of 2');
    expect(card.textContent).toContain('One stays lost and is listed below.');
    await userEvent.click(within(card).getByRole('button', { name: 'Follow it' }));
    expect(asked('POST', '/check-up/point')).toEqual([
      {
        points: [{ shortcutId: 's1', placeId: 2, originalId: 9 }],
        moved: { from: 'Survey/2025', to: 'Survey 2025' },
      },
    ]);
  });

  it('settles a duplicate, or hears that it is meant so', async () => {
    const group = { id: 'same-original s2 s3', kind: 'same-original', items: ['s2', 's3'], collections: [] };
    const { asked } = await show(
      {},
      { 'GET /check-up/review': [group], 'POST /check-up/silence': undefined, 'DELETE /shortcuts/s3': undefined },
      '/check-up?show=duplicates',
    );
    const card = await screen.findByRole('region', { name: '2 shortcuts point to the same original' });
    await userEvent.click(within(card).getByRole('button', { name: 'Keep both' }));
    expect(asked('POST', '/check-up/silence')).toEqual([{ id: group.id }]);
    await userEvent.click(within(card).getByRole('button', { name: 'Keep “Ring stock” only' }));
    expect(asked('DELETE', '/shortcuts/s3')).toHaveLength(1);
  });

  it('says of what was followed where it was, and of an empty part that it is empty', async () => {
    const place = { id: 1, name: 'Marrowick', root: '/home/wren/Marrowick' };
    const moved = { ...followed, followedFrom: '/home/wren/Marrowick/Ringing/Old/ring stock.csv' };
    await show({}, { 'GET /places': [place], 'GET /shortcuts': [moved] }, '/check-up?show=followed');
    expect(screen.getByText('was Marrowick › Ringing › Old › ring stock.csv')).toBeTruthy();
    await userEvent.click(screen.getByRole('tab', { name: /^Needs you/ }));
    expect(screen.getByText('Nothing needs you')).toBeTruthy();
  });

  it('shows an empty part of the review as empty', async () => {
    await show({}, {}, '/check-up?show=duplicates');
    expect(screen.getByText('None of them')).toBeTruthy();
  });

  it('says why it cannot be read, and tries again', async () => {
    await show({}, { 'GET /check-up': undefined });
    expect(await screen.findByText(/could not be loaded/)).toBeTruthy();
  });
});
