/** What the person chooses: quick filters, programs to open with, several pins at once, where it opens. */
import { existsSync, mkdirSync, readFileSync, readlinkSync, renameSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { FolderSource } from '@rellin/contract';
import { Rellin } from './testing/harness.js';

let rellin: Rellin;
const list = () => join(rellin.base, 'config/mimeapps.list');

beforeAll(async () => {
  rellin = await Rellin.make({}, (r) => {
    const apps = join(r.base, 'system/applications');
    mkdirSync(apps, { recursive: true });
    mkdirSync(join(r.base, 'config'), { recursive: true });
    const entry = (id: string, exec: string, types: string) =>
      writeFileSync(
        join(apps, `${id}.desktop`),
        `[Desktop Entry]\nType=Application\nName=${id}\nExec=${exec}\nMimeType=${types}\n`,
      );
    entry('sums', 'sums %F', 'text/csv;application/vnd.oasis.opendocument.spreadsheet;');
    entry('tide', 'tide %f', 'text/csv;');
    entry('quill', 'quill %U', 'text/plain;');
    entry('lamp', 'lamp', '');
    writeFileSync(join(apps, 'mimeapps.list'), '[Default Applications]\ntext/csv=tide.desktop\n');
  });
});
afterAll(() => rellin.remove());

const undo = () => rellin.post('/journal/undo');
const redo = () => rellin.post('/journal/redo');

describe('quick filters', () => {
  const all = () => rellin.get('/quick-filters');
  beforeEach(async () => {
    for (const { id } of await all()) await rellin.call('DELETE', `/quick-filters/${id}`);
  });

  it('are kept under a name and a key, changed, removed, and all of it undone', async () => {
    const filter = { kind: 'table', used: 'never', sort: 'opened', order: 'down' };
    const [made] = await rellin.post('/quick-filters', {
      name: 'Unused tables',
      filter,
      keys: 'j j',
    });
    expect(made).toMatchObject({ name: 'Unused tables', filter, keys: 'j j' });
    await rellin.call('PATCH', `/quick-filters/${made!.id}`, { name: 'Idle tables' });
    await rellin.call('DELETE', `/quick-filters/${made!.id}`);
    expect(await all()).toEqual([]);
    await undo();
    expect((await all()).map((f) => f.name)).toEqual(['Idle tables']);
    await undo();
    expect(await all()).toEqual([made]);
  });

  it('are refused without a name, without anything narrowed, and with a key that is taken', async () => {
    const refused = async (body: object) => (await rellin.refusal(rellin.post('/quick-filters', body))).problem.detail;
    expect(await refused({ name: ' ', filter: { kind: 'table' } })).toContain('needs a name');
    expect(await refused({ name: 'All', filter: {} })).toContain('not narrowed');
    await rellin.post('/quick-filters', { name: 'One', filter: { kind: 'pdf' }, keys: 'y' });
    expect(await refused({ name: 'Two', filter: { kind: 'pdf' }, keys: 'y' })).toContain('“One”');
    expect(await refused({ name: 'Two', filter: { kind: 'pdf', evil: 'x' } })).toContain('evil');
  });
});

describe('letters of Rellin’s own', () => {
  const change = (keyMap: unknown) => rellin.send('PATCH', '/settings', { keyMap });

  it('are changed in one act, and a key of one’s own goes by what they are now', async () => {
    await rellin.post('/quick-filters', { name: 'Mine', filter: { kind: 'table' }, keys: 'z' });
    const refused = async (keyMap: unknown) => (await rellin.refusal(change(keyMap))).problem.detail;
    expect(await refused({ t: 'z' })).toContain('“Mine”');
    expect(await refused({ t: 'p' })).toContain('two things');
    for (const odd of [{ t: 4 }, { t: null }, { t: ['q'] }, { __proto__x: 'q' }]) await refused(odd);
    await change({ t: 'q' });
    const keyed = (keys: string) => rellin.post('/quick-filters', { name: keys, filter: { kind: 'pdf' }, keys });
    expect((await rellin.refusal(keyed('q'))).problem.detail).toContain('Tags');
    await keyed('t');
    await undo();
    await undo();
    expect((await rellin.get('/settings')).keyMap).toEqual({});
  });
});

describe('what is typed', () => {
  it('may be a host’s name or a program’s, as people say them', async () => {
    const add = (typed: string) => rellin.post('/shortcuts', { typed });
    expect(await add('www.tides.example/high?at=head')).toMatchObject({
      target: 'web',
      location: 'https://www.tides.example/high?at=head',
    });
    expect(await add('tides.example:8080')).toMatchObject({ location: 'https://tides.example:8080/' });
    const [program] = await rellin.get('/programs/suited', { mime: 'text/csv' });
    expect(await add(` ${program!.name.toUpperCase()} `)).toMatchObject({ target: 'program', location: program!.id });
    for (const odd of ['just some words', 'tides', 'tide..example', 'javascript:1', '-a.example'])
      expect((await rellin.refusal(add(odd))).kind).toBe('not-valid');
  });
});

describe('open with', () => {
  it('offers what the system’s lists say first, then what entries say, then the rest that take files', async () => {
    const suited = await rellin.get('/programs/suited', { mime: 'text/csv' });
    expect(suited.map((p) => [p.id, p.suits, p.isDefault])).toEqual([
      ['tide.desktop', true, true],
      ['sums.desktop', true, false],
      // a table in text is text as well
      ['quill.desktop', true, false],
    ]);
  });

  it('goes by the shortcut first, then by its kind, then by the system; once is once', async () => {
    const path = rellin.write('tides.csv');
    const { id } = await rellin.add(path);
    const argv = async (more: object = {}) =>
      (await rellin.post('/openings', { shortcutId: id, route: 'test', ...more })).argv;
    expect(await argv()).toEqual(['xdg-open', path]);
    await rellin.post('/programs/for-kind', { kind: 'table', programId: 'sums.desktop' });
    expect(await argv()).toEqual(['sums', path]);
    await rellin.post('/shortcuts/open-with', { ids: [id], programId: 'quill.desktop' });
    expect(await argv()).toEqual(['quill', expect.stringContaining('tides.csv')]);
    expect(await argv({ withProgramId: 'tide.desktop' })).toEqual(['tide', path]);
    // openings are no acts to take back
    await undo();
    await undo();
    expect((await rellin.shortcut(id)).openWith).toBeNull();
    expect(await argv()).toEqual(['xdg-open', path]);
  });

  it('sets many in one act; programs and addresses have no program of their own', async () => {
    const a = await rellin.add(rellin.write('a.txt'));
    const b = await rellin.add(rellin.write('b.txt'));
    const web = await rellin.add('https://rings.example/');
    await rellin.post('/shortcuts/open-with', { ids: [a.id, b.id, web.id], programId: 'quill.desktop' });
    expect((await rellin.shortcut(a.id)).openWith).toBe('quill.desktop');
    expect((await rellin.shortcut(web.id)).openWith).toBeNull();
    await undo();
    expect((await rellin.shortcut(b.id)).openWith).toBeNull();
    const refused = await rellin.refusal(
      rellin.post('/shortcuts/open-with', { ids: [web.id], programId: 'quill.desktop' }),
    );
    expect(refused.problem.detail).toContain('files and folders');
    const gone = await rellin.refusal(rellin.post('/shortcuts/open-with', { ids: [a.id], programId: 'gone.desktop' }));
    expect(gone.problem.detail).toContain('not installed');
  });

  it('tells the system on request only: the user’s list changes by its lines, and undo gives it back', async () => {
    writeFileSync(list(), '# by hand\n[Default Applications]\ntext/csv=tide.desktop;\nx/y=quill.desktop\n');
    const before = readFileSync(list(), 'utf8');
    const { mimes } = await rellin.post('/programs/tell-system', {
      kind: 'table',
      programId: 'sums.desktop',
    });
    expect(mimes.sort()).toEqual(['application/vnd.oasis.opendocument.spreadsheet', 'text/csv']);
    const told = readFileSync(list(), 'utf8');
    expect(told).toContain('text/csv=sums.desktop;tide.desktop;');
    expect(told).toContain('# by hand');
    expect((await rellin.get('/programs/suited', { mime: 'text/csv' }))[0]!.id).toBe('sums.desktop');
    await undo();
    const back = readFileSync(list(), 'utf8');
    expect(back).toContain('text/csv=tide.desktop;');
    expect(back).not.toContain('opendocument');
    expect(back.split('\n').length).toBe(before.split('\n').length);
    await redo();
    expect(readFileSync(list(), 'utf8')).toContain('spreadsheet=sums.desktop;');
    const none = await rellin.refusal(
      rellin.post('/programs/tell-system', { kind: 'sound', programId: 'sums.desktop' }),
    );
    expect(none.problem.detail).toContain('does not say');
  });

  it('makes the user’s list where there is none', async () => {
    const other = await Rellin.make({}, (r) => {
      mkdirSync(join(r.base, 'system/applications'), { recursive: true });
      writeFileSync(
        join(r.base, 'system/applications/q.desktop'),
        '[Desktop Entry]\nType=Application\nName=Q\nExec=q %f\nMimeType=text/plain;\n',
      );
    });
    const own = join(other.base, 'config/mimeapps.list');
    expect(existsSync(own)).toBe(false);
    await other.post('/programs/tell-system', { kind: 'text', programId: 'q.desktop' });
    expect(readFileSync(own, 'utf8')).toBe('[Default Applications]\ntext/plain=q.desktop;\n');
    // somebody keeps it elsewhere, and a link in its place: that stays, and what it leads to is written
    const kept = join(other.base, 'kept elsewhere.list');
    renameSync(own, kept);
    symlinkSync(kept, own);
    await other.post('/journal/undo');
    expect(readFileSync(kept, 'utf8')).not.toContain('q.desktop');
    expect(readlinkSync(own)).toBe(kept);
    await other.remove();
  });
});

describe('several pins, and where it opens', () => {
  it('pins several in one act, or none where the strip has no room', async () => {
    const ids: string[] = [];
    for (const name of ['p1', 'p2', 'p3']) ids.push((await rellin.add(rellin.write(`${name}.txt`))).id);
    await rellin.post('/pins/many', { targetIds: ids });
    expect((await rellin.pins()).map((p) => p.name).slice(-3)).toEqual(['p1', 'p2', 'p3']);
    await undo();
    expect((await rellin.pins()).map((p) => p.name)).not.toContain('p2');
    await rellin.call('PATCH', '/settings', { pinLimit: 2 });
    const refused = await rellin.refusal(rellin.post('/pins/many', { targetIds: ids }));
    expect(refused.problem.detail).toContain('none was');
    expect(await rellin.pins()).toEqual([]);
    await undo();
  });

  it('remembers how the page was left without a line in the journal; the start folder is an act', async () => {
    const lines = (await rellin.get('/journal', { limit: 200 })).length;
    const columns = [{ id: 'name' }, { id: 'size', width: 80 }];
    await rellin.call('PATCH', '/settings', { catalogueColumns: columns, catalogueShape: 'large-tiles' });
    expect(await rellin.get('/settings')).toMatchObject({
      catalogueColumns: columns,
      catalogueShape: 'large-tiles',
    });
    expect((await rellin.get('/journal', { limit: 200 })).length).toBe(lines);
    await rellin.call('PATCH', '/settings', { startFolder: { placeId: 1, originalId: 1 } });
    expect((await rellin.get('/settings')).startFolder).toEqual({ placeId: 1, originalId: 1 });
    await undo();
    expect((await rellin.get('/settings')).startFolder).toBeNull();
    const bad = await rellin.refusal(rellin.send('PATCH', '/settings', { catalogueShape: 'spiral' }));
    expect(bad.problem.status).toBe(400);
  });

  it('a collection from a folder may take its programs only', async () => {
    rellin.write('mixed/tool.desktop', '[Desktop Entry]\nType=Application\nName=T\nExec=t\n');
    rellin.write('mixed/plain.txt');
    mkdirSync(join(rellin.place, 'mixed/below'));
    const located = await rellin.post('/originals/locate', {
      path: join(rellin.place, 'mixed'),
    });
    const from = { placeId: located.placeId, originalId: located.folderId };
    const count = async (only: FolderSource['only'] & string) =>
      (await rellin.post('/collections', { name: only, fromFolder: { ...from, only } })).count;
    expect([await count('programs'), await count('files'), await count('folders'), await count('all')]).toEqual([
      1, 2, 1, 3,
    ]);
  });
});
