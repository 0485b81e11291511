/** The Rellin that runs on a data folder, and whether what answers at its address is ours. Built-ins only. */
import { readFileSync } from 'node:fs';
import { endianness } from 'node:os';
import { join } from 'node:path';

/**
 * Who listens at a port of 127.0.0.1: the number of the user; undefined where nobody does, or the system does not tell.
 */
function listenerAt(port) {
  const bytes = Buffer.from([127, 0, 0, 1]);
  if (endianness() === 'LE') bytes.swap32();
  const at = `${bytes.toString('hex').toUpperCase()}:${port.toString(16).toUpperCase().padStart(4, '0')}`;
  const line = readFileSync('/proc/net/tcp', 'latin1')
    .split('\n')
    .map((l) => l.trim().split(/\s+/))
    .find(([, local, , state]) => local === at && state === '0A');
  return line && Number(line[7]);
}

/**
 * Where it answers, the page's own address and the command's token; undefined where none runs. Once Rellin has ended
 * its port is anybody's: to what another user of the machine listens with there the token is not shown.
 */
export function ownServer(dataFolder) {
  let run;
  let token;
  try {
    run = JSON.parse(readFileSync(join(dataFolder, 'run.json'), 'utf8'));
    token = readFileSync(join(dataFolder, 'command-token'), 'utf8').trim();
  } catch {
    return undefined;
  }
  const own = process.getuid?.();
  try {
    const listener = listenerAt(Number(new URL(run.address).port));
    // of the superuser's commands a server that runs as another user may well be the right one
    if (listener === undefined || (own !== 0 && listener !== own)) return undefined;
  } catch {
    // a system without that table says nothing of who listens
  }
  return { address: run.address, page: run.page ?? run.address, token };
}
