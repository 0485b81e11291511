/** In which order a collection shows its members. */

export interface MemberLike {
  /** Stays at the top whatever the order; those kept first stand among themselves in own order. */
  keepFirst: boolean;
}

/**
 * Members in the order asked for: those kept first in own order, then the rest by `compare`, equal ones in own order.
 * `members` come in own order; without `compare` that is kept. A new array; stable.
 */
export function orderMembers<T extends MemberLike>(
  members: readonly T[],
  compare?: (a: T, b: T) => number,
  descending = false,
): T[] {
  const first = members.filter((m) => m.keepFirst);
  const rest = members.filter((m) => !m.keepFirst);
  if (compare) rest.sort((a, b) => (descending ? compare(b, a) : compare(a, b)));
  return [...first, ...rest];
}
