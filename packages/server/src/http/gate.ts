/**
 * The gate before every request: the Host must be ours (a name rebound to loopback is refused), a request that changes
 * something must not come from another origin, and the API wants a session or the command's token.
 */
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { Refusal } from '../problems/refusal.js';
import { toProblem } from '../problems/problem.filter.js';
import { COOKIE, type SessionService } from './session.service.js';

const OPEN = new Set(['/api/session', '/api/session/sign-in', '/api/session/leave', '/api/health']);
const SIGN_IN_PER_MINUTE = 10;

export function isOwnHost(host: string | undefined, port: number): boolean {
  return host === `127.0.0.1:${port}` || host === `localhost:${port}` || host === `[::1]:${port}`;
}

export function isOwnOrigin(origin: string | undefined, port: number): boolean {
  if (origin === undefined) return true; // commands, and same-origin reads
  return origin.startsWith('http://') && isOwnHost(origin.slice(7), port);
}

export function installGuard(fastify: FastifyInstance, sessions: SessionService, port: () => number): void {
  const tries: number[] = [];
  const guard = async (request: FastifyRequest): Promise<void> => {
    const path = request.url.split('?')[0]!;
    if (!isOwnHost(request.headers.host, port()))
      throw new Refusal('forbidden', 'Rellin answers only under its own local address.');
    if (!isOwnOrigin(request.headers.origin, port()) || request.headers['sec-fetch-site'] === 'cross-site') {
      // a link from elsewhere may lead to the page itself; nothing from elsewhere may talk to the API
      if (path.startsWith('/api/') || request.method !== 'GET')
        throw new Refusal('forbidden', 'That request came from another page.');
    }
    if (path === '/api/session/sign-in' || path === '/enter') {
      const now = Date.now();
      while (tries.length > 0 && now - tries[0]! > 60_000) tries.shift();
      if (tries.length >= SIGN_IN_PER_MINUTE)
        throw new Refusal('too-many', 'Too many tries to sign in. Wait a minute.', { retryAfterSeconds: 60 });
      tries.push(now);
    }
    if (!path.startsWith('/api/') || OPEN.has(path)) return;
    if (sessions.isCommand(request.headers.authorization)) return;
    if (await sessions.isSignedIn(request.cookies[COOKIE])) return;
    throw new Refusal('not-signed-in', 'This browser has no session with Rellin.', {
      remedy: 'Open the address that Rellin printed at start, or run “rellin address”.',
    });
  };
  fastify.addHook('onRequest', (request: FastifyRequest, reply: FastifyReply, done) => {
    guard(request).then(
      () => done(),
      (error: unknown) => {
        const body = toProblem(error);
        void reply.status(body.status).header('content-type', 'application/problem+json').send(JSON.stringify(body));
      },
    );
  });
}
