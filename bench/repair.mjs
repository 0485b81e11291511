/**
 * Repair: a seeded generator perturbs a real tree under shortcuts (rename, move, edit, copy, delete, exchange, save
 * over, whole folders, to another place, and mixtures), half while Rellin runs and half while it is stopped. What it
 * made of it is compared with what really happened.
 */
import { cpSync, mkdirSync, mkdtempSync, realpathSync, renameSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, dirname, join } from 'node:path';
import { seeded } from '../packages/core/dist/random/index.js';
import { fingerprintSync } from '../packages/server/dist/disk/fingerprint.js';
import { median } from './measure.mjs';
import { withCatalogue } from './index.walks.mjs';
import { withServer } from './server.mjs';

const FILES = 100_000;
const SHORTCUTS = 10_000;
const WORDS = [
  'ring',
  'tide',
  'moth',
  'survey',
  'grant',
  'boat',
  'log',
  'plan',
  'notes',
  'draft',
  'cliff',
  'net',
  'form',
];
const EXTENSIONS = ['csv', 'txt', 'md', 'odt', 'png'];

/** A tree of that many files, a tenth of them alike to another in content; returns the files' paths below `root`. */
function makeTree(root, files, random, top = '') {
  const folders = [top];
  mkdirSync(join(root, top), { recursive: true });
  for (let i = 0; i < files / 20; i++) {
    const folder = join(random.pick(folders.slice(-400)), `${random.pick(WORDS)} ${i}`);
    mkdirSync(join(root, folder), { recursive: true });
    folders.push(folder);
  }
  const out = [];
  for (let i = 0; i < files; i++) {
    const path = join(
      random.pick(folders),
      `${random.pick(WORDS)} ${random.pick(WORDS)} ${i}.${random.pick(EXTENSIONS)}`,
    );
    const text =
      i % 10 === 0 ? `the same as others ${i % 200}\n` : `${random.pick(WORDS)} ${i}\n`.repeat(1 + random.int(0, 40));
    writeFileSync(join(root, path), text);
    const old = 1_600_000_000 + random.int(0, 100_000_000);
    utimesSync(join(root, path), old, old);
    out.push(path);
  }
  return out;
}

/** Shortcuts as the server would have made them, to originals the index knows. */
export async function insertShortcuts(client, placeId, root, paths) {
  const { rows } = await client.query(
    `SELECT id::float8, size::float8, mtime, birth, inode, kind, original_path(place_id, id) AS path
     FROM original WHERE place_id = $1 AND type = 'file'`,
    [placeId],
  );
  const wanted = new Set(paths);
  const list = rows
    .filter((r) => wanted.has(r.path))
    .map(({ id, kind, ...r }) => ({
      name: basename(r.path),
      kind,
      original_id: id,
      identity: {
        type: 'file',
        ...r,
        fingerprint: fingerprintSync(join(root, r.path), r.size, { roots: [root], own: [] }),
      },
    }));
  await client.query(
    `INSERT INTO shortcut (id, name, target, kind, place_id, original_id, identity, state, state_since, added_at)
     SELECT gen_random_uuid(), name, 'original', kind, $2, original_id, identity, 'ready', now(), now()
     FROM jsonb_to_recordset($1) r(name text, kind text, original_id bigint, identity jsonb)`,
    [JSON.stringify(list), placeId],
  );
}

/** Every place is looked through and watched. */
const ready = ({ call, until }) =>
  until(
    () => call('GET', '/places'),
    (places) => places.every((p) => p.scan === 'done' && p.watching !== 'off'),
  );

/**
 * Starts a server on places once, until they are looked through; returns what starts it on them again, and the first
 * one's id.
 * @param {import('pg').Client} client
 * @param {string} url
 * @param {[name: string, root: string][]} roots
 */
