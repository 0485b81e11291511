/**
 * Who may talk to Rellin: a browser that came by a one-time address (or gave the passphrase) and holds a session
 * cookie, or a command that holds the token from the user's own data folder.
 */
import { createHash, randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import { join } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import { hash, verify } from '@node-rs/argon2';
import { filter, Subject, type Observable } from 'rxjs';
import type { SignedInBrowser } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { ownSecret } from '../ownData/ownData.js';
import { Refusal } from '../problems/refusal.js';
import type { SessionEntity } from '../database/entities/session.entity.js';
import { LONGEST_DAYS, SessionRepository } from './session.repository.js';

export const COOKIE = 'rellin';
const DAY_MS = 86_400_000;
/** How old a token may become. */
const TOKEN_MS = DAY_MS;
/** What was asked with the token before may still be under way. */
const FORMER_MS = 60_000;
const CODE_MS = DAY_MS;
const SEEN_EVERY_MS = 3_600_000;
/** Wrong passphrases by one user of the machine in a minute. */
const TRIES = 10;
const TRIES_MS = 60_000;

const digest = (text: string) => createHash('sha256').update(text).digest('hex');

function same(a: string, b: string): boolean {
  const x = Buffer.from(digest(a));
  const y = Buffer.from(digest(b));
  return timingSafeEqual(x, y);
}

interface Seen {
  id: string;
  /** When the database was asked last. */
  at: number;
  until: number;
}

@Injectable()
export class SessionService {
  private readonly commandToken: string;
  private readonly codes = new Map<string, number>();
  private readonly seen = new Map<string, Seen>();
  private readonly endings = new Subject<string>();
  /** Times of wrong passphrases, under who gave them. */
  private readonly wrong = new Map<string, number[]>();

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly rows: SessionRepository,
  ) {
    this.commandToken = ownSecret(join(config.dataFolder, 'command-token'), () =>
      randomBytes(32).toString('base64url'),
    );
    if (config.entryCode) this.codes.set(digest(config.entryCode), Date.now() + CODE_MS);
  }

  /** A code for one visit. */
  newCode(): string {
    const now = Date.now();
    for (const [key, until] of this.codes) if (until < now) this.codes.delete(key);
    const code = randomBytes(18).toString('base64url');
    this.codes.set(digest(code), now + CODE_MS);
    return code;
  }

  /** Whether this code still leads in. */
  isCode(code: string): boolean {
    return (this.codes.get(digest(code)) ?? 0) >= Date.now();
  }

  /** Trades a code for a session's token; a code works once. */
  async enter(code: string, agent: string): Promise<string> {
    const key = digest(code);
    const until = this.codes.get(key);
    this.codes.delete(key);
    if (until === undefined || until < Date.now())
      throw new Refusal('not-signed-in', 'This address was used already or has expired; each works once.', {
        remedy: 'Start Rellin again, or run “rellin address”, for a new one.',
      });
    return this.begin('address', agent);
  }

  private async begin(cameBy: SessionEntity['cameBy'], agent: string): Promise<string> {
    await this.rows.clearOld();
    const token = randomBytes(32).toString('base64url');
    const id = randomUUID();
    await this.rows.add({ tokenHash: digest(token), id, cameBy, agent: agent.slice(0, 300) });
    return token;
  }

  /** The session that a token belongs to; undefined where to none. */
  async sessionOf(token: string | undefined): Promise<string | undefined> {
    if (!token || token.length > 200) return undefined;
    const tokenHash = digest(token);
    const now = Date.now();
    const seen = this.seen.get(tokenHash);
    if (seen && now < seen.until && now - seen.at < SEEN_EVERY_MS) return seen.id;
    this.seen.delete(tokenHash);
    const row = await this.rows.seen(tokenHash, FORMER_MS / 1000);
    if (!row) return undefined;
    const until = row.current ? row.createdAt.getTime() + LONGEST_DAYS * DAY_MS : row.tokenSince.getTime() + FORMER_MS;
    this.seen.set(tokenHash, { id: row.id, at: now, until });
    return row.id;
  }

  /** A new token in an old one's place, once that has served its time; undefined while it serves. */
  async renewed(token: string): Promise<string | undefined> {
    const fresh = randomBytes(32).toString('base64url');
    if (!(await this.rows.renew(digest(token), digest(fresh), TOKEN_MS / 1000))) return undefined;
    this.seen.delete(digest(token));
    return fresh;
  }

  isCommand(authorization: string | undefined): boolean {
    const token = /^Bearer (\S{1,200})$/.exec(authorization ?? '')?.[1];
    return token !== undefined && same(token, this.commandToken);
  }

  /** Browsers that are signed in, the one seen last first. */
  async list(own: string | undefined): Promise<SignedInBrowser[]> {
    await this.rows.clearOld();
    const rows = await this.rows.list();
    return rows.map(({ id, cameBy, agent, createdAt, lastSeenAt }) => ({
      id,
      cameBy,
      agent,
      since: createdAt.toISOString(),
      lastSeen: lastSeenAt.toISOString(),
      isThis: id === own,
    }));
  }

  /** Ends a session; all but one where none is named. What it has open is closed. Returns how many ended. */
  async end(which: { id: string } | { allBut: string | undefined }): Promise<number> {
    const ended = new Set(await this.rows.end(which));
    for (const [key, { id }] of this.seen) if (ended.has(id)) this.seen.delete(key);
    for (const id of ended) this.endings.next(id);
    return ended.size;
  }

  /** Tells when this session has ended. */
  endOf(id: string): Observable<string> {
    return this.endings.pipe(filter((ended) => ended === id));
  }

  async hasPassphrase(): Promise<boolean> {
    return (await this.rows.passphraseHash()) !== undefined;
  }

  /**
   * Sets or, with an empty one, removes the passphrase; whoever is signed in elsewhere is signed out. Not journaled: an
   * undo must not bring an old one back. `current` is the one that holds now: a page left open is not its owner.
   */
  async setPassphrase(passphrase: string, current: string | undefined, by: Who): Promise<void> {
    const stored = await this.rows.passphraseHash();
    // the command's token lies in the owner's own folder: who can read it may set anything
    if (stored !== undefined && by.session !== undefined)
      await this.prove(stored, current ?? '', by.user, 'The current passphrase is wrong. Nothing was changed.');
    await this.rows.setPassphraseHash(passphrase === '' ? null : await hash(passphrase));
    await this.end({ allBut: by.session });
  }

  async signIn(passphrase: string, user: string, agent: string): Promise<string> {
    await this.provePassphrase(passphrase, user);
    return this.begin('passphrase', agent);
  }

  /** Refuses a passphrase that is not ours. */
  async provePassphrase(passphrase: string, user: string): Promise<void> {
    const stored = await this.rows.passphraseHash();
    if (stored === undefined)
      throw new Refusal('not-signed-in', 'No passphrase is set.', {
        remedy: 'Use the one-time address that Rellin prints at start.',
      });
    await this.prove(stored, passphrase, user, 'That is not the passphrase.');
  }

  /** Limited for each user of the machine by itself, so that nobody's guesses keep the owner out. */
  private async prove(stored: string, passphrase: string, user: string, detail: string): Promise<void> {
    const now = Date.now();
    const recent = (this.wrong.get(user) ?? []).filter((at) => now - at < TRIES_MS);
    if (recent.length >= TRIES)
      throw new Refusal('too-many', 'Too many wrong passphrases. Wait a minute.', { retryAfterSeconds: 60 });
    // counted before it is tried: of many at once none gets past the limit
    recent.push(now);
    this.wrong.set(user, recent);
    if (!(await verify(stored, passphrase)))
      throw new Refusal('not-signed-in', detail, {
        remedy: 'Use the one-time address that Rellin prints at start, or run “rellin address”.',
      });
    recent.splice(recent.indexOf(now), 1);
  }
}

/** Who asks: the session of a browser, if it is one, and the user of the machine. */
export interface Who {
  session: string | undefined;
  user: string;
}
