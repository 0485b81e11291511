/**
 * Names for things filed into a folder: what clashes, and under which name each goes (common practice: "name (2).ext").
 * No I/O; the folder's names are given.
 */
import { extensionOf } from '../paths/index.js';

/** What to do with a name that is taken; for all clashes alike. */
export type ClashChoice = 'keep-both' | 'replace' | 'skip';

export interface FiledName {
  /** Index of the incoming thing. */
  index: number;
  /** The name it gets in the folder. */
  name: string;
  /** Something of that name is there and is to be set aside. */
  replaces: boolean;
}

export type FilingNames =
  { kind: 'clashes'; indexes: number[] } | { kind: 'names'; filed: FiledName[]; skipped: number[] };

/** The first free name of the form "stem (n).ext", n from 2; the extension as people take it. At most 255 bytes. */
export function freeName(name: string, isTaken: (name: string) => boolean, isFolder = false): string {
  if (!isTaken(name)) return name;
  const extension = isFolder ? '' : extensionOf(name);
  const stem = extension === '' ? name : name.slice(0, -extension.length - 1);
  for (let n = 2; ; n++) {
    const tail = ` (${n})${extension === '' ? '' : `.${extension}`}`;
    const tried = clipped(stem, tail) + tail;
    if (!isTaken(tried)) return tried;
  }
}

const NAME_BYTES = 255;
const encoder = new TextEncoder();

/** The stem, shortened by whole characters until it fits with its tail. */
function clipped(stem: string, tail: string): string {
  const room = NAME_BYTES - encoder.encode(tail).length;
  let out = [...stem];
  while (out.length > 1 && encoder.encode(out.join('')).length > room) out = out.slice(0, -1);
  return out.join('');
}

/**
 * Under which names things go into a folder that holds `there`. Without a choice, clashes are reported and nothing is
 * decided; two incoming things of one name clash with each other too, and then both are kept whatever the choice but
 * "skip": replacing what was filed a moment ago would lose it.
 */
export function namesFor(
  incoming: readonly { name: string; isFolder: boolean }[],
  there: ReadonlySet<string>,
  choice: ClashChoice,
): Extract<FilingNames, { kind: 'names' }>;
export function namesFor(
  incoming: readonly { name: string; isFolder: boolean }[],
  there: ReadonlySet<string>,
  choice?: ClashChoice,
): FilingNames;
export function namesFor(
  incoming: readonly { name: string; isFolder: boolean }[],
  there: ReadonlySet<string>,
  choice?: ClashChoice,
): FilingNames {
  const taken = new Set(there);
  const filed: FiledName[] = [];
  const skipped: number[] = [];
  const clashes: number[] = [];
  const fresh = new Set<string>();
  for (const [index, { name, isFolder }] of incoming.entries()) {
    if (!taken.has(name)) {
      taken.add(name);
      fresh.add(name);
      filed.push({ index, name, replaces: false });
      continue;
    }
    clashes.push(index);
    if (choice === 'skip') skipped.push(index);
    else if (choice === 'replace' && !fresh.has(name)) {
      fresh.add(name);
      filed.push({ index, name, replaces: true });
    } else if (choice !== undefined) {
      const free = freeName(name, (n) => taken.has(n), isFolder);
      taken.add(free);
      fresh.add(free);
      filed.push({ index, name: free, replaces: false });
    }
  }
  return choice === undefined && clashes.length > 0
    ? { kind: 'clashes', indexes: clashes }
    : { kind: 'names', filed, skipped };
}

export { renameSteps, type Rename, type RenameSteps } from './renaming.js';
