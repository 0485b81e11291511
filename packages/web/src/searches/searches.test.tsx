import { describe, expect, it } from '@jest/globals';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import { Route, Routes } from 'react-router';
import type { AnswersView, AnswerView, SearchView } from '@rellin/contract';
import { parseQuery } from '@rellin/core/query';
import { anEntry, aCollection, OPENED, Refusal, renderPage, type Answers } from '../testing/page';
import { conditionOf, FIELDS, fieldOf, FIRST, valueOf, type FieldName } from './conditions';
import { groupOf, isSame, EMPTY, placesLabel, placesWith, textOf, withMore, withoutPart, withPart } from './draft';
import { groupAnswers } from './groups';
import SearchesView from './SearchesView';
import { SearchDialogs } from './dialogs';

const answer = (id: number, name: string, more: Partial<AnswerView> = {}): AnswerView => ({
  ...anEntry(id, name),
  created: 0,
  path: `/p/${name}`,
  trail: ['Marrowick', 'Ringing'],
  snippet: null,
  ...more,
});
const search = (more: Partial<SearchView>): SearchView => ({
  id: 'q1',
  name: 'Tables',
  description: '',
  query: 'kind:table',
  places: null,
  showAs: 'table',
  sortBy: 'name',
  descending: false,
  most: 500,
  colour: '',
  keys: null,
  muted: false,
  tags: [],
  collections: [],
  pinned: false,
  count: 2,
  came: 0,
  went: 0,
  today: 0,
  lookedAt: '2026-11-20T08:00:00Z',
  addedAt: '2026-11-01T08:00:00Z',
  removedAt: null,
  ...more,
});
const found = (answers: AnswerView[], more: Partial<AnswersView> = {}): AnswersView => ({
  count: answers.length,
  answers,
  rows: null,
  trouble: null,
  ...more,
});
const show = (answers: Answers, at: string) =>
  renderPage(
    <>
      <Routes>
        <Route path="/searches/:searchId?" element={<SearchesView />} />
      </Routes>
      <SearchDialogs />
    </>,
    answers,
    at,
  );

describe('a condition and its field', () => {
  it('read back to each other for every field', () => {
    const written: Record<FieldName, string> = {
      word: 'tide',
      name: '*.csv',
      ext: 'csv, md',
      kind: 'table',
      in: 'Ringing/2026',
      size: '>10MB',
      modified: '7d',
      created: '2026-05',
      opened: '30d',
      tag: 'boat',
      text: 'hand net',
      is: 'file',
    };
    for (const field of Object.keys(FIELDS) as FieldName[]) {
      const condition = conditionOf(field, written[field])!;
      expect(fieldOf(condition)).toBe(field);
      expect(conditionOf(field, valueOf(condition))).toEqual(condition);
      // what is chosen from a list begins with one of it; what is typed begins empty
      expect(FIRST[field] !== undefined).toBe(FIELDS[field].options !== undefined);
    }
  });

  it.each([
    ['ext', '*.CSV  md', 'ext:csv,md'],
    ['size', '> 10 MB', 'size>10MB'],
    ['modified', 'last-week', 'modified:last-week'],
    ['modified', '>= 2026-05', 'modified>=2026-05'],
    ['opened', 'never', 'opened:never'],
    ['in', 'North cliff/2026', 'in:"North cliff/2026"'],
  ] as const)('%s takes %s', (field, value, text) => {
    const parsed = parseQuery(text);
    if (parsed.ok) expect(conditionOf(field, value)).toEqual(parsed.tree);
    else expect(conditionOf(field, value)).toBeDefined();
  });

  it('is none where what is written means nothing', () => {
    expect(conditionOf('size', 'big')).toBeUndefined();
    expect(conditionOf('modified', '2026-13')).toBeUndefined();
    expect(conditionOf('word', '   ')).toBeUndefined();
    // a whole name without any sign of a glob is asked as what the name holds
    expect(conditionOf('name', 'ring')).toBeUndefined();
    fc.assert(
      fc.property(
        fc.constantFrom(...(Object.keys(FIELDS) as FieldName[])),
        fc.string({ maxLength: 12 }),
        (field, text) => {
          const condition = conditionOf(field, text);
          if (condition) expect(fieldOf(condition)).toBe(field);
        },
      ),
      { seed: 51 },
    );
  });
});

