import { describe, expect, it } from '@jest/globals';
import { parseKeyFile } from '../desktop/index.js';
import { nameOf, parentOf } from '../paths/index.js';
import { seeded, type Random } from '../random/index.js';
import {
  applicationEntry,
  linkName,
  linkTarget,
  menuText,
  planLinks,
  webEntry,
  type LinkPlan,
  type LinkStep,
  type Listing,
  type SeenEntry,
  type WantedLink,
  type WrittenLink,
} from './index.js';

describe('the name of a link', () => {
  it('is the shortcut’s, made fit for a file', () => {
    expect(linkName('Ringing log', 'link', 'log 2026.csv')).toBe('Ringing log.csv');
    expect(linkName('log.CSV', 'link', 'log.csv')).toBe('log.CSV');
    expect(linkName('a/b\nc', 'link')).toBe('a b c');
    expect(linkName('..hidden', 'folder')).toBe('hidden');
    expect(linkName('///', 'folder')).toBe('link');
    expect(linkName('Tides', 'entry')).toBe('Tides.desktop');
  });

  it('fits into a directory whatever it is made of', () => {
    const random = seeded(5);
    for (let i = 0; i < 300; i++) {
      const name = Array.from({ length: random.int(0, 400) }, () =>
        random.pick(['a', 'é', '海', '/', '.', ' ', '\0', '🐦']),
      ).join('');
      const made = linkName(name, random.pick(['link', 'entry', 'folder'] as const), 'x.tar');
      expect(new TextEncoder().encode(made).length).toBeLessThanOrEqual(255);
      expect(made).toMatch(/^[^/\0]+$/);
      expect(['.', '..', '']).not.toContain(made);
    }
  });
});

describe('where a link leads', () => {
  it('is told from its folder within a place, from the top between places', () => {
    expect(linkTarget('/home/w/Targets', '/home/w/Boat/Papers', '/home/w')).toBe('../Boat/Papers');
    expect(linkTarget('/home/w/Targets', '/home/w/Targets/Papers', '/home/w')).toBe('Papers');
    expect(linkTarget('/home/w/Boat/Papers', '/home/w/Boat', '/home/w')).toBe('..');
    expect(linkTarget('/home/w/Targets', '/media/drive/x', undefined)).toBe('/media/drive/x');
  });
});

describe('entries and menus', () => {
  it('are read back by the key file’s reader, whatever the name', () => {
    const name = ' Tides\\north\nand south';
    const group = parseKeyFile(webEntry(name, 'https://example.org/?a=1&b=%20')).groups.get('Desktop Entry')!;
    expect(group.get('Type')).toBe('Link');
    expect(group.get('URL')).toBe('https://example.org/?a=1&b=%20');
    expect(group.get('Name')).toBe('\\sTides\\\\north\\nand south');
    expect(applicationEntry({ name: 'Chartroom', exec: 'chartroom "a\\b" %f' })).toContain(
      'Exec=chartroom "a\\\\b" %f\n',
    );
  });

  it('nest and keep their order', () => {
    const text = menuText({
      directory: 'a.directory',
      parts: ['b.desktop', { directory: 'c&d.directory', parts: ['e.desktop'] }],
    });
    expect(text).toContain('<Filename>b.desktop</Filename>');
    expect(text).toContain('<Menuname>c&amp;d</Menuname>');
    expect(text.match(/<Menu>/g)).toHaveLength(3);
    expect(text.match(/<\/Menu>/g)).toHaveLength(3);
  });
});

/** A disk in memory: absolute path → what stands there. Acts refuse what the real ones refuse. */
class Disk {
  readonly at = new Map<string, Omit<SeenEntry, 'name'>>();
  private inodes = 10;

  put(path: string, form: SeenEntry['form'], content = ''): number {
    const inode = this.inodes++;
    this.at.set(path, { form, content, inode });
    return inode;
  }

