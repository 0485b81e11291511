/** Runs the server as built: the one way in which start, benches and tests do it. Built-ins only. */
import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline';
import { SERVER } from './prepare.mjs';

/**
 * Where a server is reached: by commands, and by browsers under the page's own name.
 * @typedef {{ address: string, page: string }} Listening
 */

/**
 * @param {object} options
 * @param {NodeJS.ProcessEnv} options.env
 * @param {string[]} [options.command] What runs it; this Node by default.
 * @param {boolean} [options.detached] In a group of its own. However it runs, it ends when we do: its standard input is
 *   ours.
 * @param {(line: string) => void} [options.onLine] Each line of its log.
 * @param {(text: string) => void} [options.onError] What it writes on its error output; ours by default.
 * @returns {{
 *   child: import('node:child_process').ChildProcessWithoutNullStreams,
 *   listening: Promise<Listening>,
 *   ended: Promise<number | string>,
 * }} `listening` fails where it ends before; `ended` tells the exit code or the signal.
 */
export function launch({ env, command = [process.execPath], detached = false, onLine, onError }) {
  const [program = process.execPath, ...args] = command;
  const child = /** @type {import('node:child_process').ChildProcessWithoutNullStreams} */ (
    spawn(program, [...args, SERVER], {
      env: { ...env, RELLIN_STOP_WITH_INPUT: '1' },
      detached,
      stdio: ['pipe', 'pipe', onError ? 'pipe' : 2],
    })
  );
  if (onError) child.stderr.on('data', (chunk) => onError(String(chunk)));
  child.stdin.on('error', () => undefined);
  /** @type {Promise<number | string>} */
  const ended = new Promise((resolve) => child.once('exit', (code, signal) => resolve(code ?? signal ?? 1)));
  /** @type {Promise<Listening>} */
  const listening = new Promise((resolve, reject) => {
    createInterface({ input: child.stdout }).on('line', (line) => {
      onLine?.(line);
      const { listening: address, page } = readLine(line);
      if (address) resolve({ address, page });
    });
    child.once('error', reject);
    void ended.then((code) => reject(new Error(`the server ended with ${code}`)));
  });
  // whoever waits for it hears of it
  listening.catch(() => undefined);
  return { child, listening, ended };
}

/** A line of the log, which is JSON but for what an engine prints when it ends. */
export function readLine(line) {
  try {
    return JSON.parse(line);
  } catch {
    return {};
  }
}
