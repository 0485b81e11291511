/**
 * MIME types by name, after the Shared MIME-info Specification 0.21 (sections 2.6 and 2.11, the file `globs2`): a
 * literal name goes before all, then the heaviest glob, of equals the longest; as it is written first, then whatever
 * its case, but for globs that say their case counts.
 */

interface Glob {
  weight: number;
  mime: string;
  pattern: string;
  caseCounts: boolean;
}

export interface GlobTable {
  /** Names without any wildcard, as they are written. */
  literals: Map<string, Glob[]>;
  /** What stands behind the star of `*.tar.gz`, as it is written. */
  endings: Map<string, Glob[]>;
  /** The first characters of endings: elsewhere in a name none need be looked for. */
  beginnings: Set<string>;
  /** `holds` is what a name must hold, whatever its case, for the glob to fit. */
  others: { glob: Glob; holds: string; test: RegExp; testAnyCase: RegExp }[];
  /** The best ending of what stands in names from the first character on that an ending begins with. */
  known: Map<string, { exact: Glob | undefined; anyCase: Glob | undefined }>;
}

/** Endings that are kept in mind; people's names have few. */
const MOST_KNOWN = 5000;

const WILD = /[*?[\]]/;

/** A glob of fnmatch(3) as an expression; none in the table has more than a star, a question mark or a class. */
function expression(pattern: string, flags: string): RegExp {
  const text = pattern.replace(/\[[^\]]*\]|[*?]|[.+^${}()|\\/[\]]/g, (part) => {
    if (part === '*') return '[^]*';
    if (part === '?') return '[^]';
    return part.length > 1 ? part.replace(/^\[!/, '[^') : `\\${part}`;
  });
  return new RegExp(`^${text}$`, flags);
}

/**
 * Reads lines `weight:type:glob[:flags]`. What cannot be read is left out. Cost: linear.
 *
 * @example typeByName(parseGlobs2('50:text/x-csrc:*.c'), 'ring.c') // 'text/x-csrc'
 */
export function parseGlobs2(text: string): GlobTable {
  const table: GlobTable = {
    literals: new Map(),
    endings: new Map(),
    beginnings: new Set(),
    others: [],
    known: new Map(),
  };
  const into = (map: Map<string, Glob[]>, key: string, glob: Glob) => {
    const known = map.get(key);
    if (known) known.push(glob);
    else map.set(key, [glob]);
  };
  for (const line of text.split('\n')) {
    if (line.startsWith('#')) continue;
    const [weight, mime, pattern, flags = ''] = line.split(':');
    if (!weight || !mime || !pattern || !(Number(weight) >= 0)) continue;
    const glob: Glob = { weight: Number(weight), mime, pattern, caseCounts: flags.split(',').includes('cs') };
    if (!WILD.test(pattern)) into(table.literals, pattern, glob);
    else if (pattern.startsWith('*') && pattern.length > 1 && !WILD.test(pattern.slice(1))) {
      into(table.endings, pattern.slice(1), glob);
      table.beginnings.add(pattern[1]!);
    } else
      try {
        table.others.push({
          glob,
          holds: longest(pattern.toLowerCase().split(/\[[^\]]*\]|[*?]/)),
          test: expression(pattern, ''),
          testAnyCase: expression(pattern, 'i'),
        });
      } catch {
        // a class that is none
      }
  }
  return table;
}

const longest = (texts: readonly string[]) => texts.reduce((a, b) => (b.length > a.length ? b : a), '');

/**
 * The type of a file by its name alone; undefined where no glob fits. Where several types are as good the first in the
 * table is taken. Cost: a few look-ups, and a test for each glob that is no ending and whose letters the name holds.
 */
export function typeByName(table: GlobTable, name: string): string | undefined {
  const lower = name.toLowerCase();
  const literal = table.literals.get(name)?.[0] ?? table.literals.get(lower)?.find((g) => !g.caseCounts);
  if (literal) return literal.mime;
  const ending = endingOf(table, name, lower);
  let { exact, anyCase } = ending;
  for (const { glob, holds, test, testAnyCase } of table.others) {
    if (!lower.includes(holds)) continue;
    if (test.test(name)) exact = better(exact, glob);
    else if (!glob.caseCounts && testAnyCase.test(name)) anyCase = better(anyCase, glob);
  }
  return (exact ?? anyCase)?.mime;
}

function endingOf(table: GlobTable, name: string, lower: string) {
  let from = 0;
  while (from < name.length && !table.beginnings.has(name[from]!)) from++;
  const tail = name.slice(from);
  const known = table.known.get(tail);
  if (known) return known;
  const found = { exact: bestEnding(table, tail, true), anyCase: bestEnding(table, lower.slice(from), false) };
  if (table.known.size < MOST_KNOWN) table.known.set(tail, found);
  return found;
}

function bestEnding(table: GlobTable, tail: string, exactly: boolean): Glob | undefined {
  let best: Glob | undefined;
  for (let at = 0; at < tail.length; at++)
    if (table.beginnings.has(tail[at]!))
      for (const glob of table.endings.get(tail.slice(at)) ?? [])
        if (exactly || !glob.caseCounts) best = better(best, glob);
  return best;
}

function better(a: Glob | undefined, b: Glob): Glob {
  if (!a || b.weight > a.weight) return b;
  return b.weight === a.weight && b.pattern.length > a.pattern.length ? b : a;
}