export async function lookedThrough(client, url, roots) {
  const places = roots.map(([name, root]) => ({ name, root, type: /** @type {const} */ ('fixed') }));
  /**
   * @template T
   * @param {(server: import('./server.mjs').Server) => Promise<T> | T} work
   */
  const serve = (work) =>
    withServer({ url, places }, async (server) => {
      await ready(server);
      return work(server);
    });
  await serve(() => undefined);
  const { rows } = await client.query(`SELECT id FROM place WHERE root = $1`, [roots[0]?.[1]]);
  return { serve, placeId: rows[0].id };
}

/** Two places, a scanned tree and its shortcuts; `use` gets what starts the server on it. */
async function withTree(files, chosen, use, top) {
  const base = realpathSync(mkdtempSync(join(tmpdir(), 'rellin-repair-')));
  const random = seeded(11);
  const root = join(base, 'home');
  const other = join(base, 'other');
  mkdirSync(root);
  mkdirSync(other);
  try {
    const all = makeTree(root, files, random, top);
    return await withCatalogue(async (client, url) => {
      const { serve, placeId } = await lookedThrough(client, url, [
        ['home', root],
        ['other', other],
      ]);
      const targets = chosen(all, random);
      await insertShortcuts(client, placeId, root, targets);
      return use({ client, serve, root, other, targets, random });
    });
  } finally {
    rmSync(base, { recursive: true, force: true });
  }
}

const put = (path, text) => {
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(path, text);
};

/** Does it to the disk; returns, by the path a shortcut was made for, what became of it. */
function perturb({ root, other, targets, random, mark, known }) {
  const truth = new Map();
  const at = (path) => join(root, path);
  const moved = (from, to, how = 'moved') => {
    mkdirSync(dirname(to), { recursive: true });
    renameSync(at(from), to);
    truth.set(from, { how, now: to });
  };
  const carried = (from, to, edited) => {
    mkdirSync(dirname(to), { recursive: true });
    cpSync(at(from), to, { preserveTimestamps: true });
    if (edited) writeFileSync(to, 'one more line\n', { flag: 'a' });
    rmSync(at(from));
    truth.set(from, { how: edited ? 'edited elsewhere' : 'carried', now: to });
  };
  const folders = new Map();
  for (const path of targets) folders.set(dirname(path), [...(folders.get(dirname(path)) ?? []), path]);
  let done = 0;
  // whole folders first: what lies in them goes along
  for (const [folder, list] of folders) {
    if (folder === '.' || list.length < 3 || done > targets.length / 10 || random.next() < 0.6) continue;
    if (!exists(at(folder))) continue;
    const to = join(root, `moved ${mark}`, basename(folder));
    mkdirSync(dirname(to), { recursive: true });
    renameSync(at(folder), to);
    // what happened to something in it before, goes along
    for (const fate of [...known.values(), ...truth.values()])
      if (fate.now?.startsWith(`${at(folder)}/`)) fate.now = join(to, fate.now.slice(at(folder).length + 1));
    for (const from of targets)
      if (!truth.has(from) && from.startsWith(`${folder}/`)) {
        truth.set(from, { how: 'folder', now: join(to, from.slice(folder.length + 1)) });
        done++;
      }
  }
  let before;
  for (const from of targets) {
    if (truth.has(from)) continue;
    const name = basename(from);
    const n = random.next();
    if (n < 0.12) moved(from, join(dirname(at(from)), `renamed ${name}`));
    else if (n < 0.22) moved(from, join(root, `tidied ${mark}`, `${random.pick(WORDS)}`, name));
    else if (n < 0.27) {
      moved(from, join(root, `tidied ${mark}`, `new ${name}`));
      writeFileSync(truth.get(from).now, 'and edited\n', { flag: 'a' });
    } else if (n < 0.32) carried(from, join(other, mark, name), false);
    else if (n < 0.36) carried(from, join(other, mark, 'kept on', name), true);
    else if (n < 0.42) {
      cpSync(at(from), join(dirname(at(from)), `copy of ${name}`));
      truth.set(from, { how: 'copied', now: at(from) });
    } else if (n < 0.5) {
      rmSync(at(from));
      truth.set(from, { how: 'gone', now: undefined });
    } else if (n < 0.56) {
      const saved = `${at(from)}.new`;
      put(saved, `saved anew ${n}\n`);
      renameSync(saved, at(from));
      truth.set(from, { how: 'saved over', now: at(from) });
    } else if (n < 0.62 && before) {
      const aside = at(`${mark} aside`);
      renameSync(at(from), aside);
      renameSync(at(before), at(from));
      renameSync(aside, at(before));
      truth.set(from, { how: 'exchanged', now: at(before) });
      truth.set(before, { how: 'exchanged', now: at(from) });
      before = undefined;
    } else if (n < 0.7 && !before) before = from;
    else truth.set(from, { how: 'left', now: at(from) });
  }
  if (before) truth.set(before, { how: 'left', now: at(before) });
  return truth;
}

