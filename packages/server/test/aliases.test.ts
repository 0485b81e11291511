/** Aliases and publications: real links on a real file system, kept in step both ways. */
import { execFileSync } from 'node:child_process';
import {
  existsSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  renameSync,
  rmSync,
  symlinkSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  AliasView,
  CollectionView,
  FoundLinksView,
  OriginalRef,
  PublicationView,
  ShortcutDetail,
} from '@rellin/contract';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({ places: ['place', 'drive'] }, (r) => {
    mkdirSync(join(r.base, 'share/applications'), { recursive: true });
    writeFileSync(
      join(r.base, 'share/applications/chartroom.desktop'),
      '[Desktop Entry]\nType=Application\nName=Chartroom\nExec=chartroom %f\nIcon=chartroom\n',
    );
  });
});
afterAll(() => rellin.remove());

const at = (path: string) => join(rellin.place, path);
const aliases = () => rellin.get('/aliases');
const publications = () => rellin.get('/aliases/publications');
const members = (id: string) => rellin.get(`/collections/${id}/members`);
const journal = () => rellin.get('/journal');
/** Takes back the latest line of an act; lines of Rellin's own may have come after it. */
const undo = async (act: string) =>
  rellin.post(`/journal/${(await journal()).find((l) => l.act === act && l.undoneAt === null)!.id}/undo`);
const text = (path: string) => readFileSync(path, 'utf8');
const folder = (path: string) => {
  mkdirSync(at(path), { recursive: true });
  return at(path);
};
const list = (path: string) => (existsSync(path) ? readdirSync(path).sort() : undefined);
const collection = (name: string, shortcutIds: string[], more: object = {}) =>
  rellin.post('/collections', { name, shortcutIds, ...more });

