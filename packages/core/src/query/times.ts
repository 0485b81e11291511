/** From a stretch of time in words to instants, in the person's own calendar. */
import type { Condition, TimeWord } from './tree.js';

/** The person's time zone, as far as days go. */
export interface Zone {
  /** The first instant of a day, epoch milliseconds. Months from 1; a day beyond a month's end is one of the next. */
  startOf(year: number, month: number, day: number): number;
  /** The day an instant lies in; weekdays from 1, Monday (ISO 8601). */
  dayOf(instant: number): { year: number; month: number; day: number; weekday: number };
}

/** The zone of this machine. */
export const SYSTEM_ZONE: Zone = {
  startOf: (year, month, day) => {
    const date = new Date(2000, 0, 1);
    date.setFullYear(year, month - 1, day);
    date.setHours(0, 0, 0, 0);
    return date.getTime();
  },
  dayOf: (instant) => {
    const date = new Date(instant);
    return {
      year: date.getFullYear(),
      month: date.getMonth() + 1,
      day: date.getDate(),
      weekday: date.getDay() === 0 ? 7 : date.getDay(),
    };
  },
};

/** Half-open: from the first instant to the one after the last; null where it is open. */
export interface Span {
  from: number | null;
  to: number | null;
}

/** The stretch a word means at an instant. "7d" is from seven days ago on, with no end. */
export function spanOf(word: TimeWord, now: number, zone: Zone): { from: number; to: number | null } {
  const { year, month, day, weekday } = zone.dayOf(now);
  const at = (y: number, m: number, d: number) => zone.startOf(y, m, d);
  switch (word.type) {
    case 'date':
      if (word.month === null) return { from: at(word.year, 1, 1), to: at(word.year + 1, 1, 1) };
      if (word.day === null) return { from: at(word.year, word.month, 1), to: at(word.year, word.month + 1, 1) };
      return { from: at(word.year, word.month, word.day), to: at(word.year, word.month, word.day + 1) };
    case 'ago': {
      // days are those of the calendar: seven days ago is the same day's beginning also where the clocks changed
      // between
      const { count } = word;
      switch (word.unit) {
        case 'd':
          return { from: at(year, month, day - count), to: null };
        case 'w':
          return { from: at(year, month, day - 7 * count), to: null };
        case 'm':
          return { from: monthsAgo(year, month, day, count, zone), to: null };
        case 'y':
          return { from: monthsAgo(year, month, day, 12 * count, zone), to: null };
      }
      break;
    }
    case 'named':
      switch (word.name) {
        case 'today':
          return { from: at(year, month, day), to: at(year, month, day + 1) };
        case 'yesterday':
          return { from: at(year, month, day - 1), to: at(year, month, day) };
        case 'this-week':
          return { from: at(year, month, day - weekday + 1), to: at(year, month, day - weekday + 8) };
        case 'last-week':
          return { from: at(year, month, day - weekday - 6), to: at(year, month, day - weekday + 1) };
        case 'this-month':
          return { from: at(year, month, 1), to: at(year, month + 1, 1) };
        case 'last-month':
          return { from: at(year, month - 1, 1), to: at(year, month, 1) };
        case 'this-year':
          return { from: at(year, 1, 1), to: at(year + 1, 1, 1) };
        case 'last-year':
          return { from: at(year - 1, 1, 1), to: at(year, 1, 1) };
      }
  }
}

/** The same day of an earlier month, or that month's last where it is shorter. */
function monthsAgo(year: number, month: number, day: number, count: number, zone: Zone): number {
  const index = year * 12 + (month - 1) - count;
  const [y, m] = [Math.floor(index / 12), (((index % 12) + 12) % 12) + 1];
  const last = new Date(Date.UTC(y, m, 0)).getUTCDate();
  return zone.startOf(y, m, Math.min(day, last));
}

/** The instants that a condition on a time lets through. */
export function boundsOf(
  condition: Extract<Condition, { type: 'time' | 'time-range' }>,
  now: number,
  zone: Zone,
): Span {
  if (condition.type === 'time-range') {
    const end = condition.to && spanOf(condition.to, now, zone);
    // a day is in until its end; “until seven days ago” ends when they begin
    return { from: condition.from && spanOf(condition.from, now, zone).from, to: end && (end.to ?? end.from) };
  }
  const { from, to } = spanOf(condition.word, now, zone);
  switch (condition.op) {
    case ':':
      return { from, to };
    case '<':
      return { from: null, to: from };
    case '<=':
      return { from: null, to };
    case '>=':
      return { from, to: null };
    case '>':
      // later than a day is from the next one on; later than seven days ago is from then on
      return { from: to ?? from, to: null };
  }
}
