/** The application as it listens: Nest on Fastify, the gate, bodies within their bounds, the policy, the page. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import serveStatic from '@fastify/static';
import { type LoggerService, ValidationPipe } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import { FastifyAdapter, type NestFastifyApplication } from '@nestjs/platform-fastify';
import { SwaggerModule } from '@nestjs/swagger';
import { CHANGED_HEADER, PAGE_HEADER } from '@rellin/contract';
import type { FastifyInstance, FastifyReply, FastifyRequest, RouteOptions } from 'fastify';
import type { pino } from 'pino';
import { AppModule } from '../app.module.js';
import type { Config } from '../config/config.js';
import { askedBy, PAGE_NAME, type Asker } from '../events/asker.js';
import { ProblemFilter, toProblem } from '../problems/problem.filter.js';
import { Refusal } from '../problems/refusal.js';
import { SessionService } from '../session/session.service.js';
import { installBodies } from '../http/bodies.js';
import { installGate } from './gate.js';
import { describeApi } from './openApi.js';
import { rulesOf, type RuledConfig } from '../http/routeRules.js';

/** Of a header block and of an address; what is longer is refused before it is looked at. */
const MAX_PARAM_LENGTH = 2000;

/** A connection that has not said by then what it wants is closed. */
const HEADERS_MS = 15_000;

/** A route as it was registered, for whoever tests that each is shut. */
export interface RegisteredRoute {
  method: string;
  url: string;
  open: boolean;
}

export interface Application {
  app: NestFastifyApplication;
  /** All that are registered, once it listens. */
  routes(): RegisteredRoute[];
}

/** Nest's log lines as structured ones. */
function nestLogger(log: pino.Logger): LoggerService {
  const at =
    (level: 'info' | 'error' | 'warn' | 'debug') =>
    (message: unknown, ...rest: unknown[]) =>
      log[level]({ context: rest[rest.length - 1] }, String(message));
  return { log: at('debug'), error: at('error'), warn: at('warn'), debug: at('debug'), verbose: at('debug') };
}

/** `port` tells the port once it is known. */
export async function makeApplication(config: Config, log: pino.Logger, port: () => number): Promise<Application> {
  const adapter = new FastifyAdapter({
    forceCloseConnections: true,
    http: { headersTimeout: HEADERS_MS, connectionsCheckingInterval: HEADERS_MS / 3 },
    routerOptions: { maxParamLength: MAX_PARAM_LENGTH },
  });
  const fastify = adapter.getInstance() as unknown as FastifyInstance;
  const registered: RouteOptions[] = [];
  fastify.addHook('onRoute', (route) => void registered.push(route));
  installBodies(fastify);
  installAsker(fastify);
  const app = await NestFactory.create<NestFastifyApplication>(AppModule.with(config), adapter, {
    logger: nestLogger(log),
    abortOnError: false,
    bodyParser: false,
  });
  await app.register(cookie as never);
  installGate(fastify, { sessions: app.get(SessionService), page: config.pageHost, port });
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
  app.useGlobalPipes(
    new ValidationPipe({ whitelist: true, forbidNonWhitelisted: true, transform: true, stopAtFirstError: true }),
  );
  app.useGlobalFilters(new ProblemFilter());
  app.setGlobalPrefix('api', { exclude: ['enter'] });
  // written when somebody asks for it: a start does not wait for it
  SwaggerModule.setup('api/docs', app, () => describeApi(app));
  const { webFolder } = config;
  if (webFolder && existsSync(join(webFolder, 'index.html')))
    await fastify.register((page: FastifyInstance) => servePage(page, webFolder));
  const routes = () =>
    registered.flatMap(({ method, url, config }) =>
      [method].flat().map((one) => ({ method: one, url, open: rulesOf(config).open === true })),
    );
  return { app, routes };
}

/** Each request is told with its answer what it changed. */
function installAsker(fastify: FastifyInstance): void {
  const askers = new WeakMap<FastifyRequest, Asker>();
  // once the body is read: what it was read by has a context of its own
  fastify.addHook('preValidation', (request, _reply, done) => {
    const said = request.headers[PAGE_HEADER];
    const page = typeof said === 'string' && PAGE_NAME.test(said) ? said : undefined;
    const asker: Asker = { page, changed: new Set(), waits: true };
    askers.set(request, asker);
    askedBy(asker, done);
  });
  fastify.addHook('onSend', (request, reply, _payload, done) => {
    const asker = askers.get(request);
    if (asker) {
      asker.waits = false;
      if (asker.changed.size > 0) void reply.header(CHANGED_HEADER, [...asker.changed].join(' '));
    }
    done();
  });
}

/**
 * The built page: assets for good, the page itself for every address that is a view. Open: it holds nothing of anybody.
 */
async function servePage(fastify: FastifyInstance, folder: string): Promise<void> {
  fastify.addHook('onRoute', (route) => {
    route.config = { ...route.config, rules: { open: true, body: 'none' } } as RuledConfig;
  });
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
    // whatever spells itself like the API or an asset and is none
    if (/^\/(assets|api)(\/|$)/i.test((request.params as { '*': string })['*'].replace(/^\/*/, '/'))) {
      const body = toProblem(new Refusal('not-found', 'There is nothing at this address.'));
      void reply.status(404).header('content-type', 'application/problem+json').send(body);
    } else void reply.header('content-type', 'text/html; charset=utf-8').header('cache-control', 'no-cache').send(page);
  });
}
