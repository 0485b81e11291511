import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import {
  extensionOf,
  fromBytes,
  hasEscapes,
  isWithin,
  join,
  nameOf,
  normalizeAbsolute,
  parentOf,
  parseFileUri,
  segmentsOf,
  shown,
  toBytes,
  toFileUri,
  typedPath,
} from './index.js';

const bytes = (...b: number[]) => Uint8Array.from(b);

describe('path text', () => {
  it('carries any bytes there and back', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (b) => {
        const text = fromBytes(b);
        expect(Buffer.from(toBytes(text)).equals(Buffer.from(b))).toBe(true);
        expect(text.isWellFormed()).toBe(true);
      }),
      { seed: 11, numRuns: 2000 },
    );
  });
  it('leaves UTF-8 as it is, and agrees with the platform’s decoder', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (s) => {
        fc.pre(!hasEscapes(s));
        expect(fromBytes(new TextEncoder().encode(s))).toBe(s);
      }),
      { seed: 12, numRuns: 1000 },
    );
  });
  it('never takes two different names for one', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 12 }), fc.uint8Array({ maxLength: 12 }), (a, b) => {
        expect(fromBytes(a) === fromBytes(b)).toBe(Buffer.from(a).equals(Buffer.from(b)));
      }),
      { seed: 13, numRuns: 2000 },
    );
  });
  it('escapes a name that holds one of the escapes itself', () => {
    const own = new TextEncoder().encode('\u{10f7e9}');
    expect(fromBytes(own)).not.toBe(fromBytes(bytes(0xe9)));
    expect([...toBytes(fromBytes(own))]).toEqual([...own]);
  });
  it('shows bytes, line ends and direction overrides harmlessly', () => {
    expect(shown(fromBytes(bytes(0x63, 0xe9)))).toBe('c\\xE9');
    expect(shown('a\nb\tc')).toBe('a␊b␉c');
    expect(shown('photo\u202egnp.exe')).toBe('photognp.exe');
  });
});

describe('relative paths', () => {
  it('joins, parts and names', () => {
    expect(join('', 'a')).toBe('a');
    expect(join('a/b', 'c')).toBe('a/b/c');
    expect(parentOf('a/b/c')).toBe('a/b');
    expect(parentOf('a')).toBe('');
    expect(nameOf('a/b.txt')).toBe('b.txt');
    expect(segmentsOf('')).toEqual([]);
  });
  it('takes the extension as people do', () => {
    expect(['a.TXT', '.hidden', 'a.', 'a', 'a.tar.gz'].map(extensionOf)).toEqual(['txt', '', '', '', 'gz']);
  });
  it('knows what lies within, by whole segments', () => {
    expect(isWithin('/a/b', '/a/b/c')).toBe(true);
    expect(isWithin('/a/b', '/a/bc')).toBe(false);
    expect(isWithin('/', '/a')).toBe(true);
  });
  it('resolves dots lexically and refuses what is not absolute', () => {
    expect(normalizeAbsolute('/a/./b//../c/')).toBe('/a/c');
    expect(normalizeAbsolute('/../..')).toBe('/');
    expect(normalizeAbsolute('a/b')).toBeUndefined();
    expect(normalizeAbsolute('/a\0b')).toBeUndefined();
  });
});

describe('file URIs (RFC 8089)', () => {
  it('reads the forms of section 2 and appendix B', () => {
    for (const uri of [
      'file:///path/to/file',
      'file:/path/to/file',
      'file://localhost/path/to/file',
      'FILE:///path/to/file',
    ])
      expect(parseFileUri(uri)).toEqual({ ok: true, path: '/path/to/file' });
  });
  it('refuses another host, a NUL, an encoded slash, a broken escape, a query', () => {
    expect(parseFileUri('file://host.example.com/a')).toMatchObject({ error: { kind: 'other-host' } });
    expect(parseFileUri('file:///a%00b')).toMatchObject({ error: { kind: 'forbidden-byte', at: 9 } });
    expect(parseFileUri('file:///a%2Fb')).toMatchObject({ error: { kind: 'forbidden-byte' } });
    expect(parseFileUri('file:///a%zz')).toMatchObject({ error: { kind: 'bad-escape' } });
    expect(parseFileUri('file:///a?b')).toMatchObject({ error: { kind: 'not-a-file-uri' } });
    expect(parseFileUri('http://a/b')).toMatchObject({ error: { kind: 'not-a-file-uri' } });
  });
  it('carries any path there and back, and Node reads what it writes', async () => {
    const { fileURLToPath } = await import('node:url');
    const name = fc.uint8Array({ minLength: 1, maxLength: 20 }).filter((b) => !b.includes(0) && !b.includes(0x2f));
    fc.assert(
      fc.property(name, (b) => {
        const path = '/' + fromBytes(b);
        expect(parseFileUri(toFileUri(path))).toEqual({ ok: true, path });
        if (!hasEscapes(path) && !/(^|\/)\.{1,2}$/.test(path)) expect(fileURLToPath(toFileUri(path))).toBe(path);
      }),
      { seed: 14, numRuns: 1000 },
    );
  });
});

describe('a path as it is typed', () => {
  const read = (text: string, fromHome = false) => {
    const result = typedPath(text, '/home/wren', { fromHome });
    return result.ok ? result.path : result.kind;
  };
  it('is a path, one below the home folder, or a file address, in quotation marks or not', () => {
    expect(['/a/b/', '~', '~/Boat papers', 'file:///a/b%20c', '"/a b"', "'~/x'"].map((t) => read(t))).toEqual([
      '/a/b',
      '/home/wren',
      '/home/wren/Boat papers',
      '/a/b c',
      '/a b',
      '/home/wren/x',
    ]);
  });
  it('keeps a blank at its end, which may be the name’s, and leaves out line ends and blanks before it', () => {
    expect(['/a/ends ', ' /a', '/a\n', '/a\r\n', '"/a "'].map((t) => read(t))).toEqual([
      '/a/ends ',
      '/a',
      '/a',
      '/a',
      '/a ',
    ]);
  });
  it('lies in the home folder without a beginning, only where that is asked', () => {
    expect(
      ['Documents', 'Documents', '~wren/x', '', 'file://elsewhere.example/a'].map((t, i) => read(t, i > 0)),
    ).toEqual(['not-absolute', '/home/wren/Documents', 'not-absolute', 'not-absolute', 'other-host']);
  });
});
