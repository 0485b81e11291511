/**
 * What lies on the disk, made by somebody who means harm: pipes in the place of files, folders swapped for links at the
 * worst moment, our own data as a place. What is promised stands in docs/security.md.
 */
import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import {
  existsSync,
  linkSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  truncateSync,
  unlinkSync,
  writeFileSync,
  chmodSync,
  utimesSync,
  mkdtempSync,
} from 'node:fs';
import net from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { identities, whyShut } from '../../src/disk/inside.js';
import { compileExcludes } from '../../src/indexing/excludes.js';
import { PROJECT, Refused, Rellin, until } from '../testing/harness.js';
import { ask } from '../testing/raw.js';
import { asOrdinary, giveAll, ORDINARY } from '../testing/users.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({ places: ['place', 'outside'], env: (r) => onlyPlace(r) }, (r) => {
    writeFileSync(join(r.base, 'outside/secret.txt'), 'the secret');
    mkdirSync(join(r.place, 'inbox'));
    mkdirSync(join(r.place, 'archive'));
  });
});
afterAll(() => rellin?.remove());

const onlyPlace = (r: Rellin) => ({
  RELLIN_PLACES: JSON.stringify([{ name: 'place', root: r.place, type: 'fixed' }]),
});
const own = (path: string) => {
  if (asOrdinary) giveAll(path, ORDINARY);
};
const located = async (path: string) => {
  own(rellin.place);
  const at = await until(
    () => rellin.post('/originals/locate', { path: join(rellin.place, path) }).catch(() => undefined),
    (l) => l !== undefined,
  );
  return { placeId: at!.placeId, originalId: at!.originalId };
};
const content = async (path: string) => {
  const { placeId, originalId } = await located(path);
  return ask(rellin.address, `/api/originals/${placeId}/${originalId}/content`, {
    headers: { authorization: `Bearer ${rellin.token}` },
  });
};
const secretsIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((e) => e.isFile())
    .map((e) => join(e.parentPath, e.name))
    .filter((path) => readFileSync(path, 'utf8').includes('the secret'));

describe('a pipe, socket or device in the place of a file', () => {
  it('freezes nothing: each way to it is refused at once, and others go on', async () => {
    for (const name of ['pipe.png', 'pipe.txt', 'pipe.odt', 'pipe.desktop'])
      execFileSync('mkfifo', [join(rellin.place, name)]);
    const socket = net.createServer();
    await new Promise<void>((resolve) => socket.listen(join(rellin.place, 'socket.txt'), resolve));
    rellin.write('real.txt', 'real');
    const asked = Date.now();
    for (const name of ['pipe.png', 'pipe.txt', 'socket.txt']) {
      const { placeId, originalId } = await located(name);
      const headers = { authorization: `Bearer ${rellin.token}` };
      expect((await content(name)).status).toBe(422);
      const { status } = await ask(rellin.address, `/api/pictures/originals/${placeId}/${originalId}`, { headers });
      expect([404, 422]).toContain(status);
      expect((await rellin.refusal(rellin.post('/openings', { placeId, originalId, route: 'test' }))).kind).toBe(
        'cannot-open',
      );
      expect((await rellin.refusal(rellin.add(join(rellin.place, name)))).kind).toBe('not-valid');
      const into = await located('archive');
      const filing = rellin.post('/filing', { originals: [{ placeId, originalId }], into, how: 'copy' });
      expect((await rellin.refusal(filing)).problem.detail).toMatch(/pipe/);
    }
    expect(await (await content('real.txt')).body).toBe('real');
    expect(Date.now() - asked).toBeLessThan(15_000);
    socket.close();
  });

  it('that takes the place of a picture just before its thumbnail is made is not read', async () => {
    const at = rellin.write('swap.png', 'x');
    const { placeId, originalId } = await located('swap.png');
    unlinkSync(at);
    execFileSync('mkfifo', [at]);
    const headers = { authorization: `Bearer ${rellin.token}` };
    const answer = await ask(rellin.address, `/api/pictures/originals/${placeId}/${originalId}`, { headers });
    expect([404, 422]).toContain(answer.status);
  });

  it('among the system’s entries and icons does not keep the server from starting or stopping', async () => {
    const r = await Rellin.make({}, (made) => {
      const applications = join(made.base, 'system/applications');
      mkdirSync(applications, { recursive: true });
      mkdirSync(join(made.base, 'share/icons'), { recursive: true });
      execFileSync('mkfifo', [join(applications, 'pipe.desktop')]);
      execFileSync('mkfifo', [join(made.base, 'share/recently-used.xbel')]);
      mkdirSync(join(made.base, 'system/pixmaps'));
      execFileSync('mkfifo', [join(made.base, 'system/pixmaps/pipe.png')]);
      writeFileSync(
        join(applications, 'tide.desktop'),
        '[Desktop Entry]\nType=Application\nName=Tide\nExec=tide %f\nIcon=pipe\n',
      );
    });
    expect(
      (await ask(r.address, '/api/pictures/programs/tide.desktop', { headers: { authorization: `Bearer ${r.token}` } }))
        .status,
    ).toBe(204);
    const stopped = Date.now();
    expect(await r.stop()).toBe(0);
    expect(Date.now() - stopped).toBeLessThan(10_000);
    await r.remove();
  });
});

