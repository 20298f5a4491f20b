import type { RunnersView } from '@kindred-baton/contracts/runners/runner';

export type PoolView = RunnersView['pools'][number];

/** How many sessions a queue needs to end by a moment: the fewest of those that were tried; null: none of them does. */
export function findSessionsFor({ ends }: Pick<PoolView, 'ends'>, byMs: number): number | null {
  return [...ends].sort((a, b) => a.sessions - b.sessions).find(({ at }) => at !== null && Date.parse(at) <= byMs)?.sessions ?? null;
}

/** When all queues are through with the sessions that are there; null: nothing can be said. */
export function findEnd(pools: readonly PoolView[]): string | null {
  const ends = pools.filter(({ total, withPeople }) => total > withPeople).map((pool) => endWith(pool, pool.sessions));
  return ends.length === 0 || ends.includes(null)
    ? null
    : ends
        .map((end) => end!)
        .sort()
        .at(-1)!;
}

export const endWith = ({ ends }: Pick<PoolView, 'ends'>, sessions: number): string | null =>
  sessions === 0 ? null : (ends.find((tried) => tried.sessions === sessions)?.at ?? null);

/** 08:30, or Tue 08:30 on another day. */
export function formatClock(iso: string, nowIso: string, timeZone: string): string {
  const parts = (at: string) => {
    const format = new Intl.DateTimeFormat('en-GB', { timeZone, weekday: 'short', day: 'numeric', month: 'short' });
    return format.format(Date.parse(at)).replace(',', '');
  };
  const time = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(Date.parse(iso));
  const [day, today] = [parts(iso), parts(nowIso)];
  if (day === today) return time;
  const isSoon = Date.parse(iso) - Date.parse(nowIso) < 6 * 86_400_000;
  return `${isSoon ? day.slice(0, 3) : day} ${time}`;
}

/** What the times rest on: what is known, and what is guessed from what. */
export function describeKnown({ known, total }: Pick<PoolView, 'known' | 'total'>): string {
  if (known === total) return 'By the median of the last ten attempts of runners at each test.';
  if (known === 0)
    return 'All guessed: runners did none of these tests yet. By what was planned for people, and how much quicker runners were at other tests.';
  return `${known} of ${total} turns by the median of the last ten attempts of runners at their test; the others are guessed, by what was planned for people and how much quicker runners were.`;
}

/** Most of it is guessed. */
export const isGuessed = (pools: readonly PoolView[]): boolean =>
  2 * pools.reduce((sum, { known }) => sum + known, 0) < pools.reduce((sum, { total }) => sum + total, 0);