describe('a draft', () => {
  it('is the same as what is saved where it says the same', () => {
    expect(isSame({ ...EMPTY, query: '*.csv  tide' }, { ...EMPTY, query: 'name:*.csv (tide)' })).toBe(true);
    expect(isSame({ ...EMPTY, query: 'tide' }, { ...EMPTY, query: 'tides' })).toBe(false);
    expect(isSame({ ...EMPTY, places: [1] }, EMPTY)).toBe(false);
  });

  it('looks into all places, or some, never into none', () => {
    const all = [
      { id: 1, name: 'Head' },
      { id: 2, name: 'Drive' },
      { id: 3, name: 'Share' },
    ];
    const without = placesWith(null, all, 2);
    expect(without).toEqual([1, 3]);
    expect(placesLabel(without, all)).toBe('Head and Share');
    expect(placesWith(without, all, 2)).toBeNull();
    expect(placesLabel(null, all)).toBe('All places');
    expect(placesWith([3], all, 3)).toEqual([3]);
    expect(placesLabel([9], all)).toBe('A place that was left');
  });

  it('is changed part by part', () => {
    const group = groupOf('tide (log OR net)')!;
    const row = { type: 'row', not: false, condition: { type: 'word', text: 'x' } } as const;
    expect(textOf(withPart(group, [1, 0], row))).toBe('tide (x OR net)');
    expect(textOf(withoutPart(group, [1, 1]))).toBe('tide log');
    expect(textOf(withMore(group, [1], row))).toBe('tide (log OR net OR x)');
    expect(textOf(withMore(group, [], row))).toBe('tide (log OR net) x');
  });
});

describe('answers in groups', () => {
  const list = [
    answer(1, 'a.csv'),
    answer(2, 'b.png', { kind: 'picture', modified: Date.UTC(2026, 8, 3), trail: ['Marrowick', 'Survey'] }),
    answer(3, 'c.csv', { placeId: 2, trail: ['Drive'], modified: Date.UTC(2026, 10, 9) }),
  ];
  const titles = (shape: Parameters<typeof groupAnswers>[1]) =>
    groupAnswers(list, shape).map((g) => [g.title, g.answers.length]);
  it('by kind, month, place and folder', () => {
    expect(titles('by-kind')).toEqual([
      ['Table', 2],
      ['Picture', 1],
    ]);
    expect(titles('by-month')).toEqual([
      ['November 2026', 2],
      ['September 2026', 1],
    ]);
    expect(titles('by-place')).toEqual([
      ['Marrowick', 2],
      ['Drive', 1],
    ]);
    expect(titles('folders').map(([title]) => title)).toEqual(['Marrowick › Ringing', 'Marrowick › Survey', 'Drive']);
    expect(titles('table')).toEqual([['', 3]]);
  });
});

