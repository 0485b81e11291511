/** A straight line through points by least squares (Gauss; common practice). */

export interface Point {
  x: number;
  y: number;
}

export interface Line {
  intercept: number;
  slope: number;
  /** Share of the scatter of y that the line explains, 0 to 1. */
  explained: number;
  /** Standard deviation of what is left, in the unit of y. */
  scatter: number;
}

/** The line of least squares; `undefined` where all x are the same or there are fewer than two points. O(n). */
export function leastSquares(points: readonly Point[]): Line | undefined {
  const n = points.length;
  const mean = (of: (p: Point) => number) => points.reduce((sum, p) => sum + of(p), 0) / n;
  const [mx, my] = [mean((p) => p.x), mean((p) => p.y)];
  // about the means, so that nothing is lost where x is large
  const xx = points.reduce((sum, p) => sum + (p.x - mx) ** 2, 0);
  if (n < 2 || xx === 0) return undefined;
  const slope = points.reduce((sum, p) => sum + (p.x - mx) * (p.y - my), 0) / xx;
  const intercept = my - slope * mx;
  const left = points.reduce((sum, p) => sum + (p.y - intercept - slope * p.x) ** 2, 0);
  const yy = points.reduce((sum, p) => sum + (p.y - my) ** 2, 0);
  return {
    intercept,
    slope,
    explained: yy === 0 ? 1 : Math.max(0, 1 - left / yy),
    scatter: Math.sqrt(left / n),
  };
}

/** The middle value; of an even number the mean of the two in the middle. Not of none. */
export function medianOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

/**
 * The points whose y is no more than three times the middle one: who looked away in between did not do what is
 * measured.
 */
export function withoutPauses(points: readonly Point[]): Point[] {
  if (points.length === 0) return [];
  const most = 3 * medianOf(points.map((p) => p.y));
  return points.filter((p) => p.y <= most);
}
