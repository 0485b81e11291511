/**
 * MIME types by their other names and by what they are a special case of (Shared MIME-info 0.21: `aliases`,
 * `subclasses`).
 */

export interface MimeTree {
  /** Another name → the name. */
  names: ReadonlyMap<string, string>;
  parents: ReadonlyMap<string, readonly string[]>;
}

const pairs = (text: string): [string, string][] =>
  text.split('\n').flatMap((line): [string, string][] => {
    const [a, b, ...more] = line.trim().toLowerCase().split(/\s+/);
    return a && b && more.length === 0 && !a.startsWith('#') ? [[a, b]] : [];
  });

/** Reads the two files; lines that are none of theirs are left out. O(length). */
export function parseMimeTree(aliases: string, subclasses: string): MimeTree {
  const names = new Map(pairs(aliases));
  const parents = new Map<string, string[]>();
  for (const [type, parent] of pairs(subclasses)) parents.set(type, [...(parents.get(type) ?? []), parent]);
  return { names, parents };
}

/**
 * A type, then what it is a special case of, the nearest first, each once: a program for one of them can open it too.
 * Every kind of text is plain text (section 2.11); that everything is a row of bytes says nothing about who opens it.
 *
 * @example lineage(tree, 'text/x-c++src') // ['text/x-c++src', 'text/x-csrc', 'text/plain']
 */
export function lineage(tree: MimeTree, mime: string): string[] {
  const name = (type: string) => tree.names.get(type) ?? type;
  const out = [name(mime.toLowerCase())];
  for (let i = 0; i < out.length; i++)
    for (const parent of tree.parents.get(out[i]!) ?? []) {
      const type = name(parent);
      if (type !== 'application/octet-stream' && !out.includes(type)) out.push(type);
    }
  if (out[0]!.startsWith('text/') && !out.includes('text/plain')) out.push('text/plain');
  return out;
}
