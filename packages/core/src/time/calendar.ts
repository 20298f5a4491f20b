/** Working days. Days are text, YYYY-MM-DD, without a time zone; weekdays are ISO 8601: 1 Monday to 7 Sunday. */
export interface WorkingCalendar {
  readonly workingDays: readonly number[];
  readonly holidays: readonly string[];
}

const DAY_MS = 86_400_000;

export function addDays(day: string, days: number): string {
  return new Date(Date.parse(`${day}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);
}

export function getWeekday(day: string): number {
  return new Date(`${day}T00:00:00Z`).getUTCDay() || 7;
}

export function isWorkingDay(day: string, calendar: WorkingCalendar): boolean {
  return calendar.workingDays.includes(getWeekday(day)) && !calendar.holidays.includes(day);
}

/** The working days from `first` to `last`, both included. Cost O(days). */
export function listWorkingDays(first: string, last: string, calendar: WorkingCalendar): string[] {
  const days: string[] = [];
  for (let day = first; day <= last; day = addDays(day, 1)) if (isWorkingDay(day, calendar)) days.push(day);
  return days;
}

/**
 * The day so many working days after (or before) a day; 0 is the day itself, working or not.
 * A calendar without any working day counts plain days.
 */
export function addWorkingDays(day: string, count: number, calendar: WorkingCalendar): string {
  if (calendar.workingDays.length === 0) return addDays(day, count);
  const step = Math.sign(count);
  let at = day;
  for (let left = Math.abs(count); left > 0;) {
    at = addDays(at, step);
    if (isWorkingDay(at, calendar)) left -= 1;
  }
  return at;
}

/** Making one takes a hundred times as long as using it. */
const dayFormats = new Map<string, Intl.DateTimeFormat>();

/** The calendar day of a moment in a time zone (IANA name). */
export function toDay(momentMs: number, timeZone: string): string {
  let format = dayFormats.get(timeZone);
  if (!format)
    dayFormats.set(timeZone, (format = new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' })));
  return format.format(momentMs);
}

/** The same as it stands on a document: 25 November 2026. The day is the programme's, not that of the machine that prints it. */
export function printDay(momentMs: number, timeZone: string): string {
  return new Intl.DateTimeFormat('en-GB', { timeZone, day: 'numeric', month: 'long', year: 'numeric' }).format(momentMs);
}

/** A moment as it stands on a document: 25 Nov 2026, 14:30. */
export function printMoment(momentMs: number, timeZone: string): string {
  return new Intl.DateTimeFormat('en-GB', { timeZone, dateStyle: 'medium', timeStyle: 'short' }).format(momentMs);
}
