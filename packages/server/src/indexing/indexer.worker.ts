/** The indexing thread: scans and watches places with a database connection of its own. */
import { parentPort, workerData } from 'node:worker_threads';
import type pg from 'pg';
import type { FromIndexer, ScanAnswer, ToIndexer } from './indexerMessages.js';
import { lastingClient } from '../threads/lastingClient.js';
import { failureOf } from '../threads/questions.js';
import { identities } from '../disk/inside.js';
import { compileExcludes } from './excludes.js';
import { renewKinds } from './renewKinds.js';
import { rootEntry, scanPlace } from './scan.js';
import { PlaceWatcher, type WatchHost } from './watcher.js';

const { databaseUrl, own } = workerData as { databaseUrl: string; own: string[] };
const port = parentPort!;
const post = (message: FromIndexer) => port.postMessage(message);

const watchers = new Map<number, PlaceWatcher>();
const stops = new Map<number, AbortController>();
const client = lastingClient(databaseUrl);
let queue: Promise<unknown> = Promise.resolve();

function exclusively<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
  const run = queue.then(async () => work(await client.get()));
  queue = run.catch(() => undefined);
  return run;
}

const host: WatchHost = {
  exclusively,
  onWritten: (placeId, written) => post({ kind: 'written', placeId, written }),
  onRootGone: (placeId) => post({ kind: 'root-gone', placeId }),
  onOverflow: (placeId) => post({ kind: 'overflow', placeId }),
  onSlowed: (placeId, paths) => post({ kind: 'slowed', placeId, paths }),
  onTrouble: (placeId, error) => post({ kind: 'trouble', placeId, message: error.message }),
};

const excludesOf = (patterns: readonly string[]) => compileExcludes(patterns, identities(own));

async function scan(message: Extract<ToIndexer, { kind: 'scan' }>): Promise<ScanAnswer> {
  const stop = new AbortController();
  stops.set(message.placeId, stop);
  let last = 0;
  const started = performance.now();
  try {
    const outcome = await exclusively(async (db) => {
      const scanned = await scanPlace(db, {
        ...message,
        own: identities(own),
        signal: stop.signal,
        onProgress(done) {
          if (performance.now() - last < 150) return;
          last = performance.now();
          post({ kind: 'progress', placeId: message.placeId, done });
        },
      });
      if (scanned.outcome !== 'done') return scanned;
      for (const id of await renewKinds(db, message.placeId)) scanned.written.touched.push(id);
      await watchers.get(message.placeId)?.goOn(db, excludesOf(message.excludes));
      return scanned;
    });
    return outcome.outcome === 'done' ? { ...outcome, ms: performance.now() - started } : outcome;
  } finally {
    stops.delete(message.placeId);
  }
}

async function startWatching(message: Extract<ToIndexer, { kind: 'watch' }>): Promise<{ limited: boolean }> {
  const root = rootEntry(message.root);
  if (!root) throw new Error('its folder is not there');
  const known = watchers.get(message.placeId);
  // it went on when the place was looked through
  const isSame = known?.root === message.root && known.rootInode === root.inode && known.rootDev === root.dev;
  if (known && isSame) return { limited: known.limited };
  known?.close();
  const watcher = new PlaceWatcher(message.placeId, message.root, root.inode, root.dev, host);
  watchers.set(message.placeId, watcher);
  await exclusively((db) => watcher.start(db, excludesOf(message.excludes)));
  return { limited: watcher.limited };
}

async function answer(message: ToIndexer): Promise<unknown> {
  switch (message.kind) {
    case 'scan':
      return scan(message);
    case 'stop':
      stops.get(message.placeId)?.abort();
      return null;
    case 'watch':
      return startWatching(message);
    case 'unwatch':
      watchers.get(message.placeId)?.close();
      watchers.delete(message.placeId);
      return null;
    case 'settle':
      await watchers.get(message.placeId)?.settle(message.folderId);
      return null;
    case 'poll':
      watchers.get(message.placeId)?.poll(message.folderIds);
      return null;
    case 'close': {
      for (const stop of stops.values()) stop.abort();
      for (const watcher of watchers.values()) watcher.close();
      await queue;
      await client.end();
      return null;
    }
  }
}

port.on('message', (message: ToIndexer) => {
  answer(message).then(
    (value) => post({ kind: 'answer', ask: message.ask, value }),
    (error: unknown) => post({ kind: 'failure', ask: message.ask, error: failureOf(error) }),
  );
});
