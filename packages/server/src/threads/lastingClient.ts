/** A thread's own connection to PostgreSQL, opened when it is first needed and anew where PostgreSQL had gone away. */
import pg from 'pg';

// as the pool reads them (database.module.ts)
pg.defaults.parseInt8 = true;

export interface LastingClient {
  get(): Promise<pg.Client>;
  end(): Promise<void>;
}

export function lastingClient(databaseUrl: string): LastingClient {
  let client: pg.Client | undefined;
  return {
    async get() {
      if (client) return client;
      const fresh = new pg.Client({ connectionString: databaseUrl, options: '-c timezone=UTC' });
      const drop = () => {
        if (client === fresh) client = undefined;
      };
      fresh.on('error', drop);
      fresh.on('end', drop);
      await fresh.connect();
      return (client = fresh);
    },
    async end() {
      await client?.end().catch(() => undefined);
    },
  };
}
