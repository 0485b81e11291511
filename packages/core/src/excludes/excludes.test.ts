/** Patterns of gitignore(5). Outside references: `git check-ignore` itself, and the package `ignore`. */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { compilePatterns, LONGEST_PATTERN } from './index.js';

const PATTERNS = [
  '*.log',
  '!keep.log',
  'build/',
  '/top',
  'a/*.tmp',
  '**/deep',
  'x/**',
  'a/**/z',
  '*~',
  '.git/',
  '[ab]c',
  '[!ab]d',
  'w?x',
  'two words',
  'a*b*c',
  '\\!bang',
  '\\#hash',
  '/a/',
  '**',
  'a/b',
  '*',
  '[a-c]*',
  'x[]]y',
  'end\\ ',
  '*.t*',
];
const PATHS = [
  'a.log',
  'keep.log',
  'a/keep.log',
  'build',
  'a/build',
  'top',
  'a/top',
  'a/x.tmp',
  'b/a/x.tmp',
  'deep',
  'a/b/deep',
  'x',
  'x/y',
  'x/y/z',
  'a/z',
  'a/b/z',
  'a/b/c/z',
  'f~',
  '.git',
  'ac',
  'cd',
  'ad',
  'wax',
  'two words',
  'aXbYc',
  'abc',
  '!bang',
  '#hash',
  'a',
  'a/b',
  'x]y',
  'end ',
  'q.txt',
  'cz',
  'dz',
];

describe('patterns that leave out', () => {
  it('are read as git reads them', () => {
    const folder = mkdtempSync(join(tmpdir(), 'rellin-ignore-'));
    execFileSync('git', ['init', '-q', folder]);
    execFileSync('git', ['-C', folder, 'config', 'core.ignorecase', 'true']);
    // files only: of what lies in an ignored folder git says that it is ignored, of which a walk never hears
    const files = PATHS.filter((p) => !PATHS.some((other) => other.startsWith(`${p}/`)) && p !== '.git');
    for (const path of files) {
      mkdirSync(join(folder, dirname(path)), { recursive: true });
      writeFileSync(join(folder, path), '');
    }
    const walked = (isExcluded: (path: string, isFolder: boolean) => boolean, path: string) => {
      const parts = path.split('/');
      return parts.some((_, i) => isExcluded(parts.slice(0, i + 1).join('/'), i + 1 < parts.length));
    };
    const random = fc.sample(fc.subarray(PATTERNS, { minLength: 1, maxLength: 4 }), { numRuns: 120, seed: 5 });
    for (const lines of [...PATTERNS.map((p) => [p]), ...random]) {
      writeFileSync(join(folder, '.gitignore'), `${lines.join('\n')}\n`);
      const run = spawnSync('git', ['-C', folder, 'check-ignore', '--no-index', '-z', '--stdin'], {
        input: files.join('\0'),
        encoding: 'utf8',
      });
      const byGit = new Set(run.stdout.split('\0').filter(Boolean));
      const test = compilePatterns(lines);
      const ours = files.filter((path) => walked((p, f) => test.isExcluded(p, f), path));
      expect([lines, ours]).toEqual([lines, files.filter((path) => byGit.has(path))]);
    }
    rmSync(folder, { recursive: true });
  });

  it('take no longer for each sign, however many stars they have', () => {
    const steps = (stars: number) => {
      const test = compilePatterns([`${'*a'.repeat(stars)}b`]);
      const path = 'a'.repeat(250);
      const started = performance.now();
      for (let i = 0; i < 200; i++) expect(test.isExcluded(path, false)).toBe(false);
      return performance.now() - started;
    };
    steps(2);
    // a matcher that steps back to every star takes 2^100 here
    expect(steps(100)).toBeLessThan(3000);
    const segments = compilePatterns([`${'**/a/'.repeat(40)}b`]);
    const started = performance.now();
    expect(segments.isExcluded('a/'.repeat(60) + 'c', false)).toBe(false);
    expect(performance.now() - started).toBeLessThan(500);
  });

  it('of any signs at all end, and longer ones than are taken leave out nothing', () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^[[\]*?\\!/a-c{}-]{0,60}$/),
        fc.stringMatching(/^[a-c/]{1,60}$/),
        (pattern, path) => {
          compilePatterns([pattern]).isExcluded(path, false);
        },
      ),
      { seed: 6, numRuns: 2000 },
    );
    expect(compilePatterns(['['.repeat(LONGEST_PATTERN)]).isExcluded('x', false)).toBe(false);
    expect(compilePatterns(['*'.repeat(LONGEST_PATTERN + 1)]).isExcluded('x', false)).toBe(false);
  });
});
