/** What a file's name is made of, as far as it tells where the file belongs. */
import { fold } from '../match/index.js';

export interface NameParts {
  /** Without its ending, folded. */
  stem: string;
  /** The ending, with what stands before a packing's: "csv", "1.gz". */
  ending: string;
  /** Letters, digits and months folded to classes: "tides-may-2026.csv" is "w-m-9999.csv". */
  shape: string;
  /** Character 3-grams of the stem between its bounds, digits folded to one. */
  grams: string[];
  /** Of two characters and more. */
  words: string[];
  /** The letters or digits that it begins with. */
  first: string;
}

const PACKED = /^(gz|xz|bz2|zst|bak|orig|old|in)$/;
const LONGEST_INNER = 5;
const MONTH = /(?<![a-z])(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]{0,6}(?![a-z])/g;
const MONTH_MARK = '\u0001';
const BETWEEN_WORDS = /[^\p{L}\p{N}]+|(?<=\p{L})(?=\p{N})|(?<=\p{N})(?=\p{L})/u;

export const wordsOf = (folded: string): string[] => [
  ...new Set(folded.split(BETWEEN_WORDS).filter((word) => word.length > 1)),
];

function cutAt(folded: string): number {
  const dot = folded.lastIndexOf('.');
  if (dot <= 0) return folded.length;
  if (!PACKED.test(folded.slice(dot + 1))) return dot;
  const inner = folded.lastIndexOf('.', dot - 1);
  return inner > 0 && dot - inner - 1 <= LONGEST_INNER ? inner : dot;
}

/** Linear in the name. @example nameParts('Tides-May-2026.csv').shape // 'w-m-9999.csv' */
export function nameParts(name: string): NameParts {
  const folded = fold(name);
  const cut = cutAt(folded);
  const stem = folded.slice(0, cut);
  const ending = folded.slice(cut + 1);
  const marked = stem.replace(MONTH, MONTH_MARK);
  const classes = marked
    .replace(/[0-9]+/g, (digits) => (digits.length >= 4 ? '9999' : '9'))
    .replace(/\p{L}{3,}/gu, 'w')
    .replaceAll(MONTH_MARK, 'm');
  return {
    stem,
    ending,
    shape: `${classes}.${ending}`,
    grams: gramsOf(`^${marked.replace(/[0-9]/g, '0')}$`),
    words: wordsOf(stem),
    first: /^(\p{L}+|\p{N}+)/u.exec(stem)?.[0] ?? '',
  };
}

function gramsOf(text: string): string[] {
  const grams = new Set<string>();
  for (let i = 0; i + 3 <= text.length; i++) grams.add(text.slice(i, i + 3));
  return grams.size > 0 ? [...grams] : [text];
}