/** Swaps a folder for a link and back as fast as it can, in a process of its own, until it is ended. */
function swapping(folder: string, to: string): ChildProcess {
  const script = `
    const fs = require('fs');
    const [folder, aside, to] = ${JSON.stringify([folder, `${folder}.aside`, to])};
    for (;;) {
      try { fs.renameSync(folder, aside); fs.symlinkSync(to, folder); } catch {}
      try { fs.unlinkSync(folder); fs.renameSync(aside, folder); } catch {}
    }`;
  return spawn(process.execPath, ['-e', script], { stdio: 'ignore' });
}

describe('a folder that is swapped for a link outside at the worst moment', () => {
  const ROUNDS = 15;

  async function whileSwapping(path: string, work: (round: number) => Promise<void>): Promise<void> {
    const folder = join(rellin.place, path);
    const swapper = swapping(folder, join(rellin.base, 'outside'));
    try {
      for (let i = 0; i < ROUNDS; i++)
        await work(i).catch((error: unknown) => {
          if (!(error instanceof Refused)) throw error;
        });
    } finally {
      swapper.kill('SIGKILL');
      await new Promise((resolve) => swapper.once('exit', resolve));
      if (lstatSync(folder, { throwIfNoEntry: false })?.isSymbolicLink()) unlinkSync(folder);
      if (existsSync(`${folder}.aside`)) renameSync(`${folder}.aside`, folder);
      own(rellin.place);
    }
  }

  it('never gives away what lies outside, neither as content nor as a picture', async () => {
    rellin.write('mine/secret.txt', 'mine');
    const { placeId, originalId } = await located('mine/secret.txt');
    let read = 0;
    await whileSwapping('mine', async () => {
      const answer = await ask(rellin.address, `/api/originals/${placeId}/${originalId}/content`, {
        headers: { authorization: `Bearer ${rellin.token}` },
      });
      expect(answer.body).not.toContain('the secret');
      if (answer.body === 'mine') read++;
    });
    expect(read).toBeGreaterThanOrEqual(0);
  });

  it('never lets what lies outside be copied or moved in', async () => {
    rellin.write('from/secret.txt', 'mine');
    const ref = await located('from/secret.txt');
    const into = await located('archive');
    for (const how of ['copy', 'move'] as const)
      await whileSwapping('from', async () => {
        await rellin.post('/filing', { originals: [ref], into, how, clash: 'keep-both' });
      });
    expect(secretsIn(rellin.place)).toEqual([]);
    expect(readFileSync(join(rellin.base, 'outside/secret.txt'), 'utf8')).toBe('the secret');
  });

  it('never lets anything be filed or uploaded outside', async () => {
    mkdirSync(join(rellin.place, 'target'));
    const into = await located('target');
    await whileSwapping('target', async (i) => {
      rellin.write(`inbox/file ${i}.txt`, 'to be filed');
      const ref = await located(`inbox/file ${i}.txt`);
      await rellin.post('/filing', { originals: [ref], into, how: 'move' });
    });
    await whileSwapping('target', async (i) => {
      const query = new URLSearchParams({
        ...Object.fromEntries(Object.entries(into).map(([k, v]) => [k, String(v)])),
        name: `up ${i}`,
      });
      await ask(rellin.address, `/api/filing/upload?${query}`, {
        method: 'POST',
        headers: { authorization: `Bearer ${rellin.token}`, 'content-type': 'application/octet-stream' },
        body: 'uploaded',
      });
    });
    expect(readdirSync(join(rellin.base, 'outside'))).toEqual(['secret.txt']);
  });

  it('never lets an alias or a published folder be written outside', async () => {
    rellin.write('linked.txt');
    mkdirSync(join(rellin.place, 'links'));
    await located('links');
    const made = await rellin.add(join(rellin.place, 'linked.txt'));
    const collection = await rellin.post('/collections', { name: 'Rounds', shortcutIds: [made.id] });
    await whileSwapping('links', async (i) => {
      await rellin.post('/aliases', { shortcutId: made.id, folder: join(rellin.place, 'links'), name: `alias ${i}` });
      if (i % 10 === 0)
        await rellin.post('/aliases/publications', {
          source: 'collection',
          sourceId: collection.id,
          folder: join(rellin.place, 'links'),
        });
    });
    expect(readdirSync(join(rellin.base, 'outside'))).toEqual(['secret.txt']);
  }, 240_000);
});

