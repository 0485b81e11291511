/**
 * What becomes of shortcuts over random histories of their files: renamed, moved, saved in the ways programs save, copied,
 * removed, exchanged, carried to another file system, with their folders, while Rellin runs and while it does not. A
 * shortcut that opens another file than its own is wrong, always; one that has to ask is not.
 */
import {
  appendFileSync,
  copyFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, dirname, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { seeded, type Random } from '@rellin/core/random';
import { Rellin, until } from './testing/harness.js';

const HISTORIES = Number(process.env['RELLIN_TEST_HISTORIES'] ?? 9);
const FIRST = Number(process.env['RELLIN_TEST_FIRST'] ?? 1);
const ACTS = 12;
const FILES = 15;

const SHM = '/dev/shm';
const elsewhere =
  existsSync(SHM) && statSync(SHM).dev !== statSync(tmpdir()).dev ? mkdtempSync(join(SHM, 'rellin-')) : '';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make();
  if (elsewhere) await rellin.post('/places', { root: elsewhere, name: 'elsewhere' });
});
afterAll(async () => {
  await rellin?.remove();
  if (elsewhere) rmSync(elsewhere, { recursive: true, force: true });
});

/** The files of one history, and where each shortcut's is by what was done; null for one that is gone. */
class World {
  readonly truth = new Map<string, string | null>();
  readonly folders: string[] = [];
  readonly trail: string[] = [];
  private n = 0;
  /**
   * New to the index where they stand: of one that is exchanged with another before Rellin saw it nobody can say whether
   * it was saved there; nor of one that is saved over where another came to just before.
   */
  private readonly saved = new Set<string>();
  private readonly exchanged = new Set<string>();

  constructor(
    readonly root: string,
    private readonly random: Random,
  ) {}

  files(): string[] {
    return [...this.truth.values()].filter((p): p is string => p !== null);
  }

  private unique(kind: string): string {
    return `${kind} ${this.n++}`;
  }

  /** Whatever was at or below one path is at or below the other now. */
  moved(from: string, to: string): void {
    for (const [id, path] of this.truth)
      if (path === from) this.truth.set(id, to);
      else if (path?.startsWith(`${from}/`)) this.truth.set(id, to + path.slice(from.length));
    this.folders.forEach((f, i) => {
      if (f === from) this.folders[i] = to;
      else if (f.startsWith(`${from}/`)) this.folders[i] = to + f.slice(from.length);
    });
    for (const set of [this.saved, this.exchanged])
      for (const f of [...set])
        if (f === from || f.startsWith(`${from}/`)) {
          set.delete(f);
          set.add(to + f.slice(from.length));
        }
    this.trail.push(`${from.slice(this.root.length)} → ${to.slice(this.root.length)}`);
  }

  private rename(from: string, to: string): void {
    renameSync(from, to);
    this.moved(from, to);
  }

