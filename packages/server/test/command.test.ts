/** The command, as other programs, menus and panels of the system use it. */
import { spawnSync } from 'node:child_process';
import { existsSync, lstatSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { PinView, PublicationView, ShortcutDetail } from '@rellin/contract';
import { PROJECT, Rellin } from './testing/harness.js';

let rellin: Rellin;
let share: string;
beforeAll(async () => {
  // one folder for both: the server tells by it which entries there are
  rellin = await Rellin.make({ env: (r) => ({ XDG_DATA_HOME: join(r.base, 'user data') }) });
  share = join(rellin.base, 'user data');
  rellin.write('here.txt');
});
afterAll(() => rellin.remove());

const command = (...args: string[]) =>
  spawnSync(process.execPath, [join(PROJECT, 'bin/rellin.mjs'), ...args], {
    encoding: 'utf8',
    env: { ...process.env, RELLIN_DATA: rellin.data, XDG_DATA_HOME: share, PATH: '/usr/bin:/bin' },
    cwd: rellin.place,
  });
const json = <T>(...args: string[]) => {
  const done = command(...args, '--json');
  if (done.status !== 0) throw new Error(done.stderr);
  return JSON.parse(done.stdout) as T;
};

describe('the command', () => {
  it('adds, finds and opens; says no with a reason and an exit code', () => {
    const added = json<ShortcutDetail>('add', 'here.txt', '--name', 'From the terminal');
    expect(added).toMatchObject({ name: 'From the terminal', location: join(rellin.place, 'here.txt') });
    expect(command('find', 'from the term').stdout).toContain('→ From the terminal');
    expect(command('open', 'from the terminal').stdout).toContain(`xdg-open ${join(rellin.place, 'here.txt')}`);
    expect(command('open', './here.txt').status).toBe(0);
    const refused = command('add', join(rellin.base, 'outside/secret.txt'));
    expect([refused.status, refused.stderr]).toEqual([1, expect.stringContaining('outside every place')]);
    expect(command('fly').status).toBe(2);
    expect(command('open').status).toBe(2);
    expect(command('open', 'x', '--sideways').status).toBe(2);
    const none = spawnSync(process.execPath, [join(PROJECT, 'bin/rellin.mjs'), 'find', 'x'], {
      env: { ...process.env, RELLIN_DATA: '/nonexistent' },
    });
    expect(none.status).toBe(3);
  });

  it('opens what can be opened, and says where a collection or saved search is shown', async () => {
    const { id } = await rellin.post('/collections', { name: 'Quillfeather' });
    const refused = command('open', 'quillfeather');
    expect([refused.status, refused.stderr]).toEqual([
      1,
      expect.stringContaining(`“Quillfeather” is a collection: rellin page --collection ${id} shows it`),
    ]);
    rellin.write('quillfeather notes.txt');
    await rellin.add(join(rellin.place, 'quillfeather notes.txt'), { name: 'Quillfeather notes' });
    expect(command('open', 'quillfeather').stdout).toContain('quillfeather notes.txt');
  });

  it('shows a name with a terminal’s commands in it as text', () => {
    const name = 'x\u001b]0;owned\u0007\u009b31m\u202etxt.exe\nfake line';
    rellin.write(name);
    const shown = 'x\\u001b]0;owned\\u0007\\u009b31m\\u202etxt.exe\\u000afake line';
    const added = command('add', `./${name}`, '--name', name);
    expect(added.stdout).toContain(`Added “${shown}”`);
    expect(command('find', 'owned').stdout).toContain(shown);
    const refused = command('add', `/nowhere/${name}`);
    expect(refused.stderr).toContain('owned');
    const wild = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202a-\u202e]/;
    for (const said of [added.stdout, refused.stderr, command('find', 'owned', '--json').stdout])
      expect(wild.test(said)).toBe(false);
    expect(json<{ name: string }[]>('find', 'owned')[0]!.name).toBe(name);
  });

  it('adds several at once, as “open with” gives them: paths and addresses of files', () => {
    const one = rellin.write('two words/a b%.txt');
    const two = rellin.write('two words/c.txt');
    const made = json<ShortcutDetail[]>('add', `file://${encodeURI(one).replace('%25', '%25')}`, two);
    expect(made.map((m) => m.location)).toEqual([one, two]);
    expect(command('add', one, two, '--name', 'Both').status).toBe(2);
  });

  it('pins what it finds, and what had no shortcut yet', async () => {
    expect(json<PinView>('pin', 'from the terminal')).toMatchObject({ name: 'From the terminal', slot: 1 });
    rellin.write('pinned from here.md');
    expect(json<PinView>('pin', './pinned from here.md')).toMatchObject({ name: 'pinned from here', slot: 2 });
    expect((await rellin.pins()).map((p) => p.name)).toEqual(['From the terminal', 'pinned from here']);
    expect(command('pin', 'nothing of that name').status).toBe(1);
  });

  it('files into a folder by its shortcut’s name; asks about a name that is taken', async () => {
    mkdirSync(join(rellin.place, 'Logs'));
    await rellin.add(join(rellin.place, 'Logs'), { name: 'Log folder' });
    rellin.write('today.csv', 'a,b');
    expect(command('file-into', 'log folder', 'today.csv').stdout).toBe('Moved 1 into “Logs”\n');
    expect(existsSync(join(rellin.place, 'Logs/today.csv'))).toBe(true);
    rellin.write('today.csv', 'c,d');
    const taken = command('file-into', 'log folder', 'today.csv');
    expect([taken.status, taken.stderr]).toEqual([1, expect.stringContaining('holds “today.csv” already')]);
    expect(readFileSync(join(rellin.place, 'today.csv'), 'utf8')).toBe('c,d');
    expect(command('file-into', './Logs', 'today.csv', '--copy', '--clash', 'keep-both').status).toBe(0);
    expect(readdirSync(join(rellin.place, 'Logs'))).toHaveLength(2);
    expect(existsSync(join(rellin.place, 'today.csv'))).toBe(true);
    expect(command('file-into', 'log folder').status).toBe(2);
    expect(command('file-into', 'log folder', 'today.csv', '--clash', 'perhaps').status).toBe(2);
  });
});