describe('what was chosen and is another by the time it is filed', () => {
  it('is not filed', async () => {
    const path = rellin.write('inbox/chosen.txt', 'chosen');
    const ref = await located('inbox/chosen.txt');
    const into = await located('archive');
    // the index knows the first; the disk holds another by now, which is what is looked at and then filed
    renameSync(path, join(rellin.place, 'inbox/aside.txt'));
    symlinkSync(join(rellin.base, 'outside/secret.txt'), path);
    const answer = await rellin.post('/filing', { originals: [ref], into, how: 'copy' }).catch((e: Error) => e);
    // a link is filed as a link: what it leads to stays where it is
    if (!(answer instanceof Error))
      expect(lstatSync(join(rellin.place, 'archive/chosen.txt')).isSymbolicLink()).toBe(true);
    expect(secretsIn(rellin.place)).toEqual([]);
  });
});

describe('Rellin’s own data folder', () => {
  it('cannot be a place, by no way to it, and nothing in it either', async () => {
    symlinkSync(rellin.data, join(rellin.base, 'way in'));
    for (const root of [rellin.data, join(rellin.base, 'way in'), `${rellin.data}/`, join(rellin.place, '../data')])
      expect((await rellin.refusal(rellin.post('/places', { root }))).kind).toBe('forbidden');
    mkdirSync(join(rellin.data, 'below'));
    own(rellin.data);
    expect((await rellin.refusal(rellin.post('/places', { root: join(rellin.data, 'below') }))).kind).toBe('forbidden');
  });

  it('in a place that contains it is left out: not listed, found, read, or written into', async () => {
    const r = await Rellin.make(
      {
        env: (made) => ({ RELLIN_PLACES: JSON.stringify([{ name: 'home', root: made.base, type: 'fixed' }]) }),
      },
      (made) => {
        made.write('here.txt');
        symlinkSync(made.data, join(made.place, 'way in'));
      },
    );
    const paths = await r.sql(`SELECT name FROM original WHERE name IN ('command-token', 'page-name', 'data')`);
    expect(paths).toEqual([]);
    for (const path of [join(r.data, 'command-token'), join(r.place, 'way in/command-token')])
      expect(['not-found', 'forbidden', 'changed-since']).toContain(
        (await r.refusal(r.post('/originals/locate', { path }))).kind,
      );
    const way = await r.post('/originals/locate', { path: join(r.place, 'way in') });
    const answer = await ask(r.address, `/api/originals/${way.placeId}/${way.originalId}/content`, {
      headers: { authorization: `Bearer ${r.token}` },
    });
    expect(answer.status).toBeGreaterThanOrEqual(400);
    const into = { placeId: way.placeId, originalId: way.originalId };
    const headers = { authorization: `Bearer ${r.token}`, 'content-type': 'application/octet-stream' };
    const upload = await ask(
      r.address,
      `/api/filing/upload?placeId=${into.placeId}&originalId=${into.originalId}&name=x`,
      { method: 'POST', headers, body: 'x' },
    );
    expect(upload.status).toBe(403);
    expect(existsSync(join(r.data, 'x'))).toBe(false);
    await r.remove();
  });

  it('that was a place in an earlier version is away, with the reason', async () => {
    const r = await Rellin.make({
      env: (made) => ({
        RELLIN_PLACES: JSON.stringify([
          { name: 'place', root: made.place, type: 'fixed' },
          { name: 'own', root: made.data, type: 'fixed' },
        ]),
      }),
    });
    const places = await r.get('/places');
    expect(places.find((p) => p.name === 'own')).toMatchObject({
      state: 'away',
      awayReason: expect.stringContaining('own data folder'),
    });
    await r.remove();
  });
});

