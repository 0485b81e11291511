/** The connection of an act: the only one within it, and asked one thing after the other. */
import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { PROJECT, Rellin } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make();
});
afterAll(() => rellin?.remove());

it('is asked one thing after the other, whoever asks at once', async () => {
  const dist = (path: string) => JSON.stringify(join(PROJECT, 'packages/server/dist/database', path));
  // in a process of its own, whose warnings are heard
  const script = `
    import 'reflect-metadata';
    const { dataSourceFor } = await import(${dist('database.module.js')});
    const { lendActs, transactionOfAct } = await import(${dist('inAct.js')});
    const source = await dataSourceFor(process.env.DATABASE_URL).initialize();
    lendActs(source);
    const backend = async (sleep) => (await source.query('SELECT pg_backend_pid() AS pid, pg_sleep($1)', [sleep]))[0].pid;
    const asked = await transactionOfAct(source, (manager) =>
      Promise.all([backend(0.2), backend(0), manager.query('SELECT 1').then(() => backend(0))]));
    const refused = await transactionOfAct(source, async () => {
      const answers = await Promise.allSettled([source.query('SELECT no_such_column'), backend(0)]);
      return answers.map((answer) => answer.reason?.message);
    });
    const after = await source.query('SELECT 1 AS one');
    console.log(JSON.stringify({ backends: new Set(asked).size, refused, after }));
    await source.destroy();`;
  const { stdout, stderr } = await promisify(execFile)(process.execPath, ['--input-type=module', '-e', script], {
    cwd: join(PROJECT, 'packages/server'),
    env: { ...process.env, DATABASE_URL: rellin.databaseUrl },
  });
  expect(stderr).toBe('');
  expect(JSON.parse(stdout)).toEqual({
    backends: 1,
    // the first refusal ends the transaction, as PostgreSQL has it, and the next question hears of it
    refused: [expect.stringContaining('no_such_column'), expect.stringContaining('transaction is aborted')],
    after: [{ one: 1 }],
  });
});
