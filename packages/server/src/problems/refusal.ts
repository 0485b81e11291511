/** Expected failures. Services throw a Refusal; one filter turns it into problem details (RFC 9457). */

const STATUS = {
  'not-valid': 400,
  'not-signed-in': 401,
  forbidden: 403,
  'not-found': 404,
  'outside-places': 403,
  'no-access': 403,
  conflict: 409,
  'changed-since': 409,
  'too-large': 413,
  'cannot-open': 422,
  'original-away': 409,
  'original-lost': 410,
  'original-unsure': 409,
  'link-loop': 422,
  'not-a-folder': 422,
  'too-many': 429,
  'database-away': 503,
  'already-running': 409,
  'no-room': 507,
  stopped: 409,
} as const;
export type RefusalKind = keyof typeof STATUS;

export class Refusal extends Error {
  constructor(
    readonly kind: RefusalKind,
    /** What happened, to which item, and what is safe. */
    readonly detail: string,
    readonly extra: { remedy?: string; [member: string]: unknown } = {},
  ) {
    super(detail);
  }
  get status(): number {
    return STATUS[this.kind];
  }
}
