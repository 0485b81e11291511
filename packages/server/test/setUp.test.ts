/** The first steps: what is found on a machine, and all of what was chosen made in one act. */
import { mkdirSync, renameSync, symlinkSync, unlinkSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { afterEach, describe, expect, it } from '@jest/globals';
import { toFileUri } from '@rellin/core/paths';
import type { SetUpView } from '@rellin/contract';
import { Rellin, until, Refused } from './testing/harness.js';

const DAY = 86_400_000;
let rellin: Rellin | undefined;
afterEach(() => rellin?.remove());

/** A home folder as desktops leave one. */
function home(rellin: Rellin) {
  const at = (path: string) => join(rellin.base, path);
  const write = (path: string, text = path) => {
    mkdirSync(dirname(at(path)), { recursive: true });
    writeFileSync(at(path), text);
    return at(path);
  };
  return { at, write };
}

interface Listed {
  path: string;
  program?: string;
  days: number;
  since?: number;
  times?: number;
}

const recentList = (files: readonly Listed[]) => `<?xml version="1.0" encoding="UTF-8"?>
<xbel version="1.0" xmlns:bookmark="http://www.freedesktop.org/standards/desktop-bookmarks">${files
  .map(({ path, program = 'Reader', days, since = days, times = 1 }) => {
    const at = (n: number) => new Date(Date.now() - n * DAY).toISOString();
    return `<bookmark href="${toFileUri(path)}" added="${at(since)}" modified="${at(days)}"><info>
      <metadata owner="http://freedesktop.org"><bookmark:applications>
      <bookmark:application name="${program}" exec="&apos;reader %u&apos;" modified="${at(days)}" count="${times}"/>
      </bookmark:applications></metadata></info></bookmark>`;
  })
  .join('')}</xbel>`;

const program = (name: string, exec: string, more = '') =>
  `[Desktop Entry]\nType=Application\nName=${name}\nExec=${exec} %u\n${more}`;

/** A home with documents and pictures, a cluttered desktop folder, and traces of use. */
function fill(rellin: Rellin) {
  const { at, write } = home(rellin);
  write(
    'config/user-dirs.dirs',
    ['DESKTOP', 'DOCUMENTS', 'PICTURES', 'MUSIC']
      .map((name) => `XDG_${name}_DIR="$HOME/${name[0]}${name.slice(1).toLowerCase()}"`)
      .join('\n'),
  );
  const tides = write('Documents/Survey/tides.csv');
  const diary = write('Documents/Survey/diary.md');
  const once = write('Documents/once.txt');
  const map = write('Pictures/map.png');
  write('system/applications/reader.desktop', program('Reader', 'reader', 'MimeType=text/csv;\n'));
  write('system/applications/painter.desktop', program('Painter', 'painter', 'MimeType=image/png;\n'));
  write('config/mimeapps.list', '[Default Applications]\nimage/png=painter.desktop\n');
  write('Desktop/Station.desktop', '[Desktop Entry]\nType=Link\nName=Station\nURL=https://station.example/\n');
  write('Desktop/painter.desktop', program('Painter', 'painter'));
  write('Desktop/note.txt');
  symlinkSync('../Work/plan.odt', at('Desktop/plan'));
  const plan = write('Work/plan.odt');
  write('config/gtk-3.0/bookmarks', `${toFileUri(at('Documents/Survey'))} Survey\n${toFileUri(at('gone'))}\n`);
  write(
    'share/recently-used.xbel',
    recentList([
      { path: tides, days: 0.2, since: 30, times: 60 },
      { path: diary, days: 1, since: 20, times: 12 },
      { path: once, days: 40 },
      { path: map, days: 2, since: 14, times: 6, program: 'Painter' },
      { path: at('.cache/thumb.png'), days: 0.1, times: 90 },
      { path: at('Documents/deleted.txt'), days: 0.1, times: 90 },
    ]),
  );
  return { tides, diary, once, map, plan, survey: at('Documents/Survey') };
}

const make = (prepare?: (rellin: Rellin) => void) =>
  Rellin.make({ places: ['unused'], env: () => ({ RELLIN_PLACES: '[]' }) }, prepare);
const named = (view: SetUpView, name: string) => view.things.find((thing) => thing.name === name);

describe('the first steps', () => {
  it('offer folders and what is used, the likeliest first, each with where that was found', async () => {
    let paths!: ReturnType<typeof fill>;
    rellin = await make((r) => (paths = fill(r)));
    const view = await rellin.get('/set-up');
    expect(view.trouble).toEqual([]);
    expect(view.folders.map(({ name, origin, proposed }) => [name, origin, proposed])).toEqual([
      ['Desktop', 'standard', true],
      ['Documents', 'standard', true],
      ['Pictures', 'standard', true],
      [expect.any(String), 'home', false],
      ['Work', 'used', true],
    ]);
    // a program counts what was opened with it, also what is not there any more
    const first = view.things.find((thing) => thing.kind !== 'program');
    expect(first).toMatchObject({ name: 'tides', kind: 'table', location: paths.tides, sources: ['recent'] });
    expect(named(view, 'Survey')).toMatchObject({ sources: ['bookmark'], kind: 'folder', proposed: true });
    expect(named(view, 'plan')).toMatchObject({ location: paths.plan, sources: ['desktop'], kind: 'document' });
    expect(named(view, 'Station')).toMatchObject({ kind: 'web', location: 'https://station.example/' });
    expect(named(view, 'Painter')).toMatchObject({ kind: 'program', sources: ['recent', 'desktop', 'program'] });
    expect(named(view, 'Reader')!.sources).toEqual(['recent']);
    expect(named(view, 'once')!.perWeek).toBeLessThan(named(view, 'diary')!.perWeek);
    for (const name of ['thumb', 'deleted', 'gone', 'note']) expect(named(view, name)).toBeUndefined();
    expect(await rellin.get('/set-up/count', { path: rellin.base + '/Documents' })).toEqual({
      entries: 4,
      isAll: true,
      trouble: null,
    });
  });

  it('make all of what was chosen in one act, which one undo takes back and one redo does again', async () => {
    rellin = await make((r) => void fill(r));
    const view = await rellin.get('/set-up');
    const request = {
      folders: view.folders.filter((f) => f.proposed).map((f) => f.path),
      things: view.things.filter((t) => t.proposed).map((t) => t.key),
      addresses: [{ url: 'https://tides.example/table', name: 'Tide table' }],
      way: 'rows' as const,
    };
    const done = await rellin.post('/set-up', request);
    expect(done).toMatchObject({ places: 4, notMade: [], boardId: null });
    await rellin.settled();
    const all = await until(
      () => rellin!.get('/shortcuts'),
      (list) => list.filter((s) => s.target === 'original').every((s) => s.originalId !== null),
    );
    expect(all).toHaveLength(done.shortcuts);
    expect(all.every((s) => s.state === 'ready')).toBe(true);
    const pins = await rellin.get('/pins');
    expect(pins).toHaveLength(Math.min(9, done.pins));
    expect(pins.map((p) => p.name).filter((name) => name !== 'Reader')[0]).toBe('tides');
    const [collection] = await rellin.get('/collections');
    expect(collection!.id).toBe(done.collectionId);
    const { members } = await rellin.get(`/collections/${collection!.id}/members`);
    const nameOf = new Map(all.map((s) => [s.id, s.name]));
    expect(members.map((m) => nameOf.get(m.itemId)).sort()).toEqual([
      'Desktop',
      'Documents',
      'Pictures',
      'Survey',
      'Work',
    ]);
    expect((await rellin.get('/settings')).setUp).toBe('done');
    // what was opened before there was a place counts from now on
    const opened = await until(
      () => rellin!.get('/shortcuts'),
      (list) => (list.find((s) => s.name === 'tides')?.weight ?? 0) > 0,
    );
    expect(opened.find((s) => s.name === 'tides')!.lastOpenedAt).not.toBeNull();
    await rellin.open(all.find((s) => s.name === 'tides')!.id);

    await rellin.post('/journal/undo');
    for (const path of ['/shortcuts', '/pins', '/collections'] as const) expect(await rellin.get(path)).toEqual([]);
    // a moment later they are no longer looked into
    await until(
      () => rellin!.get('/places'),
      (places) => places.length === 0,
    );
    expect((await rellin.get('/settings')).setUp).toBe('open');
    await rellin.post('/journal/redo');
    await until(
      () => rellin!.get('/places'),
      (places) => places.length === 4,
    );
    await rellin.settled();
    const again = await until(
      () => rellin!.get('/shortcuts'),
      (list) => list.every((s) => s.state === 'ready'),
    );
    expect(again.map((s) => s.name).sort()).toEqual(all.map((s) => s.name).sort());
  });

  it('lay a board by task where that is how somebody works', async () => {
    rellin = await make((r) => void fill(r));
    const view = await rellin.get('/set-up');
    const { boardId } = await rellin.post('/set-up', {
      folders: view.folders.filter((f) => f.proposed).map((f) => f.path),
      things: view.things.map((t) => t.key),
      way: 'board',
    });
    const layout = await rellin.get(`/boards/${boardId}`);
    expect(layout.regions.map((r) => r.name).sort()).toEqual(['Anything', 'Folders', 'Programs', 'Survey', 'Web']);
    expect(layout.regions.at(-1)!.name).toBe('Anything');
    const spots = layout.items.map((i) => `${i.regionId} ${i.x} ${i.y}`);
    expect(new Set(spots).size).toBe(spots.length);
    expect((await rellin.get('/settings')).startView).toBe('boards');
  });

  it('make nothing twice where two windows set up at once, and offer no more what is there', async () => {
    rellin = await make((r) => void fill(r));
    const view = await rellin.get('/set-up');
    const request = {
      folders: view.folders.filter((f) => f.proposed).map((f) => f.path),
      things: view.things.map((t) => t.key),
      way: 'rows' as const,
    };
    const both = await Promise.all([rellin.post('/set-up', request), rellin.post('/set-up', request)]);
    expect(both.map((d) => d.places).sort()).toEqual([0, 4]);
    const places = await rellin.get('/places');
    expect(new Set(places.map((p) => p.root)).size).toBe(places.length);
    const keys = (await rellin.get('/shortcuts')).map((s) => `${s.target} ${s.location}`);
    expect(new Set(keys).size).toBe(keys.length);
    await rellin.settled();
    const after = await rellin.get('/set-up');
    expect(after.things.filter((t) => t.proposed)).toEqual([]);
    expect(after.folders.filter((f) => f.proposed && f.placeId === null)).toEqual([]);
  });

  it('say what could not be made, and make the rest', async () => {
    let paths!: ReturnType<typeof fill>;
    rellin = await make((r) => {
      paths = fill(r);
      // so many that reading them takes longer than the first opening
      for (let i = 0; i < 4000; i++) writeFileSync(join(r.base, 'Documents', `scan ${i}.txt`), '');
    });
    const view = await rellin.get('/set-up');
    // between offer and press one goes, and another is saved anew
    unlinkSync(paths.diary);
    writeFileSync(`${paths.tides}.new`, 'saved again');
    renameSync(`${paths.tides}.new`, paths.tides);
    const done = await rellin.post('/set-up', {
      folders: [`${rellin.base}/Documents`, `${rellin.base}/nowhere`, rellin.data],
      things: [...['tides', 'diary', 'map'].map((name) => named(view, name)!.key), 'path /etc/passwd'],
      addresses: [{ url: 'javascript:alert(1)', name: 'Trick' }],
      way: 'rows',
    });
    expect(done.notMade.map((n) => n.name).sort()).toEqual(
      [`${rellin.base}/nowhere`, '/etc/passwd', paths.diary, 'Trick', 'map', rellin.data].sort(),
    );
    expect((await rellin.get('/shortcuts')).map((s) => s.name).sort()).toEqual(['Documents', 'tides']);
    const tides = () => rellin!.get('/shortcuts').then((all) => all.find((s) => s.name === 'tides')!);
    expect((await tides()).location).toBe(paths.tides);
    // opened while its folder is still being read
    expect(await rellin.open((await tides()).id)).toMatchObject({ notice: null });
    await rellin.settled();
    expect(await until(tides, (s) => s.originalId !== null)).toMatchObject({ state: 'ready', location: paths.tides });
  });

  it('find nothing on a bare machine, and say so', async () => {
    rellin = await make();
    const view = await rellin.get('/set-up');
    expect(view.things).toEqual([]);
    expect(view.folders.map((f) => f.origin)).toEqual(['home']);
    const done = await rellin.post('/set-up', { folders: [], things: [], way: 'rows' });
    expect(done).toMatchObject({ places: 0, shortcuts: 0, pins: 0, collectionId: null });
  });

  it.each([
    ['damaged', (): string => '<xbel><bookmark', /damaged/],
    ['too large', (): string => `<xbel>${' '.repeat(33_000_000)}</xbel>`, /larger than 32 MB/],
  ])('say where the list of recent files is %s, and find the rest', async (_, text, words) => {
    rellin = await make((r) => {
      fill(r);
      writeFileSync(join(r.base, 'share/recently-used.xbel'), text());
    });
    const view = await rellin.get('/set-up');
    expect(view.trouble.join()).toMatch(words);
    expect(named(view, 'Survey')).toBeDefined();
  });

  it('take ten thousand recent files within a moment, and standard folders that all point at home', async () => {
    rellin = await make((r) => {
      const { write, at } = home(r);
      write(
        'config/user-dirs.dirs',
        'XDG_DESKTOP_DIR="$HOME/"\nXDG_DOCUMENTS_DIR="$HOME"\nXDG_MUSIC_DIR="$HOME/gone"\n',
      );
      const list = Array.from({ length: 10_000 }, (_, i) => ({
        path: i < 200 ? write(`kept/${i}.txt`) : at(`gone/${i}.txt`),
        days: (i % 300) / 10,
        since: 40,
        times: (i % 7) + 1,
      }));
      write('share/recently-used.xbel', recentList(list));
    });
    const view = await rellin.get('/set-up');
    expect(view.folders.map((f) => [f.origin, f.proposed])).toEqual([
      ['home', true],
      ['used', true],
    ]);
    expect(view.things.length).toBeLessThanOrEqual(120);
    expect(view.things.filter((t) => t.proposed).length).toBeLessThanOrEqual(30);
  });

  it('refuse what is no request, and whoever is not signed in', async () => {
    rellin = await make();
    const refused = rellin.post('/set-up', { folders: [], things: [], way: 'sideways' as never });
    await expect(refused).rejects.toBeInstanceOf(Refused);
    expect((await fetch(`${rellin.address}/api/set-up`)).status).toBe(401);
    await expect(rellin.get('/set-up/count', { path: 'relative' })).rejects.toBeInstanceOf(Refused);
    // what the kernel shows of itself, and Rellin's own, is not gone through
    for (const path of ['/proc', rellin.data]) {
      const counted = await rellin.get('/set-up/count', { path });
      expect(counted.entries).toBe(0);
      expect(counted.trouble).not.toBeNull();
    }
  });
});
