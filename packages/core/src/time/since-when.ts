import { addWorkingDays, toDay } from './calendar.ts';
import { countDaysBetween } from './work-days.ts';

const WEEKDAYS = { workingDays: [1, 2, 3, 4, 5], holidays: [] };
const [MINUTE_MS, DAY_MS] = [60_000, 86_400_000];

/** The same minute of the last working day before today, as an ISO moment; `nowMs` in epoch milliseconds. */
export function getLastWorkingDay(nowMs: number, timeZone: string): string {
  const today = toDay(nowMs, timeZone);
  const days = countDaysBetween(addWorkingDays(today, -1, WEEKDAYS), today);
  return new Date(Math.floor(nowMs / MINUTE_MS) * MINUTE_MS - days * DAY_MS).toISOString();
}
