/**
 * npm test: everything. Makes sure of what is missing, builds, then core, server and page under Jest and the real
 * interface in headless Chromium. The last line is "N passed, N failed".
 *
 *   npm test -- core|server|security|web|e2e   only that part; “security” has its servers run by an ordinary user also
 *                                       where the tests are the superuser's
 *   npm run test:superuser              “security” once more, the server run by the superuser
 *   npm run test:fuzz                   a hundred thousand requests that nobody sends (RELLIN_FUZZ says how many)
 *   npm run test:faults                 the server ended at every point of every act that touches the disk
 */
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { runMain, say } from './lib/log.mjs';
import {
  CHROMIUM,
  DATA,
  ensureBuild,
  ensureChromium,
  ensurePackages,
  ensurePostgres,
  ensureReferences,
  postgresBin,
  ROOT,
} from './lib/prepare.mjs';
import { privateCluster } from './lib/postgres.mjs';
import { ensureTestDatabase } from './lib/testDatabase.mjs';
import { runAlong } from './lib/run.mjs';

const JEST_PARTS = ['core', 'server', 'security', 'web'];

async function jest(parts, env, only = []) {
  const file = join(DATA, 'test', 'jest.json');
  rmSync(file, { force: true });
  const started = Date.now();
  const code = await runAlong(
    process.execPath,
    [
      '--experimental-vm-modules',
      '--no-warnings',
      join(ROOT, 'node_modules/jest/bin/jest.js'),
      '--selectProjects',
      ...parts,
      ...only,
      '--json',
      // one fewer than the cores is Jest's habit: on two cores that is half the machine
      '--maxWorkers=100%',
      `--outputFile=${file}`,
      '--testLocationInResults',
    ],
    { cwd: ROOT, env, stdio: ['ignore', 'ignore', 2] },
  );
  if (!existsSync(file)) return { name: 'jest', passed: 0, failed: 1, seconds: 0 };
  const { numPassedTests, numFailedTests, numFailedTestSuites, numRuntimeErrorTestSuites } = JSON.parse(
    readFileSync(file, 'utf8'),
  );
  const failed = numFailedTests + numRuntimeErrorTestSuites;
  return {
    name: parts.join(', '),
    passed: numPassedTests,
    failed: failed || (code !== 0 ? Math.max(1, numFailedTestSuites) : 0),
    seconds: (Date.now() - started) / 1000,
  };
}

async function e2e(env) {
  const file = join(DATA, 'test', 'e2e.json');
  rmSync(file, { force: true });
  const started = Date.now();
  const code = await runAlong(
    process.execPath,
    [join(ROOT, 'node_modules/@playwright/test/cli.js'), 'test', '--config', join(ROOT, 'e2e/playwright.config.ts')],
    { cwd: ROOT, env: { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: file }, stdio: ['ignore', 2, 2] },
  );
  if (!existsSync(file)) return { name: 'e2e', passed: 0, failed: 1, seconds: 0 };
  const { stats } = JSON.parse(readFileSync(file, 'utf8'));
  const failed = stats.unexpected + stats.flaky;
  return {
    name: 'e2e',
    passed: stats.expected,
    failed: failed || (code !== 0 ? 1 : 0),
    seconds: (Date.now() - started) / 1000,
  };
}

runMain(async () => {
  const asked = process.argv.slice(2);
  const wants = (part) => asked.length === 0 || asked.includes(part);
  ensurePackages();
  ensurePostgres();
  if (wants('server') || asked.includes('faults')) ensureReferences();
  if (wants('e2e')) ensureChromium();
  ensureBuild();
  const folder = join(DATA, 'test');
  mkdirSync(folder, { recursive: true });
  // tests about crashes kill the server, not PostgreSQL, so that fsync may be off
  const cluster = await privateCluster({ bin: postgresBin(), folder, fsync: false, users: ['nobody'] });
  const env = {
    ...process.env,
    RELLIN_TEST_CLUSTER: cluster.url('postgres', 'rellin_admin'),
    RELLIN_TEST_DATABASE: await ensureTestDatabase(cluster),
    RELLIN_TEST_CHROMIUM: CHROMIUM,
    RELLIN_TEST_PG_BIN: postgresBin(),
  };
  const results = [];
  try {
    const parts = JEST_PARTS.filter(wants);
    if (parts.length > 0) results.push(await jest(parts, env));
    if (asked.includes('faults'))
      results.push(await jest(['server'], { ...env, RELLIN_ALL_FAULTS: '1' }, ['--testPathPatterns', 'faults']));
    if (asked.includes('fuzz'))
      results.push(
        await jest(['security'], { RELLIN_FUZZ: '100000', ...env }, ['--testPathPatterns', 'security/fuzz']),
      );
    if (asked.includes('superuser')) results.push(await jest(['security'], { ...env, RELLIN_TEST_SUPERUSER: '1' }));
    if (wants('e2e')) results.push(await e2e(env));
  } finally {
    cluster.stop();
  }
  const sum = (key) => results.reduce((n, r) => n + r[key], 0);
  say('');
  for (const r of results) say(`${r.name}: ${r.passed} passed, ${r.failed} failed in ${r.seconds.toFixed(0)} s`);
  process.stdout.write(`${sum('passed')} passed, ${sum('failed')} failed\n`);
  process.exitCode = sum('failed') > 0 || sum('passed') === 0 ? 1 : 0;
});
