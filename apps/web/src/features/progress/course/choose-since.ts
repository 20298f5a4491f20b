import { addWorkingDays } from '@kindred-baton/core/time/calendar';
import { countDaysBetween } from '@kindred-baton/core/time/work-days';
import { getToday } from '../../../ui/format.ts';

const WEEKDAYS = { workingDays: [1, 2, 3, 4, 5], holidays: [] };
const [MINUTE_MS, DAY_MS] = [60_000, 86_400_000];

/** The same minute of the last working day before today. */
export function getLastWorkingDay(nowMs: number, timeZone: string): string {
  const today = getToday(timeZone, nowMs);
  const days = countDaysBetween(addWorkingDays(today, -1, WEEKDAYS), today);
  return new Date(Math.floor(nowMs / MINUTE_MS) * MINUTE_MS - days * DAY_MS).toISOString();
}

/** When a day of a time zone begins: midnight by its clock. */
export function getStartOfDay(day: string, timeZone: string): string {
  const midnight = Date.parse(`${day}T00:00:00Z`);
  // By how much its clock is ahead there, then.
  const ahead = Date.parse(`${new Date(midnight).toLocaleString('sv-SE', { timeZone }).replace(' ', 'T')}Z`) - midnight;
  return new Date(midnight - ahead).toISOString();
}

const toKey = (base: string) => `kindred-baton-last-seen:${base}`;

/** When this browser was here last; null: it does not know. */
export function readLastVisit(base: string): string | null {
  const kept = localStorage.getItem(toKey(base));
  return kept !== null && !Number.isNaN(Date.parse(kept)) ? new Date(kept).toISOString() : null;
}

export const keepVisit = (base: string, nowMs: number): void => localStorage.setItem(toKey(base), new Date(nowMs).toISOString());
