/** npm run check: types, lint, arrows, format, and who touches which table. Runs all of them and says which failed. */
import { join } from 'node:path';
import { runMain, say, Stop } from './lib/log.mjs';
import { ensurePackages, ROOT } from './lib/prepare.mjs';
import { runAlong } from './lib/run.mjs';
import { tableTroubles } from './lib/tables.mjs';

const bin = (path) => join(ROOT, 'node_modules', path);
const CHECKS = [
  ['types', [bin('typescript/bin/tsc'), '-b']],
  ['types of the page', [bin('typescript/bin/tsc'), '-p', 'packages/web']],
  ['types of the tests', [bin('typescript/bin/tsc'), '-p', 'tsconfig.tests.json']],
  ['types of the scripts', [bin('typescript/bin/tsc'), '-p', 'tsconfig.scripts.json']],
  ['lint', [bin('eslint/bin/eslint.js'), '--max-warnings', '0', 'packages', 'e2e', 'bench', 'scripts', 'bin']],
  [
    'arrows',
    [
      bin('dependency-cruiser/bin/dependency-cruise.mjs'),
      '--config',
      '.dependency-cruiser.cjs',
      'packages/core/src',
      'packages/contract/src',
      'packages/server/src',
      'packages/web/src',
      'packages/demo/src',
    ],
  ],
  ['format', [bin('prettier/bin/prettier.cjs'), '--check', '--log-level', 'warn', '.']],
];

runMain(async () => {
  ensurePackages();
  const failed = [];
  for (const [name, args] of CHECKS) {
    const code = await runAlong(process.execPath, args, { cwd: ROOT, stdio: 'inherit' });
    say(`${code === 0 ? 'ok    ' : 'FAILED'} ${name}`);
    if (code !== 0) failed.push(name);
  }
  const troubles = tableTroubles();
  for (const trouble of troubles) say(trouble);
  say(`${troubles.length === 0 ? 'ok    ' : 'FAILED'} tables`);
  if (troubles.length > 0) failed.push('tables');
  if (failed.length > 0) throw new Stop(`Failed: ${failed.join(', ')}`);
});
