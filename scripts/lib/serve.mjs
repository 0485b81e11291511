/** Runs the server on a private cluster (or a given database) until it is told to stop, and cleans up behind it. */
import { randomBytes } from 'node:crypto';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline';
import { ensurePostgres, ROOT, SERVER } from './prepare.mjs';
import { privateCluster } from './postgres.mjs';
import { say, Stop } from './log.mjs';

/** A server of ours on this data folder that answers: its address with a fresh entry code; undefined where there is none. */
export async function runningAddress(dataFolder) {
  try {
    const { address } = JSON.parse(readFileSync(join(dataFolder, 'run.json'), 'utf8'));
    const token = readFileSync(join(dataFolder, 'command-token'), 'utf8').trim();
    const answer = await fetch(`${address}/api/session/code`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}` },
      signal: AbortSignal.timeout(3000),
    });
    if (!answer.ok) return undefined;
    const { code } = await answer.json();
    return `${address}/enter?code=${code}`;
  } catch {
    return undefined;
  }
}

/**
 * @param {{dataFolder: string, databaseUrl?: string, env?: Record<string, string>, onListening?: (info: {address: string, token: string, entry: string}) => Promise<void>}} options
 */
export async function serve({ dataFolder, databaseUrl, env = {}, onListening }) {
  mkdirSync(dataFolder, { recursive: true, mode: 0o755 });
  const already = await runningAddress(dataFolder);
  if (already) {
    say('Rellin is running already on this data. Open:');
    process.stdout.write(`\n    ${already}\n\n`);
    return;
  }
  let cluster;
  if (!databaseUrl) {
    cluster = await privateCluster({ bin: ensurePostgres(), folder: dataFolder });
    cluster.ensureDatabase();
  }
  const entryCode = randomBytes(18).toString('base64url');
  const child = spawn(process.execPath, [SERVER], {
    // its standard input stays open as long as we live: where we are killed, it stops by itself
    stdio: ['pipe', 'pipe', 2],
    env: {
      ...process.env,
      RELLIN_WEB: join(ROOT, 'packages/web/dist'),
      RELLIN_LOG: 'info',
      ...env,
      RELLIN_DATA: dataFolder,
      DATABASE_URL: databaseUrl ?? cluster.url(),
      RELLIN_ENTRY_CODE: entryCode,
      RELLIN_STOP_WITH_INPUT: '1',
    },
    // its own group: Ctrl+C reaches us, and we stop it in order
    detached: true,
  });
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    say('\nStopping …');
    child.kill('SIGTERM');
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  process.on('SIGHUP', stop);

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

  createInterface({ input: child.stdout }).on('line', (line) => {
    let entry;
    try {
      entry = JSON.parse(line);
    } catch {
      entry = {};
    }
    if (entry.listening) void listening(entry.listening);
    else if (entry.level >= 40 || process.env.RELLIN_VERBOSE) say(line);
  });

  async function listening(address) {
    writeFileSync(join(dataFolder, 'run.json'), JSON.stringify({ address, pid: child.pid }));
    const token = readFileSync(join(dataFolder, 'command-token'), 'utf8').trim();
    const entry = `${address}/enter?code=${entryCode}`;
    try {
      await onListening?.({ address, token, entry });
    } catch (error) {
      say(error.stack ?? String(error));
    }
    process.stdout.write(
      `\nRellin is ready. Open:\n\n    ${entry}\n\n(The address works once; the browser then stays signed in. Ctrl+C stops Rellin.)\n`,
    );
  }

  const code = await new Promise((resolve) => child.once('exit', (c) => resolve(c ?? 1)));
  if (keeper) clearInterval(keeper);
  rmSync(join(dataFolder, 'run.json'), { force: true });
  cluster?.stop();
  if (code === 3) throw new Stop('Another Rellin is running on this catalogue.');
  if (code !== 0 && !stopping) throw new Stop(`The server ended by itself (exit code ${code}).`);
}
