/**
 * From text to tree. Never throws; an error says where, what was expected and, where a word is nearly a known one,
 * which. Grammar in docs/query.md. Depth and number of conditions are bounded, so that no text makes it hang.
 */
import { KINDS, type Kind } from '../kinds/index.js';
import { isGlob, parseGlob } from './glob.js';
import {
  IS_WORDS,
  simplified,
  type Condition,
  type IsWord,
  type QueryNode,
  type TimeField,
  type TimeOp,
} from './tree.js';
import { parseSize, parseTime } from './values.js';

export interface QueryError {
  /** Code units from the beginning of the text. */
  at: number;
  length: number;
  message: string;
  /** What to write instead of the marked part, where it is nearly known. */
  suggestion?: string;
}

export type ParseResult = { ok: true; tree: QueryNode } | { ok: false; error: QueryError };

export const MOST_CONDITIONS = 1000;
export const DEEPEST = 100;
export const LONGEST = 20_000;

export const FIELDS = [
  'name',
  'ext',
  'kind',
  'in',
  'size',
  'modified',
  'created',
  'opened',
  'tag',
  'text',
  'is',
] as const;
export type Field = (typeof FIELDS)[number];

class Trouble extends Error {
  constructor(readonly error: QueryError) {
    super(error.message);
  }
}

interface Token {
  type: 'open' | 'close' | 'or' | 'not' | 'term';
  at: number;
  length: number;
  /** Of a term: what stands before the sign, unquoted. */
  field?: string;
  op?: TimeOp;
  value: string;
  quoted: boolean;
}

const SPACE = /\s/;

/** Reads quoted text from its quote on; the value, and where it ends. */
function quotedFrom(text: string, from: number): { value: string; end: number } {
  let value = '';
  for (let i = from + 1; i < text.length; i++) {
    if (text[i] === '\\' && (text[i + 1] === '"' || text[i + 1] === '\\')) value += text[++i];
    else if (text[i] === '"') return { value, end: i + 1 };
    else value += text[i];
  }
  throw new Trouble({ at: from, length: text.length - from, message: 'This quote has no end. Close it with ".' });
}

