/**
 * Whether a JSON text keeps within bounds, told from its bytes in one pass and without a stack of its own: what is too
 * deep or too wide is refused before it costs anything. Whether it is JSON at all is for the parser to say.
 */
import type { JsonBounds } from './routeRules.js';

const QUOTE = 0x22;
const BACKSLASH = 0x5c;
const COMMA = 0x2c;
const OPEN_OBJECT = 0x7b;
const CLOSE_OBJECT = 0x7d;
const OPEN_ARRAY = 0x5b;
const CLOSE_ARRAY = 0x5d;

/** What is too much, in words; undefined where the text keeps within its bounds. Linear in its length. */
export function beyondBounds(text: Uint8Array, { depth, keys, items }: Omit<JsonBounds, 'bytes'>): string | undefined {
  // one counter a level: commas seen, and whether the level is an object
  const commas = new Uint32Array(depth + 1);
  const isObject = new Uint8Array(depth + 1);
  let level = 0;
  for (let i = 0; i < text.length; i++) {
    switch (text[i]!) {
      case QUOTE:
        for (i++; i < text.length && text[i] !== QUOTE; i++) if (text[i] === BACKSLASH) i++;
        break;
      case OPEN_OBJECT:
      case OPEN_ARRAY:
        if (++level > depth) return `it is nested more than ${depth} deep`;
        commas[level] = 0;
        isObject[level] = text[i] === OPEN_OBJECT ? 1 : 0;
        break;
      case CLOSE_OBJECT:
      case CLOSE_ARRAY:
        if (level > 0) level--;
        break;
      case COMMA:
        commas[level]!++;
        if (isObject[level] === 1 && commas[level]! >= keys) return `an object in it has more than ${keys} members`;
        if (isObject[level] === 0 && commas[level]! >= items) return `a list in it has more than ${items} entries`;
        break;
    }
  }
  return undefined;
}
