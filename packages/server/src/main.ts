/** Starts the server: lock, application, gate, page. Prints one JSON line "listening" for whoever started it. */
import 'reflect-metadata';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import serveStatic from '@fastify/static';
import { type LoggerService, ValidationPipe } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import { FastifyAdapter, type NestFastifyApplication } from '@nestjs/platform-fastify';
import { DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { pino } from 'pino';
import { AppModule } from './app.module.js';
import { type Config, readConfig } from './config/config.js';
import { LinksService } from './aliases/links.service.js';
import { BinService } from './bin/bin.service.js';
import { CheckUpService } from './checkUp/checkUp.service.js';
import { CollectionsService } from './collections/collections.service.js';
import { takeServerLock } from './database/singleServer.js';
import { FilingService } from './filing/filing.service.js';
import { FindService } from './find/find.service.js';
import { ContentsService } from './contents/contents.service.js';
import { MemoryIndexService } from './memoryIndex/memoryIndex.service.js';
import { PlacesService } from './places/places.service.js';
import { DigestsService } from './identity/digests.service.js';
import { IdentityService } from './identity/identity.service.js';
import { isDatabaseAway, ProblemFilter } from './problems/problem.filter.js';
import { SearchesService } from './searches/searches.service.js';
import { RecentFilesService } from './recentFiles/recentFiles.service.js';
import { SeedService } from './seed/seed.service.js';
import { installGuard } from './session/guardHook.js';
import { SessionService } from './session/session.service.js';

const EXIT_ALREADY_RUNNING = 3;
const UPLOAD_LIMIT = 64 * 1024 ** 3;

/** Nest's log lines as structured ones. */
function nestLogger(log: pino.Logger): LoggerService {
  const at =
    (level: 'info' | 'error' | 'warn' | 'debug') =>
    (message: unknown, ...rest: unknown[]) =>
      log[level]({ context: rest[rest.length - 1] }, String(message));
  return { log: at('debug'), error: at('error'), warn: at('warn'), debug: at('debug'), verbose: at('debug') };
}

async function makeApplication(config: Config, log: pino.Logger): Promise<NestFastifyApplication> {
  const adapter = new FastifyAdapter({ bodyLimit: 1 << 20, forceCloseConnections: true });
  const app = await NestFactory.create<NestFastifyApplication>(AppModule.with(config), adapter, {
    logger: nestLogger(log),
    abortOnError: false,
  });
  // files dropped from outside come as they are and are never held in memory whole
  const fastify = adapter.getInstance() as unknown as FastifyInstance;
  fastify.addContentTypeParser('application/octet-stream', { bodyLimit: UPLOAD_LIMIT }, (_request, payload, done) =>
    done(null, payload),
  );
  await app.register(cookie as never);
  await app.register(helmet as never, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        mediaSrc: ["'self'"],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'", 'blob:'],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
      },
    },
    strictTransportSecurity: false,
    referrerPolicy: { policy: 'no-referrer' },
  });
  app.useGlobalPipes(new ValidationPipe({ whitelist: true, forbidNonWhitelisted: true, transform: true }));
  app.useGlobalFilters(new ProblemFilter());
  app.setGlobalPrefix('api', { exclude: ['enter'] });
  const about = new DocumentBuilder()
    .setTitle('Rellin')
    .setDescription('The catalogue’s API')
    .setVersion('0.1.0')
    .build();
  // written when somebody asks for it: a start does not wait for it
  SwaggerModule.setup('api/docs', app, () => SwaggerModule.createDocument(app, about));
  return app;
}

/** The built page: assets for good, the page itself for every address that is a view. */
async function servePage(fastify: FastifyInstance, folder: string): Promise<void> {
  const page = readFileSync(join(folder, 'index.html'));
  await fastify.register(serveStatic as never, {
    root: folder,
    index: false,
    wildcard: false,
    globIgnore: ['icons/**'],
    decorateReply: false,
    preCompressed: true,
    setHeaders(reply: FastifyReply, path: string) {
      if (path.includes('/assets/')) void reply.header('cache-control', 'public, max-age=31536000, immutable');
    },
  });
  // two thousand small files: found when asked for, not listed at start
  await fastify.register(serveStatic as never, {
    root: join(folder, 'icons'),
    prefix: '/icons/',
    decorateReply: false,
    setHeaders: (reply: FastifyReply) => void reply.header('cache-control', 'public, max-age=604800'),
  });
  fastify.get('/*', (request, reply) => {
    if (request.url.startsWith('/assets/') || request.url.startsWith('/api/')) {
      void reply.status(404).header('content-type', 'application/problem+json').send({
        type: 'urn:rellin:problem:not-found',
        title: 'Not found',
        status: 404,
        detail: 'There is nothing at this address.',
      });
    } else void reply.header('content-type', 'text/html; charset=utf-8').header('cache-control', 'no-cache').send(page);
  });
}

/** The port of the last start, so that bookmarks and the installed window stay true. */
function rememberedPort(config: Config): number {
  if (config.port !== 0) return config.port;
  try {
    return Number(readFileSync(join(config.dataFolder, 'port'), 'utf8')) || 0;
  } catch {
    return 0;
  }
}

async function listen(app: NestFastifyApplication, config: Config): Promise<number> {
  const wanted = rememberedPort(config);
  try {
    await app.listen(wanted, config.host);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE' || config.port !== 0) throw error;
    await app.listen(0, config.host);
  }
  const address = app.getHttpServer().address() as { port: number };
  writeFileSync(join(config.dataFolder, 'port'), String(address.port));
  return address.port;
}

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const log = pino({ level: config.logLevel, base: undefined });
  const lock = await takeServerLock(config.databaseUrl, () => {
    log.fatal('another server took over the catalogue');
    process.exit(EXIT_ALREADY_RUNNING);
  });
  if (!lock) {
    log.error('Another Rellin is running on this catalogue. Stop it, or open it by “rellin address”.');
    process.exit(EXIT_ALREADY_RUNNING);
  }
  const app = await makeApplication(config, log);
  const fastify = app.getHttpAdapter().getInstance() as unknown as FastifyInstance;
  let port = 0;
  installGuard(fastify, app.get(SessionService), () => port);
  if (config.webFolder && existsSync(join(config.webFolder, 'index.html'))) await servePage(fastify, config.webFolder);
  // work that nobody waits for, met by PostgreSQL's going away: said, and taken up again by the next look
  process.on('unhandledRejection', (error) =>
    isDatabaseAway(error)
      ? log.warn('PostgreSQL does not answer')
      : log.error((error as Error)?.stack ?? String(error)),
  );
  let stopping = false;
  const stop = (signal: string) => {
    if (stopping) return;
    stopping = true;
    log.info({ signal }, 'stopping');
    const late = setTimeout(() => process.exit(1), 8000);
    late.unref();
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
  port = await listen(app, config);
  await app.get(SearchesService).start();
  await app.get(PlacesService).start();
  app.get(MemoryIndexService).start();
  app.get(DigestsService).fill();
  app.get(ContentsService).start();
  await app.get(FilingService).start();
  await app.get(IdentityService).examinePrograms();
  await app.get(FindService).start();
  await app.get(CollectionsService).start();
  await app.get(BinService).start();
  app.get(CheckUpService).start();
  await app.get(LinksService).start();
  if (config.seedFile) await app.get(SeedService).fill(config.seedFile);
  app.get(RecentFilesService).start();
  log.info({ listening: `http://127.0.0.1:${port}` }, 'listening');
}

main().catch((error: Error & { code?: string }) => {
  process.stderr.write(`${error.stack ?? error.message}\n`);
  process.exit(1);
});
