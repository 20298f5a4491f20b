import type { WorkingTime } from '../../time/working-time.ts';
import { DAY_MINUTES, countWorkBefore } from '../../time/working-time.ts';

/** The minutes that a piece of work takes of each day, by day from the plan's first. Cost O(days of the work × log windows). */
export function spreadOverDays(time: WorkingTime, start: number, end: number): { day: number; minutes: number }[] {
  const days: { day: number; minutes: number }[] = [];
  for (let day = Math.floor(start / DAY_MINUTES); day * DAY_MINUTES < end; day += 1) {
    const from = Math.max(start, day * DAY_MINUTES);
    const to = Math.min(end, (day + 1) * DAY_MINUTES);
    const minutes = countWorkBefore(time, to) - countWorkBefore(time, from);
    if (minutes > 0) days.push({ day, minutes });
  }
  return days;
}