describe('what only looks like ours', () => {
  it('is never deleted, whatever its name', async () => {
    mkdirSync(join(rellin.place, 'published'));
    const mine = ['.rellin-link-mine.txt', '.rellin-link-0123456789ab', '.rellin-part-mine', '.rellin-replaced-mine/x'];
    for (const name of mine) rellin.write(`published/${name}`, 'mine');
    await located('published');
    const made = await rellin.add(rellin.write('to publish.txt'));
    await rellin.post('/aliases', { shortcutId: made.id, folder: join(rellin.place, 'published') });
    await until(
      () => readdirSync(join(rellin.place, 'published')),
      (names) => names.some((n) => n.startsWith('to publish')),
    );
    for (const name of mine) expect(readFileSync(join(rellin.place, 'published', name), 'utf8')).toBe('mine');
  });
});

describe('a file that is cut short while it is sent', () => {
  it('ends the answer instead of holding it', async () => {
    const path = rellin.write('long.txt', 'x'.repeat(60_000_000));
    const { placeId, originalId } = await located('long.txt');
    const answer = await fetch(`${rellin.address}/api/originals/${placeId}/${originalId}/content`, {
      headers: { authorization: `Bearer ${rellin.token}` },
    });
    const reader = answer.body!.getReader();
    await reader.read();
    truncateSync(path, 10);
    const outcome = await (async () => {
      for (;;) {
        const { done } = await reader.read();
        if (done) return 'ended';
      }
    })().catch(() => 'broken off');
    expect(outcome).toBe('broken off');
    expect((await content('linked.txt')).status).toBe(200);
  });
});

describe('where the kernel shows its own state', () => {
  it('is no place, and is left out of one that contains it', async () => {
    for (const root of ['/proc', '/sys', '/proc/self/fd', '/sys/kernel'])
      expect((await rellin.refusal(rellin.post('/places', { root, name: root }))).problem.detail).toMatch(
        /belongs to the system|is not a folder/,
      );
    // looked at by the walk itself: the whole machine as a place would take its time here
    const shut = identities([]);
    for (const path of ['/proc', '/proc/sys', '/sys', '/dev/pts'])
      expect([path, whyShut(shut, lstatSync(path).dev, lstatSync(path).ino)]).toEqual([path, 'kernel']);
    for (const path of ['/', '/tmp', '/dev/shm', rellin.place])
      expect([path, whyShut(shut, lstatSync(path).dev, lstatSync(path).ino)]).toEqual([path, undefined]);
    expect(compileExcludes([], shut).isShut(lstatSync('/proc'))).toBe(true);
  });
});

describe('locating', () => {
  it('does not tell whether something exists outside', async () => {
    symlinkSync(join(rellin.base, 'outside'), join(rellin.place, 'leads out'));
    await located('leads out');
    const kinds = [];
    for (const name of ['secret.txt', 'absent', 'absent/at all'])
      kinds.push(
        (
          await rellin.refusal(rellin.post('/originals/locate', { path: join(rellin.place, 'leads out', name) }))
        ).problem.detail.replaceAll(name, '…'),
      );
    expect(kinds).toEqual(Array(3).fill(kinds[0]));
  });
});

describe('a move that replaces another name of the same file', () => {
  it('is undone to both names', async () => {
    const path = rellin.write('inbox/two names.txt', 'one file');
    linkSync(path, join(rellin.place, 'archive/two names.txt'));
    own(rellin.place);
    const ref = await located('inbox/two names.txt');
    const into = await located('archive');
    await rellin.post('/filing', { originals: [ref], into, how: 'move', clash: 'replace' });
    expect(existsSync(path)).toBe(false);
    await rellin.post('/journal/undo');
    expect(readFileSync(path, 'utf8')).toBe('one file');
    expect(readFileSync(join(rellin.place, 'archive/two names.txt'), 'utf8')).toBe('one file');
    await rellin.post('/journal/redo');
    await rellin.post('/journal/undo');
    expect([existsSync(path), existsSync(join(rellin.place, 'archive/two names.txt'))]).toEqual([true, true]);
  });
});

