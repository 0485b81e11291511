/** Makes sure of what is missing: packages of npm, packages of Debian, the build. Built-ins only. */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { say, Stop } from './log.mjs';
import { outputOf, run } from './run.mjs';

export const ROOT = dirname(dirname(dirname(fileURLToPath(import.meta.url))));
export const DATA = join(ROOT, '.data');
/** The built server. */
export const SERVER = join(ROOT, 'packages/server/dist/bundle/main.js');

const stampPath = (name) => join(DATA, 'stamps', name);
function stamped(name, value) {
  try {
    return readFileSync(stampPath(name), 'utf8') === value;
  } catch {
    return false;
  }
}
function stamp(name, value) {
  mkdirSync(dirname(stampPath(name)), { recursive: true });
  writeFileSync(stampPath(name), value);
}

/** npm's packages, exactly those of the lock file. */
export function ensurePackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  if (existsSync(join(ROOT, 'node_modules', '.package-lock.json')) && stamped('packages', lock)) return;
  const there = existsSync(join(ROOT, 'node_modules', '.package-lock.json'));
  if (there && outputOf('npm', ['ls', '--all', '--silent'], { cwd: ROOT }) !== undefined) {
    stamp('packages', lock);
    return;
  }
  say('Installing packages (npm ci), about a minute …');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: ROOT });
  stamp('packages', lock);
}

/** Debian's packages: installed where we may, otherwise the very command to run. */
export function ensureDebian(packages, isThere) {
  if (isThere()) return;
  const command = `apt-get install -y --no-install-recommends ${packages.join(' ')}`;
  const isRoot = process.getuid?.() === 0;
  const sudo = !isRoot && outputOf('sudo', ['-n', 'true']) !== undefined;
  const hasApt = outputOf('apt-get', ['--version']) !== undefined;
  if (!hasApt || (!isRoot && !sudo))
    throw new Stop(`${packages.join(' and ')} must be installed first. Run:\n\n    sudo ${command}\n`);
  say(`Installing ${packages.join(', ')} from Debian's packages …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const apt = (args) => (isRoot ? run('apt-get', args, { env }) : run('sudo', ['-n', 'apt-get', ...args], { env }));
  apt(['update', '-qq']);
  apt(['install', '-y', '-qq', '--no-install-recommends', ...packages]);
  if (!isThere()) throw new Stop(`${packages.join(' and ')} did not arrive. Run:\n\n    ${command}\n`);
}

/** The newest PostgreSQL's programs, or undefined. */
function findPostgresBin() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return undefined;
  const versions = readdirSync(base)
    .filter((v) => existsSync(join(base, v, 'bin', 'initdb')) && existsSync(join(base, v, 'bin', 'postgres')))
    .sort((a, b) => Number(b) - Number(a));
  return versions[0] && join(base, versions[0], 'bin');
}

/** The newest PostgreSQL's programs. */
export function postgresBin() {
  const bin = findPostgresBin();
  if (!bin) throw new Stop('PostgreSQL is not installed.');
  return bin;
}

export function ensurePostgres() {
  ensureDebian(['postgresql'], () => findPostgresBin() !== undefined);
  return postgresBin();
}

export const CHROMIUM = '/usr/bin/chromium';
export function ensureChromium() {
  ensureDebian(['chromium'], () => existsSync(CHROMIUM));
}

/** Programs that the tests compare with. */
export function ensureReferences() {
  ensureDebian(['desktop-file-utils', 'libxml2-utils', 'attr'], () =>
    ['desktop-file-validate', 'xmllint', 'setfattr'].every((name) => existsSync(join('/usr/bin', name))),
  );
}

/** Everything a build depends on, as one value: names, sizes and times of the sources. */
function sourcesValue() {
  const hash = createHash('sha256');
  const walk = (dir) => {
    for (const entry of readdirSync(dir, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
      if (entry.name === 'node_modules' || entry.name === 'dist' || entry.name.endsWith('.tsbuildinfo')) continue;
      const path = join(dir, entry.name);
      if (entry.isDirectory()) walk(path);
      else {
        const s = statSync(path);
        hash.update(`${path}\0${s.size}\0${s.mtimeMs}\n`);
      }
    }
  };
  walk(join(ROOT, 'packages'));
  for (const file of ['package-lock.json', 'tsconfig.base.json', 'scripts/bundle.mjs', 'scripts/schema.mjs'])
    hash.update(readFileSync(join(ROOT, file)));
  return hash.digest('hex');
}

export function ensureBuild() {
  const value = sourcesValue();
  const built = ['core/dist', 'contract/dist/api.schema.json', 'server/dist/bundle', 'demo/dist', 'web/dist'].every(
    (folder) => existsSync(join(ROOT, 'packages', folder)),
  );
  if (built && stamped('build', value)) return;
  say('Building …');
  run(process.execPath, [join(ROOT, 'node_modules/typescript/bin/tsc'), '-b'], { cwd: ROOT });
  run(process.execPath, [join(ROOT, 'scripts/schema.mjs')], { cwd: ROOT });
  run(process.execPath, [join(ROOT, 'scripts/bundle.mjs')], { cwd: ROOT });
  run(process.execPath, [join(ROOT, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'warn'], {
    cwd: join(ROOT, 'packages/web'),
  });
  run(process.execPath, [join(ROOT, 'scripts/compress.mjs'), join(ROOT, 'packages/web/dist')]);
  stamp('build', value);
}
