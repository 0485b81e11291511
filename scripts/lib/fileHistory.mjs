/**
 * A random history of files under shortcuts: renamed, moved, saved in the ways programs save, copied, removed,
 * exchanged, carried to another file system, with their folders. It knows what became of each file by what was done to
 * it.
 */
import { appendFileSync, copyFileSync, cpSync, mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';

/** How many files each history begins with, and how many acts it has. */
export const FILES = 15;
export const ACTS = 12;

/** A shortcut in one of these states opens something by itself. */
export const OPENS = ['ready', 'followed', 'saved-over'];

/** The files of one history, and where each shortcut's is by what was done; null for one that is gone. */
export class FileHistory {
  /** By a shortcut's id. @type {Map<string, string | null>} */
  truth = new Map();
  /** @type {string[]} */
  folders = [];
  /** What was done, in words. @type {string[]} */
  trail = [];
  #n = 0;
  /**
   * New to the index where they stand: of one that is exchanged with another before Rellin saw it nobody can say
   * whether it was saved there; nor of one that is saved over where another came to just before.
   */
  #saved = new Set();
  #exchanged = new Set();

  /**
   * @param {string} root the folder it all happens in
   * @param {import('@rellin/core/random').Random} random
   * @param {string} [elsewhere] a folder on another file system, where there is one
   */
  constructor(root, random, elsewhere) {
    this.root = root;
    this.random = random;
    this.elsewhere = elsewhere;
  }

  /** Makes the folders and files it begins with; returns the files' paths. A few are alike. */
  begin() {
    for (const name of ['a', 'a/b', 'c', 'c/d']) {
      mkdirSync(join(this.root, name), { recursive: true });
      this.folders.push(join(this.root, name));
    }
    const own = basename(this.root);
    return Array.from({ length: FILES }, (_, i) => {
      const path = join(this.random.pick(this.folders), `file ${i} ${own}.txt`);
      writeFileSync(path, i % 5 === 0 ? `alike in ${own}` : `text ${i} of ${own}`);
      return path;
    });
  }

  /** How long until the next act, in ms. */
  pause() {
    return this.random.next() < 0.5 ? this.random.int(0, 20) : this.random.int(0, 200);
  }

  files() {
    return [...this.truth.values()].filter((p) => p !== null);
  }

  /** @param {string} kind */
  #unique(kind) {
    return `${kind} ${this.#n++}`;
  }

  /**
   * Whatever was at or below one path is at or below the other now.
   * @param {string} from
   * @param {string} to
   */
  #moved(from, to) {
    /** @param {string} path */
    const below = (path) => path === from || path.startsWith(`${from}/`);
    /** @param {string} path */
    const now = (path) => to + path.slice(from.length);
    for (const [id, path] of this.truth) if (path !== null && below(path)) this.truth.set(id, now(path));
    this.folders = this.folders.map((f) => (below(f) ? now(f) : f));
    for (const set of [this.#saved, this.#exchanged])
      for (const f of [...set])
        if (below(f)) {
          set.delete(f);
          set.add(now(f));
        }
    this.trail.push(`${from.slice(this.root.length)} → ${to.slice(this.root.length)}`);
  }

  /**
   * @param {string} from
   * @param {string} to
   */
  #rename(from, to) {
    renameSync(from, to);
    this.#moved(from, to);
  }

  /** Does one thing to the disk. */
  act() {
    const { random } = this;
    // what was carried away is left alone there
    const files = this.files().filter((f) => f.startsWith(`${this.root}/`));
    if (files.length < 3) return;
    const a = random.pick(files);
    const others = files.filter((f) => f !== a);
    const b = random.pick(others);
    const c = random.pick(others.filter((f) => f !== b));
    const hold = join(this.root, 'hold');
    let kind = random.int(0, 13);
    if (kind >= 7 && kind <= 9 && [a, b, c].some((f) => this.#saved.has(f))) kind = 4;
    if ((kind === 2 || kind === 3) && this.#exchanged.has(a)) kind = 4;
    if (kind === 2 || kind === 3) this.#saved.add(a);
    if (kind >= 7 && kind <= 9) for (const f of [a, b, c]) this.#exchanged.add(f);
    /** @param {string} text */
    const say = (text) => this.trail.push(`${text} ${a.slice(this.root.length)}`);
    switch (kind) {
      case 0:
        return this.#rename(a, join(dirname(a), `${this.#unique('renamed')}.txt`));
      case 1:
        return this.#rename(a, join(random.pick(this.folders), `${this.#unique('moved')}.txt`));
      case 2:
        say('saved over by a new file');
        writeFileSync(`${a}.tmp`, `saved ${this.#unique('')}`);
        return renameSync(`${a}.tmp`, a);
      case 3:
        say('saved, the old one kept as a backup');
        renameSync(a, `${a}${random.pick(['.bak', '~', '.orig', '.old'])}`);
        return writeFileSync(a, `saved ${this.#unique('')}`);
      case 4:
        say('edited');
        return appendFileSync(a, 'more');
      case 5:
        say('copied');
        return copyFileSync(a, join(random.pick(this.folders), `${this.#unique('copy of')}.txt`));
      case 6:
        say('removed');
        for (const [id, path] of this.truth) if (path === a) this.truth.set(id, null);
        return rmSync(a);
      case 7:
        this.#rename(a, hold);
        this.#rename(b, a);
        return this.#rename(hold, b);
      case 8:
        this.#rename(a, hold);
        this.#rename(b, a);
        this.#rename(c, b);
        return this.#rename(hold, c);
      case 9:
        this.#rename(a, join(dirname(a), `${this.#unique('went on')}.txt`));
        return this.#rename(b, a);
      case 10:
      case 11: {
        const from = random.pick(this.folders);
        const into = random.pick([this.root, ...this.folders.filter((f) => f !== from && !f.startsWith(`${from}/`))]);
        return this.#rename(from, join(kind === 10 ? dirname(from) : into, this.#unique('folder')));
      }
      case 12: {
        // two folders exchange their names
        const [x, y] = [random.pick(this.folders), random.pick(this.folders)];
        if (x === y || x.startsWith(`${y}/`) || y.startsWith(`${x}/`)) return;
        this.#rename(x, hold);
        this.#rename(y, x);
        return this.#rename(hold, y);
      }
      case 13: {
        if (!this.elsewhere) return;
        const to = join(this.elsewhere, `${basename(this.root)} ${this.#unique('carried')} ${basename(a)}`);
        // as mv(1) does between file systems
        cpSync(a, to, { preserveTimestamps: true });
        rmSync(a);
        return this.#moved(a, to);
      }
    }
  }

  /**
   * Holds what shortcuts open beside what is true: `wrong` open another's file, `missed` open nothing though theirs is
   * there.
   * @param {{ id: string, name: string, state: string, location?: string | null }[]} shortcuts
   */
  compare(shortcuts) {
    const all = new Map(shortcuts.map((s) => [s.id, s]));
    const wrong = [];
    const missed = [];
    for (const [id, truth] of this.truth) {
      const s = all.get(id);
      if (!s) throw new Error(`the shortcut ${id} is gone`);
      const told = `${s.name}: ${s.state} ${s.location?.replace(this.root, '')}, in truth ${truth?.replace(this.root, '') ?? 'gone'}`;
      if (OPENS.includes(s.state) && s.location !== truth) wrong.push(told);
      if (!OPENS.includes(s.state) && truth !== null) missed.push(told);
    }
    return { wrong, missed };
  }

  /** How many shortcuts' files are still there; a file may have two shortcuts. */
  alive() {
    return this.files().length;
  }
}
