/**
 * Renaming many shortcuts by one pattern. In the pattern `{name}` is the present name, `{original}` the original's own
 * name, `{n}` a running number from 1 (`{nn}` with two digits at least, and so on). `{{` is a brace. A part between
 * slashes, `s/from/to/` as in ed(1), replaces plain text in the present name instead.
 */

export interface RenameSource {
  name: string;
  /** The original's name on disk, or the present name where it has none. */
  original: string;
}

export type RenamePattern = { ok: true; names: string[] } | { ok: false; reason: string };

/** The new names, in the order of the sources. Refused: an unknown field, or a name that would be empty. */
export function renamedBy(pattern: string, sources: readonly RenameSource[]): RenamePattern {
  const swap = /^s\/((?:[^/\\]|\\.)+)\/((?:[^/\\]|\\.)*)\/$/s.exec(pattern);
  const plain = (text: string) => text.replace(/\\(.)/gs, '$1');
  const unknown = swap ? undefined : unknownField(pattern);
  if (unknown !== undefined)
    return { ok: false, reason: `{${unknown}} is no field; there are {name}, {original}, {n}` };
  const names = sources.map((source, i) =>
    (swap ? source.name.replaceAll(plain(swap[1]!), () => plain(swap[2]!)) : filled(pattern, source, i + 1)).trim(),
  );
  const empty = names.indexOf('');
  if (empty >= 0) return { ok: false, reason: `“${sources[empty]!.name}” would have no name` };
  return { ok: true, names };
}

const FIELD = /\{\{|\{([^{}]*)\}/g;

function unknownField(pattern: string): string | undefined {
  for (const [, field] of pattern.matchAll(FIELD))
    if (field !== undefined && !/^(name|original|n+)$/.test(field)) return field;
  return undefined;
}

function filled(pattern: string, { name, original }: RenameSource, n: number): string {
  return pattern.replace(FIELD, (whole, field?: string) => {
    if (field === undefined) return whole === '{{' ? '{' : whole;
    if (field === 'name') return name;
    if (field === 'original') return original;
    return String(n).padStart(field.length, '0');
  });
}
