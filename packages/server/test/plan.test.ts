/** The plan on a real catalogue: what is likely next, what is suggested, applied, taken back, put off and refused. */
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LocatedView, PlanView, ShortcutDetail } from '@rellin/contract';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
const made = new Map<string, ShortcutDetail>();
const DAY = 86_400_000;
/** Openings in the past, as if they had been made then. */
async function openedBefore(what: { id?: string; at?: LocatedView }, days: number[], name = ''): Promise<void> {
  await rellin.sql(
    `INSERT INTO opening (id, at, shortcut_id, place_id, original_id, name, how, argv, route)
     SELECT gen_random_uuid(), to_timestamp(at / 1000), $1::uuid, $2::int, $3::bigint, $4, 'viewer', '[]', 'test'
     FROM unnest($5::float8[]) at`,
    [
      what.id ?? null,
      what.at?.placeId ?? null,
      what.at?.originalId ?? null,
      name,
      days.map((d) => Date.now() - d * DAY),
    ],
  );
  if (what.id)
    await rellin.sql(`INSERT INTO usage (shortcut_id, w0, t0, last_opened) VALUES ($1, $2, $3, now())`, [
      what.id,
      days.length / 2,
      Date.now(),
    ]);
}
const everyDay = (weeks: number, perWeek: number) =>
  Array.from({ length: weeks * perWeek }, (_, i) => 0.1 + (i * 7) / perWeek);
const plan = () => rellin.get('/plan');
const titles = async () => (await plan()).suggestions.map((s) => s.title);

beforeAll(async () => {
  rellin = await Rellin.make({}, (r) => {
    for (const name of ['log', 'tides', 'rare', 'second', 'walked']) r.write(`deep/er/${name}.txt`);
  });
  for (const name of ['log', 'tides', 'rare', 'second'])
    made.set(name, await rellin.add(`${rellin.place}/deep/er/${name}.txt`, { name }));
  const { id } = made.get('rare')!;
  await rellin.post('/pins', { target: 'shortcut', targetId: id });
  await rellin.sql(`UPDATE pin SET placed_at = now() - interval '1 year'`);
  await openedBefore({ id: made.get('log')!.id }, everyDay(8, 9));
  await openedBefore({ id: made.get('tides')!.id }, everyDay(8, 1));
  await openedBefore({ id }, [60, 50]);
  const at = await rellin.post('/originals/locate', { path: `${rellin.place}/deep/er/walked.txt` });
  await openedBefore({ at }, [1, 2, 3, 5, 8, 9], 'walked.txt');
  // a catalogue that was read before is read anew
  await rellin.stop();
  await rellin.start();
  await until(plan, (p) => p.suggestions.some((s) => s.kind === 'pin'));
});
afterAll(() => rellin.remove());

describe('likely next', () => {
  it('is led by what is opened most, says why, and follows what is opened now', async () => {
    const before = await rellin.get('/reach/likely');
    expect(before.items[0]).toMatchObject({ shortcutId: made.get('log')!.id });
    expect(before.items[0]!.probability).toBeGreaterThan(0.5);
    await rellin.open(made.get('second')!.id);
    await until(
      () => rellin.get('/reach/likely'),
      (now) => now.after === 'second' && now.items.some((i) => i.shortcutId === made.get('second')!.id),
    );
  });
});