function* tokens(text: string): Generator<Token> {
  let i = 0;
  while (i < text.length) {
    const c = text[i]!;
    const at = i;
    if (SPACE.test(c)) {
      i++;
      continue;
    }
    if (c === '(' || c === ')') {
      i++;
      yield { type: c === '(' ? 'open' : 'close', at, length: 1, value: c, quoted: false };
      continue;
    }
    if (c === '-' && i + 1 < text.length && !SPACE.test(text[i + 1]!)) {
      i++;
      yield { type: 'not', at, length: 1, value: c, quoted: false };
      continue;
    }
    if (c === '"') {
      const { value, end } = quotedFrom(text, i);
      i = end;
      yield { type: 'term', at, length: end - at, value, quoted: true };
      continue;
    }
    let word = '';
    let field: string | undefined;
    let op: TimeOp | undefined;
    let quoted = false;
    while (i < text.length && !SPACE.test(text[i]!) && text[i] !== '(' && text[i] !== ')') {
      const sign = field === undefined ? /^(?::|<=|>=|<|>)/.exec(text.slice(i, i + 2))?.[0] : undefined;
      if (sign && /^[a-z]+$/i.test(word)) {
        field = word;
        op = sign as TimeOp;
        word = '';
        i += sign.length;
        continue;
      }
      // quotes inside a word are only of a value: name:"a b"
      if (text[i] === '"' && field !== undefined && word === '') {
        const { value, end } = quotedFrom(text, i);
        word = value;
        i = end;
        quoted = true;
        break;
      }
      if (text[i] === '\\' && i + 1 < text.length && /[\s()"\\]/.test(text[i + 1]!)) i++;
      word += text[i++];
    }
    const length = i - at;
    if (field === undefined && word === 'OR') yield { type: 'or', at, length, value: word, quoted: false };
    else yield { type: 'term', at, length, field, op, value: word, quoted };
  }
}

/**
 * Edits between two words, adjacent letters exchanged counting one (optimal string alignment), stopping beyond `most`.
 */
function edits(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let [twoAgo, before]: [number[], number[]] = [[], Array.from({ length: b.length + 1 }, (_, j) => j)];
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      row[j] = Math.min(before[j]! + 1, row[j - 1]! + 1, before[j - 1]! + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        row[j] = Math.min(row[j]!, twoAgo[j - 2]! + 1);
    }
    [twoAgo, before] = [before, row];
  }
  return before[b.length]!;
}

/** The known word that was probably meant; undefined where none is near. */
export function nearest(word: string, known: readonly string[]): string | undefined {
  const most = word.length <= 3 ? 1 : 2;
  let best: string | undefined;
  let least = most + 1;
  for (const k of known) {
    const n = edits(word.toLowerCase(), k, most);
    if (n < least) [best, least] = [k, n];
  }
  return best;
}

function unknown(token: Token, what: string, word: string, known: readonly string[], offset: number): Trouble {
  const suggestion = nearest(word, known);
  return new Trouble({
    at: token.at + offset,
    length: Math.max(1, word.length),
    message: `“${word}” is no ${what}. ${suggestion ? `Did you mean “${suggestion}”?` : `There are ${known.join(', ')}.`}`,
    ...(suggestion && { suggestion }),
  });
}

const TIMES: readonly string[] = ['modified', 'created', 'opened'];

function condition(token: Token): Condition {
  const { field, op, value } = token;
  if (field === undefined) {
    if (token.quoted || !isGlob(value)) return { type: 'word', text: value };
    return glob(token, value, 0);
  }
  const name = field.toLowerCase() as Field;
  if (!(FIELDS as readonly string[]).includes(name)) throw unknown(token, 'field', field, FIELDS, 0);
  const offset = field.length + op!.length;
  const fail = (message: string, suggestion?: string) =>
    new Trouble({
      at: token.at + offset,
      length: Math.max(1, token.length - offset),
      message,
      ...(suggestion && { suggestion }),
    });
  if (value.trim() === '')
    throw fail(`What should ${name} be? Write it right behind the sign, in quotes if it has spaces.`);
  if (op !== ':' && name !== 'size' && !TIMES.includes(name))
    throw new Trouble({
      at: token.at + field.length,
      length: op!.length,
      message: `${name} cannot be larger or smaller; write ${name}:`,
      suggestion: ':',
    });
  switch (name) {
    case 'name':
      return token.quoted && !isGlob(value)
        ? { type: 'word', text: value }
        : isGlob(value)
          ? glob(token, value, offset)
          : { type: 'word', text: value };
    case 'ext':
      return { type: 'ext', values: parts(value).map((v) => v.replace(/^\./, '').toLowerCase()) };
    case 'kind':
      return {
        type: 'kind',
        values: parts(value).map((v) => {
          if (!(KINDS as readonly string[]).includes(v.toLowerCase()))
            throw unknown(token, 'kind', v, KINDS, offset + value.indexOf(v));
          return v.toLowerCase() as Kind;
        }),
      };
    case 'in': {
      const folders = value.split('/').filter((f) => f !== '');
      if (folders.length === 0)
        throw fail('Below which folder? Write its name, or the end of its path: in:Ringing/2026');
      return { type: 'in', folders };
    }
    case 'tag':
      return { type: 'tag', name: value };
    case 'text':
      return { type: 'text', text: value };
    case 'is': {
      const what = value.toLowerCase();
      if (!(IS_WORDS as readonly string[]).includes(what))
        throw unknown(token, 'word for is:', value, IS_WORDS, offset);
      return { type: 'is', what: what as IsWord };
    }
    case 'size':
      return size(op!, value, fail);
    case 'modified':
    case 'created':
    case 'opened':
      return time(name, op!, value, fail);
  }
}

/** Comma-separated values, empty ones left out. */
const parts = (value: string) =>
  value
    .split(',')
    .map((v) => v.trim())
    .filter((v) => v !== '');

function glob(token: Token, value: string, offset: number): Condition {
  const parsed = parseGlob(value);
  if (!parsed.ok)
    throw new Trouble({
      at: token.at + offset,
      length: token.length - offset,
      message: `This pattern cannot be used: ${parsed.reason}.`,
    });
  return { type: 'name', glob: value };
}

function size(op: TimeOp, value: string, fail: (message: string) => Trouble): Condition {
  const bytes = (text: string) => {
    const n = parseSize(text);
    if (n === undefined) throw fail(`“${text}” is no size. Write bytes, or 10kB, 10MB, 1.5GiB.`);
    return n;
  };
  const range = /^(.*?)\.\.(.*)$/.exec(value);
  if (range) {
    if (op !== ':') throw fail('A range stands behind a colon: size:1MB..2MB');
    const [min, max] = [range[1] === '' ? null : bytes(range[1]!), range[2] === '' ? null : bytes(range[2]!)];
    if (min === null && max === null) throw fail('A range needs at least one end: size:1MB..');
    if (min !== null && max !== null && min > max) throw fail('The range ends before it begins.');
    return { type: 'size', min, max };
  }
  const n = bytes(value);
  switch (op) {
    case ':':
      return { type: 'size', min: n, max: n };
    case '>':
      return { type: 'size', min: n + 1, max: null };
    case '>=':
      return { type: 'size', min: n, max: null };
    case '<':
      if (n === 0) throw fail('Nothing is smaller than 0 bytes.');
      return { type: 'size', min: null, max: n - 1 };
    case '<=':
      return { type: 'size', min: null, max: n };
  }
}

function time(field: TimeField, op: TimeOp, value: string, fail: (message: string) => Trouble): Condition {
  if (field === 'opened' && op === ':' && value.toLowerCase() === 'never') return { type: 'never-opened' };
  const word = (text: string) => {
    const w = parseTime(text);
    if (!w)
      throw fail(
        `“${text}” is no day there is. Write 2026-05-03, 2026-05, 2026, 7d, 3w, today, yesterday or last-week${field === 'opened' ? ', or never' : ''}.`,
      );
    return w;
  };
  const range = /^(.*?)\.\.(.*)$/.exec(value);
  if (!range) return { type: 'time', field, op, word: word(value) };
  if (op !== ':') throw fail(`A range stands behind a colon: ${field}:2026-05..2026-07`);
  const [from, to] = [range[1] === '' ? null : word(range[1]!), range[2] === '' ? null : word(range[2]!)];
  if (!from && !to) throw fail(`A range needs at least one end: ${field}:2026-05..`);
  return { type: 'time-range', field, from, to };
}

class Parser {
  private at = 0;
  private count = 0;
  constructor(private readonly list: readonly Token[]) {}

  whole(): QueryNode {
    if (this.list.length === 0) return { type: 'all', of: [] };
    const tree = this.or(0);
    const extra = this.list[this.at];
    if (extra) throw new Trouble({ at: extra.at, length: 1, message: 'This bracket closes nothing.' });
    return tree;
  }

  private or(depth: number): QueryNode {
    const of = [this.and(depth)];
    while (this.list[this.at]?.type === 'or') {
      this.at++;
      of.push(this.and(depth));
    }
    return of.length === 1 ? of[0]! : { type: 'any', of };
  }

  private and(depth: number): QueryNode {
    const of: QueryNode[] = [];
    for (;;) {
      const next = this.list[this.at];
      if (!next || next.type === 'close' || next.type === 'or') break;
      of.push(this.unary(depth));
    }
    if (of.length === 0) {
      const here = this.list[this.at];
      const before = this.list[this.at - 1];
      throw new Trouble({
        at: here?.at ?? before?.at ?? 0,
        length: here?.length ?? before?.length ?? 1,
        message:
          here?.type === 'or' || before?.type === 'or'
            ? 'OR stands between two conditions; one of them is missing.'
            : 'There is no condition in these brackets.',
      });
    }
    return of.length === 1 ? of[0]! : { type: 'all', of };
  }

  private unary(depth: number): QueryNode {
    const token = this.list[this.at++]!;
    if (depth >= DEEPEST)
      throw new Trouble({
        at: token.at,
        length: token.length,
        message: `Brackets and signs go ${DEEPEST} deep at most.`,
      });
    if (token.type === 'not') {
      if (!this.list[this.at] || ['close', 'or'].includes(this.list[this.at]!.type))
        throw new Trouble({
          at: token.at,
          length: 1,
          message: '“-” stands before what is not wanted; nothing follows.',
        });
      return { type: 'not', of: this.unary(depth + 1) };
    }
    if (token.type === 'open') {
      const inside = this.or(depth + 1);
      if (this.list[this.at]?.type !== 'close')
        throw new Trouble({ at: token.at, length: 1, message: 'This bracket is never closed.' });
      this.at++;
      return inside;
    }
    if (++this.count > MOST_CONDITIONS)
      throw new Trouble({
        at: token.at,
        length: token.length,
        message: `A search holds ${MOST_CONDITIONS} conditions at most.`,
      });
    return condition(token);
  }
}

/** Reads a query. Cost: linear in its length. */
export function parseQuery(text: string): ParseResult {
  if (text.length > LONGEST)
    return {
      ok: false,
      error: { at: LONGEST, length: text.length - LONGEST, message: `A search is ${LONGEST} characters long at most.` },
    };
  try {
    return { ok: true, tree: simplified(new Parser([...tokens(text)]).whole()) };
  } catch (error) {
    if (error instanceof Trouble) return { ok: false, error: error.error };
    throw error;
  }
}
