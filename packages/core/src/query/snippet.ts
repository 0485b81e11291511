/** Some words around what was asked of a content, where case and accents differ. */
import { fold, foldWithMap } from '../match/index.js';

/** Letters kept before and after what was found. */
const AROUND = 40;

/**
 * The first line that holds the words of a text side by side, case and accents aside, cut to what is around them, each
 * word between « and »; undefined where no single line holds them. Cost: linear in the body.
 */
export function snippetOf(body: string, text: string): string | undefined {
  const words = fold(text).match(/[\p{L}\p{N}]+/gu);
  if (!words) return undefined;
  const phrase = new RegExp(`(?<![\\p{L}\\p{N}])${words.join('[^\\p{L}\\p{N}]+')}(?![\\p{L}\\p{N}])`, 'u');
  for (const line of body.split('\n')) {
    if (!phrase.test(fold(line))) continue;
    const { folded, map } = foldWithMap(line);
    const found = phrase.exec(folded);
    if (!found) continue;
    const [from, to] = [map[found.index]!, map[found.index + found[0].length]!];
    const marked = line.slice(from, to).replace(/[\p{L}\p{N}\p{M}]+/gu, (word) => `«${word}»`);
    const before = line.slice(Math.max(0, from - AROUND), from).replace(from > AROUND ? /^\S*\s/ : /^/, '');
    const after = line.slice(to, to + AROUND).replace(to + AROUND < line.length ? /\s\S*$/ : /$/, '');
    return `${before}${marked}${after}`.trim();
  }
  return undefined;
}