  list = (folder: string): Listing | null =>
    folder === '/p' || this.at.get(folder)?.form === 'folder'
      ? {
          inode: this.at.get(folder)?.inode ?? 1,
          entries: [...this.at]
            .filter(([path]) => parentOf(path) === folder)
            .map(([path, e]) => ({ name: nameOf(path), ...e })),
        }
      : null;

  move(from: string, to: string): void {
    for (const [path, e] of [...this.at])
      if (path === from || path.startsWith(`${from}/`)) {
        this.at.delete(path);
        this.at.set(to + path.slice(from.length), e);
      }
  }

  /** The first half of giving a link another name: both stand there. */
  half(step: LinkStep): void {
    if (step.do !== 'change' || step.form === 'folder' || step.from.path === step.to.path) return;
    const is = this.at.get(step.from.path)!;
    const same = step.from.content === step.to.content;
    this.at.set(step.to.path, { ...is, content: step.to.content, inode: same ? is.inode : this.inodes++ });
  }

  /** The inode of what was made or changed. */
  run(step: LinkStep): number | undefined {
    if (step.do === 'make') {
      if (this.at.has(step.to.path)) throw new Error(`written over: ${step.to.path}`);
      return this.put(step.to.path, step.form, step.to.content);
    }
    if (step.do === 'change' || step.do === 'release' || step.do === 'remove' || step.do === 'clear') {
      const is = this.at.get(step.from.path);
      if (!is || is.form !== step.form || (step.form !== 'folder' && is.content !== step.from.content))
        throw new Error(`not ours: ${step.from.path}`);
      if (step.do === 'remove' || step.do === 'clear') {
        if (step.form === 'folder' && this.list(step.from.path)!.entries.length > 0) return undefined;
        this.at.delete(step.from.path);
        return undefined;
      }
      if (step.to.path !== step.from.path) {
        if (this.at.has(step.to.path)) throw new Error(`written over: ${step.to.path}`);
        for (const [path, e] of [...this.at])
          if (path.startsWith(`${step.from.path}/`)) {
            this.at.delete(path);
            this.at.set(step.to.path + path.slice(step.from.path.length), e);
          }
        this.at.delete(step.from.path);
      }
      const inode = step.from.content === step.to.content || step.form === 'folder' ? is.inode : this.inodes++;
      this.at.set(step.to.path, { ...is, content: step.form === 'folder' ? is.content : step.to.content, inode });
      return inode;
    }
    return undefined;
  }
}

/**
 * Does a plan as the server does: the intents of some steps, these steps, what came of them. `cut` ends it after so
 * many of all these.
 */
function carryOut(plan: LinkPlan, disk: Disk, records: Map<string, WrittenLink>, cut = Infinity): void {
  let n = 0;
  const steps = [...plan.steps];
  while (steps.length > 0) {
    // what follows a folder's new name when that is done, one for each link
    const end = steps.findIndex(
      (s, i) =>
        i === 3 || (i > 0 && isFolderChange(steps[i - 1]!)) || steps.slice(0, i).some((before) => before.key === s.key),
    );
    const some = steps.splice(0, end < 0 ? steps.length : end);
    if (n++ >= cut) return;
    for (const step of some) intent(step, records);
    const inodes: (number | undefined)[] = [];
    for (const step of some) {
      if (n++ >= cut) return;
      if (n++ >= cut) return disk.half(step);
      inodes.push(disk.run(step));
    }
    if (n++ >= cut) return;
    some.forEach((step, i) => done(step, inodes[i], records));
  }
}

const isFolderChange = (step: LinkStep) => step.do === 'change' && step.form === 'folder';

function intent(step: LinkStep, records: Map<string, WrittenLink>): void {
  if (step.do !== 'make' && step.do !== 'change') return;
  const known = records.get(step.key);
  const fresh = { key: step.key, form: step.form, name: step.name, foreign: false, before: null };
  records.set(
    step.key,
    step.do === 'make'
      ? { ...fresh, now: null, inode: null, next: step.to }
      : { ...known!, now: step.from, next: step.to },
  );
}

