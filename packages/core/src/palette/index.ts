/** The colours that tags and collections may bear, by name; what each looks like is the page's business. */
export const PALETTE = ['spruce', 'saffron', 'brick', 'slate', 'heather', 'gorse', 'tide', 'peat'] as const;
export type PaletteColour = (typeof PALETTE)[number];

/** The colour used least so far, the first of those used equally; so that new tags tell apart. */
export function leastUsed(used: readonly string[]): PaletteColour {
  const count = (colour: string) => used.filter((u) => u === colour).length;
  return [...PALETTE].sort((a, b) => count(a) - count(b))[0]!;
}
