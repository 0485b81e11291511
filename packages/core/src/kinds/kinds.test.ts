import { describe, expect, it } from '@jest/globals';
import { kindOf, kindRank, kindWord } from './index.js';

describe('kinds', () => {
  it('go by extension, then by MIME family', () => {
    expect(kindOf('file', 'log.CSV')).toBe('table');
    expect(kindOf('file', 'x.xyz', 'image/x-odd')).toBe('picture');
    expect(kindOf('file', 'x.xyz', 'application/octet-stream')).toBe('file');
    expect(kindOf('folder', 'a.csv')).toBe('folder');
    expect(kindOf('link', 'a.csv')).toBe('link');
  });
  it('sort programs, folders, then files', () => {
    expect(kindRank('program')).toBeLessThan(kindRank('folder'));
    expect(kindRank('folder')).toBeLessThan(kindRank('table'));
  });
  it('have words', () => {
    expect([kindWord('pdf'), kindWord('web'), kindWord('table')]).toEqual(['PDF', 'web address', 'table']);
  });
});
