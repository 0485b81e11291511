/**
 * The one validator of text from the wire: PostgreSQL keeps no NUL, and half a surrogate pair is no character. It runs
 * over bodies, queries and addresses alike, so that no field can forget it.
 */
import { Refusal } from '../problems/refusal.js';

/** Control characters that no text holds, and halves of pairs. */
const UNTEXT = /\0|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;

/**
 * Refuses a value with text in it that is none, naming the field; a member that would change what an object is as well.
 */
export function refuseUntext(value: unknown, field: string): void {
  if (typeof value === 'string') {
    if (UNTEXT.test(value))
      throw new Refusal('not-valid', `${field} holds a character that is none (NUL, or half of a pair).`);
  } else if (Array.isArray(value)) {
    for (const one of value) refuseUntext(one, field);
  } else if (typeof value === 'object' && value !== null) {
    for (const [key, one] of Object.entries(value)) {
      if (key === '__proto__' || UNTEXT.test(key))
        throw new Refusal('not-valid', `${field} holds a member name that is not taken.`);
      refuseUntext(one, key);
    }
  }
}
