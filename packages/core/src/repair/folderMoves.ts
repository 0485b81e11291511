/**
 * Which folders were moved, from what was lost and where something like it lies: the fewest rewrites of the front of a
 * path that explain most of them. Our own; greedy set cover (Chvátal 1979 for its bound, from memory).
 */

export interface LostPath {
  key: string;
  /** Names from the top down, the file's own last. What tells places apart comes first. */
  path: readonly string[];
  /** Where something that may be it lies, the likeliest first. */
  found: readonly (readonly string[])[];
}

export interface FolderMove {
  from: string[];
  to: string[];
  /** Which of the lost it explains, and by which of the places found for it. */
  explains: { key: string; found: number }[];
  /** How many of the lost lay in it. */
  of: number;
}

/** Fewer are no folder's move but a file's. */
const LEAST_EXPLAINED = 2;

const joined = (path: readonly string[]) => path.join('\0');
const isUnder = (path: readonly string[], folder: readonly string[]) =>
  path.length > folder.length && folder.every((name, i) => name === path[i]);

/**
 * Each lost one is explained by one move at most. Of two that explain equally many, the one whose folder is gone counts
 * more, then the higher folder. Cost: the candidates times their depth, for each move found.
 */
export function folderMoves(lost: readonly LostPath[], isGone: (folder: readonly string[]) => boolean): FolderMove[] {
  interface Rewrite {
    from: readonly string[];
    to: readonly string[];
    explains: Map<string, number>;
    gone: boolean;
  }
  const rewrites = new Map<string, Rewrite>();
  for (const { key, path, found } of lost)
    found.forEach((other, index) => {
      const most = Math.min(path.length, other.length) - 1;
      for (let n = 1; n <= most && path[path.length - n] === other[other.length - n]; n++) {
        const [from, to] = [path.slice(0, -n), other.slice(0, -n)];
        if (joined(from) === joined(to)) break;
        const id = `${joined(from)}\0\0${joined(to)}`;
        const rewrite = rewrites.get(id) ?? { from, to, explains: new Map<string, number>(), gone: isGone(from) };
        if (!rewrite.explains.has(key)) rewrite.explains.set(key, index);
        rewrites.set(id, rewrite);
      }
    });
  const left = new Set(lost.map((l) => l.key));
  const open = [...rewrites.values()];
  const moves: FolderMove[] = [];
  for (;;) {
    let best: Rewrite | undefined;
    let most = 0;
    for (const rewrite of open) {
      let n = 0;
      for (const key of rewrite.explains.keys()) if (left.has(key)) n++;
      if (n < LEAST_EXPLAINED || n < most) continue;
      if (n === most && best && !isBetter(rewrite, best)) continue;
      best = rewrite;
      most = n;
    }
    if (!best) return moves;
    const { from, to, explains } = best;
    moves.push({
      from: [...from],
      to: [...to],
      explains: [...explains].filter(([key]) => left.has(key)).map(([key, found]) => ({ key, found })),
      of: lost.filter((l) => isUnder(l.path, from)).length,
    });
    for (const key of explains.keys()) left.delete(key);
  }

  function isBetter(a: Rewrite, b: Rewrite): boolean {
    if (a.gone !== b.gone) return a.gone;
    if (a.from.length !== b.from.length) return a.from.length < b.from.length;
    return joined(a.to) < joined(b.to);
  }
}
