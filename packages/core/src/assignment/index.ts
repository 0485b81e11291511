/**
 * The assignment problem: each row gets a column of its own so that the sum of costs is least. Shortest augmenting
 * paths with potentials (Kuhn 1955, Munkres 1957, Jonker and Volgenant 1987; from memory).
 */

/**
 * The column of each row; there must be at least as many columns as rows. `costs` holds them row by row, finite, or
 * `Infinity` where a pair is not allowed. `undefined` where not every row can have an allowed column. O(rows² ·
 * columns).
 */
export function assign(rows: number, columns: number, costs: Float64Array): Int32Array | undefined {
  if (rows > columns) return undefined;
  // potentials, matched row of each column and the path back; index 0 stands for "none"
  const u = new Float64Array(rows + 1);
  const v = new Float64Array(columns + 1);
  const rowOf = new Int32Array(columns + 1);
  const back = new Int32Array(columns + 1);
  const least = new Float64Array(columns + 1);
  const used = new Uint8Array(columns + 1);
  for (let row = 1; row <= rows; row++) {
    rowOf[0] = row;
    let column = 0;
    least.fill(Infinity);
    used.fill(0);
    do {
      used[column] = 1;
      const from = rowOf[column]!;
      const before = (from - 1) * columns - 1;
      const potential = u[from]!;
      let delta = Infinity;
      let next = 0;
      for (let j = 1; j <= columns; j++) {
        if (used[j] === 1) continue;
        const reduced = costs[before + j]! - potential - v[j]!;
        if (reduced < least[j]!) {
          least[j] = reduced;
          back[j] = column;
        }
        if (least[j]! < delta) {
          delta = least[j]!;
          next = j;
        }
      }
      if (delta === Infinity) return undefined;
      for (let j = 0; j <= columns; j++)
        if (used[j] === 1) {
          u[rowOf[j]!]! += delta;
          v[j]! -= delta;
        } else least[j]! -= delta;
      column = next;
    } while (rowOf[column] !== 0);
    for (; column !== 0; column = back[column]!) rowOf[column] = rowOf[back[column]!]!;
  }
  const out = new Int32Array(rows).fill(-1);
  for (let j = 1; j <= columns; j++) if (rowOf[j] !== 0) out[rowOf[j]! - 1] = j - 1;
  return out;
}
