/** A saved search as a test over one record of the index. */
import { fold } from '../match/index.js';
import type { EntryType, Kind } from '../kinds/index.js';
import { extensionOf } from '../paths/index.js';
import { globTest } from './glob.js';
import { boundsOf, type Zone } from './times.js';
import type { IsWord, QueryNode } from './tree.js';

/** What a test looks at. Names are folded (`fold` of match) once for each record, not for each search. */
export interface QueryRecord {
  folded: string;
  type: EntryType;
  kind: Kind;
  size: number;
  /** Epoch milliseconds. */
  modified: number;
  created: number;
  /** When it was opened last, by Rellin; null where it never was. */
  opened: number | null;
  /** Folded names from the place down to the folder it lies in. */
  folders: readonly string[];
  /** Folded names of its tags. */
  tags: readonly string[];
  /** Whether it has a shortcut, a pinned one, whether its place is away, how many entries a folder holds. */
  shortcut: boolean;
  pinned: boolean;
  away: boolean;
  children: number | null;
  /** Whether its content holds a word or phrase; left out where contents are not read. */
  holds?(text: string): boolean;
}

export type QueryTest = (record: QueryRecord) => boolean;

export interface QueryContext {
  now: number;
  zone: Zone;
}

const IS: Record<IsWord, QueryTest> = {
  file: (r) => r.type === 'file',
  folder: (r) => r.type === 'folder',
  link: (r) => r.type === 'link',
  shortcut: (r) => r.shortcut,
  pinned: (r) => r.pinned,
  tagged: (r) => r.tags.length > 0,
  away: (r) => r.away,
  empty: (r) => (r.type === 'folder' ? r.children === 0 : r.type === 'file' && r.size === 0),
};

/** Whether `part` stands somewhere in `whole` in one run. */
function holdsRun(whole: readonly string[], part: readonly string[]): boolean {
  for (let i = 0; i + part.length <= whole.length; i++) if (part.every((p, k) => whole[i + k] === p)) return true;
  return false;
}

/** Compiles a tree once; the test costs no more than its conditions, cheap ones of a group first. */
export function compileQuery(node: QueryNode, context: QueryContext): QueryTest {
  switch (node.type) {
    case 'all': {
      const tests = node.of.map((n) => compileQuery(n, context));
      return (r) => tests.every((test) => test(r));
    }
    case 'any': {
      const tests = node.of.map((n) => compileQuery(n, context));
      return (r) => tests.some((test) => test(r));
    }
    case 'not': {
      const test = compileQuery(node.of, context);
      return (r) => !test(r);
    }
    case 'word': {
      const text = fold(node.text);
      return (r) => r.folded.includes(text);
    }
    case 'name': {
      const test = globTest(node.glob);
      return (r) => test(r.folded);
    }
    case 'ext': {
      const values = new Set(node.values.map(fold));
      return (r) => r.type === 'file' && values.has(extensionOf(r.folded));
    }
    case 'kind': {
      const values = new Set(node.values);
      return (r) => values.has(r.kind);
    }
    case 'in': {
      const folders = node.folders.map(fold);
      return (r) => holdsRun(r.folders, folders);
    }
    case 'size': {
      const { min, max } = node;
      return (r) => r.type === 'file' && (min === null || r.size >= min) && (max === null || r.size <= max);
    }
    case 'time':
    case 'time-range': {
      const { from, to } = boundsOf(node, context.now, context.zone);
      const { field } = node;
      return (r) => {
        const at = r[field];
        return at !== null && (from === null || at >= from) && (to === null || at < to);
      };
    }
    case 'never-opened':
      return (r) => r.opened === null;
    case 'tag': {
      const name = fold(node.name);
      return (r) => r.tags.includes(name);
    }
    case 'text': {
      const { text } = node;
      return (r) => r.holds?.(text) ?? false;
    }
    case 'is':
      return IS[node.what];
  }
}
