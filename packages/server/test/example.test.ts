/** The example: a second Rellin with made-up files, begun and left without a trace. */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from '@jest/globals';
import { PROJECT, Rellin, until } from './testing/harness.js';

let rellin: Rellin | undefined;
afterEach(() => rellin?.remove());

const command = JSON.stringify([process.execPath, join(PROJECT, 'scripts/demo.mjs')]);
const make = (prepare?: (rellin: Rellin) => void) => Rellin.make({ env: { RELLIN_EXAMPLE: command } }, prepare);
const folder = () => join(rellin!.data, 'example');
/** Whatever runs on its folder: its launcher, which knows it by its environment; its server; its database. */
const processes = () =>
  execFileSync('ps', ['axeww', '-o', 'pid,args'], { encoding: 'utf8' })
    .split('\n')
    .filter((line) => line.includes(folder()));
const state = async () => (await rellin!.get('/example')).state;
const running = () => until(state, (now) => now === 'running', 90_000);

describe('the example', () => {
  it('runs beside one’s own catalogue, opens by an address, and is left without a trace', async () => {
    rellin = await make();
    expect(await rellin.get('/example')).toEqual({ state: 'none', trouble: '' });
    expect((await rellin.refusal(rellin.post('/example/address'))).kind).toBe('conflict');
    await rellin.post('/example');
    expect(await state()).toBe('starting');
    // a second press changes nothing
    await rellin.post('/example');
    await running();
    const { address } = await rellin.post('/example/address');
    const entered = await fetch(address.replace(/^http:\/\/[^/:]+/, 'http://127.0.0.1'), {
      headers: { host: new URL(address).host },
      redirect: 'manual',
    });
    expect(entered.status).toBeLessThan(400);
    // nothing of it is in one's own
    expect(await rellin.get('/shortcuts')).toEqual([]);
    await rellin.call('DELETE', '/example');
    expect(await rellin.get('/example')).toEqual({ state: 'none', trouble: '' });
    expect(existsSync(folder())).toBe(false);
    expect(processes()).toEqual([]);
  }, 180_000);

  it('ends with the server, however that ends; what it could not clear away goes at the next start', async () => {
    rellin = await make();
    await rellin.post('/example');
    await until(() => existsSync(folder()), Boolean, 60_000);
    await rellin.kill();
    await until(processes, (list) => list.length === 0, 60_000);
    mkdirSync(folder(), { recursive: true });
    writeFileSync(join(folder(), 'left.txt'), 'left');
    await rellin.start();
    await until(
      () => existsSync(folder()),
      (isThere) => !isThere,
      60_000,
    );
  }, 180_000);

  it('is removed again where something still wrote while it was removed', async () => {
    const removesAtTheSecondTry = `
      const { existsSync, rmSync, writeFileSync } = require('node:fs');
      const folder = process.env.RELLIN_DEMO_DATA;
      if (existsSync(folder + '/tried')) rmSync(folder, { recursive: true });
      else writeFileSync(folder + '/tried', '');`;
    rellin = await Rellin.make(
      { env: { RELLIN_EXAMPLE: JSON.stringify([process.execPath, '-e', removesAtTheSecondTry, '--']) } },
      ({ data }) => mkdirSync(join(data, 'example'), { recursive: true }),
    );
    await until(
      () => existsSync(folder()),
      (isThere) => !isThere,
      20_000,
    );
  });

  it('is not offered where the server was started without it', async () => {
    rellin = await Rellin.make();
    expect((await rellin.get('/example')).state).toBe('unavailable');
    expect((await rellin.refusal(rellin.post('/example'))).kind).toBe('conflict');
  });
});
