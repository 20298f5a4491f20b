const LOCALE = 'en-GB';
const MINUTE_MS = 60_000;
const HOUR_MS = 60 * MINUTE_MS;

const part = (options: Intl.DateTimeFormatOptions) => {
  const cache = new Map<string, Intl.DateTimeFormat>();
  return (value: number, timeZone: string) => {
    let format = cache.get(timeZone);
    if (!format) cache.set(timeZone, (format = new Intl.DateTimeFormat(LOCALE, { ...options, timeZone })));
    return format.format(value).replace(',', '');
  };
};

const dayPart = part({ weekday: 'short', day: 'numeric', month: 'short' });
const timePart = part({ hour: '2-digit', minute: '2-digit', hour12: false });
const wholePart = part({
  weekday: 'long',
  day: 'numeric',
  month: 'long',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  hour12: false,
});

/** Tue 10 Nov */
export function formatDay(day: string): string {
  return dayPart(Date.parse(`${day}T12:00:00Z`), 'UTC');
}

/** 2 Nov to Fri 20 Nov */
export function formatSpan(first: string, last: string): string {
  return `${formatDay(first)} to ${formatDay(last)}`;
}

/** Just now, 10 min ago, Tue 14:20, Tue 10 Nov: as people say it. */
export function formatMoment(iso: string, timeZone: string, nowMs: number): string {
  const ms = Date.parse(iso);
  const ago = nowMs - ms;
  if (ago < MINUTE_MS) return 'just now';
  if (ago < HOUR_MS) return `${Math.floor(ago / MINUTE_MS)} min ago`;
  const day = dayPart(ms, timeZone);
  if (day === dayPart(nowMs, timeZone)) return `today ${timePart(ms, timeZone)}`;
  if (ago < 6 * 24 * HOUR_MS) return `${day.slice(0, 3)} ${timePart(ms, timeZone)}`;
  return day;
}

export function formatWhole(iso: string, timeZone: string): string {
  return wholePart(Date.parse(iso), timeZone);
}

/** today, tomorrow, 2 days late, Thu 12 Nov */
export function formatDue(day: string, today: string): string {
  const days = Math.round((Date.parse(day) - Date.parse(today)) / (24 * HOUR_MS));
  if (days === 0) return 'due today';
  if (days === 1) return 'due tomorrow';
  if (days < 0) return days === -1 ? 'due yesterday' : `due ${formatDay(day)}, ${-days} days ago`;
  return `due ${formatDay(day)}`;
}

/** 2 days, 5 h, 20 min: how long something has lasted. */
export function formatLasting(iso: string, nowMs: number): string {
  const minutes = Math.max(0, Math.round((nowMs - Date.parse(iso)) / MINUTE_MS));
  if (minutes < 60) return `${minutes} min`;
  const hours = Math.round(minutes / 60);
  if (hours < 24) return `${hours} h`;
  const days = Math.round(hours / 24);
  return `${days} ${days === 1 ? 'day' : 'days'}`;
}

/** 45 min, 2 h 30 */
export function formatMinutes(minutes: number): string {
  if (minutes < 60) return `${minutes} min`;
  const rest = minutes % 60;
  return rest === 0 ? `${Math.floor(minutes / 60)} h` : `${Math.floor(minutes / 60)} h ${String(rest).padStart(2, '0')}`;
}

/** A share as a percentage; – where there is none, never 0 or 100 by default. */
export function formatShare(share: number | null, decimals = 0): string {
  if (share === null) return '–';
  // 99.96 is not 100: rounding never says that all is done when it is not.
  const factor = 10 ** decimals;
  const percent = share * 100;
  const rounded = Math.round(percent * factor) / factor;
  const honest = rounded >= 100 && share < 1 ? 100 - 1 / factor : rounded <= 0 && share > 0 ? 1 / factor : rounded;
  return `${honest.toFixed(decimals)}%`;
}

export function countOf(count: number, one: string, many = `${one}s`): string {
  return `${count.toLocaleString('en')} ${count === 1 ? one : many}`;
}

/** “Billing, Stores and Finance”. */
export const listNames = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

export function toInitials(name: string): string {
  const words = name.split(/\s+/).filter((word) => word !== '');
  return `${words[0]?.[0] ?? ''}${words.length > 1 ? (words.at(-1)?.[0] ?? '') : ''}`.toUpperCase();
}

/** The programme's today, as the browser's clock has it. */
export function getToday(timeZone: string, nowMs: number): string {
  return new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(nowMs);
}
