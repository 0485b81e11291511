/** The visual builder's rows and groups. They say what the tree says: to rows and back loses nothing. */
import { EVERYTHING, simplified, type Condition, type QueryNode } from './tree.js';

/** How the parts of a group count. "none" lets through what fulfils not one of them. */
export type GroupOf = 'all' | 'any' | 'none';

export interface Group {
  type: 'group';
  of: GroupOf;
  parts: (Group | QueryRow)[];
}

export interface QueryRow {
  type: 'row';
  /** What is not wanted. */
  not: boolean;
  condition: Condition;
}

export function rowsOf(tree: QueryNode): Group {
  const part = partOf(simplified(tree));
  return part.type === 'group' && part.of !== 'none' ? part : { type: 'group', of: 'all', parts: [part] };
}

function partOf(node: QueryNode): Group | QueryRow {
  switch (node.type) {
    case 'all':
    case 'any':
      return { type: 'group', of: node.type, parts: node.of.map(partOf) };
    case 'not': {
      const inner = node.of;
      // not any of them is none of them
      if (inner.type === 'any') return { type: 'group', of: 'none', parts: inner.of.map(partOf) };
      if (inner.type === 'all') return { type: 'group', of: 'none', parts: [partOf(inner)] };
      if (inner.type === 'not') return partOf(inner.of);
      return { type: 'row', not: true, condition: inner };
    }
    default:
      return { type: 'row', not: false, condition: node };
  }
}

export function treeOf(part: Group | QueryRow): QueryNode {
  if (part.type === 'row') return part.not ? { type: 'not', of: part.condition } : part.condition;
  // a group nobody has put anything into says nothing yet
  const of = part.parts.filter(holdsAny).map(treeOf);
  if (of.length === 0) return EVERYTHING;
  return simplified(part.of === 'none' ? { type: 'not', of: { type: 'any', of } } : { type: part.of, of });
}

const holdsAny = (part: Group | QueryRow): boolean => part.type === 'row' || part.parts.some(holdsAny);
