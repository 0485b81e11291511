/** The list of shortcuts over HTTP beside a bare Node server that answers the same bytes. */
import { createServer } from 'node:http';
import { withCatalogue } from './index.walks.mjs';
import { median } from './measure.mjs';
import { withServer } from './server.mjs';

const SHORTCUTS = 1000;
const SECONDS = 2;
const AT_ONCE = 8;

/** Requests a second, that many at once, for that long. */
async function rate(ask) {
  const end = performance.now() + SECONDS * 1000;
  let answered = 0;
  const one = async () => {
    while (performance.now() < end) {
      await ask();
      answered++;
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, one));
  return answered / SECONDS;
}

export function httpList() {
  return withCatalogue(async (client, url) => {
    const ours = [];
    const theirs = [];
    let bytes = 0;
    await withServer({ url }, async ({ call, get, idle }) => {
      for (let i = 0; i < SHORTCUTS; i++)
        await call('POST', '/shortcuts', { url: `https://rellin.example/${i}`, name: `Page ${i}` });
      const body = Buffer.from(JSON.stringify(await call('GET', '/shortcuts')));
      bytes = body.length;
      await idle();
      const bare = createServer((_, answer) => answer.setHeader('content-type', 'application/json').end(body));
      const port = await new Promise((resolve) =>
        bare.listen(0, '127.0.0.1', () => {
          const at = bare.address();
          resolve(typeof at === 'object' && at ? at.port : 0);
        }),
      );
      try {
        const askOurs = () => get('/shortcuts');
        const askBare = () => fetch(`http://127.0.0.1:${port}/`).then((a) => a.arrayBuffer());
        await rate(askOurs);
        await rate(askBare);
        for (let i = 0; i < 5; i++) {
          theirs.push(await rate(askBare));
          ours.push(await rate(askOurs));
        }
      } finally {
        bare.closeAllConnections();
        bare.close();
      }
    });
    return [
      {
        value: median(ours),
        unit: 'requests/s',
        reference: 'bare Node server, same bytes',
        referenceValue: median(theirs),
        ratio: median(ours) / median(theirs),
        note: `${SHORTCUTS.toLocaleString('en-GB')} shortcuts, ${bytes.toLocaleString('en-GB')} bytes, ${AT_ONCE} at once`,
      },
    ];
  });
}
