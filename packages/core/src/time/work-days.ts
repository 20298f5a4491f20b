import type { WorkingCalendar } from './calendar.ts';
import { addDays, isWorkingDay } from './calendar.ts';

export interface Hours extends WorkingCalendar {
  readonly hoursPerDay: number;
}

export interface Absence {
  readonly firstDay: string;
  readonly lastDay: string;
}

/** When a day's work begins: all are taken to begin at nine. */
export const DAY_BEGINS = 9 * 60;

/** The minutes that somebody works on each of so many days from the first: none on free days, holidays and days of absence. Cost O(days). */
export function listWorkMinutes(firstDay: string, days: number, hours: Hours, absences: readonly Absence[] = []): number[] {
  const minutes = Math.min(Math.round(hours.hoursPerDay * 60), 24 * 60 - DAY_BEGINS);
  return Array.from({ length: days }, (_, index) => {
    const day = addDays(firstDay, index);
    const isAway = absences.some((absence) => absence.firstDay <= day && day <= absence.lastDay);
    return !isAway && isWorkingDay(day, hours) ? minutes : 0;
  });
}

/** Whole days from one day to another. */
export function countDaysBetween(from: string, to: string): number {
  return Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);
}
