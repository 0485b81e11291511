/** One server on one catalogue: a lock held by a connection of its own for as long as the server lives. */
import pg from 'pg';

const LOCK = [7, 42];
/**
 * A server that was told to stop is given as long as it gives itself; it no longer answers, and holds the lock until it
 * ends.
 */
const STOPPING_MS = 9000;
const AGAIN_MS = 200;

export interface ServerLock {
  release(): Promise<void>;
}

/**
 * `undefined` where another server holds it. Where the connection drops, the lock is taken again as soon as it can be.
 */
export async function takeServerLock(databaseUrl: string, onLost: () => void): Promise<ServerLock | undefined> {
  let closed = false;
  let client = await connect();
  for (const end = Date.now() + STOPPING_MS; !client && Date.now() < end; client = await connect())
    await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
  if (!client) return undefined;

  async function connect(): Promise<pg.Client | undefined> {
    const fresh = new pg.Client({ connectionString: databaseUrl, keepAlive: true });
    fresh.on('error', () => undefined);
    await fresh.connect();
    const result = await fresh.query(`SELECT pg_try_advisory_lock($1, $2) AS got`, LOCK);
    if (!(result.rows[0] as { got: boolean }).got) {
      await fresh.end();
      return undefined;
    }
    fresh.once('end', () => void again());
    return fresh;
  }

  async function again(): Promise<void> {
    while (!closed) {
      try {
        client = await connect();
        if (!client) onLost();
        return;
      } catch {
        await new Promise((resolve) => setTimeout(resolve, 500).unref());
      }
    }
  }

  return {
    async release() {
      closed = true;
      await client?.end().catch(() => undefined);
    },
  };
}
