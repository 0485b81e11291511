/** Sizes and times as they are written in a query. */
import { NAMED_TIMES, type NamedTime, type TimeWord } from './tree.js';

/** SI prefixes are powers of 1000, binary ones of 1024 (IEC 80000-13); a bare number is bytes. */
const UNITS: Record<string, number> = {
  '': 1,
  b: 1,
  kb: 1e3,
  mb: 1e6,
  gb: 1e9,
  tb: 1e12,
  k: 1e3,
  m: 1e6,
  g: 1e9,
  t: 1e12,
  kib: 1024,
  mib: 1024 ** 2,
  gib: 1024 ** 3,
  tib: 1024 ** 4,
};

/** "10MB", "1.5 GiB", "300": bytes, rounded; undefined where it is none. */
export function parseSize(text: string): number | undefined {
  const match = /^(\d{1,16}(?:\.\d{1,6})?)\s*([a-z]*)$/i.exec(text.trim());
  const unit = match ? UNITS[match[2]!.toLowerCase()] : undefined;
  if (!match || unit === undefined) return undefined;
  const bytes = Math.round(Number(match[1]) * unit);
  return bytes <= Number.MAX_SAFE_INTEGER ? bytes : undefined;
}

const WRITTEN: [string, number][] = [
  ['TB', 1e12],
  ['TiB', 1024 ** 4],
  ['GB', 1e9],
  ['GiB', 1024 ** 3],
  ['MB', 1e6],
  ['MiB', 1024 ** 2],
  ['kB', 1e3],
  ['KiB', 1024],
];

/** The shortest writing that reads back to the same bytes. */
export function writeSize(bytes: number): string {
  for (const [unit, factor] of WRITTEN) if (bytes > 0 && bytes % factor === 0) return `${bytes / factor}${unit}`;
  return String(bytes);
}

const isDay = (year: number, month: number, day: number) => {
  const date = new Date(Date.UTC(year, month - 1, day));
  return date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
};

/** "2026", "2026-05", "2026-05-03", "7d", "3w", "today"; undefined where it is none, or no day there is. */
export function parseTime(text: string): TimeWord | undefined {
  const word = text.trim().toLowerCase();
  if ((NAMED_TIMES as readonly string[]).includes(word)) return { type: 'named', name: word as NamedTime };
  const ago = /^(\d{1,4})([dwmy])$/.exec(word);
  if (ago) return { type: 'ago', count: Number(ago[1]), unit: ago[2] as 'd' };
  const date = /^(\d{4})(?:-(\d{2})(?:-(\d{2}))?)?$/.exec(word);
  if (!date) return undefined;
  const [year, month, day] = [Number(date[1]), date[2] ? Number(date[2]) : null, date[3] ? Number(date[3]) : null];
  if (year < 1 || (month !== null && !isDay(year, month, day ?? 1))) return undefined;
  return { type: 'date', year, month, day };
}

const two = (n: number) => String(n).padStart(2, '0');

export function writeTime(word: TimeWord): string {
  switch (word.type) {
    case 'named':
      return word.name;
    case 'ago':
      return `${word.count}${word.unit}`;
    case 'date': {
      const { year, month, day } = word;
      const parts = [String(year).padStart(4, '0'), ...(month === null ? [] : [two(month)])];
      return [...parts, ...(day === null ? [] : [two(day)])].join('-');
    }
  }
}
