import { describe, expect, it } from '@jest/globals';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import type { SweepPlan, SweepRequest, SweepRunView, SweepThing, SweepView } from '@rellin/contract';
import { Refusal, renderPage, type Answers } from '../testing/page';
import { SweepDialogs } from './dialogs';
import { requestOf, sectionsOf } from './draft';
import SweepsView from './SweepsView';
import { dueWords, reasonWords } from './words';

const AT = Date.now();
const thing = (id: number, name: string, more: Partial<SweepThing> = {}): SweepThing => ({
  ...{ placeId: 1, id, folder: 0, name, type: 'file', kind: 'text', size: 1000, modified: AT - 9e8 },
  ...{ opened: null, origin: '', duplicateOf: null, to: 'leave', why: { by: 'unknown' }, suggestions: [] },
  ...more,
});
const reason = { by: 'alike', name: 'tides-apr-2026.csv', beginning: 'tides', count: 12 } as const;
const PLAN: SweepPlan = {
  at: AT,
  swept: [{ placeId: 1, originalId: 7, name: 'Inbox', trail: ['Marrowick'] }],
  folders: [
    { placeId: 1, originalId: 20, name: '2026', trail: ['Marrowick', 'Tides'], taken: ['tides-may-2026.csv'] },
    { placeId: 1, originalId: 21, name: 'Letters', trail: ['Marrowick'], taken: [] },
  ],
  things: [
    thing(1, 'tides-may-2026.csv', {
      ...{ kind: 'table', to: 0, why: { by: 'belongs', probability: 0.8, reason } },
      suggestions: [{ to: 0, probability: 0.8, reason }],
    }),
    thing(2, 'letter 2.odt', {
      kind: 'document',
      suggestions: [{ to: 1, probability: 0.35, reason: { by: 'lately' } }],
    }),
    thing(3, 'letter 10.odt', { kind: 'document' }),
    thing(4, 'twin.pdf', {
      ...{ kind: 'pdf', to: 'bin', why: { by: 'rule', rule: 0 } },
      duplicateOf: { placeId: 1, id: 90, name: 'report.pdf', trail: ['Marrowick', 'Reports'] },
    }),
    thing(5, 'rota.odt', { to: 'stay', why: { by: 'stay', reason: 'open' } }),
  ],
  troubles: [],
};
const SWEEP: SweepView = {
  ...{ id: 's1', name: 'Inbox', folders: [{ placeId: 1, originalId: 7 }], folderNames: ['Inbox'] },
  rules: [{ name: 'Filed already', when: 'duplicate', query: '', to: 'bin' }],
  ...{ recentMinutes: 10, linkDays: 0, byItself: false, threshold: { things: 40, size: null, days: null } },
  backlog: { things: 47, size: 1.2e9, oldest: AT - 92 * 86_400_000, fresh: 3, freshKind: 'pdf' },
  ...{ isDue: true, addedAt: '2026-09-01T08:00:00Z', sweptAt: null },
};
const RUN: SweepRunView = {
  ...{ id: 'r1', sweepId: 's1', at: '2026-11-20T08:00:00Z', name: 'Inbox', by: 'automatic', left: 2 },
  went: [
    { to: 'Tides › 2026', count: 9, size: 1 },
    { to: 'the bin', count: 4, size: 1 },
  ],
  ...{ linksUntil: null, undoneAt: null, journalId: 44 },
};

const show = (path: string, answers: Answers = {}) =>
  renderPage(
    <>
      <Routes>
        <Route path="sweeps/:sweepId?" element={<SweepsView />} />
      </Routes>
      <SweepDialogs />
    </>,
    {
      ...{ 'GET /sweeps': [SWEEP], 'GET /sweeps/log': [RUN], 'POST /sweeps/plan': PLAN },
      'POST /sweeps/run': { runId: 'r2', moved: 1, binned: 1, left: [], searchId: null, notes: [] },
      ...answers,
    },
    path,
  );
const pane = async (answers: Answers = {}) => {
  const page = await show('/sweeps/s1', answers);
  await screen.findByRole('grid', { name: 'Things by where they go' });
  return page;
};
const lines = () =>
  within(screen.getByRole('grid', { name: 'Things by where they go' }))
    .getAllByRole('row')
    .slice(1)
    .map((r) => r.querySelector('.cut')!.textContent);
const line = (name: string) => screen.getByText(name).closest<HTMLElement>('[role=row]')!;
const press = (name: string, key: string) => {
  act(() => line(name).focus());
  fireEvent.keyDown(line(name), { key });
};
const lastRun = (page: Awaited<ReturnType<typeof pane>>) =>
  page.sent('POST').findLast((a) => a.path === '/sweeps/run')!.body as SweepRequest;

