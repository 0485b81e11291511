/** Markdown as a tree of what may be shown: no scripts, no frames, no forms, nothing that deserves more than a look. */
import type { Nodes, Root } from 'hast';
import rehypeSanitize from 'rehype-sanitize';
import remarkGfm from 'remark-gfm';
import remarkParse from 'remark-parse';
import remarkRehype from 'remark-rehype';
import { unified } from 'unified';

/** No text that was written to be read goes deeper, or on for longer; a browser is held up by what does. */
const MOST_DEEP = 100;
const MOST_NODES = 50_000;

const reader = unified().use(remarkParse).use(remarkGfm).use(remarkRehype).use(rehypeSanitize).freeze();

/**
 * Throws where the text is beyond what can be shown. Takes as long as its worst places ask for, which grows with the
 * square of their length: only where it can be given up.
 */
export function markdownTree(text: string): Root {
  const tree = reader.runSync(reader.parse(text)) as Root;
  let count = 0;
  for (let level: Nodes[] = [tree], depth = 0; level.length > 0; depth++) {
    count += level.length;
    if (depth > MOST_DEEP || count > MOST_NODES) throw new RangeError('more than can be shown');
    level = level.flatMap((node) => ('children' in node ? node.children : []));
  }
  return tree;
}
