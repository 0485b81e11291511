/**
 * Who may talk to Rellin: a browser that came by a one-time address (or gave the passphrase) and holds a session cookie,
 * or a command that holds the token from the user's own data folder.
 */
import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import { hash, verify } from '@node-rs/argon2';
import { DataSource } from 'typeorm';
import { CONFIG, type Config } from '../config/config.js';
import { Refusal } from '../problems/refusal.js';
import { SessionEntity } from './session.entity.js';

export const COOKIE = 'rellin';
export const COOKIE_DAYS = 365;
const CODE_MS = 24 * 3_600_000;
const SEEN_EVERY_MS = 3_600_000;

const digest = (text: string) => createHash('sha256').update(text).digest('hex');

function same(a: string, b: string): boolean {
  const x = Buffer.from(digest(a));
  const y = Buffer.from(digest(b));
  return timingSafeEqual(x, y);
}

@Injectable()
export class SessionService {
  private readonly commandToken: string;
  private readonly codes = new Map<string, number>();
  private readonly seen = new Map<string, number>();

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly db: DataSource,
  ) {
    this.commandToken = commandToken(config.dataFolder);
    if (config.entryCode) this.codes.set(digest(config.entryCode), Date.now() + CODE_MS);
  }

  /** A code for one visit. */
  newCode(): string {
    const code = randomBytes(18).toString('base64url');
    this.codes.set(digest(code), Date.now() + CODE_MS);
    return code;
  }

  /** Trades a code for a session's token; a code works once. */
  async enter(code: string): Promise<string> {
    const key = digest(code);
    const until = this.codes.get(key);
    this.codes.delete(key);
    if (until === undefined || until < Date.now())
      throw new Refusal('not-signed-in', 'This address was used already or has expired; each works once.', {
        remedy: 'Start Rellin again, or run “rellin address”, for a new one.',
      });
    return this.begin();
  }

  private async begin(): Promise<string> {
    const token = randomBytes(32).toString('base64url');
    await this.db.getRepository(SessionEntity).insert({ tokenHash: digest(token) });
    return token;
  }

  async isSignedIn(token: string | undefined): Promise<boolean> {
    if (!token || token.length > 200) return false;
    const tokenHash = digest(token);
    const seen = this.seen.get(tokenHash);
    if (seen !== undefined && Date.now() - seen < SEEN_EVERY_MS) return true;
    const result = await this.db.getRepository(SessionEntity).update({ tokenHash }, { lastSeenAt: new Date() });
    if (result.affected !== 1) return false;
    this.seen.set(tokenHash, Date.now());
    return true;
  }

  isCommand(authorization: string | undefined): boolean {
    const token = /^Bearer (\S{1,200})$/.exec(authorization ?? '')?.[1];
    return token !== undefined && same(token, this.commandToken);
  }

  async leave(token: string): Promise<void> {
    this.seen.delete(digest(token));
    await this.db.getRepository(SessionEntity).delete({ tokenHash: digest(token) });
  }

  async hasPassphrase(): Promise<boolean> {
    return (await this.passphraseHash()) !== undefined;
  }

  private async passphraseHash(): Promise<string | undefined> {
    const rows = (await this.db.query(`SELECT value FROM setting WHERE id = 'passphrase'`)) as {
      value: string | null;
    }[];
    return rows[0]?.value ?? undefined;
  }

  /** Sets or, with an empty one, takes away the passphrase. Not journaled: an undo must not bring an old one back. */
  async setPassphrase(passphrase: string): Promise<void> {
    if (passphrase === '') {
      await this.db.query(`DELETE FROM setting WHERE id = 'passphrase'`);
      return;
    }
    await this.db.query(
      `INSERT INTO setting (id, value) VALUES ('passphrase', $1) ON CONFLICT (id) DO UPDATE SET value = $1`,
      [JSON.stringify(await hash(passphrase))],
    );
  }

  async signIn(passphrase: string): Promise<string> {
    const stored = await this.passphraseHash();
    if (!stored || !(await verify(stored, passphrase)))
      throw new Refusal('not-signed-in', stored ? 'That is not the passphrase.' : 'No passphrase is set.', {
        remedy: 'Use the one-time address that Rellin prints at start.',
      });
    return this.begin();
  }
}

/** The token that commands of the same user read; made once, readable by its owner only. */
function commandToken(dataFolder: string): string {
  const path = join(dataFolder, 'command-token');
  try {
    return readFileSync(path, 'utf8').trim();
  } catch {
    mkdirSync(dataFolder, { recursive: true, mode: 0o700 });
    const token = randomBytes(32).toString('base64url');
    writeFileSync(path, token + '\n', { mode: 0o600 });
    return token;
  }
}