  act(): void {
    const { random } = this;
    // what was carried away is left alone there
    const files = this.files().filter((f) => f.startsWith(this.root));
    if (files.length < 3) return;
    const a = random.pick(files);
    const others = files.filter((f) => f !== a);
    const b = random.pick(others);
    const c = random.pick(others.filter((f) => f !== b));
    const hold = join(this.root, 'hold');
    let kind = random.int(0, 13);
    if (kind >= 7 && kind <= 9 && [a, b, c].some((f) => this.saved.has(f))) kind = 4;
    if ((kind === 2 || kind === 3) && this.exchanged.has(a)) kind = 4;
    if (kind === 2 || kind === 3) this.saved.add(a);
    if (kind >= 7 && kind <= 9) for (const f of [a, b, c]) this.exchanged.add(f);
    const say = (text: string) => this.trail.push(`${text} ${a.slice(this.root.length)}`);
    switch (kind) {
      case 0:
        return this.rename(a, join(dirname(a), `${this.unique('renamed')}.txt`));
      case 1:
        return this.rename(a, join(random.pick(this.folders), `${this.unique('moved')}.txt`));
      case 2:
        say('saved over by a new file');
        writeFileSync(`${a}.tmp`, `saved ${this.unique('')}`);
        return renameSync(`${a}.tmp`, a);
      case 3:
        say('saved, the old one kept as a backup');
        renameSync(a, `${a}${random.pick(['.bak', '~', '.orig', '.old'])}`);
        return writeFileSync(a, `saved ${this.unique('')}`);
      case 4:
        say('edited');
        return appendFileSync(a, 'more');
      case 5:
        say('copied');
        return copyFileSync(a, join(random.pick(this.folders), `${this.unique('copy of')}.txt`));
      case 6:
        say('removed');
        for (const [id, path] of this.truth) if (path === a) this.truth.set(id, null);
        return rmSync(a);
      case 7:
        this.rename(a, hold);
        this.rename(b, a);
        return this.rename(hold, b);
      case 8:
        this.rename(a, hold);
        this.rename(b, a);
        this.rename(c, b);
        return this.rename(hold, c);
      case 9:
        this.rename(a, join(dirname(a), `${this.unique('went on')}.txt`));
        return this.rename(b, a);
      case 10:
      case 11: {
        const from = random.pick(this.folders);
        const into = random.pick([this.root, ...this.folders.filter((f) => f !== from && !f.startsWith(`${from}/`))]);
        return this.rename(from, join(kind === 10 ? dirname(from) : into, this.unique('folder')));
      }
      case 12: {
        // two folders exchange their names
        const [x, y] = [random.pick(this.folders), random.pick(this.folders)];
        if (x === y || x.startsWith(`${y}/`) || y.startsWith(`${x}/`)) return;
        this.rename(x, hold);
        this.rename(y, x);
        return this.rename(hold, y);
      }
      case 13: {
        if (!elsewhere) return;
        const to = join(elsewhere, `${basename(this.root)} ${this.unique('carried')} ${basename(a)}`);
        // as mv(1) does between file systems
        cpSync(a, to, { preserveTimestamps: true });
        rmSync(a);
        return this.moved(a, to);
      }
    }
  }
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const total = { alive: 0, found: 0 };
const missed: string[] = [];

describe('shortcuts over random histories', () => {
  it.each(Array.from({ length: HISTORIES }, (_, i) => FIRST + i))(
    'never open another’s file (history %i)',
    async (seed) => {
      const random = seeded(seed);
      const world = new World(join(rellin.place, `h${seed}`), random);
      for (const name of ['a', 'a/b', 'c', 'c/d']) {
        mkdirSync(join(world.root, name), { recursive: true });
        world.folders.push(join(world.root, name));
      }
      const paths = Array.from({ length: FILES }, (_, i) => {
        const path = join(random.pick(world.folders), `file ${i}.txt`);
        // a few are alike
        writeFileSync(path, i % 5 === 0 ? `alike in ${seed}` : `file ${i} of history ${seed}`);
        return path;
      });
      await rellin.settled();
      const made = await until(
        () => Promise.all(paths.map((path) => rellin.add(path))).catch(() => undefined),
        (all) => all !== undefined,
      );
      made!.forEach((s, i) => world.truth.set(s.id, paths[i]!));
      // some have a second shortcut
      for (const path of paths.slice(0, 3)) world.truth.set((await rellin.add(path)).id, path);
      await rellin.settled();
      // live, stopped, mixed
      const how = seed % 3;
      try {
        if (how === 1) await rellin.stop();
        for (let n = 0; n < ACTS; n++) {
          if (how === 2 && n === 4) await rellin.stop();
          if (how === 2 && n === 8) await rellin.start();
          world.act();
          const wait = random.next() < 0.5 ? random.int(0, 20) : random.int(0, 200);
          world.trail.push(`${wait} ms`);
          if (how !== 1) await pause(wait);
        }
      } finally {
        if (how === 1) await rellin.start();
      }
      const OPENS = ['ready', 'followed', 'saved-over'];
      const look = async () => {
        const all = new Map((await rellin.get('/shortcuts')).map((s) => [s.id, s]));
        const wrong: string[] = [];
        const missed: string[] = [];
        for (const [id, truth] of world.truth) {
          const s = all.get(id)!;
          const told = `${s.name}: ${s.state} ${s.location?.replace(world.root, '')}, in truth ${truth?.replace(world.root, '') ?? 'gone'}`;
          if (OPENS.includes(s.state) && s.location !== truth) wrong.push(told);
          if (!OPENS.includes(s.state) && truth !== null) missed.push(told);
        }
        return { wrong, missed };
      };
      const end = await until(look, ({ wrong, missed }) => wrong.length + missed.length === 0, 6000).catch(look);
      // of the shortcuts, as the missed are: a file may have two
      const alive = [...world.truth.values()].filter((path) => path !== null).length;
      total.alive += alive;
      total.found += alive - end.missed.length;
      missed.push(...end.missed.map((m) => `${seed}: ${m}`));
      if (end.wrong.length > 0) throw new Error(`${end.wrong.join('\n')}\nafter\n${world.trail.join('\n')}`);
      await rellin.post('/shortcuts/remove', { ids: [...world.truth.keys()] });
      rmSync(world.root, { recursive: true });
    },
    60_000,
  );

  it('find nearly all that are still there', () => {
    const share = total.found / total.alive;
    expect({ isEnough: share >= 0.9, share, missed }).toMatchObject({ isEnough: true });
  });
});