describe('an alias', () => {
  let shortcut: ShortcutDetail;
  let alias: AliasView;

  it('is a link that leads to the original, by a way that holds within the place', async () => {
    shortcut = await rellin.add(rellin.write('Ringing/2026/log.csv', 'ring,species\n'), { name: 'Ringing log' });
    alias = await rellin.post('/aliases', { shortcutId: shortcut.id, folder: folder('Desk') });
    expect(alias).toMatchObject({ name: 'Ringing log.csv', path: at('Desk/Ringing log.csv'), state: 'there' });
    expect(readlinkSync(alias.path)).toBe('../Ringing/2026/log.csv');
    expect(execFileSync('cat', [alias.path], { encoding: 'utf8' })).toBe('ring,species\n');
  });

  it('is written anew when its original moves, in the same moment as the shortcut follows', async () => {
    renameSync(at('Ringing/2026/log.csv'), at('Ringing/log of 2026.csv'));
    await until(
      () => readlinkSync(alias.path),
      (target) => target === '../Ringing/log of 2026.csv',
    );
    expect(text(alias.path)).toBe('ring,species\n');
  });

  it('keeps a name that it was given on disk, and goes along when it is moved there', async () => {
    renameSync(alias.path, at('Desk/rings.csv'));
    await until(aliases, ([a]) => a?.path === at('Desk/rings.csv'));
    renameSync(at('Desk/rings.csv'), join(folder('Elsewhere/deep'), 'rings.csv'));
    await until(aliases, ([a]) => a?.path === at('Elsewhere/deep/rings.csv') && a.state === 'there');
    await until(
      () => readlinkSync(at('Elsewhere/deep/rings.csv')),
      (target) => target === '../../Ringing/log of 2026.csv',
    );
    expect(await aliases()).toHaveLength(1);
    // its folder is renamed
    renameSync(at('Elsewhere'), at('Somewhere'));
    await until(aliases, ([a]) => a?.path === at('Somewhere/deep/rings.csv') && a.state === 'there');
  });

  it('goes with its shortcut into the bin, and comes back with it', async () => {
    await rellin.post('/shortcuts/remove', { ids: [shortcut.id] });
    await until(
      () => existsSync(at('Somewhere/deep/rings.csv')),
      (is) => !is,
    );
    await undo('remove-shortcut');
    await until(
      () => existsSync(at('Somewhere/deep/rings.csv')),
      (is) => is,
    );
  });

  it('that is deleted on disk is told; the shortcut stays, and an undo places it again', async () => {
    unlinkSync(at('Somewhere/deep/rings.csv'));
    await until(aliases, (all) => all.length === 0);
    expect((await rellin.shortcuts()).map((s) => s.id)).toContain(shortcut.id);
    const line = (await journal()).find((l) => l.act === 'alias-gone')!;
    expect(line).toMatchObject({
      by: 'automatic',
      summary: 'The alias “rings.csv” was deleted on disk; its shortcut stays',
    });
    await rellin.post(`/journal/${line.id}/undo`);
    await until(
      () => existsSync(at('Somewhere/deep/rings.csv')),
      (is) => is,
    );
    const [again] = await aliases();
    await rellin.call('DELETE', `/aliases/${again!.id}`);
    expect(existsSync(at('Somewhere/deep/rings.csv'))).toBe(false);
    expect(existsSync(at('Ringing/log of 2026.csv'))).toBe(true);
  });

  it('takes another name beside what stands there, and leaves that as it is', async () => {
    writeFileSync(join(folder('Taken'), 'Ringing log.csv'), 'mine');
    const made = await rellin.post('/aliases', { shortcutId: shortcut.id, folder: at('Taken') });
    expect(made.name).toBe('Ringing log (2).csv');
    // somebody puts a file in the place of the link: it is theirs
    unlinkSync(made.path);
    writeFileSync(made.path, 'mine too');
    await until(aliases, (all) => all.length === 0);
    expect([text(at('Taken/Ringing log.csv')), text(made.path)]).toEqual(['mine', 'mine too']);
  });

  it('of a program or a web address is a desktop entry that the standard’s checker accepts', async () => {
    const program = await rellin.post('/shortcuts', { programId: 'chartroom.desktop' });
    const web = await rellin.post('/shortcuts', {
      url: 'https://tides.example.org/?at=head',
      name: 'Tides',
    });
    for (const [s, name, line] of [
      [program, 'Chartroom.desktop', 'Exec=chartroom %f'],
      [web, 'Tides.desktop', 'URL=https://tides.example.org/?at=head'],
    ] as const) {
      const made = await rellin.post('/aliases', { shortcutId: s.id, folder: folder('Entries') });
      expect(made).toMatchObject({ name, state: 'there' });
      expect(text(made.path)).toContain(`${line}\n`);
      // desktop-file-utils, Desktop Entry Specification 1.5
      execFileSync('desktop-file-validate', [made.path]);
      await rellin.call('DELETE', `/aliases/${made.id}`);
    }
    expect(list(at('Entries'))).toEqual([]);
  });

  it('is refused outside all places, in a file, and for what is gone', async () => {
    expect((await rellin.refusal(rellin.post('/aliases', { shortcutId: shortcut.id, folder: '/tmp' }))).kind).toBe(
      'outside-places',
    );
    expect(
      (
        await rellin.refusal(
          rellin.post('/aliases', { shortcutId: shortcut.id, folder: at('Ringing/log of 2026.csv') }),
        )
      ).kind,
    ).toBe('not-valid');
    expect((await rellin.refusal(rellin.call('DELETE', `/aliases/${shortcut.id}`))).kind).toBe('not-found');
  });

  it('waits while its place is away, and follows when it comes back', async () => {
    mkdirSync(join(rellin.base, 'drive/Desk'));
    const made = await rellin.post('/aliases', {
      shortcutId: shortcut.id,
      folder: join(rellin.base, 'drive/Desk'),
    });
    expect(readlinkSync(made.path)).toBe(at('Ringing/log of 2026.csv'));
    renameSync(join(rellin.base, 'drive'), join(rellin.base, 'pulled'));
    await until(aliases, ([a]) => a?.state === 'waiting');
    renameSync(at('Ringing/log of 2026.csv'), at('Ringing/rings.csv'));
    await until(
      () => rellin.shortcut(shortcut.id),
      (s) => s.location === at('Ringing/rings.csv'),
    );
    renameSync(join(rellin.base, 'pulled'), join(rellin.base, 'drive'));
    await until(
      () => readlinkSync(made.path),
      (target) => target === at('Ringing/rings.csv'),
    );
    await rellin.call('DELETE', `/aliases/${made.id}`);
  });
});

