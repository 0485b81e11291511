/** Jaro–Winkler similarity of names (Winkler 1990): how alike two spellings are, for record linkage. */

/** Letters in front that count more, at most. */
const PREFIX = 4;
const PREFIX_WEIGHT = 0.1;

/** 0 (nothing in common) to 1 (equal), by code units. O(|a|·|b|). */
export function jaroWinkler(a: string, b: string): number {
  if (a === b) return 1;
  if (a === '' || b === '') return 0;
  const reach = Math.max(0, Math.floor(Math.max(a.length, b.length) / 2) - 1);
  const taken = new Array<boolean>(b.length).fill(false);
  const matchedA: string[] = [];
  for (let i = 0; i < a.length; i++)
    for (let k = Math.max(0, i - reach); k < Math.min(b.length, i + reach + 1); k++)
      if (!taken[k] && a[i] === b[k]) {
        taken[k] = true;
        matchedA.push(a[i]!);
        break;
      }
  const n = matchedA.length;
  if (n === 0) return 0;
  const matchedB =
    [...b].length === b.length ? [...b].filter((_, k) => taken[k]) : b.split('').filter((_, k) => taken[k]);
  const transposed = matchedA.filter((letter, i) => letter !== matchedB[i]).length / 2;
  const jaro = (n / a.length + n / b.length + (n - transposed) / n) / 3;
  let prefix = 0;
  while (prefix < PREFIX && a[prefix] !== undefined && a[prefix] === b[prefix]) prefix++;
  return jaro + prefix * PREFIX_WEIGHT * (1 - jaro);
}
