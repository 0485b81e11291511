/** The fewest characters that bring an item into the first three answers, found over its own fragments (models.md 2). */
import { queryWords, type Finder } from './finder.js';

export interface FewestCharacters {
  characters: number;
  rank: 1 | 2 | 3;
  typed: string;
}

/**
 * Tries the starts of the name, the starts of its words and the initials of its words, shortest first, up to `most`
 * characters. `undefined` where none does (two items of one name, say). Cost: at most a few dozen searches; `known` keeps
 * the first three of each text over several calls, since items share their first letters. It is good until the finder
 * changes.
 */
export function fewestCharacters(
  finder: Finder,
  id: string,
  most = 10,
  known: Map<string, string[]> = new Map(),
): FewestCharacters | undefined {
  const item = finder.get(id);
  if (!item) return undefined;
  const words = queryWords(item.name.replace(/[^\p{L}\p{N}]+/gu, ' '));
  if (words.length === 0) return undefined;
  const whole = words.join(' ');
  const initials = words.map((word) => word[0]).join('');
  for (let n = 1; n <= most; n++) {
    const tries = new Set<string>();
    if (n <= whole.length && whole[n - 1] !== ' ') tries.add(whole.slice(0, n));
    for (const word of words) if (n <= word.length) tries.add(word.slice(0, n));
    if (n > 1 && n <= initials.length) tries.add(initials.slice(0, n));
    for (const typed of tries) {
      let first = known.get(typed);
      if (!first) known.set(typed, (first = finder.search(typed, 3).map((answer) => answer.id)));
      const place = first.indexOf(id);
      if (place >= 0) return { characters: n, rank: (place + 1) as 1 | 2 | 3, typed };
    }
  }
  return undefined;
}
