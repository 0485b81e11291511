/** Folding for comparison: Unicode NFKD, marks dropped, full lower case. */

const MARKS = /\p{M}+/gu;

/** The folded text. ASCII takes a short way; otherwise cost is linear with a normalisation. */
export function fold(text: string): string {
  if (/^[\x00-\x7f]*$/.test(text)) return text.toLowerCase();
  return text.normalize('NFKD').replace(MARKS, '').toLowerCase().replaceAll('ß', 'ss').replaceAll('ς', 'σ');
}

/** The folded text, and for each of its code units the index in the original it came from (plus one past the end). */
export function foldWithMap(text: string): { folded: string; map: number[] } {
  let folded = '';
  const map: number[] = [];
  let at = 0;
  for (const char of text) {
    const piece = fold(char);
    for (let i = 0; i < piece.length; i++) map.push(at);
    folded += piece;
    at += char.length;
  }
  map.push(text.length);
  return { folded, map };
}
