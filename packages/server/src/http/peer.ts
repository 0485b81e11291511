/**
 * Whose process is at the other end of a loopback connection, as Linux tells it (proc(5), /proc/net/tcp): credentials
 * that another user of the machine has come by are worth nothing to them while the kernel says who they are.
 */
import { readFile } from 'node:fs/promises';
import { endianness } from 'node:os';
import type { Socket } from 'node:net';

/** `unknown`: the system does not tell at all. `gone`: the other end has closed, and belongs to nobody any more. */
export type Peer = number | 'unknown' | 'gone';

const bytesOf = (address: string): Buffer | undefined => {
  if (address === '::1') return Buffer.from('00000000000000000000000000000001', 'hex');
  const four = address.replace(/^::ffff:/, '').split('.');
  return four.length === 4 ? Buffer.from(four.map(Number)) : undefined;
};

/** An address as the table spells it: words of 32 bits in the machine's own order. */
function spelt(bytes: Buffer, port: number): string {
  const words = Buffer.from(bytes);
  if (endianness() === 'LE') words.swap32();
  return `${words.toString('hex').toUpperCase()}:${port.toString(16).toUpperCase().padStart(4, '0')}`;
}

const MAPPED = Buffer.from('00000000000000000000ffff', 'hex');

/** The owner in one table of the socket at `from` that is connected to `to`; its inode is 0 once nobody holds it. */
export function ownerIn(table: string, from: string, to: string): Peer | undefined {
  const at = table.indexOf(` ${from} ${to} `);
  if (at < 0) return undefined;
  // after both addresses: state, queues, timer, retransmits, then whose it is
  const [, , , , , , , uid, , inode] = table.slice(at, at + 200).split(/\s+/);
  return inode === '0' ? 'gone' : Number(uid);
}

/** Asks the system's tables; costs one reading of them, so once a connection. */
async function ask(socket: Socket): Promise<Peer> {
  const { remoteAddress, remotePort, localAddress, localPort } = socket;
  const from = bytesOf(remoteAddress ?? '');
  const to = bytesOf(localAddress ?? '');
  if (!from || !to || remotePort === undefined || localPort === undefined) return 'gone';
  const lines: [string, string, string][] =
    from.length === 4
      ? [
          ['/proc/net/tcp', spelt(from, remotePort), spelt(to, localPort)],
          [
            '/proc/net/tcp6',
            spelt(Buffer.concat([MAPPED, from]), remotePort),
            spelt(Buffer.concat([MAPPED, to]), localPort),
          ],
        ]
      : [['/proc/net/tcp6', spelt(from, remotePort), spelt(to, localPort)]];
  let isTold = false;
  for (const [path, at, there] of lines) {
    const table = await readFile(path, 'latin1').catch(() => undefined);
    if (table === undefined) continue;
    isTold = true;
    const owner = ownerIn(table, at, there);
    if (owner !== undefined) return owner;
  }
  return isTold ? 'gone' : 'unknown';
}

const asked = new WeakMap<Socket, Promise<Peer>>();

export function peerOf(socket: Socket): Promise<Peer> {
  let answer = asked.get(socket);
  if (!answer) asked.set(socket, (answer = ask(socket)));
  return answer;
}

/**
 * Whether such a peer may talk to a server of this user: the same user and the superuser. A server that the superuser
 * runs serves whoever brings credentials: there is no knowing whose browser it is for.
 */
export function isOwnPeer(peer: Peer, own = process.getuid?.()): boolean {
  if (own === undefined || own === 0 || peer === 'unknown') return true;
  return peer === own || peer === 0;
}
