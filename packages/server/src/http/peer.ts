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

interface Waiting {
  /** Where the line may stand: each a table with the two addresses. */
  lines: [keyof Tables, string, string][];
  resolve(peer: Peer): void;
}

/** Undefined where the system has no such table. */
interface Tables {
  tcp: string | undefined;
  tcp6: string | undefined;
}

let waiting: Waiting[] = [];
let isReading = false;

/**
 * Reads the tables once for all that ask meanwhile: of a thousand connections at once each would have it thousandfold.
 */
async function answerAll(): Promise<void> {
  if (isReading) return;
  isReading = true;
  while (waiting.length > 0) {
    const some = waiting;
    waiting = [];
    const read = (name: string) => readFile(`/proc/net/${name}`, 'latin1').catch(() => undefined);
    const tables: Tables = { tcp: await read('tcp'), tcp6: await read('tcp6') };
    const isTold = tables.tcp !== undefined || tables.tcp6 !== undefined;
    for (const { lines, resolve } of some) {
      const owners = lines.map(([table, at, there]) => ownerIn(tables[table] ?? '', at, there));
      resolve(owners.find((owner) => owner !== undefined) ?? (isTold ? 'gone' : 'unknown'));
    }
  }
  isReading = false;
}

/** Asks the system's tables, once for each connection. */
function ask(socket: Socket): Promise<Peer> {
  const { remoteAddress, remotePort, localAddress, localPort } = socket;
  const from = bytesOf(remoteAddress ?? '');
  const to = bytesOf(localAddress ?? '');
  if (!from || !to || remotePort === undefined || localPort === undefined) return Promise.resolve('gone');
  const mapped = (bytes: Buffer) => Buffer.concat([MAPPED, bytes]);
  const lines: Waiting['lines'] =
    from.length === 4
      ? [
          ['tcp', spelt(from, remotePort), spelt(to, localPort)],
          ['tcp6', spelt(mapped(from), remotePort), spelt(mapped(to), localPort)],
        ]
      : [['tcp6', spelt(from, remotePort), spelt(to, localPort)]];
  return new Promise((resolve) => {
    waiting.push({ lines, resolve });
    void answerAll();
  });
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
