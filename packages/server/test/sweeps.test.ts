/** Sweeping real folders: what is proposed and why, what goes and what stays; an undo restores the disk exactly. */
import { execFileSync, spawnSync } from 'node:child_process';
import {
  appendFileSync,
  closeSync,
  existsSync,
  lstatSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  renameSync,
  rmSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from '@jest/globals';
import { AGE_BANDS, groupsOf, SIZE_BANDS } from '@rellin/core/sweep';
import type { NewSweep, SweepMove, SweepPlan, SweepRule, SweepThing } from '@rellin/contract';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin | undefined;
afterEach(async () => {
  await rellin?.stop();
  await rellin?.remove();
  rellin = undefined;
});

const at = (path: string) => join(rellin!.place, path);
const list = (path: string) => (existsSync(at(path)) ? readdirSync(at(path)).sort() : []);
const refOf = async (path: string) => {
  const { placeId, originalId } = await until(
    () => rellin!.post('/originals/locate', { path: at(path) }).catch(() => undefined),
    Boolean,
  ).then((r) => r!);
  return { placeId, originalId };
};
/** Whether a program of the machine is there to hold answers against. */
const has = (program: string) => spawnSync('sh', ['-c', `command -v ${program}`]).status === 0;
const DAY = 86_400;
/** A file that was changed so many days ago. */
const old = (r: Rellin, path: string, text: string, days = 5) => {
  r.write(path, text);
  const then = Date.now() / 1000 - days * DAY;
  utimesSync(join(r.place, path), then, then);
};
const folderShortcut = async (path: string) => {
  const { id } = await rellin!.post('/shortcuts', { ...(await refOf(path)) });
  return id;
};
const rule = (query: string, to: SweepRule['to'], shortcutId?: string): SweepRule => ({
  ...{ name: query, when: 'query', query, to },
  ...(shortcutId !== undefined && { shortcutId }),
});
const plan = async (folders: string[], rules: SweepRule[] = [], recentMinutes = 0) =>
  rellin!.post('/sweeps/plan', { folders: await Promise.all(folders.map(refOf)), rules, recentMinutes });
const where = (p: SweepPlan, name: string) => {
  const thing = p.things.find((t) => t.name === name)!;
  return typeof thing.to === 'number' ? p.folders[thing.to]!.name : thing.to;
};
/** What the plan proposes, as it would be sent. */
const movesOf = (p: SweepPlan, pick: (t: SweepThing) => boolean = () => true): SweepMove[] => {
  const moves = new Map<SweepThing['to'], SweepMove>();
  for (const t of p.things) {
    if (t.to === 'leave' || t.to === 'stay' || !pick(t)) continue;
    const folder = typeof t.to === 'number' ? p.folders[t.to]! : undefined;
    const { placeId, originalId } = folder ?? {};
    const move = moves.get(t.to) ?? { to: folder ? 'folder' : 'bin', placeId, originalId, things: [] };
    moves.set(t.to, move);
    const own = move.things.find((one) => one.placeId === t.placeId);
    if (own) own.ids.push(t.id);
    else move.things.push({ placeId: t.placeId, ids: [t.id] });
  }
  return [...moves.values()];
};
const run = (p: SweepPlan, more = {}, moves = movesOf(p)) =>
  rellin!.post('/sweeps/run', {
    folders: p.swept.map(({ placeId, originalId }) => ({ placeId, originalId })),
    ...{ at: p.at, moves, linkDays: 0, search: 'none' as const },
    ...more,
  });
/** All that lies below the place, with what an undo has to restore. */
const tree = (): string =>
  execFileSync('find', ['.', '-path', './.rellin*', '-prune', '-o', '-printf', '%p %y %l %s %T@ %i\\n'], {
    cwd: rellin!.place,
    encoding: 'utf8',
  })
    .split('\n')
    // a folder's own time and size tell of what was done in it
    .map((line) => line.replace(/^(\S+(?: \S+)* d) .*$/, '$1'))
    .sort()
    .join('\n');

describe('a plan', () => {
  it('follows the rules in their order, and says which one it was', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (const name of ['tides-may.csv', 'tides.pdf', 'photo.jpg', 'notes.txt']) old(r, `inbox/${name}`, name);
      r.write('Tides/keep.txt', 'x');
    });
    const tides = await folderShortcut('Tides');
    const p = await plan(['inbox'], [rule('tides', 'folder', tides), rule('kind:pdf', 'bin'), rule('*.txt', 'leave')]);
    expect(['tides-may.csv', 'tides.pdf', 'notes.txt', 'photo.jpg'].map((name) => where(p, name))).toEqual([
      'Tides',
      'Tides',
      'leave',
      'leave',
    ]);
    expect(p.things.map((t) => t.why).filter((w) => w.by === 'rule')).toEqual([
      { by: 'rule', rule: 2 },
      { by: 'rule', rule: 0 },
      { by: 'rule', rule: 0 },
    ]);
    expect(p.things.find((t) => t.name === 'photo.jpg')!.why).toEqual({ by: 'unknown' });
  });

  it('knows where a file belongs, says why, and leaves what it does not know', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (let m = 1; m <= 12; m++) {
        old(r, `Tides/tides-2025-${String(m).padStart(2, '0')}.csv`, 'a'.repeat(m), 400 - m * 30);
        old(r, `Scans/Scan ${String(m).padStart(4, '0')}.pdf`, 'b'.repeat(m), 400 - m * 30);
        old(r, `Letters/letter ${'abcdefghijklm'[m]} to the council.odt`, 'c'.repeat(m), 400 - m * 30);
      }
      old(r, 'inbox/tides-2026-01.csv', 'new');
      old(r, 'inbox/Scan 0013.pdf', 'new scan');
      old(r, 'inbox/zzqx-17.bin', 'odd');
    });
    const p = await plan(['inbox']);
    expect(where(p, 'tides-2026-01.csv')).toBe('Tides');
    expect(where(p, 'Scan 0013.pdf')).toBe('Scans');
    expect(where(p, 'zzqx-17.bin')).toBe('leave');
    const tides = p.things.find((t) => t.name === 'tides-2026-01.csv')!;
    expect(tides.why).toMatchObject({ by: 'belongs', reason: { by: expect.stringMatching(/alike|ending/) } });
    expect(tides.suggestions[0]!.probability).toBeGreaterThan(0.5);
  });

  it('leaves what is in use, under way, changed just now, kept by Rellin, or holds a destination', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (const name of ['open.txt', 'chart.pdf', 'chart.pdf.part', 'plain.txt', '.hidden', 'project/open too.txt'])
        old(r, `inbox/${name}`, name);
      r.write('inbox/now.txt', 'now');
      r.write('inbox/Sorted/old.txt', 'x');
      r.write('elsewhere/thing.txt', 'y');
      symlinkSync('plain.txt', join(r.place, 'inbox/link'));
    });
    const sorted = await folderShortcut('inbox/Sorted');
    const thing = await folderShortcut('elsewhere/thing.txt');
    await rellin.post('/aliases', { shortcutId: thing, folder: at('inbox') });
    await until(
      async () => list('inbox'),
      (names) => names.includes('thing.txt'),
    );
    const held = [openSync(at('inbox/open.txt'), 'r'), openSync(at('inbox/project/open too.txt'), 'r')];
    try {
      const p = await plan(['inbox'], [rule('*', 'folder', sorted)], 10);
      const reasons = Object.fromEntries(
        p.things.flatMap((t) => (t.why.by === 'stay' ? [[t.name, t.why.reason]] : [])),
      );
      expect(reasons).toEqual({
        '.hidden': 'hidden',
        'open.txt': 'open',
        project: 'open',
        'chart.pdf': 'download',
        'now.txt': 'recent',
        Sorted: 'destination',
        link: 'not-a-file',
        'thing.txt': 'kept-by-rellin',
      });
      expect(where(p, 'plain.txt')).toBe('Sorted');
      if (!has('lsof')) return;
      const { stdout } = spawnSync('lsof', ['-Fn', '+D', at('inbox')], { encoding: 'utf8' });
      const byLsof = stdout
        .split('\n')
        .filter((line) => line.startsWith(`n${at('inbox')}/`))
        .map((line) => line.slice(at('inbox').length + 2).split('/')[0]!);
      const open = Object.keys(reasons).filter((name) => reasons[name] === 'open');
      expect(open.sort()).toEqual([...new Set(byLsof)].sort());
    } finally {
      held.forEach(closeSync);
    }
  });

  it('finds what is filed already by its content, and the copies among what is swept', async () => {
    rellin = await Rellin.make({}, (r) => {
      r.write('Filed/report.pdf', 'the report');
      old(r, 'inbox/report(1).pdf', 'the report', 3);
      old(r, 'inbox/other1.pdf', 'the rapport', 3);
      old(r, 'inbox/b.txt', 'twice', 9);
      old(r, 'inbox/a copy.txt', 'twice', 2);
      old(r, 'inbox/empty.txt', '');
      r.write('Filed/empty.txt', '');
    });
    const p = await plan(['inbox'], [{ name: 'Filed already', when: 'duplicate', query: '', to: 'bin' }]);
    const twins = p.things.flatMap((t) =>
      t.duplicateOf ? [[t.name, t.duplicateOf.trail.at(-1), t.duplicateOf.name]] : [],
    );
    expect(twins.sort()).toEqual([
      ['a copy.txt', 'inbox', 'b.txt'],
      ['report(1).pdf', 'Filed', 'report.pdf'],
    ]);
    expect(where(p, 'report(1).pdf')).toBe('bin');
    expect(where(p, 'b.txt')).not.toBe('bin');
  });

  it('counts groups as find does', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (let i = 0; i < 60; i++)
        old(r, `inbox/f${i}.${['pdf', 'txt', 'jpg'][i % 3]!}`, 'x'.repeat(i * 5000), i * 7 + 0.5);
      for (let i = 0; i < 3; i++) mkdirSync(join(r.place, `inbox/folder ${i}`));
    });
    const p = await plan(['inbox']);
    const things = p.things.map((t) => ({ ...t, isFolder: t.type === 'folder' }));
    const count = (...args: string[]) =>
      execFileSync('find', [at('inbox'), '-mindepth', '1', '-maxdepth', '1', ...args], { encoding: 'utf8' }).split('\n')
        .length - 1;
    for (const { key, count: n } of groupsOf(things, 'kind', p.at).filter((g) => g.key !== 'folder'))
      expect(n).toBe(count('-type', 'f', '-name', `*.${{ pdf: 'pdf', text: 'txt', picture: 'jpg' }[key]!}`));
    const minutes = (ms: number) => String(Math.round(ms / 60_000));
    for (const { key, count: n } of groupsOf(things, 'age', p.at)) {
      const i = Number(key);
      const from = i === 0 ? [] : ['-mmin', `+${minutes(AGE_BANDS[i - 1]!.below)}`];
      const to = AGE_BANDS[i]!.below === Infinity ? [] : ['-mmin', `-${minutes(AGE_BANDS[i]!.below)}`];
      expect([key, n]).toEqual([key, count(...from, ...to)]);
    }
    for (const { key, count: n } of groupsOf(things, 'size', p.at).filter((g) => g.key !== 'folder')) {
      const i = Number(key);
      const from = i === 0 ? [] : ['-size', `+${SIZE_BANDS[i - 1]!.below - 1}c`];
      const to = SIZE_BANDS[i]!.below === Infinity ? [] : ['-size', `-${SIZE_BANDS[i]!.below}c`];
      expect([key, n]).toEqual([key, count('-type', 'f', ...from, ...to)]);
    }
  });

  (has('setfattr') && has('getfattr') ? it : it.skip)('knows where files were fetched from', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (const name of ['fetched.pdf', 'ü "two".pdf', 'own.pdf']) old(r, `inbox/${name}`, name);
      for (const [name, address] of [
        ['fetched.pdf', 'https://marrowick.example/a?b="c"'],
        ['ü "two".pdf', 'https://tides.example/ü'],
      ])
        execFileSync('setfattr', ['-n', 'user.xdg.origin.url', '-v', address!, join(r.place, 'inbox', name!)]);
    });
    const { things } = await plan(['inbox']);
    expect(Object.fromEntries(things.map((t) => [t.name, t.origin]))).toEqual({
      'fetched.pdf': 'marrowick.example',
      'ü "two".pdf': 'tides.example',
      'own.pdf': '',
    });
  });

  it('says which rule cannot be followed, and leaves what it matches', async () => {
    rellin = await Rellin.make({}, (r) => old(r, 'inbox/a.txt', 'a'));
    const own = await folderShortcut('inbox');
    const p = await plan(['inbox'], [rule('*.txt', 'folder', own), rule('size:', 'bin')]);
    expect(p.troubles.map((t) => t.rule)).toEqual([0, 1]);
    expect(p.troubles[0]!.message).toBe('“inbox” is the folder that is swept.');
    expect(where(p, 'a.txt')).toBe('leave');
  });
});

