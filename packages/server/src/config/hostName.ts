/**
 * The name under which the page is served: one that only this catalogue's owner knows, below `localhost`, which
 * browsers take to loopback by themselves (RFC 6761 section 6.3). Cookies know no port: under an address that all
 * servers of the machine share, each of them would be sent ours.
 */
import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import { ownSecret } from '../ownData/ownData.js';

export const pageHost = (dataFolder: string): string =>
  ownSecret(join(dataFolder, 'page-name'), () => `rellin-${randomBytes(8).toString('hex')}.localhost`);

/** Under these the API answers to a command, and the page can be asked for; no session is given or taken under them. */
const SHARED = ['127.0.0.1', 'localhost', '[::1]'];

export type HostKind = 'page' | 'shared' | 'foreign';

export function hostKind(host: string | undefined, page: string, port: number): HostKind {
  if (host === `${page}:${port}`) return 'page';
  return SHARED.some((name) => host === `${name}:${port}`) ? 'shared' : 'foreign';
}

/** Whether a request comes from a page of ours, or from no page at all. */
export function isOwnOrigin(origin: string | undefined, page: string, port: number): boolean {
  if (origin === undefined) return true; // commands, and same-origin reads
  return origin.startsWith('http://') && hostKind(origin.slice('http://'.length), page, port) !== 'foreign';
}
