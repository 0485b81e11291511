/**
 * Whether a drawing would hold the browser up: SVG may use a part that uses a part …, so that a few lines ask for more
 * shapes than there are atoms. Source: from memory, after the “billion laughs” of XML.
 */
const MOST_SHAPES = 200_000;
const MOST_DEEP = 500;
/** How many parts may ask for one another in a row. */
const LONGEST_CHAIN = 2000;

const REFERENCE = /url\(\s*["']?#([^"')\s]+)/g;

/** `svg` is the drawing's text; one that is no XML is not heavy: it is not drawn at all. */
export function isHeavyDrawing(svg: string): boolean {
  const drawing = new DOMParser().parseFromString(svg, 'image/svg+xml');
  const byId = new Map<string, Element>();
  let level: Element[] = [drawing.documentElement];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > MOST_DEEP) return true;
    for (const element of level) if (element.id && !byId.has(element.id)) byId.set(element.id, element);
    level = level.flatMap((element) => [...element.children]);
  }
  const known = new Map<Element, number>();
  /** Shapes that an element and all it asks for come to; one that asks for itself is left out by the browser. */
  const shapes = (element: Element, chain: number): number => {
    if (chain > LONGEST_CHAIN) return Infinity;
    const before = known.get(element);
    if (before !== undefined) return before;
    known.set(element, 0);
    let sum = 1;
    for (const child of element.children) sum += shapes(child, chain + 1);
    for (const { name, value } of element.attributes) {
      const asked = /(^|:)href$/.test(name) ? [value.replace(/^\s*#/, '')] : referencesIn(value);
      for (const id of asked) {
        const other = byId.get(id);
        if (other) sum += shapes(other, chain + 1);
      }
    }
    known.set(element, sum);
    return sum;
  };
  const styles = [...drawing.querySelectorAll('style')].flatMap((style) => referencesIn(style.textContent ?? ''));
  // a style may stand for any shape
  const styled = styles.reduce((sum, id) => sum + (byId.has(id) ? shapes(byId.get(id)!, 0) : 0), 0);
  return shapes(drawing.documentElement, 0) * (1 + styled) > MOST_SHAPES;
}

const referencesIn = (text: string) => [...text.matchAll(REFERENCE)].map(([, id]) => id!);
