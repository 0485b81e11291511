/**
 * Acts as data: each act is the list of rows it changed, with what stood before and after. From that the inverse
 * follows, and a later change to the same field is noticed before an undo would trample on it.
 */
export type JournaledRow = Record<string, unknown>;

/** One row's change: added (`before` null), removed (`after` null), or the changed fields only on both sides. */
export interface Change {
  table: string;
  id: string;
  before: JournaledRow | null;
  after: JournaledRow | null;
}

/** Field by field equality of JSON values; key order does not matter. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (a == null || b == null) return a == null && b == null;
  if (typeof a !== 'object' || typeof b !== 'object') return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
  for (const key of keys) if (!sameValue((a as JournaledRow)[key], (b as JournaledRow)[key])) return false;
  return true;
}

/** What changed between two versions of a row, or `undefined` where nothing did. */
export function changeOf(
  table: string,
  id: string,
  before: JournaledRow | null,
  after: JournaledRow | null,
): Change | undefined {
  if (!before || !after) return before || after ? { table, id, before, after } : undefined;
  const from: JournaledRow = {};
  const to: JournaledRow = {};
  for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
    if (sameValue(before[key], after[key])) continue;
    from[key] = before[key] ?? null;
    to[key] = after[key] ?? null;
  }
  return Object.keys(to).length > 0 ? { table, id, before: from, after: to } : undefined;
}

/** The changes that take these back, last first. `invert(invert(x))` equals `x`. */
export function invert(changes: readonly Change[]): Change[] {
  return [...changes].reverse().map(({ table, id, before, after }) => ({ table, id, before: after, after: before }));
}

/** Why a change cannot be applied to the row as it stands now. */
export type Conflict =
  | { kind: 'row-missing'; table: string; id: string }
  | { kind: 'row-exists'; table: string; id: string }
  | { kind: 'field-changed-since'; table: string; id: string; field: string };

/** Checks that `current` is what the change starts from; only the fields it touches count. */
export function conflictOf(change: Change, current: JournaledRow | undefined): Conflict | undefined {
  const { table, id, before } = change;
  if (before === null) return current ? { kind: 'row-exists', table, id } : undefined;
  if (!current) return { kind: 'row-missing', table, id };
  for (const [field, value] of Object.entries(before))
    if (!sameValue(current[field], value)) return { kind: 'field-changed-since', table, id, field };
  return undefined;
}