describe('a sweep', () => {
  it('is one act: folders and the bin, names that are taken kept beside, and one undo restores the disk exactly', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (const name of ['a.csv', 'b.csv', 'rubbish.tmp', 'ü.csv']) old(r, `inbox/${name}`, name);
      r.write('Tables/a.csv', 'another');
    });
    const tables = await folderShortcut('Tables');
    const p = await plan(['inbox'], [rule('*.csv', 'folder', tables), rule('*.tmp', 'bin')]);
    expect(p.folders.find((f) => f.name === 'Tables')!.taken).toEqual(['a.csv']);
    const before = tree();
    expect(await run(p)).toMatchObject({ moved: 3, binned: 1, left: [], notes: [] });
    expect(list('inbox')).toEqual([]);
    expect(list('Tables')).toEqual(['a (2).csv', 'a.csv', 'b.csv', 'ü.csv']);
    expect(readFileSync(at('Tables/a.csv'), 'utf8')).toBe('another');
    const [logged] = await rellin.get('/sweeps/log');
    expect(logged).toMatchObject({
      name: 'inbox',
      by: 'person',
      left: 0,
      undoneAt: null,
      went: [
        { to: 'Tables', count: 3 },
        { to: 'the bin', count: 1 },
      ],
    });
    await rellin.post(`/journal/${logged!.journalId!}/undo`);
    expect(tree()).toBe(before);
    const undone = await until(
      () => rellin!.get('/sweeps/log'),
      ([r]) => r!.undoneAt !== null,
    );
    expect(undone).toHaveLength(1);
    await rellin.post('/journal/redo');
    expect(list('inbox')).toEqual([]);
    await until(
      () => rellin!.get('/sweeps/log'),
      ([r]) => r!.undoneAt === null,
    );
  });

  it('leaves what changed, grew, vanished or was opened since it was shown, and says so', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (const name of ['grew', 'gone', 'replaced', 'opened', 'renamed', 'fine']) old(r, `inbox/${name}.log`, name);
      mkdirSync(join(r.place, 'Logs'));
    });
    const logs = await folderShortcut('Logs');
    const p = await plan(['inbox'], [rule('*.log', 'folder', logs)]);
    appendFileSync(at('inbox/grew.log'), 'more');
    rmSync(at('inbox/gone.log'));
    writeFileSync(at('inbox/new'), 'another');
    renameSync(at('inbox/new'), at('inbox/replaced.log'));
    renameSync(at('inbox/renamed.log'), at('inbox/renamed again.log'));
    const held = openSync(at('inbox/opened.log'), 'r');
    try {
      const done = await run(p);
      expect(done.moved).toBe(1);
      expect(list('Logs')).toEqual(['fine.log']);
      expect(list('inbox')).toEqual(['grew.log', 'opened.log', 'renamed again.log', 'replaced.log']);
      expect(done.left.map((l) => l.why).sort()).toEqual([
        'a program has it open',
        'it changed since it was shown',
        'it changed since it was shown',
        'it changed since it was shown',
        'it is not there any more',
      ]);
    } finally {
      closeSync(held);
    }
  });

  it('leaves a link at each old spot for a time, which goes by undo, comes by redo, and goes when the time is over', async () => {
    rellin = await Rellin.make({}, (r) => {
      old(r, 'inbox/chart.pdf', 'chart');
      mkdirSync(join(r.place, 'Charts'));
    });
    const charts = await folderShortcut('Charts');
    const p = await plan(['inbox'], [rule('*.pdf', 'folder', charts)]);
    const before = tree();
    await run(p, { linkDays: 7 });
    expect(readlinkSync(at('inbox/chart.pdf'))).toBe(at('Charts/chart.pdf'));
    expect(lstatSync(at('Charts/chart.pdf')).isFile()).toBe(true);
    // it is no clutter
    const again = await plan(['inbox'], [rule('*', 'bin')]);
    expect(again.things.map((t) => t.why)).toEqual([{ by: 'stay', reason: 'kept-by-rellin' }]);
    await rellin.post('/journal/undo');
    expect(tree()).toBe(before);
    await rellin.post('/journal/redo');
    expect(readlinkSync(at('inbox/chart.pdf'))).toBe(at('Charts/chart.pdf'));
    await rellin.sql(`UPDATE sweep_run SET links_until = now() - interval '1 second'`);
    await rellin.stop();
    await rellin.start();
    await until(
      async () => list('inbox'),
      (names) => names.length === 0,
    );
    expect(list('Charts')).toEqual(['chart.pdf']);
  });

  it('saves a search for what was swept, pinned where that is wanted, all gone by the same undo', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (const name of ['a.csv', 'b.csv']) old(r, `inbox/${name}`, name);
      mkdirSync(join(r.place, 'Tables'));
    });
    const tables = await folderShortcut('Tables');
    const p = await plan(['inbox'], [rule('*.csv', 'folder', tables)]);
    const { searchId } = await run(p, { search: 'pinned' });
    const answers = await until(
      () => rellin!.get(`/searches/${searchId!}/answers`),
      (a) => a.count === 2,
    );
    expect(answers.answers.map((a) => a.trail.at(-1))).toEqual(['Tables', 'Tables']);
    expect(await rellin.get('/pins')).toHaveLength(1);
    await rellin.post('/journal/undo');
    expect(await rellin.get('/searches')).toEqual([]);
    expect(await rellin.get('/pins')).toEqual([]);
    expect(await rellin.get('/tags')).toEqual([]);
    expect(list('inbox')).toEqual(['a.csv', 'b.csv']);
  });

  it('goes on with 300 things, and two at once take each thing once', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (let i = 0; i < 300; i++) old(r, `inbox/f${i}.txt`, String(i));
      mkdirSync(join(r.place, 'One'));
      mkdirSync(join(r.place, 'Other'));
    });
    const [one, other] = [await folderShortcut('One'), await folderShortcut('Other')];
    const plans = [
      await plan(['inbox'], [rule('*', 'folder', one)]),
      await plan(['inbox'], [rule('*', 'folder', other)]),
    ];
    const before = tree();
    const done = await Promise.all(plans.map((p) => run(p)));
    expect(done[0]!.moved + done[1]!.moved).toBe(300);
    expect(list('One').length + list('Other').length).toBe(300);
    for (const { runId } of done) if (runId !== null) await rellin.post('/journal/undo');
    expect(tree()).toBe(before);
  });

  it('takes thousands at once, also such as are of one size, and puts all of them back', async () => {
    const many = process.env['RELLIN_ALL_FAULTS'] === '1' ? 20_000 : 1500;
    rellin = await Rellin.make({}, (r) => {
      for (let i = 0; i < many; i++) old(r, `inbox/f${i} of the season ${i % 97}.txt`, String(i));
      for (let i = 0; i < many / 10; i++) r.write(`Filed/f${i} of the year.txt`, `${i} there`);
    });
    const filed = await folderShortcut('Filed');
    const p = await plan(['inbox'], [rule('*7.txt', 'bin'), rule('*', 'folder', filed)]);
    expect(p.things).toHaveLength(many);
    expect(p.things.filter((t) => t.duplicateOf)).toEqual([]);
    const done = await run(p);
    expect(done.moved + done.binned).toBe(many);
    expect(list('inbox')).toEqual([]);
    await rellin.post('/journal/undo');
    expect(list('inbox')).toHaveLength(many);
    expect(list('Filed')).toHaveLength(Math.ceil(many / 10));
  }, 300_000);

  it('takes nothing that lies elsewhere', async () => {
    rellin = await Rellin.make({}, (r) => {
      old(r, 'inbox/a.txt', 'a');
      old(r, 'private/b.txt', 'b');
      mkdirSync(join(r.place, 'To'));
    });
    const p = await plan(['inbox']);
    const to = { to: 'folder' as const, ...(await refOf('To')) };
    const b = await refOf('private/b.txt');
    await expect(run(p, {}, [{ ...to, things: [{ placeId: b.placeId, ids: [b.originalId] }] }])).rejects.toThrow(
      'does not lie in a folder that is swept',
    );
    expect(list('private')).toEqual(['b.txt']);
  });
});

