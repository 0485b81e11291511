import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Config } from '../config/config.js';

const { DiskService } = (await import(
  '../../dist/disk/disk.service.js' as string
)) as typeof import('../disk/disk.service.js');
const { FolderNamesService } = (await import(
  '../../dist/places/folderNames.service.js' as string
)) as typeof import('./folderNames.service.js');
const { UnfitFoldersService } = (await import(
  '../../dist/places/unfitFolders.service.js' as string
)) as typeof import('./unfitFolders.service.js');

/** Long enough for a thread to start on a busy machine. */
const LIMIT_MS = 2000;

describe('folders that continue a typed path', () => {
  const base = mkdtempSync(join(tmpdir(), 'rellin-names-'));
  const faults = join(base, '..', `${basename(base)}-faults.json`);
  process.env['RELLIN_DISK_FAULTS'] = faults;
  const config = { ownFolders: [], linkMark: 'mark', xdg: { home: base } } as unknown as Config;
  const disk = new DiskService(config, LIMIT_MS);
  const names = new FolderNamesService(config, disk, new UnfitFoldersService(config, disk));
  beforeAll(() => {
    for (const at of ['share/nets', 'here/Tides']) mkdirSync(join(base, at), { recursive: true });
    const rule = { call: 'readdir', below: join(base, 'share'), fault: { hangUntil: join(base, 'answers') } };
    writeFileSync(faults, JSON.stringify([rule]));
  });
  afterAll(async () => {
    await disk.onApplicationShutdown();
    rmSync(base, { recursive: true });
    rmSync(faults);
    delete process.env['RELLIN_DISK_FAULTS'];
  });

  it('are told elsewhere while one disk hangs, with no thread a letter, and there when it answers', async () => {
    const typed = ['', 'n', 'ne', 'net'];
    const inShare = () => Promise.all(typed.map((t) => names.complete(`${base}/share/${t}`)));
    expect(await inShare()).toEqual(typed.map(() => []));
    // the four letters waited in one thread; the next one answers
    expect(await names.complete(`${base}/here/t`)).toEqual([`${base}/here/Tides/`]);
    // each look into the share costs a thread at most, and in the end there is none to hang
    for (let n = 0; n < 3; n++) expect(await names.complete(`${base}/share/n`)).toEqual([]);
    const started = performance.now();
    expect(await inShare()).toEqual(typed.map(() => []));
    expect(performance.now() - started).toBeLessThan(LIMIT_MS);
    writeFileSync(join(base, 'answers'), '');
    for (;;) {
      const found = await names.complete(`${base}/share/n`);
      if (found.length === 0) await new Promise((resolve) => setTimeout(resolve, 20));
      else {
        expect(found).toEqual([`${base}/share/nets/`]);
        break;
      }
    }
  }, 30_000);
});
