import { describe, expect, it } from '@jest/globals';
import { describe as describeEntry } from './mimeTypes';

describe('MIME types', () => {
  it('know what people keep', () => {
    expect(describeEntry('file', 'log.csv')).toEqual({ kind: 'table', mime: 'text/csv' });
    expect(describeEntry('file', 'manual.pdf')).toEqual({ kind: 'pdf', mime: 'application/pdf' });
    expect(describeEntry('file', 'photo.PNG')).toEqual({ kind: 'picture', mime: 'image/png' });
    expect(describeEntry('folder', 'a.csv').kind).toBe('folder');
    expect(describeEntry('file', 'no extension').mime).toBe('application/octet-stream');
  });
});
