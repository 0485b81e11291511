/** Maps every error to problem details (RFC 9457); what is not expected is logged and shown without its insides. */
import { type ArgumentsHost, Catch, type ExceptionFilter, HttpException, Logger } from '@nestjs/common';
import type { FastifyReply } from 'fastify';
import type { Problem } from '@rellin/contract';
import { Refusal } from './refusal.js';

const TITLES: Record<string, string> = {
  'not-valid': 'That is not valid',
  'not-signed-in': 'Not signed in',
  forbidden: 'Not allowed',
  'not-found': 'Not found',
  'outside-places': 'Outside every place',
  'no-access': 'No access',
  conflict: 'That clashes with what is there',
  'changed-since': 'Changed since',
  'cannot-open': 'It cannot be opened',
  'original-away': 'The original is away',
  'original-lost': 'The original is lost',
  'original-unsure': 'The original is unsure',
  'link-loop': 'A loop of links',
  'not-a-folder': 'Not a folder',
  'database-away': 'The catalogue does not answer',
  'too-many': 'Too many tries',
};

/** PostgreSQL going away: no socket, connection refused or reset, or its shutdown states (class 57P0x, 08xxx). */
export function isDatabaseAway(error: unknown): boolean {
  const e = error as { code?: string; driverError?: { code?: string }; message?: string; name?: string };
  const code = e?.code ?? e?.driverError?.code ?? '';
  if (/^(57P0[123]|08\d{3}|ECONNREFUSED|ECONNRESET|EPIPE)$/.test(code)) return true;
  return /Connection terminated|terminating connection|connect (ECONNREFUSED|ENOENT)|Client has encountered a connection error|not queryable|timeout exceeded when trying to connect/.test(
    e?.message ?? '',
  );
}

/** What PostgreSQL refuses for a reason that lies in what was asked (its manual, appendix A). */
function sqlState(error: unknown): 'unique-or-deadlock' | 'needed' | 'not-a-value' | undefined {
  const e = error as { code?: unknown; driverError?: { code?: unknown } };
  const code = String(e?.driverError?.code ?? e?.code ?? '');
  if (/^(23505|40001|40P01)$/.test(code)) return 'unique-or-deadlock';
  if (code === '23503') return 'needed';
  // data exceptions: out of range, not in the form of its type, characters that cannot be kept
  return /^22[0-9A-Z]{3}$/.test(code) ? 'not-a-value' : undefined;
}

function problem(kind: string, status: number, detail: string, extra: object = {}): Problem {
  return {
    type: `urn:rellin:problem:${kind}`,
    title: TITLES[kind] ?? 'Something went wrong',
    status,
    detail,
    ...extra,
  };
}

export function toProblem(error: unknown): Problem {
  if (error instanceof Refusal) return problem(error.kind, error.status, error.detail, error.extra);
  if (isDatabaseAway(error))
    return problem(
      'database-away',
      503,
      'PostgreSQL has stopped answering. Nothing that was confirmed is lost; the last act was not done.',
      { remedy: 'Rellin tries again by itself. If it lasts, start Rellin anew.' },
    );
  switch (sqlState(error)) {
    case 'unique-or-deadlock':
      return problem('conflict', 409, 'Something else was changed at the same moment; this was not done.', {
        remedy: 'Try again.',
      });
    case 'needed':
      return problem('conflict', 409, 'Other things hang on it, or what it points to is gone; nothing was changed.', {
        remedy: 'Undo or remove those first; the journal lists them.',
      });
    case 'not-a-value':
      return problem('not-valid', 400, 'A value is out of range or is none; nothing was changed.');
    case undefined:
  }
  if (error instanceof HttpException) {
    const status = error.getStatus();
    const body = error.getResponse() as string | { message?: string | string[] };
    const message = typeof body === 'string' ? body : (body.message ?? error.message);
    const kind = status === 404 ? 'not-found' : status === 429 ? 'too-many' : status < 500 ? 'not-valid' : 'unexpected';
    return problem(kind, status, Array.isArray(message) ? message.join('; ') : message);
  }
  const statusCode = (error as { statusCode?: number })?.statusCode;
  if (statusCode && statusCode < 500)
    return problem(statusCode === 429 ? 'too-many' : 'not-valid', statusCode, (error as Error).message);
  return problem(
    'unexpected',
    500,
    'Rellin met an error it did not expect. The act was not done; nothing was changed.',
    {
      remedy: 'Try again. The log holds the details.',
    },
  );
}

@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('problem');

  catch(error: unknown, host: ArgumentsHost) {
    const reply = host.switchToHttp().getResponse<FastifyReply>();
    const body = toProblem(error);
    if (body.status === 500) this.log.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    if (!reply.sent) void reply.status(body.status).header('content-type', 'application/problem+json').send(body);
  }
}
