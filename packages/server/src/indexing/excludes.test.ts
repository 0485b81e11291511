import { describe, expect, it } from '@jest/globals';
import { compileExcludes } from './excludes';

describe('what a place leaves out', () => {
  const excluded = (patterns: string[], path: string, folder = false) =>
    compileExcludes(patterns).isExcluded(path, path.slice(path.lastIndexOf('/') + 1), folder);

  it('reads gitignore patterns: names, folders, globs, anchors, negation', () => {
    expect(excluded(['node_modules/'], 'a/node_modules', true)).toBe(true);
    expect(excluded(['node_modules/'], 'a/node_modules', false)).toBe(false);
    expect(excluded(['*~'], 'a/b.txt~')).toBe(true);
    expect(excluded(['/top'], 'top')).toBe(true);
    expect(excluded(['/top'], 'a/top')).toBe(false);
    expect(excluded(['a/*.tmp'], 'a/x.tmp')).toBe(true);
    expect(excluded(['*.log', '!keep.log'], 'keep.log')).toBe(false);
    expect(excluded(['*.log', '!keep.log'], 'other.log')).toBe(true);
    expect(excluded(['# a comment', '', 'x'], 'x')).toBe(true);
  });
  it('needs the whole path only where a pattern has a slash inside', () => {
    expect(compileExcludes(['*~', '.git/', 'x']).needsPath).toBe(false);
    expect(compileExcludes(['a/b']).needsPath).toBe(true);
    expect(compileExcludes(['!a', 'b']).needsPath).toBe(true);
  });
});