describe('a published collection', () => {
  let targets: CollectionView;
  let published: PublicationView;
  const made: ShortcutDetail[] = [];
  const home = () => at('Save here/Filing targets');

  it('is a folder of links, nested ones within it', async () => {
    for (const name of ['Boat', 'Nets', 'Moths']) made.push(await rellin.add(folder(`Work/${name}/Papers`), { name }));
    const inner = await collection('Inner', [made[2]!.id]);
    targets = await collection('Filing targets', [made[0]!.id, made[1]!.id], { collectionIds: [inner.id] });
    published = await rellin.post('/aliases/publications', {
      source: 'collection',
      sourceId: targets.id,
      folder: folder('Save here'),
    });
    expect(published).toMatchObject({ path: home(), links: 3, failed: 0, state: 'there' });
    expect(list(home())).toEqual(['Boat', 'Inner', 'Nets']);
    // a program that saves through the link reaches the real folder
    writeFileSync(join(home(), 'Boat/licence.txt'), 'saved');
    expect(text(at('Work/Boat/Papers/licence.txt'))).toBe('saved');
    expect(readlinkSync(join(home(), 'Inner/Moths'))).toBe('../../../Work/Moths/Papers');
  });

  it('changes with the collection', async () => {
    const ids = (await members(targets.id)).members.filter((m) => m.itemId === made[1]!.id).map((m) => m.id);
    await rellin.post(`/collections/${targets.id}/members/remove`, { memberIds: ids });
    await until(
      () => list(home())!,
      (names) => names.join() === 'Boat,Inner',
    );
    await undo('remove-members');
    await until(
      () => list(home())!,
      (names) => names.join() === 'Boat,Inner,Nets',
    );
    await rellin.call('PATCH', `/shortcuts/${made[0]!.id}`, { name: 'Boat papers' });
    await until(
      () => list(home())!,
      (names) => names.join() === 'Boat papers,Inner,Nets',
    );
  });

  it('takes up a link that is put there by hand, and never touches that', async () => {
    const trips = folder('Work/Trips');
    symlinkSync(trips, join(home(), 'our trips'));
    const found = await until(
      () => members(targets.id),
      (m) => m.members.length === 4,
    );
    const joined = await rellin.shortcut(found.members[3]!.itemId);
    expect(joined.location).toBe(trips);
    expect(list(home())).toEqual(['Boat papers', 'Inner', 'Nets', 'our trips']);
    // taken out again in Rellin: the link stays, and does not come back by itself
    await rellin.post(`/collections/${targets.id}/members/remove`, { memberIds: [found.members[3]!.id] });
    rellin.write('Work/mark.txt');
    await until(
      () => rellin.post('/originals/locate', { path: at('Work/mark.txt') }).then(Boolean, () => false),
      Boolean,
    );
    await rellin.post('/aliases', { shortcutId: made[0]!.id, folder: folder('Desk') });
    expect((await members(targets.id)).members).toHaveLength(3);
    expect(readlinkSync(join(home(), 'our trips'))).toBe(trips);
  });

  it('loses what is deleted there by hand, with a line that takes it back', async () => {
    unlinkSync(join(home(), 'Nets'));
    await until(
      () => members(targets.id),
      (m) => !m.members.some((x) => x.itemId === made[1]!.id),
    );
    const line = (await journal()).find((l) => l.act === 'remove-members' && l.by === 'automatic')!;
    expect(line.summary).toBe('“Nets” left “Filing targets”: its link was deleted on disk');
    await rellin.post(`/journal/${line.id}/undo`);
    await until(
      () => list(home())!,
      (names) => names.includes('Nets'),
    );
  });

  it('is finished after kill -9, wherever that met it', async () => {
    for (let k = 0; k < 3; k++) {
      const change = rellin.call('PATCH', `/shortcuts/${made[1]!.id}`, { name: `Nets ${k}` }).catch(() => undefined);
      await new Promise((resolve) => setTimeout(resolve, 12 * k));
      await rellin.kill();
      await change;
      await rellin.start();
      const { name } = await rellin.shortcut(made[1]!.id);
      await until(
        () => list(home())!,
        (names) => names.join() === ['Boat papers', 'Inner', name, 'our trips'].sort().join(),
      );
    }
  });

  it('keeps an order where asked, and as its second name where the first is taken', async () => {
    const second = await rellin.post('/aliases/publications', {
      source: 'collection',
      sourceId: targets.id,
      folder: at('Save here'),
      ordered: true,
    });
    expect(second.path).toBe(at('Save here/Filing targets (2)'));
    const names = list(second.path!)!;
    expect(names.map((n) => n.slice(0, 2))).toEqual(['1 ', '2 ', '3 ']);
    await rellin.call('DELETE', `/aliases/publications/${second.id}`);
    expect(existsSync(second.path!)).toBe(false);
  });

  it('unpublished removes only its own', async () => {
    writeFileSync(join(home(), 'Inner/notes.txt'), 'mine');
    await rellin.call('DELETE', `/aliases/publications/${published.id}`);
    expect(list(home())).toEqual(['Inner', 'our trips']);
    expect(list(join(home(), 'Inner'))).toEqual(['notes.txt']);
    expect(existsSync(at('Work/Boat/Papers/licence.txt'))).toBe(true);
    expect(await publications()).toEqual([]);
  });

  it('whose folder is deleted on disk is published no more', async () => {
    const again = await rellin.post('/aliases/publications', {
      source: 'collection',
      sourceId: targets.id,
      folder: folder('Again'),
    });
    rmSync(again.path!, { recursive: true });
    await until(publications, (all) => all.length === 0);
    expect((await members(targets.id)).members).toHaveLength(3);
  });

  it('can be a tag or a saved search as well, which change as they do', async () => {
    const tag = await rellin.post('/tags', { name: 'boat', shortcutIds: [made[0]!.id] });
    const ofTag = await rellin.post('/aliases/publications', {
      source: 'tag',
      sourceId: tag.id,
      folder: folder('By tag'),
    });
    expect(list(ofTag.path!)).toEqual(['Boat papers']);
    symlinkSync(at('Work/Nets/Papers'), join(ofTag.path!, 'nets by hand'));
    await until(
      () => rellin.shortcut(made[1]!.id),
      (s) => s.tags.includes(tag.id),
    );
    rellin.write('Work/counts 1.tally');
    const { id } = await rellin.post('/searches', { name: 'Tallies', query: 'ext:tally' });
    const ofSearch = await rellin.post('/aliases/publications', {
      source: 'search',
      sourceId: id,
      folder: at('By tag'),
    });
    await until(
      () => list(ofSearch.path!)!,
      (names) => names.join() === 'counts 1.tally',
    );
    rellin.write('Work/counts 2.tally');
    await until(
      () => list(ofSearch.path!)!,
      (names) => names.join() === 'counts 1.tally,counts 2.tally',
    );
    // a name finds links as well: those that it published itself are not among what it publishes
    await rellin.call('PATCH', `/searches/${id}`, { query: 'counts' });
    rellin.write('Work/counts 3.tally');
    await until(
      () => list(ofSearch.path!)!,
      (names) => names.join() === 'counts 1.tally,counts 2.tally,counts 3.tally',
    );
    await rellin.post('/aliases', { shortcutId: made[0]!.id, folder: folder('Desk'), name: 'settles' });
    expect(list(ofSearch.path!)).toHaveLength(3);
    // and are neither counted nor answered a second time
    await until(
      () => rellin.get(`/searches/${id}`),
      (s) => s.count === 3,
    );
    const asked = await rellin.post('/searches/ask', { query: 'counts', rows: true });
    expect(asked.count).toBe(3);
    expect(asked.answers.map((a) => a.name)).toEqual(['counts 1.tally', 'counts 2.tally', 'counts 3.tally']);
    const menu = await rellin.post('/aliases/publications', {
      source: 'search',
      sourceId: id,
      asMenu: true,
    });
    const named = text(join(rellin.base, `config/menus/applications-merged/rellin-menu-${menu.id}.menu`)).match(
      /<Filename>/g,
    );
    expect(named).toHaveLength(2 * 3);
    // removing the tag ends its folder, and brings it back with an undo
    unlinkSync(join(ofTag.path!, 'nets by hand'));
    await rellin.call('DELETE', `/tags/${tag.id}`);
    await until(
      () => existsSync(ofTag.path!),
      (is) => !is,
    );
    await undo('remove-tag');
    await until(
      () => list(ofTag.path!) ?? [],
      (names) => names.includes('Boat papers'),
    );
    for (const p of await publications()) await rellin.call('DELETE', `/aliases/publications/${p.id}`);
  });

  it('can be a menu of the desktop, which is taken away again', async () => {
    const menu = await rellin.post('/aliases/publications', {
      source: 'collection',
      sourceId: targets.id,
      asMenu: true,
    });
    expect(menu).toMatchObject({ asMenu: true, path: null });
    const file = join(rellin.base, `config/menus/applications-merged/rellin-menu-${menu.id}.menu`);
    // the menu is well-formed, as libxml2 reads it, and every entry it names is there and valid
    execFileSync('xmllint', ['--noout', '--nonet', file]);
    const entries = join(rellin.base, 'share/applications');
    const named = [...text(file).matchAll(/<Filename>(.*?)<\/Filename>/g)].map((m) => m[1]!);
    expect(new Set(named).size).toBe(3);
    for (const name of named) execFileSync('desktop-file-validate', [join(entries, name)]);
    await rellin.call('DELETE', `/aliases/publications/${menu.id}`);
    expect([existsSync(file), list(entries)]).toEqual([false, ['chartroom.desktop']]);
  });
});

