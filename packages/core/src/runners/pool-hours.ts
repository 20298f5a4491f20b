import { addDays, getWeekday, toDay } from '../time/calendar.ts';

/** When a pool takes turns, by the clock of the programme: ISO weekdays (1 Monday), and minutes since midnight. */
export interface PoolHours {
  readonly days: readonly number[];
  readonly opensAt: number;
  readonly closesAt: number;
}

const DAY_MINUTES = 1_440;
const MINUTE_MS = 60_000;
/** Further ahead nothing is said. */
const MOST_DAYS = 400;

/** Always at work: no clock is asked. */
const isAlways = ({ days, opensAt, closesAt }: PoolHours): boolean => new Set(days).size === 7 && opensAt === 0 && closesAt === DAY_MINUTES;

/** Whether the pool takes turns at a moment. */
export function isPoolOpen(hours: PoolHours, atMs: number, timeZone: string): boolean {
  const { day, minute } = toWallClock(atMs, timeZone);
  return hours.days.includes(getWeekday(day)) && minute >= hours.opensAt && minute < hours.closesAt;
}

/**
 * The moment at which the pool has worked so many minutes from a moment on, in milliseconds since 1970; null when that lies more than a year ahead.
 * A turn that is under way when the pool closes is taken to go on when it opens again.
 */
export function addPoolMinutes(hours: PoolHours, fromMs: number, minutes: number, timeZone: string): number | null {
  if (isAlways(hours)) return fromMs + minutes * MINUTE_MS;
  let left = minutes;
  let { day, minute } = toWallClock(fromMs, timeZone);
  const seconds = (fromMs % MINUTE_MS) / MINUTE_MS;
  let from = minute + seconds;
  for (let ahead = 0; ahead < MOST_DAYS; ahead += 1) {
    if (hours.days.includes(getWeekday(day))) {
      const begin = Math.max(from, hours.opensAt);
      const room = hours.closesAt - begin;
      if (room > 0 && left <= room) return fromWallClock(day, begin + left, timeZone);
      left -= Math.max(0, room);
    }
    day = addDays(day, 1);
    from = 0;
    minute = 0;
  }
  return null;
}

/** How many minutes the pool works between two moments. */
export function countPoolMinutes(hours: PoolHours, fromMs: number, toMs: number, timeZone: string): number {
  if (toMs <= fromMs) return 0;
  if (isAlways(hours)) return (toMs - fromMs) / MINUTE_MS;
  const end = toWallClock(toMs, timeZone);
  let { day, minute } = toWallClock(fromMs, timeZone);
  let sum = 0;
  for (let ahead = 0; ahead < MOST_DAYS && day <= end.day; ahead += 1) {
    const until = day === end.day ? Math.min(hours.closesAt, end.minute) : hours.closesAt;
    if (hours.days.includes(getWeekday(day))) sum += Math.max(0, until - Math.max(minute, hours.opensAt));
    day = addDays(day, 1);
    minute = 0;
  }
  return sum;
}

const clocks = new Map<string, Intl.DateTimeFormat>();
function getClock(timeZone: string): Intl.DateTimeFormat {
  const known = clocks.get(timeZone);
  if (known) return known;
  const made = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
  clocks.set(timeZone, made);
  return made;
}

function toWallClock(atMs: number, timeZone: string): { day: string; minute: number } {
  const [hour = 0, minute = 0] = getClock(timeZone).format(atMs).split(':').map(Number);
  return { day: toDay(atMs, timeZone), minute: hour * 60 + minute };
}

/** The moment at which the clock of a zone shows this; in the hour that a change of the clocks skips, the one after it. */
function fromWallClock(day: string, minutes: number, timeZone: string): number {
  const wanted = Date.parse(`${day}T00:00:00Z`) + minutes * MINUTE_MS;
  let guess = wanted;
  for (let tries = 0; tries < 3; tries += 1) {
    const shown = toWallClock(guess, timeZone);
    const off = Date.parse(`${shown.day}T00:00:00Z`) + shown.minute * MINUTE_MS - Math.floor(wanted / MINUTE_MS) * MINUTE_MS;
    if (off === 0) break;
    guess -= off;
  }
  return guess;
}