describe('a kept sweep', () => {
  const kept = async (more: Partial<NewSweep> = {}): Promise<NewSweep> => ({
    ...{ name: 'Inbox', folders: [await refOf('inbox')], rules: [], recentMinutes: 10, linkDays: 0, byItself: false },
    threshold: { things: 3, size: null, days: null },
    ...more,
  });

  it('counts what has gathered, is due at its bound, and is changed, deleted and undone like all else', async () => {
    rellin = await Rellin.make({}, (r) => {
      old(r, 'inbox/a.pdf', 'four', 40);
      old(r, 'inbox/b.pdf', 'and four', 2);
      r.write('inbox/.hidden', 'x');
    });
    const sweep = await rellin.post('/sweeps', await kept());
    expect(sweep).toMatchObject({ backlog: { things: 2, size: 12, fresh: 0 }, isDue: false, folderNames: ['inbox'] });
    old(rellin, 'inbox/c.pdf', 'five!', 1);
    const [now] = await until(
      () => rellin!.get('/sweeps'),
      ([s]) => s!.backlog.things === 3,
    );
    expect(now).toMatchObject({ isDue: true, backlog: { fresh: 1, freshKind: 'pdf' } });
    await rellin.call('PATCH', `/sweeps/${sweep.id}`, { threshold: { things: null, size: null, days: 50 } });
    expect((await rellin.get('/sweeps'))[0]!.isDue).toBe(false);
    await rellin.call('DELETE', `/sweeps/${sweep.id}`);
    expect(await rellin.get('/sweeps')).toEqual([]);
    await rellin.post('/journal/undo');
    expect(await rellin.get('/sweeps')).toHaveLength(1);
    await expect(rellin.post('/sweeps', await kept({ rules: [rule('size:', 'bin')] }))).rejects.toThrow(
      'cannot be read',
    );
  });

  it('follows its folder where that is renamed', async () => {
    rellin = await Rellin.make({}, (r) => old(r, 'inbox/a.pdf', 'four'));
    await rellin.post('/sweeps', await kept());
    renameSync(at('inbox'), at('clutter'));
    const [sweep] = await until(
      () => rellin!.get('/sweeps'),
      ([s]) => s!.folderNames[0] === 'clutter',
    );
    expect(sweep!.backlog.things).toBe(1);
  });

  it('runs by itself only where that was switched on, by its rules alone, with a report and an undo', async () => {
    rellin = await Rellin.make({}, (r) => {
      for (let m = 1; m <= 12; m++)
        old(r, `Tides/tides-2025-${String(m).padStart(2, '0')}.csv`, 'a'.repeat(m), 400 - m * 30);
      old(r, 'inbox/tides-2026-01.csv', 'likely');
      for (const name of ['a.tmp', 'b.tmp']) old(r, `inbox/${name}`, name);
    });
    const sweep = await rellin.post('/sweeps', await kept({ rules: [rule('*.tmp', 'bin')] }));
    expect(sweep.isDue).toBe(true);
    await rellin.call('PATCH', `/sweeps/${sweep.id}`, { byItself: true });
    const [report] = await until(
      () => rellin!.get('/sweeps/log'),
      (log) => log.length === 1,
    );
    expect(report).toMatchObject({ by: 'automatic', sweepId: sweep.id, went: [{ to: 'the bin', count: 2 }] });
    expect(list('inbox')).toEqual(['tides-2026-01.csv']);
    await rellin.post(`/journal/${report!.journalId!}/undo`);
    expect(list('inbox')).toEqual(['a.tmp', 'b.tmp', 'tides-2026-01.csv']);
  });
});
