/**
 * Makes a probability hold: a logistic map of its log-odds (Platt 1999), kept up to date with each outcome by one step
 * of stochastic gradient, so that it follows a person whose habits change. From memory.
 */
export class Calibration {
  private slope = 1;
  private shift = 0;

  of(raw: number): number {
    return logistic(this.slope * logOdds(raw) + this.shift);
  }

  /** It was asked, and then it was so or not. */
  learn(raw: number, was: boolean): void {
    const off = (was ? 1 : 0) - this.of(raw);
    this.slope = Math.max(LEAST_SLOPE, this.slope + SLOPE_STEP * off * logOdds(raw));
    this.shift += SHIFT_STEP * off;
  }
}

const SHIFT_STEP = 0.1;
const SLOPE_STEP = 0.02;
/** A likelier one stays the likelier. */
const LEAST_SLOPE = 0.2;
const LEAST = 1e-4;

const logOdds = (p: number) => Math.log(Math.max(LEAST, p) / Math.max(LEAST, 1 - p));
const logistic = (x: number) => 1 / (1 + Math.exp(-x));
