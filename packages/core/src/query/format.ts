/** From tree to its canonical text, which reads back to the same tree. */
import { isGlob } from './glob.js';
import { simplified, type Condition, type QueryNode } from './tree.js';
import { writeSize, writeTime } from './values.js';

const quote = (text: string) => `"${text.replace(/["\\]/g, '\\$&')}"`;

/** A value behind a field's sign: in quotes where it would not be read back otherwise. */
const value = (text: string) => (/^[^\s()"\\]+$/.test(text) ? text : quote(text));

function word(text: string): string {
  // what would be read as a sign, a field, a glob or OR stands in quotes
  const plain =
    /^[^\s()"\\-][^\s()"\\]*$/.test(text) && !/^[a-z]+(?::|<|>)/i.test(text) && !isGlob(text) && text !== 'OR';
  return plain ? text : quote(text);
}

function condition(c: Condition): string {
  switch (c.type) {
    case 'word':
      return word(c.text);
    case 'name':
      return `name:${value(c.glob)}`;
    case 'ext':
    case 'kind':
      return `${c.type}:${value(c.values.join(','))}`;
    case 'in':
      return `in:${value(c.folders.join('/'))}`;
    case 'size':
      if (c.min !== null && c.min === c.max) return `size:${writeSize(c.min)}`;
      if (c.min === null) return bound('<', c.max!, c.max! + 1);
      if (c.max === null) return bound('>', c.min, c.min - 1);
      return `size:${writeSize(c.min)}..${writeSize(c.max)}`;
    case 'time':
      return `${c.field}${c.op}${writeTime(c.word)}`;
    case 'time-range':
      return `${c.field}:${c.from ? writeTime(c.from) : ''}..${c.to ? writeTime(c.to) : ''}`;
    case 'never-opened':
      return 'opened:never';
    case 'tag':
      return `tag:${value(c.name)}`;
    case 'text':
      return `text:${value(c.text)}`;
    case 'is':
      return `is:${c.what}`;
  }
}

/**
 * With or without the bound itself, whichever is the rounder number: sizes are whole bytes, so that both say the same.
 */
function bound(sign: '<' | '>', including: number, excluding: number): string {
  const digits = (bytes: number) => writeSize(bytes).replace(/\D/g, '').length;
  return excluding > 0 && digits(excluding) < digits(including)
    ? `size${sign}${writeSize(excluding)}`
    : `size${sign}=${writeSize(including)}`;
}

function write(node: QueryNode, inside: 'all' | 'any' | 'not' | 'top'): string {
  switch (node.type) {
    case 'all': {
      const text = node.of.map((n) => write(n, 'all')).join(' ');
      return inside === 'not' ? `(${text})` : text;
    }
    case 'any': {
      const text = node.of.map((n) => write(n, 'any')).join(' OR ');
      return inside === 'top' ? text : `(${text})`;
    }
    case 'not':
      return `-${write(node.of, 'not')}`;
    default:
      return condition(node);
  }
}

/** The canonical text; "" for everything. */
export function formatQuery(node: QueryNode): string {
  return write(simplified(node), 'top');
}
