/** The fields a row of the builder can ask, and how each is written in a field of its own; pure. */
import { KINDS, kindWord } from '@rellin/core/kinds';
import { formatQuery, isGlob, IS_WORDS, parseQuery, type Condition, type IsWord } from '@rellin/core/query';

export type FieldName =
  'word' | 'name' | 'ext' | 'kind' | 'in' | 'size' | 'modified' | 'created' | 'opened' | 'tag' | 'text' | 'is';

export interface FieldWords {
  title: string;
  /** What stands in its empty field. */
  example: string;
  /** Chosen from a list, not typed. */
  options?: { value: string; label: string }[];
}

const IS_TITLES: Record<IsWord, string> = {
  file: 'a file',
  folder: 'a folder',
  link: 'a link',
  shortcut: 'in the catalogue',
  pinned: 'pinned',
  tagged: 'tagged',
  away: 'away',
  empty: 'empty',
};

export const FIELDS: Record<FieldName, FieldWords> = {
  word: { title: 'Name holds', example: 'tide table' },
  name: { title: 'Name is like', example: '*.csv' },
  ext: { title: 'Ends in', example: 'csv, md' },
  kind: { title: 'Kind', example: '', options: KINDS.map((k) => ({ value: k, label: kindWord(k) })) },
  in: { title: 'Lies in', example: 'Ringing/2026' },
  size: { title: 'Size', example: '>10MB or 1kB..2MiB' },
  modified: { title: 'Modified', example: 'last-week, 7d, 2026-05..' },
  created: { title: 'Created', example: 'this-month, 2026-05' },
  opened: { title: 'Opened', example: 'today, 30d, never' },
  tag: { title: 'Tag', example: 'boat' },
  text: { title: 'Content holds', example: 'hand net' },
  is: { title: 'Is', example: '', options: IS_WORDS.map((w) => ({ value: w, label: IS_TITLES[w] })) },
};

export function fieldOf(condition: Condition): FieldName {
  switch (condition.type) {
    case 'time':
    case 'time-range':
      return condition.field;
    case 'never-opened':
      return 'opened';
    default:
      return condition.type;
  }
}

/** What stands in the row's own field: the condition's text without its field's name. */
export function valueOf(condition: Condition): string {
  switch (condition.type) {
    case 'word':
    case 'text':
      return condition.text;
    case 'name':
      return condition.glob;
    case 'ext':
      return condition.values.join(', ');
    case 'kind':
      return condition.values.join(',');
    case 'in':
      return condition.folders.join('/');
    case 'tag':
      return condition.name;
    case 'is':
      return condition.what;
    default:
      // size and times: what follows the field's name
      return formatQuery(condition).replace(/^[a-z]+:?/, '');
  }
}

const quoted = (text: string) => `"${text.replace(/[\\"]/g, '\\$&')}"`;

/** The condition that a field and what was written into it mean; undefined where it means none. */
export function conditionOf(field: FieldName, value: string): Condition | undefined {
  const text = value.trim();
  if (text === '') return undefined;
  switch (field) {
    case 'word':
      return { type: 'word', text };
    case 'text':
      return { type: 'text', text };
    case 'tag':
      return { type: 'tag', name: text };
    default: {
      if (field === 'name' && !isGlob(text)) return undefined;
      const written =
        field === 'name' || field === 'in'
          ? `${field}:${quoted(text)}`
          : field === 'ext'
            ? `ext:${text
                .split(/[\s,]+/)
                .filter(Boolean)
                .map((e) => e.replace(/^\*?\./, ''))
                .join(',')}`
            : /^[<>]/.test(text)
              ? `${field}${text.replace(/\s+/g, '')}`
              : `${field}:${text.replace(/\s+/g, '')}`;
      const parsed = parseQuery(written);
      if (!parsed.ok) return undefined;
      const { tree } = parsed;
      return tree.type === 'all' || tree.type === 'any' || tree.type === 'not' ? undefined : tree;
    }
  }
}

/** What a row begins with whose value is chosen from a list; one that is typed into begins empty. */
export const FIRST: Partial<Record<FieldName, Condition>> = {
  kind: { type: 'kind', values: ['table'] },
  is: { type: 'is', what: 'file' },
};
