/**
 * MIME types by name, after the Shared MIME-info Specification 0.21 (sections 2.6 and 2.11, the file `globs2`): a literal
 * name goes before all, then the heaviest glob, of equals the longest; as it is written first, then whatever its case,
 * but for globs that say their case counts.
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
  others: { glob: Glob; test: RegExp; testAnyCase: RegExp }[];
}

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
  const table: GlobTable = { literals: new Map(), endings: new Map(), beginnings: new Set(), others: [] };
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
        table.others.push({ glob, test: expression(pattern, ''), testAnyCase: expression(pattern, 'i') });
      } catch {
        // a class that is none
      }
  }
  return table;
}

/**
 * The type of a file by its name alone; undefined where no glob fits. Where several types are as good the first in the
 * table is taken. Cost: a look-up a character that endings begin with, and a test for each of the few other globs.
 */
export function typeByName(table: GlobTable, name: string): string | undefined {
  const lower = name.toLowerCase();
  for (const [text, anyCase] of [
    [name, false],
    [lower, true],
  ] as const) {
    const literal = table.literals.get(text)?.find((g) => !anyCase || !g.caseCounts);
    if (literal) return literal.mime;
  }
  return best(matching(table, name, false)) ?? best(matching(table, lower, true));
}

function matching(table: GlobTable, name: string, anyCase: boolean): Glob[] {
  const found: Glob[] = [];
  const may = (g: Glob) => !anyCase || !g.caseCounts;
  for (let at = 0; at < name.length; at++) {
    if (!table.beginnings.has(name[at]!)) continue;
    for (const glob of table.endings.get(name.slice(at)) ?? []) if (may(glob)) found.push(glob);
  }
  for (const { glob, test, testAnyCase } of table.others)
    if (may(glob) && (anyCase ? testAnyCase : test).test(name)) found.push(glob);
  return found;
}

function best(globs: readonly Glob[]): string | undefined {
  let first: Glob | undefined;
  for (const g of globs)
    if (!first || g.weight > first.weight || (g.weight === first.weight && g.pattern.length > first.pattern.length))
      first = g;
  return first?.mime;
}
