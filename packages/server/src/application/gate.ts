/**
 * The gate before every request, decided on the route that was matched and never on the text of an address: the other
 * end must be a process of ours, the Host ours (a name rebound to loopback is refused), a request that changes
 * something must not come from another origin, and whatever is not declared open wants a session or the command's
 * token.
 */
import type { Server, Socket } from 'node:net';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { toProblem } from '../problems/problem.filter.js';
import { Refusal } from '../problems/refusal.js';
import { COOKIE, type SessionService, type Who } from '../session/session.service.js';
import { hostKind, isOwnOrigin } from '../config/hostName.js';
import { isOwnPeer, peerOf } from '../http/peer.js';
import { refuseUntext } from '../http/plainText.js';
import { takesJson } from '../http/bodies.js';
import { rulesOf } from '../http/routeRules.js';

declare module 'fastify' {
  interface FastifyRequest {
    /** Set by the gate. */
    who: Who;
  }
}

const MOST_PARAMETERS = 40;
const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

export interface GateOptions {
  sessions: SessionService;
  /** The page's own name, and the port we listen on. */
  page: string;
  port: () => number;
}

/** Names and values take turns in the list. */
const countOf = (rawHeaders: readonly string[], name: string) =>
  rawHeaders.filter((text, i) => i % 2 === 0 && text.toLowerCase() === name).length;

/** So long another user's connection is kept, for an answer that says why it is refused. */
const STRANGER_MS = 2000;

/** Connections cost memory and handles, of which there are so many: another user's are not kept, whatever they send. */
function closeStrangers(server: Server): void {
  server.on('connection', (socket: Socket) => {
    void peerOf(socket).then((peer) => {
      if (!isOwnPeer(peer)) setTimeout(() => socket.destroy(), STRANGER_MS).unref();
    });
  });
}

export function installGate(fastify: FastifyInstance, { sessions, page, port }: GateOptions): void {
  fastify.decorateRequest('who', null as unknown as Who);
  closeStrangers(fastify.server);

  async function pass(request: FastifyRequest): Promise<void> {
    // the absolute form is for proxies (RFC 9112 section 3.2.2); here it would name a host beside the Host
    if (!request.raw.url?.startsWith('/')) throw new Refusal('not-valid', 'An address here begins with “/”.');
    // two names, of which Node takes the first: whoever stands between may have taken the other (RFC 9112 section 3.2)
    if (countOf(request.raw.rawHeaders, 'host') > 1) throw new Refusal('not-valid', 'A request names one host.');
    const peer = await peerOf(request.raw.socket);
    if (!isOwnPeer(peer)) throw new Refusal('forbidden', 'Rellin answers only to processes of its own user.');
    request.who = { session: undefined, user: String(peer) };
    const host = hostKind(request.headers.host, page, port());
    if (host === 'foreign') throw new Refusal('forbidden', 'Rellin answers only under its own local address.');
    const isOwn = isOwnOrigin(request.headers.origin, page, port());
    const site = request.headers['sec-fetch-site'];
    // another server of this machine is the same site, and foreign all the same
    const isForeign = !isOwn || site === 'cross-site' || site === 'same-site';
    // a link from elsewhere may lead to the page itself, which is open; nothing from elsewhere may talk to the API
    const isVisit = SAFE.has(request.method) && request.headers['sec-fetch-mode'] === 'navigate';
    const rules = rulesOf(request.routeOptions.config);
    if (isForeign && !(rules.open && isVisit && isOwn))
      throw new Refusal('forbidden', 'That request came from another page.');
    if (Object.keys(request.query as object).length > MOST_PARAMETERS)
      throw new Refusal('not-valid', `An address takes up to ${MOST_PARAMETERS} parameters.`);
    refuseUntext(request.params, 'The address');
    refuseUntext(request.query, 'The address');
    if (sessions.isCommand(request.headers.authorization)) return;
    if (host === 'page') request.who.session = await sessions.sessionOf(request.cookies[COOKIE]);
    if (request.who.session !== undefined || rules.open) return;
    throw new Refusal('not-signed-in', 'This browser has no session with Rellin.', {
      remedy: 'Open the address that Rellin printed at start, or run “rellin address”.',
    });
  }

  fastify.addHook('onRequest', (request: FastifyRequest, reply: FastifyReply, done) => {
    pass(request).then(
      () => done(),
      (error: unknown) => {
        const body = toProblem(error);
        void reply.status(body.status).header('content-type', 'application/problem+json').send(JSON.stringify(body));
      },
    );
  });
  // what takes a body gets one: fields that must be there are missed by name, not by accident
  fastify.addHook('preValidation', (request, _reply, done) => {
    if (takesJson(request)) request.body ??= {};
    done();
  });
}