describe('the searches view', () => {
  it('teaches what to ask where nothing is saved, and asks an example', async () => {
    const { asked } = await show({ 'POST /searches/ask': found([answer(1, 'a.csv')]) }, '/searches/new');
    await userEvent.click(screen.getByRole('button', { name: 'kind:sound in:"North cliff"' }));
    expect(await screen.findByText('a.csv')).toBeTruthy();
    expect(asked.find((a) => a.path === '/searches/ask')!.body).toMatchObject({ query: 'kind:sound in:"North cliff"' });
  });

  it('shows what is saved, how much is new, and saves a change only when told', async () => {
    const { asked } = await show(
      {
        'GET /searches': [search({ came: 3 }), search({ id: 'q2', name: 'Muted', came: 2, muted: true })],
        'POST /searches/ask': found([answer(1, 'a.csv'), answer(2, 'b.csv')], { count: 900 }),
        'PATCH /searches/q1': search({ query: 'kind:table tide' }),
      },
      '/searches/q1',
    );
    const list = screen.getByRole('navigation', { name: 'Saved searches' });
    expect(within(list).getByText('+3')).toBeTruthy();
    expect(within(list).queryByText('+2')).toBeNull();
    expect(await screen.findByText('900 found, the first 500 shown')).toBeTruthy();
    const text = screen.getByLabelText('What is asked, as text');
    await userEvent.type(text, ' tide');
    expect(asked.some((a) => a.method === 'PATCH')).toBe(false);
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(asked.find((a) => a.method === 'PATCH')?.body).toMatchObject({ query: 'kind:table tide', most: 500 }),
    );
  });

  it('keeps rows and text of one question', async () => {
    await show({ 'POST /searches/ask': found([], { rows: [{ through: 12, alone: 4 }] }) }, '/searches/new');
    const text = screen.getByLabelText<HTMLInputElement>('What is asked, as text');
    // the letters typed first are asked for, and run no commands
    expect(document.activeElement).toBe(text);
    await userEvent.type(text, 'tide');
    expect(await screen.findByText('12')).toBeTruthy();
    expect(screen.getByText('−4')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'not' }));
    expect(text.value).toBe('-tide');
    await userEvent.click(screen.getByRole('button', { name: 'Add a group' }));
    // a row begins empty, asks nothing yet, and takes what is typed
    expect(text.value).toBe('-tide');
    const group = screen.getByRole('group', { name: 'any of these' });
    expect(document.activeElement).toBe(within(group).getByRole('textbox', { name: 'Name holds' }));
    await userEvent.keyboard('net');
    expect(text.value).toBe('-tide net');
    await userEvent.click(screen.getByRole('button', { name: 'Of these rows: all of these' }));
    await userEvent.click(screen.getByRole('menuitem', { name: 'none of these' }));
    expect(text.value).toMatch(/^-\(/);
    await userEvent.click(screen.getByRole('button', { name: /Remove the row Name holds tide/ }));
    expect(text.value).toBe('-net');
  });

  it('begins with the folder it was called from', async () => {
    const trail = [
      { id: 1, name: 'Head', among: 2 },
      { id: 5, name: 'North cliff', among: 3 },
    ];
    await show(
      { 'GET /originals/1/5': { trail }, 'POST /searches/ask': found([answer(1, 'a.csv')]) },
      '/searches/new?in=1/5',
    );
    expect(await screen.findByText('a.csv')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('What is asked, as text').value).toBe('in:"Head/North cliff"');
  });

  it('looks into some places only', async () => {
    const { asked } = await show(
      {
        'GET /places': [
          { id: 1, name: 'Head' },
          { id: 2, name: 'Drive' },
        ],
        'POST /searches/ask': found([]),
      },
      '/searches/new',
    );
    await userEvent.type(screen.getByLabelText('What is asked, as text'), 'tide');
    await userEvent.click(screen.getByRole('button', { name: 'Places looked into: All places' }));
    await userEvent.click(screen.getByRole('menuitemcheckbox', { name: 'Head' }));
    await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ query: 'tide', places: [2] }));
  });

  it('is saved with its tags, its collection and its place on the strip in one act', async () => {
    const { asked } = await show(
      {
        'GET /tags': [{ id: 't1', name: 'boat', colour: 'tide', count: 0, pinned: false }],
        'GET /collections': [aCollection({ id: 'c1', name: 'Shelf' })],
        'POST /searches/ask': found([]),
        'POST /searches': search({ id: 'q9', name: 'Tides' }),
      },
      '/searches/new',
    );
    await userEvent.type(screen.getByLabelText('What is asked, as text'), 'tide');
    await userEvent.click(screen.getByRole('button', { name: 'Save search…' }));
    await userEvent.type(screen.getByLabelText('Name'), 'Tides');
    await userEvent.click(screen.getByRole('button', { name: 'boat' }));
    await userEvent.click(screen.getByLabelText('Collection'));
    await userEvent.click(screen.getByRole('option', { name: 'Shelf' }));
    await userEvent.click(screen.getByLabelText('Place on the strip'));
    await userEvent.click(screen.getByRole('option', { name: '1, at the end' }));
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(asked.find((a) => a.method === 'POST' && a.path === '/searches')?.body).toMatchObject({
        name: 'Tides',
        query: 'tide',
        tagIds: ['t1'],
        collectionId: 'c1',
        slot: 1,
      }),
    );
  });

  it('says in the page where a text goes wrong, without asking', async () => {
    const { asked } = await show({}, '/searches/new');
    await userEvent.type(screen.getByLabelText('What is asked, as text'), 'knd:table');
    expect(screen.getByText('knd')).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Save search…' }).disabled).toBe(true);
    await userEvent.click(screen.getByRole('button', { name: 'Take “kind”' }));
    expect(screen.getByLabelText<HTMLInputElement>('What is asked, as text').value).toBe('kind:table');
    expect(asked.filter((a) => a.path === '/searches/ask').every((a) => !JSON.stringify(a.body).includes('knd:'))).toBe(
      true,
    );
  });

  it('says what stands against it, and tries again', async () => {
    await show(
      { 'GET /searches': () => new Refusal('database-away', 'PostgreSQL does not answer.', 503) },
      '/searches',
    );
    expect(await screen.findByText('PostgreSQL does not answer.', undefined, { timeout: 20_000 })).toBeTruthy();
  }, 30_000);

  it('says so where one is not there any more', async () => {
    await show({ 'GET /searches': [search({})] }, '/searches/gone');
    expect(screen.getByRole('button', { name: 'Look in the bin' })).toBeTruthy();
  });
});

describe('an answer', () => {
  it.each(['table', 'small-tiles', 'large-tiles', 'compact', 'preview', 'by-kind'] as const)(
    'is shown as %s, and opens by Enter',
    async (showAs) => {
      const page = await show(
        {
          'GET /searches': [search({ showAs })],
          'POST /searches/ask': found([answer(7, 'tides.csv'), answer(8, 'levels.csv')]),
          'POST /openings': OPENED,
        },
        '/searches/q1',
      );
      await userEvent.click((await screen.findAllByText('levels.csv'))[0]!);
      await userEvent.keyboard('{Enter}');
      await waitFor(() => expect(page.sent('POST').some((a) => a.path === '/openings')).toBe(true));
      expect(page.sent('POST').find((a) => a.path === '/openings')!.body).toMatchObject({ originalId: 8 });
    },
  );
});
