const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const DAY_MS = 86_400_000;

/** Today as YYYY-MM-DD. */
export const today = (): string => new Date().toISOString().slice(0, 10);

export const addDays = (day: string, days: number): string => new Date(Date.parse(day) + days * DAY_MS).toISOString().slice(0, 10);

/** A day as the suite shows it: 7 Mar 2026. */
export function printDay(day: string): string {
  const [year = '', month = '', date = ''] = day.split('-');
  return day === '' ? '' : `${Number(date)} ${MONTHS[Number(month) - 1] ?? ''} ${year}`;
}

/** A day as it is typed, 2026-03-07, 7 Mar 2026 or 07.03.2026; undefined where it is none. */
export function readDay(typed: string): string | undefined {
  const text = typed.trim();
  const named = /^(\d{1,2}) ([A-Za-z]{3})[a-z]* (\d{4})$/.exec(text);
  const dotted = /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/.exec(text);
  const month = named ? MONTHS.findIndex((name) => name.toLowerCase() === named[2]?.toLowerCase()) + 1 : Number(dotted?.[2] ?? 0);
  const found = named ?? dotted;
  const iso = found ? `${found[3]}-${String(month).padStart(2, '0')}-${(found[1] ?? '').padStart(2, '0')}` : text;
  return /^\d{4}-\d{2}-\d{2}$/.test(iso) && !Number.isNaN(Date.parse(iso)) && new Date(Date.parse(iso)).toISOString().startsWith(iso)
    ? iso
    : undefined;
}
