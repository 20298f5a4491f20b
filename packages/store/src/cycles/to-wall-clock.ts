import { toDay } from '@kindred-baton/core/time/calendar';

/** A moment by the wall clock of a time zone: its day, and the minutes since midnight. */
export function toWallClock(now: Date, timeZone: string): { day: string; minute: number } {
  const [hour = 0, minute = 0] = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' })
    .format(now)
    .split(':')
    .map(Number);
  return { day: toDay(now.getTime(), timeZone), minute: hour * 60 + minute };
}
