/** In which order the names of one folder can be changed so that none is written over. No I/O. */

export interface Rename {
  from: string;
  to: string;
}

export type RenameSteps =
  /** `index`: of the rename that a step belongs to; a step to a name of its own is one half of it. */
  | { kind: 'steps'; steps: (Rename & { index: number })[] }
  /** Indexes of renames whose new name is taken, by what stays there or by another rename. */
  | { kind: 'clashes'; indexes: number[] };

/**
 * Renames of things in one folder that holds `there`, as steps each of which goes onto a name that is free by then.
 * Chains are gone through from their end; in a ring one thing steps aside first, under the name that `aside` gives
 * (free, and used once). What keeps its name takes no step. Every `from` is to be in `there`, once. O(n).
 *
 *     renameSteps([{ from: 'a', to: 'b' }, { from: 'b', to: 'a' }], new Set(['a', 'b']), () => 'x')
 *     // steps: a → x, b → a, x → b
 *
 * Source: common practice (parallel assignment of variables is ordered the same way).
 */
export function renameSteps(
  renames: readonly Rename[],
  there: ReadonlySet<string>,
  aside: (index: number) => string,
): RenameSteps {
  const leaving = new Set(renames.map((r) => r.from));
  const coming = new Map<string, number>();
  for (const { to } of renames) coming.set(to, (coming.get(to) ?? 0) + 1);
  const clashes = renames.flatMap(({ to }, i) =>
    (there.has(to) && !leaving.has(to)) || coming.get(to)! > 1 ? [i] : [],
  );
  if (clashes.length > 0) return { kind: 'clashes', indexes: clashes };

  const byFrom = new Map(renames.map((r, index) => [r.from, { ...r, index }]));
  const steps: (Rename & { index: number })[] = [];
  const isDone = new Set<number>();
  for (const [first, { from, to }] of renames.entries()) {
    if (isDone.has(first) || from === to) continue;
    // forward to the end of the chain, or round the ring
    const chain = [{ from, to, index: first }];
    isDone.add(first);
    for (
      let next = byFrom.get(to);
      next && !isDone.has(next.index) && next.from !== next.to;
      next = byFrom.get(next.to)
    ) {
      chain.push(next);
      isDone.add(next.index);
    }
    const isRing = chain.at(-1)!.to === from;
    if (!isRing) {
      steps.push(...chain.reverse());
      continue;
    }
    const away = aside(first);
    steps.push({ from, to: away, index: first });
    steps.push(...chain.slice(1).reverse());
    steps.push({ from: away, to, index: first });
  }
  return { kind: 'steps', steps };
}
