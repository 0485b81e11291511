/**
 * The operators of the Keystroke-Level Model (Card, Moran and Newell 1980, from memory), pointing by Fitts' law in
 * Shannon form (MacKenzie 1992), choosing in a menu (Cockburn, Gutwin and Greenberg 2007, from memory).
 * Every figure Rellin shows comes from this one table; seconds unless said otherwise.
 */
export interface ReachConstants {
  /** One key press, average typist. */
  K: number;
  /** Pointing where distance and width are not known. */
  P: number;
  /** Pressing or releasing a mouse button. */
  B: number;
  /** Hand between keyboard and pointer. */
  H: number;
  /** Making up one's mind. */
  M: number;
  /** Fitts' law `a + b·log2(D/W + 1)`: intercept, seconds. */
  fittsA: number;
  /** Fitts' law: seconds a bit. */
  fittsB: number;
  /** Choosing in a list whose order one does not know: `searchA + searchB·n`. */
  searchA: number;
  searchB: number;
  /** Choosing in a list one knows: `knownA + knownB·log2(1/p)`. */
  knownA: number;
  knownB: number;
  /** Uses after which half of the choosing is by memory. */
  practiceHalf: number;
}

export const REACH_CONSTANTS: ReachConstants = {
  K: 0.28,
  P: 1.1,
  B: 0.1,
  H: 0.4,
  M: 1.35,
  fittsA: 0.1,
  fittsB: 0.15,
  searchA: 0.3,
  searchB: 0.08,
  knownA: 0.24,
  knownB: 0.08,
  practiceHalf: 8,
};

/** What each constant stands for, in words. */
export const REACH_WORDS: Record<keyof ReachConstants, string> = {
  K: 'K, one key press',
  P: 'P, pointing, distance unknown',
  B: 'B, mouse button down or up',
  H: 'H, hand to the other device',
  M: 'M, making up one’s mind',
  fittsA: 'a, pointing, fixed part',
  fittsB: 'b, pointing, for each bit',
  searchA: 'Searching a list, fixed part',
  searchB: 'Searching a list, for each entry',
  knownA: 'Choosing in a known list, fixed part',
  knownB: 'Choosing in a known list, for each bit',
  practiceHalf: 'Uses that make half an expert',
};

/** Where each constant comes from, shown beside it in Settings. */
export const REACH_SOURCES: Record<keyof ReachConstants, string> = {
  K: 'Card, Moran and Newell 1980, average typist (from memory)',
  P: 'Card, Moran and Newell 1980 (from memory)',
  B: 'Card, Moran and Newell 1980 (from memory)',
  H: 'Card, Moran and Newell 1980 (from memory)',
  M: 'Card, Moran and Newell 1980 (from memory)',
  fittsA: 'Shannon form, MacKenzie 1992; value common practice for a mouse',
  fittsB: 'Shannon form, MacKenzie 1992; value common practice for a mouse',
  searchA: 'Cockburn, Gutwin and Greenberg 2007 (from memory)',
  searchB: 'Cockburn, Gutwin and Greenberg 2007 (from memory)',
  knownA: 'Cockburn, Gutwin and Greenberg 2007 (from memory)',
  knownB: 'Cockburn, Gutwin and Greenberg 2007 (from memory)',
  practiceHalf: 'our own choice: eight uses make half an expert',
};
