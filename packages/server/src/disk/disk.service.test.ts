import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';

const { DiskHangs, DiskService } = (await import(
  '../../dist/disk/disk.service.js' as string
)) as typeof import('./disk.service.js');

/** Long enough for a thread to start on a busy machine. */
const LIMIT_MS = 2000;

describe('a disk that hangs', () => {
  const base = mkdtempSync(join(tmpdir(), 'rellin-disk-'));
  process.env['RELLIN_DISK_FAULTS'] = join(base, '..', `${basename(base)}-faults.json`);
  const disk = new DiskService({ ownFolders: [], linkMark: 'mark' }, LIMIT_MS);
  disk.reach(() => [base]);
  beforeAll(() => {
    writeFileSync(join(base, 'file'), 'abc');
    writeFileSync(join(base, 'slow'), 'abc');
    const rule = { call: 'open', below: join(base, 'slow'), fault: { hangUntil: join(base, 'answers') } };
    writeFileSync(process.env['RELLIN_DISK_FAULTS']!, JSON.stringify([rule]));
    // not a share, and it does not hang either: nobody writes to it
    execFileSync('mkfifo', [join(base, 'pipe')]);
  });
  afterAll(async () => {
    await disk.onApplicationShutdown();
    rmSync(base, { recursive: true });
    rmSync(process.env['RELLIN_DISK_FAULTS']!);
    delete process.env['RELLIN_DISK_FAULTS'];
  });

  it('is not what a pipe is: reading one ends at once', async () => {
    expect(await disk.fingerprints(3, [{ path: join(base, 'pipe'), size: 10 }])).toEqual([null]);
    expect(await disk.open(3, join(base, 'pipe')).catch((error: Error) => error.message)).toContain('a pipe');
  });

  it('is given up within its time; other places answer meanwhile, and the place itself later', async () => {
    const hanging = disk.fingerprints(1, [{ path: join(base, 'slow'), size: 3 }]);
    const outcome = hanging.catch((error: Error) => error);
    expect(await disk.sights(2, [join(base, 'file'), join(base, 'none')])).toMatchObject([
      { seen: 'entry', identity: { type: 'file', size: 3 } },
      { seen: 'nothing' },
    ]);
    expect(await outcome).toBeInstanceOf(DiskHangs);
    // it is not asked again, and no second thread hangs beside it
    const started = performance.now();
    expect(await disk.folder(1, base).catch((error: Error) => error)).toBeInstanceOf(DiskHangs);
    expect(performance.now() - started).toBeLessThan(LIMIT_MS);
    // nor is it waited for when it is given up
    const dropped = disk.fingerprints(4, [{ path: join(base, 'slow'), size: 3 }]);
    expect(await dropped.catch((error: Error) => error)).toBeInstanceOf(DiskHangs);
    await disk.drop(4);
    writeFileSync(join(base, 'answers'), '');
    for (;;) {
      const names = await disk.names(1, base).catch(() => undefined);
      if (names) {
        expect(names.sort()).toEqual(['answers', 'file', 'pipe', 'slow']);
        break;
      }
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }, 20_000);
});