function done(step: LinkStep, inode: number | undefined, records: Map<string, WrittenLink>): void {
  if (step.do === 'clear') return;
  if (step.do === 'adopt') {
    const { key, form, name, at, inode: its } = step;
    records.set(key, { key, form, name, now: at, next: null, inode: its, foreign: false, before: at.content });
    return;
  }
  if (step.do === 'remove' || step.do === 'release' || step.do === 'forget') return void records.delete(step.key);
  const record = records.get(step.key)!;
  const old = record.now?.path;
  records.set(step.key, {
    ...record,
    name: step.name,
    now: step.to,
    next: null,
    inode: step.do === 'note' ? step.inode : inode!,
  });
  // with a folder's new name goes what is recorded to lie in it
  if (step.form === 'folder' && old !== undefined && old !== step.to.path)
    for (const [key, r] of records)
      if (r.now?.path.startsWith(`${old}/`))
        records.set(key, { ...r, now: { ...r.now, path: step.to.path + r.now.path.slice(old.length) } });
}

const want = (
  key: string,
  where: string | { key: string },
  name: string,
  form: WantedLink['form'],
  content = '',
): WantedLink => ({
  key,
  in: typeof where === 'string' ? { path: where } : where,
  name,
  form,
  content: () => content,
  leads: (_, other) => other === content,
  before: null,
});