describe('links that lie in the places already', () => {
  const found = () => rellin.get('/aliases/found');

  it('are listed, those that lead nowhere first with what has their name', async () => {
    rellin.write('Boat/Papers/insurance.txt', 'insured');
    symlinkSync('../old/insurance.txt', join(folder('Links'), 'insurance'));
    symlinkSync('../Boat/Papers', at('Links/papers'));
    symlinkSync('/usr', at('Links/system'));
    const { links } = await until(found, (f) => f.links.filter((l) => l.path.includes('/Links/')).length === 3);
    const here = links.filter((l) => l.path.includes('/Links/'));
    expect(here.map((l) => [l.path.split('/').pop(), l.leads])).toEqual([
      ['insurance', 'nowhere'],
      ['papers', 'inside'],
      ['system', 'outside'],
    ]);
    expect(here[0]!.candidates.map((c) => c.path)).toEqual([at('Boat/Papers/insurance.txt')]);
  });

  it('are taken in as aliases, and repaired', async () => {
    const links = (await found()).links.filter((l) => l.path.includes('/Links/'));
    const [broken, whole, outside] = links as [
      FoundLinksView['links'][0],
      FoundLinksView['links'][0],
      FoundLinksView['links'][0],
    ];
    const link = ({ placeId, originalId }: OriginalRef) => ({ placeId, originalId });
    const taken = await rellin.post('/aliases/take', link(whole));
    expect(taken).toMatchObject({ path: at('Links/papers'), state: 'there' });
    expect((await rellin.shortcut(taken.shortcutId)).location).toBe(at('Boat/Papers'));
    expect((await rellin.refusal(rellin.post('/aliases/take', link(broken)))).kind).toBe('not-found');
    expect((await rellin.refusal(rellin.post('/aliases/take', link(outside)))).kind).toBe('outside-places');
    await rellin.post('/aliases/take', { ...link(broken), to: link(broken.candidates[0]!) });
    expect(text(at('Links/insurance'))).toBe('insured');
    expect((await found()).links.filter((l) => l.path.includes('/Links/'))).toHaveLength(1);
    // taken back, it is as it was before
    await undo('take-alias');
    await until(
      () => readlinkSync(at('Links/insurance')),
      (target) => target === '../old/insurance.txt',
    );
    await rellin.post('/journal/redo');
    await until(
      () => readlinkSync(at('Links/insurance')),
      (target) => target === '../Boat/Papers/insurance.txt',
    );
    expect(list(at('Links'))).toEqual(['insurance', 'papers', 'system']);
    // from now on it goes along
    renameSync(at('Boat/Papers'), at('Boat/Documents'));
    await until(
      () => readlinkSync(at('Links/papers')),
      (target) => target === '../Boat/Documents',
    );
    expect(lstatSync(at('Links/system')).isSymbolicLink()).toBe(true);
  });
});