describe('links on disk', () => {
  it('places an alias, publishes and ends that, by name', async () => {
    mkdirSync(join(rellin.place, 'Desk'));
    expect(command('alias', 'from the terminal', 'Desk', '--name', 'here').stdout).toMatch(/^Placed .*\/Desk\/here/);
    expect(lstatSync(join(rellin.place, 'Desk', readdirSync(join(rellin.place, 'Desk'))[0]!)).isSymbolicLink()).toBe(
      true,
    );
    const [first] = await rellin.shortcuts();
    await rellin.post('/collections', { name: 'Morning round', shortcutIds: [first!.id] });
    const published = json<PublicationView>('publish', 'morning', 'round', './Desk', '--ordered');
    expect(published).toMatchObject({ path: join(rellin.place, 'Desk/Morning round'), links: 1, ordered: true });
    expect(readdirSync(published.path!)).toHaveLength(1);
    expect(command('publish', 'Morning round', '--menu').stdout).toBe('Published “Morning round” as a menu\n');
    expect(json<PublicationView[]>('unpublish', 'Morning round')).toHaveLength(2);
    expect(existsSync(published.path!)).toBe(false);
    expect([command('publish', 'Nothing', 'Desk').status, command('publish', 'Morning round').status]).toEqual([1, 2]);
    expect([command('unpublish', 'Morning round').status, command('alias', 'one').status]).toEqual([1, 2]);
    expect(command('alias', 'from the terminal', '/usr').status).toBe(1);
  });
});

describe('desktop entries', () => {
  const folder = () => join(share, 'applications');
  const fields = (file: string) =>
    new Map(
      readFileSync(join(folder(), file), 'utf8')
        .split('\n')
        .flatMap((line) =>
          line.includes('=') ? [[line.slice(0, line.indexOf('=')), line.slice(line.indexOf('=') + 1)]] : [],
        ) as [string, string][],
    );

  it('are written for “open with”, the find line and each pin; a validator accepts them', async () => {
    await rellin.call('PATCH', `/shortcuts/${(await rellin.pins())[0]!.targetId}`, { name: ' A \\ name; 100 %' });
    expect(command('desktop', 'on').status).toBe(0);
    const files = readdirSync(folder());
    expect(files.filter((f) => f.startsWith('rellin-shortcut-'))).toHaveLength(2);
    const add = fields('rellin-add.desktop');
    expect(add.get('MimeType')).toContain('inode/directory;');
    expect(add.get('Exec')).toMatch(/ add --show %U$/);
    const pin = fields(files.find((f) => f.includes(`shortcut-`) && fields(f).get('Name')!.includes('name;'))!);
    expect(pin.get('Name')).toBe('A \\\\ name; 100 %');
    // outside reference: desktop-file-utils
    const checked = spawnSync(
      'desktop-file-validate',
      files.map((f) => join(folder(), f)),
      { encoding: 'utf8' },
    );
    expect(checked.error).toBeUndefined();
    expect(checked.stdout + checked.stderr).toBe('');
  });

  it('start what they say: the entry of a pin opens it', async () => {
    const pins = await rellin.pins();
    const exec = fields(`rellin-shortcut-${pins[1]!.targetId}.desktop`).get('Exec')!;
    // an Exec line of plain arguments is one for the shell as well
    const opened = spawnSync('sh', ['-c', `${exec} --json`], { encoding: 'utf8' });
    expect(JSON.parse(opened.stdout)).toMatchObject({ name: 'pinned from here' });
    // and is one of its routes: a click on it, where it lies on a panel
    const { reach } = await rellin.shortcut(pins[1]!.targetId);
    expect(reach.routes).toContainEqual(expect.objectContaining({ kind: 'entry', steps: 1 }));
  });

  it('follow the strip, leave alone what Rellin did not write, and go', async () => {
    const pins = await rellin.pins();
    await rellin.call('DELETE', `/pins/${pins[1]!.id}`);
    writeFileSync(join(folder(), 'rellin-find.desktop'), '[Desktop Entry]\nType=Application\nName=Mine\nExec=true\n');
    const again = command('desktop', 'on');
    expect(again.stdout).toContain('rellin-find.desktop as it is');
    expect(readdirSync(folder()).filter((f) => f.startsWith('rellin-shortcut-'))).toHaveLength(1);
    expect(command('desktop', 'off').status).toBe(0);
    const { reach } = await rellin.shortcut(pins[0]!.targetId);
    expect(reach.routes.some((r) => r.kind === 'entry')).toBe(false);
    expect(readdirSync(folder())).toEqual(['rellin-find.desktop']);
    expect(command('desktop', 'sideways').status).toBe(2);
  });
});
