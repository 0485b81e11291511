/** Runs the server on a private cluster (or a given database) until it is told to stop, and cleans up behind it. */
import { randomBytes } from 'node:crypto';
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ownServer } from '../../bin/lib/ownServer.mjs';
import { launch, readLine } from './launch.mjs';
import { ensurePostgres, ROOT } from './prepare.mjs';
import { ensureOwnFolder, lockOf, writeOwnFile } from './ownFiles.mjs';
import { privateCluster } from './postgres.mjs';
import { say, Stop } from './log.mjs';

const ALREADY_RUNNING = 3;
/** A server that ends by itself is started again, so often within this time. */
const MOST_RESTARTS = 3;
/** A server that is told to stop gives itself a little less. */
const STOP_MS = 10_000;
const RESTART_MS = 5 * 60_000;

/**
 * A server of ours on this data folder that answers: its address with a fresh entry code; undefined where there is
 * none.
 */
export async function runningAddress(dataFolder) {
  const server = ownServer(dataFolder);
  if (!server) return undefined;
  try {
    const answer = await fetch(`${server.address}/api/session/code`, {
      method: 'POST',
      headers: { authorization: `Bearer ${server.token}` },
      signal: AbortSignal.timeout(3000),
    });
    return answer.ok ? (await answer.json()).address : undefined;
  } catch {
    return undefined;
  }
}

/**
 * @param {{dataFolder: string, databaseUrl?: string, env?: Record<string, string>, onListening?: (info: {address:
 *   string, token: string, entry: string}) => Promise<void>}} options
 */
export async function serve({ dataFolder, databaseUrl, env = {}, onListening }) {
  ensureOwnFolder(dataFolder);
  // of two starts at once the second waits until the first can be reached, or has ended
  const unlock = await lockOf(dataFolder, 'start-lock');
  const already = await runningAddress(dataFolder);
  if (already) {
    await unlock();
    say('Rellin is running already on this data. Open:');
    process.stdout.write(`\n    ${already}\n\n`);
    return;
  }
  let cluster;
  let stopping = false;
  let child;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    say('\nStopping …');
    child?.kill('SIGTERM');
    // a thread held in a call of the system's keeps a process from ending by itself
    setTimeout(() => child?.kill('SIGKILL'), STOP_MS).unref();
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, stop);
  if (!databaseUrl) {
    cluster = await privateCluster({ bin: ensurePostgres(), folder: dataFolder });
    cluster.ensureDatabase();
  }
  // PostgreSQL stopped by someone else is started again; the server finds it by itself
  const keeper = cluster
    ? setInterval(() => {
        if (!stopping && !cluster.isRunning())
          try {
            cluster.start();
            say('PostgreSQL had stopped and was started again.');
          } catch (error) {
            say(error.message);
          }
      }, 3000)
    : undefined;

  const entryCode = randomBytes(18).toString('base64url');
  /** Runs a server to its end; `heard` once it listens. Resolves with its exit code. */
  const run = (heard) => {
    // its standard input stays open as long as we live: where we are killed, it stops by itself
    const launched = launch({
      detached: true,
      env: {
        ...process.env,
        RELLIN_WEB: join(ROOT, 'packages/web/dist'),
        RELLIN_LOG: 'info',
        ...env,
        RELLIN_DATA: dataFolder,
        RELLIN_OWN: JSON.stringify(cluster?.folders ?? []),
        DATABASE_URL: databaseUrl ?? cluster?.url(),
        RELLIN_ENTRY_CODE: entryCode,
      },
      onLine(line) {
        const { listening, level } = readLine(line);
        if (!listening && (level >= 40 || process.env.RELLIN_VERBOSE)) say(line);
      },
    });
    child = launched.child;
    launched.listening.then(
      ({ address, page }) => {
        writeOwnFile(join(dataFolder, 'run.json'), JSON.stringify({ address, page, pid: launched.child.pid }));
        void heard({ address, page });
      },
      () => undefined,
    );
    return launched.ended;
  };

  async function ready({ address, page }) {
    await unlock();
    const token = readFileSync(join(dataFolder, 'command-token'), 'utf8').trim();
    const entry = `${page}/enter?code=${entryCode}`;
    try {
      await onListening?.({ address, token, entry });
    } catch (error) {
      say(error.stack ?? String(error));
    }
    process.stdout.write(
      `\nRellin is ready. Open:\n\n    ${entry}\n\n(The address works once; the browser then stays signed in. Ctrl+C stops Rellin.)\n`,
    );
  }

  let listened = false;
  const ends = [];
  /** @type {number | string} */
  let code = 0;
  while (!stopping) {
    const isFirst = !listened;
    code = await run((where) => {
      listened = true;
      return isFirst ? ready(where) : say('The server runs again. Nothing that was confirmed is lost.');
    });
    if (stopping || !listened || code === 0 || code === ALREADY_RUNNING) break;
    ends.push(Date.now());
    if (ends.filter((at) => Date.now() - at < RESTART_MS).length > MOST_RESTARTS) break;
    say(`The server ended by itself (${code}) and is started again …`);
  }
  if (!listened) await unlock();
  if (keeper) clearInterval(keeper);
  rmSync(join(dataFolder, 'run.json'), { force: true });
  cluster?.stop();
  if (code === ALREADY_RUNNING) throw new Stop('Another Rellin is running on this catalogue.');
  if (code !== 0 && !stopping)
    throw new Stop(
      ends.length > 0
        ? `The server ended by itself ${ends.length} times within ${RESTART_MS / 60_000} minutes (${code}); it is not started again. Your files and catalogue are as they were. Run with RELLIN_VERBOSE=1 to see what it says.`
        : `The server ended by itself (${code}).`,
    );
}
