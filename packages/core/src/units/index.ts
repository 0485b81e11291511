/** Sizes and times as people read them. Sizes are SI (1 kB = 1000 B), IEC 80000-13. */

/**
 * A number of one unit; the unit stands in its type only. Plain numbers are taken for any, one unit never for another.
 */
type Of<Unit extends string> = number & { readonly __unit?: Unit };

export type Bytes = Of<'byte'>;
export type Seconds = Of<'second'>;
/** A point in time: milliseconds since 1970-01-01 UTC. */
export type EpochMs = Of<'millisecond since 1970'>;

const PREFIXES = ['B', 'kB', 'MB', 'GB', 'TB', 'PB'];

/** "0 B", "41 kB", "1.2 MB": one decimal below ten of a unit, none above. `bytes` ≥ 0. */
export function formatBytes(bytes: Bytes): string {
  let value = bytes;
  let unit = 0;
  // from 999.5 on it would be rounded to four figures
  while (unit < PREFIXES.length - 1 && value >= (unit === 0 ? 1000 : 999.5)) {
    value /= 1000;
    unit++;
  }
  const digits = unit > 0 && Math.round(value * 10) / 10 < 10 ? 1 : 0;
  return `${value.toFixed(digits).replace(/\.0$/, '')} ${PREFIXES[unit]}`;
}

/** Seconds with one decimal: "1.6 s". */
export function formatSeconds(seconds: Seconds): string {
  return `${seconds.toFixed(1)} s`;
}

/** A longer time: "57 s", "7 min 01 s"; whole seconds. */
export function formatMinutes(seconds: Seconds): string {
  const whole = Math.round(seconds);
  const minutes = Math.floor(whole / 60);
  return minutes === 0 ? `${whole} s` : `${minutes} min ${String(whole % 60).padStart(2, '0')} s`;
}

/** "1 step", "3 steps". */
export function formatSteps(steps: number): string {
  return `${steps} ${steps === 1 ? 'step' : 'steps'}`;
}

/** Natural order: "file 2" before "file 10", case and accents aside first, code units last so that it is total. */
const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
export function compareNatural(a: string, b: string): number {
  return collator.compare(a, b) || (a < b ? -1 : a > b ? 1 : 0);
}
