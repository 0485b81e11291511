/** Dates as they stand in lists: today's by time, this year's by day and month, others with the year. */
const time = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' });
const dayYear = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
const full = new Intl.DateTimeFormat('en-GB', { dateStyle: 'full', timeStyle: 'short' });

export function shortDate(at: number | string, now = new Date()): string {
  const date = new Date(at);
  if (date.toDateString() === now.toDateString()) return `today ${time.format(date)}`;
  return (date.getFullYear() === now.getFullYear() ? day : dayYear).format(date);
}

/** How long ago, in the words people use. */
export function ago(at: string, now = new Date()): string {
  const date = new Date(at);
  const days = Math.round((new Date(now).setHours(0, 0, 0, 0) - new Date(date).setHours(0, 0, 0, 0)) / 86_400_000);
  if (days <= 0) return time.format(date);
  if (days === 1) return 'yesterday';
  if (days < 7) return date.toLocaleDateString('en-GB', { weekday: 'long' });
  return shortDate(at, now);
}

/** "2 Sep". */
export const monthDay = (at: Date) => day.format(at);

export const fullDate = (at: number | string) => full.format(new Date(at));

/** The end of a working set, which is the first moment after its last day. */
export function untilWords(end: string, now = new Date()): string {
  const last = new Date(Date.parse(end) - 1);
  return last.toDateString() === now.toDateString() ? 'until tonight' : `until ${shortDate(last.getTime(), now)}`;
}
