import { useState } from 'react';
import { useProgramme } from '../frame/programme-context.tsx';
import { countOf } from '../../ui/format.ts';
import type { PoolView } from './describe-queue.ts';
import { PoolDialog } from './pool-dialog.tsx';

export const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

/** A pool: when its runners take turns. */
export function PoolCard({ pool, runners }: { readonly pool: PoolView; readonly runners: number }) {
  const { can } = useProgramme();
  const [isEditing, setIsEditing] = useState(false);
  return (
    <section className="card flex items-start justify-between gap-2 px-4 py-3" aria-label={`Pool ${pool.name}`}>
      <div>
        <b>{pool.name}</b>
        <p className="text-[13px] text-soft">
          {countOf(runners, 'runner')}; {describeHours(pool)}
          {!pool.isOpen && ' (closed now)'}
        </p>
      </div>
      {can('run cycles') && (
        <button
          type="button"
          className="button button-quiet button-small"
          onClick={() => setIsEditing(true)}
          aria-label={`Change ${pool.name}`}
        >
          Change
        </button>
      )}
      {isEditing && <PoolDialog pool={pool} onClose={() => setIsEditing(false)} />}
    </section>
  );
}

/** always; or: Mon, Tue 20:00 to 24:00. */
export function describeHours({ days, opensAt, closesAt }: Pick<PoolView, 'days' | 'opensAt' | 'closesAt'>): string {
  const isAllDay = opensAt === 0 && closesAt === 1_440;
  if (isAllDay && days.length === 7) return 'takes turns always';
  const names = days.length === 7 ? 'every day' : days.map((day) => WEEKDAYS[day - 1]).join(', ');
  return `takes turns ${names}${isAllDay ? '' : `, ${toClock(opensAt)} to ${toClock(closesAt)}`}`;
}

export const toClock = (minutes: number) => `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
