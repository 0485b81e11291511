/**
 * Files that move at the worst moment: random acts at random intervals, a change deep down followed at once by a new
 * name above it among them. Afterwards the index is what GNU find says, what moved is still known as the same, and the
 * answers of saved searches are those of the files that are there; without anybody looking the place through again.
 */
import { execFileSync } from 'node:child_process';
import { appendFileSync, mkdirSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import type { SearchView } from '@rellin/contract';
import { seeded, type Random } from '@rellin/core/random';
import { Rellin, until } from './testing/harness.js';
import { slowdown } from './testing/slowdown.js';

const HISTORIES = Number(process.env['RELLIN_TEST_HISTORIES'] ?? 8);
const FIRST = Number(process.env['RELLIN_TEST_FIRST'] ?? 1);
const ACTS = 40;
/** So soon after the last act the index is right. */
const WITHIN_MS = 3000;

let rellin: Rellin;
let search: SearchView;
beforeAll(async () => {
  rellin = await Rellin.make();
  search = await rellin.post('/searches', { name: 'Logs', query: 'ext:log' });
});
afterAll(() => rellin?.remove());

interface Line {
  path: string;
  type: string;
  size: number;
  /** Milliseconds, rounded down. */
  mtime: number;
  inode: number;
}

const text = (lines: Line[]) => lines.map((l) => `${l.path} ${l.type} ${l.size} ${l.mtime} ${l.inode}`).sort();

function found(): Line[] {
  const out = execFileSync('find', [rellin.place, '-mindepth', '1', '-printf', '%P\\t%y\\t%s\\t%T@\\t%i\\0'], {
    maxBuffer: 1 << 26,
    encoding: 'utf8',
  });
  return out
    .split('\0')
    .filter(Boolean)
    .map((line) => {
      const [path, type, size, time, inode] = line.split('\t') as [string, string, string, string, string];
      const [seconds, parts] = time.split('.') as [string, string];
      const mtime = Math.floor(Number(seconds) * 1000 + Number(parts.slice(0, 9)) / 1e6);
      return { path, type, size: Number(size), mtime, inode: Number(inode) };
    });
}

interface Row extends Line {
  id: number;
  birth: number;
}

async function indexed(): Promise<Row[]> {
  const rows = await rellin.sql(
    `SELECT id::float8, original_path(place_id, id) AS path, type, size::float8, mtime, birth, inode FROM original
     WHERE place_id = 1 AND parent_id <> 0`,
  );
  const letter: Record<string, string> = { file: 'f', folder: 'd', link: 'l' };
  return (rows as unknown as Row[]).map((r) => ({ ...r, type: letter[r.type]!, mtime: Math.floor(r.mtime) }));
}

/** One act on the real files; what it did, in words. */
function act(random: Random, n: number): string {
  const all = found();
  const folders = all.filter((l) => l.type === 'd').map((l) => l.path);
  const files = all.filter((l) => l.type === 'f').map((l) => l.path);
  const at = (path: string) => join(rellin.place, path);
  const deep = folders.filter((f) => f.split('/').length >= 3);
  const change = (path: string) => {
    const kind = random.int(0, 4);
    if (kind === 0) writeFileSync(at(`${path}/new ${n}.log`), 'new');
    else if (kind === 1) mkdirSync(at(`${path}/made ${n}`));
    else {
      const inside = files.filter((f) => dirname(f) === path);
      const file = inside.length > 0 ? random.pick(inside) : undefined;
      if (!file) writeFileSync(at(`${path}/new ${n}.txt`), '');
      else if (kind === 2) appendFileSync(at(file), 'more');
      else if (kind === 3) rmSync(at(file));
      else {
        // as a program saves: beside it, then over it
        writeFileSync(at(`${file}.part`), `saved ${n}`);
        renameSync(at(`${file}.part`), at(file));
      }
    }
    return `${['write', 'make', 'append', 'remove', 'save'][kind]} in ${path}`;
  };
  const rename = (path: string, to: string) => {
    renameSync(at(path), at(to));
    return `${path} → ${to}`;
  };
  const roll = random.next();
  if (roll < 0.35 && deep.length > 0) {
    const folder = random.pick(deep);
    const done = change(folder);
    const parts = folder.split('/');
    const above = parts.slice(0, random.int(1, parts.length - 1)).join('/');
    return `${done}; ${rename(above, join(dirname(above), `renamed ${n}`))}`;
  }
  if (roll < 0.6 && folders.length > 0) return change(random.pick(folders));
  if (roll < 0.7 && folders.length > 1) {
    const from = random.pick(folders);
    const to = random.pick(['.', ...folders.filter((f) => f !== from && !f.startsWith(`${from}/`))]);
    return rename(from, join(to, `moved ${n}`));
  }
  if (roll < 0.75 && files.length > 0) return rename(random.pick(files), `file ${n}.log`);
  if (roll < 0.8 && folders.length > 4) {
    const path = random.pick(folders);
    rmSync(at(path), { recursive: true });
    return `remove ${path}`;
  }
  if (roll < 0.85 && folders.length > 0) {
    // another folder takes the name of one that went elsewhere
    const path = random.pick(folders);
    const done = rename(path, `away ${n}`);
    mkdirSync(at(path), { recursive: true });
    writeFileSync(at(`${path}/other ${n}.log`), '');
    return `${done}, taken`;
  }
  if (roll < 0.9) {
    const path = join(folders.length > 0 ? random.pick(folders) : '.', `tree ${n}/x/y`);
    mkdirSync(at(path), { recursive: true });
    writeFileSync(at(`${path}/leaf ${n}.log`), 'leaf');
    return `tree ${path}`;
  }
  if (folders.length > 0) {
    // through a folder that is there for a moment only
    const path = random.pick(folders);
    mkdirSync(at(`moment ${n}`));
    renameSync(at(path), at(`moment ${n}/in`));
    renameSync(at(`moment ${n}`), at(`after ${n}`));
    return `${path} → after ${n}/in`;
  }
  mkdirSync(at(`top ${n}/middle/low`), { recursive: true });
  return `top ${n}`;
}

afterEach(async () => {
  for (const name of readdirSync(rellin.place)) rmSync(join(rellin.place, name), { recursive: true });
  // what one history left behind is not told of the next
  await rellin.post('/places/1/scan');
  await until(indexed, (rows) => rows.length === 0);
});

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

describe('the index after random acts', () => {
  it.each(Array.from({ length: HISTORIES }, (_, i) => FIRST + i))(
    'is what find says, soon and of itself (history %i)',
    async (seed) => {
      const random = seeded(seed);
      for (let i = 0; i < 3; i++)
        for (const name of ['a', 'b']) {
          mkdirSync(join(rellin.place, `h${seed} ${i}/middle ${name}/low/deep`), { recursive: true });
          rellin.write(`h${seed} ${i}/middle ${name}/low/kept ${name}.log`, 'kept');
          rellin.write(`h${seed} ${i}/middle ${name}/low/deep/text ${name}.txt`, 'text');
        }
      const right = (rows: Row[]) => JSON.stringify(text(rows)) === JSON.stringify(text(found()));
      await until(indexed, right);
      await rellin.settled();
      const before = new Map((await indexed()).map((r) => [`${r.inode} ${r.birth}`, r]));
      const trail: string[] = [];
      for (let n = 0; n < ACTS; n++) {
        const wait = random.next() < 0.6 ? random.int(0, 20) : random.int(0, 200);
        trail.push(`${act(random, n)}; ${wait} ms`);
        await pause(wait);
      }
      const want = new Set(text(found()));
      const within = WITHIN_MS * slowdown();
      await until(indexed, right, within).catch(async () => {
        const have = new Set(text(await indexed()));
        const differ = [
          ...[...want].filter((l) => !have.has(l)).map((l) => `- ${l}`),
          ...[...have].filter((l) => !want.has(l)).map((l) => `+ ${l}`),
        ];
        throw new Error(`history ${seed} differs from find:\n${differ.join('\n')}\nafter\n${trail.join('\n')}`);
      });
      // what moved is the same to everything that points to it
      const now = await indexed();
      const strangers = now.filter((r) => {
        const was = before.get(`${r.inode} ${r.birth}`);
        return was !== undefined && was.id !== r.id;
      });
      const told = strangers.map((r) => `${before.get(`${r.inode} ${r.birth}`)!.path} → ${r.path}`);
      expect({ told, trail }).toEqual({ told: [], trail });
      // kept answers
      const logs = found()
        .filter((l) => l.path.endsWith('.log'))
        .map((l) => l.path)
        .sort();
      const answers = async () =>
        (await rellin.get(`/searches/${search.id}/answers`, { limit: 500 })).answers
          .map((a) => a.path.slice(rellin.place.length + 1))
          .sort();
      await until(answers, (paths) => JSON.stringify(paths) === JSON.stringify(logs), within);
      await until(
        () => rellin.get(`/searches/${search.id}`),
        (s) => s.count === logs.length,
        within,
      );
      const [place] = await rellin.get('/places');
      expect(place!.entries).toBe(now.length);
    },
    60_000,
  );
});
