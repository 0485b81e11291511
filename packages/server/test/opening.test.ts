/** The system's own opener: a stand-in `xdg-open` and programs that write down the very arguments they were given. */
import { chmodSync, existsSync, mkdirSync, readFileSync, renameSync, rmSync, unlinkSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
const record = () => join(rellin.base, 'started');

/** A program that writes its arguments, one a line after a count, and ends. */
function script(path: string): string {
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(
    path,
    `#!/bin/sh\n{ echo "$#"; for a in "$@"; do printf '%s\\n' "$a"; done; } > "$RECORD.part"\nmv "$RECORD.part" "$RECORD"\n` +
      `if [ -f "$RECORD.code" ]; then exit "$(cat "$RECORD.code")"; fi\n`,
  );
  chmodSync(path, 0o755);
  return path;
}

function entry(id: string, lines: string[]): string {
  const path = join(rellin.base, 'system/applications', id);
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(path, `[Desktop Entry]\nType=Application\n${lines.join('\n')}\n`);
  return path;
}

beforeAll(async () => {
  rellin = await Rellin.make({}, (r) => {
    rellin = r;
    const bin = join(r.base, 'bin');
    script(join(bin, 'xdg-open'));
    const tool = script(join(r.base, 'tools/net tally'));
    mkdirSync(join(r.base, 'system/applications'), { recursive: true });
    entry('tally.desktop', ['Name=Net Tally', 'Icon=tally', `Exec="${tool}" --name %c %i %U --ratio 100%% $HOME`]);
    script(join(bin, 'x-terminal-emulator'));
    entry('mode.desktop', ['Name=Text Mode', 'Terminal=true', `Exec="${tool}" %f  `, 'MimeType=text/plain;']);
    entry('astray.desktop', ['Name=Astray', `Exec="${tool}"`, 'Path=/nowhere/at all', 'NoDisplay=true']);
    entry('folder.desktop', ['Name=Folder', 'Exec=true', `TryExec=${r.base}`]);
    entry('faulty.desktop', ['Name=Faulty', 'Exec="never closed']);
    entry('gone.desktop', ['Name=Gone', `Exec=${join(r.base, 'tools/never there')}`]);
    Object.assign((r as unknown as { options: { env?: object } }).options, {
      env: { PATH: `${bin}:${process.env['PATH']}`, RECORD: record(), RELLIN_OPENER: 'system' },
    });
  });
});
afterAll(() => rellin.remove());
beforeEach(() => {
  rmSync(record(), { force: true });
  rmSync(`${record()}.code`, { force: true });
});

/** What the program wrote: waits until it has. */
async function started(): Promise<string[]> {
  await until(
    () => existsSync(record()),
    (there) => there,
  );
  const [count, ...args] = readFileSync(record(), 'utf8').split('\n');
  return args.slice(0, Number(count));
}

describe('opening by the system', () => {
  it.each([
    'plain.txt',
    'with a space.txt',
    '$(touch pwned) `id` "quoted" \'too\'.txt',
    '--help',
    'Müll & 漢字 %f.txt',
  ])('hands over the very path of “%s” as one argument, through no shell', async (name) => {
    const path = rellin.write(`odd/${name}`);
    const made = await rellin.add(path);
    const opened = await rellin.open(made.id);
    expect(opened).toMatchObject({ how: 'system', argv: ['xdg-open', path] });
    expect(await started()).toEqual([path]);
    expect(existsSync(join(rellin.place, 'pwned'))).toBe(false);
  });

  it('hands a web address over as it stands', async () => {
    const made = await rellin.add('https://tides.example/now?a=1&b=2;c');
    await rellin.open(made.id);
    expect(await started()).toEqual(['https://tides.example/now?a=1&b=2;c']);
  });

  it('starts a program by its Exec line: codes expanded, nothing read by a shell', async () => {
    const made = await rellin.post('/shortcuts', { programId: 'tally.desktop' });
    await rellin.open(made.id);
    expect(await started()).toEqual(['--name', 'Net Tally', '--icon', 'tally', '--ratio', '100%', '$HOME']);
  });

  it('opens files with a program: the very paths, and only where it takes files', async () => {
    const path = rellin.write('odd/with $(x) spaces.csv');
    const made = await rellin.add(path);
    const files = [{ placeId: made.placeId!, originalId: made.originalId! }];
    const tally = await rellin.post('/shortcuts', { programId: 'tally.desktop', name: 'Tally again' });
    await rellin.post('/openings', { shortcutId: tally.id, files, route: 'drop' });
    expect(await started()).toEqual(['--name', 'Net Tally', '--icon', 'tally', path, '--ratio', '100%', '$HOME']);
    const plain = await rellin.refusal(rellin.post('/openings', { programId: 'gone.desktop', files, route: 'drop' }));
    expect([plain.kind, plain.problem.detail]).toEqual(['cannot-open', expect.stringContaining('does not take files')]);
    expect((await rellin.refusal(rellin.post('/openings', { shortcutId: made.id, files, route: 'drop' }))).kind).toBe(
      'not-valid',
    );
  });

  it('starts what runs in a terminal in one, once for each file', async () => {
    const paths = ['a.txt', 'b.txt'].map((name) => rellin.write(`mode/${name}`));
    const made = await Promise.all(paths.map((path) => rellin.add(path)));
    const mode = await rellin.post('/shortcuts', { programId: 'mode.desktop' });
    const files = made.map((m) => ({ placeId: m.placeId!, originalId: m.originalId! }));
    const opened = await rellin.post('/openings', { shortcutId: mode.id, files, route: 'drop' });
    const tool = join(rellin.base, 'tools/net tally');
    expect(opened.argv).toEqual([expect.stringMatching(/terminal/), '-e', tool, paths[0]]);
    expect((await started()).slice(0, 2)).toEqual(['-e', tool]);
  });

  it('that ended with an error opened nothing: it is said, with what to do, and not counted', async () => {
    const made = await rellin.add(rellin.write('no program for this.odd'));
    for (const [code, words, remedy] of [
      ['3', 'no program for its kind', 'Open with'],
      ['4', 'the program for it failed', 'Open with'],
      ['1', 'ended with exit code 1', 'Open with'],
    ] as const) {
      writeFileSync(`${record()}.code`, code);
      const refused = await rellin.refusal(rellin.open(made.id));
      expect([refused.kind, refused.problem.detail, refused.problem.remedy]).toEqual([
        'cannot-open',
        expect.stringContaining(words),
        expect.stringContaining(remedy),
      ]);
    }
    expect((await rellin.shortcut(made.id)).weight).toBe(0);
    expect((await rellin.get('/journal')).filter((l) => l.summary.includes('no program for this'))).toEqual([
      expect.objectContaining({ act: 'add-shortcut' }),
    ]);
  });

  it('a program that dies a moment later is told of when it is asked, and to who waits', async () => {
    const slow = join(rellin.base, 'tools/slow');
    writeFileSync(slow, `#!/bin/sh\nsleep 0.6\nexit 7\n`);
    chmodSync(slow, 0o755);
    entry('slow.desktop', ['Name=Slow', `Exec="${slow}"`]);
    await until(
      () => rellin.get('/programs'),
      (all) => all.some((p) => p.id === 'slow.desktop'),
    );
    const made = await rellin.post('/shortcuts', { programId: 'slow.desktop' });
    const opened = await rellin.open(made.id);
    expect(opened.pending).toBe(true);
    const later = await rellin.refusal(rellin.get(`/openings/${opened.openingId}/outcome`));
    expect(later.problem.detail).toContain('Slow ended at once (exit code 7)');
    const waited = await rellin.refusal(
      rellin.post('/openings', { shortcutId: made.id, route: 'command', wait: true }),
    );
    expect(waited.kind).toBe('cannot-open');
    expect((await rellin.shortcut(made.id)).weight).toBe(0);
    // one that goes on is counted, when that is known
    writeFileSync(slow, `#!/bin/sh\nsleep 4\nexit 7\n`);
    const going = await rellin.open(made.id);
    await rellin.get(`/openings/${going.openingId}/outcome`);
    expect((await rellin.shortcut(made.id)).weight).toBeGreaterThan(0);
    unlinkSync(join(rellin.base, 'system/applications/slow.desktop'));
    await until(
      () => rellin.get('/programs'),
      (all) => !all.some((p) => p.id === 'slow.desktop'),
    );
  });

  it('says that the folder a program starts in is not there', async () => {
    const made = await rellin.post('/shortcuts', { programId: 'astray.desktop' });
    const refused = await rellin.refusal(rellin.open(made.id));
    expect(refused.problem.detail).toContain('/nowhere/at all, in which Astray starts, is not there');
  });

  it('says that a program is not there, and counts no opening', async () => {
    const made = await rellin.post('/shortcuts', { programId: 'gone.desktop' });
    const refused = await rellin.refusal(rellin.open(made.id));
    expect(refused.kind).toBe('cannot-open');
    expect(refused.problem.detail).toContain('is not installed');
    expect((await rellin.shortcut(made.id)).weight).toBe(0);
  });

  it('passes no name that is not UTF-8 on, and says why', async () => {
    writeFileSync(Buffer.concat([Buffer.from(`${rellin.place}/nid`), Buffer.from([0xe9])]), 'latin 1');
    const made = await until(
      () => rellin.add(`file://${rellin.place}/nid%E9`).catch(() => undefined),
      (m) => m !== undefined,
    );
    const refused = await rellin.refusal(rellin.open(made!.id));
    expect([refused.kind, refused.problem.remedy]).toEqual(['cannot-open', expect.stringContaining('Look at it')]);
  });
});

describe('programs that come and go', () => {
  it('are listed by name in the user’s order of directories; a hidden entry hides those below', async () => {
    const programs = await rellin.get('/programs');
    // and what cannot be started is not offered
    expect(programs.map((p) => p.name)).toEqual(['Net Tally', 'Text Mode']);
  });

  it('a shortcut to one that was removed is lost, and ready again when it is back', async () => {
    const path = entry('passing.desktop', ['Name=Passing', 'Exec=true']);
    await until(
      () => rellin.get('/programs'),
      (all) => all.some((p) => p.id === 'passing.desktop'),
    );
    const { id } = await rellin.post('/shortcuts', { programId: 'passing.desktop' });
    const stateIs = (state: string) =>
      until(
        () => rellin.shortcut(id),
        (s) => s.state === state,
      );
    renameSync(path, `${path}.aside`);
    expect((await stateIs('lost')).stateReason).toContain('not installed any more');
    renameSync(`${path}.aside`, path);
    await stateIs('ready');
    await rellin.stop();
    unlinkSync(path);
    await rellin.start();
    await stateIs('lost');
  });
});
