import type { PoolView } from './describe-queue.ts';

export const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

/** always; or: Mon, Tue 20:00 to 24:00. */
export function describeHours({ days, opensAt, closesAt }: Pick<PoolView, 'days' | 'opensAt' | 'closesAt'>): string {
  const isAllDay = opensAt === 0 && closesAt === 1_440;
  if (isAllDay && days.length === 7) return 'takes turns always';
  const names = days.length === 7 ? 'every day' : days.map((day) => WEEKDAYS[day - 1]).join(', ');
  return `takes turns ${names}${isAllDay ? '' : `, ${toClock(opensAt)} to ${toClock(closesAt)}`}`;
}

export const toClock = (minutes: number) => `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
