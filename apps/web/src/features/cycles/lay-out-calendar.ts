import { addDays } from '@kindred-baton/core/time/calendar';
import { countDaysBetween } from '@kindred-baton/core/time/work-days';

interface CalendarBand {
  /** Shares of the width, 0 to 1. */
  readonly left: number;
  readonly width: number;
}

export interface CycleCalendar {
  readonly months: readonly { readonly label: string; readonly left: number }[];
  readonly today: number;
  readonly bandOf: (first: string, last: string) => CalendarBand;
}

const MONTH = new Intl.DateTimeFormat('en-GB', { month: 'short', timeZone: 'UTC' });
/** So many names of months stand beside one another at most. */
const MOST_MONTHS = 12;

/** One calendar for all spans: from the first of them to the last, today within it. */
export function layOutCalendar(spans: readonly { readonly first: string; readonly last: string }[], today: string): CycleCalendar {
  const first = spans.reduce((least, span) => (span.first < least ? span.first : least), today);
  const last = spans.reduce((most, span) => (span.last > most ? span.last : most), today);
  const days = countDaysBetween(first, last) + 1;
  const placeOf = (day: string) => countDaysBetween(first, day) / days;
  const starts: string[] = [];
  for (let day = firstOfNextMonth(first); day <= last; day = firstOfNextMonth(day)) starts.push(day);
  const step = Math.max(1, Math.ceil(starts.length / MOST_MONTHS));
  return {
    months: starts
      .filter((_, index) => index % step === 0)
      .map((day) => ({
        left: placeOf(day),
        label: `${MONTH.format(Date.parse(day))}${day.slice(5, 7) === '01' ? ` ${day.slice(0, 4)}` : ''}`,
      })),
    today: (countDaysBetween(first, today) + 0.5) / days,
    bandOf: (from, to) => ({ left: placeOf(from), width: (countDaysBetween(from, to) + 1) / days }),
  };
}

function firstOfNextMonth(day: string): string {
  return `${addDays(`${day.slice(0, 7)}-01`, 32).slice(0, 7)}-01`;
}
