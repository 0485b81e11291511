import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { seeded } from '../random/index.js';
import { parseGlobs2, typeByName } from './index.js';

const TABLE = parseGlobs2(`# a comment
50:text/x-csrc:*.c
50:text/x-c++src:*.C:cs
50:application/gzip:*.gz
50:application/x-compressed-tar:*.tar.gz
80:text/x-better:*.both
50:text/x-worse:*.longer.both
50:text/x-makefile:makefile
10:text/x-makefile:makefile.*
10:text/x-readme:readme*
50:application/x-core:core:cs
50:application/x-troff-man:*.[1-9]
50:video/mpeg:[0-9][0-9][0-9].vdr
50:application/x-trash:*~
50:text/plain:*,v
not a line
50::*.none
`);
const type = (name: string) => typeByName(TABLE, name);

describe('types by name', () => {
  it('literal names go before globs, whatever their case unless it counts', () => {
    expect(['Makefile', 'makefile', 'core', 'Core'].map(type)).toEqual([
      'text/x-makefile',
      'text/x-makefile',
      'application/x-core',
      undefined,
    ]);
  });
  it('the heaviest, then the longest, of what fits as it is written, then whatever its case', () => {
    expect(['b.c', 'b.C', 'B.c'].map(type)).toEqual(['text/x-csrc', 'text/x-c++src', 'text/x-csrc']);
    expect(['a.tar.gz', 'a.gz', 'A.TAR.GZ'].map(type)).toEqual([
      'application/x-compressed-tar',
      'application/gzip',
      'application/x-compressed-tar',
    ]);
    expect(type('x.longer.both')).toBe('text/x-better');
  });
  it('endings without a dot, classes, and beginnings', () => {
    expect(['log.csv~', 'log.c,v', 'ls.1', 'ls.0', '001.vdr', 'README.de', 'Makefile.am', 'none'].map(type)).toEqual([
      'application/x-trash',
      'text/plain',
      'application/x-troff-man',
      undefined,
      'video/mpeg',
      'text/x-readme',
      'text/x-makefile',
      undefined,
    ]);
  });

  const GLOBS = '/usr/share/mime/globs2';
  const hasGio = existsSync(GLOBS) && spawnSync('gio', ['version']).status === 0;
  // GLib, by the name alone: gio's standard::fast-content-type
  (hasGio ? it : it.skip)('are those that GLib tells of names made from the system’s own globs', () => {
    const text = readFileSync(GLOBS, 'utf8');
    const table = parseGlobs2(text);
    const patterns = text.split('\n').flatMap((line) => (line.startsWith('#') ? [] : (line.split(':')[2] ?? [])));
    const random = seeded(71);
    const folder = mkdtempSync(join(tmpdir(), 'rellin-globs-'));
    try {
      const names = new Set<string>();
      while (names.size < 400) {
        const made = random
          .pick(patterns)
          .replace(/\[1-9j?]*\]|\[[^\]]*\]/g, '1')
          .replaceAll('*', random.pick(['a', 'Ring log', 'x.y']))
          .replaceAll('?', 'q');
        names.add(random.next() < 0.2 ? made.toUpperCase() : made);
      }
      for (const name of names) writeFileSync(join(folder, name), 'x');
      const out = execFileSync('gio', ['list', '-u', '-h', '-a', 'standard::fast-content-type', folder], {
        encoding: 'utf8',
        env: { ...process.env, LC_ALL: 'C' },
        maxBuffer: 1 << 24,
      });
      const told = new Map(
        out.split('\n').flatMap((line) => {
          const at = /^(file:\/\/\S+)\s.*standard::fast-content-type=(\S+)/.exec(line);
          return at ? [[decodeURIComponent(at[1]!).split('/').pop()!, at[2]!] as const] : [];
        }),
      );
      expect(told.size).toBe(names.size);
      const differ = [...told].flatMap(([name, mime]) => {
        const ours = typeByName(table, name) ?? 'application/octet-stream';
        return ours === mime ? [] : [`${name}: ${ours}, GLib ${mime}`];
      });
      // where several types are as good the specification has the content decide; by name alone either is right
      expect({ isEnough: differ.length < names.size / 50, differ }).toMatchObject({ isEnough: true });
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
