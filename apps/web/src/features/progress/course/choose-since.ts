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
