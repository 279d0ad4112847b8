/** Dates and times as all pages write them: `29 Nov 2026`, `09:05`, `29 Nov 2026, 09:05`. */

const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
const TIME = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

const dateOf = (at: Date | string | number): Date => (at instanceof Date ? at : new Date(at));

export const dayText = (at: Date | string | number): string => DAY.format(dateOf(at));

export const timeText = (at: Date | string | number): string => TIME.format(dateOf(at));

export const dayAndTime = (at: Date | string | number): string => `${dayText(at)}, ${timeText(at)}`;

/** A date without a time of day (`2026-11-29`), whatever the time zone of who reads it. */
export function calendarDay(iso: string): string {
  const [year, month, day] = iso.slice(0, 10).split('-').map(Number);
  return Number.isNaN(Date.parse(iso)) ? iso : DAY.format(new Date(year!, month! - 1, day));
}
