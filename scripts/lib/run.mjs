/** Running other programs. Built-ins only: this runs before `npm ci`. */
import { spawn, spawnSync } from 'node:child_process';
import { Stop } from './log.mjs';

/** Runs to the end with our own output streams; stops with a message where it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: ['ignore', 2, 2], ...options });
  if (result.error) throw new Stop(`${command} could not be started: ${result.error.message}`);
  if (result.status !== 0) throw new Stop(`${command} ${args.join(' ')} ended with ${result.status ?? result.signal}`);
}

/** Output of a program, or undefined where it fails. */
export function outputOf(command, args, options = {}) {
  const result = spawnSync(command, args, { encoding: 'utf8', ...options });
  return result.status === 0 ? result.stdout : undefined;
}

/** Runs while we go on; resolves with the exit code. */
export function runAlong(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['ignore', 2, 2], ...options });
    child.once('error', reject);
    child.once('exit', (code, signal) => resolve(code ?? (signal ? 1 : 0)));
  });
}
