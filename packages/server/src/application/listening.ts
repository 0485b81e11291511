/**
 * Listening on loopback, both its addresses at one port: a browser asks ::1 first for a name below `localhost`, and
 * whoever listened there in our place would be sent what is meant for us.
 */
import { createServer, type Server } from 'node:net';
import type { NestFastifyApplication } from '@nestjs/platform-fastify';

const TRIES = 20;

export interface Listening {
  port: number;
  close(): void;
}

const isTaken = (error: unknown) => (error as NodeJS.ErrnoException).code === 'EADDRINUSE';

/** At this port, or where it is 0 or taken, and not `fixed`, at another. */
export async function listenOnLoopback(
  app: NestFastifyApplication,
  wanted: number,
  fixed: boolean,
): Promise<Listening> {
  const http = app.getHttpServer() as Server;
  for (let port = wanted, tries = 0; ; port = 0) {
    // ::1 first: what Fastify listens on it cannot leave again
    const second = await secondAt(port, http).catch((error: unknown) => {
      if (!isTaken(error) || fixed || ++tries > TRIES) throw error;
      return 'taken' as const;
    });
    if (second === 'taken') continue;
    const at = second ? (second.address() as { port: number }).port : port;
    try {
      await app.listen(at, '127.0.0.1');
      return { port: (http.address() as { port: number }).port, close: () => void second?.close() };
    } catch (error) {
      second?.close();
      if (!isTaken(error) || fixed || ++tries > TRIES) throw error;
    }
  }
}

/** Hands on to the same server what comes by ::1; undefined where the machine has no such address. */
function secondAt(port: number, http: Server): Promise<Server | undefined> {
  return new Promise((resolve, reject) => {
    const second = createServer((socket) => http.emit('connection', socket));
    second.once('error', (error: NodeJS.ErrnoException) =>
      ['EADDRNOTAVAIL', 'EAFNOSUPPORT'].includes(error.code ?? '') ? resolve(undefined) : reject(error),
    );
    second.listen({ port, host: '::1', ipv6Only: true }, () => resolve(second));
  });
}