/** What the disk told is worked off, and the states stay as they are. */
export async function settle(client, { call, until, idle }) {
  const states = async () => JSON.stringify((await client.query(`SELECT id, state FROM shortcut ORDER BY id`)).rows);
  let before = '';
  await until(
    async () => {
      await idle();
      const now = await states();
      const same = now === before;
      before = now;
      return same;
    },
    (same) => same,
    600_000,
  );
  await call('GET', '/places');
}

let measured;
const perturbed = () =>
  (measured ??= withTree(
    FILES,
    // one in ten, the alike ones among them
    (all) => all.filter((_, i) => i % 10 === Math.floor(i / 10) % 10),
    async ({ client, serve, root, other, targets, random }) => {
      const { rows } = await client.query(`SELECT id, identity->>'path' AS path FROM shortcut`);
      const pathOf = new Map(rows.map((r) => [r.id, r.path]));
      const half = targets.length >> 1;
      const truth = new Map();
      const take = (more) => more.forEach((value, key) => truth.set(key, value));
      const some = (list, mark) => perturb({ root, other, targets: list, random, mark, known: truth });
      await serve(async (server) => {
        take(some(targets.slice(0, half), 'live'));
        await settle(client, server);
      });
      // what a folder's move took along cannot be perturbed where it no longer is
      take(
        some(
          targets.slice(half).filter((t) => !truth.has(t) && exists(join(root, t))),
          'stopped',
        ),
      );
      return serve(async (server) => {
        await settle(client, server);
        const shortcuts = await server.call('GET', '/shortcuts');
        const checkUp = await server.call('GET', '/check-up');
        const rootOf = { home: root, other };
        const candidates = new Map(checkUp.needs.map((n) => [n.shortcutId, n.candidates]));
        for (const move of checkUp.folderMoves)
          for (const e of move.explains) candidates.set(e.shortcutId, [{ placeName: move.to.placeName, path: e.path }]);
        const count = { moved: 0, recalled: 0, wrong: 0, asked: 0, first: 0 };
        const missed = {};
        const wrongly = {};
        for (const s of shortcuts) {
          const fate = truth.get(pathOf.get(s.id));
          if (!fate) continue;
          const right = s.location === fate.now;
          const isSure = s.state === 'followed' || s.state === 'ready' || s.state === 'saved-over';
          if (s.state === 'followed' && !right) {
            count.wrong++;
            wrongly[fate.how] = (wrongly[fate.how] ?? 0) + 1;
          }
          if (['moved', 'folder', 'carried', 'exchanged'].includes(fate.how)) {
            count.moved++;
            if (right && isSure) count.recalled++;
            else if (s.state !== 'unsure')
              missed[`${fate.how} ${s.state}`] = (missed[`${fate.how} ${s.state}`] ?? 0) + 1;
            else count.moved--; // of several alike, asking is neither
          }
          if (fate.how === 'edited elsewhere' && candidates.has(s.id)) {
            count.asked++;
            const [best] = candidates.get(s.id);
            if (best && join(rootOf[best.placeName], best.path) === fate.now) count.first++;
          }
        }
        return { ...count, missed: JSON.stringify(missed), wrongly: JSON.stringify(wrongly) };
      });
    },
  ));

