/**
 * Places that come and go: known again by what they are, not by the path at which they appear. Real mounts where
 * allowed.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, renameSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { PlaceView, ShortcutDetail } from '@rellin/contract';
import { Rellin, until } from './testing/harness.js';
import { CAN_MOVE_MOUNT } from './testing/mounts.js';

let rellin: Rellin;
const media = () => join(rellin.base, 'media');
const mount = (...args: string[]) => execFileSync('mount', args);

beforeAll(async () => {
  rellin = await Rellin.make();
});
afterAll(async () => {
  await rellin.stop();
  if (CAN_MOVE_MOUNT) for (const name of ['drive', 'drive 1']) spawnSync('umount', [join(media(), name)]);
  await rellin.remove();
});

const place = async (name: string) => (await rellin.get('/places')).find((p) => p.name === name)!;
const state = (name: string, wanted: PlaceView['state']) =>
  until(
    () => place(name),
    (p) => p.state === wanted && (wanted === 'away' || (p.scan === 'done' && p.watching !== 'off')),
  );
const inState = (id: string, wanted: ShortcutDetail['state']) =>
  until(
    () => rellin.shortcut(id),
    (s) => s.state === wanted,
  );
function fill(root: string): void {
  for (const path of ['Tracks/one.gpx', 'Tracks/two.gpx', 'Takes/cliff.wav', 'list.txt']) {
    mkdirSync(join(root, path, '..'), { recursive: true });
    writeFileSync(join(root, path), `what ${path} holds`);
  }
}

describe('a drive', () => {
  it('that appears under another path is the same place: its shortcuts are ready, what moved meanwhile followed', async () => {
    const root = join(media(), 'walks');
    fill(root);
    await rellin.post('/places', { root, name: 'walks', type: 'removable' });
    await state('walks', 'here');
    const [one, two] = [await rellin.add(join(root, 'Tracks/one.gpx')), await rellin.add(join(root, 'Tracks/two.gpx'))];
    const away = join(rellin.base, 'pulled');
    renameSync(root, away);
    expect((await inState(one.id, 'away')).stateReason).toContain('walks is away');
    renameSync(join(away, 'Tracks/two.gpx'), join(away, 'Tracks/second.gpx'));
    renameSync(away, join(media(), 'walks 1'));
    expect(await inState(one.id, 'ready')).toMatchObject({ location: join(media(), 'walks 1/Tracks/one.gpx') });
    expect(await inState(two.id, 'followed')).toMatchObject({ location: join(media(), 'walks 1/Tracks/second.gpx') });
    expect((await place('walks')).root).toBe(join(media(), 'walks 1'));
    const lines = await rellin.get('/journal');
    expect(lines.find((l) => l.act === 'place-moved')).toMatchObject({ by: 'automatic', inStack: false });
  });

  it('is not taken for another with some of the same names', async () => {
    const root = join(media(), 'walks 1');
    renameSync(root, join(rellin.base, 'pulled'));
    await state('walks', 'away');
    // the same names, other files
    const other = join(media(), 'walks 2');
    for (const path of ['Tracks/one.gpx', 'Tracks/second.gpx', 'Takes/cliff.wav', 'list.txt']) {
      mkdirSync(join(other, path, '..'), { recursive: true });
      writeFileSync(join(other, path), 'another drive of the same maker');
    }
    // a backup: the same in everything but the files themselves
    cpSync(join(rellin.base, 'pulled'), join(media(), 'walks backup'), { recursive: true, preserveTimestamps: true });
    const mark = rellin.write('mark.txt');
    await until(() => rellin.post('/originals/locate', { path: mark }).then(Boolean, () => false), Boolean);
    // it was looked for since the two were there: another place is found by the same look
    const found = join(media(), 'kept');
    fill(found);
    await rellin.post('/places', { root: found, name: 'kept', type: 'removable' });
    await state('kept', 'here');
    renameSync(found, `${found} elsewhere`);
    await until(
      () => place('kept'),
      (p) => p.root === `${found} elsewhere`,
    );
    expect(await place('walks')).toMatchObject({ state: 'away', root });
    renameSync(join(rellin.base, 'pulled'), root);
    await state('walks', 'here');
  });

  (CAN_MOVE_MOUNT ? it : it.skip)('mounted elsewhere, by a real mount', async () => {
    const root = join(media(), 'drive');
    mkdirSync(root, { recursive: true });
    mkdirSync(join(media(), 'drive 1'));
    mount('-t', 'tmpfs', 'none', root);
    fill(root);
    await rellin.post('/places', { root, name: 'drive', type: 'removable' });
    await state('drive', 'here');
    const made = await rellin.add(join(root, 'Takes/cliff.wav'));
    // the mount moves, as one that was pulled and plugged in again
    mount('--move', root, join(media(), 'drive 1'));
    const s = await until(
      () => rellin.shortcut(made.id),
      (x) => x.location.includes('drive 1') && x.state === 'ready',
    );
    expect(s.location).toBe(join(media(), 'drive 1/Takes/cliff.wav'));
    await state('drive', 'here');
    expect((await rellin.open(made.id)).preview?.kind).toBe('sound');
    expect(spawnSync('umount', [join(media(), 'drive 1')]).stderr.toString()).toBe('');
    expect((await inState(made.id, 'away')).stateReason).toContain('nothing is connected at its folder');
  });
});

describe('a home folder', () => {
  it('leaves out what programs keep for themselves; hidden files are indexed, and listed only where asked for', async () => {
    const r = await Rellin.make(
      { env: (made) => ({ RELLIN_PLACES: JSON.stringify([{ name: 'home', root: made.base, type: 'fixed' }]) }) },
      (made) => {
        for (const path of [
          '.cache/c',
          '.local/state/s',
          '.local/share/Trash/files/t',
          '.xsession-errors',
          '.profile',
          'seen',
        ])
          for (const root of [made.base, join(made.base, 'below')]) {
            mkdirSync(join(root, path, '..'), { recursive: true });
            writeFileSync(join(root, path), 'x');
          }
      },
    );
    try {
      const [home] = await r.get('/places');
      expect(home!.alwaysExcluded).toEqual(expect.arrayContaining(['node_modules/', '/.local/state/']));
      expect(home!.slowed).toEqual([]);
      const known = (await r.sql(
        `SELECT name FROM original WHERE name IN ('c', 's', 't', '.xsession-errors', '.profile')`,
      )) as {
        name: string;
      }[];
      // those of the home itself are out, those of a folder that is none are in, but for caches
      expect(known.map((k) => k.name).sort()).toEqual(['.profile', '.profile', '.xsession-errors', 's', 't']);
      const list = async () => {
        const { entries, hidden } = await r.get(`/originals/${home!.id}/folder/1`, { limit: 200 });
        return { names: entries.map((e) => e.name).filter((n) => n.startsWith('.')), hidden };
      };
      expect(await list()).toEqual({ names: [], hidden: 2 });
      const lines = (await r.get('/journal', { limit: 50 })).length;
      await r.call('PATCH', '/settings', { showHidden: true });
      expect(await list()).toEqual({ names: ['.local', '.profile'], hidden: 0 });
      // how a list is shown is no act
      expect((await r.get('/journal', { limit: 50 })).length).toBe(lines);
      await r.call('PATCH', '/settings', { showHidden: false });
      // whoever is led to one sees it
      const at = await r.post('/originals/locate', { path: join(r.base, '.profile') });
      const led = await r.get(`/originals/${home!.id}/folder/1`, { at: at.originalId, limit: 200 });
      expect(led.entries[led.atIndex!]!.name).toBe('.profile');
    } finally {
      await r.remove();
    }
  });
});

describe('a folder to be added', () => {
  it('is completed from folders anywhere, and from nothing else', async () => {
    const rellin = await Rellin.make();
    try {
      const at = join(rellin.base, 'outside');
      for (const name of ['Tides', 'Tide maps', 'nets', '.hidden']) mkdirSync(join(at, name), { recursive: true });
      writeFileSync(join(at, 'tide table.csv'), 'no folder');
      symlinkSync(join(at, 'nets'), join(at, 'to the nets'));
      const complete = (path: string) => rellin.get('/places/complete', { path });
      expect(await complete(`${at}/ti`)).toEqual([`${at}/Tide maps/`, `${at}/Tides/`]);
      expect(await complete(`${at}/`)).toEqual(['nets', 'Tide maps', 'Tides', 'to the nets'].map((n) => `${at}/${n}/`));
      expect(await complete(`${at}/.h`)).toEqual([`${at}/.hidden/`]);
      // the home folder of this server is its base
      expect(await complete('~/outs')).toEqual([`${at}/`]);
      expect(await complete('outs')).toEqual([`${at}/`]);
      for (const none of [
        `${at}/nothing/x`,
        `${at}/tide table.csv/`,
        `${rellin.data}/`,
        '/proc/',
        '',
        'file://elsewhere/x',
      ])
        expect(await complete(none)).toEqual(none === '' ? await complete('~/') : []);
    } finally {
      await rellin.remove();
    }
  });
});

describe('opening what is away', () => {
  it('connects the stand-in first; what cannot be connected is told', async () => {
    const store = join(rellin.base, 'unplugged');
    const root = join(rellin.base, 'stand-in');
    fill(root);
    await rellin.post('/places', { root, name: 'stand-in', type: 'removable' });
    await state('stand-in', 'here');
    await rellin.sql(`UPDATE place SET stand_in_store = $1 WHERE name = 'stand-in'`, [store]);
    await rellin.stop();
    await rellin.start();
    const made = await rellin.add(join(root, 'list.txt'));
    await rellin.post(`/places/${(await place('stand-in')).id}/disconnect`);
    await inState(made.id, 'away');
    expect(await rellin.open(made.id)).toMatchObject({ preview: { kind: 'text' } });
    expect((await place('stand-in')).state).toBe('here');
    await rellin.post(`/places/${(await place('stand-in')).id}/disconnect`);
    rmSync(store, { recursive: true });
    await inState(made.id, 'away');
    const refused = await rellin.refusal(rellin.open(made.id));
    expect(refused).toMatchObject({ kind: 'original-away' });
    expect(refused.problem.remedy).toContain('could not connect');
  });
});
