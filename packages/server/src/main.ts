/**
 * Starts the server: lock, application, gate, page; what it starts besides stands in application/pipeline.ts. Prints
 * one JSON line "listening" for whoever started it.
 */
import 'reflect-metadata';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pino } from 'pino';
import { type Config, readConfig } from './config/config.js';
import { takeServerLock } from './database/singleServer.js';
import { makeApplication } from './application/application.js';
import { listenOnLoopback } from './application/listening.js';
import { writeOwnFile } from './ownData/ownData.js';
import { isDatabaseAway } from './problems/problem.filter.js';

const EXIT_ALREADY_RUNNING = 3;
/** A server that is told to stop ends within this, whatever hangs. */
const STOP_MS = 8000;
/** Faults that nobody caught, within a minute, after which starting anew is better than going on. */
const MOST_FAULTS = 20;

/** The port of the last start, so that bookmarks and the installed window stay true. */
function rememberedPort(config: Config): number {
  if (config.port !== 0) return config.port;
  try {
    return Number(readFileSync(join(config.dataFolder, 'port'), 'utf8')) || 0;
  } catch {
    return 0;
  }
}

async function main(): Promise<void> {
  const config = readConfig(process.env);
  // whoever we start has no business with these
  for (const name of ['DATABASE_URL', 'RELLIN_ENTRY_CODE']) delete process.env[name];
  const log = pino({ level: config.logLevel, base: undefined });
  const lock = await takeServerLock(config.databaseUrl, () => {
    log.fatal('another server took over the catalogue');
    process.exit(EXIT_ALREADY_RUNNING);
  });
  if (!lock) {
    log.error('Another Rellin is running on this catalogue. Stop it, or open it by “rellin address”.');
    process.exit(EXIT_ALREADY_RUNNING);
  }
  let port = 0;
  const { app, routes } = await makeApplication(config, log, () => port);
  // work that nobody waits for, met by PostgreSQL's going away: said, and taken up again by the next look
  process.on('unhandledRejection', (error) =>
    isDatabaseAway(error)
      ? log.warn('PostgreSQL does not answer')
      : log.error((error as Error)?.stack ?? String(error)),
  );
  const faults: number[] = [];
  process.on('uncaughtException', (error) => {
    log.error(error.stack ?? String(error));
    faults.push(Date.now());
    if (faults.filter((at) => Date.now() - at < 60_000).length < MOST_FAULTS) return;
    log.fatal('too many faults; the server starts anew');
    process.exit(1);
  });
  let stopListening = () => {};
  let stopping = false;
  const stop = (signal: string) => {
    if (stopping) return;
    stopping = true;
    log.info({ signal }, 'stopping');
    // an orderly exit waits for threads, and one that is held in a call of the system's cannot end
    setTimeout(() => process.kill(process.pid, 'SIGKILL'), STOP_MS).unref();
    stopListening();
    app
      .close()
      .then(() => lock.release())
      .then(
        () => process.exit(0),
        (error: Error) => {
          log.error(error.stack ?? error.message);
          process.exit(1);
        },
      );
  };
  process.on('SIGINT', () => stop('SIGINT'));
  process.on('SIGTERM', () => stop('SIGTERM'));
  if (config.stopWithInput) process.stdin.on('end', () => stop('end of input')).resume();
  // all is started before a port is open: what came in between would wait for an answer that nobody gives
  await app.init();
  const listening = await listenOnLoopback(app, rememberedPort(config), config.port !== 0);
  stopListening = () => listening.close();
  port = listening.port;
  writeOwnFile(join(config.dataFolder, 'port'), String(port));
  if (log.isLevelEnabled('debug')) log.debug({ routes: routes() }, 'routes');
  log.info({ listening: `http://127.0.0.1:${port}`, page: `http://${config.pageHost}:${port}` }, 'listening');
}

main().catch((error: Error & { code?: string }) => {
  process.stderr.write(`${error.stack ?? error.message}\n`);
  process.exit(1);
});