describe('links on disk', () => {
  const settled = () => {
    const disk = new Disk();
    const records = new Map<string, WrittenLink>();
    const wanted = [
      want('pub', '/p', 'Targets', 'folder'),
      want('pub/a', { key: 'pub' }, 'Papers', 'link', '../Boat'),
      want('pub/sub', { key: 'pub' }, 'Moths', 'folder'),
      want('pub/sub/b', { key: 'pub/sub' }, 'Traps.csv', 'link', '../../t.csv'),
    ];
    const plan = (w = wanted) => planLinks(w, [...records.values()], disk.list);
    carryOut(plan(), disk, records);
    return { disk, records, wanted, plan };
  };

  it('are written, folders first, and then there is nothing to do', () => {
    const { disk, plan } = settled();
    expect([...disk.at.keys()]).toEqual([
      '/p/Targets',
      '/p/Targets/Papers',
      '/p/Targets/Moths',
      '/p/Targets/Moths/Traps.csv',
    ]);
    expect(plan()).toEqual({ steps: [], deleted: [], remade: [], missing: [], dropped: [], waiting: [], unseen: [] });
  });

  it('take another name where theirs is taken, and never what stands there', () => {
    const disk = new Disk();
    disk.put('/p/papers.csv', 'other');
    const records = new Map<string, WrittenLink>();
    const wanted = [want('a', '/p', 'Papers.csv', 'link', 'x'), want('b', '/p', 'Papers.csv', 'link', 'y')];
    carryOut(planLinks(wanted, [], disk.list), disk, records);
    expect([...disk.at.keys()]).toEqual(['/p/papers.csv', '/p/Papers (2).csv', '/p/Papers (3).csv']);
    carryOut(planLinks([], [...records.values()], disk.list), disk, records);
    expect([...disk.at.keys()]).toEqual(['/p/papers.csv']);
  });

  it('follow a new name and a new original; a folder’s new name takes what lies in it along', () => {
    const { disk, records, plan, wanted } = settled();
    const changed = [
      want('pub', '/p', 'Filing', 'folder'),
      want('pub/a', { key: 'pub' }, 'Boat papers', 'link', '../Yard'),
      ...wanted.slice(2),
    ];
    carryOut(plan(changed), disk, records);
    expect([...disk.at].map(([path, e]) => `${path} ${e.content}`.trim()).sort()).toEqual([
      '/p/Filing',
      '/p/Filing/Boat papers ../Yard',
      '/p/Filing/Moths',
      '/p/Filing/Moths/Traps.csv ../../t.csv',
    ]);
    expect(plan(changed).steps).toEqual([]);
  });

  it('that a person renamed stay renamed; that they deleted are told, and not written again', () => {
    const { disk, records, plan } = settled();
    disk.at.set('/p/Targets/My papers', disk.at.get('/p/Targets/Papers')!);
    disk.at.delete('/p/Targets/Papers');
    disk.at.delete('/p/Targets/Moths/Traps.csv');
    const found = plan();
    expect(found.deleted.map((d) => d.key)).toEqual(['pub/sub/b']);
    carryOut(found, disk, records);
    expect(records.get('pub/a')!.now!.path).toBe('/p/Targets/My papers');
    expect(disk.at.has('/p/Targets/Papers')).toBe(false);
  });

  it('are looked for in the folder that was renamed, not missed in a name that nobody listed', () => {
    const { disk, records, wanted, plan } = settled();
    disk.move('/p/Targets', '/p/Filing');
    const listed = new Map<string, Listing | null>();
    let found = planLinks(wanted, [...records.values()], (folder) => listed.get(folder));
    const asked: string[] = [];
    while (found.unseen.length > 0) {
      asked.push(...found.unseen);
      for (const folder of found.unseen) listed.set(folder, disk.list(folder));
      found = planLinks(wanted, [...records.values()], (folder) => listed.get(folder));
    }
    expect(asked).toContain('/p/Filing/Moths');
    expect({ deleted: found.deleted, missing: found.missing }).toEqual({ deleted: [], missing: [] });
    carryOut(found, disk, records);
    expect(plan().steps).toEqual([]);
    expect(disk.at.has('/p/Filing/Moths/Traps.csv')).toBe(true);
  });

  it('whose folder was renamed while they went elsewhere are said to be made anew, so that one may wait for them', () => {
    const { disk, records, wanted } = settled();
    // the published folder is under way, and what it lay in got another name
    disk.move('/p/Targets', '/elsewhere');
    disk.put('/q', 'folder');
    const inQ = wanted.map((w) => ('path' in w.in && w.in.path === '/p' ? { ...w, in: { path: '/q' } } : w));
    const plan = planLinks(inQ, [...records.values()], disk.list);
    expect(plan.remade.map((d) => d.key)).toContain('pub');
    expect(plan.deleted).toEqual([]);
    // where it was wanted is where it stood: gone from there it counts as deleted, and is not made anew
    const { disk: other, records: known, wanted: same } = settled();
    other.move('/p/Targets', '/elsewhere');
    expect(planLinks(same, [...known.values()], other.list).remade).toEqual([]);
  });

  it('count as deleted only from the folder that they lay in, by what folder it is', () => {
    const { disk, plan } = settled();
    disk.move('/p/Targets/Moths', '/p/elsewhere');
    disk.put('/p/Targets/Moths', 'folder');
    // the folder by that name is another one: of what lay in the first nothing is told
    expect(plan().deleted.map((d) => d.key)).toEqual(['pub/sub']);
    const { disk: other, records, wanted } = settled();
    other.at.delete('/p/Targets/Papers');
    const inode = other.at.get('/p/Targets')!.inode;
    const from = (folderInode: number) =>
      planLinks(wanted, [...records.values()], (folder) =>
        folder === '/p/Targets' ? { ...other.list(folder)!, inode: folderInode } : other.list(folder),
      );
    expect(from(inode).deleted).toEqual([{ key: 'pub/a', folderInode: inode }]);
    expect(from(inode + 100)).toMatchObject({ deleted: [], missing: ['pub/a'], waiting: ['pub/a'] });
    const based = [want('a', '/p', 'A', 'link', 'a'), want('b', '/p', 'B', 'link', 'b')].map((w) => ({
      ...w,
      in: { path: '/p', inode: 1 },
    }));
    const disk3 = new Disk();
    const records3 = new Map<string, WrittenLink>();
    carryOut(planLinks(based, [], disk3.list), disk3, records3);
    disk3.at.delete('/p/A');
    const plan3 = (its: number) =>
      planLinks(
        based.map((w) => ({ ...w, in: { path: '/p', inode: its } })),
        [...records3.values()],
        disk3.list,
      );
    expect(plan3(1).deleted.map((d) => d.key)).toEqual(['a']);
    expect(plan3(2)).toMatchObject({ deleted: [], waiting: ['a'], steps: [] });
  });

  it('that went from a folder in one moment, most of them, are written again', () => {
    const disk = new Disk();
    const records = new Map<string, WrittenLink>();
    const wanted = [
      want('pub', '/p', 'Targets', 'folder'),
      ...Array.from({ length: 8 }, (_, i) => want(`pub/${i}`, { key: 'pub' }, `n${i}`, 'link', `../${i}`)),
    ];
    const plan = () => planLinks(wanted, [...records.values()], disk.list);
    carryOut(plan(), disk, records);
    for (const i of [0, 1, 2, 3]) disk.at.delete(`/p/Targets/n${i}`);
    expect(plan().deleted).toHaveLength(4);
    disk.at.delete(`/p/Targets/n4`);
    expect(plan()).toMatchObject({ deleted: [], missing: ['pub/0', 'pub/1', 'pub/2', 'pub/3', 'pub/4'] });
    carryOut(plan(), disk, records);
    expect(disk.at.size).toBe(9);
    expect(plan()).toMatchObject({ steps: [], deleted: [], missing: [] });
  });

  it('that a person put into a folder of ours are told, and stay when all of ours goes', () => {
    const { disk, records, plan } = settled();
    disk.put('/p/Targets/by hand', 'link', '/elsewhere');
    disk.put('/p/Targets/notes.txt', 'other');
    expect(plan().dropped.map((d) => [d.folderKey, d.path])).toEqual([['pub', '/p/Targets/by hand']]);
    carryOut(plan([]), disk, records);
    expect([...disk.at.keys()]).toEqual(['/p/Targets', '/p/Targets/by hand', '/p/Targets/notes.txt']);
  });

  it('that a person put there and that stand for a wanted one are neither doubled nor changed', () => {
    const { disk, records, plan, wanted } = settled();
    const inode = disk.put('/p/Targets/by hand', 'link', '/abs');
    records.set('pub/c', {
      key: 'pub/c',
      form: 'link',
      name: 'C',
      now: { path: '/p/Targets/by hand', content: '/abs' },
      next: null,
      inode,
      foreign: true,
      before: null,
    });
    const more = [
      ...wanted,
      { ...want('pub/c', { key: 'pub' }, 'C', 'link', '../abs'), leads: (_: string, c: string) => c === '/abs' },
    ];
    expect(plan(more)).toMatchObject({ steps: [], dropped: [] });
    // its original moved: what is not ours stays as it is
    const moved = [...wanted, want('pub/c', { key: 'pub' }, 'C', 'link', '../new')];
    carryOut(plan(moved), disk, records);
    expect(disk.at.get('/p/Targets/by hand')!.content).toBe('/abs');
    expect(disk.at.get('/p/Targets/C')!.content).toBe('../new');
  });

  it('that were taken over go back to the person as they were', () => {
    const disk = new Disk();
    disk.put('/p/by hand', 'link', '/old');
    const records = new Map<string, WrittenLink>();
    const taken = [{ ...want('a', '/p', 'by hand', 'link', '/new'), before: '/old' }];
    const bring = (wanted: WantedLink[]) =>
      carryOut(planLinks(wanted, [...records.values()], disk.list), disk, records);
    bring(taken);
    bring(taken);
    expect([...disk.at].map(([path, e]) => `${path} ${e.content}`)).toEqual(['/p/by hand /new']);
    bring([]);
    expect([...disk.at].map(([path, e]) => `${path} ${e.content}`)).toEqual(['/p/by hand /old']);
    // and once more, as a redo does
    bring(taken);
    bring(taken);
    bring([]);
    expect([disk.at.get('/p/by hand')!.content, records.size]).toEqual(['/old', 0]);
  });

  it('wait while their folder cannot be seen', () => {
    const { disk, records, wanted } = settled();
    const away = planLinks(wanted, [...records.values()], () => null);
    expect(away).toMatchObject({ steps: [], deleted: [] });
    expect(planLinks([], [...records.values()], () => null).steps).toEqual([]);
    expect(disk.at.size).toBe(4);
  });

  it('come right after any end, and nothing of another’s is ever touched (seeded)', () => {
    for (let seed = 1; seed <= 150; seed++) {
      const random = seeded(seed);
      const disk = new Disk();
      const records = new Map<string, WrittenLink>();
      const theirs = new Map<string, string>();
      const put = () => {
        const folder = random.pick([
          '/p',
          ...[...disk.at].filter(([, e]) => e.form === 'folder').map(([path]) => path),
        ]);
        const path = `${folder}/${random.pick(['A', 'B', 'Papers', 'x'])}`;
        if (disk.at.has(path)) return;
        theirs.set(String(disk.put(path, random.pick(['other', 'link'] as const), `theirs ${seed}`)), 'there');
      };
      let wanted: WantedLink[] = [];
      for (let round = 0; round < 6; round++) {
        wanted = someLinks(random);
        put();
        // cut short anywhere, as by kill -9, several times
        for (let k = 0; k < 3; k++)
          carryOut(planLinks(wanted, [...records.values()], disk.list), disk, records, random.int(0, 16));
        for (let k = 0; k < 4; k++) carryOut(planLinks(wanted, [...records.values()], disk.list), disk, records);
        const plan = planLinks(wanted, [...records.values()], disk.list);
        const stray = [...disk.at].filter(
          ([path, e]) =>
            e.form === 'link' &&
            /^[a-d]\d$/.test(e.content) &&
            ![...records.values()].some((r) => r.now?.path === path),
        );
        expect({ seed, stray }).toEqual({ seed, stray: [] });
        expect({ seed, steps: plan.steps.filter((s) => s.do !== 'remove'), deleted: plan.deleted }).toEqual({
          seed,
          steps: [],
          deleted: [],
        });
        for (const w of wanted) {
          const record = records.get(w.key)!;
          expect(nameOf(record.now!.path).replace(/ \(\d+\)$/, '')).toBe(w.name);
          expect(disk.at.get(record.now!.path)).toMatchObject({
            form: w.form,
            ...(w.form !== 'folder' && { content: w.content('') }),
          });
        }
        const inodes = new Set([...disk.at.values()].map((e) => String(e.inode)));
        for (const inode of theirs.keys()) expect(inodes.has(inode)).toBe(true);
      }
      expect(wanted.length).toBeGreaterThan(0);
    }
  });
});

function someLinks(random: Random): WantedLink[] {
  const out: WantedLink[] = [want('pub', '/p', random.pick(['A', 'Targets']), 'folder')];
  if (random.next() < 0.7) out.push(want('sub', { key: 'pub' }, random.pick(['A', 'B']), 'folder'));
  for (const key of ['a', 'b', 'c', 'd'])
    if (random.next() < 0.7)
      out.push(
        want(
          key,
          random.next() < 0.4 ? '/p' : { key: out.length > 1 && out[1]!.key === 'sub' && key > 'b' ? 'sub' : 'pub' },
          random.pick(['A', 'B', 'Papers']),
          'link',
          `${key}${random.int(0, 2)}`,
        ),
      );
  return out;
}