describe('what is carried to another file system', () => {
  const other = statSync('/dev/shm').dev === statSync('/tmp').dev ? undefined : '/dev/shm';
  const hasAttributes = spawnSync('setfattr', ['--version']).status === 0;

  (other ? it : it.skip)('keeps its modes, times and owner, there and back', async () => {
    const root = mkdtempSync(`${other}/rellin-`);
    own(root);
    const r = await Rellin.make(
      {
        env: (made) => ({
          RELLIN_PLACES: JSON.stringify([
            { name: 'place', root: made.place, type: 'fixed' },
            { name: 'drive', root, type: 'removable' },
          ]),
        }),
      },
      (made) => {
        made.write('box/private/key', 'k');
        chmodSync(join(made.place, 'box/private'), 0o700);
        chmodSync(join(made.place, 'box/private/key'), 0o400);
        chmodSync(join(made.place, 'box'), 0o750);
        utimesSync(join(made.place, 'box/private/key'), 1e9, 1e9);
        utimesSync(join(made.place, 'box/private'), 1e9 + 1, 1e9 + 1);
        symlinkSync('key', join(made.place, 'box/private/link'));
        utimesSync(join(made.place, 'box'), 1e9 + 2, 1e9 + 2);
      },
    );
    const facts = (base: string) =>
      ['box', 'box/private', 'box/private/key'].map((path) => {
        const s = statSync(join(base, path));
        return [path, (s.mode & 0o7777).toString(8), s.uid, s.gid, path === 'box/private' ? 0 : s.mtimeMs];
      });
    const before = facts(r.place);
    const at = async (path: string) => {
      const l = await r.post('/originals/locate', { path });
      return { placeId: l.placeId, originalId: l.originalId };
    };
    const done = await r.post('/filing', {
      originals: [await at(join(r.place, 'box'))],
      into: await at(root),
      how: 'move',
    });
    expect(done).toMatchObject({ state: 'done', notes: [] });
    expect(existsSync(join(r.place, 'box'))).toBe(false);
    expect(facts(root)).toEqual(before);
    await r.post('/journal/undo');
    expect(facts(r.place)).toEqual(before);
    expect(existsSync(join(root, 'box'))).toBe(false);
    await r.remove();
    rmSync(root, { recursive: true });
  });

  (other && hasAttributes ? it : it.skip)('keeps its extended attributes, or says that it could not', async () => {
    const root = mkdtempSync(`${other}/rellin-`);
    own(root);
    const r = await Rellin.make(
      {
        env: (made) => ({
          RELLIN_PLACES: JSON.stringify([
            { name: 'place', root: made.place, type: 'fixed' },
            { name: 'drive', root, type: 'removable' },
          ]),
        }),
      },
      (made) => void made.write('marked.txt', 'x'),
    );
    const set = spawnSync('setfattr', ['-n', 'user.ring', '-v', 'MH1', join(r.place, 'marked.txt')]);
    const at = async (path: string) => {
      const l = await r.post('/originals/locate', { path });
      return { placeId: l.placeId, originalId: l.originalId };
    };
    const done = await r.post('/filing', {
      originals: [await at(join(r.place, 'marked.txt'))],
      into: await at(root),
      how: 'move',
    });
    const kept =
      spawnSync('getfattr', ['-n', 'user.ring', '--only-values', join(root, 'marked.txt')], { encoding: 'utf8' })
        .stdout === 'MH1';
    if (done.state !== 'done') throw new Error('it clashed');
    if (set.status === 0) expect([kept, done.notes.length]).toEqual(kept ? [true, 0] : [false, 1]);
    await r.remove();
    rmSync(root, { recursive: true });
  });
});

