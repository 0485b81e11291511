import { execFileSync } from 'node:child_process';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { fromBytes, toBytes } from '../paths/index.js';
import {
  formerPath,
  INFO_SUFFIX,
  localTime,
  momentOf,
  percentDecoded,
  percentEncoded,
  readDirectorySizes,
  readTrashInfo,
  trashName,
  writeDirectorySizes,
  writeTrashInfo,
} from './index.js';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = (text: string) => readTrashInfo(bytes(text));
/** Names as the kernel takes them: any bytes but NUL and the slash. */
const anyName = fc
  .uint8Array({ minLength: 1, maxLength: 255 })
  .map((b) => fromBytes(b.map((x) => (x === 0 || x === 0x2f ? 0x61 : x))))
  .filter((name) => name !== '.' && name !== '..');

describe('info files of the bin', () => {
  it('reads the example of the specification (Trash 1.0, “Contents of a trash directory”)', () => {
    const text = '[Trash Info]\nPath=foo/bar/meow.bow-wow\nDeletionDate=2004-08-31T22:32:08\n';
    const info = { path: 'foo/bar/meow.bow-wow', deletedAt: '2004-08-31T22:32:08', by: null };
    expect(read(text)).toEqual({ ok: true, info });
    expect(writeTrashInfo(info)).toBe(text);
  });

  it('takes the first of several, passes over other keys and groups, and lives with a time that is none', () => {
    const text =
      '[Trash Info]\nX-Mark=1\nPath=/a%20b\nPath=/c\nX-DeletedBy=Rellin\nDeletionDate=2026-04-31T10:00:00\n[Other]\nPath=/d\n';
    expect(read(text)).toEqual({ ok: true, info: { path: '/a b', deletedAt: null, by: 'Rellin' } });
  });

  it.each([
    ['', 'no-header'],
    ['Path=/a\n', 'no-header'],
    ['[Trash Info]\nDeletionDate=2026-05-31T10:00:00\n', 'no-path'],
    ['[Trash Info]\nPath=\n', 'bad-path'],
    ['[Trash Info]\nPath=../../etc/passwd\n', 'bad-path'],
    ['[Trash Info]\nPath=a/%2E%2E/b\n', 'bad-path'],
    ['[Trash Info]\nPath=/a%00b\n', 'bad-path'],
  ])('refuses %j', (text, kind) => {
    expect(read(text)).toEqual({ ok: false, error: { kind } });
  });

  it('brings back any name, whatever its bytes', () => {
    fc.assert(
      fc.property(anyName, (name) => {
        const info = { path: `/home/${name}`, deletedAt: '2026-05-31T08:05:00', by: null };
        const written = writeTrashInfo(info);
        expect(written).toMatch(/^[\n\x20-\x7e]*$/);
        expect(read(written)).toEqual({ ok: true, info });
      }),
    );
  });

  it('encodes as GLib reads it, and reads what GLib encodes', () => {
    // g_uri_unescape_string and g_uri_escape_string, which GLib reads and writes info files with
    const script = `
import sys, json
from gi.repository import GLib
out = []
for encoded, raw in json.load(sys.stdin):
    name = bytes.fromhex(raw).decode('utf-8')
    out.append([GLib.Uri.unescape_bytes(encoded, -1, None).get_data().hex(), GLib.uri_escape_string(name, '/', True)])
print(json.dumps(out))`;
    const names = fc.sample(fc.string({ unit: 'binary', minLength: 1 }), { numRuns: 200, seed: 4 });
    const clean = names.map((n) => n.replace(/[\0\ud800-\udfff]/g, 'x'));
    const asked = clean.map((name) => [percentEncoded(name), Buffer.from(toBytes(name)).toString('hex')]);
    const said = JSON.parse(
      execFileSync('/usr/bin/python3', ['-c', script], { input: JSON.stringify(asked), encoding: 'utf8' }),
    ) as [string, string][];
    said.forEach(([raw, theirs], i) => {
      expect(raw).toBe(asked[i]![1]);
      expect(percentDecoded(theirs)).toBe(clean[i]);
    });
  });

  it('tells local times by the clock on the wall', () => {
    const at = new Date(2026, 4, 31, 8, 5, 9);
    expect(localTime(at)).toBe('2026-05-31T08:05:09');
    expect(momentOf('2026-05-31T08:05:09')).toBe(at.toISOString());
  });

  it('knows where things lay on a volume, and on none without it', () => {
    expect(formerPath('scans/a.pdf', '/media/stick')).toBe('/media/stick/scans/a.pdf');
    expect(formerPath('a.pdf', '/')).toBe('/a.pdf');
    expect(formerPath('/media/stick/a.pdf', '/media/stick')).toBe('/media/stick/a.pdf');
    expect(formerPath('/home/a.pdf', null)).toBe('/home/a.pdf');
    expect(formerPath('a.pdf', null)).toBeUndefined();
    // a stick that somebody prepared says nothing of what lies at home
    expect(formerPath('/home/kit/.profile', '/media/stick')).toBeUndefined();
    expect(formerPath('/media/stick 2/a', '/media/stick')).toBeUndefined();
  });
});

describe('names in the bin', () => {
  it('numbers what is taken before its extension', () => {
    const taken = new Set(['notes.txt', 'notes.2.txt', 'notes', '.profile']);
    const isTaken = (name: string) => taken.has(name);
    expect(trashName('notes.txt', isTaken)).toBe('notes.3.txt');
    expect(trashName('notes', isTaken)).toBe('notes.2');
    expect(trashName('.profile', isTaken)).toBe('.profile.2');
    expect(trashName('free.txt', isTaken)).toBe('free.txt');
  });

  it('is free, fits with its info file’s name into 255 bytes, and cuts no character', () => {
    const names = fc.array(fc.oneof(anyName, fc.constant('ü'.repeat(127)), fc.constant(`${'a'.repeat(251)}.csv`)), {
      maxLength: 12,
    });
    fc.assert(
      fc.property(names, (wanted) => {
        const taken = new Set<string>();
        for (const name of wanted) {
          const got = trashName(name, (n) => taken.has(n));
          expect(taken.has(got)).toBe(false);
          expect(toBytes(got).length + INFO_SUFFIX.length).toBeLessThanOrEqual(255);
          expect(fromBytes(toBytes(got))).toBe(got);
          taken.add(got);
        }
      }),
    );
  });
});

describe('sizes of folders in the bin', () => {
  it('come back as they were written; what cannot be read is measured again', () => {
    fc.assert(
      fc.property(fc.uniqueArray(anyName, { maxLength: 8 }), fc.nat(), (names, n) => {
        const sizes = names.map((name, i) => ({ name, size: n * i, infoTime: 1_780_000_000 + i }));
        expect([...readDirectorySizes(writeDirectorySizes(sizes)).values()]).toEqual(sizes);
      }),
    );
    expect([...readDirectorySizes(bytes('12 34 a\nx y z\n-1 2 b\n5 6 up%2Fward\n7 8 a\n')).values()]).toEqual([
      { name: 'a', size: 7, infoTime: 8 },
    ]);
  });
});
