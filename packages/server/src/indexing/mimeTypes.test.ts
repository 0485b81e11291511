import { describe, expect, it } from '@jest/globals';
import { describe as describeEntry, parseGlobs2 } from './mimeTypes';

describe('MIME types', () => {
  it('read globs2: the heaviest wins, then the first; only plain extensions count', () => {
    const table = parseGlobs2(
      '# c\n50:text/x-a:*.a\n80:text/x-better:*.a\n50:text/x-late:*.a\n50:text/x-b:*.tar.b\n50:text/x:makefile\n10:x/y:*.[ch]\n',
    );
    expect([...table]).toEqual([
      ['a', 'text/x-better'],
      ['tar.b', 'text/x-b'],
    ]);
  });
  it('know what people keep', () => {
    expect(describeEntry('file', 'log.csv')).toEqual({ kind: 'table', mime: 'text/csv' });
    expect(describeEntry('file', 'manual.pdf')).toEqual({ kind: 'pdf', mime: 'application/pdf' });
    expect(describeEntry('file', 'photo.PNG')).toEqual({ kind: 'picture', mime: 'image/png' });
    expect(describeEntry('folder', 'a.csv').kind).toBe('folder');
    expect(describeEntry('file', 'no extension').mime).toBe('application/octet-stream');
  });
});