describe('an upload', () => {
  it('cut off by the end of the server leaves nothing behind', async () => {
    const r = await Rellin.make({});
    const { placeId, originalId } = await r.post('/originals/locate', { path: r.place });
    const socket = net.connect(Number(new URL(r.address).port), '127.0.0.1');
    socket.on('error', () => undefined);
    socket.write(
      `POST /api/filing/upload?placeId=${placeId}&originalId=${originalId}&name=big.bin HTTP/1.1\r\nHost: ${new URL(r.address).host}\r\n` +
        `Authorization: Bearer ${r.token}\r\nContent-Type: application/octet-stream\r\nContent-Length: 100000000\r\n\r\n${'x'.repeat(100_000)}`,
    );
    await until(
      () => readdirSync(r.place).filter((n) => n.startsWith('.rellin-part-')),
      (parts) => parts.length === 1,
    );
    await r.kill();
    await r.start();
    await until(
      () => readdirSync(r.place),
      (names) => names.length === 0,
    );
    socket.destroy();
    await r.remove();
  });

  it('of one name, twenty at once, keeps all of them', async () => {
    const into = await located('archive');
    const headers = { authorization: `Bearer ${rellin.token}`, 'content-type': 'application/octet-stream' };
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        ask(
          rellin.address,
          `/api/filing/upload?placeId=${into.placeId}&originalId=${into.originalId}&name=same.txt&clash=keep-both`,
          { method: 'POST', headers, body: `number ${i}` },
        ),
      ),
    );
    expect(answers.map((a) => a.status)).toEqual(Array(20).fill(200));
    const texts = readdirSync(join(rellin.place, 'archive'))
      .filter((n) => n.startsWith('same'))
      .map((n) => readFileSync(join(rellin.place, 'archive', n), 'utf8'));
    expect(new Set(texts).size).toBe(20);
  });

  it.each([['x'.repeat(256)], ['é'.repeat(128)], ['a/b'], ['..'], ['.'], ['']])(
    'named %j is refused, and no intent stays',
    async (name) => {
      const into = await located('archive');
      const headers = { authorization: `Bearer ${rellin.token}`, 'content-type': 'application/octet-stream' };
      const answer = await ask(
        rellin.address,
        `/api/filing/upload?placeId=${into.placeId}&originalId=${into.originalId}&name=${encodeURIComponent(name)}`,
        { method: 'POST', headers, body: 'x' },
      );
      expect(answer.status).toBe(400);
      await until(
        () => rellin.sql(`SELECT * FROM filing_busy`),
        (busy) => busy.length === 0,
      );
    },
  );
});

describe('programs that are started', () => {
  it('inherit nothing of ours', async () => {
    const r = await Rellin.make(
      { env: { RELLIN_OPENER: 'system', RELLIN_ENTRY_CODE: 'a-secret-code', PGPASSWORD: 'a-secret', TERM: 'kept' } },
      (made) => {
        mkdirSync(join(made.base, 'system/applications'), { recursive: true });
        writeFileSync(
          join(made.base, 'print.sh'),
          `#!/bin/sh\nenv > "${made.base}/seen.part"; cat /proc/self/cmdline >> "${made.base}/seen.part"; mv "${made.base}/seen.part" "${made.base}/seen"\n`,
          { mode: 0o755 },
        );
        writeFileSync(
          join(made.base, 'system/applications/print.desktop'),
          `[Desktop Entry]\nType=Application\nName=Print\nExec=${made.base}/print.sh\n`,
        );
      },
    );
    await r.post('/openings', { programId: 'print.desktop', route: 'test' });
    const seen = await until(
      () => (existsSync(join(r.base, 'seen')) ? readFileSync(join(r.base, 'seen'), 'utf8') : ''),
      (text) => text !== '',
    );
    expect(seen).not.toMatch(/RELLIN_|DATABASE_URL|postgres|secret/);
    expect(seen).toContain('TERM=kept');
    await r.remove();
  });
});

describe('the rule of the house', () => {
  it('nobody but the modules named for it touches the disk (lint)', () => {
    const lint = join(PROJECT, 'node_modules/eslint/bin/eslint.js');
    const args = [
      lint,
      '--stdin',
      '--stdin-filename',
      join(PROJECT, 'packages/server/src/openings/openings.repository.ts'),
    ];
    const probe = `import { readFileSync } from 'node:fs';\nexport const x = readFileSync('/x');\n`;
    const run = spawnSync(process.execPath, args, { cwd: PROJECT, encoding: 'utf8', input: probe });
    expect(run.stdout).toContain('no-restricted-imports');
  });
});
