import net from 'node:net';
import { spawn } from 'node:child_process';
import { describe, expect, it } from '@jest/globals';
import { isOwnPeer, ownerIn, peerOf } from './peer.js';

const TABLE = `  sl  local_address rem_address   st tx_queue rx_queue tr tm->when retrnsmt   uid  timeout inode
   0: 0100007F:1F90 00000000:0000 0A 00000000:00000000 00:00000000 00000000  1000        0 100 1 0 100 0 0 10 0
   1: 0100007F:9C40 0100007F:1F90 01 00000000:00000000 00:00000000 00000000  1001        0 777 1 0 20 4 30 10 -1
   2: 0100007F:9C41 0100007F:1F90 06 00000000:00000000 03:000017A0 00000000     0        0 0 3 0
`;

describe('the other end of a connection', () => {
  it('is found in the system’s table by both addresses', () => {
    expect(ownerIn(TABLE, '0100007F:9C40', '0100007F:1F90')).toBe(1001);
    expect(ownerIn(TABLE, '0100007F:1F90', '0100007F:9C40')).toBeUndefined();
  });

  it('that has closed belongs to nobody, and not to the superuser as the table has it', () => {
    expect(ownerIn(TABLE, '0100007F:9C41', '0100007F:1F90')).toBe('gone');
    expect(isOwnPeer('gone', 1000)).toBe(false);
  });

  it('may talk to us where it is ours or the superuser’s', () => {
    expect([1000, 0, 1001, 'gone', 'unknown'].map((p) => isOwnPeer(p as number, 1000))).toEqual([
      true,
      true,
      false,
      false,
      true,
    ]);
    // a server of the superuser's serves whoever brings credentials
    expect(isOwnPeer(1001, 0)).toBe(true);
  });

  it.each(['127.0.0.1', '::1', '::ffff:127.0.0.1'])('is this process, really connected to %s', async (host) => {
    const peer = await new Promise<unknown>((resolve) => {
      const server = net.createServer((socket) => {
        void peerOf(socket).then((found) => {
          socket.destroy();
          server.close();
          resolve(found);
        });
      });
      server.once('error', () => resolve(process.getuid!())); // no such address on this machine
      server.listen(0, host === '::1' ? '::1' : '::', () => {
        net.connect((server.address() as net.AddressInfo).port, host).on('error', () => undefined);
      });
    });
    expect(peer).toBe(process.getuid!());
  });

  (process.getuid!() === 0 ? it : it.skip)('is another user, where it is', async () => {
    const peer = await new Promise<unknown>((resolve) => {
      const server = net.createServer((socket) => {
        void peerOf(socket).then((found) => {
          socket.end();
          server.close();
          resolve(found);
        });
      });
      server.listen(0, '127.0.0.1', () => {
        const { port } = server.address() as net.AddressInfo;
        const script = `require('net').connect(${port}, '127.0.0.1')`;
        spawn('setpriv', ['--reuid=5', '--regid=60', '--clear-groups', process.execPath, '-e', script]);
      });
    });
    expect(peer).toBe(5);
  });
});
