/** UTF-8 bytes as the code units of a string: a piece to look for, letter by letter of what the names are kept in. */
const ASCII = /^[\x00-\x7f]*$/;

export function toByteText(text: string): string {
  if (ASCII.test(text)) return text;
  let out = '';
  for (const char of text) {
    const c = char.codePointAt(0)!;
    if (c < 0x80) out += char;
    else if (c < 0x800) out += String.fromCharCode(0xc0 | (c >> 6), 0x80 | (c & 63));
    else if (c < 0x10000) out += String.fromCharCode(0xe0 | (c >> 12), 0x80 | ((c >> 6) & 63), 0x80 | (c & 63));
    else out += String.fromCharCode(0xf0 | (c >> 18), 0x80 | ((c >> 12) & 63), 0x80 | ((c >> 6) & 63), 0x80 | (c & 63));
  }
  return out;
}

export function fromByteText(bytes: string): string {
  if (ASCII.test(bytes)) return bytes;
  let out = '';
  for (let i = 0; i < bytes.length;) {
    const b = bytes.charCodeAt(i);
    const next = (k: number) => bytes.charCodeAt(i + k) & 63;
    if (b < 0x80) {
      out += bytes[i];
      i += 1;
    } else if (b < 0xe0) {
      out += String.fromCharCode(((b & 31) << 6) | next(1));
      i += 2;
    } else if (b < 0xf0) {
      out += String.fromCharCode(((b & 15) << 12) | (next(1) << 6) | next(2));
      i += 3;
    } else {
      out += String.fromCodePoint(((b & 7) << 18) | (next(1) << 12) | (next(2) << 6) | next(3));
      i += 4;
    }
  }
  return out;
}
