import { execFileSync } from 'node:child_process';
import { closeSync, constants, mkdtempSync, openSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';

const { DiskHangs, DiskService } = (await import(
  '../../dist/disk/disk.service.js' as string
)) as typeof import('./disk.service.js');

const LIMIT_MS = 300;

describe('a disk that hangs', () => {
  const base = mkdtempSync(join(tmpdir(), 'rellin-disk-'));
  const disk = new DiskService(LIMIT_MS);
  beforeAll(() => {
    writeFileSync(join(base, 'file'), 'abc');
    // reading a pipe that nobody writes to waits for ever, as a share does that does not answer
    execFileSync('mkfifo', [join(base, 'pipe')]);
  });
  afterAll(async () => {
    await disk.onApplicationShutdown();
    rmSync(base, { recursive: true });
  });

  it('is given up within its time; other places answer meanwhile, and the place itself later', async () => {
    const hanging = disk.fingerprints(1, [{ path: join(base, 'pipe'), size: 10 }]);
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
    // whoever waits for a writer has one now, and its end: the disk answers again
    closeSync(openSync(join(base, 'pipe'), constants.O_RDWR | constants.O_NONBLOCK));
    for (;;) {
      const names = await disk.names(1, base).catch(() => undefined);
      if (names) {
        expect(names.sort()).toEqual(['file', 'pipe']);
        break;
      }
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }, 20_000);
});
