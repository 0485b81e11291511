/**
 * Globs over whole names: `*`, `?`, `[a-z]`, `[!a-z]`, `{a,b}` and `\` before any of them. Not by a regular expression:
 * the matcher steps back only to the last star, so that no pattern takes longer than pattern × name.
 */
import { fold } from '../match/index.js';

type Piece =
  | { type: 'text'; text: string }
  | { type: 'any' }
  | { type: 'star' }
  | { type: 'set'; not: boolean; ranges: [string, string][] };

/** More alternatives than this by braces are refused. */
export const MOST_ALTERNATIVES = 64;

/** Longer patterns are refused: a name has 255 bytes. */
export const LONGEST_GLOB = 500;

export type GlobResult = { ok: true; alternatives: Piece[][] } | { ok: false; at: number; reason: string };

/** Whether a text holds any sign of a glob. */
export const isGlob = (text: string) => /[*?[{]/.test(text);

/** The braces of a pattern multiplied out; nested ones too. */
function expand(pattern: string): string[] | undefined {
  const open = indexOfUnescaped(pattern, '{', 0);
  if (open < 0) return [pattern];
  let depth = 0;
  const cuts: number[] = [];
  for (let i = open; i < pattern.length; i++) {
    const c = pattern[i];
    if (c === '\\') i++;
    else if (c === '{') depth++;
    else if (c === ',' && depth === 1) cuts.push(i);
    else if (c === '}' && --depth === 0) {
      const edges = [open, ...cuts, i];
      const out: string[] = [];
      for (let k = 0; k + 1 < edges.length; k++) {
        const rest = expand(pattern.slice(0, open) + pattern.slice(edges[k]! + 1, edges[k + 1]) + pattern.slice(i + 1));
        if (!rest || out.length + rest.length > MOST_ALTERNATIVES) return undefined;
        out.push(...rest);
      }
      return out;
    }
  }
  // a brace without its fellow is a brace
  return expand(`${pattern.slice(0, open)}\\{${pattern.slice(open + 1)}`);
}

function indexOfUnescaped(text: string, sign: string, from: number): number {
  for (let i = from; i < text.length; i++) {
    if (text[i] === '\\') i++;
    else if (text[i] === sign) return i;
  }
  return -1;
}

function pieces(pattern: string): Piece[] {
  const out: Piece[] = [];
  const chars = [...pattern];
  const text = (c: string) => {
    const last = out[out.length - 1];
    if (last?.type === 'text') last.text += c;
    else out.push({ type: 'text', text: c });
  };
  // where one bracket is never closed, none behind it is
  let closes = true;
  for (let i = 0; i < chars.length; i++) {
    const c = chars[i]!;
    if (c === '\\' && i + 1 < chars.length) text(chars[++i]!);
    else if (c === '*') {
      if (out[out.length - 1]?.type !== 'star') out.push({ type: 'star' });
    } else if (c === '?') out.push({ type: 'any' });
    else if (c === '[') {
      const set: ReturnType<typeof readSet> = closes ? readSet(chars, i) : undefined;
      closes = set !== undefined;
      if (set) {
        out.push(set.piece);
        i = set.end;
      } else text(c);
    } else text(c);
  }
  return out.map((p) => (p.type === 'text' ? { ...p, text: fold(p.text) } : p));
}

/**
 * `[…]` from its bracket on; undefined where it never ends. A `]` right at the beginning is one of the set (POSIX
 * 2.13.1).
 */
function readSet(chars: string[], from: number): { piece: Piece; end: number } | undefined {
  let i = from + 1;
  const not = chars[i] === '!' || chars[i] === '^';
  if (not) i++;
  const ranges: [string, string][] = [];
  for (let first = true; i < chars.length; i++, first = false) {
    let c = chars[i]!;
    if (c === ']' && !first) return { piece: { type: 'set', not, ranges }, end: i };
    if (c === '\\' && i + 1 < chars.length) c = chars[++i]!;
    if (chars[i + 1] === '-' && i + 2 < chars.length && chars[i + 2] !== ']') {
      ranges.push([c.toLowerCase(), chars[i + 2]!.toLowerCase()]);
      i += 2;
    } else ranges.push([c.toLowerCase(), c.toLowerCase()]);
  }
  return undefined;
}

export function parseGlob(pattern: string): GlobResult {
  if (pattern.length > LONGEST_GLOB)
    return { ok: false, at: LONGEST_GLOB, reason: `it has more than ${LONGEST_GLOB} characters` };
  const alternatives = expand(pattern);
  if (!alternatives) return { ok: false, at: 0, reason: `the braces make more than ${MOST_ALTERNATIVES} patterns` };
  return { ok: true, alternatives: alternatives.map(pieces) };
}

/** A test over folded names. Cost: pattern × name at worst. */
export function globTest(pattern: string): (folded: string) => boolean {
  const parsed = parseGlob(pattern);
  if (!parsed.ok) return () => false;
  const tests = parsed.alternatives.map(testOf);
  return (folded) => tests.some((test) => test(folded));
}

function testOf(glob: Piece[]): (folded: string) => boolean {
  // one sign at a time, so that a star gives back one at a time
  const units = glob.flatMap((p): Piece[] =>
    p.type === 'text' ? [...p.text].map((text) => ({ type: 'text', text })) : [p],
  );
  const one = (p: Piece, c: string) =>
    p.type === 'any' ||
    (p.type === 'text' ? p.text === c : p.type === 'set' && p.ranges.some(([a, b]) => a <= c && c <= b) !== p.not);
  return (folded) => {
    const name = [...folded];
    let [p, n, star, back] = [0, 0, -1, 0];
    while (n < name.length) {
      const piece = units[p];
      if (piece?.type === 'star') {
        star = p++;
        back = n;
      } else if (piece && one(piece, name[n]!)) {
        p++;
        n++;
      } else if (star >= 0) {
        p = star + 1;
        n = ++back;
      } else return false;
    }
    while (units[p]?.type === 'star') p++;
    return p === units.length;
  };
}

/**
 * The same over the bytes of a folded name from `from` up to `to`; undefined where the name is not plain ASCII, of
 * which a sign is no byte. Several times quicker than making a text of each of a million names.
 */
export function globBytesTest(pattern: string): (bytes: Uint8Array, from: number, to: number) => boolean | undefined {
  const parsed = parseGlob(pattern);
  if (!parsed.ok) return () => false;
  const tests = parsed.alternatives.map(bytesTestOf);
  return (bytes, from, to) => {
    for (const test of tests) {
      const fits = test(bytes, from, to);
      if (fits !== false) return fits;
    }
    return false;
  };
}

function bytesTestOf(glob: Piece[]): (bytes: Uint8Array, from: number, to: number) => boolean | undefined {
  // of each sign which bytes it lets through; none for a star
  const units: (Uint8Array | null)[] = glob.flatMap((p): (Uint8Array | null)[] => {
    if (p.type === 'star') return [null];
    const signs = p.type === 'text' ? [...p.text] : [''];
    return signs.map((sign) =>
      Uint8Array.from({ length: 128 }, (_, code) => {
        const c = String.fromCharCode(code);
        if (p.type === 'any') return 1;
        if (p.type === 'text') return Number(c === sign);
        return Number(p.type === 'set' && p.ranges.some(([a, b]) => a <= c && c <= b) !== p.not);
      }),
    );
  });
  return (bytes, from, to) => {
    let [p, n, star, back] = [0, from, -1, from];
    while (n < to) {
      const code = bytes[n]!;
      if (code > 127) return undefined;
      const unit = units[p];
      if (unit === null) {
        star = p++;
        back = n;
      } else if (unit !== undefined && unit[code] === 1) {
        p++;
        n++;
      } else if (star >= 0) {
        p = star + 1;
        n = ++back;
      } else {
        // what is left may hold what is no byte: then it is not for us to say
        for (let i = n; i < to; i++) if (bytes[i]! > 127) return undefined;
        return false;
      }
    }
    while (units[p] === null) p++;
    return p === units.length;
  };
}

/** A text that every name let through by one alternative of a glob holds, its longest. */
export interface GlobNeedle {
  /** Folded; empty where the alternative has none. */
  text: string;
  /** The name ends with it. */
  atEnd: boolean;
  /** The alternative is no more than that: whatever ends so, or holds it between two stars, is let through. */
  isAll: boolean;
}

/** One needle an alternative: a name that holds none of them need not be tested. */
export function globNeedles(pattern: string): GlobNeedle[] {
  const parsed = parseGlob(pattern);
  if (!parsed.ok) return [];
  return parsed.alternatives.map((pieces) => {
    const last = pieces[pieces.length - 1];
    // an end is found quickest, being followed by nothing
    if (last?.type === 'text')
      return { text: last.text, atEnd: true, isAll: pieces.length === 2 && pieces[0]!.type === 'star' };
    let text = '';
    for (const piece of pieces) if (piece.type === 'text' && piece.text.length > text.length) text = piece.text;
    const isAll =
      pieces.length === 3 && pieces[0]!.type === 'star' && pieces[1]!.type === 'text' && last?.type === 'star';
    return { text, atEnd: false, isAll };
  });
}

const REGEX_SIGNS = /[.*+?^${}()|[\]\\]/g;
const escaped = (text: string) => text.replace(REGEX_SIGNS, '\\$&');

/** The same as a regular expression of PostgreSQL (ARE) over folded names. */
export function globRegex(pattern: string): string {
  const parsed = parseGlob(pattern);
  if (!parsed.ok) return '(?!)';
  const one = (p: Piece): string => {
    switch (p.type) {
      case 'text':
        return escaped(p.text);
      case 'any':
        return '.';
      case 'star':
        return '.*';
      case 'set': {
        const signs = p.ranges.flatMap(([a, b]) =>
          a > b ? [] : [a === b ? classSign(a) : `${classSign(a)}-${classSign(b)}`],
        );
        // an empty set matches nothing, its opposite anything
        if (signs.length === 0) return p.not ? '.' : '(?!)';
        return `[${p.not ? '^' : ''}${signs.join('')}]`;
      }
    }
  };
  return `^(?:${parsed.alternatives.map((pieces) => pieces.map(one).join('')).join('|')})$`;
}

const classSign = (c: string) => (/[\]\\^[-]/.test(c) ? `\\${c}` : c);