describe('the sweeps that are kept', () => {
  it('say what has gathered, from when on they say so, and what was done, with its undo', async () => {
    const page = await show('/sweeps', { 'POST /journal/44/undo': {} });
    expect(await screen.findByText('47 things, 1.2 GB, oldest 3 months')).toBeTruthy();
    expect(screen.getByText(/says so from 40 things on/)).toBeTruthy();
    expect(screen.getByText('Tides › 2026 9, the bin 4')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(await screen.findByText('Undone: everything swept out of “Inbox” is back')).toBeTruthy();
    expect(page.sent('POST').map((a) => a.path)).toContain('/journal/44/undo');
  });

  it('are deleted without a file being touched', async () => {
    const page = await show('/sweeps', { 'DELETE /sweeps/s1': undefined });
    await userEvent.click(await screen.findByRole('button', { name: 'Delete' }));
    expect(await screen.findByText('Deleted the sweep “Inbox”; no file was touched')).toBeTruthy();
    expect(page.sent('DELETE')).toHaveLength(1);
  });

  it('begin with how to have one', async () => {
    await show('/sweeps', { 'GET /sweeps': [], 'GET /sweeps/log': [] });
    expect(await screen.findByText('No sweep is kept yet')).toBeTruthy();
    expect(screen.getAllByRole('button', { name: 'Sweep a folder…' })).toHaveLength(2);
  });

  it('that are due as soon as something comes ask whether to file it', () => {
    expect(dueWords(SWEEP)).toBe('Inbox: 47 things, 1.2 GB, oldest 3 months');
    const watched = { ...SWEEP, threshold: { things: 1, size: null, days: null } };
    expect(dueWords(watched)).toBe('Inbox: 3 new PDFs, file them?');
  });
});

describe('a sweep', () => {
  it('shows each thing by where it goes, with why, the fullest first, and what stays folded', async () => {
    await pane();
    expect(lines()).toEqual([
      'Tides › 2026',
      'tides-may-2026.csv',
      'Into the bin',
      'twin.pdf',
      'Left there',
      'letter 2.odt',
      'letter 10.odt',
      'Stays',
    ]);
    expect(line('tides-may-2026.csv').textContent).toContain('80 % · 12 files there begin with “tides”');
    expect(line('twin.pdf').textContent).toContain('the same as “report.pdf” in Reports');
    expect(line('letter 2.odt').textContent).toContain('perhaps Letters, 35 %');
    expect(screen.getByText('one name is taken there')).toBeTruthy();
    fireEvent.click(within(line('Stays')).getByRole('button', { name: 'Unfold' }));
    expect(line('rota.odt').textContent).toContain('open in a program');
  });

  it('is changed line by line by one key, and what is in use cannot be sent', async () => {
    const page = await pane();
    press('letter 10.odt', 'b');
    press('letter 2.odt', 'w');
    press('tides-may-2026.csv', 'l');
    fireEvent.click(within(line('Stays')).getByRole('button', { name: 'Unfold' }));
    press('rota.odt', 'b');
    expect(lines()).toEqual([
      'Letters',
      'letter 2.odt',
      'Into the bin',
      'letter 10.odt',
      'twin.pdf',
      'Left there',
      'tides-may-2026.csv',
      'Stays',
      'rota.odt',
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Sweep 3 originals' }));
    await screen.findByText('Swept 2 originals out of “Inbox”');
    expect(lastRun(page)).toEqual({
      ...{ sweepId: 's1', folders: [{ placeId: 1, originalId: 7 }], at: AT },
      moves: [
        { to: 'folder', placeId: 1, originalId: 21, things: [{ placeId: 1, ids: [2] }] },
        { to: 'bin', things: [{ placeId: 1, ids: [3, 4] }] },
      ],
      ...{ clash: 'keep-both', linkDays: 0, search: 'none' },
    });
  });

  it('sends several that are chosen together by the key of a destination', async () => {
    const page = await pane();
    await userEvent.click(line('letter 2.odt'));
    fireEvent.click(line('letter 10.odt'), { shiftKey: true });
    press('letter 10.odt', '1');
    await userEvent.click(screen.getByRole('button', { name: 'Sweep 4 originals' }));
    await screen.findByText('Swept 2 originals out of “Inbox”');
    expect(lastRun(page).moves[0]).toEqual({
      ...{ to: 'folder', placeId: 1, originalId: 20 },
      things: [{ placeId: 1, ids: [2, 3, 1] }],
    });
  });

  it('goes by how sure it is to be', async () => {
    await pane();
    await userEvent.click(screen.getByRole('combobox', { name: 'Goes where it belongs' }));
    await userEvent.click(screen.getByRole('option', { name: 'from 30 % sure' }));
    expect(lines()).toContain('Letters');
    await userEvent.click(screen.getByRole('combobox', { name: 'Goes where it belongs' }));
    await userEvent.click(screen.getByRole('option', { name: 'never by itself' }));
    expect(lines()[0]).toBe('Into the bin');
  });

  it('shows one group of the things alone', async () => {
    await pane();
    await userEvent.click(screen.getByRole('button', { name: 'Kind' }));
    await userEvent.click(screen.getByRole('menuitem', { name: /^document · 2/ }));
    expect(lines()).toEqual(['Left there', 'letter 2.odt', 'letter 10.odt']);
    await userEvent.click(screen.getByRole('button', { name: 'Show all' }));
    expect(lines()).toHaveLength(8);
  });

  it('says what stayed and why', async () => {
    const left = [{ name: 'twin.pdf', why: 'it changed since it was shown' }];
    await pane({ 'POST /sweeps/run': { runId: 'r', moved: 1, binned: 0, left, searchId: null, notes: [] } });
    await userEvent.click(screen.getByRole('button', { name: 'Sweep 2 originals' }));
    expect(await screen.findByText('Swept one original out of “Inbox”; 1 stayed')).toBeTruthy();
    expect(screen.getByText('One thing stayed').parentElement!.textContent).toContain('it changed since it was shown');
  });

  it('says why a folder cannot be swept, and tries again', async () => {
    await show('/sweeps/s1', { 'POST /sweeps/plan': new Refusal('original-away', 'Field drive is away.') });
    expect(await screen.findByText('Field drive is away.')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Try again' })).toBeTruthy();
  });

  it('asks anew with other rules; one that cannot be read is said in the form', async () => {
    const page = await pane();
    await userEvent.click(screen.getByRole('button', { name: 'One rule…' }));
    await userEvent.click(screen.getByRole('button', { name: 'Add a rule' }));
    await userEvent.type(screen.getByLabelText('Condition'), 'size:');
    await userEvent.click(screen.getByRole('button', { name: 'Use these rules' }));
    expect(screen.getByLabelText('Condition').getAttribute('aria-invalid')).toBe('true');
    await userEvent.clear(screen.getByLabelText('Condition'));
    await userEvent.type(screen.getByLabelText('Condition'), '*.tmp');
    await userEvent.click(screen.getAllByRole('combobox', { name: 'Goes' })[1]!);
    await userEvent.click(screen.getByRole('option', { name: 'into the bin' }));
    await userEvent.click(screen.getByRole('button', { name: 'Rule 2 up' }));
    await userEvent.click(screen.getByRole('button', { name: 'Use these rules' }));
    await waitFor(() => expect(page.sent('POST').filter((a) => a.path === '/sweeps/plan')).toHaveLength(2));
    expect((page.sent('POST').at(-1)!.body as { rules: unknown[] }).rules).toEqual([
      { name: '*.tmp', when: 'query', query: '*.tmp', to: 'bin' },
      SWEEP.rules[0],
    ]);
  });

  it('is kept with its bounds, and runs by itself only where that is switched on', async () => {
    const page = await show('/sweeps/new?in=1/7', { 'POST /sweeps': { ...SWEEP, id: 's2' } });
    await userEvent.click(await screen.findByRole('button', { name: 'Keep this sweep…' }));
    await userEvent.clear(screen.getByLabelText('things'));
    await userEvent.type(screen.getByLabelText('MB'), '500');
    expect(screen.getByText('Nothing moves unless you sweep.')).toBeTruthy();
    await userEvent.click(screen.getByRole('checkbox'));
    expect(screen.getByText(/without asking/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await screen.findByText('Saved the sweep “Inbox”');
    expect(page.sent('POST').find((a) => a.path === '/sweeps')!.body).toMatchObject({
      ...{ name: 'Inbox', folders: [{ placeId: 1, originalId: 7 }], byItself: true, recentMinutes: 10 },
      threshold: { things: null, size: 500_000_000, days: null },
    });
  });
});

describe('what is sent', () => {
  it('holds every thing that goes once, in lists that one request takes', () => {
    const things = Array.from({ length: 23_000 }, (_, i) =>
      thing(i + 1, `f${i}`, { placeId: 1 + (i % 2), to: 'bin', why: { by: 'rule', rule: 0 } }),
    );
    const plan = { ...PLAN, things };
    const decided = { decisions: new Map(), sure: 0.5 };
    const { moves } = requestOf(plan, plan.folders, decided, { linkDays: 0, search: 'none' });
    const lists = moves[0]!.things;
    expect(Math.max(...lists.map((l) => l.ids.length))).toBeLessThanOrEqual(10_000);
    expect(new Set(lists.flatMap((l) => l.ids)).size).toBe(23_000);
    expect(sectionsOf(things, plan.folders, decided)).toHaveLength(1);
  });

  it('has a reason in words for each that core gives', () => {
    expect(reasonWords({ by: 'ending', ending: 'pdf', count: 3, of: 4 })).toBe('3 of 4 files there end in .pdf');
    expect(reasonWords({ by: 'same-name', name: 'a.pdf' })).toBe('“a.pdf” lies there');
    expect(reasonWords({ by: 'path', word: 'tides' })).toBe('“tides” is in its path');
    expect(reasonWords({ ...reason, word: '2026' })).toBe('12 files there begin with “tides”, “2026” is in its path');
  });
});
