import { useState } from 'react';
import { useProgramme } from '../frame/programme-context.tsx';
import { countOf } from '../../ui/format.ts';
import type { PoolView } from './describe-queue.ts';
import { findSessionsFor, formatClock } from './describe-queue.ts';

const SHOWN = 5;
const HOUR_MS = 3_600_000;

/** The other way round: by when it is to be done, and how many sessions that takes. */
export function NeededSessions({ pool, now }: { readonly pool: PoolView; readonly now: string }) {
  const { timeZone } = useProgramme();
  const [by, setBy] = useState(() => toLocalInput(Date.parse(now) + HOUR_MS));
  if (pool.total === 0) return null;
  const byMs = Date.parse(by);
  const needed = Number.isNaN(byMs) ? null : findSessionsFor(pool, byMs);
  const shown = pickAround(pool, needed ?? pool.sessions);
  const last = Math.max(byMs || 0, ...shown.map(({ at }) => Date.parse(at ?? now)));
  const share = (ms: number) => Math.max(2, Math.min(100, (100 * (ms - Date.parse(now))) / Math.max(1, last - Date.parse(now))));
  return (
    <section className="card px-4 py-3" aria-label={`Sessions that ${pool.name} needs`}>
      <h2 className="flex flex-wrap items-center gap-2 text-[15px]!">
        <label className="flex flex-wrap items-center gap-2 font-normal">
          To be done by
          <input type="datetime-local" className="field" value={by} onChange={(event) => setBy(event.target.value)} />
        </label>
        <span>{describeNeed(needed, pool)}</span>
      </h2>
      <ul className="mt-2 grid gap-1.5 text-[13px]">
        {shown.map(({ sessions, at }) => (
          <li key={sessions} className="grid grid-cols-[84px_1fr_auto] items-center gap-2">
            <span className={sessions === needed ? 'font-bold' : ''}>{countOf(sessions, 'session')}</span>
            <span
              className={`block h-[10px] rounded-full ${sessions === needed ? 'bg-ink' : 'bg-line'}`}
              style={{ width: `${at === null ? 100 : share(Date.parse(at))}%` }}
            />
            <span className={sessions === needed ? 'font-bold' : 'text-soft'}>
              {at === null ? 'in more than a year' : formatClock(at, now, timeZone)}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-2 border-t border-line-2 pt-2 text-[13px] text-soft">
        {pool.sessions === 0
          ? 'None is at work now.'
          : `${countOf(pool.sessions, 'session')} ${pool.sessions === 1 ? 'is' : 'are'} at work now.`}
        {pool.soonest !== null &&
          ` No number of them is through before ${formatClock(pool.soonest, now, timeZone)}: so long is the longest chain.`}
        {pool.withPeople > 0 &&
          ` ${countOf(pool.withPeople, 'turn')} behind what failed, is blocked or is with people ${pool.withPeople === 1 ? 'is' : 'are'} not counted.`}
      </p>
    </section>
  );
}

function describeNeed(needed: number | null, { ends }: PoolView): string {
  if (needed !== null) return `you need ${countOf(needed, 'session')}`;
  return `no number up to ${Math.max(...ends.map(({ sessions }) => sessions))} is enough`;
}

function pickAround({ ends }: PoolView, middle: number): PoolView['ends'] {
  const at = Math.max(0, ends.findIndex(({ sessions }) => sessions >= middle) - 2);
  return ends.slice(at, at + SHOWN);
}

/** As a field for day and time takes it, by the clock of this browser. */
function toLocalInput(ms: number): string {
  const at = new Date(ms - new Date(ms).getTimezoneOffset() * 60_000);
  return at.toISOString().slice(0, 16);
}
