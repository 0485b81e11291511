/**
 * What a place leaves out, by the patterns of gitignore(5): names and paths with `*`, `?`, `[a-z]` and `**`, `!` before
 * what is taken back, `/` at the end for folders only, `/` before or within for paths from the place down. Letters
 * match whatever their case. Braces and comments behind a pattern are not known, as there.
 *
 * Not by regular expressions: of those a dozen stars take for ever. A segment steps back to its last star only, and the
 * segments of a path to their last `**`.
 */

/** Longer patterns are refused by whoever takes them; here they match nothing. */
export const LONGEST_PATTERN = 500;

type Unit = { type: 'sign'; sign: string } | { type: 'any' } | { type: 'star' } | { type: 'set'; set: SignSet };

interface SignSet {
  not: boolean;
  ranges: [string, string][];
}

interface Pattern {
  /** It takes back what one before it left out. */
  back: boolean;
  foldersOnly: boolean;
  /** Segments of a path from the place down; null for `**`. */
  segments: (Unit[] | null)[];
}

export interface PatternTest {
  /**
   * `path` is relative to the place, segments joined by “/”. Cost: patterns × path, times the longest pattern at worst.
   */
  isExcluded(path: string, isFolder: boolean): boolean;
}

/** `[…]` from behind its bracket on; undefined where it never ends. A `]` right at the beginning is one of the set. */
function readSet(signs: readonly string[], from: number): { set: SignSet; end: number } | undefined {
  let i = from;
  const not = signs[i] === '!' || signs[i] === '^';
  if (not) i++;
  const ranges: [string, string][] = [];
  for (let first = true; i < signs.length; i++, first = false) {
    if (signs[i] === ']' && !first) return { set: { not, ranges }, end: i };
    const low = signs[i] === '\\' && i + 1 < signs.length ? signs[++i]! : signs[i]!;
    const isRange = signs[i + 1] === '-' && signs[i + 2] !== undefined && signs[i + 2] !== ']';
    const high = isRange ? signs[(i += 2)]! : low;
    ranges.push([low, high]);
  }
  return undefined;
}

function unitsOf(segment: string): Unit[] {
  const signs = [...segment.toLowerCase()];
  const out: Unit[] = [];
  // where one bracket is never closed, none behind it is
  let closes = true;
  for (let i = 0; i < signs.length; i++) {
    const c = signs[i]!;
    const set = c === '[' && closes ? readSet(signs, i + 1) : undefined;
    if (set) {
      out.push({ type: 'set', set: set.set });
      i = set.end;
      continue;
    }
    if (c === '[') closes = false;
    if (c === '\\' && i + 1 < signs.length) out.push({ type: 'sign', sign: signs[++i]! });
    else if (c === '?') out.push({ type: 'any' });
    else if (c !== '*') out.push({ type: 'sign', sign: c });
    else if (out.at(-1)?.type !== 'star') out.push({ type: 'star' });
  }
  return out;
}

function fits(unit: Unit, sign: string): boolean {
  switch (unit.type) {
    case 'sign':
      return unit.sign === sign;
    case 'any':
      return true;
    case 'set':
      return unit.set.ranges.some(([low, high]) => low <= sign && sign <= high) !== unit.set.not;
    case 'star':
      return false;
  }
}

/**
 * Whether a list fits a pattern of which some parts stand for any number of entries; steps back to the last such only.
 */
function fitsList<P, T>(
  pattern: readonly P[],
  list: readonly T[],
  isMany: (p: P) => boolean,
  one: (p: P, t: T) => boolean,
) {
  let [p, n, many, back] = [0, 0, -1, 0];
  while (n < list.length) {
    if (p < pattern.length && isMany(pattern[p]!)) {
      many = p++;
      back = n;
    } else if (p < pattern.length && one(pattern[p]!, list[n]!)) {
      p++;
      n++;
    } else if (many >= 0) {
      p = many + 1;
      n = ++back;
    } else return false;
  }
  while (p < pattern.length && isMany(pattern[p]!)) p++;
  return p === pattern.length;
}

const isStar = (unit: Unit) => unit.type === 'star';
const fitsName = (units: readonly Unit[], name: readonly string[]) => fitsList(units, name, isStar, fits);

/** One line; undefined for an empty one and a comment. */
function parsed(line: string): Pattern | undefined {
  if (line.length > LONGEST_PATTERN || line.startsWith('#')) return undefined;
  const back = line.startsWith('!');
  // blanks at the end count only behind a backslash
  let text = line.slice(back ? 1 : 0).replace(/(?<!\\)\s+$/, '');
  const foldersOnly = text.endsWith('/') && !text.endsWith('\\/');
  if (foldersOnly) text = text.slice(0, -1);
  const isPath = text.includes('/');
  text = text.replace(/^\//, '');
  if (text === '') return undefined;
  const segments = text.split('/').map((s) => (s === '**' ? null : unitsOf(s)));
  // “x/**” is what lies in x, not x itself
  if (segments.length > 1 && segments.at(-1) === null) segments.push([{ type: 'star' }]);
  return { back, foldersOnly, segments: isPath ? segments : [null, ...segments] };
}

/**
 * @example
 * const test = compilePatterns(['*.log', '!keep.log', 'build/']);
 * test.isExcluded('a/x.log', false); // true
 * test.isExcluded('keep.log', false); // false
 */
export function compilePatterns(lines: readonly string[]): PatternTest {
  const patterns = lines.flatMap((line) => parsed(line) ?? []);
  return {
    isExcluded(path, isFolder) {
      const names = path
        .toLowerCase()
        .split('/')
        .map((name) => [...name]);
      let out = false;
      for (const { back, foldersOnly, segments } of patterns)
        if (out === back && (isFolder || !foldersOnly))
          out = fitsList(
            segments,
            names,
            (s) => s === null,
            (s, name) => fitsName(s!, name),
          )
            ? !back
            : out;
      return out;
    },
  };
}
