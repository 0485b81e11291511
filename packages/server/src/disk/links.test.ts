import { mkdtempSync, readlinkSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LinkStep } from '@rellin/core/aliases';

let folder: string;
let runStep: (typeof import('./links.js'))['runStep'];
const rules = (list: object[]) => writeFileSync(process.env['RELLIN_DISK_FAULTS']!, JSON.stringify(list));

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'rellin-links-'));
  process.env['RELLIN_DISK_FAULTS'] = join(folder, 'faults.json');
  rules([]);
  ({ runStep } = await import('./links.js'));
});
afterAll(() => {
  delete process.env['RELLIN_DISK_FAULTS'];
  rmSync(folder, { recursive: true, force: true });
});

const make = (name: string): LinkStep => ({
  do: 'make',
  key: `alias/${name}`,
  form: 'link',
  name,
  to: { path: join(folder, name), content: '../log.csv' },
});

describe('a step with a link', () => {
  it('says which file it made', () => {
    expect(runStep(make('one'), { roots: [folder], own: [] }, 'mark')).toEqual({ ok: true, inode: expect.any(Number) });
    expect(readlinkSync(join(folder, 'one'))).toBe('../log.csv');
  });
  it('that was taken away in the very moment was done all the same: it is not made again', () => {
    rules([{ call: 'lstat', below: join(folder, 'two'), fault: { code: 'ENOENT' } }]);
    expect(runStep(make('two'), { roots: [folder], own: [] }, 'mark')).toEqual({ ok: true, inode: null });
  });
  it('is refused where the name is taken', () => {
    rules([]);
    expect(runStep(make('one'), { roots: [folder], own: [] }, 'mark')).toEqual({
      ok: false,
      reason: 'the name is taken',
    });
  });
});
