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
