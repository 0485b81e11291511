/** Where keys lead within a list of which one item is current. */

const PAGE = 10;

/** The index that a key goes to; undefined for a key that does not move. `at` is -1 where none is current yet. */
export function listMove(key: string, at: number, count: number): number | undefined {
  const last = count - 1;
  const to: Record<string, number> = {
    ArrowDown: Math.min(last, at + 1),
    ArrowUp: Math.max(0, at - 1),
    Home: 0,
    End: last,
    PageDown: Math.min(last, at + PAGE),
    PageUp: Math.max(0, at - PAGE),
  };
  return to[key];
}
