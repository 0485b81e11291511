/** The server's connections to PostgreSQL. */

/** At once; PostgreSQL takes sixty of a private cluster, of which threads have some of their own. */
export const POOL_SIZE = 12;

/** For a connection, a new one or one that comes free: longer than that PostgreSQL has stopped answering. */
export const CONNECT_MS = 20_000;
