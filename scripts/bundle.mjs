/**
 * The built server, its threads and processes, each with all it imports in one file: thousands of small modules took
 * most of a start. Written to packages/server/dist/bundle, so deep as any folder of the server, so that ways from a
 * file upward hold.
 */
import { readdirSync, rmSync } from 'node:fs';
import { basename, join } from 'node:path';
import { rolldown } from 'rolldown';
import { runMain, say } from './lib/log.mjs';
import { ROOT } from './lib/prepare.mjs';

const dist = join(ROOT, 'packages/server/dist');
const folder = join(dist, 'bundle');

/** These come with files of their own beside their code. */
const WITH_FILES = [/^sharp$/, /^@node-rs\/argon2$/, /^pdfjs-dist\//, /^swagger-ui-dist/, /^mime-db$/];
/** Frameworks name what they could use if it were there, import in circles, and look for what is installed. */
const USUAL = new Set(['UNRESOLVED_IMPORT', 'CIRCULAR_DEPENDENCY', 'EVAL']);

runMain(async () => {
  rmSync(folder, { recursive: true, force: true });
  const apart = readdirSync(dist, { recursive: true, encoding: 'utf8' }).filter((name) =>
    /\.(worker|process)\.js$/.test(name),
  );
  const files = ['main.js', ...apart];
  const bundle = await rolldown({
    input: Object.fromEntries(files.map((name) => [basename(name, '.js'), join(dist, name)])),
    platform: 'node',
    external: WITH_FILES,
    onLog(level, log) {
      const own = log.id?.startsWith(dist) ?? false;
      if (own || !USUAL.has(log.code ?? '')) say(`${level}: ${log.message}`);
    },
  });
  // neither shortened nor renamed: what the log says of an error leads to a line that can be read
  await bundle.write({ dir: folder, format: 'esm', chunkFileNames: '[name].js' });
});
