/** Browsing: all of a place, names of folders outside of places, nothing of the system or of Rellin itself. */
import { chmodSync, mkdirSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { BOUND_BY_PERMISSIONS, Refused, Rellin } from './testing/harness.js';

let rellin: Rellin;
const at = (path: string) => join(rellin.base, path);
beforeAll(async () => {
  rellin = await Rellin.make({ command: BOUND_BY_PERMISSIONS }, (r) => {
    const inside = (path: string) => join(r.place, path);
    mkdirSync(inside('Survey/2026'), { recursive: true });
    writeFileSync(inside('Survey/tides.csv'), 'x');
    writeFileSync(inside('.hidden.txt'), 'x');
    mkdirSync(join(r.base, 'elsewhere/Deep'), { recursive: true });
    mkdirSync(join(r.base, 'elsewhere/.secret'));
    mkdirSync(join(r.base, 'elsewhere/shut/in it'), { recursive: true });
    writeFileSync(join(r.base, 'elsewhere/private.txt'), 'x');
    symlinkSync('Deep', join(r.base, 'elsewhere/way'));
    symlinkSync(r.data, join(r.base, 'elsewhere/trick'));
    chmodSync(join(r.base, 'elsewhere/shut'), 0o000);
  });
});
afterAll(async () => {
  chmodSync(at('elsewhere/shut'), 0o700);
  await rellin.remove();
});

const names = async (path: string, hidden?: boolean) =>
  (await rellin.get('/choose/folder', { path, hidden })).entries.map((e) => e.name);

describe('browsing', () => {
  it('lists all that lies in a place, folders first, hidden ones where they are asked for', async () => {
    const view = await rellin.get('/choose/folder', { path: join(rellin.place, 'Survey') });
    expect(view.entries.map((e) => [e.name, e.type, e.kind])).toEqual([
      ['2026', 'folder', 'folder'],
      ['tides.csv', 'file', 'table'],
    ]);
    expect(view.placeId).not.toBeNull();
    expect(view.trail.at(-1)).toEqual({ name: 'Survey', path: join(rellin.place, 'Survey') });
    expect(view.trail[0]).toEqual({ name: '/', path: '/' });
    expect(await names(rellin.place)).toEqual(['Survey']);
    expect(await names(rellin.place, true)).toEqual(['Survey', '.hidden.txt']);
  });

  it('shows the folder of a file', async () => {
    expect(await names(join(rellin.place, 'Survey/tides.csv'))).toEqual(['2026', 'tides.csv']);
  });

  it('tells only folders outside the places, and no more of them than their names', async () => {
    const view = await rellin.get('/choose/folder', { path: at('elsewhere') });
    expect(view.placeId).toBeNull();
    expect(view.entries.map((e) => e.name)).toEqual(['Deep', 'shut', 'way']);
    for (const { size, modified, originalId } of view.entries)
      expect([size, modified, originalId]).toEqual([null, null, null]);
    expect(view.hidden).toBe(1);
    expect(await names(at('elsewhere'), true)).toEqual(['.secret', 'Deep', 'shut', 'way']);
  });

  it('says what stands against it, and lists nothing of the system’s or of Rellin’s own', async () => {
    const trouble = async (path: string) => (await rellin.get('/choose/folder', { path })).trouble;
    expect(await trouble(at('elsewhere/shut'))).toBe('Rellin may not read it.');
    expect(await trouble(at('elsewhere/nowhere'))).toBe('It is not there.');
    expect(await trouble(at('elsewhere/private.txt'))).toBe('It is not a folder.');
    expect(await trouble('/proc')).toMatch(/belongs to the system/);
    expect(await trouble('/proc/self/fd')).toMatch(/belongs to the system/);
    expect(await trouble(rellin.data)).toMatch(/Rellin itself/);
    expect(await trouble(join(at('elsewhere/trick')))).not.toBeNull();
    await expect(rellin.get('/choose/folder', { path: 'file://elsewhere/x' })).rejects.toBeInstanceOf(Refused);
  });

  it('begins at the home folder, and with what was opened last', async () => {
    const { id } = await rellin.add(join(rellin.place, 'Survey/tides.csv'));
    await rellin.open(id);
    const starts = await rellin.get('/choose/starts');
    expect(starts.home).toBe(rellin.base);
    expect(starts.folders.map((f) => f.origin)).toEqual(['home']);
    expect(starts.recent).toEqual([join(rellin.place, 'Survey')]);
    expect((await rellin.get('/choose/folder', { path: '' })).path).toBe(rellin.base);
  });
});
