/**
 * Path text: file names as bytes, carried in well-formed Unicode strings.
 *
 * Linux names are any bytes but NUL and "/". JSON, PostgreSQL and the DOM want well-formed text. Every byte that is not
 * part of valid UTF-8 becomes one code point of U+10F780..U+10F7FF (plane 16, private use); a name that truly holds
 * such a code point has its four bytes escaped the same way, so that `toBytes(fromBytes(b))` is `b` for every `b`.
 * The idea is that of Python's PEP 383; lone surrogates as used there are not storable in PostgreSQL.
 */

const ESCAPE_BASE = 0x10f700;
const FIRST_ESCAPE = ESCAPE_BASE + 0x80;
const LAST_ESCAPE = ESCAPE_BASE + 0xff;

/** Length of the well-formed UTF-8 sequence at `i` (RFC 3629 section 4), or 0 where the bytes are not one. */
function sequenceLength(bytes: Uint8Array, i: number): number {
  const a = bytes[i]!;
  if (a < 0x80) return 1;
  const tail = (k: number, low = 0x80, high = 0xbf) => {
    const b = bytes[i + k];
    return b !== undefined && b >= low && b <= high;
  };
  if (a >= 0xc2 && a <= 0xdf) return tail(1) ? 2 : 0;
  if (a >= 0xe0 && a <= 0xef) {
    const low = a === 0xe0 ? 0xa0 : 0x80;
    const high = a === 0xed ? 0x9f : 0xbf;
    return tail(1, low, high) && tail(2) ? 3 : 0;
  }
  if (a >= 0xf0 && a <= 0xf4) {
    const low = a === 0xf0 ? 0x90 : 0x80;
    const high = a === 0xf4 ? 0x8f : 0xbf;
    return tail(1, low, high) && tail(2) && tail(3) ? 4 : 0;
  }
  return 0;
}

/** Bytes of a name or path to path text. Linear; never fails. */
export function fromBytes(bytes: Uint8Array): string {
  const decoder = new TextDecoder('utf-8', { ignoreBOM: true });
  let out = '';
  let start = 0;
  let i = 0;
  const flush = (end: number) => {
    if (end > start) out += decoder.decode(bytes.subarray(start, end));
  };
  while (i < bytes.length) {
    const n = sequenceLength(bytes, i);
    const isEscapeItself =
      n === 4 && bytes[i] === 0xf4 && bytes[i + 1] === 0x8f && (bytes[i + 2] === 0x9e || bytes[i + 2] === 0x9f);
    if (n > 0 && !isEscapeItself) {
      i += n;
      continue;
    }
    flush(i);
    const many = isEscapeItself ? 4 : 1;
    for (let k = 0; k < many; k++) out += String.fromCodePoint(ESCAPE_BASE + bytes[i + k]!);
    i += many;
    start = i;
  }
  flush(bytes.length);
  return out;
}

/** Path text back to the bytes the kernel knows. Text without escapes is plain UTF-8. */
export function toBytes(text: string): Uint8Array {
  if (!hasEscapes(text)) return new TextEncoder().encode(text);
  const parts: number[] = [];
  const encoder = new TextEncoder();
  for (const char of text) {
    const code = char.codePointAt(0)!;
    if (code >= FIRST_ESCAPE && code <= LAST_ESCAPE) parts.push(code - ESCAPE_BASE);
    else parts.push(...encoder.encode(char));
  }
  return Uint8Array.from(parts);
}

/** Whether the text stands for bytes that are not valid UTF-8. */
export function hasEscapes(text: string): boolean {
  return /[\u{10f780}-\u{10f7ff}]/u.test(text);
}

/**
 * The text as it may be shown: escaped bytes as `\xHH`, control characters as their pictures (U+2400 block), and
 * direction overrides removed, so that a name can neither break a line nor disguise its ending.
 */
export function shown(text: string): string {
  return text
    .replace(/[\u{10f780}-\u{10f7ff}]/gu, (c) => '\\x' + (c.codePointAt(0)! - ESCAPE_BASE).toString(16).toUpperCase())
    .replace(/[\u0000-\u001f\u007f]/g, (c) =>
      c === '\u007f' ? '\u2421' : String.fromCharCode(0x2400 + c.charCodeAt(0)),
    )
    .replace(/[\u202a-\u202e\u2066-\u2069]/g, '');
}
