/**
 * Collections nest as a directed graph without cycles: one may lie in many, none in itself. Nothing here limits the
 * depth.
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

function childrenOf(edges: readonly Edge[]): Map<string, string[]> {
  const out = new Map<string, string[]>();
  for (const { parent, child } of edges) {
    const list = out.get(parent);
    if (list) list.push(child);
    else out.set(parent, [child]);
  }
  return out;
}

/** All that lies in a collection at any depth; not itself. Linear in the edges; ends on cycles too. */
export function descendantsOf(edges: readonly Edge[], id: string): Set<string> {
  return reach(id, childrenOf(edges));
}

/** Whether `child` in `parent` would make a collection lie in itself. */
export function wouldCycle(edges: readonly Edge[], parent: string, child: string): boolean {
  return parent === child || descendantsOf(edges, child).has(parent);
}
