/** The members of a list by a key, each group in the list's order. */
export function grouped<T, K>(list: Iterable<T>, key: (one: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const one of list) {
    const k = key(one);
    const group = groups.get(k);
    if (group) group.push(one);
    else groups.set(k, [one]);
  }
  return groups;
}

/**
 * A list in pieces of a size, the last as long as is left.
 *
 * @example piecesOf([1, 2, 3], 2) // [[1, 2], [3]]
 */
export function piecesOf<T>(list: readonly T[], size: number): T[][] {
  return Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));
}
