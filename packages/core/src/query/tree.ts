/**
 * A saved search as a typed tree (docs/models.md 5). Values stay as they were meant: "last-week" is resolved when it is
 * asked.
 */
import type { Kind } from '../kinds/index.js';

/** Inclusive bounds in bytes; null where it is open. */
export interface SizeRange {
  min: number | null;
  max: number | null;
}

export type TimeField = 'modified' | 'created' | 'opened';

/** What a time is compared by: inside it, or before, after, from, until it. */
export type TimeOp = ':' | '<' | '<=' | '>' | '>=';

/** A stretch of time in words: a day, month or year (ISO 8601), a day by name, or how long ago. */
export type TimeWord =
  | { type: 'date'; year: number; month: number | null; day: number | null }
  | { type: 'ago'; count: number; unit: 'd' | 'w' | 'm' | 'y' }
  | { type: 'named'; name: NamedTime };

export const NAMED_TIMES = [
  'today',
  'yesterday',
  'this-week',
  'last-week',
  'this-month',
  'last-month',
  'this-year',
  'last-year',
] as const;
export type NamedTime = (typeof NAMED_TIMES)[number];

export const IS_WORDS = ['file', 'folder', 'link', 'shortcut', 'pinned', 'tagged', 'away', 'empty'] as const;
export type IsWord = (typeof IS_WORDS)[number];

export type Condition =
  /** In the name, wherever it stands; case and accents aside. */
  | { type: 'word'; text: string }
  /** The whole name by a glob. */
  | { type: 'name'; glob: string }
  | { type: 'ext'; values: string[] }
  | { type: 'kind'; values: Kind[] }
  /** Below a folder, by the end of its trail: "Ringing/2026"; its first part may be the place's name. */
  | { type: 'in'; folders: string[] }
  | ({ type: 'size' } & SizeRange)
  | { type: 'time'; field: TimeField; op: TimeOp; word: TimeWord }
  | { type: 'time-range'; field: TimeField; from: TimeWord | null; to: TimeWord | null }
  | { type: 'never-opened' }
  | { type: 'tag'; name: string }
  /** In the content: one word or a phrase. */
  | { type: 'text'; text: string }
  | { type: 'is'; what: IsWord };

export type QueryNode =
  Condition | { type: 'all'; of: QueryNode[] } | { type: 'any'; of: QueryNode[] } | { type: 'not'; of: QueryNode };

/** Everything; what an empty text means. */
export const EVERYTHING: QueryNode = { type: 'all', of: [] };

/**
 * The conditions of a tree, from left to right, whatever groups they stand in. Cost: each node once.
 *
 * @example conditionsOf({ type: 'not', of: { type: 'word', text: 'old' } }) // [{ type: 'word', text: 'old' }]
 */
export function conditionsOf(node: QueryNode): Condition[] {
  switch (node.type) {
    case 'all':
    case 'any':
      return node.of.flatMap(conditionsOf);
    case 'not':
      return conditionsOf(node.of);
    default:
      return [node];
  }
}

/** Conditions in a tree, groups not counted. */
export const countConditions = (node: QueryNode): number => conditionsOf(node).length;

/** Whether answering needs the contents of files. */
export const asksContent = (node: QueryNode): boolean => conditionsOf(node).some((c) => c.type === 'text');

/** The texts that the contents are asked for. */
export const textsOf = (node: QueryNode): string[] =>
  conditionsOf(node).flatMap((c) => (c.type === 'text' ? [c.text] : []));

/**
 * The same meaning without groups of one, groups in groups of their sort, and double negations: two texts that mean the
 * same by these rules have the same tree.
 */
export function simplified(node: QueryNode): QueryNode {
  switch (node.type) {
    case 'not': {
      const inner = simplified(node.of);
      return inner.type === 'not' ? inner.of : { type: 'not', of: inner };
    }
    case 'all':
    case 'any': {
      const of = node.of.map(simplified).flatMap((child) => (child.type === node.type ? child.of : [child]));
      return of.length === 1 ? of[0]! : { type: node.type, of };
    }
    default:
      return node;
  }
}
