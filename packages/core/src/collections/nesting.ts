/**
 * Collections nest as a directed graph without cycles: one may lie in many, none in itself. Nothing here limits the depth.
 */

/** `child` is a member of `parent`. */
export interface Edge {
  parent: string;
  child: string;
}

function reach(start: string, next: ReadonlyMap<string, string[]>): Set<string> {
  const met = new Set<string>();
  const open = [start];
  for (let at = open.pop(); at !== undefined; at = open.pop())
    for (const to of next.get(at) ?? [])
      if (!met.has(to)) {
        met.add(to);
        open.push(to);
      }
  return met;
}

function grouped(edges: readonly Edge[], from: keyof Edge, to: keyof Edge): Map<string, string[]> {
  const out = new Map<string, string[]>();
  for (const edge of edges) {
    const list = out.get(edge[from]);
    if (list) list.push(edge[to]);
    else out.set(edge[from], [edge[to]]);
  }
  return out;
}

/** All that lies in a collection at any depth; not itself. Linear in the edges; ends on cycles too. */
export function descendantsOf(edges: readonly Edge[], id: string): Set<string> {
  return reach(id, grouped(edges, 'parent', 'child'));
}

/** All collections that hold this one at any depth. */
export function ancestorsOf(edges: readonly Edge[], id: string): Set<string> {
  return reach(id, grouped(edges, 'child', 'parent'));
}

/** Whether `child` in `parent` would make a collection lie in itself. */
export function wouldCycle(edges: readonly Edge[], parent: string, child: string): boolean {
  return parent === child || descendantsOf(edges, child).has(parent);
}

/** The longest chain of collections below one, itself counted: 1 for one that holds no collection. No cycles assumed. */
export function depthOf(edges: readonly Edge[], id: string): number {
  const children = grouped(edges, 'parent', 'child');
  const known = new Map<string, number>();
  const depth = (at: string): number => {
    const have = known.get(at);
    if (have !== undefined) return have;
    const d = 1 + Math.max(0, ...(children.get(at) ?? []).map(depth));
    known.set(at, d);
    return d;
  };
  return depth(id);
}
