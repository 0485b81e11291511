import { execFileSync } from 'node:child_process';
import { closeSync, constants, mkdtempSync, openSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';

const { DiskHangs, DiskService } = (await import(
  '../../dist/disk/disk.service.js' as string
)) as typeof import('./disk.service.js');

describe('a disk that hangs', () => {
  const base = mkdtempSync(join(tmpdir(), 'rellin-disk-'));
  const disk = new DiskService(300);
  beforeAll(() => {
    writeFileSync(join(base, 'file'), 'abc');
    // reading a pipe that nobody writes to waits for ever, as a share does that does not answer
    execFileSync('mkfifo', [join(base, 'pipe')]);
  });
  afterAll(async () => {
    // whoever waits for a writer has one now, and its end: the thread that was given up can end
    closeSync(openSync(join(base, 'pipe'), constants.O_RDWR | constants.O_NONBLOCK));
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
    expect(await disk.folder(1, base)).toMatchObject({ isFolder: true });
    expect(await disk.names(1, base)).toEqual(['file', 'pipe']);
  }, 20_000);
});
