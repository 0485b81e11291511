import fc from 'fast-check';
import { execFileSync } from 'node:child_process';
import { lstatSync, readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { deviceNumber, identityOf, isOfKernel, mountOf, parseMounts, pathsOf } from './index.js';

// lines as proc(5) shows them
const TABLE = `22 27 0:21 / /proc rw,relatime - proc proc rw
27 1 8:1 / / rw,relatime shared:1 - ext4 /dev/sda1 rw
40 27 8:17 / /media/wren/Field\\040drive rw,nosuid shared:9 master:2 - vfat /dev/sdb1 rw
41 27 0:44 / /mnt/share rw - nfs4 gannet:/export/photos rw
42 27 8:1 /srv/logs /mnt/logs rw - ext4 /dev/sda1 rw
not a line
`;
const mounts = parseMounts(TABLE);
const numbers: Record<string, string> = { '/dev/sda1': 'aaaa', '/dev/sdb1': 'bbbb' };
const numberOf = (source: string) => numbers[source];

describe('mounts', () => {
  it('are read with their escapes; the deepest holds a path', () => {
    expect(mounts).toHaveLength(5);
    expect(mountOf(mounts, '/media/wren/Field drive/Tracks')).toMatchObject({ source: '/dev/sdb1', type: 'vfat' });
    expect(mountOf(mounts, '/media/wren/Field drives')).toMatchObject({ source: '/dev/sda1' });
  });
  it('tell what is the kernel’s own', () => {
    expect(mounts.filter(isOfKernel).map((m) => m.at)).toEqual(['/proc']);
  });
  it('have the device number that stat tells', () => {
    // by the C library's makedev(3), through Python
    const devices = ['0:21', '8:1', '0:300', '259:70000', '5000:3'];
    const script = 'import os, sys\nfor d in sys.argv[1:]: print(os.makedev(*map(int, d.split(":"))))';
    const told = execFileSync('python3', ['-c', script, ...devices], { encoding: 'utf8' });
    expect(devices.map(deviceNumber)).toEqual(told.trim().split('\n').map(Number));
    const proc = parseMounts(readFileSync('/proc/self/mountinfo', 'utf8')).find((m) => m.at === '/proc')!;
    expect(deviceNumber(proc.device)).toBe(lstatSync('/proc').dev);
  });
  it('tell by what a folder is known again, and where it appears', () => {
    expect(identityOf(mounts, '/media/wren/Field drive/Tracks', numberOf)).toEqual({ id: 'bbbb', within: 'Tracks' });
    expect(identityOf(mounts, '/mnt/share', numberOf)).toEqual({ id: 'network gannet:/export/photos', within: '' });
    expect(identityOf(mounts, '/proc/1', numberOf)).toBeUndefined();
    const moved = parseMounts(TABLE.replace('/media/wren/Field\\040drive', '/run/media/other'));
    expect(pathsOf(moved, { id: 'bbbb', within: 'Tracks' }, numberOf)).toEqual(['/run/media/other/Tracks']);
  });
  it('a part of a file system mounted elsewhere is the same folder', () => {
    expect(identityOf(mounts, '/mnt/logs/2026', numberOf)).toEqual({ id: 'aaaa', within: 'srv/logs/2026' });
    expect(pathsOf(mounts, { id: 'aaaa', within: 'srv/logs/2026' }, numberOf)).toEqual([
      '/mnt/logs/2026',
      '/srv/logs/2026',
    ]);
  });
  it('find again whatever folder they gave an identity', () => {
    const folder = fc.constantFrom(
      '/',
      '/home/wren',
      '/mnt/share/a/b',
      '/mnt/logs',
      '/media/wren/Field drive/x',
      '/srv/logs/q',
    );
    fc.assert(
      fc.property(folder, (path) => {
        const identity = identityOf(mounts, path, numberOf)!;
        expect(pathsOf(mounts, identity, numberOf)).toContain(path);
      }),
      { seed: 61 },
    );
  });
  it('agree with findmnt (util-linux) on this machine', () => {
    const own = parseMounts(readFileSync('/proc/self/mountinfo', 'utf8'));
    for (const path of ['/', '/tmp', '/proc', '/usr/share']) {
      const [target, source, type] = execFileSync('findmnt', ['-n', '-o', 'TARGET,SOURCE,FSTYPE', '-T', path], {
        encoding: 'utf8',
      })
        .trim()
        .split(/\s+/);
      const mount = mountOf(own, path)!;
      expect([mount.at, mount.type]).toEqual([target, type]);
      expect(source!.startsWith(mount.source) || mount.source === 'none').toBe(true);
    }
  });
});
