/**
 * Letters for shortcuts (docs/models.md 3): the assignment of free keys to shortcuts in which what is opened most has
 * the letter one thinks of: the first of its name, the first of another word, any letter of it.
 */
import { assign } from '../assignment/index.js';
import { fold } from '../match/index.js';

export interface KeyCandidate {
  id: string;
  name: string;
  /** Openings a week. */
  rate: number;
  /** Seconds an opening takes by its best route now. */
  seconds: number;
}

/** How well a letter stands for a name, 0 to 1 (our own scale; mnemonic keys are common practice). */
export function mnemonicFit(letter: string, name: string): number {
  const words = fold(name)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
  if (words[0]?.startsWith(letter)) return 1;
  if (words.slice(1).some((word) => word.startsWith(letter))) return 0.7;
  return words.some((word) => word.includes(letter)) ? 0.35 : 0;
}

/** A key that is free: its letter, as it is kept ("alt+shift+t"), and seconds to press it. */
export interface FreeKey {
  letter: string;
  keys: string;
  seconds: number;
}

export interface KeyChoice {
  id: string;
  key: FreeKey;
  fit: number;
}

/**
 * Who gets which of the free keys: the sum of fit × rate × seconds saved is greatest. Who would save nothing, or has no
 * letter of its own among them, gets none. O(keys² · things).
 */
export function assignKeys(things: readonly KeyCandidate[], free: readonly FreeKey[]): KeyChoice[] {
  const gain = (key: FreeKey, thing: KeyCandidate) =>
    mnemonicFit(key.letter, thing.name) * thing.rate * Math.max(0, thing.seconds - key.seconds);
  // as many columns that mean "nobody" as there are keys
  const columns = things.length + free.length;
  const costs = new Float64Array(free.length * columns);
  free.forEach((key, row) => things.forEach((thing, column) => (costs[row * columns + column] = -gain(key, thing))));
  const chosen = assign(free.length, columns, costs);
  return [...(chosen ?? [])].flatMap((column, row) => {
    const thing = things[column];
    const key = free[row]!;
    if (!thing || gain(key, thing) <= 0) return [];
    return [{ id: thing.id, key, fit: mnemonicFit(key.letter, thing.name) }];
  });
}