describe('the plan', () => {
  it('pins what is opened often, unpins what is not, adds what is walked to, and says what it comes to', async () => {
    const { suggestions, now, planned, bound, byFolders, openings } = await plan();
    expect(suggestions.map((s) => s.title)).toEqual(
      expect.arrayContaining(['Pin “log” as 1', 'Unpin “rare”', 'Add a shortcut to “walked.txt”']),
    );
    expect(suggestions.find((s) => s.kind === 'add')!.reason).toBe(
      'Opened 6 times in two weeks through its folders, 5 steps each.',
    );
    expect(suggestions.some((s) => s.title.includes('tides'))).toBe(false);
    expect(openings).toBe(8 * 9 + 8 + 2 + 6 + 1);
    expect(byFolders).toBeGreaterThan(now);
    expect(now).toBeGreaterThan(planned);
    expect(planned).toBeGreaterThanOrEqual(bound - 1e-9);
    for (const s of suggestions) if (s.before !== null) expect(s.before).toBeGreaterThan(s.after!);
  });
  it('shows what was opened and saved by week, and how long a choice takes in the menus there are', async () => {
    const collection = await rellin.post('/collections', { name: 'Desk' });
    const ids = ['log', 'tides'].map((name) => made.get(name)!.id);
    await rellin.post(`/collections/${collection.id}/members`, { shortcutIds: ids });
    const charts = await until(
      () => rellin.get('/plan/charts'),
      (c) => c.menus.some((m) => m.length === 2),
    );
    const opened = charts.weeks.map((w) => w.parts.reduce((a, b) => a + b, 0));
    // nine and one a week for eight weeks, six walks in the last two
    expect(opened.slice(5, 11)).toEqual([10, 10, 10, 10, 10, 12]);
    const { best, folderRoute } = made.get('log')!.reach;
    expect(charts.weeks[5]!.saved).toBeGreaterThan(5 * (folderRoute!.seconds - best!.seconds));
    // what was walked to saved nothing
    expect(charts.weeks[10]!.saved).toBeCloseTo(charts.weeks[5]!.saved, 1);
    expect(charts.menus).toMatchObject([{ name: 'Desk', length: 2 }]);
    const [one, ...longer] = charts.curve;
    expect(one!.daily).toBe(one!.unused);
    for (const c of longer) expect(c.daily).toBeLessThan(c.unused);
    await rellin.call('DELETE', `/collections/${collection.id}`);
  });
  it('leaves a pin that is kept where it is, until it is let go', async () => {
    const [pin] = await rellin.get('/pins');
    expect(pin).toMatchObject({ name: 'rare', kept: false });
    await rellin.call('PATCH', `/pins/${pin!.id}`, { kept: true });
    await until(titles, (all) => !all.includes('Unpin “rare”'));
    expect(await titles()).toContain('Pin “log” as 2');
    await rellin.post('/journal/undo');
    await until(titles, (all) => all.includes('Unpin “rare”'));
  });
  it('is applied as one act that moves the ruler, and undone by one undo', async () => {
    const { suggestions } = await plan();
    const log = () => rellin.shortcut(made.get('log')!.id);
    const before = (await log()).reach.best!.seconds;
    const ids = suggestions.filter((s) => ['pin', 'unpin', 'add'].includes(s.kind)).map((s) => s.id);
    await rellin.post('/plan/apply', { ids });
    expect((await rellin.pins()).map((p) => p.name)).toEqual(['log']);
    expect((await rellin.shortcuts()).map((s) => s.name)).toContain('walked');
    const after = (await log()).reach.best!;
    expect(after.kind).toMatch(/^pin-/);
    expect(after.seconds).toBeLessThan(before);
    const now = await plan();
    expect(now.forecasts).toHaveLength(1);
    expect(now.forecasts[0]).toMatchObject({ was: null });
    expect(now.forecasts[0]!.said).toBeGreaterThan(0);
    // of what was walked to as well: it has a shortcut now
    const timed = suggestions.filter((s) => ids.includes(s.id) && s.before !== null);
    expect(now.forecasts[0]!.said).toBeCloseTo(
      timed.reduce((sum, s) => sum + s.gain, 0),
      3,
    );
    await rellin.post('/journal/undo');
    expect((await plan()).forecasts).toEqual([]);
    expect((await rellin.pins()).map((p) => p.name)).toEqual(['rare']);
    expect((await log()).reach.best!.seconds).toBeCloseTo(before, 6);
    expect(await titles()).toEqual(expect.arrayContaining(['Pin “log” as 1', 'Unpin “rare”']));
  });
  it('comes to what it promised when all of it is applied, to the second, and says what that is made of', async () => {
    const sum = (p: PlanView) =>
      [...p.rates, ...p.withoutShortcut].reduce((all, r) => all + r.perWeek * (r.seconds ?? 0), 0);
    const before = await plan();
    expect(before.withoutShortcut).toHaveLength(1);
    expect(sum(before)).toBeCloseTo(before.now, 6);
    const add = before.suggestions.find((s) => s.kind === 'add')!;
    await rellin.post('/plan/apply', { ids: [add.id] });
    // once the thread has told what is typed for the new one, and for those that it came between
    const after = await until(plan, (p) => Math.abs(p.now - (before.now - add.gain)) < 1);
    // what was walked to is still counted, by the shortcut it has now
    expect(after.byFolders).toBeCloseTo(before.byFolders, 0);
    // anybody can add it up
    expect(after.withoutShortcut).toEqual([]);
    expect(sum(after)).toBeCloseTo(after.now, 6);
    const added = (await rellin.shortcuts()).find((s) => s.name === 'walked')!;
    expect(after.rates.find((r) => r.shortcutId === added.id)!.perWeek).toBeGreaterThan(1);
    const rest = after.suggestions.filter((s) => s.kind !== 'split' && s.kind !== 'merge');
    await rellin.post('/plan/apply', { ids: rest.map((s) => s.id) });
    const gain = rest.reduce((all, s) => all + s.gain, 0);
    const done = await until(plan, (p) => Math.abs(p.now - (after.now - gain)) < 1);
    expect(sum(done)).toBeCloseTo(done.now, 6);
    await rellin.post('/journal/undo');
    await rellin.post('/journal/undo');
    await until(plan, (p) => Math.abs(p.now - before.now) < 0.01 && p.suggestions.some((s) => s.id === add.id));
  });
  it('counts the way to Rellin before what it promises', async () => {
    const before = (await plan()).suggestions.find((s) => s.kind === 'pin')!;
    await rellin.call('PATCH', '/settings', { coming: 'window' });
    const after = (await plan()).suggestions.find((s) => s.kind === 'pin')!;
    expect(after.after! - before.after!).toBeCloseTo(1.35 + 2 * 0.28, 3);
    // an entry that opens the find line spares its key: no pin is quicker then, and none is promised
    await rellin.call('PATCH', '/settings', { coming: 'entry' });
    expect((await plan()).suggestions.some((s) => s.kind === 'pin')).toBe(false);
    await rellin.call('PATCH', '/settings', { coming: 'here' });
    expect((await plan()).suggestions.find((s) => s.kind === 'pin')!.after).toBeCloseTo(before.after!, 3);
  });
  it('refuses what is not in it any more', async () => {
    expect((await rellin.refusal(rellin.post('/plan/apply', { ids: ['pin nothing'] }))).kind).toBe('changed-since');
    expect((await rellin.refusal(rellin.post('/plan/apply', { ids: [] }))).problem.status).toBe(400);
  });
  it('asks again later what was put off, and no more what was refused, until all is asked again', async () => {
    const { suggestions } = await plan();
    const pin = suggestions.find((s) => s.kind === 'pin')!;
    const unpin = suggestions.find((s) => s.kind === 'unpin')!;
    await rellin.post('/plan/answer', { id: pin.id, answer: 'later' });
    await rellin.post('/plan/answer', { id: unpin.id, answer: 'never' });
    const left = await plan();
    expect(left.suggestions.some((s) => s.id === pin.id || s.id === unpin.id)).toBe(false);
    expect(left.now - left.planned).toBeCloseTo(
      left.suggestions.reduce((sum, s) => sum + s.gain, 0),
      6,
    );
    await rellin.sql(`UPDATE plan_answer SET until = until - interval '8 days'`);
    // what was changed behind its back it learns with the next change
    await rellin.call('PATCH', '/settings', { pinWorth: 1 });
    expect(await titles()).toContain(pin.title);
    expect(await titles()).not.toContain(unpin.title);
    await rellin.post('/plan/ask-again');
    expect(await titles()).toContain(unpin.title);
  });
  it('makes one of two shortcuts to one original, which takes over what hung on the other', async () => {
    const other = made.get('second')!.id;
    const kept = (await rellin.add(`${rellin.place}/deep/er/second.txt`, { name: 'the one' })).id;
    await rellin.post('/pins', { target: 'shortcut', targetId: kept });
    await rellin.post('/collections', { name: 'Shelf', shortcutIds: [other] });
    await rellin.post('/tags', { name: 'desk', shortcutIds: [other] });
    await rellin.call('PATCH', `/shortcuts/${other}`, { keys: 'alt+shift+q' });
    const { suggestions } = await until(plan, (p) => p.suggestions.some((s) => s.kind === 'merge'));
    const merge = suggestions.find((s) => s.kind === 'merge')!;
    expect(merge.title).toBe('Make one of “the one” and “second”');
    await rellin.post('/plan/apply', { ids: [merge.id] });
    const now = await rellin.shortcut(kept);
    expect(now).toMatchObject({ alsoCalled: ['second'], keys: 'alt+shift+q', pinSlot: 2 });
    expect([now.tags.length, now.collections.length]).toEqual([1, 1]);
    expect((await rellin.get('/shortcuts')).some((s) => s.id === other)).toBe(false);
    await rellin.post('/journal/undo');
    expect(await rellin.shortcut(kept)).toMatchObject({ alsoCalled: [], keys: null, tags: [], collections: [] });
    const back = await rellin.shortcut(other);
    expect([back.keys, back.tags.length, back.collections.length]).toEqual(['alt+shift+q', 1, 1]);
    await rellin.call('DELETE', `/shortcuts/${kept}`);
  });
  it('splits a crowded collection into groups, and an undo puts all back', async () => {
    const ids: string[] = [];
    for (let i = 0; i < 44; i++) {
      // of one name, so that the find line does not tell them apart
      const path = rellin.write(`many/group ${i % 4}/the same long name of a thing ${i}.txt`);
      await until(() => rellin.post('/originals/locate', { path }).catch(() => undefined), Boolean);
      ids.push((await rellin.add(path, { name: 'the same name' })).id);
    }
    const { id } = await rellin.post('/collections', { name: 'Crowd', shortcutIds: ids });
    await rellin.post('/pins', { target: 'collection', targetId: id });
    for (const one of ids) await openedBefore({ id: one }, everyDay(4, 1));
    const split = await until(
      async () => (await plan()).suggestions.find((s) => s.kind === 'split'),
      (s) => s !== undefined,
    );
    expect(split!.title).toBe('Split “Crowd” by sub-folder');
    await rellin.post('/plan/apply', { ids: [split!.id] });
    const members = () => rellin.get(`/collections/${id}/members`);
    const named = new Map((await rellin.get('/collections')).map((c) => [c.id, c]));
    const groups = (await members()).members.map((m) => named.get(m.itemId)!);
    expect(groups.map((g) => [g.name, g.count])).toEqual([0, 1, 2, 3].map((i) => [`group ${i}`, 11]));
    await rellin.post('/journal/undo');
    expect((await members()).members).toHaveLength(44);
  }, 60_000);
});
