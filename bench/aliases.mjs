/** Aliases in a catalogue with many published collections, beside the bare links of the file system. */
import { existsSync, mkdirSync, mkdtempSync, realpathSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { withCatalogue } from './index.walks.mjs';
import { median, timed } from './measure.mjs';
import { insertShortcuts, lookedThrough } from './repair.mjs';

const MEMBERS = 5000;
const PUBLICATIONS = 33;
const ALIASES = 20;

/**
 * One alias until it is written, and one member more until its link stands in every folder, where 33 folders of links
 * show the same collection of 5,000.
 */
export async function aliasOne() {
  const base = realpathSync(mkdtempSync(join(tmpdir(), 'rellin-aliases-')));
  const root = join(base, 'home');
  mkdirSync(join(root, 'files'), { recursive: true });
  mkdirSync(join(root, 'published'));
  mkdirSync(join(root, 'aliases'));
  mkdirSync(join(base, 'bare'));
  const paths = Array.from({ length: MEMBERS + ALIASES }, (_, i) => join('files', `file ${i}.txt`));
  for (const path of paths) writeFileSync(join(root, path), path);
  try {
    return await withCatalogue(async (client, url) => {
      const { serve, placeId } = await lookedThrough(client, url, [['home', root]]);
      await insertShortcuts(client, placeId, root, paths);
      return serve(async ({ call, idle, until }) => {
        const made = await client.query(`SELECT id, name FROM shortcut ORDER BY name`);
        const ids = made.rows.map((r) => r.id);
        const collection = await call('POST', '/collections', {
          name: 'all of them',
          shortcutIds: ids.slice(ALIASES),
        });
        const published = [];
        for (let i = 0; i < PUBLICATIONS; i++)
          published.push(
            await timed(() =>
              call('POST', '/aliases/publications', {
                source: 'collection',
                sourceId: collection.id,
                folder: join(root, 'published'),
                name: `folder ${i}`,
              }),
            ),
          );
        await idle();
        const alias = [];
        const member = [];
        const bare = [];
        for (let i = 0; i < ALIASES; i++) {
          alias.push(
            await timed(() => call('POST', '/aliases', { shortcutId: ids[i], folder: join(root, 'aliases') })),
          );
          const links = Array.from({ length: PUBLICATIONS }, (_, n) =>
            join(root, 'published', `folder ${n}`, made.rows[i].name),
          );
          member.push(
            await timed(async () => {
              await call('POST', `/collections/${collection.id}/members`, { shortcutIds: [ids[i]] });
              await until(() => links.every((link) => existsSync(link)), Boolean);
            }),
          );
        }
        for (let i = 0; i < MEMBERS; i++)
          bare.push(await timed(() => symlinkSync(join(root, paths[i]), join(base, 'bare', `link ${i}`))));
        const link = median(bare);
        const scene = `${PUBLICATIONS} folders that show a collection of ${MEMBERS.toLocaleString('en-GB')}`;
        const figure = (what, times, links) => ({
          value: median(times),
          unit: `ms ${what}`,
          reference: `${links.toLocaleString('en-GB')} bare links`,
          referenceValue: link * links,
          ratio: median(times) / (link * links),
          note: `${scene}; slowest ${Math.max(...times).toFixed(0)} ms`,
        });
        return [
          figure('one alias', alias, 1),
          figure('one member more', member, PUBLICATIONS),
          figure('one folder published', published, MEMBERS),
        ];
      });
    });
  } finally {
    rmSync(base, { recursive: true, force: true });
  }
}
