/** Folders that are renamed and moved around published collections, at the worst moment: no member may leave by it. */
import { existsSync, mkdirSync, readdirSync, readlinkSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { CollectionView } from '@rellin/contract';
import { seeded } from '@rellin/core/random';
import { Rellin, until } from './testing/harness.js';

const HISTORIES = Number(process.env['RELLIN_TEST_HISTORIES'] ?? 6);
const MEMBERS = 6;

let rellin: Rellin;
let collection: CollectionView;
let shortcuts: string[];
beforeAll(async () => {
  rellin = await Rellin.make({ places: ['place', 'other'] }, (r) => {
    for (let i = 0; i < MEMBERS; i++) r.write(`originals/file ${i}.txt`, `${i}`);
  });
  await rellin.settled();
  shortcuts = [];
  for (let i = 0; i < MEMBERS; i++) shortcuts.push((await rellin.add(at(`originals/file ${i}.txt`))).id);
  const inner = await rellin.post('/collections', {
    name: 'Inner',
    shortcutIds: shortcuts.slice(0, 2),
  });
  collection = await rellin.post('/collections', { name: 'Targets', shortcutIds: shortcuts });
  await rellin.post(`/collections/${collection.id}/members`, { collectionIds: [inner.id] });
});
afterAll(() => rellin?.remove());

const at = (path: string) => join(rellin.place, path);
const order = async () => (await rellin.get(`/collections/${collection.id}/members`)).members.map((m) => m.id);
const publications = () => rellin.get('/aliases/publications');
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
/** Links of a folder and what lies in it that lead where they should. */
function whole(folder: string): boolean {
  if (!existsSync(folder)) return false;
  const names = readdirSync(folder);
  const links = names.filter((n) => n !== 'Inner');
  const leads = (f: string, n: string) => existsSync(resolve(f, readlinkSync(join(f, n))));
  return (
    links.length === MEMBERS &&
    links.every((n) => leads(folder, n)) &&
    names.includes('Inner') &&
    readdirSync(join(folder, 'Inner')).filter((n) => leads(join(folder, 'Inner'), n)).length === 2
  );
}

describe('folders around a published collection', () => {
  it.each(Array.from({ length: HISTORIES }, (_, i) => i + 1))(
    'are renamed at random (history %i)',
    async (seed) => {
      const before = await order();
      const random = seeded(seed);
      // top/middle/Targets: each of the three gets other names, goes elsewhere, and has its old name taken by a new
      // folder
      let top = at(`top ${seed}`);
      let middle = join(top, 'middle');
      mkdirSync(middle, { recursive: true });
      const made = await until(
        () =>
          rellin
            .post('/aliases/publications', {
              source: 'collection',
              sourceId: collection.id,
              folder: middle,
            })
            .catch(() => undefined),
        (p) => p !== undefined,
      );
      let folder = made!.path!;
      await until(
        () => whole(folder),
        (is) => is,
      );
      const trail: string[] = [];
      for (let step = 0; step < 8; step++) {
        const taken = random.next() < 0.3;
        const old = [top, middle, folder];
        const which = random.int(0, 3);
        if (which === 0) top = at(`top ${seed} ${step}`);
        else if (which === 1) middle = join(top, `middle ${step}`);
        else if (which === 2) folder = join(middle, `named ${step}`);
        else folder = join(random.int(0, 1) ? at('.') : join(rellin.base, 'other'), `moved ${seed} ${step}`);
        const from = old[Math.min(which, 2)]!;
        const to = [top, middle, folder][Math.min(which, 2)]!;
        renameSync(from, to);
        if (which === 0) {
          if (middle.startsWith(`${from}/`)) middle = to + middle.slice(from.length);
          if (folder.startsWith(`${from}/`)) folder = to + folder.slice(from.length);
        } else if (which === 1 && folder.startsWith(`${from}/`)) folder = to + folder.slice(from.length);
        if (taken) {
          mkdirSync(from);
          writeFileSync(join(from, 'another.txt'), '');
        }
        trail.push(`${from.slice(rellin.base.length)} → ${to.slice(rellin.base.length)}${taken ? ', taken' : ''}`);
        const wait = random.int(0, 3) === 0 ? random.int(0, 1500) : random.int(0, 200);
        trail.push(`${wait} ms`);
        await pause(wait);
      }
      const trouble = (error: Error) => {
        throw new Error(`${trail.join('\n')}\n${folder}: ${readdirSync(folder).join(', ')}\n${error.message}`);
      };
      await until(
        () => whole(folder),
        (is) => is,
      ).catch(trouble);
      await until(publications, (all) => all.find((p) => p.id === made!.id)?.path === folder).catch(trouble);
      expect(await order()).toEqual(before);
      const left = (await rellin.get('/journal')).filter((l) => l.act === 'remove-members');
      expect({ left: left.map((l) => l.summary), trail }).toEqual({ left: [], trail });
      // nor does a second one stand anywhere
      const links = readdirSync(rellin.base, { recursive: true, withFileTypes: true }).filter((e) =>
        e.isSymbolicLink(),
      );
      expect(links.filter((e) => e.parentPath.includes(` ${seed}`)).length).toBe(MEMBERS + 2);
      await rellin.call('DELETE', `/aliases/publications/${made!.id}`);
      rmSync(top, { recursive: true });
    },
    60_000,
  );
});