const exists = (path) => {
  try {
    renameSync(path, path);
    return true;
  } catch {
    return false;
  }
};

export async function repairRecall() {
  const { moved, recalled, missed } = await perturbed();
  return [
    {
      value: recalled / moved,
      unit: 'share',
      note: `${recalled} of ${moved} moved or renamed; missed ${missed}; bar 0.99`,
    },
  ];
}
export async function repairWrong() {
  const { wrong, wrongly } = await perturbed();
  return [
    {
      value: wrong,
      unit: 'count',
      note: `wrong automatic follows under ${SHORTCUTS} shortcuts, by what had happened ${wrongly}; bar 0`,
    },
  ];
}
export async function repairFirst() {
  const { asked, first } = await perturbed();
  return [{ value: first / asked, unit: 'share', note: `first suggestion right, of ${asked} edited and carried away` }];
}

/** From renaming one file to its shortcut having followed, in trees of a thousand to a hundred thousand files. */
export async function repairEvent() {
  const out = [];
  for (const files of SIZES)
    out.push(
      await withTree(
        files,
        (all) => all.slice(0, 200),
        ({ client, serve, root, targets }) =>
          serve(async ({ until, idle }) => {
            await idle();
            const times = [];
            for (const path of targets.slice(0, 30)) {
              const started = performance.now();
              renameSync(join(root, path), join(root, dirname(path), `was ${basename(path)}`));
              await until(
                () => client.query(`SELECT state FROM shortcut WHERE name = $1`, [basename(path)]),
                ({ rows }) => rows[0].state === 'followed',
              );
              times.push(performance.now() - started);
            }
            times.sort((a, b) => a - b);
            return { size: files, ms: times[Math.ceil(times.length * 0.95) - 1], middle: median(times) };
          }),
      ),
    );
  return out.map(({ size, ms, middle }) => ({
    value: ms,
    unit: 'ms p95',
    note: `${size} files, median ${middle.toFixed(0)} ms; bar 2,000; ${growing(out)}`,
  }));
}

const SIZES = [1000, 10_000, 100_000];
/** By which power of the size the time grows, from each size to the next. */
const growing = (rows) =>
  `exponents ${rows
    .slice(1)
    .map(({ size, ms }, i) => (Math.log(ms / rows[i].ms) / Math.log(size / rows[i].size)).toFixed(2))
    .join(', ')}`;

/** From moving a folder to every shortcut below it having followed. */
async function movedFolders(sizes) {
  const out = [];
  for (const size of sizes)
    out.push(
      await withTree(
        size,
        (all) => all,
        ({ client, serve, root }) =>
          serve(async ({ until, idle }) => {
            // of a hundred thousand the fewest characters take long to find; a follow does not wait for them
            if (size <= 10_000) await idle();
            const started = performance.now();
            renameSync(join(root, 'all of it'), join(root, 'moved'));
            await until(
              // the first that has not: to count ten thousand rows every few milliseconds would take a core of two
              () => client.query(`SELECT 1 FROM shortcut WHERE state <> 'followed' LIMIT 1`),
              (answer) => answer.rows.length === 0,
              120_000,
              20,
            );
            return { size, ms: performance.now() - started };
          }),
        'all of it',
      ),
    );
  return out.map(({ size, ms }) => ({
    value: ms,
    unit: 'ms',
    note: `a moved folder of ${size} shortcuts; bar 2,000 at 10,000${out.length > 1 ? `; ${growing(out)}` : ''}`,
  }));
}

export const repairFolder = () => movedFolders([1000, 10_000]);
/** Takes minutes. */
export const repairFolderLarge = () => movedFolders([100_000]);
