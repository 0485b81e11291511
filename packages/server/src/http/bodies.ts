/**
 * Bodies of requests: JSON within the bounds of its route, or a stream of bytes where the route says so. Nothing else
 * is parsed, so that neither a stream nor a form ever comes to validation.
 */
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { Readable } from 'node:stream';
import { Refusal } from '../problems/refusal.js';
import { beyondBounds } from './jsonBounds.js';
import { refuseUntext } from './plainText.js';
import { rulesOf, USUAL_BODY, type JsonBounds, type RouteRules } from './routeRules.js';

type Done = (error: Error | null, body?: unknown) => void;

const bodyOf = (request: FastifyRequest): NonNullable<RouteRules['body']> =>
  rulesOf(request.routeOptions.config).body ?? USUAL_BODY;

export function takesJson(request: FastifyRequest): boolean {
  const body = bodyOf(request);
  return body !== 'none' && 'depth' in body;
}

/** The bytes that a request brings, on a route that takes them. */
export function bytesOf(request: FastifyRequest): Readable {
  if (!(request.body instanceof Readable)) throw refusal(request);
  return request.body;
}

function refusal(request: FastifyRequest): Refusal {
  if (bodyOf(request) === 'none') return new Refusal('not-valid', 'This address takes no body.');
  const what = takesJson(request) ? 'JSON (application/json)' : 'bytes (application/octet-stream)';
  return new Refusal('not-valid', `This address takes ${what}.`);
}

/** JSON as a value; throws a refusal that says what is wrong with it. */
function parseJson(text: Buffer, bounds: JsonBounds): unknown {
  if (text.length > bounds.bytes)
    throw new Refusal('too-large', `This address takes up to ${bounds.bytes} bytes of JSON; these are ${text.length}.`);
  if (text.length === 0) return undefined;
  const beyond = beyondBounds(text, bounds);
  if (beyond !== undefined) throw new Refusal('too-large', `That JSON is not taken: ${beyond}.`);
  let value: unknown;
  try {
    value = JSON.parse(text.toString('utf8'));
  } catch (error) {
    throw new Refusal('not-valid', `That is no JSON: ${(error as Error).message}.`);
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw new Refusal('not-valid', 'The body must be a JSON object.');
  refuseUntext(value, 'The body');
  return value;
}

export function installBodies(fastify: FastifyInstance): void {
  fastify.removeAllContentTypeParsers();
  fastify.addContentTypeParser(
    'application/json',
    { parseAs: 'buffer', bodyLimit: USUAL_BODY.bytes },
    (request: FastifyRequest, text: Buffer, done: Done) => {
      const body = bodyOf(request);
      if (body === 'none' || !('depth' in body)) return done(refusal(request));
      try {
        done(null, parseJson(text, body));
      } catch (error) {
        done(error as Error);
      }
    },
  );
  fastify.addContentTypeParser(
    'application/octet-stream',
    { bodyLimit: Number.MAX_SAFE_INTEGER },
    (request: FastifyRequest, bytes: Readable, done: Done) => {
      const body = bodyOf(request);
      if (typeof body === 'string' || !('bytes' in body) || 'depth' in body) return done(refusal(request));
      const declared = Number(request.headers['content-length'] ?? 0);
      if (declared > body.bytes) return done(new Refusal('too-large', `That is more than ${body.bytes} bytes.`));
      done(null, bytes);
    },
  );
}
